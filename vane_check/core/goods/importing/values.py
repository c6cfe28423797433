"""One cell of a list read as what it means. Each reader takes what was typed and raises ValueError with what to enter."""

import re
from datetime import date, datetime

from ...battery.label import Chemistry, RatingScale, Use
from ...tables import currencies, entry_limits
from ...units.model import printable
from ...words import NOTHING, Words, digits, in_a_row, listed, say, word

MM_PER = {"mm": 1.0, "cm": 10.0, "in": 25.4}
_YES = {"yes", "y", "1", "true", "ja", "j", "x", "oui", "si", "sí"}
_NO = {"no", "n", "0", "false", "nein", "non", "", "-"}
_CHEMISTRY = {
    "flooded": "flooded", "wet": "flooded", "nass": "flooded", "standard": "flooded", "sli": "flooded", "hybrid": "hybrid",
    "low-maintenance": "hybrid", "low maintenance": "hybrid", "calcium": "calcium", "ca": "calcium", "ca/ca": "calcium",
    "efb": "efb", "afb": "efb", "agm": "agm", "vrla": "agm", "gel": "gel",
}  # fmt: skip
_SIDES = {"left": "left", "l": "left", "links": "left", "right": "right", "r": "right", "rechts": "right"}
_POSTS = {"top", "pencil", "side", "stud", "tab"}
_LEDGES = {"none", "long", "all"}


CELL_SIGNS_AT_MOST = 2000
NUMBER_SIGNS_AT_MOST = 40
CURRENCY_SIGNS = re.compile(rf"[€$£¥]|(?i:(?<![a-z])(?:{'|'.join(currencies())})(?![a-z]))")
WHOLE_CENT = 1e-6


def one_line(cell: str) -> str:
    """A cell as a form would take it: on one line, of signs that can be printed. Raises ValueError for any other."""
    if len(cell) > CELL_SIGNS_AT_MOST:
        raise ValueError(say("values.longer_than_signs", cell_signs_at_most=CELL_SIGNS_AT_MOST))
    try:
        return printable(cell)
    except ValueError as error:
        raise ValueError(say("values.there_is_a_line_break_in_it_or_a_sign_that")) from error


def text(cell: str) -> str:
    """A text without the spaces around it, at most 120 signs."""
    if len(cell) > 120:
        raise ValueError(say("values.longer_than_120_signs"))
    return cell


def number(cell: str) -> float | None:
    """A number with a point or a comma; empty is unknown.

    >>> number("1.234,5"), number("1,234.5"), number("7,5"), number("")
    (1234.5, 1234.5, 7.5, None)
    """
    plain = re.sub(r"[\s\u00a0']", "", cell)
    if not plain:
        return None
    if "," in plain and "." in plain:
        comma_last = plain.rfind(",") > plain.rfind(".")
        plain = plain.replace(".", "").replace(",", ".") if comma_last else plain.replace(",", "")
    else:
        plain = plain.replace(",", ".")
    if len(plain) > NUMBER_SIGNS_AT_MOST:
        raise ValueError(say("values.is_no_number", plain=plain[:NUMBER_SIGNS_AT_MOST]))
    if re.fullmatch(r"[-+]?\d+(\.\d+)?|[-+]?\.\d+", plain) is None:
        raise ValueError(say("values.is_no_number_at_all", cell=f"{cell!r}"))
    return float(plain)


def whole(cell: str) -> int | None:
    """A whole number."""
    value = number(cell)
    if value is not None and value != int(value):
        raise ValueError(say("values.is_no_whole_number", cell=f"{cell!r}"))
    return None if value is None else int(value)


def between(name: str, value: float | None) -> float | None:
    """A number within what its field can hold at all. Source: tables/entry-limits.csv."""
    limit = entry_limits()[name]
    if value is not None and not limit.low <= value <= limit.high:
        raise ValueError(
            say(
                "values.is_not_between_and",
                value=digits(value),
                low=digits(limit.low),
                high=digits(limit.high),
                unit=in_a_row((" ", listed("unit", limit.unit))) if limit.unit else NOTHING,
            )
        )
    return value


def money(cell: str, decimals: int = 2) -> int | None:
    """Cents, the smallest unit of a money with so many decimals, of an amount such as 129.90, 129,90 or 1.299,00; signs and
    codes of currency are passed over.

    >>> money("129,90 EUR"), money("12900 JPY", 0), money("KWD 12.905", 3)
    (12990, 12900, 12905)
    """
    value = number(CURRENCY_SIGNS.sub("", cell))
    if value is None:
        return None
    cents = value * 10**decimals
    if abs(cents - round(cents)) > WHOLE_CENT:
        raise ValueError(say("values.this_money_has_so_many_decimals", cell=f"{cell!r}", decimals=decimals))
    return int(between("price_cents", round(cents)) or 0)


def yes(cell: str) -> bool:
    """Yes or no in a few languages; empty is no."""
    plain = cell.lower()
    if plain in _YES:
        return True
    if plain in _NO:
        return False
    raise ValueError(say("values.is_neither_yes_nor_no", cell=f"{cell!r}"))


def chemistry(cell: str) -> str:
    """How it is built; empty is flooded."""
    plain = cell.lower()
    if not plain:
        return Chemistry.FLOODED.value
    if plain not in _CHEMISTRY:
        raise ValueError(say("values.is_no_type_flooded_hybrid_calcium_efb_agm", cell=f"{cell!r}"))
    return _CHEMISTRY[plain]


def scale(cell: str) -> str:
    """The scale of a rating; empty is CCA."""
    plain = cell.upper() or "CCA"
    if plain == "SAE":
        plain = "CCA"
    if plain not in {scale.value for scale in RatingScale if scale is not RatingScale.JIS}:
        raise ValueError(say("values.is_no_scale_of_amps_cca_en_din_iec_ca_mca", cell=f"{cell!r}"))
    return plain


def side(cell: str) -> str:
    """The side of the positive; 0 and 1 of European lists too: 0 is right, 1 is left. Source: EN 50342, from memory."""
    plain = cell.lower().strip("+ ")
    if plain in {"0", "1"}:
        return "right" if plain == "0" else "left"
    if plain and plain not in _SIDES:
        raise ValueError(say("values.is_no_side_left_or_right", cell=f"{cell!r}"))
    return _SIDES.get(plain, "")


def one_of(names: set[str], what: Words, cell: str) -> str:
    """One of a closed list; empty stays empty."""
    plain = cell.lower()
    if plain and plain not in names:
        raise ValueError(
            say("values.is_no", cell=f"{cell!r}", what=what, known=in_a_row(map(word, sorted(names)), ", "))
        )
    return plain


def post(cell: str) -> str:
    """The posts."""
    return one_of(_POSTS, say("values.kind_of_post"), cell)


def ledge(cell: str) -> str:
    """The ledge at the foot."""
    return one_of(_LEDGES, say("values.ledge"), cell)


def fuel(cell: str) -> str:
    """What the engine burns; empty is petrol."""
    return one_of({"petrol", "diesel"}, say("values.fuel"), cell) or "petrol"


def day(cell: str) -> date | None:
    """A day such as 2026-03-20 or 20.03.2026; a time behind it is passed over."""
    plain = cell.strip().split("T")[0].split(" ")[0]
    if not plain:
        return None
    for form in ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%Y/%m/%d"):
        try:
            result = datetime.strptime(plain, form).date()
        except ValueError:
            continue
        between("day_year", result.year)
        return result
    raise ValueError(say("values.is_no_day_enter_2026_03_20_or_20_03_2026", cell=f"{cell!r}"))


def uses(cell: str) -> list[str]:
    """Uses left out, separated by commas or semicolons."""
    named = [word.strip().lower().replace(" ", "_") for word in re.split(r"[;,|]", cell) if word.strip()]
    known = {word.value for word in Use}
    if wrong := [word for word in named if word not in known]:
        raise ValueError(say("values.is_no_use", cell=f"{wrong[0]!r}", known=in_a_row(map(word, sorted(known)), ", ")))
    return named


def codes(cell: str) -> list[str]:
    """Several codes, separated by commas, semicolons or slashes."""
    return [word.strip() for word in re.split(r"[;,|/]", text(cell)) if word.strip()]

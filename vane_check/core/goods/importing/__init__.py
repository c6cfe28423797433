"""Lists brought in: rows checked against their fields, a chunk at a time, with every fault by row, column and reason."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from itertools import islice
from typing import Any, NamedTuple

from pydantic import Field as Described

from ...tables import footprints, scale_definitions
from ...units.model import Model, ShortText
from . import values
from .field import Field
from .fields import FIELDS, KINDS, Kind, guess

CHUNK = 2000
"""Rows looked at in one go."""
REMEMBERED = 50_000
"""So many different cells of a column are remembered as read; lists repeat themselves."""
FIRST_ROW = 2
"""As a spreadsheet counts: the heading is the first."""


class ColumnMap(Model):
    """How the columns of a file are read: each field's column, and what holds for a whole file."""

    columns: dict[str, ShortText] = Described(max_length=60)
    length_unit: ShortText = "mm"
    rated_scale: ShortText = Described("CCA", description="the scale, where no column says it")
    supplier: ShortText = Described("", description="the supplier of all of it, where no column says it")
    source: ShortText = Described("", description="where the list is from, where no column says it")


def guessed(kind: Kind, columns: list[str]) -> ColumnMap:
    """How a file may be read by its heading; a column of ratings that is called by a scale says the scale."""
    result = guess(kind, columns)
    rating = result.get("rated_amps") or result.get("min_cca_amps") or ""
    named = rating.strip().upper()
    is_scale = named in scale_definitions() and "rated_scale" not in result
    return ColumnMap(columns=result, rated_scale=named if is_scale else "CCA")


class Fault(NamedTuple):
    """Why a row is refused."""

    row: int
    column: str
    why: str


class Checked(NamedTuple):
    """A chunk: good rows as field values with their row numbers, faults, and how many rows were looked at."""

    good: list[tuple[int, dict[str, Any]]]
    faults: list[Fault]
    looked_at: int


class MappingRefused(ValueError):
    """A mapping that cannot be worked with; `faults` by field."""

    def __init__(self, faults: dict[str, str]) -> None:
        super().__init__("; ".join(faults.values()))
        self.faults = faults


def readers(kind: Kind, mapping: ColumnMap, columns: Sequence[str]) -> list[tuple[Field, int, Callable[[str], Any]]]:
    """Each mapped field with the place of its column and how it is read. Raises MappingRefused."""
    fields = {field.name: field for field in FIELDS[kind]}
    faults = {name: "There is no such field" for name in mapping.columns if name not in fields}
    faults |= {
        name: f"The file has no column {column}"
        for name, column in mapping.columns.items()
        if name in fields and column not in columns
    }
    constant = {"source"} if mapping.source else set()
    faults |= {
        name: f"Say which column is {field.label}"
        for name, field in fields.items()
        if field.needed and name not in mapping.columns and name not in constant
    }
    if mapping.length_unit not in values.MM_PER:
        faults["length_unit"] = "Millimetres, centimetres or inches: mm, cm, in"
    try:
        values.scale(mapping.rated_scale)
    except ValueError as error:
        faults["rated_scale"] = str(error)
    if faults:
        raise MappingRefused(faults)
    return [
        (fields[name], list(columns).index(column), _reader(fields[name], mapping))
        for name, column in mapping.columns.items()
    ]


def _reader(field: Field, mapping: ColumnMap) -> Callable[[str], Any]:
    if not field.is_length:
        return field.read
    per = values.MM_PER[mapping.length_unit]

    def length(cell: str) -> int | None:
        value = values.number(cell)
        return None if value is None else round(values.between("case_mm", value * per) or 0)

    return length


def check_rows(
    kind: Kind,
    mapping: ColumnMap,
    columns: Sequence[str],
    rows: Iterable[Sequence[str]],
    known: Mapping[str, Mapping[str, int]],
) -> Iterator[Checked]:
    """Look at every row, a chunk at a time. `known` holds numbers of items and suppliers by name, in small letters.

    Of rows that name the same thing twice the later is refused. Raises MappingRefused.
    """
    how = readers(kind, mapping, columns)
    memory: list[dict[str, Any]] = [{} for _ in how]
    seen: dict[Any, int] = {}
    finish = FINISH[kind]
    number, rest = FIRST_ROW, iter(rows)
    while chunk := list(islice(rest, CHUNK)):
        good, faults = [], []
        for row in chunk:
            body: dict[str, Any] = {}
            wrong: Fault | None = None
            for (field, place, read), remembered in zip(how, memory, strict=True):
                raw = row[place] if place < len(row) else ""
                value = remembered.get(raw)
                if value is None:
                    try:
                        value = _read(field, read, raw)
                    except ValueError as error:
                        wrong = Fault(number, field.label, str(error))
                        break
                    if len(remembered) < REMEMBERED:
                        remembered[raw] = value
                body[field.name] = value[0]
            if wrong is None and any(body.values()):
                try:
                    key = finish(body, mapping, known)
                except ValueError as error:
                    wrong = Fault(number, "", str(error))
                else:
                    first = seen.setdefault(key, number) if key is not None else number
                    if first != number:
                        wrong = Fault(number, "", f"stands twice: first in row {first}")
                    else:
                        good.append((number, body))
            if wrong is not None:
                faults.append(wrong)
            number += 1
        yield Checked(good, faults, len(chunk))


def _read(field: Field, read: Callable[[str], Any], raw: str) -> tuple[Any]:
    plain = raw.strip()
    if field.needed and not plain:
        raise ValueError(f"{field.label} is empty")
    value = read(values.one_line(plain))
    if field.needed and value is None:
        raise ValueError(f"{field.label} is empty")
    return (value,)


def _item(body: dict[str, Any], mapping: ColumnMap, known: Mapping[str, Mapping[str, int]]) -> Any:
    code = body.get("group_code") or ""
    size = footprints().get(code) or footprints().get(code.upper())
    if size is not None:
        body["group_code"] = size.code
    for name in ("length_mm", "width_mm", "height_mm", "positive_side"):
        if not body.get(name):
            if size is None:
                raise ValueError(
                    f"size {code or '?'} is in no table here: give length, width, height and the side of the positive"
                )
            body[name] = getattr(size, name)
    body["post"] = body.get("post") or (size.post if size else "top")
    body["ledge"] = body.get("ledge") or (size.ledge if size else "none")
    body["same_as"] = size.same_as if size else ""
    body["nominal_volts"] = size.nominal_volts if size else body.get("nominal_volts") or 12
    if body["nominal_volts"] not in (6, 12):
        raise ValueError(f"{body['nominal_volts']} V: only 6 and 12 V are known here")
    scale = body.get("rated_scale") if "rated_scale" in mapping.columns else None
    body["rated_scale"] = scale or values.scale(mapping.rated_scale)
    body["cca_amps"] = round(body["rated_amps"] / scale_definitions()[body["rated_scale"]].amps_per_sae_cca_amp, 1)
    body["vent_side"] = body.get("vent_side") or None
    supplier = body.pop("supplier", "") or mapping.supplier
    if supplier and supplier.lower() not in known["suppliers"]:
        raise ValueError(f"supplier {supplier} is not known: write it in first")
    body["supplier_id"] = known["suppliers"].get(supplier.lower()) if supplier else None
    body["price_cents"], body["core_deposit_cents"] = body.pop("price"), body.pop("core_deposit", None) or 0
    return body["name"].lower()


def _piece(values: dict[str, Any], _: ColumnMap, known: Mapping[str, Mapping[str, int]]) -> Any:
    item_id = known["items"].get(values["name"].lower())
    if item_id is None:
        raise ValueError(f"no item is called {values['name']}: bring the catalogue in first")
    values["item_id"] = item_id
    del values["name"]
    if values.get("last_volts") is not None and values.get("last_volts_on") is None:
        values["last_volts_on"] = values["arrived_on"]
    return None  # one row may be like another: two of the same came


def _vehicle(body: dict[str, Any], mapping: ColumnMap, _: Mapping[str, Mapping[str, int]]) -> Any:
    size = footprints().get(body["group_code"]) or footprints().get(body["group_code"].upper())
    if size is None:
        raise ValueError(f"size {body['group_code']} is in no table here")
    body["group_code"] = size.code
    if body.get("to_year") is not None and body["to_year"] < body["from_year"]:
        raise ValueError("it ends before it begins: look at the years")
    scale = body.get("rated_scale") if "rated_scale" in mapping.columns else None
    body["rated_scale"] = scale or values.scale(mapping.rated_scale)
    ratio = scale_definitions()[body["rated_scale"]].amps_per_sae_cca_amp
    body["min_cca_amps"] = round(body["min_cca_amps"] / ratio, 1)
    for name in ("ledge", "vent_side"):
        body[name] = body.get(name) or None
    body["source"] = body.get("source") or mapping.source
    names = ("make", "model", "from_year", "engine", "trim")
    return tuple(str(body.get(name) or "").lower() for name in names)


def _alias(body: dict[str, Any], mapping: ColumnMap, _: Mapping[str, Mapping[str, int]]) -> Any:
    size = body.get("size") or ""
    known = footprints().get(size) or footprints().get(size.upper())
    if size and known is None:
        raise ValueError(f"size {size} is in no table here")
    body["size"] = known.code if known else ""
    scale = body.get("rated_scale") if "rated_scale" in mapping.columns else None
    body["rated_scale"] = scale or values.scale(mapping.rated_scale)
    body["source"] = body.get("source") or mapping.source
    return body["code"]


def _terms(values: dict[str, Any], _: ColumnMap, __: Mapping[str, Mapping[str, int]]) -> Any:
    return values["line"].lower()


FINISH: dict[Kind, Callable[[dict[str, Any], ColumnMap, Mapping[str, Mapping[str, int]]], Any]] = {
    "items": _item, "pieces": _piece, "vehicles": _vehicle, "aliases": _alias, "terms": _terms,
}  # fmt: skip

__all__ = [
    "FIELDS",
    "KINDS",
    "Checked",
    "Fault",
    "Field",
    "Kind",
    "MappingRefused",
    "ColumnMap",
    "check_rows",
    "guess",
    "guessed",
]

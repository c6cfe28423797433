"""Lists brought in: rows checked against their fields, a chunk at a time, with every fault by row, column and reason."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial
from itertools import islice
from typing import Any, NamedTuple

from pydantic import Field as Described

from ...tables import footprints, scale_definitions
from ...units.model import Model, ShortText
from ...words import Text, Words, say, words_of
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
    column: Text
    why: Words


class Checked(NamedTuple):
    """A chunk: good rows as field values with their row numbers, faults, and how many rows were looked at."""

    good: list[tuple[int, dict[str, Any]]]
    faults: list[Fault]
    looked_at: int


class MappingRefused(ValueError):
    """A mapping that cannot be worked with; `faults` by field."""

    def __init__(self, faults: Mapping[str, Words]) -> None:
        super().__init__("; ".join(map(str, faults.values())))
        self.faults = faults


def readers(
    kind: Kind, mapping: ColumnMap, columns: Sequence[str], decimals: int = 2
) -> list[tuple[Field, int, Callable[[str], Any]]]:
    """Each mapped field with the place of its column and how it is read, in a money with so many decimals. Raises
    MappingRefused."""
    fields = {field.name: field for field in FIELDS[kind]}
    faults: dict[str, Words] = {
        name: say("common.there_is_no_such_field") for name in mapping.columns if name not in fields
    }
    faults |= {
        name: say("importing.the_file_has_no_column", column=column)
        for name, column in mapping.columns.items()
        if name in fields and column not in columns
    }
    constant = {"source"} if mapping.source else set()
    faults |= {
        name: say("importing.say_which_column_is", label=field.label)
        for name, field in fields.items()
        if field.needed and name not in mapping.columns and name not in constant
    }
    if mapping.length_unit not in values.MM_PER:
        faults["length_unit"] = say("importing.millimetres_centimetres_or_inches_mm_cm_in")
    try:
        values.scale(mapping.rated_scale)
    except ValueError as error:
        faults["rated_scale"] = words_of(error.args[0])
    if faults:
        raise MappingRefused(faults)
    return [
        (fields[name], list(columns).index(column), _reader(fields[name], mapping, decimals))
        for name, column in mapping.columns.items()
    ]


def _reader(field: Field, mapping: ColumnMap, decimals: int) -> Callable[[str], Any]:
    if field.read is values.money:
        return partial(values.money, decimals=decimals)
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
    decimals: int = 2,
) -> Iterator[Checked]:
    """Look at every row, a chunk at a time. `known` holds numbers of items and suppliers by name, in small letters; prices are
    in a money with so many `decimals`.

    Of rows that name the same thing twice the later is refused. Raises MappingRefused.
    """
    how = readers(kind, mapping, columns, decimals)
    memory: list[dict[str, Any]] = [{} for _ in how]
    seen: dict[Any, int] = {}
    finish = FINISH[kind]
    number, rest = FIRST_ROW, iter(rows)
    while chunk := list(islice(rest, CHUNK)):
        good, faults = [], []
        for row in chunk:
            row_values: dict[str, Any] = {}
            wrong: Fault | None = None
            for (field, place, read), remembered in zip(how, memory, strict=True):
                raw = row[place] if place < len(row) else ""
                value = remembered.get(raw)
                if value is None:
                    try:
                        value = _read(field, read, raw)
                    except ValueError as error:
                        wrong = Fault(number, field.label, words_of(error.args[0]))
                        break
                    if len(remembered) < REMEMBERED:
                        remembered[raw] = value
                row_values[field.name] = value[0]
            if wrong is None and any(row_values.values()):
                try:
                    key = finish(row_values, mapping, known)
                except ValueError as error:
                    wrong = Fault(number, "", words_of(error.args[0]))
                else:
                    first = seen.setdefault(key, number) if key is not None else number
                    if first != number:
                        wrong = Fault(number, "", say("importing.stands_twice_first_in_row", first=first))
                    else:
                        good.append((number, row_values))
            if wrong is not None:
                faults.append(wrong)
            number += 1
        yield Checked(good, faults, len(chunk))


def _read(field: Field, read: Callable[[str], Any], raw: str) -> tuple[Any]:
    plain = raw.strip()
    if field.needed and not plain:
        raise ValueError(say("importing.is_empty", label=field.label))
    value = read(values.one_line(plain))
    if field.needed and value is None:
        raise ValueError(say("importing.is_empty", label=field.label))
    return (value,)


def _item(item: dict[str, Any], mapping: ColumnMap, known: Mapping[str, Mapping[str, int]]) -> Any:
    code = item.get("group_code") or ""
    size = footprints().get(code) or footprints().get(code.upper())
    if size is not None:
        item["group_code"] = size.code
    for name in ("length_mm", "width_mm", "height_mm", "positive_side"):
        if not item.get(name):
            if size is None:
                raise ValueError(say("importing.size_is_in_no_table_here_give_length_width", code=code or "?"))
            item[name] = getattr(size, name)
    item["post"] = item.get("post") or (size.post if size else "top")
    item["ledge"] = item.get("ledge") or (size.ledge if size else "none")
    item["same_as"] = size.same_as if size else ""
    item["nominal_volts"] = size.nominal_volts if size else item.get("nominal_volts") or 12
    if item["nominal_volts"] not in (6, 12):
        raise ValueError(say("importing.v_only_6_and_12_v_are_known_here", item=item["nominal_volts"]))
    scale = item.get("rated_scale") if "rated_scale" in mapping.columns else None
    item["rated_scale"] = scale or values.scale(mapping.rated_scale)
    item["cca_amps"] = round(item["rated_amps"] / scale_definitions()[item["rated_scale"]].amps_per_sae_cca_amp, 1)
    item["vent_side"] = item.get("vent_side") or None
    supplier = item.pop("supplier", "") or mapping.supplier
    if supplier and supplier.lower() not in known["suppliers"]:
        raise ValueError(say("importing.supplier_is_not_known_write_it_in_first", supplier=supplier))
    item["supplier_id"] = known["suppliers"].get(supplier.lower()) if supplier else None
    item["price_cents"], item["core_deposit_cents"] = item.pop("price"), item.pop("core_deposit", None) or 0
    return item["name"].lower()


def _piece(piece: dict[str, Any], _: ColumnMap, known: Mapping[str, Mapping[str, int]]) -> Any:
    item_id = known["items"].get(piece["name"].lower())
    if item_id is None:
        raise ValueError(say("importing.no_item_is_called_bring_the_catalogue_in", piece=piece["name"]))
    piece["item_id"] = item_id
    del piece["name"]
    if piece.get("last_volts") is not None and piece.get("last_volts_on") is None:
        piece["last_volts_on"] = piece["arrived_on"]
    return None  # one row may be like another: two of the same came


def _vehicle(vehicle: dict[str, Any], mapping: ColumnMap, _: Mapping[str, Mapping[str, int]]) -> Any:
    size = footprints().get(vehicle["group_code"]) or footprints().get(vehicle["group_code"].upper())
    if size is None:
        raise ValueError(say("importing.size_is_in_no_table_here", vehicle=vehicle["group_code"]))
    vehicle["group_code"] = size.code
    if vehicle.get("to_year") is not None and vehicle["to_year"] < vehicle["from_year"]:
        raise ValueError(say("importing.it_ends_before_it_begins_look_at_the_years"))
    scale = vehicle.get("rated_scale") if "rated_scale" in mapping.columns else None
    vehicle["rated_scale"] = scale or values.scale(mapping.rated_scale)
    ratio = scale_definitions()[vehicle["rated_scale"]].amps_per_sae_cca_amp
    vehicle["min_cca_amps"] = round(vehicle["min_cca_amps"] / ratio, 1)
    for name in ("ledge", "vent_side"):
        vehicle[name] = vehicle.get(name) or None
    vehicle["source"] = vehicle.get("source") or mapping.source
    names = ("make", "model", "from_year", "engine", "trim")
    return tuple(str(vehicle.get(name) or "").lower() for name in names)


def _alias(alias: dict[str, Any], mapping: ColumnMap, _: Mapping[str, Mapping[str, int]]) -> Any:
    size = alias.get("size") or ""
    known = footprints().get(size) or footprints().get(size.upper())
    if size and known is None:
        raise ValueError(say("importing.size_is_in_no_table_here_2", size=size))
    alias["size"] = known.code if known else ""
    scale = alias.get("rated_scale") if "rated_scale" in mapping.columns else None
    alias["rated_scale"] = scale or values.scale(mapping.rated_scale)
    alias["source"] = alias.get("source") or mapping.source
    return alias["code"]


def _terms(terms: dict[str, Any], _: ColumnMap, __: Mapping[str, Mapping[str, int]]) -> Any:
    return terms["line"].lower()


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

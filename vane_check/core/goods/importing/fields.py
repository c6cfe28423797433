"""What lists can be brought in, and which fields each has: how a cell is read, whether it must be there, what columns call it."""

from functools import partial
from typing import Literal

from ...battery.codes import plain
from ..fitting import AFTER_FITTING
from . import values
from .field import Field, limited
from .item_columns import ITEM_FIELDS

Kind = Literal["items", "pieces", "vehicles", "aliases", "terms"]
KINDS: tuple[Kind, ...] = ("items", "pieces", "vehicles", "aliases", "terms")


def _year(cell: str) -> int | None:
    return values.whole(str(values.between("year", values.number(cell)) or ""))


def _count(cell: str) -> int:
    return int(values.between("pieces", values.number(cell)) or 1)


def _months(cell: str) -> int:
    months = values.whole(cell)
    if months is not None and not 0 <= months <= 240:
        raise ValueError(f"{months} is no number of months")
    return months or 0


def _after(cell: str) -> list[str]:
    named = [code.replace(" ", "_").lower() for code in values.codes(cell)]
    if wrong := [one for one in named if one not in AFTER_FITTING]:
        raise ValueError(f"{wrong[0]!r} is none of {', '.join(AFTER_FITTING)}")
    return named


_BOOL = values.yes

FIELDS: dict[Kind, tuple[Field, ...]] = {
    "items": ITEM_FIELDS,
    "pieces": (
        Field("name", "Item", values.text, True, ("article", "artikel", "product", "name")),
        Field("count", "Pieces", _count, False, ("qty", "quantity", "stock", "bestand", "menge", "count")),
        Field("arrived_on", "Arrived", values.day, True, ("received", "date", "eingang", "datum")),
        Field("made_on", "Made", values.day, False, ("produced", "date code", "hergestellt")),
        Field("dry_charged", "Dry-charged", _BOOL, False, ("dry",)),
        Field("filled_on", "Filled", values.day, False, ("gefüllt",)),
        Field("charged_on", "Charged", values.day, False, ("last charge", "geladen")),
        Field("last_volts", "Volts", limited("charger_volts"), False, ("voltage", "spannung", "ocv")),
        Field("last_volts_on", "Volts read on", values.day, False, ("tested", "gemessen")),
    ),
    "vehicles": (
        Field("make", "Make", values.text, True, ("manufacturer", "hersteller", "marke")),
        Field("model", "Model", values.text, True, ("modell", "type")),
        Field("from_year", "From year", _year, True, ("from", "start", "year", "von", "baujahr ab")),
        Field("to_year", "To year", _year, False, ("to", "end", "until", "bis")),
        Field("engine", "Engine", values.text, False, ("motor",)),
        Field("trim", "Trim", values.text, False, ("variant", "ausstattung", "option")),
        Field("group_code", "Size", values.text, True, ("group", "bci", "box", "battery size", "gehäuse")),
        Field("also_codes", "Other sizes", values.codes, False, ("alternatives", "alternative sizes")),
        Field("min_cca_amps", "Rating at least", limited("rated_amps"), True, ("cca", "en", "amps", "rating")),
        Field("rated_scale", "Scale of the rating", values.scale, False, ("scale", "norm")),
        Field("min_capacity_ah", "Ah at least", limited("capacity_ah_20h"), False, ("ah", "capacity")),
        Field("min_reserve_minutes", "Reserve at least", limited("reserve_minutes"), False, ("rc", "reserve")),
        Field("chemistry", "Type", values.chemistry, False, ("technology", "battery type")),
        Field("stop_start", "Stop-start", _BOOL, False, ("start-stop", "start stop", "stop start")),
        Field("vent_tube", "Vent tube", _BOOL, False, ("vent",)),
        Field("vent_side", "Side of the vent", values.side),
        Field("no_agm", "No AGM", _BOOL, False, ("hot bay",)),
        Field("flooded_stays", "Charges flooded alone", _BOOL),
        Field("ledge", "Ledge", values.ledge, False, ("hold-down", "hold down")),
        Field("spare_cable_mm", "Spare cable", limited("cable_spare_mm"), False, ("cable",)),
        Field("engine_litres", "Litres", limited("engine_litres"), False, ("displacement", "hubraum")),
        Field("engine_fuel", "Fuel", values.fuel, False, ("kraftstoff",)),
        Field("needs_registration", "To be registered", _BOOL, False, ("registration", "bms")),
        Field("programme", "Programme", values.text, False, ("registration programme",)),
        Field("battery_place", "Where it sits", values.text, False, ("location", "battery location", "einbauort")),
        Field("access", "How to get at it", values.text, False, ("access notes",)),
        Field("memory", "What is lost", values.text, False, ("memory saver", "keep memory")),
        Field("after_fitting", "Afterwards", _after, False, ("after",)),
        Field("source", "Source", values.text, False, ("edition",)),
    ),
    "aliases": (
        Field("code", "Code", partial(lambda said: plain(values.text(said))), True, ("type", "number", "old code")),
        Field("size", "Size", values.text, False, ("group", "box", "group_code")),
        Field("positive_side", "Side of the positive", values.side, False, ("side", "polarity", "layout")),
        Field("capacity_ah_20h", "Ah", limited("capacity_ah_20h"), False, ("capacity",)),
        Field("rated_amps", "Rating", limited("rated_amps"), False, ("cca", "en", "amps")),
        Field("rated_scale", "Scale of the rating", values.scale, False, ("scale", "norm")),
        Field("trade", "Trade", values.text, False, ("country", "list")),
        Field("source", "Source", values.text, True, ("from",)),
    ),
    "terms": (
        Field("line", "Line", values.text, True, ("brand", "range", "series")),
        Field("free_months", "Months free", _months, True, ("free", "replacement months")),
        Field("pro_rata_months", "Months pro rata", _months, False, ("pro rata", "prorata")),
        Field("date_code_allowance_months", "Months of shelf", _months, False, ("shelf", "allowance")),
        Field("excluded_uses", "Uses left out", values.uses, False, ("excluded", "exclusions")),
        Field("reference", "Reference", values.text, False, ("sheet", "terms")),
        Field("holds_from", "Holds from", values.day, False, ("from", "valid from", "since")),
    ),
}  # fmt: skip


def guess(kind: Kind, columns: list[str]) -> dict[str, str]:
    """Which column may be meant by each field: one of the same name, or one it is often called by. Each column once."""
    by_name = {_bare(column): column for column in columns}
    result: dict[str, str] = {}
    for take in (lambda field: (field.name, field.label), lambda field: field.called):
        for field in FIELDS[kind]:
            if field.name in result:
                continue
            for name in take(field):
                column = by_name.get(_bare(name))
                if column is not None and column not in result.values():
                    result[field.name] = column
                    break
    return result


def _bare(name: str) -> str:
    return "".join(sign for sign in name.lower() if sign.isalnum())

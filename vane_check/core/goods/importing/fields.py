"""What lists can be brought in, and which fields each has: how a cell is read, whether it must be there, what columns call it."""

from functools import partial
from typing import Literal

from ...battery.codes import plain
from ...words import say
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
    if wrong := [word for word in named if word not in AFTER_FITTING]:
        raise ValueError(f"{wrong[0]!r} is none of {', '.join(AFTER_FITTING)}")
    return named


_BOOL = values.yes

FIELDS: dict[Kind, tuple[Field, ...]] = {
    "items": ITEM_FIELDS,
    "pieces": (
        Field("name", say("column.item"), values.text, True, ("article", "artikel", "product", "name")),
        Field("count", say("column.pieces"), _count, False, ("qty", "quantity", "stock", "bestand", "menge", "count")),
        Field("arrived_on", say("column.arrived"), values.day, True, ("received", "date", "eingang", "datum")),
        Field("made_on", say("column.made"), values.day, False, ("produced", "date code", "hergestellt")),
        Field("dry_charged", say("column.dry_charged"), _BOOL, False, ("dry",)),
        Field("filled_on", say("column.filled"), values.day, False, ("gefüllt",)),
        Field("charged_on", say("column.charged"), values.day, False, ("last charge", "geladen")),
        Field("last_volts", say("column.volts"), limited("charger_volts"), False, ("voltage", "spannung", "ocv")),
        Field("last_volts_on", say("column.volts_read_on"), values.day, False, ("tested", "gemessen")),
    ),
    "vehicles": (
        Field("make", say("column.make"), values.text, True, ("manufacturer", "hersteller", "marke")),
        Field("model", say("column.model"), values.text, True, ("modell", "type")),
        Field("from_year", say("column.from_year"), _year, True, ("from", "start", "year", "von", "baujahr ab")),
        Field("to_year", say("column.to_year"), _year, False, ("to", "end", "until", "bis")),
        Field("engine", say("column.engine"), values.text, False, ("motor",)),
        Field("trim", say("column.trim"), values.text, False, ("variant", "ausstattung", "option")),
        Field("group_code", say("column.size"), values.text, True, ("group", "bci", "box", "battery size", "gehäuse")),
        Field("also_codes", say("column.other_sizes"), values.codes, False, ("alternatives", "alternative sizes")),
        Field("min_cca_amps", say("column.rating_at_least"), limited("rated_amps"), True, ("cca", "en", "amps", "rating")),
        Field("rated_scale", say("column.scale_of_the_rating"), values.scale, False, ("scale", "norm")),
        Field("min_capacity_ah", say("column.ah_at_least"), limited("capacity_ah_20h"), False, ("ah", "capacity")),
        Field("min_reserve_minutes", say("column.reserve_at_least"), limited("reserve_minutes"), False, ("rc", "reserve")),
        Field("chemistry", say("column.type"), values.chemistry, False, ("technology", "battery type")),
        Field("stop_start", say("column.stop_start"), _BOOL, False, ("start-stop", "start stop", "stop start")),
        Field("vent_tube", say("column.vent_tube"), _BOOL, False, ("vent",)),
        Field("vent_side", say("column.side_of_the_vent"), values.side),
        Field("no_agm", say("column.no_agm"), _BOOL, False, ("hot bay",)),
        Field("flooded_stays", say("column.charges_flooded_alone"), _BOOL),
        Field("ledge", say("column.ledge"), values.ledge, False, ("hold-down", "hold down")),
        Field("spare_cable_mm", say("column.spare_cable"), limited("cable_spare_mm"), False, ("cable",)),
        Field("engine_litres", say("column.litres"), limited("engine_litres"), False, ("displacement", "hubraum")),
        Field("engine_fuel", say("column.fuel"), values.fuel, False, ("kraftstoff",)),
        Field("needs_registration", say("column.to_be_registered"), _BOOL, False, ("registration", "bms")),
        Field("programme", say("column.programme"), values.text, False, ("registration programme",)),
        Field("battery_place", say("column.where_it_sits"), values.text, False, ("location", "battery location", "einbauort")),
        Field("access", say("column.how_to_get_at_it"), values.text, False, ("access notes",)),
        Field("memory", say("column.what_is_lost"), values.text, False, ("memory saver", "keep memory")),
        Field("after_fitting", say("column.afterwards"), _after, False, ("after",)),
        Field("source", say("column.source"), values.text, False, ("edition",)),
    ),
    "aliases": (
        Field("code", say("column.code"), partial(lambda said: plain(values.text(said))), True, ("type", "number", "old code")),
        Field("size", say("column.size"), values.text, False, ("group", "box", "group_code")),
        Field("positive_side", say("column.side_of_the_positive"), values.side, False, ("side", "polarity", "layout")),
        Field("capacity_ah_20h", say("column.ah"), limited("capacity_ah_20h"), False, ("capacity",)),
        Field("rated_amps", say("column.rating"), limited("rated_amps"), False, ("cca", "en", "amps")),
        Field("rated_scale", say("column.scale_of_the_rating"), values.scale, False, ("scale", "norm")),
        Field("trade", say("column.trade"), values.text, False, ("country", "list")),
        Field("source", say("column.source"), values.text, True, ("from",)),
    ),
    "terms": (
        Field("line", say("column.line"), values.text, True, ("brand", "range", "series")),
        Field("free_months", say("column.months_free"), _months, True, ("free", "replacement months")),
        Field("pro_rata_months", say("column.months_pro_rata"), _months, False, ("pro rata", "prorata")),
        Field("date_code_allowance_months", say("column.months_of_shelf"), _months, False, ("shelf", "allowance")),
        Field("excluded_uses", say("column.uses_left_out"), values.uses, False, ("excluded", "exclusions")),
        Field("reference", say("column.reference"), values.text, False, ("sheet", "terms")),
        Field("holds_from", say("column.holds_from"), values.day, False, ("from", "valid from", "since")),
    ),
}  # fmt: skip


def guess(kind: Kind, columns: list[str]) -> dict[str, str]:
    """Which column may be meant by each field: one of the same name, or one it is often called by. Each column once."""
    by_name = {_bare(column): column for column in columns}
    result: dict[str, str] = {}
    for take in (lambda field: (field.name, str(field.label)), lambda field: field.called):
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

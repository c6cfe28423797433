"""The shop's goods as a Data Package: CSV files with a JSON descriptor, to be taken anywhere."""

from datetime import datetime
from typing import Any, NamedTuple

from ..papers.lists import Table, data_package
from ..records import importing
from .desk import Desk

TYPES = {
    "length_mm": "integer", "width_mm": "integer", "height_mm": "integer", "nominal_volts": "integer", "cca_amps": "number",
    "rated_amps": "number", "capacity_ah_20h": "number", "reserve_minutes": "number", "vent_tube": "boolean",
    "price_cents": "integer", "core_deposit_cents": "integer", "arrived_on": "date", "made_on": "date",
    "dry_charged": "boolean", "filled_on": "date", "charged_on": "date", "last_volts": "number", "last_volts_on": "date",
    "piece": "integer", "from_year": "integer", "to_year": "integer", "min_cca_amps": "number", "min_capacity_ah": "number",
    "min_reserve_minutes": "number", "stop_start": "boolean", "no_agm": "boolean", "flooded_stays": "boolean",
    "spare_cable_mm": "number", "engine_litres": "number", "needs_registration": "boolean", "free_months": "integer",
    "pro_rata_months": "integer", "date_code_allowance_months": "integer", "holds_from": "date",
}  # fmt: skip
OUT: dict[str, tuple[str, tuple[str, ...], tuple[str, ...], tuple[str, ...]]] = {
    "items": ("Catalogue", ("name",), ("supplier_id",), ("supplier",)),
    "pieces": ("Stock", ("piece",), ("item_id",), ("name", "piece")),
    "vehicles": ("Vehicle list", ("make", "model", "from_year", "engine", "trim"), (), ()),
    "aliases": ("Codes of other trades", ("code",), (), ()),
    "terms": ("Warranty terms, in editions", ("line", "holds_from"), (), ()),
}
"""Title, key, what of the table is left out, what is put in for it."""


class Goods(NamedTuple):
    """The shop's name and its goods by table, read and not packed yet."""

    shop: str
    by_table: dict[str, list[dict[str, Any]]]


def goods_of(desk: Desk) -> Goods:
    """Everything of the goods. Only a lead may take them out."""
    desk.only_lead()
    return Goods(desk.store.name, importing.tables_out(desk.session))


def package(goods: Goods, now: datetime) -> bytes:
    """The goods as a Data Package, made when nothing more is asked of the database."""
    tables = []
    for name, (title, key, without, more) in OUT.items():
        fields = [one for one in (*importing.INTO[name].columns, *more) if one not in without]
        rows = [[row[field] for field in fields] for row in goods.by_table[name]]
        tables.append(Table(name, title, [(field, TYPES.get(field, "string")) for field in fields], key, rows))
    return data_package("vane-check-goods", f"Goods of {goods.shop}", now, tables)

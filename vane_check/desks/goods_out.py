"""The shop's goods as a Data Package: CSV files with a JSON descriptor, to be taken anywhere."""

from datetime import datetime

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


def package(desk: Desk, now: datetime) -> bytes:
    """The shop's goods as a Data Package. Only a lead may take them out."""
    desk.only_lead()
    told = importing.tables_out(desk.session)
    tables = []
    for name, (title, key, without, more) in OUT.items():
        fields = [one for one in (*importing.INTO[name].columns, *more) if one not in without]
        rows = [[row[field] for field in fields] for row in told[name]]
        tables.append(Table(name, title, [(field, TYPES.get(field, "string")) for field in fields], key, rows))
    return data_package("vane-check-goods", f"Goods of {desk.store.name}", now, tables)

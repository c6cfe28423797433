"""The shop's goods as a Data Package: CSV files with a JSON descriptor, to be taken anywhere."""

from datetime import datetime
from typing import Any, NamedTuple

from ..core.words import Words, say
from ..papers.lists import Table, data_package
from ..records import importing
from .desk import Desk

MORE_TYPES = {"piece": "integer"}
"""What is put in for a column that is left out."""
OUT: dict[str, tuple[Words, tuple[str, ...], tuple[str, ...], tuple[str, ...]]] = {
    "items": (say("goods_out.catalogue"), ("name",), ("supplier_id",), ("supplier",)),
    "pieces": (say("goods_out.stock"), ("piece",), ("item_id",), ("name", "piece")),
    "vehicles": (say("goods_out.vehicle_list"), ("make", "model", "from_year", "engine", "trim"), (), ()),
    "aliases": (say("goods_out.codes_of_other_trades"), ("code",), (), ()),
    "terms": (say("goods_out.warranty_terms_in_editions"), ("line", "holds_from"), (), ()),
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
        fields = [column for column in (*importing.INTO[name].columns, *more) if column not in without]
        types = importing.types_out(name)
        rows = [[row[field] for field in fields] for row in goods.by_table[name]]
        tables.append(
            Table(
                name,
                str(title),
                [(field, types.get(field) or MORE_TYPES.get(field, "string")) for field in fields],
                key,
                rows,
            )
        )
    return data_package("vane-check-goods", str(say("goods_out.goods_of", shop=goods.shop)), now, tables)

"""Writing a list that was brought in: copied into a table where nobody else sees it, then put into the goods in one statement."""

import json
from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any, NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from ..core.goods.importing.item_columns import ITEM_COLUMNS, names_of
from .base import Base, StoreSession
from .models import CatalogueItem, ImportMapping, ImportRun, SizeAlias, StockPiece, Supplier, TermsRow, Vehicle


class Into(NamedTuple):
    """Where rows of a kind go: table, columns, and what makes two rows the same (empty: each is its own)."""

    table: str
    columns: tuple[str, ...]
    key: tuple[str, ...]


INTO: dict[str, Into] = {
    "items": Into(
        "catalogue_items",
        names_of(),
        ("name",),
    ),
    "pieces": Into(
        "stock_pieces",
        (
            "item_id", "arrived_on", "made_on", "dry_charged", "filled_on", "charged_on", "last_volts", "last_volts_on",
        ),
        (),
    ),
    "vehicles": Into(
        "vehicles",
        (
            "make", "model", "from_year", "to_year", "engine", "trim", "group_code", "also_codes", "min_cca_amps", "rated_scale",
            "min_capacity_ah", "min_reserve_minutes", "chemistry", "stop_start", "vent_tube", "vent_side", "no_agm",
            "flooded_stays", "ledge", "spare_cable_mm", "engine_litres", "engine_fuel", "needs_registration", "programme",
            "battery_place", "access", "memory", "after_fitting", "source",
        ),
        ("make", "model", "from_year", "engine", "trim"),
    ),
    "aliases": Into(
        "size_aliases",
        ("code", "size", "positive_side", "capacity_ah_20h", "rated_amps", "rated_scale", "trade", "source"),
        ("code",),
    ),
    "terms": Into(
        "warranty_terms",
        ("line", "free_months", "pro_rata_months", "date_code_allowance_months", "excluded_uses", "reference", "holds_from"),
        (),
    ),
}  # fmt: skip

if _missing := [column.name for column in ITEM_COLUMNS if column.name not in CatalogueItem.__table__.columns]:
    raise ImportError(
        f"CatalogueItem has no column {', '.join(_missing)}: enter it in records/models/goods.py and a migration"
    )

EMPTY: dict[str, Any] = {
    "also_codes": [], "after_fitting": [], "excluded_uses": [], "stop_start": False, "vent_tube": False, "no_agm": False,
    "flooded_stays": False, "needs_registration": False, "dry_charged": False, "spare_cable_mm": 0, "engine_fuel": "petrol",
    "chemistry": "flooded", "free_months": 0, "pro_rata_months": 0, "date_code_allowance_months": 0, "rated_scale": "CCA",
    **dict.fromkeys(
        ("engine", "trim", "programme", "battery_place", "access", "memory", "source", "supplier_code", "group_code", "size",
         "positive_side", "trade", "reference", "same_as"), "",
    ),
}  # fmt: skip
"""What stands where a file says nothing and the table wants something."""

_TYPES = {bool: "boolean", int: "integer", float: "number", date: "date"}


def types_out(kind: str) -> dict[str, str]:
    """What each column of a kind is in a table that is handed out, as the table itself has it; texts are left out."""
    table = Base.metadata.tables[INTO[kind].table]
    result = {name: _TYPES.get(table.columns[name].type.python_type) for name in INTO[kind].columns}
    return {name: said for name, said in result.items() if said is not None}


KEEPING_SECONDS = 300


def write_rows(session: StoreSession, kind: str, rows: Iterable[dict[str, Any]], tick: Any) -> int:
    """Put rows in, all in this transaction: new ones added, those of the same key written over. Returns how many.

    `tick` is called now and then and may raise to stop. Row-level security holds for what is put in.
    """
    into = INTO[kind]
    session.execute(text(f"set local statement_timeout = {KEEPING_SECONDS * 1000}"))
    session.execute(text("set local lock_timeout = 10000"))
    batch = session.scalar(text("select pg_current_xact_id()::text::bigint"))
    connection = session.connection().connection.driver_connection
    assert connection is not None
    count = 0
    with connection.cursor() as cursor, cursor.copy("copy incoming_rows (batch, body) from stdin") as copy:
        for row in rows:
            copy.write_row((batch, json.dumps({name: _value(row, name) for name in into.columns}, default=str)))
            count += 1
            if count % 2000 == 0:
                tick(count)
    tick(count)
    session.execute(text(_put_in(into)), {"store": session.info["store_id"], "batch": batch})
    session.execute(text("delete from incoming_rows where batch = :batch"), {"batch": batch})
    return count


def _value(row: dict[str, Any], name: str) -> Any:
    value = row.get(name)
    return EMPTY.get(name) if value is None else value


def _put_in(into: Into) -> str:
    columns = ", ".join(into.columns)
    incoming = (
        f"(select r.* from incoming_rows i, jsonb_populate_record(null::{into.table}, i.body) r where i.batch = :batch)"
    )
    if into.table == "warranty_terms":
        return _NEW_EDITIONS.replace("INCOMING", incoming)
    put = f"insert into {into.table} (store_id, {columns}{_more(into)}) select :store, {columns}{_more_values(into)} from {incoming} n"
    if not into.key:
        return put
    over = ", ".join(f"{name} = excluded.{name}" for name in into.columns if name not in into.key)
    edition = ", edition = catalogue_items.edition + 1" if into.table == "catalogue_items" else ""
    return f"{put} on conflict (store_id, {', '.join(into.key)}) do update set {over}{edition}"


_SAYS = "free_months, pro_rata_months, date_code_allowance_months, excluded_uses, reference"
_NEW_EDITIONS = f"""
    insert into warranty_terms (store_id, line, {_SAYS}, holds_from, written_at)
    select :store, n.line, {_SAYS.replace("free", "n.free").replace(", ", ", n.").replace("n.n.", "n.")},
      case when n.holds_from is not null or c.line is null then n.holds_from
           else (now() at time zone (select time_zone from stores where id = :store))::date end, now()
    from INCOMING n
    left join (select distinct on (lower(line)) lower(line) as line, ({_SAYS}) as says, holds_from from warranty_terms
               where store_id = :store order by lower(line), holds_from desc nulls last, id desc) c on c.line = lower(n.line)
    where c.line is null or c.says is distinct from ({_SAYS.replace("free", "n.free").replace(", ", ", n.").replace("n.n.", "n.")})
      or (n.holds_from is not null and n.holds_from is distinct from c.holds_from)
"""
"""Terms are never written over: what differs is a new edition, from the day it names or from today."""


def _more(into: Into) -> str:
    return ", serial, mark" if into.table == "stock_pieces" else ""


def _more_values(into: Into) -> str:
    return ", '', ''" if into.table == "stock_pieces" else ""


def names_to_ids(session: Session, kind: str) -> dict[str, dict[str, int]]:
    """Numbers of items and suppliers by name, in small letters: what rows of this kind may speak of."""
    suppliers = {row[0]: row[1] for row in session.execute(select(func.lower(Supplier.name), Supplier.id))}
    if kind != "pieces":
        return {"suppliers": suppliers, "items": {}}
    items = session.execute(select(func.lower(CatalogueItem.name), CatalogueItem.id))
    return {"suppliers": suppliers, "items": {row[0]: row[1] for row in items}}


def run_of(session: Session, run_id: int, lock: bool = False) -> ImportRun | None:
    """One file being brought in."""
    query = select(ImportRun).where(ImportRun.id == run_id)
    return session.scalar(query.with_for_update() if lock else query)


def content_of(session: Session, run_id: int) -> bytes:
    """The file as it was sent."""
    return session.scalars(select(ImportRun.content).where(ImportRun.id == run_id)).one()


def refused_of(session: Session, run_id: int) -> list[list[Any]]:
    """Every refused row: its number, column and why."""
    result = session.scalars(select(ImportRun.refused).where(ImportRun.id == run_id)).one()
    return list(result.get("rows", []))


def newest_runs(session: Session, at_most: int) -> Sequence[ImportRun]:
    """The newest files."""
    return session.scalars(select(ImportRun).order_by(ImportRun.id.desc()).limit(at_most)).all()


def mapping_for(session: Session, kind: str, heading: str) -> ImportMapping | None:
    """How a heading was read before."""
    return session.scalar(select(ImportMapping).where(ImportMapping.kind == kind, ImportMapping.heading == heading))


def tables_out(session: Session) -> dict[str, list[dict[str, Any]]]:
    """Everything of the goods for a Data Package, by table; of sold pieces none."""
    suppliers = {supplier.id: supplier.name for supplier in session.scalars(select(Supplier))}
    items = session.scalars(select(CatalogueItem).order_by(CatalogueItem.name)).all()
    names = {item.id: item.name for item in items}
    pieces = session.scalars(select(StockPiece).where(StockPiece.sold_on.is_(None)).order_by(StockPiece.id))
    return {
        "items": [{**_row(item, "items"), "supplier": suppliers.get(item.supplier_id or 0, "")} for item in items],
        "pieces": [{**_row(piece, "pieces"), "name": names[piece.item_id], "piece": piece.id} for piece in pieces],
        "vehicles": [_row(vehicle, "vehicles") for vehicle in session.scalars(select(Vehicle).order_by(Vehicle.id))],
        "aliases": [_row(alias, "aliases") for alias in session.scalars(select(SizeAlias).order_by(SizeAlias.code))],
        "terms": _editions(session),
    }


def _editions(session: Session) -> list[dict[str, Any]]:
    """Every edition that holds from some day on; of two from the same day the one that was written last."""
    rows = session.scalars(select(TermsRow).order_by(func.lower(TermsRow.line), TermsRow.id))
    return list({(row.line.lower(), row.holds_from): _row(row, "terms") for row in rows}.values())


def _row(row: Any, kind: str) -> dict[str, Any]:
    return {name: getattr(row, name) for name in INTO[kind].columns}

"""The fit, asked of the database: which items go in, which need a change, and why the others do not.

It gives the same verdict as `core.matching` does in words (a property test holds the two against each other); numbers come
from the core's `Bounds` alone, as parameters. Written as text for the driver: a condition that is not asked is not in the
statement, so that PostgreSQL plans for just what is, and nothing is built anew for each asking but a few lines.

What could go in is drawn by box: `item_boxes` has each outside and size name the catalogue holds but once, a trigger keeps
it, and the items' index holds all that is asked of an item, so that the table is read only for the few that are shown.
"""

import json
import re
from collections.abc import Sequence
from datetime import date
from functools import lru_cache
from typing import Any, NamedTuple

from ..core.goods.importing.item_columns import MATCHED
from ..core.matching import Bounds
from .base import STORE, StoreSession

SIDES_OF_A_BOX = ("length_mm", "width_mm", "height_mm")
BOTH = ["left", "right"]
LOOKED_AT = 200
"""So many of what nearly fits are put in order; beyond that any will do."""
COLUMNS = ("id", *MATCHED)
"""What the core reads of an item."""


class FoundPiece(NamedTuple):
    """A piece unsold and not set aside."""

    id: int
    arrived_on: date
    made_on: date | None
    dry_charged: bool
    filled_on: date | None
    charged_on: date | None
    last_volts: float | None
    last_volts_on: date | None


class Found(NamedTuple):
    """An item with how it stands, its pieces (the oldest first), who brings it and what is on order."""

    item: dict[str, Any]
    fits: bool
    near: bool
    excluded: bool
    pieces: list[FoundPiece]
    supplier: tuple[int, list[int], str] | None
    orders: list[tuple[int, date | None]]
    elsewhere: dict[str, int]
    """Pieces of the name in other stores of the house, where this one has none."""


class Counted(NamedTuple):
    """How many items something stands against, by what it is."""

    about: str
    items: int


def matching_items(session: StoreSession, bounds: Bounds, at_most: int, misses: int) -> tuple[list[Found], int]:
    """What fits, what nearly does, and how many fit: what the terms leave out last, exact before near, in stock first,
    cheapest first. Of what nearly fits, the type asked for first."""
    binds = {**parameters(bounds), "store": session.info[STORE], "at_most": at_most, "misses": misses}
    rows = asked_of(session, statement_for(bounds), binds)
    return [_item_of(row) for row in rows], max((row[3] for row in rows), default=0)


def asked_of(session: StoreSession, statement: str, values: dict[str, Any]) -> Sequence[Any]:
    """The rows of a statement, sent as it is."""
    return session.connection().exec_driver_sql(as_sent(statement), values).all()


@lru_cache(maxsize=256)
def as_sent(statement: str) -> str:
    """With the driver's marks, and short: what is long it takes apart anew each time."""
    return re.sub(r"(?<!:):([a-z]\w*)", r"%(\1)s", " ".join(statement.split()))


def statement_for(bounds: Bounds) -> str:
    """The one statement a match asks; `parameters` has its figures."""
    stands = against(bounds, inside=True)
    how_many = " + ".join(f"({condition})::int" for condition in stands.values())
    any_of = _or(list(stands.values()))
    order = "i.in_stock = 0 as away, i.price_cents"
    return f"""
        with could as materialized (
          {_statement(bounds, f"i.id, b.changes or {_or(changes(bounds))} as near, {EXCLUDED} as excluded, {order}", f"not ({any_of})")}
        ), fits as (
          select id, near or excluded as near, excluded from could order by 3, 2, away, price_cents, id limit :at_most
        ), misses as materialized (
          select id from (
            {_statement(bounds, f"i.id, {how_many} as n, b.chemistry <> :chemistry as other, {order}", f"({any_of})", any_side=True)}
            limit {LOOKED_AT}
          ) nearest order by n, other, away, price_cents limit :misses
        ), picked as (
          select id, true as fits, near, excluded from fits union all select id, false, false, false from misses
        ), theirs as (
          select name, json_object_agg(store, pieces) as pieces from pieces_elsewhere(array(
            select name::text from picked join catalogue_items using (id) where in_stock = 0)) group by name
        )
        select p.fits, p.near, p.excluded, (select count(*) from could), s.lead_days, s.delivers_on, s.order_before,
          case when i.in_stock > 0 then (
            select json_agg(json_build_array(id, arrived_on, made_on, dry_charged, filled_on, charged_on, last_volts, last_volts_on)
                            order by arrived_on, id)
            from stock_pieces where item_id = i.id and sold_on is null and mark = ''
          ) end,
          (select json_agg(json_build_array(pieces, expected_on) order by id) from order_notes
           where store_id = :store and item_id = i.id and state = 'open'),
          theirs.pieces, {", ".join(f"i.{name}" for name in COLUMNS)}
        from picked p join catalogue_items i on i.id = p.id left join suppliers s on s.id = i.supplier_id
        left join theirs on theirs.name = i.name
        order by not p.fits, p.excluded, p.near, i.in_stock = 0, i.price_cents, i.name
    """


def _item_of(row: Any) -> Found:
    fits, near, excluded, _, lead_days, delivers_on, order_before, pieces, orders, elsewhere, *item = row
    return Found(
        item=dict(zip(COLUMNS, item, strict=True)),
        fits=fits,
        near=bool(near),
        excluded=bool(excluded),
        pieces=[_piece(piece) for piece in pieces or ()],
        supplier=None if lead_days is None else (lead_days, delivers_on, order_before),
        orders=[(count, _day(expected)) for count, expected in orders or ()],
        elsewhere=elsewhere or {},
    )


def _piece(values: list[Any]) -> FoundPiece:
    number, arrived, made, dry, filled, charged, volts, volts_on = values
    return FoundPiece(
        number, date.fromisoformat(arrived), _day(made), dry, _day(filled), _day(charged), volts, _day(volts_on)
    )


def _day(text: str | None) -> date | None:
    return None if text is None else date.fromisoformat(text)


def why_not(session: StoreSession, bounds: Bounds) -> tuple[list[Counted], int]:
    """How many items each thing stands against, the commonest first, and how many do not fit in all."""
    stands = against(bounds)
    counts = ", ".join(f"count(*) filter (where {condition})" for condition in stands.values())
    any_of = _or(list(stands.values()))
    statement = f"select {counts}, count(*) from item_boxes b join catalogue_items i using (store_id, box_key) where b.store_id = :store and ({any_of})"
    binds = {**parameters(bounds), "store": session.info[STORE]}
    *result, total = asked_of(session, statement, binds)[0]
    named = [Counted(name, count) for name, count in zip(stands, result, strict=True) if count]
    return sorted(named, key=lambda word: -word.items), total


EXCLUDED = (
    "i.line_key in (select line_key from (select distinct on (lower(line)) lower(line) as line_key, excluded_uses"
    " from warranty_terms where store_id = :store and (holds_from is null or holds_from <="
    " (now() at time zone (select time_zone from stores where id = :store))::date)"
    " order by lower(line), holds_from desc nulls last, id desc) held where :use = any(excluded_uses))"
)
"""Whether the terms of an item's line that hold today leave the use out."""


def parameters(bounds: Bounds) -> dict[str, Any]:
    """Every figure a condition may ask for, by name."""
    binds: dict[str, Any] = {
        "volts": bounds.nominal_volts, "side": bounds.positive_side, "both": BOTH, "spare": bounds.spare_cable_mm,
        "insets": 2 * bounds.post_inset_mm, "posts": list(bounds.posts or ()), "shims": list(bounds.posts_with_shims),
        "ledges": list(bounds.ledges or ()), "chemistry": bounds.chemistry, "chemistries": list(bounds.chemistries),
        "least": bounds.least_cca_amps, "named": list(bounds.same), "vent_side": bounds.vent_side, "use": bounds.use,
    }  # fmt: skip
    for name, box in (("s", bounds.by_size), ("t", bounds.by_tape)):
        for side, least, free, most in zip("lwh", box.least, box.without_change, box.most, strict=True) if box else ():
            binds |= {f"{name}{side}0": least, f"{name}{side}1": most, f"{name}{side}f": free}
    for name, needs in (("ah", bounds.ah), ("rc", bounds.minutes)):
        if needs is not None:
            binds |= {f"{name}0": needs[0], f"{name}1": needs[1]}
    spread = {scale: 1 + spread for scale, spread in bounds.spreads.items() if spread}
    return binds | {"spread": json.dumps(spread), "widest": max(spread.values(), default=1.0)}


def _statement(bounds: Bounds, columns: str, kept: str, any_side: bool = False) -> str:
    """What a wide net holds (volts, side, and the box with its largest changes or the very name) and `kept` keeps. Box by box
    ("offset 0" holds the planner to it), so that however it counts, only items of these boxes are read."""
    sided = "= any(:both)" if any_side or not bounds.positive_side or bounds.spare_cable_mm > 0 else "= :side"
    net = _within("t") if bounds.by_tape is not None else f"({_within('s')} or {NAMED})"
    return f"""select i.* from (
            select *, ({_or(changes_of_box(bounds))}) as changes from item_boxes b
            where b.store_id = :store and b.nominal_volts = :volts and b.positive_side {sided} and {net} offset 0
          ) b cross join lateral (
            select {columns} from catalogue_items i where i.store_id = :store and i.box_key = b.box_key and {kept} offset 0
          ) i"""


NAMED = "b.group_code = any(:named)"


def _within(box: str, least: str = "0") -> str:
    return " and ".join(
        f"b.{name} between :{box}{side}{least} and :{box}{side}1"
        for name, side in zip(SIDES_OF_A_BOX, "lwh", strict=True)
    )


def _of_the_place(bounds: Bounds, inside: bool) -> list[str]:
    """What of the place itself keeps an item out: its outside."""
    out = []
    if bounds.by_size is not None and not (inside and bounds.by_tape is None):
        out.append(f"not ({NAMED}) and not ({_within('s')})")
    if bounds.by_tape is not None and not inside:
        out.append(f"not ({_within('t')})")
    return out


def against(bounds: Bounds, inside: bool = False) -> dict[str, str]:
    """What keeps an item out, by what it is about; of what the net holds, volts and its box are not asked again. None of
    them is ever unknown."""
    place = " or ".join(f"({place})" for place in _of_the_place(bounds, inside))
    stands = {
        **({} if inside else {"volts": "b.nominal_volts <> :volts"}),
        **({"size": place} if place else {}),
        "rating": TOO_WEAK,
        "chemistry": "b.chemistry <> all(:chemistries)",
    }
    if bounds.positive_side is not None:
        reaches = "b.length_mm - :insets > :spare" if bounds.spare_cable_mm > 0 else "true"
        stands["positive"] = f"b.positive_side <> :side and {reaches}"
    if bounds.posts is not None:
        stands["post"] = "b.post <> all(:posts)"
    if bounds.ah is not None:
        stands["capacity"] = "coalesce(i.capacity_ah_20h <= :ah0, false)"
    if bounds.minutes is not None:
        stands["reserve"] = "coalesce(i.reserve_minutes <= :rc0, false)"
    if bounds.vent_tube:
        stands["vent"] = "not b.vent_tube"
    return stands


def changes_of_box(bounds: Bounds) -> list[str]:
    """What has to change for all items of a box that fit."""
    result = []
    if bounds.by_size is not None:
        result.append(f"not ({NAMED})")
    if bounds.by_tape is not None:
        result.append(f"not ({_within('t', 'f')})")
    if bounds.positive_side is not None:
        result.append("b.positive_side <> :side")
    if bounds.posts_with_shims:
        result.append("b.post = any(:shims)")
    if bounds.ledges is not None:
        result.append("b.ledge <> all(:ledges)")
    return result


def changes(bounds: Bounds) -> list[str]:
    """What else of an item that fits has to change, but for terms that leave the use out."""
    result = ["i.cca_amps < :least"]
    if bounds.ah is not None:
        result.append("coalesce(i.capacity_ah_20h <= :ah1, true)")
    if bounds.minutes is not None:
        result.append("coalesce(i.reserve_minutes <= :rc1, true)")
    if bounds.vent_tube and bounds.vent_side:
        result.append("coalesce(i.vent_side <> :vent_side, false)")
    return result


def _or(conditions: Sequence[str]) -> str:
    return " or ".join(f"({condition})" for condition in conditions) or "false"


TOO_WEAK = """i.cca_amps < :least and (i.cca_amps * :widest::float8 < :least
  or i.cca_amps * coalesce((:spread::jsonb ->> i.rated_scale)::float8, 1) < :least)"""
"""Less than asked with the spread of its scale. Most are told by the first or the second comparison."""

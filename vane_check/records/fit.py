"""The fit, asked of the database: which items go in, which need a change, and why the others do not.

It gives the same verdict as `core.matching` does in words (a property test holds the two against each other); numbers come
from the core's `Bounds` alone, as parameters. Written as text: a condition that is not asked is not in the statement, so
that PostgreSQL plans for just what is, and nothing is built anew for each asking but a few lines.
"""

from datetime import date
from typing import Any, NamedTuple

from sqlalchemy import text

from ..core.matching import Bounds
from .base import STORE, StoreSession

SIDES_OF_A_BOX = ("length_mm", "width_mm", "height_mm")
BOTH = ["left", "right"]
LOOKED_AT = 200
"""So many of what nearly fits are put in order; beyond that any will do."""
COLUMNS = (
    "id", "line", "name", "group_code", "length_mm", "width_mm", "height_mm", "nominal_volts", "positive_side", "post", "ledge",
    "same_as", "chemistry", "cca_amps", "rated_amps", "rated_scale", "capacity_ah_20h", "reserve_minutes", "vent_tube",
    "vent_side", "price_cents",
)  # fmt: skip
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


class Counted(NamedTuple):
    """How many items something stands against, by what it is."""

    about: str
    items: int


def found_for(session: StoreSession, bounds: Bounds, at_most: int, misses: int) -> tuple[list[Found], int]:
    """What fits, what nearly does, and how many fit: what the terms leave out last, exact before near, in stock first,
    cheapest first. Of what nearly fits, the type asked for first."""
    told = {**parameters(bounds), "store": session.info[STORE], "at_most": at_most, "misses": misses}
    rows = session.execute(text(statement_for(bounds)), told).all()
    return [_found(row) for row in rows], max((row[3] for row in rows), default=0)


def statement_for(bounds: Bounds) -> str:
    """The one statement a match asks; `parameters` has its figures."""
    stands, place = against(bounds), " and ".join(f"not ({one})" for one in _of_the_place(bounds))
    how_many = " + ".join(f"({one})::int" for one in stands.values())
    any_of = " or ".join(f"({one})" for one in stands.values())
    return f"""
        with fits as materialized (
          select i.id, ({changes(bounds)}) as near, {EXCLUDED} as excluded, count(*) over () as total
          from catalogue_items i where i.store_id = :store and {could_fit(bounds)} and not ({any_of})
          order by 3, 2, i.in_stock = 0, i.price_cents, i.name limit :at_most
        ), misses as materialized (
          select id from (
            select i.id, {how_many} as n, i.chemistry <> :chemistry as other, i.in_stock = 0 as away, i.price_cents
            from catalogue_items i where i.store_id = :store and {could_fit(bounds, any_side=True)} and {place} and ({any_of})
            limit {LOOKED_AT}
          ) nearest order by n, other, away, price_cents limit :misses
        ), picked as (
          select id, true as fits, near, excluded, total from fits
          union all select id, false, false, false, 0 from misses
        )
        select p.fits, p.near, p.excluded, p.total, s.lead_days, s.delivers_on, s.order_before,
          case when i.in_stock > 0 then (
            select json_agg(json_build_array(id, arrived_on, made_on, dry_charged, filled_on, charged_on, last_volts, last_volts_on)
                            order by arrived_on, id)
            from stock_pieces where item_id = i.id and sold_on is null and mark = ''
          ) end as pieces,
          (select json_agg(json_build_array(pieces, expected_on) order by id) from order_notes
           where store_id = :store and item_id = i.id and state = 'open') as orders,
          {", ".join(f"i.{name}" for name in COLUMNS)}
        from picked p join catalogue_items i on i.id = p.id left join suppliers s on s.id = i.supplier_id
    """


def _found(row: Any) -> Found:
    fits, near, excluded, _, lead_days, delivers_on, order_before, pieces, orders, *item = row
    return Found(
        item=dict(zip(COLUMNS, item, strict=True)),
        fits=fits,
        near=bool(near),
        excluded=bool(excluded),
        pieces=[_piece(piece) for piece in pieces or ()],
        supplier=None if lead_days is None else (lead_days, delivers_on, order_before),
        orders=[(count, _day(expected)) for count, expected in orders or ()],
    )


def _piece(told: list[Any]) -> FoundPiece:
    number, arrived, made, dry, filled, charged, volts, volts_on = told
    return FoundPiece(
        number, date.fromisoformat(arrived), _day(made), dry, _day(filled), _day(charged), volts, _day(volts_on)
    )


def _day(told: str | None) -> date | None:
    return None if told is None else date.fromisoformat(told)


def why_not(session: StoreSession, bounds: Bounds) -> tuple[list[Counted], int]:
    """How many items each thing stands against, the commonest first, and how many do not fit in all."""
    stands = against(bounds)
    counts = ", ".join(f"count(*) filter (where {one})" for one in stands.values())
    any_of = " or ".join(f"({one})" for one in stands.values())
    statement = f"select {counts}, count(*) from catalogue_items i where i.store_id = :store and ({any_of})"
    told = {**parameters(bounds), "store": session.info[STORE]}
    *found, total = session.execute(text(statement), told).one()
    named = [Counted(name, count) for name, count in zip(stands, found, strict=True) if count]
    return sorted(named, key=lambda one: -one.items), total


EXCLUDED = "coalesce(lower(i.line) in (select lower(line) from warranty_terms where store_id = :store and :use = any(excluded_uses)), false)"
"""Whether the terms of an item's line leave the use out."""


def parameters(bounds: Bounds) -> dict[str, Any]:
    """Every figure a condition may ask for, by name."""
    told: dict[str, Any] = {
        "volts": bounds.nominal_volts, "side": bounds.positive_side, "both": BOTH, "spare": bounds.spare_cable_mm,
        "insets": 2 * bounds.post_inset_mm, "posts": list(bounds.posts or ()), "shims": list(bounds.posts_with_shims),
        "ledges": list(bounds.ledges or ()), "chemistry": bounds.chemistry, "chemistries": list(bounds.chemistries),
        "least": bounds.least_cca_amps, "named": list(bounds.same), "vent_side": bounds.vent_side, "use": bounds.use,
    }  # fmt: skip
    for name, box in (("s", bounds.by_size), ("t", bounds.by_tape)):
        for side, least, free, most in zip("lwh", box.least, box.without_change, box.most, strict=True) if box else ():
            told |= {f"{name}{side}0": least, f"{name}{side}1": most, f"{name}{side}f": free}
    for name, asked in (("ah", bounds.ah), ("rc", bounds.minutes)):
        if asked is not None:
            told |= {f"{name}0": asked[0], f"{name}1": asked[1]}
    return told | {f"spread_{scale}": 1 + spread for scale, spread in bounds.spreads.items() if spread}


def could_fit(bounds: Bounds, any_side: bool = False) -> str:
    """A wide net that indexes can draw: volts, side, and the box with its largest changes or the very name."""
    side = "i.positive_side = any(:both)"
    if not any_side and bounds.positive_side and bounds.spare_cable_mm <= 0:
        side = "i.positive_side = :side"
    net = _within("t") if bounds.by_tape is not None else f"({_within('s')} or {NAMED})"
    return f"i.nominal_volts = :volts and {side} and {net}"


NAMED = "i.group_code = any(:named)"


def _within(box: str, least: str = "0") -> str:
    return " and ".join(
        f"i.{name} between :{box}{side}{least} and :{box}{side}1"
        for name, side in zip(SIDES_OF_A_BOX, "lwh", strict=True)
    )


def _of_the_place(bounds: Bounds) -> list[str]:
    """What of the place itself keeps an item out: its outside."""
    out = []
    if bounds.by_size is not None:
        out.append(f"not ({NAMED}) and not ({_within('s')})")
    if bounds.by_tape is not None:
        out.append(f"not ({_within('t')})")
    return out


def against(bounds: Bounds) -> dict[str, str]:
    """What keeps an item out, by what it is about. None of them is ever unknown."""
    stands = {
        "volts": "i.nominal_volts <> :volts",
        "size": " or ".join(f"({one})" for one in _of_the_place(bounds)),
        "rating": f"{_with_spread(bounds)} < :least",
        "chemistry": "i.chemistry <> all(:chemistries)",
    }
    if bounds.positive_side is not None:
        reaches = "i.length_mm - :insets > :spare" if bounds.spare_cable_mm > 0 else "true"
        stands["positive"] = f"i.positive_side <> :side and {reaches}"
    if bounds.posts is not None:
        stands["post"] = "i.post <> all(:posts)"
    if bounds.ah is not None:
        stands["capacity"] = "coalesce(i.capacity_ah_20h <= :ah0, false)"
    if bounds.minutes is not None:
        stands["reserve"] = "coalesce(i.reserve_minutes <= :rc0, false)"
    if bounds.vent_tube:
        stands["vent"] = "not i.vent_tube"
    return stands


def changes(bounds: Bounds) -> str:
    """Whether something has to change for an item that fits: its terms leave the use out, or one of the rest."""
    found = [EXCLUDED, "i.cca_amps < :least"]
    if bounds.by_size is not None:
        found.append(f"not ({NAMED})")
    if bounds.by_tape is not None:
        found.append(f"not ({_within('t', 'f')})")
    if bounds.positive_side is not None:
        found.append("i.positive_side <> :side")
    if bounds.posts_with_shims:
        found.append("i.post = any(:shims)")
    if bounds.ledges is not None:
        found.append("i.ledge <> all(:ledges)")
    if bounds.ah is not None:
        found.append("coalesce(i.capacity_ah_20h <= :ah1, true)")
    if bounds.minutes is not None:
        found.append("coalesce(i.reserve_minutes <= :rc1, true)")
    if bounds.vent_tube and bounds.vent_side:
        found.append("coalesce(i.vent_side <> :vent_side, false)")
    return " or ".join(f"({one})" for one in found)


def _with_spread(bounds: Bounds) -> str:
    cases = " ".join(f"when '{scale}' then :spread_{scale}" for scale, spread in bounds.spreads.items() if spread)
    return f"i.cca_amps * cast(case i.rated_scale {cases} else 1.0 end as double precision)" if cases else "i.cca_amps"

"""The fit, asked of the database: which items go in, which need a change, and why the others do not.

It gives the same verdict as `core.matching` does in words (a property test holds the two against each other); numbers come
from the core's `Bounds` alone.
"""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import ColumnElement, Float, and_, any_, case, false, func, literal, not_, or_, select, true
from sqlalchemy import cast as sql_cast
from sqlalchemy.orm import Session

from ..core.matching import Bounds
from ..core.matching.bounds import Box
from .models import CatalogueItem, TermsRow

Item = CatalogueItem


class Verdict(NamedTuple):
    """An item's number and how it stands: whether something changes, and whether its terms leave the use out."""

    item_id: int
    near: bool
    excluded: bool


class Counted(NamedTuple):
    """How many items something stands against, by what it is."""

    about: str
    items: int


def excluded_lines(session: Session, use: str) -> list[str]:
    """Lines whose terms leave a use out, in small letters."""
    asked = select(func.lower(TermsRow.line)).select_from(TermsRow).where(literal(use) == any_(TermsRow.excluded_uses))
    return list(session.scalars(asked))


def fitting(session: Session, bounds: Bounds, at_most: int) -> tuple[list[Verdict], int]:
    """What fits and how many there are: what the terms leave out last, exact before near, in stock first, cheapest first."""
    near, excluded = changes(bounds), _excluded(excluded_lines(session, bounds.use))
    asked = (
        select(Item.id, near, excluded, func.count().over())
        .where(could_fit(bounds), not_(or_(*against(bounds).values())))
        .order_by(excluded, or_(near, excluded), Item.in_stock == 0, Item.price_cents, Item.name)
        .limit(at_most)
    )
    rows = session.execute(asked).all()
    return [Verdict(item_id, is_near, left_out) for item_id, is_near, left_out, _ in rows], rows[0][3] if rows else 0


def near_misses(session: Session, bounds: Bounds, at_most: int) -> list[int]:
    """What nearly fits: of the size and in the place, with something else against it; of the type asked and in stock first."""
    stands = against(bounds)
    how_many = sum((case((one, 1), else_=0) for one in stands.values()), literal(0))
    place = not_(or_(false(), *(stands[name] for name in ("size", "volts") if name in stands)))
    nearest = (
        select(
            Item.id,
            how_many.label("n"),
            (Item.chemistry != bounds.chemistry).label("other"),
            Item.in_stock,
            Item.price_cents,
        )
        .where(could_fit(bounds), place, or_(*stands.values()))
        .limit(LOOKED_AT)
        .subquery()
    )
    asked = (
        select(nearest.c.id)
        .order_by(nearest.c.n, nearest.c.other, nearest.c.in_stock == 0, nearest.c.price_cents)
        .limit(at_most)
    )
    return list(session.scalars(asked))


LOOKED_AT = 400
"""So many of what nearly fits are put in order; beyond that any will do."""


def why_not(session: Session, bounds: Bounds) -> tuple[list[Counted], int]:
    """How many items each thing stands against, the commonest first, and how many do not fit in all."""
    stands = against(bounds)
    counts = [func.count().filter(one) for one in stands.values()]
    *found, total = session.execute(select(*counts, func.count()).select_from(Item).where(or_(*stands.values()))).one()
    named = [Counted(name, count) for name, count in zip(stands, found, strict=True) if count]
    return sorted(named, key=lambda one: -one.items), total


def could_fit(bounds: Bounds) -> ColumnElement[bool]:
    """A wide net that indexes can draw: the volts, and the box with its largest changes or the very name."""
    boxes = [_within(box, box.least) for box in (bounds.by_size, bounds.by_tape) if box is not None]
    net = and_(*boxes)
    if bounds.by_size is not None and bounds.by_tape is None:
        net = or_(net, _named(bounds))
    elif bounds.by_tape is not None:
        net = boxes[-1]
    return and_(Item.nominal_volts == bounds.nominal_volts, net)


def _named(bounds: Bounds) -> ColumnElement[bool]:
    return or_(Item.group_code.in_(bounds.same), Item.same_as.in_(bounds.same)) if bounds.same else false()


def _within(box: Box, least: tuple[float, float, float]) -> ColumnElement[bool]:
    sides = (Item.length_mm, Item.width_mm, Item.height_mm)
    return and_(*(side.between(low, high) for side, low, high in zip(sides, least, box.most, strict=True)))


def against(bounds: Bounds) -> dict[str, ColumnElement[bool]]:
    """What keeps an item out, by what it is about."""
    stands: dict[str, ColumnElement[bool]] = {"volts": Item.nominal_volts != bounds.nominal_volts}
    out = []
    if bounds.by_size is not None:
        out.append(and_(not_(_named(bounds)), not_(_within(bounds.by_size, bounds.by_size.least))))
    if bounds.by_tape is not None:
        out.append(not_(_within(bounds.by_tape, bounds.by_tape.least)))
    stands["size"] = or_(*out)
    if bounds.positive_side is not None:
        stands["positive"] = and_(Item.positive_side != bounds.positive_side, not_(_reaches(bounds)))
    if bounds.posts is not None:
        stands["post"] = Item.post.not_in(bounds.posts)
    stands["rating"] = _with_spread(bounds) < bounds.least_cca_amps
    if bounds.ah is not None:
        stands["capacity"] = func.coalesce(Item.capacity_ah_20h <= bounds.ah[0], false())
    if bounds.minutes is not None:
        stands["reserve"] = func.coalesce(Item.reserve_minutes <= bounds.minutes[0], false())
    stands["chemistry"] = Item.chemistry.not_in(bounds.chemistries)
    if bounds.vent_tube:
        stands["vent"] = not_(Item.vent_tube)
    return stands


def changes(bounds: Bounds) -> ColumnElement[bool]:
    """Whether something has to change for an item that fits."""
    found: list[ColumnElement[bool]] = [Item.cca_amps < bounds.least_cca_amps]
    if bounds.by_size is not None:
        found.append(not_(_named(bounds)))
    if bounds.by_tape is not None:
        found.append(not_(_within(bounds.by_tape, bounds.by_tape.without_change)))
    if bounds.positive_side is not None:
        found.append(Item.positive_side != bounds.positive_side)
    if bounds.posts_with_shims:
        found.append(Item.post.in_(bounds.posts_with_shims))
    if bounds.ledges is not None:
        found.append(Item.ledge.not_in(bounds.ledges))
    if bounds.ah is not None:
        found.append(func.coalesce(Item.capacity_ah_20h <= bounds.ah[1], true()))
    if bounds.minutes is not None:
        found.append(func.coalesce(Item.reserve_minutes <= bounds.minutes[1], true()))
    if bounds.vent_tube and bounds.vent_side:
        found.append(and_(Item.vent_side.is_not(None), Item.vent_side != bounds.vent_side))
    return or_(*found)


def _reaches(bounds: Bounds) -> ColumnElement[bool]:
    if bounds.spare_cable_mm <= 0:
        return false()
    return Item.length_mm - 2 * bounds.post_inset_mm <= bounds.spare_cable_mm


def _with_spread(bounds: Bounds) -> ColumnElement[float]:
    by_scale = {scale: 1 + spread for scale, spread in bounds.spreads.items() if spread}
    if not by_scale:
        return sql_cast(Item.cca_amps, Float)
    return Item.cca_amps * case(by_scale, value=Item.rated_scale, else_=1.0)


def _excluded(lines: Sequence[str]) -> ColumnElement[bool]:
    return func.lower(Item.line).in_(lines) if lines else literal(False)

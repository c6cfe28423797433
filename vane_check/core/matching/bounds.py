"""What is asked as bare figures, so that a database can decide the fit by itself: the same verdict, without the words."""

import math
from collections.abc import Callable
from typing import NamedTuple

from ..battery.label import Chemistry
from ..house.rules import HouseRules
from ..tables import footprints
from ..units.compare import AMPS, PERCENT
from .points import chemistry_points
from .requirement import Requirement, spread_of
from .size_points import GRIPS
from .space import Room, Space, is_named_alike, space_of


class Box(NamedTuple):
    """Between which millimetres an outside fits at all, and from which on nothing has to change."""

    least: tuple[int, int, int]
    without_change: tuple[int, int, int]
    most: tuple[int, int, int]


class Bounds(NamedTuple):
    """A requirement in figures."""

    same: tuple[str, ...]
    by_size: Box | None
    by_tape: Box | None
    nominal_volts: int
    positive_side: str | None
    spare_cable_mm: float
    post_inset_mm: float
    posts: tuple[str, ...] | None
    posts_with_shims: tuple[str, ...]
    ledges: tuple[str, ...] | None
    chemistry: str
    chemistries: tuple[str, ...]
    least_cca_amps: float
    cca_scale: str
    spreads: dict[str, float]
    """How far a rating on each scale may be off against the one asked."""
    ah: tuple[float, float] | None
    """Ah it must have at least, and from which on nobody minds."""
    minutes: tuple[float, float] | None
    vent_tube: bool
    vent_side: str | None
    use: str


def bounds_of(requirement: Requirement, rules: HouseRules) -> Bounds:
    """The figures of a requirement. Raises KeyError for a size that is not in the table."""
    space = space_of(requirement, rules)
    thick = space.post == "top"
    return Bounds(
        same=_alike(space),
        by_size=_box(space.by_size, rules) if space.by_size else None,
        by_tape=_box(space.by_tape, rules) if space.by_tape else None,
        nominal_volts=space.nominal_volts,
        positive_side=space.positive_side,
        spare_cable_mm=space.spare_cable_mm,
        post_inset_mm=rules.match.post_inset_mm.value,
        posts=None if space.post is None else (space.post, *(("pencil",) if thick else ())),
        posts_with_shims=("pencil",) if thick else (),
        ledges=_ledges(space),
        chemistry=requirement.chemistry.value,
        chemistries=tuple(chemistry.value for chemistry in chemistries_that_fit(requirement)),
        least_cca_amps=least_cca_amps(requirement),
        cca_scale=requirement.cca_scale.value,
        spreads={
            scale.value: 0.0 if scale is requirement.cca_scale else requirement.cca_spread + spread_of(scale)
            for scale in type(requirement.cca_scale)
        },
        ah=_at_least(requirement.min_capacity_ah, rules),
        minutes=_at_least(requirement.min_reserve_minutes, rules),
        vent_tube=requirement.vent_tube,
        vent_side=requirement.vent_side,
        use=requirement.use.value,
    )


def _box(room: Room, rules: HouseRules) -> Box:
    outside = (room.length_mm, room.width_mm, room.height_mm)
    spacer, tolerance = rules.match.spacer_max_mm.value, room.tolerance_mm
    length, width, height = (side - max(spacer, tolerance) for side in outside)
    return Box(
        least=_whole(math.ceil, length, width, 0 if room.is_tray else height),
        without_change=_whole(math.ceil, *(side - tolerance for side in outside)),
        most=_whole(math.floor, *(side + tolerance for side in outside)),
    )


def _whole(turn: Callable[[float], int], *sides: float) -> tuple[int, int, int]:
    """Whole millimetres, as cases are kept, that let the same ones through; what floats leave over is no millimetre."""
    length, width, height = (turn(round(side, 6)) for side in sides)
    return length, width, height


def _alike(space: Space) -> tuple[str, ...]:
    """Every code that names the size asked for."""
    by_table = {code for code, size in footprints().items() if is_named_alike(space, code, size.same_as)}
    return tuple(sorted(by_table | space.same))


def _ledges(space: Space) -> tuple[str, ...] | None:
    return None if space.ledge is None else tuple(sorted(GRIPS[space.ledge]))


def _at_least(least: float | None, rules: HouseRules) -> tuple[float, float] | None:
    if not least:
        return None
    half = PERCENT / 2
    most, unseen = rules.match.ah_short_most_pct.value + half, rules.match.ah_short_pct.value + half
    return least * (1 - most / 100), least * (1 - unseen / 100)


def chemistries_that_fit(requirement: Requirement) -> list[Chemistry]:
    """Every chemistry that may stand where this is asked."""
    return [
        chemistry
        for chemistry in Chemistry
        if all(point.stands != "against" for point in chemistry_points(requirement, chemistry))
    ]


def least_cca_amps(requirement: Requirement) -> float:
    """The smallest CCA [A] that still shows as what is asked for: half a step of the figure under it."""
    return requirement.min_cca_amps - AMPS / 2

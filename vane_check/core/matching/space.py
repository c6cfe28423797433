"""The place it goes into: a size of the table, a tray or an old case under the tape, with its posts and its hold-down."""

from typing import NamedTuple

from ..house.rules import HouseRules
from ..tables import footprints
from ..words import Words, say
from .requirement import Measured, Requirement


class Room(NamedTuple):
    """An outside to compare with [mm], and how far it may differ without a word."""

    name: Words
    length_mm: float
    width_mm: float
    height_mm: float
    tolerance_mm: float
    is_tray: bool


class Space(NamedTuple):
    """What is asked of a case. None where nobody knows it: then it is not compared."""

    code: str
    same: frozenset[str]
    by_size: Room | None
    by_tape: Room | None
    nominal_volts: int
    positive_side: str | None
    post: str | None
    ledge: str | None
    spare_cable_mm: float

    @property
    def old(self) -> Room:
        """The outside the differences are shown against."""
        by_size = self.by_size or self.by_tape
        assert by_size is not None, "a requirement has one of the two"
        return by_size


def space_of(requirement: Requirement, rules: HouseRules) -> Space:
    """The place a requirement describes. Raises KeyError for a size that is not in the table."""
    size = footprints()[requirement.group_code] if requirement.group_code else None
    taped = requirement.measured
    usual = rules.match.footprint_tolerance_mm.value
    codes = {requirement.group_code, size.same_as if size else "", *requirement.also_codes} - {""}
    return Space(
        code=requirement.group_code,
        same=frozenset(codes),
        by_size=Room(say("space.group", code=size.code), size.length_mm, size.width_mm, size.height_mm, usual, False)
        if size
        else None,
        by_tape=_room(taped, usual) if taped else None,
        nominal_volts=requirement.nominal_volts,
        positive_side=(taped.positive_side if taped else None)
        or requirement.positive_side
        or (size.positive_side if size else None),
        post=(taped.post if taped else None) or requirement.post or (size.post if size else None),
        ledge=(taped.ledge if taped else None) or requirement.ledge or (size.ledge if size else None),
        spare_cable_mm=requirement.spare_cable_mm,
    )


def _room(taped: Measured, usual: float) -> Room:
    name = say("space.the_tray") if taped.of == "tray" else say("space.the_old_one")
    tolerance = usual if taped.tolerance_mm is None else taped.tolerance_mm
    return Room(name, taped.length_mm, taped.width_mm, taped.height_mm, tolerance, taped.of == "tray")


def is_named_alike(space: Space, code: str, same_as: str) -> bool:
    """Whether an item's size is the one asked for, by one of its names."""
    needed = {space.code, *space.same}
    return bool(space.code) and (code in needed or same_as in needed)


def cable_needed_mm(length_mm: float, rules: HouseRules) -> float:
    """How much further a cable must reach to the other end of a case [mm]: from post to post."""
    return max(length_mm - 2 * rules.match.post_inset_mm.value, 0.0)

"""Case, posts, hold-down and volts of an item against the place it goes into."""

from collections.abc import Iterator

from ..house.rules import HouseRules
from .requirement import Candidate, Point
from .space import Room, Space, cable_needed_mm, is_named_alike

GRIPS = {"none": {"none", "long", "all"}, "long": {"long", "all"}, "all": {"all"}}
"""Which ledges a hold-down made for one of them takes."""
LEDGE_WORDS = {"none": "no ledge at its foot", "long": "a ledge on its long sides", "all": "a ledge all round its foot"}


def size_points(space: Space, has: Candidate, rules: HouseRules) -> list[Point]:
    """Everything of an item's outside that fits, changes something or stands against it."""
    return [*_volts(space, has), *_outside(space, has, rules), *_posts(space, has, rules), *_ledge(space, has)]


def _volts(space: Space, has: Candidate) -> Iterator[Point]:
    if has.nominal_volts != space.nominal_volts:
        yield Point(about="volts", stands="against", text=f"{has.nominal_volts} V, the car has {space.nominal_volts} V")


def _outside(space: Space, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    alike = is_named_alike(space, has.group_code, has.same_as)
    if space.by_size is not None:
        if alike:
            yield Point(about="size", stands="fits", text=f"Group {has.group_code}: the size asked for")
        else:
            result = list(_held_against(space.by_size, has, f"Group {has.group_code}", rules))
            yield from result or [
                Point(
                    about="size", stands="changes",
                    text=f"Group {has.group_code}: another name, within {space.by_size.tolerance_mm:.0f} mm of "
                    f"{space.by_size.name}",
                )
            ]  # fmt: skip
    if space.by_tape is not None:
        room = space.by_tape
        result = list(_held_against(room, has, f"For {room.name} it", rules))
        yield from result or [
            Point(
                about="size", stands="fits",
                text=f"{has.length_mm} by {has.width_mm} by {has.height_mm} mm, within {room.tolerance_mm:.0f} mm of {room.name}",
            )
        ]  # fmt: skip


def _held_against(room: Room, has: Candidate, what: str, rules: HouseRules) -> Iterator[Point]:
    """It fits when nothing is larger and it is smaller by no more than a spacer fills; lower in a tray never hurts."""
    spacer = rules.match.spacer_max_mm.value
    for name, difference in (
        ("long", has.length_mm - room.length_mm),
        ("wide", has.width_mm - room.width_mm),
        ("high", has.height_mm - room.height_mm),
    ):
        if difference > room.tolerance_mm:
            yield Point(about="size", stands="against", text=f"{what} is {difference:.0f} mm too {name}")
        elif difference < -max(spacer, room.tolerance_mm) and not (room.is_tray and name == "high"):
            yield Point(
                about="size",
                stands="against",
                text=f"{what} is {-difference:.0f} mm less {name}: more than a spacer takes up ({spacer:.0f} mm)",
            )
        elif difference < -room.tolerance_mm:
            yield Point(about="size", stands="changes", text=f"{what} is {-difference:.0f} mm less {name}")


def _posts(space: Space, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    if space.positive_side in {None, has.positive_side}:
        yield Point(about="positive", stands="fits", text=f"Positive on the {has.positive_side}")
    else:
        yield _other_side(space, has, rules)
    if space.post in {None, has.post}:
        yield Point(about="post", stands="fits", text=f"{has.post.capitalize()} posts")
    elif (has.post, space.post) == ("pencil", "top"):
        yield Point(about="post", stands="changes", text="Thin posts where thick ones were: needs shims")
    else:
        yield Point(about="post", stands="against", text=f"{has.post.capitalize()} posts, the clamps take {space.post}")


def _other_side(space: Space, has: Candidate, rules: HouseRules) -> Point:
    needed, spare = cable_needed_mm(has.length_mm, rules), space.spare_cable_mm
    where = f"Positive on the {has.positive_side}, the cables reach the {space.positive_side}"
    if spare <= 0:
        return Point(about="positive", stands="against", text=where)
    if spare < needed:
        return Point(
            about="positive", stands="against",
            text=f"{where} and {spare:.0f} mm further: {needed:.0f} mm would be needed",
        )  # fmt: skip
    return Point(
        about="positive",
        stands="changes",
        text=f"{where}: both must reach {needed:.0f} mm further, {spare:.0f} mm are there",
    )


def _ledge(space: Space, has: Candidate) -> Iterator[Point]:
    if space.ledge is None or has.ledge in GRIPS[space.ledge]:
        return
    yield Point(
        about="ledge",
        stands="changes",
        text=f"It has {LEDGE_WORDS[has.ledge]}, the hold-down grips {LEDGE_WORDS[space.ledge]}: hold it over the top",
    )

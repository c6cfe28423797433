"""Case, posts, hold-down and volts of an item against the place it goes into."""

from collections.abc import Iterator

from ..house.rules import HouseRules
from ..words import NOTHING, Words, capital, fixed, say, word
from .requirement import Candidate, Point
from .space import Room, Space, cable_needed_mm, is_named_alike

GRIPS = {"none": {"none", "long", "all"}, "long": {"long", "all"}, "all": {"all"}}
"""Which ledges a hold-down made for one of them takes."""
LEDGE_WORDS = {
    "none": say("size_points.no_ledge_at_its_foot"),
    "long": say("size_points.a_ledge_on_its_long_sides"),
    "all": say("size_points.a_ledge_all_round_its_foot"),
}


def size_points(space: Space, has: Candidate, rules: HouseRules) -> list[Point]:
    """Everything of an item's outside that fits, changes something or stands against it."""
    return [*_volts(space, has), *_outside(space, has, rules), *_posts(space, has, rules), *_ledge(space, has)]


def _volts(space: Space, has: Candidate) -> Iterator[Point]:
    if has.nominal_volts != space.nominal_volts:
        yield Point(
            about="volts",
            stands="against",
            text=say("size_points.v_the_car_has_v", nominal_volts=has.nominal_volts, car_volts=space.nominal_volts),
        )


def _outside(space: Space, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    alike = is_named_alike(space, has.group_code, has.same_as)
    if space.by_size is not None:
        if alike:
            yield Point(
                about="size", stands="fits", text=say("size_points.group_the_size_asked_for", group_code=has.group_code)
            )
        else:
            result = list(_held_against(space.by_size, has, say("size_points.group", group_code=has.group_code), rules))
            yield from result or [
                Point(
                    about="size", stands="changes",
                    text=say('size_points.group_another_name_within_mm_of', group_code=has.group_code, tolerance_mm=fixed(space.by_size.tolerance_mm, 0), by_size_name=space.by_size.name),
                )
            ]  # fmt: skip
    if space.by_tape is not None:
        room = space.by_tape
        result = list(_held_against(room, has, say("size_points.for_it", room_name=room.name), rules))
        yield from result or [
            Point(
                about="size", stands="fits",
                text=say('size_points.by_by_mm_within_mm_of', length_mm=has.length_mm, width_mm=has.width_mm, height_mm=has.height_mm, tolerance_mm=fixed(room.tolerance_mm, 0), room_name=room.name),
            )
        ]  # fmt: skip


def _held_against(room: Room, has: Candidate, what: Words, rules: HouseRules) -> Iterator[Point]:
    """It fits when nothing is larger and it is smaller by no more than a spacer fills; lower in a tray never hurts."""
    spacer = rules.match.spacer_max_mm.value
    for name, difference in (
        ("long", has.length_mm - room.length_mm),
        ("wide", has.width_mm - room.width_mm),
        ("high", has.height_mm - room.height_mm),
    ):
        if difference > room.tolerance_mm:
            yield Point(
                about="size",
                stands="against",
                text=say("size_points.is_mm_too", what=what, difference=fixed(difference, 0), name=word(name)),
            )
        elif difference < -max(spacer, room.tolerance_mm) and not (room.is_tray and name == "high"):
            yield Point(
                about="size",
                stands="against",
                text=say(
                    "size_points.is_mm_less_more_than_a_spacer_takes_up_mm",
                    what=what,
                    difference=fixed(-difference, 0),
                    name=word(name),
                    spacer=fixed(spacer, 0),
                ),
            )
        elif difference < -room.tolerance_mm:
            yield Point(
                about="size",
                stands="changes",
                text=say("size_points.is_mm_less", what=what, difference=fixed(-difference, 0), name=word(name)),
            )


def _posts(space: Space, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    if space.positive_side in {None, has.positive_side}:
        yield Point(
            about="positive",
            stands="fits",
            text=say("size_points.positive_on_the", positive_side=word(has.positive_side)),
        )
    else:
        yield _other_side(space, has, rules)
    if space.post in {None, has.post}:
        yield Point(about="post", stands="fits", text=capital(say("size_points.posts", post=word(has.post))))
    elif (has.post, space.post) == ("pencil", "top"):
        yield Point(about="post", stands="changes", text=say("size_points.thin_posts_where_thick_ones_were_needs"))
    else:
        yield Point(
            about="post",
            stands="against",
            text=capital(
                say("size_points.posts_the_clamps_take", post=word(has.post), taken_post=word(space.post or ""))
            ),
        )


def _other_side(space: Space, has: Candidate, rules: HouseRules) -> Point:
    needed, spare = cable_needed_mm(has.length_mm, rules), space.spare_cable_mm
    where = say(
        "size_points.positive_on_the_the_cables_reach_the",
        positive_side=word(has.positive_side),
        reached_side=word(space.positive_side) if space.positive_side else NOTHING,
    )
    if spare <= 0:
        return Point(about="positive", stands="against", text=where)
    if spare < needed:
        return Point(
            about="positive", stands="against",
            text=say('size_points.and_mm_further_mm_would_be_needed', where=where, spare=fixed(spare, 0), needed=fixed(needed, 0)),
        )  # fmt: skip
    return Point(
        about="positive",
        stands="changes",
        text=say(
            "size_points.both_must_reach_mm_further_mm_are_there",
            where=where,
            needed=fixed(needed, 0),
            spare=fixed(spare, 0),
        ),
    )


def _ledge(space: Space, has: Candidate) -> Iterator[Point]:
    if space.ledge is None or has.ledge in GRIPS[space.ledge]:
        return
    yield Point(
        about="ledge",
        stands="changes",
        text=say(
            "size_points.it_has_the_hold_down_grips_hold_it_over",
            ledge_words=LEDGE_WORDS[has.ledge],
            gripped=LEDGE_WORDS[space.ledge],
        ),
    )

"""What must be done when a battery goes in, with the millimetres a near one needs."""

from ..house.rules import HouseRules
from ..words import Words, fixed, in_a_row, say, word
from .requirement import Candidate, Requirement
from .space import Space, cable_needed_mm, is_named_alike


def spacer_words(space: Space, has: Candidate) -> Words | None:
    """The spacer that fills what a case is shorter or narrower; None where none is needed."""
    if space.by_tape is None and is_named_alike(space, has.group_code, has.same_as):
        return None
    room = space.by_tape or space.old
    gaps = [
        say("adaptations.mm_of", gap=fixed(gap, 0), what=word(what))
        for what, gap in (("length", room.length_mm - has.length_mm), ("width", room.width_mm - has.width_mm))
        if gap > (room.tolerance_mm if space.by_tape else 0)
    ]
    return say("adaptations.fit_a_spacer_for_then_the_hold_down", gaps=in_a_row(gaps, "common.and")) if gaps else None


def to_do(requirement: Requirement, space: Space, has: Candidate, rules: HouseRules) -> list[Words]:
    """Every change this one needs, in the order it is done."""
    jobs: list[Words] = [say("adaptations.lay_old_and_new_side_by_side_before_it")]
    if spacer := spacer_words(space, has):
        jobs.append(spacer)
    lower = space.old.height_mm - has.height_mm
    if not is_named_alike(space, has.group_code, has.same_as) and lower > space.old.tolerance_mm:
        jobs.append(say("adaptations.the_hold_down_must_reach_mm_lower", lower=fixed(lower, 0)))
    if has.post == "pencil" and space.post == "top":
        jobs.append(say("adaptations.fit_shims_on_the_thin_posts"))
    if space.positive_side not in {None, has.positive_side}:
        jobs.append(
            say(
                "adaptations.lead_both_cables_mm_further_clear_of_metal",
                cable_needed_mm=fixed(cable_needed_mm(has.length_mm, rules), 0),
            )
        )
    if requirement.vent_tube:
        jobs.append(say("adaptations.connect_the_vent_tube_and_take_the_transit"))
    if requirement.stop_start:
        jobs.append(say("adaptations.register_the_new_battery_with_the_cars"))
    return jobs

"""What was seen stands in the way of a failing figure: dirt, dryness. A passing one passes through it."""

from typing import NamedTuple

from ..facts.case import Case
from ..facts.remembered import remembered_each
from ..findings.kinds import StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..readings import METHOD_OF, AnyReading, Corrosion
from ..words import Words, say


class Obstacle(NamedTuple):
    """Why a failing figure condemns nothing, and what to do: the job first, then the reading again."""

    why: Words
    step: StepKey


@remembered_each
def obstacle_of(reading: AnyReading, case: Case) -> Obstacle | None:
    """What stood in the way when this was read, by the look of that moment or by what its own form says."""
    method = METHOD_OF[type(reading)]
    look, last = case.look_at(reading), case.looks[-1] if case.looks else None
    again = method.again_by
    if method.corrosion_spoils:
        posts_clean = getattr(reading, "posts_clean", None)
        spoils = {Corrosion.HEAVY, Corrosion.LIGHT} if method.starting == "quick" else {Corrosion.HEAVY}
        corroded = posts_clean is False or (posts_clean is None and look is not None and look.corrosion in spoils)
        if corroded:
            return Obstacle(say("common.read_through_corroded_posts"), StepKey.CLEAN_POSTS)
    if not method.dryness_spoils:
        return None
    look = case.look_into(reading) or look
    if look is not None and case.is_thirsty(look):
        assert last is not None
        covered = next(
            (later for later in case.looks if later.taken_at > look.taken_at and not case.is_dry(later)), None
        )
        if covered is None if case.is_dry(look) else case.is_thirsty(last):
            return Obstacle(say("obstacles.read_with_too_little_acid_over_the_plates"), StepKey.TOP_UP)
        since = (covered or last).taken_at
        charged = case.charge_off_at is not None and case.charge_off_at > since
        return Obstacle(say("common.read_before_the_water_went_in"), again if charged else StepKey.CHARGE_AND_RETEST)
    if case.is_fresh_filling and case.looks[-1].taken_at <= reading.taken_at:
        return Obstacle(say("obstacles.not_charged_since_the_water_went_in"), StepKey.CHARGE_AND_RETEST)
    return None


def weaken(found: Finding, reading: AnyReading, case: Case) -> Finding:
    """The finding, condemning nothing where an obstacle stood in the way. A stuck charge is stopped all the same."""
    if found.points_to not in FAILED | {Outcome.WATCH} or found.remedy is StepKey.STOP_CHARGE:
        return found
    obstacle = obstacle_of(reading, case)
    if obstacle is None:
        return found
    return found.but(
        points_to=Outcome.CANNOT_TELL, status="doubtful", weight=case.rules.weight.doubtful.value, remedy=obstacle.step,
        text=say('obstacles.but_it_condemns_nothing', found_text=found.text, why=obstacle.why),
    )  # fmt: skip

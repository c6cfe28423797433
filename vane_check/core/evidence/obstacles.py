"""What was seen stands in the way of a failing figure: dirt, dryness. A passing one passes through it."""

from typing import NamedTuple

from ..kinds import StepKey
from ..once import once_each
from ..outcomes import FAILED, Finding, Outcome
from ..readings import (
    AdjustableLoad,
    AnyReading,
    Cells,
    ChargeRun,
    Corrosion,
    Crank,
    ElectronicTester,
    Eye,
    FixedLoad,
    Level,
    Look,
)
from . import Case
from .known import is_fresh_filling
from .look import sealed


class Obstacle(NamedTuple):
    """Why a failing figure condemns nothing, and what to do: the job first, then the reading again."""

    why: str
    step: StepKey


THROUGH_POSTS = (ElectronicTester, AdjustableLoad, FixedLoad, Crank)
AGAIN: dict[type, StepKey] = {
    ElectronicTester: StepKey.TESTER_AGAIN,
    AdjustableLoad: StepKey.LOAD_TEST,
    FixedLoad: StepKey.FIXED_TEST,
    Crank: StepKey.CRANK_TEST,
    Cells: StepKey.CELLS,
}


def is_thirsty(look: Look, case: Case) -> bool:
    """Whether a look found too little acid in a battery that can be opened."""
    if sealed(case):
        return False
    low = any(level in {Level.PLATES_BARE, Level.LOW} for level in look.levels)
    return low or (look.eye is Eye.CLEAR and case.battery.has_caps is True and not look.levels)


def is_dry(look: Look, case: Case) -> bool:
    """Whether plates stood bare, or a clear eye says so where there are caps."""
    bare = Level.PLATES_BARE in look.levels
    return is_thirsty(look, case) and (bare or not look.levels)


@once_each
def of(reading: AnyReading, case: Case) -> Obstacle | None:
    """What stood in the way when this was read, by the look of that moment or by what its own form says."""
    if isinstance(reading, Look):
        return None
    look, last = case.look_at(reading), case.looks[-1] if case.looks else None
    again = AGAIN.get(type(reading), StepKey.MEASURE_VOLTS)
    if isinstance(reading, THROUGH_POSTS):
        said = getattr(reading, "posts_clean", None)
        corroded = said is False or (said is None and look is not None and look.corrosion is Corrosion.HEAVY)
        if corroded:
            is_open = last is not None and last.corrosion is not Corrosion.NONE
            was_clean_after = last is not None and last.taken_at > reading.taken_at and not is_open
            return Obstacle("read through corroded posts", again if was_clean_after else StepKey.CLEAN_POSTS)
    if look is not None and is_thirsty(look, case):
        assert last is not None
        covered = next((one for one in case.looks if one.taken_at > look.taken_at and not is_dry(one, case)), None)
        if covered is None if is_dry(look, case) else is_thirsty(last, case):
            return Obstacle("read with too little acid over the plates", StepKey.TOP_UP)
        since = (covered or last).taken_at
        charged = case.charge_off_at is not None and case.charge_off_at > since
        return Obstacle("read before the water went in", again if charged else StepKey.CHARGE_AND_RETEST)
    if is_fresh_filling(case) and case.looks[-1].taken_at <= reading.taken_at:
        return Obstacle("not charged since the water went in", StepKey.CHARGE_AND_RETEST)
    return None


def held_back(found: Finding, reading: AnyReading, case: Case) -> Finding:
    """The finding, condemning nothing where an obstacle stood in the way. A stuck charge is stopped all the same."""
    if (
        found.points_to not in FAILED | {Outcome.WATCH}
        or isinstance(reading, Look | ChargeRun)
        or found.remedy is StepKey.STOP_CHARGE
    ):
        return found
    obstacle = of(reading, case)
    if obstacle is None:
        return found
    return found.but(
        points_to=Outcome.CANNOT_TELL, status="doubtful", weight=case.rules.weight_doubtful.value, remedy=obstacle.step,
        text=f"{found.text}; but {obstacle.why}: it condemns nothing",
    )  # fmt: skip

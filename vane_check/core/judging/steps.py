"""The next step: what to do, what it needs, why it is the cheapest that would settle the matter."""

from dataclasses import dataclass, replace
from functools import partial

from ..charging.plan import CHARGES, ChargePlan, plan_of
from ..evidence.stand import hours_stood, leak_pct_per_day, started_at_rest
from ..facts.case import Case
from ..facts.remembered import remembered
from ..facts.rest import school_hours
from ..facts.state_of_charge import load_min_volts, load_words
from ..findings.kinds import StepKey
from ..house.rules import HouseRules
from ..readings import Stand
from ..units.compare import AMPS, PERCENT, VOLTS, at_least, under
from ..units.conversions import MINUTES_PER_HOUR
from ..words import Argument, Words, capital, digits, fixed, in_a_row, say, say_from, word
from .jobs import Job
from .reasons import why_instead


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadFigures:
    """What a load test of this battery is set to and must hold. Volts at the end of the pull."""

    amps: float | None
    seconds: float
    min_volts: float
    can_pass: bool
    temperature_c: float
    temperature_measured: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class NextStep:
    """One thing to do next. `minutes` is work and waiting together."""

    key: StepKey
    text: Words
    why: Words
    needs: Words
    minutes: float
    load: LoadFigures | None = None
    job: str | None = None
    """The job's key where the step is a job."""
    plan: ChargePlan | None = None
    """What the charger is set to where the step is a charge; None in judgements kept before this was told."""


JOB_STEPS = {"clean_posts": StepKey.CLEAN_POSTS, "clean_top": StepKey.CLEAN_TOP, "top_up": StepKey.TOP_UP}
"""Jobs that are steps of their own; every other is done as its words say."""


def job_step(job: Job, case: Case) -> NextStep:
    """The step that does a job."""
    result = step(JOB_STEPS.get(job.key, StepKey.DO_JOB), case)
    text = result.text if job.key in JOB_STEPS else capital(job.text)
    return replace(result, text=text, job=job.key)


def lacks_tool(key: StepKey, rules: HouseRules) -> bool:
    """Whether this house has not got what a step is done with."""
    return key.tool is not None and key.tool not in rules.steps.tools_at_hand.value


def stand_hours(case: Case) -> float:
    """Hours of standing [h] that are asked: a night, and another where its start may have had surface charge on it; what makes days of it
    where a small loss is left, or where its story says that it went flat standing."""
    last, off, rules = case.last_of(Stand), case.charge_off_at, case.rules.stand
    night, days = rules.hours.value, rules.long_hours.value
    if last is None or (off is not None and last.taken_at <= off):
        return night
    doubt = at_least(leak_pct_per_day(last, case), rules.leak_doubt_pct_per_day.value, PERCENT)
    large = at_least(leak_pct_per_day(last, case), rules.leak_pct_per_day.value, PERCENT)
    if not case.went_flat_standing and (large or not (doubt and started_at_rest(last, case))):
        return night
    return max(days - hours_stood(last, case), days - night)


def minutes_of(key: StepKey, case: Case) -> float:
    """What a step costs here [min]: its work and waiting, the charge it needs first, the tool that must be got."""
    rules = case.rules
    if key is StepKey.STAND:
        return stand_hours(case) * MINUTES_PER_HOUR
    watched = key in {StepKey.CHARGE_AND_WATCH, StepKey.WATCH_CHARGE}
    plan = plan_of(case, key) if key in CHARGES and not watched else None
    minutes = (
        rules.cells.watch_minutes.value
        if watched
        else rules.steps.minutes.value[key]
        if plan is None
        else plan.hours * MINUTES_PER_HOUR
    )
    if lacks_tool(key, rules):
        minutes += rules.steps.missing_tool_minutes.value
    last = case.valid_rest_volts[-1] if case.valid_rest_volts else None
    if key.wants_charge and last is not None and under(last.volts, case.recharge_line_volts, VOLTS):
        minutes += minutes_of(StepKey.CHARGE_AND_RETEST, case)
    return minutes


def _figures_of(case: Case) -> dict[str, Argument]:
    """The figures of the house that a step's words may ask for."""
    rules = case.rules
    return {
        "headlamp_minutes": digits(rules.rest.headlamp_seconds.value / 60),
        "rest_hours": digits(school_hours(case.rules)),
        "load_wait_minutes": digits(rules.load.wait_minutes.value),
        "stand_hours": digits(stand_hours(case)),
        "watch_minutes": digits(rules.cells.watch_minutes.value),
        "fixed_seconds": digits(rules.fixed_load.seconds.value),
        "gate_pct": digits(rules.load.gate_soc_pct.value),
        "load_words": load_words(rules),
    }


def step(key: StepKey, case: Case, because: Words | None = None, passing_amps: float | None = None) -> NextStep:
    """The step of a key with this battery's own figures in it; `because` where it is worth doing for another reason here, `passing_amps` where
    a harder pull is asked."""
    figures = partial(_figures_of, case)
    text, needs = say_from(f"step.{key.value}.text", figures), say_from(f"step.{key.value}.needs", figures)
    why = because or why_instead(key, case) or say_from(f"step.{key.value}.why", figures)
    load = load_figures(case) if key in {StepKey.LOAD_TEST, StepKey.LOAD_AGAIN} else None
    if load is not None:
        if load.amps is None:
            text = say("steps.find_the_rated_cca_or_the_ah_on_the_label")
        else:
            text = say(
                "steps.pull_a_for_s_it_must_hold_v",
                amps=fixed(load.amps, 0),
                seconds=fixed(load.seconds, 0),
                min_volts=fixed(load.min_volts, 2),
            )
            if key is StepKey.LOAD_AGAIN:
                text = say(
                    "steps.wait_min_then_pull_a_again_it_must_hold_v",
                    wait_minutes=fixed(case.rules.load.wait_minutes.value, 0),
                    amps=fixed(load.amps, 0),
                    min_volts=fixed(load.min_volts, 2),
                )
            if not load.can_pass:
                needs += say("steps.the_houses_load_is_too_small_to_pass_it_it")
    plan = plan_of(case, key) if key in CHARGES else None
    if plan is not None:
        text = _by_the_plan(key, text, plan, case.level_unsaid)
    if key.tool is not None and lacks_tool(key, case.rules):
        needs += say("steps.this_house_lists_no_borrow_one_or_send_it", tool=word(key.tool))
    return NextStep(
        key=key, text=text, why=why, needs=needs, minutes=round(minutes_of(key, case)), load=load, plan=plan
    )


LOOK_IN = say("steps.see_that_acid_covers_its_plates")
"""Asked before a charge where caps open and nobody has said how the acid stands."""


def _by_the_plan(key: StepKey, text: Words, plan: ChargePlan, level_unsaid: bool) -> Words:
    """A charge in its own figures; what forbids it, or must be looked at, comes first."""
    if plan.refused is not None:
        return say("steps.then_charge_it_at", first=plan.refused.first, plan=plan.words)
    if level_unsaid and key is not StepKey.CHARGE_AND_RETEST:
        return say("steps.look_in_first", look_in=LOOK_IN, text=text, plan=plan.words)
    if level_unsaid:
        return say("steps.then_charge_it_at_2", look_in=LOOK_IN, plan=plan.words)
    if key is StepKey.CHARGE_AND_RETEST:
        return say("steps.charge_it_at_let_it_rest_then_test_again", plan=plan.words)
    return in_a_row((text, plan.words), ": ")


def thaw_step(case: Case) -> NextStep:
    """Ice is held apart in the warm, and looked at again: thawed, the battery is often sound."""
    return replace(
        step(StepKey.HOLD_APART, case),
        text=say("steps.hold_it_apart_in_the_warm_for_a_day_look"),
        why=say("steps.ice_bursts_a_battery_on_charge_or_load"),
        needs=say("steps.a_warm_dry_place_with_moving_air_a_tray"),
    )


def temperature_step(freezes_at_c: float, case: Case) -> NextStep:
    """The volts once more, this time with the battery's own temperature: acid so weak freezes at this [C]."""
    result = step(StepKey.MEASURE_VOLTS, case)
    return replace(
        result,
        text=say("steps.take_its_temperature_with_the_volts_acid", freezes_at_c=fixed(freezes_at_c, 0)),
        why=say("steps.ice_shows_nothing_on_the_case_and_a_frozen"),
        needs=say("steps.a_thermometer_on_its_side_or_in_its_acid", needs=result.needs),
    )


@remembered
def load_figures(case: Case) -> LoadFigures:
    """The load test's set-point and limit at the temperature last taken, or at the table's warmest row when none was. Where its rating is
    a guess and a pull of that size held, the next one is as hard as the most it may be rated asks."""
    amps, most = case.load_amps, case.rules.load.max_amps.value
    if case.held_a_guess and case.passing_amps is not None and at_least(most, case.passing_amps, AMPS):
        amps = case.passing_amps
    temperature_c = (
        case.temperature_c if case.temperature_c is not None else case.rules.load.default_temperature_c.value
    )
    return LoadFigures(
        amps=None if amps is None else min(amps, most),
        seconds=case.rules.load.seconds.value,
        min_volts=load_min_volts(temperature_c, case.battery.nominal_volts),
        can_pass=amps is None or at_least(most, amps * case.rules.load.enough_ratio.value, AMPS),
        temperature_c=temperature_c,
        temperature_measured=case.temperature_c is not None,
    )


def cheapest(keys: list[StepKey], case: Case) -> NextStep:
    """Of the steps that would help, the one that takes the fewest minutes; among equals the first named."""
    return step(min(keys, key=lambda key: minutes_of(key, case)), case)

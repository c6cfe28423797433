"""The next step: what to do, what it needs, why it is the cheapest that would settle the matter."""

from pydantic import BaseModel, ConfigDict

from ..charging.plan import CHARGES, ChargePlan, plan_of
from ..facts.case import Case
from ..facts.remembered import remembered
from ..facts.state_of_charge import load_amps, load_min_volts, load_words
from ..findings.kinds import StepKey
from ..house.rules import HouseRules
from ..readings import Stand
from ..units.compare import AMPS, VOLTS, at_least, under
from ..units.conversions import MINUTES_PER_HOUR
from .jobs import Job
from .reasons import why_of


class LoadFigures(BaseModel):
    """What a load test of this battery is set to and must hold. Volts at the end of the pull."""

    model_config = ConfigDict(frozen=True)

    amps: float | None
    seconds: float
    min_volts: float
    can_pass: bool
    temperature_c: float
    temperature_measured: bool


class NextStep(BaseModel):
    """One thing to do next. `minutes` is work and waiting together."""

    model_config = ConfigDict(frozen=True)

    key: StepKey
    text: str
    why: str
    needs: str
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
    text = result.text if job.key in JOB_STEPS else f"{job.text[:1].upper()}{job.text[1:]}"
    return result.model_copy(update={"text": text, "job": job.key})


def lacks_tool(key: StepKey, rules: HouseRules) -> bool:
    """Whether this house has not got what a step is done with."""
    return key.tool is not None and key.tool not in rules.steps.tools_at_hand.value


def stand_hours(case: Case) -> float:
    """Hours of standing [h] that are asked: a night; days where its story says that it went flat standing, or a night left it open."""
    last, off = case.last_of(Stand), case.charge_off_at
    again = last is not None and (off is None or last.taken_at > off)
    return case.rules.stand.long_hours.value if again or case.stood_for_weeks else case.rules.stand.hours.value


def minutes_of(key: StepKey, case: Case) -> float:
    """What a step costs here [min]: its work and waiting, the charge it needs first, the tool that must be got."""
    rules = case.rules
    if key is StepKey.STAND and stand_hours(case) > rules.stand.hours.value:
        return stand_hours(case) * 60
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


def _filled(words: str, case: Case) -> str:
    """A step's words with the house's own figures."""
    if "{" not in words:
        return words
    rules = case.rules
    return words.format(
        headlamp_minutes=f"{rules.rest.headlamp_seconds.value / 60:g}",
        load_wait_minutes=f"{rules.load.wait_minutes.value:g}",
        stand_hours=f"{stand_hours(case):g}",
        watch_minutes=f"{rules.cells.watch_minutes.value:g}",
        fixed_seconds=f"{rules.fixed_load.seconds.value:g}",
        gate_pct=f"{rules.load.gate_soc_pct.value:g}",
        load_words=load_words(rules),
    )


def step(key: StepKey, case: Case, because: str = "") -> NextStep:
    """The step of a key with this battery's own figures in it; `because` where it is worth doing for another reason here."""
    text, why, needs = (_filled(words, case) for words in (key.text, because or why_of(key, case), key.needs))
    load = load_figures(case) if key in {StepKey.LOAD_TEST, StepKey.LOAD_AGAIN} else None
    if load is not None:
        if load.amps is None:
            text = "Find the rated CCA or the Ah on the label, then pull the load test"
        else:
            text = f"Pull {load.amps:.0f} A for {load.seconds:.0f} s: it must hold {load.min_volts:.2f} V"
            if key is StepKey.LOAD_AGAIN:
                text = f"Wait {case.rules.load.wait_minutes.value:.0f} min, then pull {load.amps:.0f} A again: it must hold {load.min_volts:.2f} V"
            if not load.can_pass:
                needs += "; the house's load is too small to pass it, it can only fail it"
    plan = plan_of(case, key) if key in CHARGES else None
    if plan is not None:
        text = _by_the_plan(key, text, plan, case.level_unsaid)
    if key.tool is not None and lacks_tool(key, case.rules):
        needs += f"; this house lists no {key.tool.replace('_', ' ')}: borrow one, or send it on"
    return NextStep(
        key=key, text=text, why=why, needs=needs, minutes=round(minutes_of(key, case)), load=load, plan=plan
    )


LOOK_IN = "See that acid covers its plates"
"""Asked before a charge where caps open and nobody has said how the acid stands."""


def _by_the_plan(key: StepKey, text: str, plan: ChargePlan, level_unsaid: bool) -> str:
    """A charge in its own figures; what forbids it, or must be looked at, comes first."""
    if plan.refused is not None:
        return f"{plan.refused.first}; then charge it at {plan.words}"
    if level_unsaid and key is not StepKey.CHARGE_AND_RETEST:
        return f"{LOOK_IN}. {text}: {plan.words}"
    if level_unsaid:
        return f"{LOOK_IN}; then charge it at {plan.words}"
    if key is StepKey.CHARGE_AND_RETEST:
        return f"Charge it at {plan.words}; let it rest, then test again"
    return f"{text}: {plan.words}"


def thaw_step(case: Case) -> NextStep:
    """Ice is held apart in the warm, and looked at again: thawed, the battery is often sound."""
    return step(StepKey.HOLD_APART, case).model_copy(
        update={
            "text": "Hold it apart in the warm for a day, look for cracks, then take its temperature",
            "why": "Ice bursts a battery on charge or load; thawed, it is often sound",
            "needs": "a warm dry place with moving air, a tray under it, gloves and eye protection",
        }
    )


def temperature_step(freezes_at_c: float, case: Case) -> NextStep:
    """The volts once more, this time with the battery's own temperature: acid so weak freezes at this [C]."""
    result = step(StepKey.MEASURE_VOLTS, case)
    return result.model_copy(
        update={
            "text": f"Take its temperature, with the volts: acid this weak is ice at {freezes_at_c:.0f} °C",
            "why": "Ice shows nothing on the case, and a frozen battery that is charged can burst; the room's warmth says nothing of it",
            "needs": f"a thermometer on its side or in its acid; {result.needs}",
        }
    )


@remembered
def load_figures(case: Case) -> LoadFigures:
    """The load test's set-point and limit at the temperature last taken, or at the table's warmest row when none was."""
    amps, most = load_amps(case.battery, case.rules), case.rules.load.max_amps.value
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

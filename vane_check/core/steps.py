"""The next step: what to do, what it needs, why it is the cheapest that would settle the matter."""

from pydantic import BaseModel, ConfigDict

from .charge import load_amps, load_min_volts, load_words, recharge_line_volts, volts_scale
from .compare import AMPS, VOLTS, at_least, under
from .evidence import Case
from .evidence.charging import reaches_volts
from .evidence.cranking import floor_volts
from .evidence.known import stop_start_line_volts
from .evidence.reserve import amps_of, end_volts, limit_pct
from .evidence.rest_volts import school_hours
from .jobs import Job
from .kinds import StepKey
from .readings import Stand
from .rules import HouseRules
from .tables import load_table


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


class FixedFigures(BaseModel):
    """The house's fixed load: what it draws, how long, and its bands. Volts for this battery."""

    model_config = ConfigDict(frozen=True)

    amps: float
    seconds: float
    good_volts: float
    floor_volts: float
    bounce_volts: float
    can_pass: bool


class CrankFigures(BaseModel):
    """Cranking in the car: how long, and what must hold at the temperature last taken."""

    model_config = ConfigDict(frozen=True)

    seconds: float
    min_volts: float
    dip_volts: float


class LoadLimits(BaseModel):
    """The volts a pull must hold against Celsius, on straight lines between the points."""

    model_config = ConfigDict(frozen=True)

    celsius: tuple[float, ...]
    volts: tuple[float, ...]


class ReserveFigures(BaseModel):
    """A timed discharge of this battery: amps, the end volts, and the share of rated it must give."""

    model_config = ConfigDict(frozen=True)

    amps: float
    end_volts: float
    limit_pct: float
    rated_words: str


class Limits(BaseModel):
    """What this battery is held against, worked out before anything is read. Volts at rest, amps on the label's scale."""

    model_config = ConfigDict(frozen=True)

    load: LoadFigures
    load_wait_minutes: float
    fixed: FixedFigures
    crank: CrankFigures
    recharge_line_volts: float
    rest_hours: float
    headlamp_seconds: float
    stand_hours: float
    own_loss_pct_per_month: float
    charge_reaches_volts: float
    replace_below_amps: float | None
    leakage_volts: float
    gravity_healthy: float
    gravity_spread: float
    cell_suspect_volts: float
    running_low_volts: float
    running_high_volts: float
    drain_ma: float
    rating_words: str | None
    temperature_c: float | None
    """The battery's own, last taken; None when nobody took it."""
    load_limits: LoadLimits
    reserve: ReserveFigures
    stop_start_line_volts: float
    drop_joint_volts: float
    drop_cable_volts: float
    drop_side_volts: float
    health_below_pct: float
    maintainer_rise_volts: float


def limits_of(case: Case) -> Limits:
    """The figures a rung shows before its reading is typed."""
    rated, rating, rules = case.rated, case.battery.rating, case.rules
    scale = volts_scale(case.battery.nominal_volts)
    load, asked = load_figures(case), load_amps(case.battery, rules)
    on_scale = rating.amps if rating else rated.amps if rated else None
    return Limits(
        load=load,
        load_wait_minutes=rules.load_wait_minutes.value,
        fixed=FixedFigures(
            amps=rules.fixed_load_amps.value,
            seconds=rules.fixed_seconds.value,
            good_volts=rules.fixed_good_volts.value * scale,
            floor_volts=rules.fixed_floor_volts.value * scale,
            bounce_volts=rules.bounce_volts.value * scale,
            can_pass=asked is not None
            and at_least(rules.fixed_load_amps.value, asked * rules.load_enough_ratio.value, AMPS),
        ),
        crank=CrankFigures(
            seconds=rules.crank_hold_seconds.value,
            min_volts=floor_volts(load.temperature_c, case),
            dip_volts=rules.dip_suspicious_volts.value * scale,
        ),
        recharge_line_volts=recharge_line_volts(case.battery, rules),
        rest_hours=school_hours(rules),
        headlamp_seconds=rules.headlamp_seconds.value,
        stand_hours=rules.stand_hours.value,
        own_loss_pct_per_month=rules.self_discharge_pct_per_month.value[case.battery.chemistry.value],
        charge_reaches_volts=reaches_volts(case),
        replace_below_amps=None if on_scale is None else on_scale * rules.replace_below_ratio.value,
        leakage_volts=rules.leakage_volts.value,
        gravity_healthy=rules.gravity_healthy.value,
        gravity_spread=rules.gravity_spread.value,
        cell_suspect_volts=rules.cell_suspect_volts.value,
        running_low_volts=rules.running_low_volts.value * scale,
        running_high_volts=rules.running_high_volts.value * scale,
        drain_ma=rules.drain_ma.value,
        rating_words=rated.words if rated else None,
        temperature_c=case.temperature_c,
        load_limits=LoadLimits(
            celsius=load_table().temperature_c,
            volts=tuple(load_min_volts(warmth, case.battery.nominal_volts) for warmth in load_table().temperature_c),
        ),
        reserve=_reserve_figures(case),
        stop_start_line_volts=stop_start_line_volts(case),
        drop_joint_volts=rules.drop_joint_volts.value,
        drop_cable_volts=rules.drop_cable_volts.value,
        drop_side_volts=rules.drop_side_volts.value,
        health_below_pct=rules.health_below_pct.value,
        maintainer_rise_volts=rules.maintainer_rise_volts.value * scale,
    )


def _reserve_figures(case: Case) -> ReserveFigures:
    label = case.battery
    minutes, ah = label.reserve_minutes, label.capacity_ah_20h
    rated = f"{minutes:.0f} min" if minutes else f"{ah:.0f} Ah" if ah else "no Ah and no minutes on it"
    return ReserveFigures(
        amps=round(amps_of(case), 1), end_volts=end_volts(case), limit_pct=limit_pct(case), rated_words=rated
    )


JOB_STEPS = {"clean_posts": StepKey.CLEAN_POSTS, "clean_top": StepKey.CLEAN_TOP, "top_up": StepKey.TOP_UP}
"""Jobs that are steps of their own; every other is done as its words say."""


def job_step(job: Job, case: Case) -> NextStep:
    """The step that does a job."""
    found = step(JOB_STEPS.get(job.key, StepKey.DO_JOB), case)
    text = found.text if job.key in JOB_STEPS else f"{job.text[:1].upper()}{job.text[1:]}"
    return found.model_copy(update={"text": text, "job": job.key})


def lacks_tool(key: StepKey, rules: HouseRules) -> bool:
    """Whether this house has not got what a step is done with."""
    return key.tool is not None and key.tool not in rules.tools_at_hand.value


def stand_hours(case: Case) -> float:
    """Hours of standing [h] that are asked: a night, and days where one since the last charge left it open."""
    last, off = case.last_of(Stand), case.charge_off_at
    again = last is not None and (off is None or last.taken_at > off)
    return case.rules.long_stand_hours.value if again else case.rules.stand_hours.value


def minutes_of(key: StepKey, case: Case) -> float:
    """What a step costs here [min]: its work and waiting, the charge it needs first, the tool that must be got."""
    rules = case.rules
    if key is StepKey.STAND and stand_hours(case) > rules.stand_hours.value:
        return stand_hours(case) * 60
    watched = key in {StepKey.CHARGE_AND_WATCH, StepKey.WATCH_CHARGE}
    minutes = rules.cell_watch_minutes.value if watched else rules.step_minutes.value[key]
    if lacks_tool(key, rules):
        minutes += rules.missing_tool_minutes.value
    last = case.valid_rest_volts[-1] if case.valid_rest_volts else None
    if key.wants_charge and last is not None and under(last.volts, case.recharge_line_volts, VOLTS):
        minutes += rules.step_minutes.value[StepKey.CHARGE_AND_RETEST]
    return minutes


def _filled(words: str, case: Case) -> str:
    """A step's words with the house's own figures."""
    if "{" not in words:
        return words
    rules = case.rules
    return words.format(
        headlamp_minutes=f"{rules.headlamp_seconds.value / 60:g}",
        load_wait_minutes=f"{rules.load_wait_minutes.value:g}",
        stand_hours=f"{stand_hours(case):g}",
        watch_minutes=f"{rules.cell_watch_minutes.value:g}",
        fixed_seconds=f"{rules.fixed_seconds.value:g}",
        gate_pct=f"{rules.load_gate_soc_pct.value:g}",
        load_words=load_words(rules),
    )


def step(key: StepKey, case: Case) -> NextStep:
    """The step of a key with this battery's own figures in it."""
    text, why, needs = (_filled(words, case) for words in (key.text, key.why, key.needs))
    load = load_figures(case) if key in {StepKey.LOAD_TEST, StepKey.LOAD_AGAIN} else None
    if load is not None:
        if load.amps is None:
            text = "Find the rated CCA or the Ah on the label, then pull the load test"
        else:
            text = f"Pull {load.amps:.0f} A for {load.seconds:.0f} s: it must hold {load.min_volts:.2f} V"
            if key is StepKey.LOAD_AGAIN:
                text = f"Wait {case.rules.load_wait_minutes.value:.0f} min, then pull {load.amps:.0f} A again: it must hold {load.min_volts:.2f} V"
            if not load.can_pass:
                needs += "; the house's load is too small to pass it, it can only fail it"
    if key.tool is not None and lacks_tool(key, case.rules):
        needs += f"; this house lists no {key.tool.replace('_', ' ')}: borrow one, or send it on"
    return NextStep(key=key, text=text, why=why, needs=needs, minutes=minutes_of(key, case), load=load)


def load_figures(case: Case) -> LoadFigures:
    """The load test's set-point and limit at the temperature last taken, or at the table's warmest row when none was."""
    asked, most = load_amps(case.battery, case.rules), case.rules.load_tester_max_amps.value
    temperature_c = (
        case.temperature_c if case.temperature_c is not None else case.rules.load_default_temperature_c.value
    )
    return LoadFigures(
        amps=None if asked is None else min(asked, most),
        seconds=case.rules.load_seconds.value,
        min_volts=load_min_volts(temperature_c, case.battery.nominal_volts),
        can_pass=asked is None or at_least(most, asked * case.rules.load_enough_ratio.value, AMPS),
        temperature_c=temperature_c,
        temperature_measured=case.temperature_c is not None,
    )


def cheapest(keys: list[StepKey], case: Case) -> NextStep:
    """Of the steps that would help, the one that takes the fewest minutes; among equals the first named."""
    return step(min(keys, key=lambda key: minutes_of(key, case)), case)

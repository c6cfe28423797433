"""The next step: what to do, what it needs, why it is the cheapest that would settle the matter."""

from pydantic import BaseModel, ConfigDict

from .charge import load_amps, load_min_volts, recharge_line_volts, volts_scale
from .evidence import Case
from .evidence.charging import reaches_volts
from .evidence.loads import crank_floor_volts
from .evidence.rest_volts import REST_HOURS
from .rules import HouseRules


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

    key: str
    text: str
    why: str
    needs: str
    minutes: float
    load: LoadFigures | None = None


_STEPS: dict[str, tuple[str, str, str]] = {
    "hold_apart": (
        "Hold it apart, outside or ventilated. Tell the customer why",
        "No test or charge is worth a burst case",
        "gloves and eye protection, a strap or carrier",
    ),
    "measure_volts": (
        "Read the volts at rest, on the lead posts",
        "It costs a minute, and no other figure can be trusted without the charge",
        "meter on the 20 V range, battery off charge and off load",
    ),
    "measure_again": (
        "Clean the posts and read the volts again",
        "A reading like that is a probe or a slip before it is a battery",
        "meter on the 20 V range, clean lead",
    ),
    "settle": (
        "Take the surface charge off: headlamps two minutes, lights off, wait, read again",
        "Volts straight off a charge say nothing; this is quicker than standing overnight",
        "headlamps or a small load, ten minutes",
    ),
    "read_label": (
        "Find the rated CCA on the label and enter it",
        "Without a rating a tester's figure has nothing to be held against",
        "the label, or the car's requirement",
    ),
    "tester": (
        "Put the electronic tester on the lead posts",
        "It is the quickest look at health that works on this charge",
        "tester set to this type and rating, clean lead posts",
    ),
    "tester_again": (
        "Test again with the settings as on the label, on the lead posts",
        "The figure there is cannot be used, and a right one takes two minutes",
        "tester set to this type and scale, clean lead posts",
    ),
    "load_test": (
        "Pull half the rated CCA and read the volts at the end",
        "The tester cannot settle it; a resistive load is an independent method",
        "adjustable load, rested battery at three quarters charge or more, clean posts",
    ),
    "load_again": (
        "Wait ten minutes, check the charge, pull the load once more",
        "A second pull of the same size settles what the first left open",
        "adjustable load cooled down, battery still at three quarters charge",
    ),
    "clean_posts": (
        "Clean posts and clamps to bright metal, then test again",
        "Corrosion alone can make a tester read wrong",
        "brush, gloves and eye protection",
    ),
    "clean_top": (
        "Clean and dry the top, then measure the case again",
        "A wet dirty top drains a good battery; this is quicker than another stand",
        "cleaner as the house uses, caps shut, keep it out of the cells",
    ),
    "top_up": (
        "Cover the plates with distilled water, then charge",
        "Bare plates must not be charged; fill to the mark only after the charge",
        "distilled or deionised water, never tap water, never acid",
    ),
    "cells": (
        "Read the gravity of every cell with its temperature",
        "This house decides by the cells; it shows the one that fails",
        "hydrometer, gloves and eye protection, caps that open",
    ),
    "equalise": (
        "Give it an equalising charge, then read the cells again",
        "One or two weak cells may come back; nothing else would",
        "charger with that mode, ventilation, somebody watching",
    ),
    "stand": (
        "Let it stand off everything, then read the volts",
        "Only time shows whether it holds its charge",
        "a full charge, 12 to 24 h off everything",
    ),
    "stop_charge": (
        "Stop the charge now and take it off",
        "It is an 8 or 10 V battery being overcharged",
        "charger off before the clamps are lifted, ventilation",
    ),
    "charge_and_retest": (
        "Charge it fully, let it rest, then test again",
        "A flat battery reads like a bad one; only a charge tells them apart",
        "charger for this type; eyes and gloves, ventilation, never a frozen or hot battery",
    ),
    "replace": (
        "See what the warranty gives and what replaces it",
        "It failed a valid test with charge enough to be judged",
        "receipt or date of sale, the car's requirement",
    ),
    "retest_later": (
        "Keep these figures as the baseline and test again at the date given",
        "A starting test does not condemn a standby or deep-cycle battery that keeps its charge",
        "its tag, a reminder",
    ),
    "give_back": (
        "Give it back into service with the slip",
        "Charged enough and healthy by a valid test",
        "clean posts, positive on first and negative last",
    ),
}


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


TOOL_OF = {
    "measure_volts": "meter",
    "measure_again": "meter",
    "settle": "meter",
    "stand": "meter",
    "tester": "tester",
    "tester_again": "tester",
    "load_test": "adjustable_load",
    "load_again": "adjustable_load",
    "cells": "hydrometer",
    "equalise": "charger",
    "charge_and_retest": "charger",
}
NEEDS_CHARGE_FIRST = frozenset({"load_test", "load_again"})


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
            can_pass=asked is not None and rules.fixed_load_amps.value >= asked * rules.load_enough_ratio.value,
        ),
        crank=CrankFigures(
            seconds=rules.crank_hold_seconds.value, min_volts=crank_floor_volts(load.temperature_c, case)
        ),
        recharge_line_volts=recharge_line_volts(case.battery, rules),
        rest_hours=REST_HOURS[rules.rest_school.value],
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
    )


def lacks_tool(key: str, rules: HouseRules) -> bool:
    """Whether this house has not got what a step is done with."""
    tool = TOOL_OF.get(key)
    return tool is not None and tool not in rules.tools_at_hand.value


def minutes_of(key: str, case: Case) -> float:
    """What a step costs here [min]: its work and waiting, the charge it needs first, the tool that must be got."""
    rules = case.rules
    minutes = rules.step_minutes.value[key]
    if lacks_tool(key, rules):
        minutes += rules.missing_tool_minutes.value
    last = case.valid_rest_volts[-1] if case.valid_rest_volts else None
    if key in NEEDS_CHARGE_FIRST and last is not None and last.volts < case.recharge_line_volts:
        minutes += rules.step_minutes.value["charge_and_retest"]
    return minutes


def step(key: str, case: Case) -> NextStep:
    """The step of a key with this battery's own figures in it."""
    text, why, needs = _STEPS[key]
    load = load_figures(case) if key in {"load_test", "load_again"} else None
    if load is not None:
        if load.amps is None:
            text = "Find the rated CCA or the Ah on the label, then pull the load test"
        else:
            text = f"Pull {load.amps:.0f} A for {load.seconds:.0f} s: it must hold {load.min_volts:.2f} V"
            if key == "load_again":
                text = f"Wait {case.rules.load_wait_minutes.value:.0f} min, then pull {load.amps:.0f} A again: it must hold {load.min_volts:.2f} V"
            if not load.can_pass:
                needs += "; the house's load is too small to pass it, it can only fail it"
    if lacks_tool(key, case.rules):
        needs += f"; this house lists no {TOOL_OF[key].replace('_', ' ')}: borrow one, or send it on"
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
        can_pass=asked is None or asked * case.rules.load_enough_ratio.value <= most,
        temperature_c=temperature_c,
        temperature_measured=case.temperature_c is not None,
    )


def cheapest(keys: list[str], case: Case) -> NextStep:
    """Of the steps that would help, the one that takes the fewest minutes; among equals the first named."""
    return step(min(keys, key=lambda key: minutes_of(key, case)), case)

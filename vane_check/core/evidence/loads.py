"""Resistive loads: adjustable, fixed, and the starter. A load smaller than required can fail, never pass."""

from ..battery import RESERVE_USES
from ..charge import load_amps, load_min_volts, load_words, meter_uncertainty_volts, volts_scale
from ..compare import AMPS, MINUTES, SECONDS, VOLTS, at_least, over, under
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import AdjustableLoad, Crank, FixedLoad, Needle
from . import Case, finding


def temperature_of(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> float:
    """The battery's temperature [C] at the pull: as taken with it, else the last one taken, else the table's warmest row."""
    if reading.temperature_c is not None:
        return reading.temperature_c
    return case.temperature_c if case.temperature_c is not None else case.rules.load_default_temperature_c.value


def condemned_as(case: Case) -> Outcome:
    """What a failed starting test says: worn out, or to be watched where starting is not the battery's work."""
    return Outcome.WATCH if case.context.use in RESERVE_USES else Outcome.WORN_OUT


def adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """The pull, its weight cut by how far a rating converted from another scale may be off."""
    found = _adjustable(reading, case)
    spread = case.rated.relative_spread if case.rated is not None and case.rated.firm else 0.0
    return found if not spread else found.model_copy(update={"weight": round(found.weight * (1 - spread), 3)})


def _adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """Half the rated CCA for 15 s against the temperature table; gate at 75 % charge. Source: BCI load test."""
    rules = case.rules
    asked = load_amps(case.battery, rules)
    limit = load_min_volts(temperature_of(reading, case), case.battery.nominal_volts)
    shown = f"{reading.volts:.2f} V under {reading.amps:.0f} A"
    held = f"hold {limit:.2f} V"
    if asked is None:
        return finding(
            reading, rules, "load_share_of_cca", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=shown, limit_text=load_words(rules), text=f"{shown} does not count: no rating to size the load by",
            why_not="no rating to size the load by",
        )  # fmt: skip
    full_size = at_least(reading.amps, asked * rules.load_enough_ratio.value, AMPS)
    full_time = at_least(reading.seconds, rules.load_seconds.value * rules.load_enough_ratio.value, SECONDS)
    if under(reading.volts, limit, VOLTS):
        if over(reading.amps, asked * rules.load_too_much_ratio.value, AMPS):
            return _dropped(
                reading,
                case,
                shown,
                held,
                f"pulled {reading.amps:.0f} A where {asked:.0f} A are asked: too hard to fail it by",
            )
        return _failed(reading, case, shown, held, limit)
    if not full_size or not full_time:
        short = (
            f"{reading.amps:.0f} A of {asked:.0f} A"
            if not full_size
            else f"{reading.seconds:.0f} s of {rules.load_seconds.value:.0f} s"
        )
        return _dropped(reading, case, shown, held, f"only {short}: such a pull can fail a battery, never pass it")
    if reading.needle is not Needle.HELD or under(
        reading.volts - meter_uncertainty_volts(reading.volts, rules), limit, VOLTS
    ):
        why = "it dropped at the end" if reading.needle is not Needle.HELD else "within what the meter may be off"
        return finding(
            reading, rules, "load_seconds", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=shown, limit_text=held, text=f"{shown} for {reading.seconds:.0f} s: borderline, {why}",
        )  # fmt: skip
    return finding(
        reading, rules, "load_seconds", points_to=Outcome.SOUND, weight="weight_load", reading_text=shown, limit_text=held,
        text=f"{shown} for {reading.seconds:.0f} s: holds the {limit:.2f} V asked",
    )  # fmt: skip


def _minutes_since_last_pull(reading: AdjustableLoad, case: Case) -> float | None:
    before = [
        pull.taken_at
        for pull in case.readings
        if isinstance(pull, AdjustableLoad) and pull is not reading and pull.taken_at < reading.taken_at
    ]
    return (reading.taken_at - max(before)).total_seconds() / 60 if before else None


def _failed(reading: AdjustableLoad, case: Case, shown: str, held: str, limit: float) -> Finding:
    rules = case.rules
    since, wait = _minutes_since_last_pull(reading, case), rules.load_wait_minutes.value
    if since is not None and under(since, wait, MINUTES):
        why = f"{since:.0f} min after the pull before, it had no time to recover: wait {wait:.0f} min"
        return finding(
            reading, rules, "load_wait_minutes", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_AGAIN,
            reading_text=shown, limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load_gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load_gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=shown, limit_text=held,
            text=f"{shown} failed on a battery under {rules.load_gate_soc_pct.value:.0f} % charge: charge it, then pull again",
        )  # fmt: skip
    if charge == "unknown":
        return finding(
            reading, rules, "pairing_minutes", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.MEASURE_VOLTS, reading_text=shown, limit_text=held,
            text=f"{shown} failed, but no rest volts near in time say whether it was charged",
        )  # fmt: skip
    if (
        at_least(reading.volts + meter_uncertainty_volts(reading.volts, rules), limit, VOLTS)
        and reading.needle is Needle.HELD
    ):
        return finding(
            reading, rules, "load_seconds", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=shown, limit_text=held,
            text=f"{shown}: {limit - reading.volts:.2f} V under, within what the meter may be off. Wait {rules.load_wait_minutes.value:.0f} min and pull again",
        )  # fmt: skip
    firm = case.rated is not None and (case.rated.firm or case.battery.rating is None)
    return finding(
        reading, rules, "load_seconds", points_to=condemned_as(case), weight="weight_load" if firm else "weight_tester_equivocal",
        status="counts" if firm else "doubtful", reading_text=shown, limit_text=held,
        text=f"{shown}: {limit - reading.volts:.2f} V under the {limit:.2f} V asked"
        + (", at once" if reading.needle is Needle.DROPPED_AT_ONCE else ""),
    )  # fmt: skip


def fixed(reading: FixedLoad, case: Case) -> Finding:
    """About 100 A for ten seconds: bands and bounce-back; too small to pass most batteries."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    floor, good, bounce = (
        value * scale
        for value in (rules.fixed_floor_volts.value, rules.fixed_good_volts.value, rules.bounce_volts.value)
    )
    shown = f"{reading.volts:.1f} V under {reading.amps:.0f} A"
    held = f"good above {good:.1f} V, floor {floor:.1f} V"
    no_bounce = reading.bounce_volts is not None and under(reading.bounce_volts, bounce, VOLTS)
    if under(reading.volts, floor, VOLTS) or no_bounce:
        charge = case.charge_near(reading, rules.load_gate_soc_pct.value)
        if charge != "enough":
            return finding(
                reading, rules, "load_gate_soc_pct", points_to=Outcome.NEEDS_CHARGE if charge == "low" else Outcome.CANNOT_TELL,
                weight="weight_doubtful", status="doubtful", remedy=StepKey.CHARGE_AND_RETEST if charge == "low" else StepKey.MEASURE_VOLTS,
                reading_text=shown, limit_text=held, text=f"{shown} failed, but it was not known to be charged",
            )  # fmt: skip
        why = f"came back only to {reading.bounce_volts:.1f} V" if no_bounce else f"under the floor of {floor:.1f} V"
        return finding(
            reading, rules, "fixed_floor_volts", points_to=condemned_as(case), weight="weight_fixed",
            reading_text=shown, limit_text=held, text=f"{shown}: {why}",
        )  # fmt: skip
    if under(reading.seconds, rules.fixed_seconds.value * rules.load_enough_ratio.value, SECONDS):
        return _dropped(
            reading,
            case,
            shown,
            held,
            f"pulled {reading.seconds:.0f} s of {rules.fixed_seconds.value:.0f} s: too short to pass",
        )
    asked = load_amps(case.battery, rules)
    if asked is None or under(reading.amps, asked * rules.load_enough_ratio.value, AMPS):
        size = f"{reading.amps:.0f} A" + (f" where {asked:.0f} A are asked" if asked else "")
        return _dropped(reading, case, shown, held, f"{size}: such a pull can fail a battery, never pass it")
    if under(reading.volts, good, VOLTS):
        return finding(
            reading, rules, "fixed_good_volts", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held, text=f"{shown}: between floor and good",
        )  # fmt: skip
    return finding(
        reading, rules, "fixed_good_volts", points_to=Outcome.SOUND, weight="weight_fixed", reading_text=shown,
        limit_text=held, text=f"{shown}: good",
    )  # fmt: skip


def crank_floor_volts(temperature_c: float, case: Case) -> float:
    """Volts [V] a cranking battery must hold, with the cold allowance of the load table."""
    rules, volts = case.rules, case.battery.nominal_volts
    allowance = load_min_volts(rules.load_default_temperature_c.value, volts) - load_min_volts(temperature_c, volts)
    return rules.crank_floor_volts.value * volts_scale(volts) - allowance


def crank(reading: Crank, case: Case) -> Finding:
    """Cranking volts with the cold allowance of the load table. A weak one may be cable or starter."""
    rules, floor = case.rules, crank_floor_volts(temperature_of(reading, case), case)
    shown = f"{reading.volts:.1f} V cranking"
    held = f"at least {floor:.1f} V"
    if under(reading.seconds, rules.crank_seconds.value, SECONDS):
        return _dropped(reading, case, shown, held, f"{reading.seconds:.0f} s: the speed had not settled")
    if at_least(reading.volts, floor, VOLTS):
        return finding(
            reading, rules, "crank_floor_volts", points_to=Outcome.SOUND, weight="weight_crank", reading_text=shown,
            limit_text=held, text=f"{shown}: above the {floor:.1f} V asked",
        )  # fmt: skip
    return finding(
        reading, rules, "crank_floor_volts", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
        remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held,
        text=f"{shown}: under {floor:.1f} V, which may be battery, cable or starter",
    )  # fmt: skip


def _dropped(reading: AdjustableLoad | FixedLoad | Crank, case: Case, shown: str, held: str, why: str) -> Finding:
    return finding(
        reading, case.rules, "load_enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_TEST,
        reading_text=shown, limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
    )  # fmt: skip

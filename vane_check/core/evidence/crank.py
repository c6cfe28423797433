"""The starter as a load: the steady speed, and the lowest instant beside it."""

from ..facts.case import Case
from ..facts.state_of_charge import load_min_volts, volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Crank
from ..units.compare import MINUTES, SECONDS, VOLTS, at_least, under
from .adjustable_load import gate_words, temperature_of
from .finding import finding
from .reads import reads


def floor_volts(temperature_c: float, case: Case) -> float:
    """Volts [V] a cranking battery must hold, with the cold allowance of the load table."""
    rules, volts = case.rules, case.battery.nominal_volts
    allowance = load_min_volts(rules.load.default_temperature_c.value, volts) - load_min_volts(temperature_c, volts)
    return rules.crank.floor_volts.value * volts_scale(volts) - allowance


@reads(Crank)
def find(reading: Crank, case: Case) -> Finding:
    """Cranking volts with the cold allowance of the load table. One weak crank may be cable or starter; two read at the
    battery's own posts, charged, are the battery."""
    if reading.volts is None:
        return _dip_alone(reading, case)
    rules, floor = case.rules, floor_volts(temperature_of(reading, case), case)
    reading_text = f"{reading.volts:.1f} V cranking"
    limit_text = f"at least {floor:.1f} V"
    if under(reading.seconds, rules.crank.seconds.value, SECONDS):
        why = f"{reading.seconds:.0f} s: the speed had not settled"
        return finding(
            reading, rules, "crank.seconds", points_to=None, weight=None, status="dropped", remedy=StepKey.CRANK_TEST,
            reading_text=reading_text, limit_text=limit_text, text=f"{reading_text} does not count: {why}", why_not=why,
        )  # fmt: skip
    dip = _dip_words(reading, case)
    if at_least(reading.volts, floor, VOLTS):
        return finding(
            reading, rules, "crank.floor_volts", points_to=Outcome.SOUND, weight="weight.crank", reading_text=reading_text,
            limit_text=limit_text, text=f"{reading_text}: above the {floor:.1f} V asked{dip}",
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=reading_text, limit_text=limit_text,
            text=f"{reading_text}: under {floor:.1f} V on a battery {gate_words(reading, case)}: charge it, then crank again",
        )  # fmt: skip
    if charge == "enough" and reading.at_posts and _failed_before(reading, case):
        return finding(
            reading, rules, "crank.floor_volts", points_to=Outcome.WORN_OUT, weight="weight.crank_twice", reading_text=reading_text,
            limit_text=limit_text, text=f"{reading_text}: a second time under {floor:.1f} V at its own posts, charged{dip}",
        )  # fmt: skip
    where = "which may be battery, cable or starter" if reading.at_posts else "but not read at the battery's own posts"
    again = (
        StepKey.CRANK_TEST
        if not reading.at_posts or "crank" in rules.decision.deciding_kinds.value
        else StepKey.LOAD_TEST
    )
    return finding(
        reading, rules, "crank.floor_volts", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
        remedy=again, reading_text=reading_text, limit_text=limit_text, text=f"{reading_text}: under {floor:.1f} V, {where}{dip}",
    )  # fmt: skip


def _failed_before(reading: Crank, case: Case) -> bool:
    """Whether an earlier crank at the posts failed too, with a wait in between, and no charge since."""
    rules = case.rules
    return any(
        other.volts is not None
        and other.at_posts
        and other.taken_at < reading.taken_at
        and not under((reading.taken_at - other.taken_at).total_seconds() / 60, rules.load.wait_minutes.value, MINUTES)
        and not under(other.seconds, rules.crank.seconds.value, SECONDS)
        and under(other.volts, floor_volts(temperature_of(other, case), case), VOLTS)
        for other in case.all_of(Crank)
    )


def _dip_words(reading: Crank, case: Case) -> str:
    if reading.dip_volts is None:
        return ""
    return f"; the start dipped to {reading.dip_volts:.1f} V, {_dip_level(reading.dip_volts, case)}"


def _dip_level(dip_volts: float, case: Case) -> str:
    scale = volts_scale(case.battery.nominal_volts)
    if under(dip_volts, case.rules.car.dip_suspicious_volts.value * scale, VOLTS):
        return "suspicious"
    return (
        "usual" if at_least(dip_volts, case.rules.car.dip_usual_volts.value * scale, VOLTS) else "low, not suspicious"
    )


def _dip_alone(reading: Crank, case: Case) -> Finding:
    """The lowest instant of a start is not the steady speed: it is never held against the floor."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    assert reading.dip_volts is not None
    level = _dip_level(reading.dip_volts, case)
    low = rules.car.dip_suspicious_volts.value * scale
    bad = level == "suspicious"
    reading_text = f"{reading.dip_volts:.1f} V start dip"
    return finding(
        reading, rules, "car.dip_suspicious_volts", points_to=Outcome.CANNOT_TELL if bad else None, weight="weight.doubtful" if bad else None,
        status="counts" if level == "usual" else "doubtful", remedy=StepKey.LOAD_TEST if bad else None, reading_text=reading_text,
        limit_text=f"about {rules.car.dip_usual_volts.value * scale:.1f} V warm, suspicious under {low:.1f} V", text=f"{reading_text}: {level}",
    )  # fmt: skip

"""The starter as a load: the steady speed, and the lowest instant beside it."""

from ..facts.case import Case
from ..facts.state_of_charge import load_min_volts, volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Crank
from ..units.compare import MINUTES, SECONDS, VOLTS, at_least, under
from ..words import NOTHING, Words, fixed, in_a_row, say
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
    reading_text = say("crank.v_cranking", volts=fixed(reading.volts, 1))
    limit_text = say("crank.at_least_v", floor=fixed(floor, 1))
    if under(reading.seconds, rules.crank.seconds.value, SECONDS):
        why = say("crank.s_the_speed_had_not_settled", seconds=fixed(reading.seconds, 0))
        return finding(
            reading, rules, "crank.seconds", points_to=None, weight=None, status="dropped", remedy=StepKey.CRANK_TEST,
            reading_text=reading_text, limit_text=limit_text, text=say('common.does_not_count', reading_text=reading_text, why=why), why_not=why,
        )  # fmt: skip
    dip = _dip_words(reading, case)
    if at_least(reading.volts, floor, VOLTS):
        return finding(
            reading, rules, "crank.floor_volts", points_to=Outcome.SOUND, weight="weight.crank", reading_text=reading_text,
            limit_text=limit_text, text=say('crank.above_the_v_asked', reading_text=reading_text, floor=fixed(floor, 1), dip=dip),
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=reading_text, limit_text=limit_text,
            text=say('crank.under_v_on_a_battery_charge_it_then_crank', reading_text=reading_text, floor=fixed(floor, 1), gate_words=gate_words(reading, case)),
        )  # fmt: skip
    if charge == "enough" and reading.at_posts and _failed_before(reading, case):
        return finding(
            reading, rules, "crank.floor_volts", points_to=Outcome.WORN_OUT, weight="weight.crank_twice", reading_text=reading_text,
            limit_text=limit_text, text=say('crank.a_second_time_under_v_at_its_own_posts', reading_text=reading_text, floor=fixed(floor, 1), dip=dip),
        )  # fmt: skip
    where = (
        say("crank.which_may_be_battery_cable_or_starter")
        if reading.at_posts
        else say("crank.but_not_read_at_the_batterys_own_posts")
    )
    again = (
        StepKey.CRANK_TEST
        if not reading.at_posts or "crank" in rules.decision.deciding_kinds.value
        else StepKey.LOAD_TEST
    )
    return finding(
        reading, rules, "crank.floor_volts", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
        remedy=again, reading_text=reading_text, limit_text=limit_text, text=say('crank.under_v', reading_text=reading_text, floor=fixed(floor, 1), where=where, dip=dip),
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


def _dip_words(reading: Crank, case: Case) -> Words:
    if reading.dip_volts is None:
        return NOTHING
    return say(
        "crank.the_start_dipped_to_v",
        dip_volts=fixed(reading.dip_volts, 1),
        dip_level=_dip_level(reading.dip_volts, case),
    )


def _dip_level(dip_volts: float, case: Case) -> Words:
    scale = volts_scale(case.battery.nominal_volts)
    if under(dip_volts, case.rules.car.dip_suspicious_volts.value * scale, VOLTS):
        return say("crank.suspicious")
    return (
        say("crank.usual")
        if at_least(dip_volts, case.rules.car.dip_usual_volts.value * scale, VOLTS)
        else say("crank.low_not_suspicious")
    )


def _dip_alone(reading: Crank, case: Case) -> Finding:
    """The lowest instant of a start is not the steady speed: it is never held against the floor."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    assert reading.dip_volts is not None
    level = _dip_level(reading.dip_volts, case)
    low = rules.car.dip_suspicious_volts.value * scale
    bad = under(reading.dip_volts, low, VOLTS)
    reading_text = say("crank.v_start_dip", dip_volts=fixed(reading.dip_volts, 1))
    return finding(
        reading, rules, "car.dip_suspicious_volts", points_to=Outcome.CANNOT_TELL if bad else None, weight="weight.doubtful" if bad else None,
        status="counts" if at_least(reading.dip_volts, rules.car.dip_usual_volts.value * scale, VOLTS) else "doubtful", remedy=StepKey.LOAD_TEST if bad else None, reading_text=reading_text,
        limit_text=say('crank.about_v_warm_suspicious_under_v', dip_usual_volts=fixed(rules.car.dip_usual_volts.value * scale, 1), low=fixed(low, 1)), text=in_a_row((reading_text, level), ": "),
    )  # fmt: skip

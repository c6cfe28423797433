"""Reserve: the work of batteries that do not start engines, as a timed discharge from full."""

from ..battery.label import Use
from ..facts.case import Case
from ..facts.state_of_charge import volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Reserve
from ..units.compare import PERCENT, VOLTS, at_least, over, under
from ..units.conversions import HOURS_OF_RATE, MINUTES_PER_HOUR
from .finding import finding
from .reads import reads


def end_volts(case: Case) -> float:
    """Volts [V] where a timed discharge ends: 1.75 V a cell. Source: SAE J537."""
    return case.rules.reserve.end_volts.value * volts_scale(case.battery.nominal_volts)


def amps_of(case: Case) -> float:
    """The amps [A] the test is run at: 25 A where reserve minutes are rated, a twentieth of the Ah where only those are."""
    if case.battery.reserve_minutes is None and case.battery.capacity_ah_20h is not None:
        return max(case.rules.reserve.amps.value, case.battery.capacity_ah_20h / HOURS_OF_RATE)
    return case.rules.reserve.amps.value


def minutes_to_end(reading: Reserve, case: Case) -> float:
    """Minutes [min] at which it passed the end volts: between the last volts above them and the first below, where both are known."""
    ends = end_volts(case)
    points = sorted([(point.minutes, point.volts) for point in reading.log] + [(reading.minutes, reading.volts)])
    before = None
    for minutes, volts in points:
        if under(volts, ends, VOLTS) and before is not None:
            earlier, above = before
            return earlier + (minutes - earlier) * (above - ends) / (above - volts)
        if not over(volts, ends, VOLTS):
            return minutes
        before = (minutes, volts)
    return reading.minutes


def share_pct(reading: Reserve, case: Case) -> tuple[float, str] | None:
    """What came out over what is rated [%], with its words; None where nothing is rated.

    Minutes are brought to the rating's temperature and, by Peukert, to the rating's amps.
    """
    rules, label = case.rules, case.battery
    temperature = reading.temperature_c if reading.temperature_c is not None else case.temperature_c
    cold = 0.0 if temperature is None else max(rules.reserve.reference_c.value - temperature, 0.0)
    warm_minutes = minutes_to_end(reading, case) / (1 - rules.reserve.pct_per_c.value * cold / 100)
    exponent = rules.reserve.peukert.value[label.chemistry.value]
    corrected = f", {warm_minutes:.0f} min when warm" if cold else ""
    if label.reserve_minutes is not None:
        at_rate = warm_minutes * (reading.amps / rules.reserve.amps.value) ** exponent
        return (
            at_rate / label.reserve_minutes * 100,
            f"of {label.reserve_minutes:.0f} min at {rules.reserve.amps.value:.0f} A{corrected}",
        )
    if label.capacity_ah_20h is None:
        return None
    rated_amps = label.capacity_ah_20h / HOURS_OF_RATE
    hours = warm_minutes / MINUTES_PER_HOUR
    ah = rated_amps * hours * (reading.amps / rated_amps) ** exponent
    return ah / label.capacity_ah_20h * 100, f"{ah:.0f} of {label.capacity_ah_20h:.0f} Ah at the 20 h rate{corrected}"


def limit_pct(case: Case) -> float:
    """Per cent of rated under which this battery has done its work."""
    used = case.context.use is Use.DEEP_CYCLE
    return case.rules.reserve.used_pct.value if used else case.rules.reserve.new_pct.value


@reads(Reserve)
def find(reading: Reserve, case: Case) -> Finding:
    """Minutes to the end volts against what is rated: the battery's own work."""
    rules, limit = case.rules, limit_pct(case)
    ends = end_volts(case)
    reading_text = f"{reading.minutes:.0f} min at {reading.amps:g} A to {reading.volts:.2f} V"
    share = share_pct(reading, case)
    limit_text = f"replace below {limit:.0f} % of rated, ends at {ends:.2f} V"
    if share is None:
        why = "no Ah and no reserve minutes on record to hold it against"
        return finding(
            reading, rules, "reserve.new_pct", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=reading_text, limit_text=limit_text, text=f"{reading_text} does not count: {why}", why_not=why,
        )  # fmt: skip
    pct, words = share
    stopped = over(reading.volts, ends, VOLTS)
    text = f"{reading_text}: {pct:.0f} %, {words}"
    if at_least(pct, limit, PERCENT):
        return finding(
            reading, rules, _rule(case), points_to=Outcome.SOUND, weight="weight.reserve", reading_text=f"{pct:.0f} % reserve", limit_text=limit_text,
            text=text + (", and it was not at its end" if stopped else ""),
        )  # fmt: skip
    if stopped:
        why = f"stopped at {reading.volts:.2f} V, the end is {ends:.2f} V: it says at least {pct:.0f} %"
        return finding(
            reading, rules, _rule(case), points_to=None, weight=None, status="dropped", remedy=StepKey.RESERVE_TEST, reading_text=reading_text,
            limit_text=limit_text, text=f"{reading_text} does not count: {why}", why_not=why,
        )  # fmt: skip
    if not (reading.after_full_charge or case.charged_before(reading)) and case.charge_near(reading) != "enough":
        return finding(
            reading, rules, _rule(case), points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=f"{pct:.0f} % reserve", limit_text=limit_text,
            text=f"{text}, but it was not shown to be full before",
        )  # fmt: skip
    return finding(
        reading, rules, _rule(case), points_to=Outcome.WORN_OUT, weight="weight.reserve", reading_text=f"{pct:.0f} % reserve", limit_text=limit_text,
        text=f"{text}: under {limit:.0f} %",
    )  # fmt: skip


def _rule(case: Case) -> str:
    return "reserve.used_pct" if case.context.use is Use.DEEP_CYCLE else "reserve.new_pct"

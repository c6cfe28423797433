"""Reserve: the work of batteries that do not start engines, as a timed discharge from full."""

from ..battery.label import Use
from ..facts.case import Case
from ..facts.state_of_charge import volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Reserve
from ..units.compare import PERCENT, VOLTS, at_least, over, under
from ..units.conversions import HOURS_OF_RATE, MINUTES_PER_HOUR
from ..words import Words, digits, fixed, say
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


def share_pct(reading: Reserve, case: Case, off: float = 0.0) -> tuple[float, Words] | None:
    """What came out over what is rated [%], with its words; None where nothing is rated.

    Minutes are brought to the rating's temperature and, by Peukert, to the rating's amps. `off` is added to the exponent.
    """
    rules, label = case.rules, case.battery
    temperature = case.temperature_at(reading)
    cold = 0.0 if temperature is None else max(rules.reserve.reference_c.value - temperature, 0.0)
    warm_minutes = minutes_to_end(reading, case) / (1 - rules.reserve.pct_per_c.value * cold / 100)
    exponent = rules.reserve.peukert.value[label.chemistry.value] + off
    corrected = say("reserve.min_when_warm", warm_minutes=fixed(warm_minutes, 0)) if cold else ""
    if label.reserve_minutes is not None:
        at_rate = warm_minutes * (reading.amps / rules.reserve.amps.value) ** exponent
        return (
            at_rate / label.reserve_minutes * 100,
            say(
                "reserve.of_min_at_a",
                reserve_minutes=fixed(label.reserve_minutes, 0),
                amps=fixed(rules.reserve.amps.value, 0),
                corrected=corrected,
            ),
        )
    if label.capacity_ah_20h is None:
        return None
    rated_amps = label.capacity_ah_20h / HOURS_OF_RATE
    hours = warm_minutes / MINUTES_PER_HOUR
    ah = rated_amps * hours * (reading.amps / rated_amps) ** exponent
    return ah / label.capacity_ah_20h * 100, say(
        "reserve.of_ah_at_the_20_h_rate",
        ah=fixed(ah, 0),
        capacity_ah_20h=fixed(label.capacity_ah_20h, 0),
        corrected=corrected,
    )


def limit_pct(case: Case) -> float:
    """Per cent of rated under which this battery has done its work."""
    used = case.context.use is Use.DEEP_CYCLE
    return case.rules.reserve.used_pct.value if used else case.rules.reserve.new_pct.value


@reads(Reserve)
def find(reading: Reserve, case: Case) -> Finding:
    """Minutes to the end volts against what is rated: the battery's own work."""
    rules, limit = case.rules, limit_pct(case)
    ends = end_volts(case)
    reading_text = say(
        "reserve.min_at_a_to_v",
        minutes=fixed(reading.minutes, 0),
        amps=digits(reading.amps),
        volts=fixed(reading.volts, 2),
    )
    share = share_pct(reading, case)
    limit_text = say("reserve.replace_below_of_rated_ends_at_v", limit=fixed(limit, 0), ends=fixed(ends, 2))
    if share is None:
        why = say("reserve.no_ah_and_no_reserve_minutes_on_record_to")
        return finding(
            reading, rules, "reserve.new_pct", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=reading_text, limit_text=limit_text, text=say('common.does_not_count', reading_text=reading_text, why=why), why_not=why,
        )  # fmt: skip
    pct, words = share
    stopped = over(reading.volts, ends, VOLTS)
    text = say("figures.reading_text_pct_words", reading_text=reading_text, pct=fixed(pct, 0), words=words)
    shown_full = reading.after_full_charge or case.charged_before(reading)
    near = _near_its_line(reading, case, limit) if shown_full and not stopped else None
    if near is not None:
        low, high = near
        return finding(
            reading, rules, "reserve.peukert_spread", points_to=Outcome.WATCH, weight="weight.doubtful", status="doubtful",
            reading_text=say('reserve.reserve', pct=fixed(pct, 0)), limit_text=limit_text,
            text=say('reserve.near_its_line', text=text, low=fixed(low, 0), high=fixed(high, 0), limit=fixed(limit, 0)),
        )  # fmt: skip
    if at_least(pct, limit, PERCENT):
        return finding(
            reading, rules, _rule(case), points_to=Outcome.SOUND, weight="weight.reserve", reading_text=say('reserve.reserve', pct=fixed(pct, 0)), limit_text=limit_text,
            text=say('reserve.and_it_was_not_at_its_end', text=text) if stopped else text,
        )  # fmt: skip
    if stopped:
        why = say(
            "reserve.stopped_at_v_the_end_is_v_it_says_at_least",
            volts=fixed(reading.volts, 2),
            ends=fixed(ends, 2),
            pct=fixed(pct, 0),
        )
        return finding(
            reading, rules, _rule(case), points_to=None, weight=None, status="dropped", remedy=StepKey.RESERVE_TEST, reading_text=reading_text,
            limit_text=limit_text, text=say('common.does_not_count', reading_text=reading_text, why=why), why_not=why,
        )  # fmt: skip
    if not shown_full:
        return finding(
            reading, rules, _rule(case), points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=say('reserve.reserve', pct=fixed(pct, 0)), limit_text=limit_text,
            text=say('reserve.but_it_was_not_shown_to_be_full_before', text=text),
        )  # fmt: skip
    return finding(
        reading, rules, _rule(case), points_to=Outcome.WORN_OUT, weight="weight.reserve", reading_text=say('reserve.reserve', pct=fixed(pct, 0)), limit_text=limit_text,
        text=say('reserve.under', text=text, limit=fixed(limit, 0)),
    )  # fmt: skip


def _near_its_line(reading: Reserve, case: Case, limit: float) -> tuple[float, float] | None:
    """From and to which per cent it may be, by what Peukert's exponent may be off, where the line lies between."""
    off = case.rules.reserve.peukert_spread.value
    ends = [share[0] for share in (share_pct(reading, case, by) for by in (-off, off)) if share is not None]
    low, high = min(ends), max(ends)
    return (low, high) if under(low, limit, PERCENT) and at_least(high, limit, PERCENT) else None


def _rule(case: Case) -> str:
    return "reserve.used_pct" if case.context.use is Use.DEEP_CYCLE else "reserve.new_pct"

"""Electronic tester: measured over rated, valid only when its settings match the label.

Decision rule: guarded acceptance and guarded rejection with a guard band as wide as the tester's uncertainty
(JCGM 106:2012, 8.3). Inside the band the reading is equivocal and calls for a resistive load test.
"""

from typing import NamedTuple

from ..facts.case import Case
from ..facts.tester_settings import (
    Held,
    VoidFigure,
    compare_on_one_scale,
    good_mohm_amps,
    measured_amps,
    one_setting_apart,
    reads_low,
    scale_of,
    temperature_then,
    why_void,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import ElectronicTester, TesterMessage
from ..tables import void_effects
from ..units.compare import CELSIUS, PERCENT, RATIO, at_least, under
from .finding import finding
from .reads import reads

CONDEMNING_MESSAGES = frozenset({TesterMessage.REPLACE, TesterMessage.BAD_CELL})
PASSING_MESSAGES = frozenset({TesterMessage.GOOD, TesterMessage.GOOD_RECHARGE})


class _Shown(NamedTuple):
    """One tester reading in figures and words: the ratio and its band, whether it clears the limit."""

    figures: str
    shown: str
    held: str
    fails: bool
    passes: bool
    firm: bool


def _compare_figure(reading: ElectronicTester, case: Case) -> _Shown | None:
    """The figure against its limit; None where the result is only a message."""
    if case.rated is None:
        return None
    rules, rating = case.rules_for(reading), compare_on_one_scale(reading, case)
    measured = measured_amps(reading, rating, case)
    if measured is None:
        return None
    amps, off = measured
    ratio, limit = amps / rating.rated_amps, rules.tester.replace_below_ratio.value
    cold = temperature_then(reading, case)
    colder = cold is not None and under(cold, rules.tester.cold_c.value, CELSIUS)
    wide = (
        rules.tester.uncertainty_ratio.value
        + rating.relative_spread
        + off
        + (rules.tester.cold_ratio.value if colder else 0)
    )
    converted = reading.scale_set is not scale_of(case)
    words = f"{amps:.0f} of {rating.words if converted else f'{rating.rated_amps:.0f} {rating.scale.value}'}, {ratio * 100:.0f} %"
    if reading.measured_cca_amps is None:
        words = f"{reading.resistance_mohm:g} mΩ, roughly {words}"
    if not case.rated.firm:
        words += _whose_rating(case)
    if colder:
        words += f", cold at {cold:.0f} °C"
    return _Shown(
        words + _besides(reading, rating, case) + one_setting_apart(reading, case),
        f"{amps:.0f} {rating.scale.value}, {ratio * 100:.0f} %",
        f"replace below {limit * 100:.0f} %, ±{wide * 100:.0f} %",
        under(ratio + ratio * wide, limit, RATIO),
        at_least(ratio - ratio * wide, limit, RATIO),
        case.rated.firm,
    )


def _whose_rating(case: Case) -> str:
    """Where a rating comes from that is more than the label's own word."""
    label = case.battery
    if label.rating is not None:
        return f" of a rating from the {label.rating_source.value}"
    if label.capacity_ah_20h is not None or case.rated is None:
        return " of a rating estimated from Ah"
    return f" of {case.rated.words}"


def _besides(reading: ElectronicTester, rating: Held, case: Case) -> str:
    """What else the tester showed, beside the figure and never mixed with it."""
    words = ""
    if reading.health_pct is not None:
        limit = case.rules.tester.health_below_pct.value
        low = under(reading.health_pct, limit, PERCENT)
        words += f"; its own health {reading.health_pct:.0f} %, {'under' if low else 'not under'} the {limit:.0f} % of this house"
    if reading.resistance_mohm is not None and reading.measured_cca_amps is not None and case.rated is not None:
        good = good_mohm_amps(case) / case.rated.amps
        words += f"; {reading.resistance_mohm:g} mΩ where a good one has about {good:.1f}"
    return words


@reads(ElectronicTester)
def find(reading: ElectronicTester, case: Case) -> Finding:
    """Measured over rated against the house's limit, with the tester's uncertainty as guard band; or its message alone."""
    rules = case.rules
    void = why_void(reading, case)
    seen = _compare_figure(reading, case)
    low = reads_low(reading, case)
    if void is None and low is not None and not (seen and seen.passes) and not _message_passes(reading, seen, case):
        void = low
    if void is not None:
        usual = f"; {void_effects()[void.effect].words}" if void.effect else ""
        figure = _figure(reading)
        return finding(
            reading, rules, void.rule, points_to=None, weight=None,
            status="dropped", reading_text=figure, limit_text=void.asks,
            text=f"{figure} does not count: {void.why}{usual}" + one_setting_apart(reading, case),
            why_not=f"{void.why}{usual}", remedy=void.remedy,
            origin=void_effects()[void.effect].origin if void.effect else None,
        )  # fmt: skip
    if seen is None:
        return _by_message(reading, case)
    return _by_figure(reading, case, seen, low)


def _message_passes(reading: ElectronicTester, seen: _Shown | None, case: Case) -> bool:
    return seen is None and reading.message in PASSING_MESSAGES


def _figure(reading: ElectronicTester) -> str:
    if reading.measured_cca_amps is not None:
        return f"{reading.measured_cca_amps:.0f} {reading.scale_set.value}"
    if reading.resistance_mohm is not None:
        return f"{reading.resistance_mohm:g} mΩ"
    return f"it says {_words(reading.message)}"


def _by_figure(reading: ElectronicTester, case: Case, seen: _Shown, low: VoidFigure | None) -> Finding:
    rules = case.rules
    figures, reading_text, held_text = seen.figures, seen.shown, seen.held
    limit = rules.tester.replace_below_ratio.value
    message = _message_that_counts(reading, case)
    charge = case.charge_near(reading)
    fails, passes = seen.fails, seen.passes

    def told(rule: str, points_to: Outcome, weight: str, text: str, remedy: StepKey | None = None) -> Finding:
        return finding(
            reading, rules, rule, points_to=points_to, weight=weight, remedy=remedy, reading_text=reading_text, limit_text=held_text,
            status="doubtful" if remedy or not seen.firm else "counts", text=f"{figures}{text}",
        )  # fmt: skip

    if message is TesterMessage.RECHARGE_RETEST and not case.charged_before(reading):
        return told(
            "rest.recharge_line_volts",
            Outcome.NEEDS_CHARGE,
            "weight.doubtful",
            ", and the tester says recharge and retest: so do it",
            StepKey.CHARGE_AND_RETEST,
        )
    if charge == "low":
        return _on_a_low_battery(reading, case, seen, passes=passes and message not in CONDEMNING_MESSAGES)
    if (fails and message in PASSING_MESSAGES) or (
        passes and message in CONDEMNING_MESSAGES | {TesterMessage.RECHARGE_RETEST}
    ):
        return told(
            "tester.replace_below_ratio",
            Outcome.CANNOT_TELL,
            "weight.tester_equivocal",
            f", but the tester's own message says {_words(reading.message)}: they do not agree",
            StepKey.LOAD_TEST,
        )
    if passes:
        through = f", although {low.why}, which only reads low" if low else ""
        if _health_doubts(reading, case):
            return told(
                "tester.health_below_pct",
                Outcome.CANNOT_TELL,
                "weight.tester_equivocal",
                f": clear above the house's {limit * 100:.0f} %, but its own health speaks against it",
                StepKey.LOAD_TEST,
            )
        weight = "weight.tester" if seen.firm else "weight.tester_equivocal"
        return told(
            "tester.replace_below_ratio",
            Outcome.SOUND,
            weight,
            f": clear above the house's {limit * 100:.0f} %{through}",
        )
    if not fails:
        return told(
            "tester.uncertainty_ratio",
            Outcome.CANNOT_TELL,
            "weight.tester_equivocal",
            ": within the tester's own uncertainty of the limit, equivocal",
            StepKey.LOAD_TEST,
        )
    if charge == "unknown":
        return told(
            "tester.pairing_minutes",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            ": low, but no rest volts near in time say whether it was charged",
            StepKey.MEASURE_VOLTS,
        )
    if not seen.firm:
        return told(
            "estimate.spread_ratio",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            ": low, but not against the label's own figure. A load test decides",
            StepKey.LOAD_TEST,
        )
    if case.judged_by_reserve:
        return told(
            "decision.watch_months", Outcome.WATCH, "weight.tester", ": low for starting, which says little of reserve"
        )
    bad_cell = message is TesterMessage.BAD_CELL
    return told(
        "tester.replace_below_ratio",
        Outcome.DEAD_CELL if bad_cell else Outcome.WORN_OUT,
        "weight.tester",
        f": clear below the house's {limit * 100:.0f} %" + (", and the tester says bad cell" if bad_cell else ""),
    )


def _health_doubts(reading: ElectronicTester, case: Case) -> bool:
    return reading.health_pct is not None and under(
        reading.health_pct, case.rules.tester.health_below_pct.value, PERCENT
    )


def _by_message(reading: ElectronicTester, case: Case) -> Finding:
    """A result that is only a message: taken at its word where the settings are right and the charge allows it."""
    rules, message = case.rules, reading.message
    charge = case.charge_near(reading)
    reading_text = f"it says {_words(message)}"
    besides = "" if reading.health_pct is None else f", its own health {reading.health_pct:.0f} %"

    def told(points_to: Outcome | None, weight: str | None, text: str, remedy: StepKey | None = None) -> Finding:
        return finding(
            reading, rules, "weight.message", points_to=points_to, weight=weight, status="doubtful" if remedy else "counts",
            remedy=remedy, reading_text=reading_text, limit_text="its own message, no figure", text=f"The tester says {_words(message)}{besides}{text}",
        )  # fmt: skip

    if message in PASSING_MESSAGES and not _health_doubts(reading, case):
        return told(Outcome.SOUND, "weight.message", ", without a figure")
    if charge == "low" or (message is TesterMessage.RECHARGE_RETEST and not case.charged_before(reading)):
        cell = message is TesterMessage.BAD_CELL
        return told(
            Outcome.NEEDS_CHARGE,
            "weight.doubtful",
            " on a battery that is not charged: charge it first" + (", and watch for a dead cell" if cell else ""),
            StepKey.CHARGE_AND_WATCH if cell else StepKey.CHARGE_AND_RETEST,
        )
    if (
        message in PASSING_MESSAGES
        or message is TesterMessage.RECHARGE_RETEST
        or case.rated is None
        or not case.rated.firm
    ):
        return told(Outcome.CANNOT_TELL, "weight.doubtful", ": a load test decides", StepKey.LOAD_TEST)
    if charge == "unknown":
        return told(Outcome.CANNOT_TELL, "weight.doubtful", ", but no rest volts near in time", StepKey.MEASURE_VOLTS)
    if case.judged_by_reserve:
        return told(Outcome.WATCH, "weight.message", ", which says little of reserve")
    outcome = Outcome.DEAD_CELL if message is TesterMessage.BAD_CELL else Outcome.WORN_OUT
    return told(outcome, "weight.message", ", charged and with the right settings")


def _on_a_low_battery(reading: ElectronicTester, case: Case, seen: _Shown, *, passes: bool) -> Finding:
    if passes:
        return finding(
            reading, case.rules, "tester.replace_below_ratio", points_to=Outcome.SOUND, weight="weight.tester", reading_text=seen.shown, limit_text=seen.held,
            text=f"{seen.figures}: good even though it is low on charge",
        )  # fmt: skip
    bad_cell = reading.message is TesterMessage.BAD_CELL
    return finding(
        reading, case.rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful",
        status="doubtful", remedy=StepKey.CHARGE_AND_WATCH if bad_cell else StepKey.CHARGE_AND_RETEST, reading_text=seen.shown, limit_text=seen.held,
        text=f"{seen.figures}, read on a battery not clear of the recharge line: charge it, then test again"
        + (". The tester suspects a cell: look in within the hour" if bad_cell else ""),
    )  # fmt: skip


def _message_that_counts(reading: ElectronicTester, case: Case) -> TesterMessage | None:
    """The tester's own message, unless it was worked out against another rated figure than the label's."""
    set_to = reading.rated_set_amps
    if case.rated is None or set_to is None:
        return reading.message
    return None if abs(set_to - compare_on_one_scale(reading, case).rated_amps) >= 1 else reading.message


def _words(message: TesterMessage | None) -> str:
    return message.value.replace("_", " ") if message else "nothing"

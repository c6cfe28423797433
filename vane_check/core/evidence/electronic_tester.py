"""Electronic tester: measured over rated, valid only when its settings match the label.

Decision rule: guarded acceptance and guarded rejection with a guard band as wide as the tester's uncertainty
(JCGM 106:2012, 8.3). Inside the band the reading is equivocal and calls for a resistive load test.
"""

from typing import NamedTuple

from ..battery.label import RatingSource
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
    why_void,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import ElectronicTester, TesterMessage
from ..tables import void_effects
from ..units.compare import CELSIUS, PERCENT, RATIO, at_least, under
from ..words import NOTHING, Words, digits, fixed, say, word
from .finding import finding
from .reads import reads
from .tester_message import CONDEMNING_MESSAGES, PASSING_MESSAGES, by_message, health_doubts, message_words


class _Shown(NamedTuple):
    """One tester reading in figures and words: the ratio and its band, whether it clears the limit."""

    figures: Words
    shown: Words
    held: Words
    fails: bool
    passes: bool
    firm: bool
    cold: bool


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
    cold = case.temperature_at(reading)
    colder = cold is not None and under(cold, rules.tester.cold_c.value, CELSIUS)
    wide = (
        rules.tester.uncertainty_ratio.value
        + rating.relative_spread
        + off
        + (rules.tester.cold_ratio.value if colder else 0)
    )
    converted = reading.scale_set is not scale_of(case)
    words = say(
        "electronic_tester.of",
        amps=fixed(amps, 0),
        rating=rating.words
        if converted
        else say("figures.rated_amps_scale", rated_amps=fixed(rating.rated_amps, 0), scale=rating.scale.value),
        ratio=fixed(ratio * 100, 0),
    )
    if reading.measured_cca_amps is None and reading.resistance_mohm is not None:
        words = say("electronic_tester.m_roughly", resistance_mohm=digits(reading.resistance_mohm), words=words)
    if not case.rated.firm:
        words += _whose_rating(case)
    if cold is not None and colder:
        words += say("electronic_tester.cold_at_c", cold=fixed(cold, 0))
    return _Shown(
        words + _besides(reading, rating, case) + one_setting_apart(reading, case),
        say("figures.amps_scale_ratio", amps=fixed(amps, 0), scale=rating.scale.value, ratio=fixed(ratio * 100, 0)),
        say("electronic_tester.replace_below", limit=fixed(limit * 100, 0), wide=fixed(wide * 100, 0)),
        under(ratio + ratio * wide, limit, RATIO),
        at_least(ratio - ratio * wide, limit, RATIO),
        case.rated.firm,
        colder,
    )


def _whose_rating(case: Case) -> Words:
    """Where a rating comes from that is more than the label's own word."""
    label = case.battery
    if label.rating is not None and label.rating_source is RatingSource.ASSUMED:
        return say("electronic_tester.of_an_assumed_rating")
    if label.rating is not None:
        return say("electronic_tester.of_a_rating_from_the", rating_source=word(label.rating_source.value))
    if label.capacity_ah_20h is not None or case.rated is None:
        return say("electronic_tester.of_a_rating_estimated_from_ah")
    return say("electronic_tester.of_2", rated=case.rated.words)


def _besides(reading: ElectronicTester, rating: Held, case: Case) -> Words:
    """What else the tester showed, beside the figure and never mixed with it."""
    words = NOTHING
    if reading.health_pct is not None:
        limit = case.rules.tester.health_below_pct.value
        low = under(reading.health_pct, limit, PERCENT)
        words += say(
            "electronic_tester.its_own_health_the_of_this_house",
            health_pct=fixed(reading.health_pct, 0),
            stands=say("electronic_tester.under") if low else say("electronic_tester.not_under"),
            limit=fixed(limit, 0),
        )
    if reading.resistance_mohm is not None and reading.measured_cca_amps is not None and case.rated is not None:
        good = good_mohm_amps(case) / case.rated.amps
        words += say(
            "electronic_tester.m_where_a_good_one_has_about",
            resistance_mohm=digits(reading.resistance_mohm),
            good=fixed(good, 1),
        )
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
        usual = "; " + void_effects()[void.effect].words if void.effect else NOTHING
        figure = _figure(reading)
        return finding(
            reading, rules, void.rule, points_to=None, weight=None,
            status="dropped", reading_text=figure, limit_text=void.asks,
            text=say('electronic_tester.does_not_count', reading=figure, why=void.why, usual=usual) + one_setting_apart(reading, case),
            why_not=void.why + usual, remedy=void.remedy,
            origin=void_effects()[void.effect].origin if void.effect else None,
        )  # fmt: skip
    if seen is None:
        return by_message(reading, case)
    return _by_figure(reading, case, seen, low)


def _message_passes(reading: ElectronicTester, seen: _Shown | None, case: Case) -> bool:
    return seen is None and reading.message in PASSING_MESSAGES


def _figure(reading: ElectronicTester) -> Words:
    if reading.measured_cca_amps is not None:
        return say(
            "figures.measured_cca_amps_scale_set",
            measured_cca_amps=fixed(reading.measured_cca_amps, 0),
            scale_set=reading.scale_set.value,
        )
    if reading.resistance_mohm is not None:
        return say("figures.resistance_mohm_m", resistance_mohm=digits(reading.resistance_mohm))
    return say("electronic_tester.it_says", words=message_words(reading.message))


def _by_figure(reading: ElectronicTester, case: Case, seen: _Shown, low: VoidFigure | None) -> Finding:
    rules = case.rules
    figures, reading_text, held_text = seen.figures, seen.shown, seen.held
    limit = rules.tester.replace_below_ratio.value
    message = _message_that_counts(reading, case)
    charge = case.charge_near(reading)
    fails, passes = seen.fails, seen.passes

    def told(rule: str, points_to: Outcome, weight: str, text: Words, remedy: StepKey | None = None) -> Finding:
        return finding(
            reading, rules, rule, points_to=points_to, weight=weight, remedy=remedy, reading_text=reading_text, limit_text=held_text,
            status="doubtful" if remedy or not seen.firm else "counts", text=text,
        )  # fmt: skip

    if message is TesterMessage.RECHARGE_RETEST and not case.charged_before(reading):
        return told(
            "rest.recharge_line_volts",
            Outcome.NEEDS_CHARGE,
            "weight.doubtful",
            say("electronic_tester.and_the_tester_says_recharge_and_retest_so", reading=figures),
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
            say(
                "electronic_tester.but_the_testers_own_message_says_they_do",
                reading=figures,
                words=message_words(reading.message),
            ),
            StepKey.LOAD_TEST,
        )
    if passes:
        if health_doubts(reading, case):
            return told(
                "tester.health_below_pct",
                Outcome.CANNOT_TELL,
                "weight.tester_equivocal",
                say(
                    "electronic_tester.clear_above_the_houses_but_its_own_health",
                    reading=figures,
                    limit=fixed(limit * 100, 0),
                ),
                StepKey.LOAD_TEST,
            )
        weight = "weight.tester" if seen.firm else "weight.tester_equivocal"
        return told(
            "tester.replace_below_ratio",
            Outcome.SOUND,
            weight,
            say("electronic_tester.clear_above_the_houses", reading=figures, limit=fixed(limit * 100, 0))
            if low is None
            else say(
                "electronic_tester.clear_above_the_houses_although",
                reading=figures,
                limit=fixed(limit * 100, 0),
                why=low.why,
            ),
        )
    if not fails:
        return told(
            "tester.uncertainty_ratio",
            Outcome.CANNOT_TELL,
            "weight.tester_equivocal",
            say("electronic_tester.within_the_testers_own_uncertainty_of_the", reading=figures),
            StepKey.LOAD_TEST,
        )
    if seen.cold:
        return told(
            "tester.cold_c",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("electronic_tester.low_and_cold_warm_it_or_pull_it", reading=figures),
            StepKey.LOAD_TEST,
        )
    if charge == "unknown":
        return told(
            "tester.pairing_minutes",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("electronic_tester.low_but_no_rest_volts_near_in_time_say", reading=figures),
            StepKey.MEASURE_VOLTS,
        )
    if not seen.firm:
        return told(
            "estimate.spread_ratio",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("electronic_tester.low_but_not_against_the_labels_own_figure", reading=figures),
            StepKey.LOAD_TEST,
        )
    if case.judged_by_reserve:
        return told(
            "decision.watch_months",
            Outcome.WATCH,
            "weight.tester",
            say("electronic_tester.low_for_starting_which_says_little_of", reading=figures),
        )
    bad_cell = message is TesterMessage.BAD_CELL
    return told(
        "tester.replace_below_ratio",
        Outcome.DEAD_CELL if bad_cell else Outcome.WORN_OUT,
        "weight.tester",
        say(
            "electronic_tester.clear_below_the_houses_and_it_says_bad_cell",
            reading=figures,
            limit=fixed(limit * 100, 0),
        )
        if bad_cell
        else say("electronic_tester.clear_below_the_houses", reading=figures, limit=fixed(limit * 100, 0)),
    )


def _on_a_low_battery(reading: ElectronicTester, case: Case, seen: _Shown, *, passes: bool) -> Finding:
    if passes:
        return finding(
            reading, case.rules, "tester.replace_below_ratio", points_to=Outcome.SOUND, weight="weight.tester", reading_text=seen.shown, limit_text=seen.held,
            text=say('electronic_tester.good_even_though_it_is_low_on_charge', reading=seen.figures),
        )  # fmt: skip
    bad_cell = reading.message is TesterMessage.BAD_CELL
    return finding(
        reading, case.rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful",
        status="doubtful", remedy=StepKey.CHARGE_AND_WATCH if bad_cell else StepKey.CHARGE_AND_RETEST, reading_text=seen.shown, limit_text=seen.held,
        text=say('electronic_tester.read_on_a_battery_not_clear_of_the_line_a_cell', reading=seen.figures)
        if bad_cell
        else say('electronic_tester.read_on_a_battery_not_clear_of_the', reading=seen.figures),
    )  # fmt: skip


def _message_that_counts(reading: ElectronicTester, case: Case) -> TesterMessage | None:
    """The tester's own message, unless it was worked out against another rated figure than the label's."""
    set_to = reading.rated_set_amps
    if case.rated is None or set_to is None:
        return reading.message
    return None if abs(set_to - compare_on_one_scale(reading, case).rated_amps) >= 1 else reading.message

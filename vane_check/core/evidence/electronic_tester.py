"""Electronic tester: measured over rated, valid only when its settings match the label.

Decision rule: guarded acceptance and guarded rejection with a guard band as wide as the tester's uncertainty
(JCGM 106:2012, 8.3). Inside the band the reading is equivocal and calls for a resistive load test.
"""

from typing import NamedTuple

from ..battery import RESERVE_USES, Chemistry, RatingScale
from ..compare import AMPS, RATIO, at_least, over, under
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import Clamped, ElectronicTester, TesterMessage, TypeSet
from ..tables import void_effects
from . import Case, finding

TYPES_OF_CHEMISTRY: dict[Chemistry, frozenset[TypeSet]] = {
    Chemistry.FLOODED: frozenset({TypeSet.FLOODED}),
    Chemistry.CALCIUM: frozenset({TypeSet.FLOODED}),
    Chemistry.EFB: frozenset({TypeSet.EFB}),
    Chemistry.AGM: frozenset({TypeSet.AGM_FLAT, TypeSet.AGM_SPIRAL}),
    Chemistry.GEL: frozenset({TypeSet.GEL}),
}
CONDEMNING_MESSAGES = frozenset({TesterMessage.REPLACE, TesterMessage.BAD_CELL})
PASSING_MESSAGES = frozenset({TesterMessage.GOOD, TesterMessage.GOOD_RECHARGE})


class Void(NamedTuple):
    """Why a tester's figure does not count, which effect it has, and what to do."""

    why: str
    effect: str | None
    remedy: StepKey


def scale_of(case: Case) -> RatingScale:
    """The scale the rating stands on; CCA when it is estimated."""
    return case.battery.rating.scale if case.battery.rating else RatingScale.CCA


def rated_on_scale(case: Case) -> float:
    """The rating [A] on its own scale: measured and rated are compared without converting either."""
    assert case.rated is not None
    return case.battery.rating.amps if case.battery.rating else case.rated.amps


def why_void(reading: ElectronicTester, case: Case) -> Void | None:
    """The first reason this figure does not count, or None when it does."""
    chemistry = case.battery.chemistry
    if reading.clamped is Clamped.STUDS:
        return Void("clamped on the threaded studs, not the lead posts", "studs", StepKey.TESTER_AGAIN)
    if reading.clamped is Clamped.CABLE_CLAMPS:
        return Void("clamped on the cable clamps, not the lead posts", "cable_clamps", StepKey.TESTER_AGAIN)
    if reading.charge_setting == "after" and case.charge_near(reading) == "low":
        return Void(
            "tester was told the battery was charged, the rest volts say it was not", None, StepKey.CHARGE_AND_RETEST
        )
    if reading.type_set not in TYPES_OF_CHEMISTRY[chemistry]:
        set_to = reading.type_set.value.replace("_", " ").upper()
        return Void(f"tester was set to {set_to}, the label says {chemistry.words}", "wrong_type", StepKey.TESTER_AGAIN)
    if not reading.posts_clean:
        return Void("read through corroded posts", "corroded", StepKey.CLEAN_POSTS)
    scale = scale_of(case)
    if reading.scale_set is not scale:
        return Void(
            f"tester was set to {reading.scale_set.value}, the label is in {scale.value}",
            "wrong_scale",
            StepKey.TESTER_AGAIN,
        )
    if case.rated is None:
        return Void("no rated figure to hold it against", None, StepKey.READ_LABEL)
    if over(reading.measured_cca_amps, rated_on_scale(case) * case.rules.absurd_ratio.value, AMPS):
        return Void(
            "more than double the rating: typing error, or the rated figure is wrong", None, StepKey.TESTER_AGAIN
        )
    return None


def find(reading: ElectronicTester, case: Case) -> Finding:
    """Measured over rated against the house's limit, with the tester's uncertainty as guard band."""
    rules = case.rules
    void = why_void(reading, case)
    if void is not None:
        usual = f"; {void_effects()[void.effect].words}" if void.effect else ""
        return finding(
            reading, rules, "settings_as_on_the_label" if void.effect else "absurd_ratio", points_to=None, weight=None,
            status="dropped", reading_text=f"{reading.measured_cca_amps:.0f} CCA", limit_text="settings as on the label",
            text=f"{reading.measured_cca_amps:.0f} CCA does not count: {void.why}{usual}",
            why_not=f"{void.why}{usual}", remedy=void.remedy,
            origin=void_effects()[void.effect].origin if void.effect else None,
        )  # fmt: skip
    assert case.rated is not None
    rated, firm = rated_on_scale(case), case.rated.firm
    ratio = reading.measured_cca_amps / rated
    limit = rules.replace_below_ratio.value
    scale = scale_of(case).value
    band = ratio * (rules.tester_uncertainty_ratio.value + (0.0 if firm else case.rated.relative_spread))
    figures = f"{reading.measured_cca_amps:.0f} of {rated:.0f} {scale}, {ratio * 100:.0f} %"
    if not firm:
        figures += f" of a rating {'from the ' + case.battery.rating_source.value if case.battery.rating else 'estimated from Ah'}"
    shown = f"{reading.measured_cca_amps:.0f} {scale}, {ratio * 100:.0f} %"
    held_against = f"replace below {limit * 100:.0f} %, ±{rules.tester_uncertainty_ratio.value * 100:.0f} %"
    message = _message_that_counts(reading, rated)
    charge = case.charge_near(reading)
    fails, passes = under(ratio + band, limit, RATIO), at_least(ratio - band, limit, RATIO)
    if charge == "low":
        return _on_a_low_battery(
            reading, case, figures, shown, held_against, passes=passes and message not in CONDEMNING_MESSAGES
        )
    if (fails and message in PASSING_MESSAGES) or (passes and message in CONDEMNING_MESSAGES):
        return finding(
            reading, rules, "replace_below_ratio", points_to=Outcome.CANNOT_TELL, weight="weight_tester_equivocal",
            status="doubtful", remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held_against,
            text=f"{figures}, but the tester's own message says {_words(reading.message)}: they do not agree",
        )  # fmt: skip
    if passes:
        return finding(
            reading, rules, "replace_below_ratio", points_to=Outcome.SOUND, weight="weight_tester" if firm else "weight_tester_equivocal",
            status="counts" if firm else "doubtful", reading_text=shown, limit_text=held_against,
            text=f"{figures}: clear above the house's {limit * 100:.0f} %",
        )  # fmt: skip
    if not fails:
        return finding(
            reading, rules, "tester_uncertainty_ratio", points_to=Outcome.CANNOT_TELL, weight="weight_tester_equivocal",
            status="doubtful", remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held_against,
            text=f"{figures}: within the tester's own uncertainty of the limit, equivocal",
        )  # fmt: skip
    if charge == "unknown":
        return finding(
            reading, rules, "pairing_minutes", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful",
            status="doubtful", remedy=StepKey.MEASURE_VOLTS, reading_text=shown, limit_text=held_against,
            text=f"{figures}: low, but no rest volts near in time say whether it was charged",
        )  # fmt: skip
    if not firm:
        return finding(
            reading, rules, "estimate_spread_ratio", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful",
            status="doubtful", remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held_against,
            text=f"{figures}: low, but not against the label's own figure. A load test decides",
        )  # fmt: skip
    if case.context.use in RESERVE_USES:
        return finding(
            reading, rules, "watch_months", points_to=Outcome.WATCH, weight="weight_tester", reading_text=shown, limit_text=held_against,
            text=f"{figures}: low for starting, which says little of reserve",
        )  # fmt: skip
    bad_cell = message is TesterMessage.BAD_CELL
    return finding(
        reading, rules, "replace_below_ratio", points_to=Outcome.DEAD_CELL if bad_cell else Outcome.WORN_OUT,
        weight="weight_tester", reading_text=shown, limit_text=held_against,
        text=f"{figures}: clear below the house's {limit * 100:.0f} %" + (", and the tester says bad cell" if bad_cell else ""),
    )  # fmt: skip


def _on_a_low_battery(
    reading: ElectronicTester, case: Case, figures: str, shown: str, held_against: str, *, passes: bool
) -> Finding:
    if passes:
        return finding(
            reading, case.rules, "replace_below_ratio", points_to=Outcome.SOUND, weight="weight_tester", reading_text=shown, limit_text=held_against,
            text=f"{figures}: good even though it is low on charge",
        )  # fmt: skip
    return finding(
        reading, case.rules, "recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight_doubtful",
        status="doubtful", remedy=StepKey.CHARGE_AND_RETEST, reading_text=shown, limit_text=held_against,
        text=f"{figures}, read on a battery not clear of the recharge line: charge it, then test again",
    )  # fmt: skip


def _message_that_counts(reading: ElectronicTester, rated_amps: float) -> TesterMessage | None:
    """The tester's own message, unless it was worked out against another rated figure than the label's."""
    if reading.rated_set_amps is not None and reading.rated_set_amps != rated_amps:
        return None
    return reading.message


def _words(message: TesterMessage | None) -> str:
    return message.value.replace("_", " ") if message else "nothing"

"""What a tester says in words: taken at its word where it shows no figure, the settings are right and the charge allows it."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import ElectronicTester, TesterMessage
from ..units.compare import PERCENT, under
from ..words import Words, fixed, say
from .finding import finding

CONDEMNING_MESSAGES = frozenset({TesterMessage.REPLACE, TesterMessage.BAD_CELL})
PASSING_MESSAGES = frozenset({TesterMessage.GOOD, TesterMessage.GOOD_RECHARGE})


def health_doubts(reading: ElectronicTester, case: Case) -> bool:
    """Whether the tester's own figure of health [%] lies under this house's."""
    return reading.health_pct is not None and under(
        reading.health_pct, case.rules.tester.health_below_pct.value, PERCENT
    )


def by_message(reading: ElectronicTester, case: Case) -> Finding:
    """A result that is only a message: taken at its word where the settings are right and the charge allows it."""
    rules, message = case.rules, reading.message
    charge = case.charge_near(reading)
    reading_text = say("electronic_tester.it_says", words=message_words(message))
    says = (
        say("electronic_tester.the_tester_says", words=message_words(message))
        if reading.health_pct is None
        else say(
            "electronic_tester.the_tester_says_its_own_health",
            words=message_words(message),
            health_pct=fixed(reading.health_pct, 0),
        )
    )

    def told(points_to: Outcome | None, weight: str | None, text: Words, remedy: StepKey | None = None) -> Finding:
        return finding(
            reading, rules, "weight.message", points_to=points_to, weight=weight, status="doubtful" if remedy else "counts",
            remedy=remedy, reading_text=reading_text, limit_text=say('electronic_tester.its_own_message_no_figure'), text=text,
        )  # fmt: skip

    if message in PASSING_MESSAGES and not health_doubts(reading, case):
        return told(Outcome.SOUND, "weight.message", say("electronic_tester.without_a_figure", reading=says))
    if charge == "low" or (message is TesterMessage.RECHARGE_RETEST and not case.charged_before(reading)):
        cell = message is TesterMessage.BAD_CELL
        return told(
            Outcome.NEEDS_CHARGE,
            "weight.doubtful",
            say("electronic_tester.on_a_battery_that_is_not_charged_watch_for_a_dead_cell", reading=says)
            if cell
            else say("electronic_tester.on_a_battery_that_is_not_charged_charge_it", reading=says),
            StepKey.CHARGE_AND_WATCH if cell else StepKey.CHARGE_AND_RETEST,
        )
    if (
        message in PASSING_MESSAGES
        or message is TesterMessage.RECHARGE_RETEST
        or case.rated is None
        or not case.rated.firm
    ):
        return told(
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("electronic_tester.a_load_test_decides", reading=says),
            StepKey.LOAD_TEST,
        )
    if charge == "unknown":
        return told(
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("electronic_tester.but_no_rest_volts_near_in_time", reading=says),
            StepKey.MEASURE_VOLTS,
        )
    if case.judged_by_reserve:
        return told(
            Outcome.WATCH, "weight.message", say("electronic_tester.which_says_little_of_reserve", reading=says)
        )
    outcome = Outcome.DEAD_CELL if message is TesterMessage.BAD_CELL else Outcome.WORN_OUT
    return told(outcome, "weight.message", say("electronic_tester.charged_and_with_the_right_settings", reading=says))


def message_words(message: TesterMessage | None) -> Words:
    """A message as it is said; nothing where it gave none."""
    return say(f"tester_message.{message.value}") if message else say("electronic_tester.nothing")

"""What must hold for every check, tried by hypothesis on drawn ones."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.readings import AnyReading

RATED = 600.0
GOODNESS = {
    Outcome.UNSAFE: 0, Outcome.WORN_OUT: 0, Outcome.DEAD_CELL: 0, Outcome.LEAKS_CHARGE: 0, Outcome.WATCH: 1,
    Outcome.CANNOT_TELL: 2, Outcome.NEEDS_CHARGE: 3, Outcome.SOUND: 4,
}  # fmt: skip

rest = st.builds(
    volts,
    st.floats(0, 17),
    st.integers(0, 400),
    settled=st.sampled_from(["rested", "headlamps", "just_charged"]),
    after_full_charge=st.booleans(),
    rested_hours=st.one_of(st.none(), st.floats(0, 48)),
    confirmed=st.booleans(),
)
plausible_cca = st.floats(0, RATED * 1.9)
messages = st.sampled_from([None, "good", "good_recharge", "recharge_retest", "replace", "bad_cell"])
too_little = st.floats(50, 0.8 * RATED)
"""What passes on studs or clamps has passed; only what does not is void."""
void_tester = st.one_of(
    st.builds(
        tester, too_little, st.integers(0, 400), clamped=st.sampled_from(["studs", "cable_clamps"]), message=messages
    ),
    st.builds(
        tester,
        plausible_cca,
        st.integers(0, 400),
        type_set=st.sampled_from(["efb", "gel", "agm_spiral"]),
        message=messages,
    ),
    st.builds(
        tester, plausible_cca, st.integers(0, 400), scale_set=st.sampled_from(["EN", "DIN", "CA"]), message=messages
    ),
)
valid_tester = st.builds(tester, plausible_cca, st.integers(0, 400), message=messages)
minutes_on = st.integers(0, 400)


def of_kind(kind: str, **fields: st.SearchStrategy[object]) -> st.SearchStrategy[AnyReading]:
    return st.builds(lambda minutes, body: reading(kind, minutes, **body), minutes_on, st.fixed_dictionaries(fields))


loads = of_kind(
    "adjustable_load",
    volts=st.floats(0, 13),
    amps=st.floats(50, 600),
    seconds=st.floats(2, 30),
    temperature_c=st.floats(-15, 40),
)
others = st.one_of(
    of_kind("fixed_load", volts=st.floats(0, 13), amps=st.just(100.0), seconds=st.floats(2, 20)),
    of_kind("crank", volts=st.floats(5, 13), seconds=st.floats(1, 20)),
    of_kind("stand", start_volts=st.floats(11, 13), volts=st.floats(10, 13), hours=st.floats(1, 40)),
    of_kind(
        "charge_run",
        start_amps=st.floats(0, 20),
        amps=st.floats(0, 20),
        volts=st.floats(9, 15),
        hours=st.floats(0, 30),
        finished=st.booleans(),
    ),
    of_kind(
        "cells",
        specific_gravities=st.lists(st.floats(1.05, 1.3), min_size=6, max_size=6),
        after_full_charge=st.booleans(),
    ),
    of_kind("case_leakage", volts=st.floats(0, 12), cleaned=st.booleans()),
    of_kind("car", idle_volts=st.floats(11, 16), drain_ma=st.floats(0, 900), clamp_moves=st.booleans()),
)
any_reading = st.one_of(
    rest, valid_tester, void_tester, loads, others, st.builds(look, st.sampled_from(["hot", "frozen"]))
)
uses = st.sampled_from(["private", "standby", "taxi"])


def judged(readings: list[AnyReading], use: str) -> Judgement:
    return judge(*readings, rated=RATED, context={"use": use})


class Properties(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(st.lists(rest, max_size=2), plausible_cca, plausible_cca, st.integers(0, 400), messages, uses)
    def test_more_cca_never_makes_a_battery_worse(
        self, others: list[AnyReading], one: float, other: float, minutes: int, message: str | None, use: str
    ) -> None:
        low, high = sorted((one, other))
        less = judged([*others, tester(low, minutes, message=message)], use)
        more = judged([*others, tester(high, minutes, message=message)], use)
        self.assertGreaterEqual(GOODNESS[more.outcome], GOODNESS[less.outcome])

    @settings(max_examples=150, deadline=None)
    @given(st.lists(any_reading, max_size=4), void_tester, uses)
    def test_a_void_reading_never_changes_the_outcome(
        self, readings: list[AnyReading], void: AnyReading, use: str
    ) -> None:
        without, with_it = judged(readings, use), judged([*readings, void], use)
        self.assertEqual(without.outcome, with_it.outcome)
        self.assertEqual(without.confidence, with_it.confidence)

    @settings(max_examples=150, deadline=None)
    @given(st.data(), st.lists(any_reading, min_size=2, max_size=5), uses)
    def test_the_order_of_readings_of_one_instant_does_not_matter(
        self, data: st.DataObject, readings: list[AnyReading], use: str
    ) -> None:
        same = [reading(one.kind, 5, **one.model_dump(mode="json", exclude={"kind", "taken_at"})) for one in readings]
        shuffled = data.draw(st.permutations(same))
        self.assertEqual(judged(same, use), judged(list(shuffled), use))

    @settings(max_examples=150, deadline=None)
    @given(st.lists(any_reading, max_size=5), uses)
    def test_every_judgement_is_whole(self, readings: list[AnyReading], use: str) -> None:
        found = judged(readings, use)
        self.assertTrue(0 <= found.confidence <= 1)
        self.assertTrue(found.next_step.text and found.next_step.needs)
        self.assertGreaterEqual(len(found.findings), len(readings))
        hazard = any(one.kind == "look" and one.marks for one in readings)
        self.assertTrue(found.outcome is Outcome.UNSAFE or not hazard)
        if found.outcome is Outcome.UNSAFE:
            self.assertEqual(found.next_step.key, "hold_apart")

    @settings(max_examples=60, deadline=None)
    @given(st.lists(any_reading, max_size=4))
    def test_a_judgement_survives_being_written_down(self, readings: list[AnyReading]) -> None:
        found = assess(check(*readings), RULES)
        self.assertEqual(Judgement.model_validate_json(found.model_dump_json()), found)

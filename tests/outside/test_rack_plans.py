"""Plans of the rack against an independent validator that counts minutes (`tests/racks.faults`): overlaps, hands, rests, pins, nights."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.racks import Begun, Lane, Pin, by_day, faults, job, rack
from vane_check.core.charging.rack import ChargeJob, Rack, planned

LANES = (Lane(1, 1, True), Lane(1, 2, True), Lane(2, 1, True), Lane(3, 1, False))


@st.composite
def days(draw: st.DrawFn) -> tuple[Rack, list[ChargeJob]]:
    lanes = LANES[: draw(st.integers(1, 4))]
    closed = by_day(draw(st.integers(60, 160)), draw(st.integers(100, 190)))
    built = rack(
        lanes, closed=closed, hands=draw(st.integers(1, 3)), connect=draw(st.integers(1, 3)), test=draw(st.integers(1, 4)),
        rests=tuple(draw(st.lists(st.integers(0, 400), max_size=3))),
    )  # fmt: skip
    hang: list[Lane] = draw(st.lists(st.sampled_from(lanes), unique=True, max_size=2))
    jobs = []
    for tag in range(draw(st.integers(1, 14))):
        charge = {lane.charger: draw(st.integers(1, 170)) for lane in lanes if draw(st.integers(0, 3))}
        begun = Begun(hang[tag], draw(st.integers(0, 150))) if tag < len(hang) else None
        pin = (
            None
            if begun or draw(st.integers(0, 4))
            else Pin(draw(st.sampled_from(lanes)), draw(st.none() | st.integers(0, 300)))
        )
        promised = draw(st.none() | st.integers(-20, 700))
        weight = draw(st.sampled_from((0.25, 1.0, 4.0)))
        jobs.append(job(tag, charge, draw(st.integers(1, 60)), weight, promised=promised, release=draw(st.integers(0, 90)), begun=begun, pin=pin))  # fmt: skip
    return built, jobs


class Valid(unittest.TestCase):
    @settings(max_examples=120, deadline=None)
    @given(days())
    def test_every_plan_can_be_done(self, day: tuple[Rack, list[ChargeJob]]) -> None:
        built, jobs = day
        placed, unplaced, _ = planned(built, jobs, tries=8)
        self.assertEqual(faults(built, jobs, placed), [])
        self.assertEqual(
            sorted([one.tag for one in placed] + [one.tag for one in unplaced]), sorted(one.tag for one in jobs)
        )

    @settings(max_examples=40, deadline=None)
    @given(days())
    def test_planned_again_from_itself_it_can_be_done_and_breaks_no_more(
        self, day: tuple[Rack, list[ChargeJob]]
    ) -> None:
        built, jobs = day
        placed, _, cost = planned(built, jobs, tries=8)
        again, _, after = planned(built, jobs, placed, tries=8)
        self.assertEqual(faults(built, jobs, again), [])
        self.assertLessEqual(after.broken, cost.broken)

    def test_the_validator_sees_what_is_wrong(self) -> None:
        built = rack([LANES[0]])
        jobs = [job(1, {1: 24}), job(2, {1: 24})]
        placed, *_ = planned(built, jobs)
        one, two = placed
        for wrong, said in (
            (two._replace(on=5, starts=6, ends=30, off=30, rested=55, ready=58), "hang on one output at once"),
            (two._replace(ready=two.ready - 1), "tested before it has rested"),
            (two._replace(ends=two.ends - 3), "not as long"),
            (two._replace(off=200, rested=225, ready=316), "while nobody is in"),
            (one._replace(tag=2), "hands at"),
        ):
            with self.subTest(said):
                self.assertIn(said, "; ".join(faults(built, jobs, [one, wrong])))

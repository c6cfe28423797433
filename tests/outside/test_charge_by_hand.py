"""Time and energy of a charge against worked examples done by hand: missing Ah x 1.2 / amps and a tail of two hours (common practice;
charging tables give 14.4 V for flooded and 14.6 V for AGM at 25 C), energy as Ah x volts."""

import unittest
from itertools import pairwise
from typing import Any

from tests.build import RULES, check, volts
from vane_check.core.charging.plan import ChargePlan, plan_of
from vane_check.core.facts.case import Case


def planned(rest: float, amps: float, **label: Any) -> ChargePlan:
    plan = plan_of(Case.of(check(volts(rest, temperature_c=25), **label), RULES), charger_amps=amps)
    assert plan is not None
    return plan


class ByHand(unittest.TestCase):
    def test_sixty_ah_half_flat_on_six_amps(self) -> None:
        # 12.24 V are half charged: 30 Ah missing, 36 Ah to put in, at 6 A six hours and two of tail; 36 Ah x 14.4 V = 518 Wh
        plan = planned(12.24, 6, capacity_ah_20h=60)
        self.assertEqual((plan.volts, plan.amps), (14.4, 6))
        self.assertAlmostEqual(plan.hours, 8.0, delta=0.15)
        self.assertAlmostEqual(plan.energy_wh, 518, delta=15)
        self.assertTrue(plan.hours_low < 8.0 < plan.hours_high)

    def test_the_same_on_three_amps_takes_the_six_hours_twice(self) -> None:
        plan = planned(12.24, 3, capacity_ah_20h=60)
        self.assertAlmostEqual(plan.hours, 14.0, delta=0.3)
        self.assertAlmostEqual(plan.energy_wh, 518, delta=15)

    def test_eighty_ah_empty_at_a_tenth_of_its_ah(self) -> None:
        # 80 Ah missing, 96 to put in, at 8 A twelve hours and two of tail; 96 Ah x 14.4 V = 1,382 Wh
        plan = planned(11.5, 20, capacity_ah_20h=80)
        self.assertEqual(plan.amps, 8)
        self.assertAlmostEqual(plan.hours, 14.0, delta=0.1)
        self.assertAlmostEqual(plan.energy_wh, 1382, delta=15)

    def test_seventy_ah_agm_a_quarter_missing(self) -> None:
        # a quarter of 70 Ah are 17.5, 21 to put in, at 7 A three hours and two of tail; 21 Ah x 14.6 V = 307 Wh
        plan = planned(12.6, 7, capacity_ah_20h=70, chemistry="agm")
        self.assertAlmostEqual(plan.hours, 5.0, delta=0.35)
        self.assertAlmostEqual(plan.energy_wh, 307, delta=40)

    def test_ah_told_by_reserve_minutes_are_an_eighth_more_or_less_either_way(self) -> None:
        # 68.5 Ah an eighth less are 59.9, 71.9 to put in, at 5 A 14.4 hours and two of tail; an eighth more are 77.1, 92.5, 18.5 and two
        plan = planned(11.5, 5, reserve_minutes=100, rating=None)
        self.assertAlmostEqual(plan.capacity_ah, 68.5, delta=0.05)
        self.assertAlmostEqual(plan.hours_low, 16.4, delta=0.05)
        self.assertAlmostEqual(plan.hours_high, 20.5, delta=0.05)

    def test_amps_stand_until_the_tail_and_fall_in_it_by_the_same_share_each_time(self) -> None:
        # two hours of tail from 6 A to a fiftieth of 60 Ah, 1.2 A: a fifth, in six parts
        plan = planned(12.24, 6, capacity_ah_20h=60)
        begin, *tail = plan.expected
        self.assertEqual((begin.hours, begin.amps, len(tail)), (0.0, 6.0, 7))
        self.assertEqual((tail[0].amps, tail[-1].amps), (6.0, 1.2))
        self.assertAlmostEqual(tail[-1].hours - tail[0].hours, 2.0, delta=0.02)
        self.assertAlmostEqual(tail[-1].hours, plan.hours, delta=0.01)
        for earlier, later in pairwise(tail):
            self.assertAlmostEqual(later.amps / earlier.amps, 0.2 ** (1 / 6), delta=0.01)

    def test_a_six_volt_battery_takes_half_the_energy(self) -> None:
        twelve, six = planned(12.24, 6, capacity_ah_20h=60), planned(6.12, 6, capacity_ah_20h=60, nominal_volts=6)
        self.assertAlmostEqual(six.energy_wh * 2, twelve.energy_wh, delta=25)

import copy
import math
import random
import unittest

from vane_check.core.simulation import (
    Arrival,
    Charging,
    SimulatedBattery,
    SimulatedBench,
    SurfaceCharge,
    Truth,
    population,
)
from vane_check.core.simulation.acid import cell_volts, freezing_c
from vane_check.core.simulation.population import CELL_LEAKS_PER_DAY, LEAKS_PER_DAY


def battery(**more: object) -> SimulatedBattery:
    body = {
        "truth": Truth.GOOD,
        "chemistry": "flooded",
        "rated_cca_amps": 600.0,
        "strength": 1.0,
        "charge": 1.0,
        **more,
    }
    return SimulatedBattery(**body)  # type: ignore[arg-type]


class Acid(unittest.TestCase):
    """Bode (1977) by the coefficients that PyBaMM publishes (Sulzer2019), against what is printed elsewhere."""

    def test_a_cell_has_its_gravity_and_about_0_85_volts(self) -> None:
        """Common practice over the gravities of a battery: volts of a cell are its gravity + 0.84 to 0.86."""
        for gravity in (1.12, 1.18, 1.22, 1.265, 1.30):
            self.assertAlmostEqual(cell_volts(gravity), gravity + 0.85, delta=0.015)

    def test_freezing_points_of_a_handbook(self) -> None:
        """Handbook table of battery acid (from memory): 1.10 freezes at -7.7 C, 1.15 at -15 C, 1.20 at -27 C."""
        for gravity, freezes, off in ((1.10, -7.7, 1.5), (1.15, -15.0, 1.5), (1.20, -27.0, 6.0)):
            self.assertAlmostEqual(freezing_c(gravity), freezes, delta=off)


class Physics(unittest.TestCase):
    def test_rated_amps_at_minus_18_end_at_7_2_v(self) -> None:
        """SAE J537, by construction: the rated amps of a sound, full battery."""
        self.assertAlmostEqual(battery(temperature_c=-18.0).under_load(600, 15), 7.2, delta=0.1)

    def test_more_charge_more_volts_less_resistance(self) -> None:
        flat, full = battery(charge=0.2), battery()
        self.assertLess(flat.rest_volts(), full.rest_volts())
        self.assertGreater(flat.resistance_ohm(), full.resistance_ohm())

    def test_wear_cold_and_layers_raise_resistance(self) -> None:
        for worse in ({"strength": 0.5}, {"temperature_c": -10.0}, {"layered": 0.8}, {"dry": True}):
            self.assertGreater(battery(**worse).resistance_ohm(), battery().resistance_ohm())

    def test_layers_rest_high_and_give_little(self) -> None:
        self.assertGreater(battery(charge=0.8, layered=1.0).rest_volts(), battery(charge=0.8).rest_volts() + 0.05)

    def test_a_shorted_cell_takes_a_sixth(self) -> None:
        lost = battery().rest_volts() - battery(shorted_cells=1).rest_volts()
        self.assertAlmostEqual(lost, 12.65 / 6, delta=0.15)

    def test_three_cells_rest_at_half(self) -> None:
        self.assertAlmostEqual(battery(cells=3).rest_volts(), battery().rest_volts() / 2, places=6)

    def test_headlamps_leave_part_of_the_surface_charge_and_a_night_takes_the_rest(self) -> None:
        """Common practice: headlamps leave 5 to 30 % of it, a night next to nothing."""
        for leave in (0.05, 0.30):
            charged = battery(surface=SurfaceCharge(lamps_leave=leave))
            rest = charged.rest_volts()
            charged.surface.put(0.8)
            charged.headlamps()
            self.assertAlmostEqual(charged.rest_volts() - rest, 0.8 * leave, delta=0.03)
            charged.rest(14)
            self.assertAlmostEqual(charged.rest_volts() - rest, 0.0, delta=0.03)

    def test_cold_keeps_surface_charge_longer(self) -> None:
        cold, warm = battery(temperature_c=0.0), battery(temperature_c=20.0)
        for each in (cold, warm):
            each.surface.put(0.6)
            each.rest(4)
        self.assertGreater(cold.surface.volts, warm.surface.volts)

    def test_a_leak_shows_after_a_night_and_one_in_a_single_cell_a_sixth_of_it(self) -> None:
        tight, leaks, hides = battery(), battery(leak_per_hour=0.02), battery(cell_leak_per_hour=0.02)
        for each in (tight, leaks, hides):
            each.rest(14)
        lost = [tight.rest_volts() - each.rest_volts() for each in (leaks, hides)]
        self.assertGreater(lost[0], 0.2)
        self.assertAlmostEqual(lost[1], lost[0] / 6, delta=0.02)

    def test_a_weak_cell_ends_a_discharge_early(self) -> None:
        # in series the weakest cell ends it (common practice): behind by a fifth of its charge it gives clearly less, not nothing
        even = battery(capacity=1.0).discharge_minutes(25)
        uneven = battery(capacity=1.0, weak_by=0.2).discharge_minutes(25)
        self.assertLess(uneven, 0.9 * even)
        self.assertGreater(uneven, 0.7 * even)


class OnCharge(unittest.TestCase):
    def test_a_flat_one_at_a_tenth_of_its_ah_is_under_14_v_at_the_third_hour_and_rises(self) -> None:
        """Common practice: current limited, its volts climb for most of the charge."""
        flat = Charging(battery(charge=0.0, ah_per_cca=0.1), 6.0)
        seen = []
        for _ in range(5):
            flat.run(1.0)
            seen.append(flat.shown().volts)
        self.assertEqual(seen, sorted(seen))
        self.assertLess(seen[2], 14.0)
        self.assertEqual(flat.shown().amps, 6.0)

    def test_it_fills_and_its_current_falls_to_a_hundredth_or_two_of_its_ah(self) -> None:
        """Common practice: full at 1 to 2 % of the Ah."""
        charging = Charging(battery(charge=0.3, ah_per_cca=0.1), 6.0)
        charging.run(30)
        self.assertTrue(charging.is_full)
        self.assertLess(charging.shown().amps, 0.02 * 60)
        self.assertGreater(charging.battery.charge, 0.98)
        self.assertTrue(0.7 * 60 < charging.put_in_ah < 1.25 * 0.7 * 60)

    def test_a_shorted_cell_never_comes_to_its_volts(self) -> None:
        charging = Charging(battery(charge=0.3, shorted_cells=1, ah_per_cca=0.1), 6.0)
        charging.run(20)
        self.assertFalse(charging.is_full)
        self.assertLess(charging.shown().volts, 13.0)


class Bench(unittest.TestCase):
    def test_readings_are_ones_the_core_reads_and_time_goes_by(self) -> None:
        bench = SimulatedBench(battery(charge=0.4), random.Random(1), slips=0.0)
        kinds = [
            bench.look().kind, bench.rest_volts().kind, bench.tester().kind, bench.adjustable_load(300).kind,
            bench.cells().kind, bench.watch_charge(60).kind, bench.watch_charge(3000).kind, bench.stand().kind,
        ]  # fmt: skip
        self.assertEqual(
            kinds,
            [
                "look",
                "rest_volts",
                "electronic_tester",
                "adjustable_load",
                "cells",
                "charge_run",
                "charge_run",
                "stand",
            ],
        )
        self.assertGreater(bench.minutes, 600)

    def test_volts_straight_off_the_charger_are_no_rest_after_it(self) -> None:
        """Common practice: surface charge is taken off first."""
        bench = SimulatedBench(battery(charge=0.4), random.Random(1), slips=0.0)
        bench.watch_charge(3000)
        off, settled = bench.rest_volts(), bench.rest_volts(settle=True)
        self.assertEqual([getattr(read, "after_full_charge") for read in (off, settled)], [False, True])  # noqa: B009

    def test_the_same_seed_is_the_same_population(self) -> None:
        self.assertEqual(population(50, 3), population(50, 3))
        self.assertNotEqual(population(50, 3), population(50, 4))
        self.assertEqual({arrival.battery.truth for arrival in population(500, 3)}, set(Truth))

    def test_complaints_have_nothing_to_do_with_causes(self) -> None:
        """So that no story can give a cause away: the sick complain of standing as often as the sound, within four standard errors."""
        arrivals = population(6000, 9)
        share = {}
        for sick in (True, False):
            part = [
                arrival.complaint == "stood_for_weeks" for arrival in arrivals if arrival.battery.truth.is_bad is sick
            ]
            share[sick] = sum(part) / len(part)
        self.assertLess(abs(share[True] - share[False]), 4 * math.sqrt(0.09 * 0.91 * (1 / 1200 + 1 / 4800)))

    def test_what_hides_hides(self) -> None:
        arrivals = population(4000, 5)
        hazards = [arrival.battery for arrival in arrivals if arrival.battery.truth is Truth.HAZARD]
        self.assertAlmostEqual(sum(not each.hazard_shows for each in hazards) / len(hazards), 0.2, delta=0.1)
        leaks = [arrival.battery for arrival in arrivals if arrival.battery.truth is Truth.LEAKS]
        in_one = [each for each in leaks if each.cell_leak_per_hour]
        self.assertTrue(0.2 < len(in_one) / len(leaks) < 0.6)
        self.assertTrue(
            all(CELL_LEAKS_PER_DAY[0] <= each.cell_leak_per_hour * 24 <= CELL_LEAKS_PER_DAY[1] for each in in_one)
        )
        whole = [each.leak_per_hour * 24 for each in leaks if each.leak_per_hour]
        self.assertTrue(all(LEAKS_PER_DAY[0] <= a_day <= LEAKS_PER_DAY[1] for a_day in whole))


class Judged(unittest.TestCase):
    in_quick_run = False

    def test_every_school_ends_nearly_every_battery_rightly_and_touches_no_hazard(self) -> None:
        """A small run of bench/judgement.py, so that a change of the rules cannot spoil it unseen. Small: wide of the figures wanted."""
        from bench.judgement import score
        from bench.policies import by_the_house, careful, volts_only
        from vane_check.core.house.rules import SCHOOLS, house_rules

        size, seed = 300, 20260301
        singles = [score(policy.__name__, policy, size, seed) for policy in (volts_only, careful)]
        for school in SCHOOLS:
            row = score(school, by_the_house(house_rules(school)), size, seed)
            with self.subTest(school):
                self.assertEqual(row.hazardous, 0)
                self.assertLessEqual(row.undecided_pct, 1)
                self.assertLessEqual(row.wrong_condemned_pct, 2)
                small = school in {"fixed_first", "crank_first"}
                self.assertLessEqual(row.passed_but_capacity_pct, 24 if small else 15)
                for single in singles:
                    self.assertLess(
                        row.wrong_passed_pct + row.wrong_condemned_pct,
                        single.wrong_passed_pct + single.wrong_condemned_pct,
                    )


class Followed(unittest.TestCase):
    """A person who only does what the next step says gets to an end, and is never asked the same thing for ever."""

    def test_every_battery_comes_to_an_end(self) -> None:
        from bench.policies import MOST_STEPS, by_the_house
        from vane_check.core.house.rules import SCHOOLS, house_rules

        for school in SCHOOLS:
            play = by_the_house(house_rules(school))
            ends = [
                play(copy.deepcopy(arrival), random.Random(place)) for place, arrival in enumerate(population(120, 11))
            ]
            with self.subTest(school):
                open_ = [end.asked[-3:] for end in ends if not (end.condemned or end.passed or end.watched)]
                self.assertLessEqual(len(open_), 2, open_)
                self.assertLess(max(end.tests for end in ends), 2 * MOST_STEPS)
                self.assertLess(max(end.minutes for end in ends), 14 * 24 * 60)  # a small leak needs days

    def test_a_dangerous_one_is_held_apart_after_one_look(self) -> None:
        from bench.policies import by_the_house
        from vane_check.core.house.rules import house_rules

        for sign in ("bulged", "cracked", "leaking", "hot"):
            arrival = Arrival(battery(truth=Truth.HAZARD, hazard=sign))
            end = by_the_house(house_rules())(arrival, random.Random(1))
            self.assertEqual((end.condemned, end.hazardous, end.tests), (True, False, 1))

    def test_every_step_can_be_done_as_it_is_asked(self) -> None:
        """The exam answers each step there is: one that is added is missing here by name."""
        from bench.policies import CHARGES, Player
        from vane_check.core.findings.kinds import StepKey
        from vane_check.core.house.rules import house_rules
        from vane_check.core.judging.steps import NextStep
        from vane_check.core.words import NOTHING

        for key in StepKey:
            with self.subTest(key.value):
                player = Player(Arrival(battery(charge=0.8)), random.Random(3), house_rules())
                step = NextStep(key=key, text=NOTHING, why=NOTHING, needs=NOTHING, minutes=60)
                self.assertEqual(bool(player.does(step)), key not in WITHOUT_A_READING, key)
        self.assertLess(CHARGES, set(StepKey))


WITHOUT_A_READING = {"hold_apart", "replace", "retest_later", "give_back", "sold", "read_label", "stop_charge"}


class WhatAChargeTells(unittest.TestCase):
    """The Ah reckoned from a charge against what the simulated battery really gives (published over 3,000 in docs/rack.md)."""

    def test_the_estimate_is_near_and_its_width_is_honest(self) -> None:
        from bench.capacity import measured

        said, silent = measured(260)
        errors = sorted(abs(estimate.error_pct) for estimate in said)
        self.assertGreater(len(said), 80)
        self.assertGreater(silent, 30)
        self.assertLess(errors[len(errors) // 2], 18)
        self.assertLess(errors[int(len(errors) * 0.9)], 40)
        self.assertGreater(sum(estimate.inside for estimate in said) / len(said), 0.65)

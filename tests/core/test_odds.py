"""The second opinion: what it says of plain cases, and whether of those it calls sound so many are."""

import random
import unittest

from scipy.stats import binomtest

from tests.build import RULES, check, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import assess, judge
from vane_check.core.odds import Horizon, Odds, ahead_of, odds_of
from vane_check.core.odds.library import CLASSES, library_of
from vane_check.core.readings import AnyReading


def odds(*read: AnyReading, **label: object) -> Odds | None:
    verdict = judge(check(look(minutes=-5), *read, **label), RULES)  # type: ignore[arg-type]
    return odds_of(verdict.case, verdict.findings, verdict.decision.outcome)


def ahead(*read: AnyReading, **label: object) -> tuple[Horizon, ...]:
    verdict = judge(check(look(minutes=-5), *read, **label), RULES)  # type: ignore[arg-type]
    return ahead_of(verdict.case, verdict.findings, verdict.decision.outcome)


def pull(value: float, minutes: float = 8) -> AnyReading:
    return reading("adjustable_load", minutes, amps=300, seconds=15, volts=value, temperature_c=20)


class Plain(unittest.TestCase):
    def test_they_are_shares_of_one(self) -> None:
        said = odds(volts(12.65, temperature_c=20), tester(620), pull(10.6))
        assert said is not None
        self.assertAlmostEqual(said.sound + said.worn_out + said.dead_cell + said.leaks_charge, 1.0, places=3)

    def test_what_reads_well_is_likely_sound_and_what_fails_twice_is_not(self) -> None:
        well = odds(volts(12.65, temperature_c=20), tester(620), pull(10.6))
        badly = odds(volts(12.65, temperature_c=20), tester(300), pull(8.3))
        assert well is not None and badly is not None
        self.assertEqual((well.likeliest, badly.likeliest), (Outcome.SOUND, Outcome.WORN_OUT))
        self.assertGreater(well.sound, 0.9)
        self.assertLess(badly.sound, 0.1)

    def test_each_more_of_the_same_makes_it_surer(self) -> None:
        one = odds(volts(12.65, temperature_c=20), tester(620))
        two = odds(volts(12.65, temperature_c=20), tester(620), pull(10.6))
        assert one is not None and two is not None
        self.assertGreater(two.sound, one.sound)

    def test_a_lone_tester_that_fails_leaves_a_doubt_and_it_is_said(self) -> None:
        """Studs, a wrong type, dirty posts: most slips at a tester are ones nobody told. Common practice."""
        said = odds(volts(12.65, temperature_c=20), tester(440))
        assert said is not None
        self.assertGreater(said.sound, 0.1)
        judged = assess(check(look(minutes=-5), volts(12.65, temperature_c=20), tester(440)), RULES, with_odds=True)
        self.assertEqual(judged.odds, said)

    def test_volts_of_one_cell_short_after_a_charge_are_a_dead_cell(self) -> None:
        charge = reading("charge_run", 600, start_amps=6, amps=6, volts=12.0, hours=10, stopped=True)
        said = odds(volts(10.6, temperature_c=20), charge, volts(10.6, 700, settled="headlamps"), capacity_ah_20h=60)
        assert said is not None
        self.assertEqual(said.likeliest, Outcome.DEAD_CELL)

    def test_a_third_of_a_volt_in_a_night_is_a_leak(self) -> None:
        charge = reading("charge_run", 600, start_amps=6, amps=0.6, volts=14.4, hours=10, finished=True)
        stood = reading("stand", 1500, start_volts=12.72, volts=12.35, hours=14)
        said = odds(
            volts(12.0, temperature_c=20), charge, volts(12.75, 640, settled="headlamps"), tester(600, 645), stood
        )
        assert said is not None
        self.assertEqual(said.likeliest, Outcome.LEAKS_CHARGE)

    def test_nothing_is_said_of_what_is_unsafe_or_not_read(self) -> None:
        self.assertIsNone(odds())
        verdict = judge(check(look("bulged", minutes=-5), volts(12.6)), RULES)
        self.assertIsNone(odds_of(verdict.case, verdict.findings, verdict.decision.outcome))

    def test_a_house_that_only_judges_asks_for_none(self) -> None:
        self.assertIsNone(assess(check(look(minutes=-5), volts(12.65), tester(620)), RULES).odds)

    def test_the_library_holds_every_outcome_of_every_type(self) -> None:
        for group in ("flooded", "calcium", "efb", "agm"):
            for name in (group, f"{group}_reserve"):
                batteries = library_of(name)
                self.assertEqual(set(batteries.kind.tolist()), set(range(len(CLASSES))), name)
                self.assertGreater(len(batteries), 2000)


class WaitOrKnow(unittest.TestCase):
    def test_the_longer_the_surer_and_each_but_now_names_its_step(self) -> None:
        flat = ahead(volts(12.0, temperature_c=20))
        self.assertEqual([horizon.when for horizon in flat], ["now", "ten_minutes", "tonight", "two_days"])
        sure = [horizon.odds for horizon in flat]
        self.assertEqual(sure, sorted(sure))
        self.assertIsNone(flat[0].step)
        self.assertTrue(all(horizon.step and horizon.words for horizon in flat[1:]))
        self.assertEqual(flat[2].step, "charge_and_retest")

    def test_no_load_is_proposed_on_a_flat_one_and_none_where_it_is_ended(self) -> None:
        self.assertNotIn("load_test", [horizon.step for horizon in ahead(volts(12.0, temperature_c=20))])
        self.assertEqual(ahead(volts(12.65), tester(620)), ())


class Calibrated(unittest.TestCase):
    in_quick_run = False

    def test_of_those_called_sound_so_many_are(self) -> None:
        """Batteries of a seed of their own, at the end of their checks: over and under nine tenths the share that is so lies within
        a 99 % interval (Clopper and Pearson, by SciPy) of what was called."""
        from bench.odds import kind_of
        from bench.policies import by_the_house
        from vane_check.core.house.rules import HouseRules, house_rules
        from vane_check.core.judging.judgement import Judgement
        from vane_check.core.odds.second_opinion import shares_of, weighed
        from vane_check.core.readings.check import Check
        from vane_check.core.simulation import Truth, population

        rules: HouseRules = house_rules("load_first")
        last: list[tuple[float, bool]] = []
        for place, arrival in enumerate(population(260, 515151)):
            kind = kind_of(arrival)
            if kind is None or arrival.battery.truth is Truth.FROZEN:
                continue
            said: list[float] = []

            def hears(made: Check, judged: Judgement, said: list[float] = said) -> None:
                verdict = judge(made, rules)
                if verdict.case.valid_rest_volts:
                    said.append(float(shares_of(weighed(verdict.case, verdict.findings), judged.outcome)[0]))

            by_the_house(rules, hears)(arrival, random.Random(place))
            if said:
                last.append((said[-1], kind == 0))
        for part in ([one for one in last if one[0] >= 0.9], [one for one in last if one[0] < 0.1]):
            called, so = sum(share for share, _ in part) / len(part), sum(right for _, right in part)
            ends = binomtest(so, len(part)).proportion_ci(0.99, method="exact")
            self.assertTrue(ends.low - 0.02 <= called <= ends.high + 0.02, (called, so, len(part)))
            self.assertGreater(len(part), 30)

import unittest
from typing import Any

from tests.build import RULES, judge, reading, tester, volts
from vane_check.core.facts.gravity import corrected_gravity
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import Judgement

ALIKE = [1.265, 1.262, 1.266, 1.264, 1.265, 1.263]


def cells(gravities: list[float] | None = None, minutes: float = 5, **body: Any) -> Any:
    return reading("cells", minutes, specific_gravities=gravities or [], **body)


def one_low(by: float) -> list[float]:
    return [*ALIKE[:3], round(1.265 - by, 3), *ALIKE[4:]]


def judged(body: Any, chemistry: str = "flooded") -> Judgement:
    return judge(volts(12.6), body, chemistry=chemistry, has_caps=True)


class Gravity(unittest.TestCase):
    def test_table(self) -> None:
        table: list[tuple[str, Any, str | None, str | None]] = [
            ("alike and high after a charge", cells(ALIKE, after_full_charge=True), "sound", None),
            ("alike and full by themselves", cells(ALIKE), "sound", None),
            ("all low before a charge", cells([1.18] * 6), "needs_charge", None),
            ("all low after a charge", cells([1.20] * 6, after_full_charge=True), "worn_out", None),
            (
                "alike but none high after a charge",
                cells([1.23] * 6, after_full_charge=True),
                "cannot_tell",
                "load_test",
            ),
            (
                "one 0.030 under after a charge",
                cells(one_low(0.030), after_full_charge=True),
                "cannot_tell",
                "load_test",
            ),
            (
                "one under 1.220 among full ones",
                cells(one_low(0.048), after_full_charge=True),
                "needs_charge",
                "equalise",
            ),
            (
                "one 0.051 under after a charge",
                cells(one_low(0.052), after_full_charge=True),
                "needs_charge",
                "equalise",
            ),
            (
                "the same when equalised",
                cells(one_low(0.052), after_full_charge=True, equalised=True),
                "dead_cell",
                None,
            ),
            ("0.06 under on a flat battery", cells([1.18, 1.18, 1.12, 1.18, 1.18, 1.18]), "needs_charge", None),
            ("far out even when flat", cells([1.18, 1.18, 1.07, 1.18, 1.18, 1.18]), "dead_cell", None),
            (
                "three weak cells",
                cells([1.265, 1.2, 1.2, 1.2, 1.265, 1.265], after_full_charge=True),
                "dead_cell",
                None,
            ),
        ]
        for what, body, points_to, remedy in table:
            with self.subTest(what):
                found = judged(body).findings[1]
                self.assertEqual(
                    (found.points_to.value if found.points_to else None, found.remedy), (points_to, remedy), found.text
                )

    def test_no_equalising_where_the_chemistry_does_not_stand_it(self) -> None:
        found = judged(cells(one_low(0.06), after_full_charge=True), chemistry="efb").findings[1]
        self.assertEqual(found.points_to, Outcome.DEAD_CELL)

    def test_cells_are_named_by_place_from_the_positive_post(self) -> None:
        self.assertIn("Cell 4", judged(cells(one_low(0.12))).findings[1].text)

    def test_correction_is_symmetrical_and_zero_at_80_f(self) -> None:
        self.assertAlmostEqual(corrected_gravity(1.25, 26.7, RULES), 1.25)
        self.assertAlmostEqual(corrected_gravity(1.25, 26.7 + 100 / 18, RULES), 1.254)
        self.assertAlmostEqual(corrected_gravity(1.25, 26.7 - 100 / 18, RULES), 1.246)

    def test_a_cold_reading_is_corrected_before_it_is_judged(self) -> None:
        warm = judged(cells([1.245] * 6, after_full_charge=True, temperature_c=26.7)).findings[1]
        cold = judged(cells([1.245] * 6, after_full_charge=True, temperature_c=0)).findings[1]
        self.assertEqual((warm.points_to, cold.points_to), (Outcome.SOUND, Outcome.CANNOT_TELL))


class Volts(unittest.TestCase):
    def test_table(self) -> None:
        for what, each, points_to in (
            ("alike", [2.1, 2.11, 2.1, 2.1, 2.1, 2.1], None),
            ("suspect", [2.1, 2.1, 2.04, 2.1, 2.1, 2.1], Outcome.CANNOT_TELL),
            ("failing", [2.1, 2.1, 1.88, 2.1, 2.1, 2.1], Outcome.DEAD_CELL),
            ("shorted", [2.1, 2.1, 0.02, 2.1, 2.1, 2.1], Outcome.DEAD_CELL),
        ):
            with self.subTest(what):
                found = judge(volts(round(sum(each), 2)), cells(cell_volts=each), has_caps=True).findings[1]
                self.assertEqual(found.points_to, points_to)

    def test_still_beside_lively_is_shorted_all_still_is_not(self) -> None:
        states = ["lively"] * 5 + ["still"]
        self.assertEqual(judged(cells(on_charge=states)).outcome, Outcome.DEAD_CELL)
        self.assertEqual(judged(cells(on_charge=["still"] * 6)).findings[1].points_to, None)
        self.assertEqual(judged(cells(on_charge=["still"] * 6)).findings[1].reading_text, "all still")


class Fused(unittest.TestCase):
    def test_volts_and_gravity_that_overlap_narrow_the_charge(self) -> None:
        alone = judge(volts(12.45)).state_of_charge
        both = judge(volts(12.45), cells([1.226] * 6)).state_of_charge
        assert alone is not None and both is not None
        self.assertLess(both.high_pct - both.low_pct, alone.high_pct - alone.low_pct)
        self.assertEqual((alone.rules_by, both.rules_by), ("volts", "gravity and volts"))

    def test_one_dead_cell_says_nothing_of_the_charge_of_the_others(self) -> None:
        alone = judge(cells([1.226] * 6)).state_of_charge
        with_a_dead_one = judge(cells([1.226] * 5 + [1.09])).state_of_charge
        self.assertEqual(with_a_dead_one, alone)

    def test_where_they_disagree_gravity_rules(self) -> None:
        found = judge(volts(12.62), cells([1.19] * 6)).state_of_charge
        assert found is not None
        self.assertIn("gravity", found.rules_by)
        self.assertLess(found.high_pct, 60)

    def test_gravity_says_nothing_of_agm(self) -> None:
        found = judge(volts(12.8), cells([1.19] * 6), chemistry="agm").state_of_charge
        assert found is not None
        self.assertEqual(found.rules_by, "volts")

    def test_the_tester_s_guess_narrows_volts_and_loses_where_it_disagrees(self) -> None:
        alone = judge(volts(12.45)).state_of_charge
        agreeing = judge(volts(12.45), tester(600, state_of_charge_pct=70)).state_of_charge
        against = judge(volts(12.45), tester(600, state_of_charge_pct=10)).state_of_charge
        only = judge(tester(600, state_of_charge_pct=60)).state_of_charge
        assert alone is not None and agreeing is not None and against is not None and only is not None
        self.assertLess(agreeing.high_pct - agreeing.low_pct, alone.high_pct - alone.low_pct)
        self.assertEqual(agreeing.rules_by, "volts and tester")
        self.assertEqual((against.low_pct, against.high_pct), (alone.low_pct, alone.high_pct))
        self.assertEqual(against.rules_by, "volts, against the tester")
        self.assertEqual((only.low_pct, only.high_pct, only.rules_by), (45, 75, "tester"))

    def test_a_void_tester_s_guess_is_not_used(self) -> None:
        found = judge(volts(12.45), tester(600, state_of_charge_pct=70, type_set="agm_flat")).state_of_charge
        assert found is not None
        self.assertEqual(found.rules_by, "volts")

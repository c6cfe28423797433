"""What a change of the battery makes void, and what is asked anew: a test a row of tables/after-a-change.csv.

Every row is common practice: nothing that was read before the change is used as if it were read after it.
"""

import unittest
from typing import Any

from tests.build import DELIVERED, check, judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Finding, Outcome
from vane_check.core.judging.changes import GROUPS, ONLY, SINCE, WHY
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.readings import AnyReading
from vane_check.core.tables import after_a_change

DAY = 24 * 60
RIGHT = ["right"] * 6
METER: dict[str, Any] = {"equipment_id": 1, "name": "Meter 1"}
OTHER_METER: dict[str, Any] = {"equipment_id": 2, "name": "Meter 2"}


def pull(end_volts: float, minutes: float) -> AnyReading:
    return reading("adjustable_load", minutes, amps=300, seconds=15, volts=end_volts, temperature_c=20)


def full(minutes: float, **body: Any) -> AnyReading:
    return reading("charge_run", minutes, start_amps=6, amps=0.3, volts=14.6, hours=10, finished=True, **body)


class Rows(unittest.TestCase):
    tried: set[tuple[str, str]] = set()

    def void(self, kind: str, row: tuple[str, str], judged: Judgement) -> Finding:
        """The first finding of the kind, which fell off for this row's reason."""
        found = next(one for one in judged.findings if one.kind == kind)
        self.assertEqual((found.status, found.points_to), ("dropped", None), found.text)
        self.assertEqual(str(found.why_not), str(WHY[row[0]]))
        self.assertIn("common practice", str(found.source))
        self.tried.add(row)
        return found

    @classmethod
    def tearDownClass(cls) -> None:
        """A row without a test fails the run."""
        rows = {(row.change, row.voids) for row in after_a_change()}
        if rows != cls.tried:
            raise AssertionError(f"no test for {rows - cls.tried}")

    def test_water(self) -> None:
        bare = look(minutes=0, levels=["plates_bare"] * 6)
        judged = judge(
            bare,
            volts(12.62, 5),
            pull(8.4, 9),
            look(minutes=20, levels=RIGHT),
            full(700),
            volts(12.7, 900),
            has_caps=True,
        )
        self.void("adjustable_load", ("water", "of_the_battery"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))

    def test_fresh_filling(self) -> None:
        filled = look(minutes=0, levels=["plates_bare"] * 6), look(minutes=20, levels=RIGHT)
        judged = judge(*filled, volts(12.62, 25), has_caps=True)
        self.void("rest_volts", ("fresh_filling", "of_the_battery"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))

    def test_charge(self) -> None:
        judged = judge(volts(12.0), full(700))
        self.void("rest_volts", ("charge", "rest_volts"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "measure_volts"))
        low = judge(volts(12.62), tester(400, message="recharge_retest"), full(700), volts(12.7, 900))
        self.void("electronic_tester", ("charge", "whatever"), low)
        self.assertNotIn(low.outcome, {Outcome.NEEDS_CHARGE, Outcome.SOUND})

    def test_recovery_charge(self) -> None:
        flat = volts(12.62), pull(8.2, 9)
        self.assertEqual(judge(*flat).outcome, Outcome.WORN_OUT)
        judged = judge(*flat, full(700, recovery=True), volts(12.7, 900))
        self.void("adjustable_load", ("recovery_charge", "whatever"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))

    def test_thaw(self) -> None:
        """Acid of a flat battery freezes at about -9 C (handbook table of freezing points)."""
        cold = volts(11.6, temperature_c=-15), tester(100)
        self.assertEqual(judge(*cold).outcome, Outcome.UNSAFE)
        warm = look(minutes=DAY), volts(12.62, DAY + 5, temperature_c=15)
        judged = judge(*cold, *warm)
        self.void("electronic_tester", ("thaw", "of_the_battery"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        # a charged one as cold holds no ice: what was read of it stands
        stands = judge(volts(12.65, temperature_c=-15), tester(610), volts(12.65, DAY, temperature_c=15))
        self.assertNotIn("ice", " ".join(str(one.why_not) for one in stands.findings))

    def test_clean_posts(self) -> None:
        dirty = look(minutes=-5, corrosion="heavy"), volts(12.62), tester(300)
        self.assertEqual(judge(*dirty).next_step.key, "clean_posts")
        judged = judge(*dirty, look(minutes=10))
        self.void("electronic_tester", ("clean_posts", "through_posts"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
        # what passed through them passes all the same
        self.assertEqual(judge(*dirty[:2], tester(610), look(minutes=10)).outcome, Outcome.SOUND)

    def test_clean_top(self) -> None:
        stood = reading("stand", DAY, start_volts=12.62, volts=12.2, hours=20)
        before = look("wet_top", minutes=-5), volts(12.62, rested_hours=12), tester(610), stood
        self.assertEqual(judge(*before).next_step.key, "clean_top")
        for proof in (
            look(minutes=DAY + 9),
            reading("case_leakage", DAY + 9, volts=0.1, cleaned=True),
        ):  # seen or measured
            judged = judge(*before, proof)
            self.void("stand", ("clean_top", "stand"), judged)
            self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "stand"))

    def test_another_meter(self) -> None:
        rest = volts(12.62, rested_hours=12, tool=METER)

        def stood(tool: dict[str, Any]) -> Judgement:
            stand = reading("stand", DAY, start_volts=12.62, volts=12.4, hours=20, tool=tool)
            return judge(rest, tester(610), stand)

        self.assertEqual(stood(METER).outcome, Outcome.LEAKS_CHARGE)
        judged = stood(OTHER_METER)
        self.void("stand", ("another_meter", "stand"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "stand"))

    def test_another_day(self) -> None:
        judged = judge(volts(12.62), tester(610, DAY))
        self.void("rest_volts", ("another_day", "rest_volts"), judged)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "measure_volts"))
        self.assertEqual(judge(volts(12.62), tester(610, DAY), volts(12.61, DAY + 5)).outcome, Outcome.SOUND)
        self.assertEqual(judge(volts(12.62), tester(610, 8 * 60)).outcome, Outcome.SOUND)  # the same day


class Table(unittest.TestCase):
    def test_every_row_names_what_there_is(self) -> None:
        for row in after_a_change():
            self.assertIn(row.change, SINCE)
            self.assertIn(row.change, WHY)
            self.assertIn(row.voids, GROUPS)
            self.assertIn(row.only, ONLY)
            self.assertTrue(row.origin.source and row.origin.standing)

    def test_nothing_is_void_where_nothing_changed(self) -> None:
        judged = assess(check(look(minutes=-5), volts(12.62), tester(610)), DELIVERED)
        self.assertEqual([one.why_not for one in judged.findings if one.status == "dropped"], [])

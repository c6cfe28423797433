"""The made-up shop as it opens: every battery in the house stands where and as it should, for every desk to show."""

import unittest
from datetime import UTC, datetime

from sqlalchemy import select

from tests.house import database, sessions
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import Judgement
from vane_check.demo import goods
from vane_check.desks import check, match, warranty
from vane_check.desks.desk import Desk
from vane_check.records import batteries
from vane_check.records.base import StoreSession
from vane_check.records.models import CheckRow, JudgementRow, Staff

IN_THE_HOUSE = [
    # tag, place, outcome, next step
    (171, "counter", "cannot_tell", "look"),
    (172, "counter", "cannot_tell", "look"),
    (173, "bench", "worn_out", "replace"),
    (174, "bench", "cannot_tell", "load_test"),
    (175, "bench", "cannot_tell", "tester_again"),
    (176, "on_charge", "needs_charge", "charge_and_retest"),
    (177, "on_charge", "needs_charge", "charge_and_retest"),
    (178, "on_charge", "needs_charge", "charge_and_retest"),
    (179, "standing", "cannot_tell", "settle"),
    (180, "standing", "cannot_tell", "settle"),
    (181, "ready", "sound", "give_back"),
    (182, "ready", "sound", "give_back"),
    (183, "held_apart", "unsafe", "hold_apart"),
    (184, "bench", "dead_cell", "stop_charge"),
    (185, "ready", "watch", "retest_later"),
    (186, "bench", "worn_out", "replace"),
    (187, "bench", "leaks_charge", "replace"),
    (188, "bench", "sound", "clean_top"),
    (189, "bench", "dead_cell", "replace"),
    (190, "bench", "sound", "give_back"),
    (191, "bench", "cannot_tell", "stop_start_list"),
    (192, "bench", "needs_charge", "charge_and_retest"),
    (193, "bench", "needs_charge", "charge_and_retest"),
    (194, "bench", "needs_charge", "charge_and_retest"),
    (195, "bench", "needs_charge", "charge_and_retest"),
]


class Demo(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.sessions = sessions(database())

    def setUp(self) -> None:
        session = self.enterContext(self.sessions())
        assert isinstance(session, StoreSession)
        session.bind_to(1)
        self.desk = Desk(session, session.scalars(select(Staff).limit(1)).one())

    def test_every_battery_in_the_house_stands_as_it_should(self) -> None:
        self.assertEqual(len(batteries.in_house(self.desk.session)), len(IN_THE_HOUSE))
        for tag, place, outcome, step in IN_THE_HOUSE:
            with self.subTest(tag=tag):
                seen = check.view(self.desk, tag)
                judged = seen.judgement
                self.assertEqual((seen.place, judged.outcome.value, judged.next_step.key), (place, outcome, step))

    def test_every_outcome_is_there_to_be_seen(self) -> None:
        self.assertEqual({outcome for _, _, outcome, _ in IN_THE_HOUSE}, {outcome.value for outcome in Outcome})

    def test_kept_judgements_are_what_the_rules_say_today(self) -> None:
        for tag, *_ in IN_THE_HOUSE:
            seen = check.view(self.desk, tag)
            if seen.judged_at is not None:
                again = check.assess(check.check_file(self.desk, tag), self.desk.rules)
                with self.subTest(tag=tag):
                    self.assertEqual(again.outcome, seen.judgement.outcome)

    def test_past_checks_lie_in_the_past_and_read_back(self) -> None:
        now = datetime.now(UTC)
        rows = self.desk.session.execute(
            select(CheckRow, JudgementRow).join(JudgementRow, JudgementRow.check_id == CheckRow.id)
        ).all()
        self.assertGreater(len(rows), 150)
        for visit, judged in rows:
            self.assertLess(visit.opened_at, now)
            self.assertLessEqual(visit.opened_at, judged.made_at)
            self.assertEqual(Judgement.model_validate(judged.body).outcome.value, judged.outcome)

    def test_every_desk_answers_for_every_battery(self) -> None:
        for tag, *_ in IN_THE_HOUSE:
            with self.subTest(tag=tag):
                self.assertTrue(warranty.look_up(self.desk, tag, None, datetime.now(UTC)).answer.headline)
                self.assertTrue(match.for_battery(self.desk, tag, datetime.now(UTC)).matches)

    def test_cars_and_items_speak_of_known_sizes(self) -> None:
        from vane_check.core.tables import footprints

        known = footprints()
        for code in {car.group_code for car in goods.CARS} | {item.group_code for item in goods.items()}:
            self.assertIn(code, known)
        self.assertEqual(len({(car.make, car.model) for car in goods.CARS}), len(goods.CARS))
        self.assertEqual(sum(car.stop_start for car in goods.CARS), 8)
        self.assertTrue(all(car.chemistry != "flooded" for car in goods.CARS if car.stop_start))

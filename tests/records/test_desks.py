"""The desks over a real database: what is written, what is refused, what stays readable."""

import unittest
import uuid
from datetime import UTC, date, datetime, timedelta
from typing import Any

from sqlalchemy import func, select

from tests.house import database, sessions
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.goods.warranty import WarrantyDecision
from vane_check.core.matching import Fit
from vane_check.core.readings.check import ONE_READING
from vane_check.desks import check, claims, counter, match, records, warranty
from vane_check.desks.counter import CorrectTakeIn, PutThere, TakeIn
from vane_check.desks.desk import Conflict, Desk, NotThere, Refused
from vane_check.records import batteries, shop
from vane_check.records.base import StoreSession
from vane_check.records.models import JudgementRow, Move, ReadingRow, Staff, TakeInEntry

NOW = datetime.now(UTC)


class Desks(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.sessions = sessions(database())

    def setUp(self) -> None:
        """Every test works in a transaction that is thrown away."""
        session = self.sessions()
        assert isinstance(session, StoreSession)
        session.bind_to(1)
        self.addCleanup(session.close)
        self.desk = Desk(session, session.scalars(select(Staff).where(Staff.role == "counter")).first())  # type: ignore[arg-type]

    def take_in(self, **more: Any) -> int:
        label = {
            "line": "Merlow Silver",
            "chemistry": "calcium",
            "rating": {"amps": 600},
            "group_code": "47",
            **more.pop("battery", {}),
        }
        body = {"battery": label, "context": {"came_in": "carried_in", **more.pop("context", {})}, **more}
        return counter.take_in(self.desk, TakeIn.model_validate(body), NOW)

    def correct(self, tag: int, body: dict[str, Any]) -> None:
        based_on = check.view(self.desk, tag).take_in_id
        counter.correct_take_in(self.desk, tag, CorrectTakeIn.model_validate({**body, "based_on": based_on}), NOW)

    def keep(self, tag: int, kind: str, **body: Any) -> check.CheckView:
        named = {"id": str(uuid.uuid4()), "kind": kind, "taken_at": NOW.isoformat(), **body}
        return check.keep_reading(self.desk, tag, ONE_READING.validate_python(named), NOW)

    def worn(self, **more: Any) -> int:
        tag = self.take_in(**more)
        self.keep(tag, "rest_volts", volts=12.75)
        self.keep(tag, "electronic_tester", measured_cca_amps=300, type_set="flooded")
        return tag

    def count(self, model: Any) -> int:
        return self.desk.session.scalar(select(func.count()).select_from(model)) or 0


class Counter(Desks):
    def test_tags_go_up_by_one(self) -> None:
        first = self.take_in()
        self.assertEqual([self.take_in(), self.take_in()], [first + 1, first + 2])

    def test_every_field_of_the_take_in_comes_back(self) -> None:
        car = next(one for one in shop.vehicles(self.desk.session, 200) if one.model == "Ossel")
        tag = self.take_in(
            battery={"serial": "AB-1", "made_on": "2025-02-01", "capacity_ah_20h": 62, "has_caps": True},
            context={"complaint": "clicks", "use": "taxi", "stop_start_car": True},
            sold_on="2025-04-03",
            customer_name="C. Walker",
            customer_phone="0555 0199",
            vehicle_id=car.id,
        )
        seen = check.view(self.desk, tag)
        self.assertEqual(
            (seen.battery.serial, seen.battery.made_on, seen.battery.has_caps), ("AB-1", date(2025, 2, 1), True)
        )
        self.assertEqual(
            (seen.context.complaint, seen.context.use, seen.context.stop_start_car), ("clicks", "taxi", True)
        )
        self.assertEqual(
            (seen.sold_on, seen.customer_name, seen.customer_phone), ("2025-04-03", "C. Walker", "0555 0199")
        )
        assert seen.car is not None
        self.assertEqual(seen.car.id, car.id)

    def test_a_correction_can_take_things_away_and_each_is_kept(self) -> None:
        tag = self.take_in(customer_name="C. Walker")
        before = self.count(TakeInEntry)
        bare = {"context": {"came_in": "returned"}}
        self.correct(tag, bare)
        seen = check.view(self.desk, tag)
        self.assertEqual((seen.battery.rating, seen.customer_name, seen.size), (None, "", None))
        self.assertEqual(self.count(TakeInEntry), before + 1)
        life = records.life(self.desk, tag)
        self.assertEqual([one.take_in.customer_name for one in life.take_ins], ["C. Walker", ""])

    def test_a_label_that_does_not_fit_what_was_read_is_refused(self) -> None:
        tag = self.worn()
        six = {"battery": {"nominal_volts": 6}, "context": {"came_in": "returned"}}
        self.correct(tag, six)
        with self.assertRaises(Refused) as error:
            check.judge_again(self.desk, tag, NOW)
        self.assertEqual(error.exception.problems[0].path, "battery.nominal_volts")

    def test_putting_it_somewhere_is_kept_and_gone_leaves_the_shelf(self) -> None:
        tag = self.take_in()
        moves = self.count(Move)
        hand = NOW + timedelta(hours=4)
        counter.put(self.desk, tag, PutThere(place="on_charge", needs_hand_at=hand), NOW)
        counter.put(self.desk, tag, PutThere(place="gone"), NOW)
        self.assertEqual(self.count(Move), moves + 2)
        self.assertNotIn(tag, [found.tag for found in counter.shelf(self.desk)])
        self.assertEqual(check.view(self.desk, tag).place, "gone")

    def test_the_shelf_puts_first_what_needs_a_hand_first(self) -> None:
        hands = [found.needs_hand_at for found in counter.shelf(self.desk)]
        known = [hand for hand in hands if hand is not None]
        self.assertEqual(known, sorted(known))
        self.assertTrue(all(hand is None for hand in hands[len(known) :]))

    def test_what_is_not_there_says_so(self) -> None:
        for call in (
            lambda: check.view(self.desk, 9999),
            lambda: counter.put(self.desk, 9999, PutThere(place="bench"), NOW),
            lambda: warranty.look_up(self.desk, 9999, None, NOW),
            lambda: match.for_battery(self.desk, 9999, NOW),
            lambda: match.for_vehicle(self.desk, 9999, NOW),
            lambda: records.life(self.desk, 9999),
        ):
            with self.assertRaises(NotThere):
                call()


class Check(Desks):
    def test_every_reading_brings_a_judgement_that_is_kept(self) -> None:
        tag = self.take_in()
        readings, judgements = self.count(ReadingRow), self.count(JudgementRow)
        for value in (12.1, 12.2, 12.75):
            self.keep(tag, "rest_volts", volts=value)
        self.assertEqual((self.count(ReadingRow), self.count(JudgementRow)), (readings + 3, judgements + 3))

    def test_before_anything_is_read_the_judgement_says_what_to_do_first(self) -> None:
        seen = check.view(self.desk, self.take_in())
        self.assertEqual((seen.judgement.next_step.key, seen.judged_at), ("look", None))

    def test_a_reading_of_another_battery_is_not_corrected_from_here(self) -> None:
        one, other = self.take_in(), self.take_in()
        kept = self.keep(one, "rest_volts", volts=12.4).readings[0].reading
        with self.assertRaises(Refused):
            self.keep(other, "rest_volts", volts=12.6, replaces=kept.id)
        with self.assertRaises(Conflict):
            self.keep(other, "rest_volts", volts=12.4, id=kept.id)

    def test_a_correction_is_of_the_same_kind(self) -> None:
        tag = self.take_in()
        kept = self.keep(tag, "rest_volts", volts=12.4).readings[0].reading
        with self.assertRaises(Refused):
            self.keep(tag, "crank", volts=10, seconds=10, replaces=kept.id)

    def test_the_file_holds_what_the_desk_shows(self) -> None:
        tag = self.worn()
        file, seen = check.check_file(self.desk, tag), check.view(self.desk, tag)
        self.assertEqual([one.kind for one in file.readings], [one.reading.kind for one in seen.readings])
        self.assertEqual(file.battery, seen.battery)


class Trend(Desks):
    def test_what_a_serial_gave_over_its_visits_stands_in_its_life(self) -> None:
        """The battery on tag 173 was here before; its serial was written another way then."""
        trend = records.life(self.desk, 173).trend
        assert trend is not None
        self.assertEqual((trend.is_clear, trend.months_to_the_line), (True, 0))
        self.assertRegex(
            trend.words, r"^690 ±69 CCA on .*, 420 ±42 CCA on .*: -39 % in \d+ months; under the house's line$"
        )
        self.assertIsNone(records.life(self.desk, 181).trend)


class Warranty(Desks):
    def test_decisions_over_the_shop_s_own_terms(self) -> None:
        today = NOW.date()
        table: list[tuple[str, dict[str, Any], WarrantyDecision]] = [
            ("free", {"sold_on": today - timedelta(days=200)}, WarrantyDecision.FREE),
            ("pro rata", {"sold_on": today - timedelta(days=900)}, WarrantyDecision.PRO_RATA),
            ("over", {"sold_on": today - timedelta(days=3000)}, WarrantyDecision.OUT_OF_TIME),
            ("taxi", {"sold_on": today - timedelta(days=200), "context": {"use": "taxi"}}, WarrantyDecision.EXCLUDED),
            ("not ours", {"battery": {"line": "Somebody else"}}, WarrantyDecision.NOT_OURS),
            ("no date", {}, WarrantyDecision.NO_DATE),
            ("date code", {"battery": {"made_on": today.replace(day=1) - timedelta(days=150)}}, WarrantyDecision.FREE),
            (
                "flooded under stop-start",
                {"sold_on": today, "context": {"stop_start_car": True}},
                WarrantyDecision.EXCLUDED,
            ),
        ]
        for what, more, decision in table:
            with self.subTest(what):
                tag = self.worn(**more)
                self.assertEqual(warranty.look_up(self.desk, tag, None, NOW).answer.decision, decision)

    def test_an_ordinary_battery_in_a_listed_stop_start_car_is_the_wrong_type(self) -> None:
        car = next(one for one in shop.vehicles(self.desk.session, 200) if one.model == "Stanza Hybrid")
        tag = self.worn(sold_on=NOW.date(), vehicle_id=car.id, context={"stop_start_car": True})
        self.assertEqual(warranty.look_up(self.desk, tag, None, NOW).answer.decision, WarrantyDecision.EXCLUDED)

    def test_a_claim_keeps_its_evidence_and_is_written_once(self) -> None:
        tag = self.worn(sold_on=NOW.date() - timedelta(days=100))
        claims.write_claim(self.desk, tag, claims.WriteClaim(), NOW)
        written = warranty.look_up(self.desk, tag, None, NOW)
        self.assertTrue(written.claimed)
        row = batteries.battery_of_tag(self.desk.session, tag)
        assert row is not None
        claim = batteries.claim_of(self.desk.session, row.id)
        assert claim is not None
        self.assertEqual(claim.body["evidence"]["judgement"]["outcome"], Outcome.WORN_OUT)
        self.assertEqual(claim.credit_cents, written.answer.credit_cents)
        with self.assertRaises(Conflict):
            claims.write_claim(self.desk, tag, claims.WriteClaim(), NOW)


class Match(Desks):
    def test_the_car_rules_over_the_label(self) -> None:
        car = next(one for one in shop.vehicles(self.desk.session, 200) if one.model == "Ossel")
        found = match.for_battery(self.desk, self.take_in(vehicle_id=car.id), NOW)
        assert found.requirement is not None
        self.assertEqual((found.requirement.group_code, found.requirement.chemistry), ("94R", "agm"))
        fitting = [one for one in found.matches if one.fit is not Fit.REJECTED]
        self.assertTrue(fitting)
        self.assertTrue(all(one.candidate.chemistry == "agm" and one.candidate.vent_tube for one in fitting))

    def test_agm_stays_agm_even_where_the_list_asks_for_less(self) -> None:
        car = next(one for one in shop.vehicles(self.desk.session, 200) if one.model == "Stanza")
        found = match.for_battery(self.desk, self.take_in(vehicle_id=car.id, battery={"chemistry": "agm"}), NOW)
        assert found.requirement is not None
        self.assertEqual(found.requirement.chemistry, "agm")

    def test_stop_start_without_a_car_asks_for_efb_at_least(self) -> None:
        found = match.for_battery(self.desk, self.take_in(context={"stop_start_car": True}), NOW)
        assert found.requirement is not None
        self.assertEqual(found.requirement.chemistry, "efb")

    def test_without_a_size_nothing_can_be_matched(self) -> None:
        found = match.for_battery(self.desk, self.take_in(battery={"group_code": None}), NOW)
        self.assertEqual((found.requirement, found.matches), (None, []))

    def test_an_old_regulator_is_never_given_agm(self) -> None:
        car = next(one for one in shop.vehicles(self.desk.session, 200) if one.no_agm)
        found = match.for_vehicle(self.desk, car.id, NOW)
        for one in found.matches:
            if one.fit is not Fit.REJECTED:
                self.assertNotEqual(one.candidate.chemistry, "agm")

    def test_every_car_of_the_list_has_something_that_fits(self) -> None:
        for car in shop.vehicles(self.desk.session, 200):
            with self.subTest(f"{car.make} {car.model}"):
                found = match.for_vehicle(self.desk, car.id, NOW)
                self.assertTrue(any(one.fit is not Fit.REJECTED for one in found.matches))

"""A day goes by the shop's clock: also the ones of 23 and 25 hours, and where the world has another date."""

import unittest
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from tests.house import LEAD, database, sessions
from vane_check.core.battery.label import Battery, CameIn, Complaint, Context
from vane_check.desks.counter import TakeIn, take_in
from vane_check.desks.desk import Desk
from vane_check.desks.papers import day_pdf
from vane_check.records import day
from vane_check.records.base import StoreSession
from vane_check.records.models import Staff, Store


class Days(unittest.TestCase):
    def setUp(self) -> None:
        self.session = self.enterContext(sessions(database()).begin())
        assert isinstance(self.session, StoreSession)
        self.session.bind_to(1)
        lead = next(one for one in self.session.query(Staff).all() if one.name == LEAD)
        self.desk = Desk(self.session, lead)

    def came(self, line: str, at: datetime) -> None:
        context = Context(came_in=CameIn.CARRIED_IN, complaint=Complaint.CHECK_ONLY)
        take_in(self.desk, TakeIn(battery=Battery(line=line), context=context), at.astimezone(UTC))

    def lines(self, on: date, zone: str) -> list[str]:
        begins = datetime(on.year, on.month, on.day, tzinfo=ZoneInfo(zone))
        after = on + timedelta(days=1)
        ends = datetime(after.year, after.month, after.day, tzinfo=ZoneInfo(zone))
        return [one.line for one in day.came_between(self.session, begins, ends)]

    def test_the_long_day_of_autumn_and_the_short_one_of_spring_are_whole(self) -> None:
        zone = ZoneInfo("Europe/Dublin")
        for on, hours in ((date(2025, 10, 26), 25), (date(2025, 3, 30), 23)):
            begins = datetime(on.year, on.month, on.day, tzinfo=zone)
            self.came(f"first {hours}", begins)
            self.came(f"last {hours}", (begins.astimezone(UTC) + timedelta(hours=hours) - timedelta(minutes=1)))
            self.came(f"next {hours}", (begins.astimezone(UTC) + timedelta(hours=hours)))
            found = [line for line in self.lines(on, "Europe/Dublin") if line.endswith(str(hours))]
            self.assertEqual(found, [f"first {hours}", f"last {hours}"])

    def test_a_shop_at_the_other_end_of_the_world_has_its_own_day(self) -> None:
        self.session.query(Store).filter(Store.id == 1).update({"time_zone": "Pacific/Auckland"})
        self.session.expire_all()
        self.desk.__dict__.pop("store", None)
        self.came("evening", datetime(2025, 7, 1, 11, 59, tzinfo=UTC))  # 23:59 on the first in Auckland
        self.came("morning", datetime(2025, 7, 1, 12, 0, tzinfo=UTC))  # midnight of the second
        self.assertEqual(self.lines(date(2025, 7, 1), "Pacific/Auckland"), ["evening"])
        self.assertEqual(self.lines(date(2025, 7, 2), "Pacific/Auckland"), ["morning"])
        now = datetime(2025, 7, 1, 12, 30, tzinfo=UTC)
        self.assertTrue(day_pdf(self.desk, None, now).startswith(b"%PDF"))

    def test_what_was_promised_and_is_not_ready_stands_there_the_soonest_first(self) -> None:
        found = day.promised(self.session)
        self.assertEqual([at for _, _, at in found], sorted(at for _, _, at in found))
        self.assertTrue({192, 193} <= {tag for tag, _, _ in found})
        self.assertNotIn(182, [tag for tag, _, _ in found])  # ready

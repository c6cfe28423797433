"""A week of mixed acts adds up to the cent, with the day of 25 hours in it and the one of 23 (2,000 acts: `bench/week.py`)."""

from sqlalchemy import select

from bench.week import WEEKS, played
from tests.records.test_desks import Desks
from vane_check.records.models import Staff


class Adds(Desks):
    def test_every_day_of_a_week_comes_to_what_a_ledger_beside_it_does(self) -> None:
        lead = self.desk.session.scalars(select(Staff).where(Staff.role == "owner")).one()
        for season in WEEKS:
            with self.subTest(season):
                week = played(self.desk.session, lead, 40, season, 7)
                self.assertEqual(week.faults(), [])
                self.assertGreater(len(week.done), 4)


del Desks

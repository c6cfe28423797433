"""A week of mixed acts at a counter, played through the desks, against a ledger of decimals kept beside them.

`python -m bench.week ADDRESS 2000` plays so many acts on a filled database and says how the days add up. The week has the day of 25
hours in it (the last Sunday of October, Europe/Dublin); `spring` takes the one of 23.
"""

import random
import sys
import uuid
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

from sqlalchemy import select

from vane_check.core.goods.till import Till
from vane_check.core.readings.check import ONE_READING
from vane_check.desks import check, claims, counter, fitting_list, papers, sales, ways_back
from vane_check.desks.claims import HandOver, WriteClaim
from vane_check.desks.counter import TakeIn
from vane_check.desks.desk import Desk
from vane_check.records import day, goods
from vane_check.records.base import StoreSession
from vane_check.records.models import CatalogueItem, StockPiece

WEEKS = {"autumn": date(2026, 10, 22), "spring": date(2026, 3, 26)}
RATE = Decimal(23)


@dataclass
class Day:
    """What a day should come to, by hand [cents]."""

    sold: Decimal = Decimal(0)
    credited: Decimal = Decimal(0)
    refunded: Decimal = Decimal(0)
    taken: Decimal = Decimal(0)
    back: Decimal = Decimal(0)
    tax: Decimal = Decimal(0)


@dataclass
class Week:
    """The counter with its own ledger beside it."""

    desk: Desk
    rng: random.Random
    first: date
    days: dict[date, Day] = field(default_factory=lambda: defaultdict(Day))
    standing: dict[int, tuple[int, int, bool, datetime]] = field(default_factory=dict)
    """By tag: what was paid, the deposit, whether it went back, when it was sold."""

    done: dict[str, int] = field(default_factory=lambda: defaultdict(int))

    def moment(self) -> datetime:
        """Somewhere in the week, by the hour of the world's clock: the hour that comes twice too."""
        begins = datetime(self.first.year, self.first.month, self.first.day, tzinfo=self.desk.zone).astimezone(UTC)
        return begins + timedelta(minutes=self.rng.randrange(7 * 24 * 60))

    def day(self, moment: datetime) -> Day:
        """The ledger's page of a moment, by the shop's clock."""
        return self.days[moment.astimezone(self.desk.zone).date()]

    def item(self) -> CatalogueItem:
        """An item, with a fresh piece of it on the shelf."""
        items = self.desk.session.scalars(
            select(CatalogueItem)
            .where(CatalogueItem.chemistry == "flooded", CatalogueItem.nominal_volts == 12)
            .order_by(CatalogueItem.id)
            .limit(20)
        )
        item = self.rng.choice(list(items))
        self.piece = StockPiece(item_id=item.id, arrived_on=self.first, charged_on=self.first, dry_charged=False)
        self.desk.session.add(self.piece)
        self.desk.session.flush()
        return item

    def body(self) -> dict[str, Any]:
        """A sale at the counter."""
        item = self.item()
        return {
            "item_id": item.id, "piece_id": self.piece.id, "volts": 12.8, "serial": f"W{uuid.uuid4().hex[:9]}",
            "price_cents": self.rng.randrange(5_000, 30_000),
        }  # fmt: skip

    def wrote(self, tag: int, now: datetime) -> None:
        """A sale as it is on record goes into the ledger by its own figures."""
        sale = fitting_list.sale_or_refused(self.desk, tag)[0]
        page = self.day(now)
        page.sold += sale.price_cents
        page.credited += sale.credit_cents
        page.taken += sale.core_deposit_cents
        page.tax += tax(sale.price_cents)
        self.standing[tag] = (sale.price_cents, sale.core_deposit_cents, False, now)

    def sell(self) -> None:
        """Sold over the counter."""
        now = self.moment()
        body = self.body()
        tag = sales.sell(self.desk, sales.Sell.model_validate(body), now)
        self.wrote(tag, now)
        if self.standing[tag][0] != body["price_cents"]:
            raise AssertionError(f"{tag} was sold for {self.standing[tag][0]}, not for {body['price_cents']}")

    def claim(self) -> None:
        """A battery that failed is claimed and another handed over."""
        now = self.moment()
        label = {
            "line": "Merlow Plain",
            "rating": {"amps": 640},
            "group_code": "48",
            "serial": f"C{uuid.uuid4().hex[:9]}",
        }
        sold_on = now.date() - timedelta(days=self.rng.randrange(30, 900))
        tag = counter.take_in(
            self.desk, TakeIn.model_validate({"battery": label, "sold_on": sold_on.isoformat(), "context": {}}), now
        )
        for reading in FAILS:
            named = {"id": str(uuid.uuid4()), "taken_at": now.isoformat(), **reading}
            check.keep_reading(self.desk, tag, ONE_READING.validate_python(named), now)
        item = self.item()
        given = HandOver(volts=12.8, serial=f"G{uuid.uuid4().hex[:9]}", piece_id=self.piece.id)
        claims.write_claim(self.desk, tag, WriteClaim(replacement_id=item.id, hand_over=given), now)
        new = fitting_list.sale_or_refused(self.desk, tag_given(self.desk, tag))[0]
        self.wrote(tag_given(self.desk, tag), now)
        if new.price_cents + new.credit_cents != item.price_cents:
            raise AssertionError(f"{tag}: {new.price_cents} and {new.credit_cents} of {item.price_cents}")

    def deposit(self) -> None:
        """The old battery of a sale comes, or it was ticked by mistake."""
        tag = self.pick(lambda one: one[1] > 0)
        if tag is None:
            return
        paid, deposit, is_back, sold_at = self.standing[tag]
        now = max(self.moment(), sold_at)
        fitting_list.tick(self.desk, tag, fitting_list.Tick(step=fitting_list.OLD_ONE, done=not is_back), now)
        page = self.day(now)
        if is_back:
            page.taken += deposit
        else:
            page.back += deposit
        self.standing[tag] = (paid, deposit, not is_back, sold_at)

    def way_back(self, what: str) -> None:
        """A sale is void, returned for a part of its price, or exchanged."""
        tag = self.pick(lambda _: True)
        if tag is None:
            return
        paid, deposit, is_back, sold_at = self.standing.pop(tag)
        credit = fitting_list.sale_or_refused(self.desk, tag)[0].credit_cents
        now = sold_at if what == "void" else max(self.moment(), sold_at)
        refund = paid if what == "void" or self.rng.random() < 0.6 else self.rng.randrange(paid + 1)
        other = self.body() if what == "exchange" else None
        body = {"what": what, "reason": "changed their mind", "volts": 12.6, "refund_cents": refund, "other": other}
        stands = ways_back.take_back(self.desk, tag, ways_back.TakeBack.model_validate(body), now)
        page = self.day(now)
        page.refunded += refund
        page.credited -= credit
        page.tax -= tax(refund)
        page.back += 0 if is_back else deposit
        if other is not None:
            self.wrote(stands, now)

    def pick(self, suits: Callable[[tuple[int, int, bool, datetime]], bool]) -> int | None:
        """A sale that stands."""
        tags = [tag for tag, one in self.standing.items() if suits(one)]
        return self.rng.choice(tags) if tags else None

    def play(self, acts: int) -> None:
        """So many acts, mixed as they come."""
        ways: list[tuple[str, Callable[[], None], int]] = [
            ("sold", self.sell, 50), ("claimed", self.claim, 8), ("deposit", self.deposit, 22), ("void", lambda: self.way_back("void"), 5),
            ("returned", lambda: self.way_back("return"), 9), ("exchanged", lambda: self.way_back("exchange"), 6),
        ]  # fmt: skip
        for _ in range(acts):
            name, act, _weight = self.rng.choices(ways, [weight for _, _, weight in ways])[0]
            act()
            self.done[name] += 1

    def faults(self) -> list[str]:
        """Days that do not add up, with what they came to."""
        wrong = []
        for offset in range(-1, 9):
            on = self.first + timedelta(days=offset)
            begins, ends = (
                datetime(each.year, each.month, each.day, tzinfo=self.desk.zone)
                for each in (on, on + timedelta(days=1))
            )
            rows = (
                day.sold_between(self.desk.session, begins, ends), day.taken_back_between(self.desk.session, begins, ends),
                day.deposits_between(self.desk.session, begins, ends, fitting_list.OLD_ONE),
            )  # fmt: skip
            till, page = papers.till_of_day(self.desk, *rows)[0], self.days[on]
            if of_till(till) != of_page(page):
                wrong.append(f"{on}: {of_till(till)} where the ledger has {of_page(page)}")
        return wrong


FAILS: list[dict[str, Any]] = [
    {"kind": "look"},
    {"kind": "rest_volts", "volts": 12.64, "settled": "rested", "rested_hours": 12},
    {"kind": "electronic_tester", "measured_cca_amps": 300, "type_set": "flooded", "posts_clean": True},
    {"kind": "adjustable_load", "amps": 320, "seconds": 15, "volts": 7.9, "temperature_c": 20},
]


def tag_given(desk: Desk, tag: int) -> int:
    """What was handed over under the claim of a battery."""
    from vane_check.records import batteries

    claim = batteries.claim_of(desk.session, counter.battery_or_refused(desk, tag).id)
    assert claim is not None
    given = goods.given_tag(desk.session, claim.id)
    assert given is not None
    return given


def tax(cents: int) -> Decimal:
    """The tax within a price, as it is worked out on paper."""
    return (Decimal(cents) * RATE / (100 + RATE)).quantize(Decimal(1), ROUND_HALF_UP)


def of_till(till: Till) -> tuple[Decimal, ...]:
    """What the day sheet says."""
    figures = (till.sold, till.credited, till.refunded, till.deposits_taken, till.deposits_back, till.cash)
    return (*map(Decimal, figures), Decimal(sum(line.cents for line in till.taxes)))


def of_page(page: Day) -> tuple[Decimal, ...]:
    """What the ledger says."""
    cash = page.sold - page.refunded + page.taken - page.back
    return page.sold, page.credited, page.refunded, page.taken, page.back, cash, page.tax


def played(session: StoreSession, staff: Any, acts: int, season: str, seed: int) -> Week:
    """A week played with a lead at the counter."""
    week = Week(Desk(session, staff), random.Random(seed), WEEKS[season])
    week.play(acts)
    return week


if __name__ == "__main__":
    from vane_check.records.base import engine_of, sessions_of
    from vane_check.records.models import Staff

    with sessions_of(engine_of(sys.argv[1], for_requests=False))() as opened:
        assert isinstance(opened, StoreSession)
        opened.bind_to(1)
        lead = opened.scalars(select(Staff).where(Staff.role == "owner")).first()
        for name in WEEKS:
            week = played(opened, lead, int(sys.argv[2]), name, 20261202)
            print(name, dict(week.done), week.faults() or "every day adds up to the cent")
        opened.rollback()

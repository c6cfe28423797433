"""The goods of the made-up shop: what it sells, by which terms, what stands in stock, and what happened with it."""

import random
from datetime import date, datetime, timedelta

from ..core.units.months import add_months
from ..desks.desk import Desk
from ..desks.fitting_list import Tick, tick
from ..desks.goods import WriteOrder, write_order
from ..desks.items import WriteItem, item_of, write_item
from ..desks.pieces import Receive, receive
from ..desks.sales import Sell, sell
from ..records import goods as goods_records
from ..records import shop as shop_records
from ..records.base import StoreSession
from ..records.models import CatalogueItem, StockPiece, Supplier, TermsRow, Vehicle
from . import catalogue, goods

EDITION_4_MONTHS = 62
"""How long ago the fourth edition of a line's terms began; what was sold before keeps the third."""


def stock(session: StoreSession, chance: random.Random, now: datetime) -> None:
    """Terms, cars, suppliers, the catalogue and what stands in stock of it."""
    today = now.date()
    silver = goods.LINES[1]
    session.add(
        TermsRow(
            line=silver.name, free_months=18, pro_rata_months=42, date_code_allowance_months=silver.date_code_allowance_months,
            excluded_uses=[use.value for use in silver.excluded_uses], reference=f"Terms sheet {silver.name}, edition 3",
        )
    )  # fmt: skip
    for line in goods.LINES:
        session.add(
            TermsRow(
                line=line.name, free_months=line.free_months, pro_rata_months=line.pro_rata_months,
                date_code_allowance_months=line.date_code_allowance_months,
                excluded_uses=[use.value for use in line.excluded_uses], reference=f"Terms sheet {line.name}, edition 4",
                holds_from=add_months(today.replace(day=1), -EDITION_4_MONTHS) if line is silver else None,
            )
        )  # fmt: skip
    for car in goods.CARS:
        session.add(Vehicle(**{**car._asdict(), "also_codes": list(car.also_codes)}, source="vehicle list, edition 12"))
    session.add_all([Vehicle(**car) for car in catalogue.more_cars()])
    suppliers = [
        Supplier(name=name, lead_days=days, delivers_on=on, order_before=before, terms=terms, edition=1)
        for name, days, on, before, terms in catalogue.SUPPLIERS
    ]
    session.add_all(suppliers)
    session.flush()
    own = [CatalogueItem(**item, supplier_id=suppliers[0].id) for item in catalogue.own_items()]
    session.add_all(own)
    session.add_all([CatalogueItem(**item, supplier_id=suppliers[1].id) for item in catalogue.more_items()])
    session.flush()
    pieces = []
    for row in own:
        for _ in range(chance.choice((0, 1, 1, 2, 3, 4))):
            months = chance.randrange(0, 14)
            full = {"agm": 12.9, "calcium": 12.82, "efb": 12.75}.get(row.chemistry, 12.68)
            pieces.append(
                StockPiece(
                    item_id=row.id, arrived_on=add_months(today, -months), last_volts=round(full - months * 0.025, 2),
                    last_volts_on=today - timedelta(days=chance.randrange(3, 120)),
                    charged_on=add_months(today, -months // 2) if months > 6 and chance.random() < 0.7 else None,
                )
            )  # fmt: skip
    session.add_all(pieces)
    session.flush()
    _dry_stock(session, own, today)


def _dry_stock(session: StoreSession, own: list[CatalogueItem], today: date) -> None:
    """A few dry-charged pieces of the plain line, one of them past its time."""
    plain = [row for row in own if row.line == "Merlow Plain"][:3]
    for row, months in zip(plain, (5, 16, 27), strict=True):
        session.add(
            StockPiece(
                item_id=row.id,
                arrived_on=add_months(today, -months + 1),
                made_on=add_months(today, -months),
                dry_charged=True,
            )
        )
    session.flush()


def trade(desk: Desk, now: datetime) -> None:
    """What happened with the goods: a price changed, a piece read, an order on its way, two sold, one of them being fitted."""
    lead, session = desk, desk.session
    silver = goods_records.item_named(session, "Merlow Silver 48 680")
    assert silver is not None
    written = WriteItem(item=item_of(silver), based_on=silver.edition)
    write_item(lead, silver.id, written, now - timedelta(days=40))
    plain = goods_records.item_named(session, "Merlow Plain 49 810")
    assert plain is not None
    order = WriteOrder(
        item_id=plain.id, pieces=2, note="for the workshop", expected_on=(now + timedelta(days=2)).date()
    )
    write_order(lead, order, now - timedelta(days=1))
    for name, read, serial, car, days, ticks in catalogue.SOLD:
        item = goods_records.item_named(session, name)
        assert item is not None
        at = now - timedelta(days=days)
        receive(lead, Receive(item_id=item.id, pieces=1, volts=read), at - timedelta(days=1))
        vehicle = next(vehicle for vehicle in shop_records.vehicles(session, 5, car))
        tag = sell(
            lead,
            Sell(
                item_id=item.id,
                volts=read,
                serial=serial,
                vehicle_id=vehicle.id,
                customer_name="L. Bramwell",
                fitted_here=False,
            ),
            at,
        )
        for step, figure in ticks:
            tick(lead, tag, Tick(step=step, figure=figure), at + timedelta(minutes=5))

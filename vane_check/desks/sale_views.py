"""A sale as it is shown: with its fitting list, its line for the till, and in the list of the newest."""

from datetime import datetime

from pydantic import BaseModel

from ..core.words import NOTHING, Text, Words, dated, in_a_row, say
from ..records import goods
from ..records.models import BatteryRow, Sale
from .desk import Desk
from .fitting_list import OLD_ONE, TickedStep, sale_or_refused, steps_of
from .items import item_or_refused
from .sales import Settles
from .tax import Tax, money
from .ways_back import MayGoBack, WayBackView, may_go_back, way_back_of


class SaleView(BaseModel):
    """A sale with its fitting list."""

    tag: int
    name: str
    serial: str
    sold_at: datetime
    who: str
    volts: float
    price_cents: int
    core_deposit_cents: int
    tax_words: Words
    """The tax within the price as it was at the sale; empty where there was none."""
    tax_cents: int
    till_line: Words
    """What it is rung up as: item, serial, price with the tax in it, the deposit while the old one is out."""
    deposit_back: bool
    old_tag: int | None
    car: str
    battery_place: str
    access: str
    way_back: WayBackView | None
    may_go_back: MayGoBack | None
    """While the sale stands."""
    credit_cents: int
    warranty_words: Words
    """Whose dates it keeps, where it was given under warranty; else from when its own run."""
    steps: list[TickedStep]
    left: int
    currency: str


def sale_view(desk: Desk, tag: int, now: datetime) -> SaleView:
    """A sale with its fitting list as it stands."""
    sale, battery = sale_or_refused(desk, tag)
    steps = steps_of(desk, sale)
    tax = Tax.model_validate(sale.body.get("tax") or {})
    car, item = battery.vehicle, item_or_refused(desk, sale.item_id)
    old = desk.session.get(BatteryRow, sale.old_battery_id) if sale.old_battery_id else None
    back = way_back_of(desk, sale)
    view = SaleView(
        tag=tag, till_line=NOTHING, way_back=back, may_go_back=None if back else may_go_back(desk, sale, now), credit_cents=sale.credit_cents, warranty_words=_warranty_words(sale, old), name=sale.body.get("name", item.name), serial=battery.serial, sold_at=sale.sold_at, who=sale.staff.name, volts=sale.volts,
        price_cents=sale.price_cents, core_deposit_cents=sale.core_deposit_cents,
        tax_words=tax.words if tax.pct else NOTHING, tax_cents=tax.within_cents(sale.price_cents),
        deposit_back=any(step.step.key == OLD_ONE and step.done for step in steps), old_tag=old.tag if old else None,
        car=" ".join(part for part in (car.make, car.model, car.engine, car.trim) if part) if car else "",
        battery_place=car.battery_place if car else "", access=car.access if car else "", steps=steps,
        left=sum(not step.done for step in steps), currency=sale.body.get("currency", desk.store.currency),
    )  # fmt: skip
    return view.model_copy(update={"till_line": _till_line(view)})


def _warranty_words(sale: Sale, old: BatteryRow | None) -> Words:
    if sale.claim_id is None or old is None:
        return say("sales.its_warranty_runs_from_this_sale")
    settles = Settles.model_validate(sale.body["warranty"])
    start = settles.sold_on or settles.made_on
    if start is None:
        return say("sales.given_under_warranty_for_tag", tag=old.tag)
    return say("sales.given_under_warranty_for_tag_its_time_runs_from", tag=old.tag, start=dated(start, "%d %b %Y"))


def _till_line(sale: SaleView) -> Words:
    parts: list[Text] = [sale.name, f"SN {sale.serial}", money(sale.price_cents, sale.currency)]
    parts += (
        [say("sales.incl", tax_words=sale.tax_words, money=money(sale.tax_cents, sale.currency))]
        if sale.tax_words
        else []
    )
    owed = 0 if sale.deposit_back else sale.core_deposit_cents
    parts += [say("sales.deposit", money=money(owed, sale.currency))] if owed else []
    return in_a_row(parts, "  ")


class SoldView(BaseModel):
    """A sale in the list of the newest."""

    tag: int
    name: str
    serial: str
    sold_at: datetime
    price_cents: int
    currency: str
    way_back: str
    """How it was taken back; empty while it stands."""


NEWEST = 30


def newest(desk: Desk) -> list[SoldView]:
    """The newest sales."""
    return [
        SoldView(
            tag=battery.tag,
            name=item.name,
            serial=battery.serial,
            sold_at=sale.sold_at,
            price_cents=sale.price_cents,
            currency=sale.body.get("currency", desk.store.currency),
            way_back=way_back or "",
        )
        for sale, battery, item, way_back in goods.newest_sales(desk.session, NEWEST)
    ]

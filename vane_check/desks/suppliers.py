"""Suppliers: on which days they bring goods, how long they take, on what terms."""

from datetime import datetime, time

from pydantic import BaseModel, Field, field_validator

from ..core.goods.deliveries import next_delivery
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, ShortText
from ..core.words import say
from ..records import goods
from ..records.events import announce
from ..records.models import Supplier
from .counter import MOST
from .desk import Conflict, Desk, NotThere, Refused
from .stores import NO_ITEM, let_follow, own_or_refused


class SupplierWritten(Model):
    """A supplier as it is written."""

    name: ShortText = Field(min_length=1)
    lead_days: int = Field(ge=0, le=365, description="days from order to delivery, at least")
    delivers_on: tuple[int, ...] = Field(max_length=7, description="days of the week, Monday 0")
    order_before: ShortText = Field("", description="a time such as 16:00; later counts for the next day")
    terms: ShortText = ""

    @field_validator("delivers_on")
    @classmethod
    def _days(cls, days: tuple[int, ...]) -> tuple[int, ...]:
        if any(not 0 <= day <= 6 for day in days):
            raise ValueError(say("suppliers.days_of_the_week_go_from_0_monday_to_6"))
        return tuple(sorted(set(days)))

    @field_validator("order_before")
    @classmethod
    def _time(cls, words: str) -> str:
        if words:
            try:
                time.fromisoformat(words)
            except ValueError as error:
                raise ValueError(say("suppliers.enter_a_time_such_as_16_00_or_leave_it")) from error
        return words


class WriteSupplier(Model):
    """A supplier written new or anew; `based_on` says which edition was seen."""

    supplier: SupplierWritten
    based_on: int = Field(0, ge=0, le=MOST)


class SupplierView(BaseModel):
    """A supplier, and when an order made now would come."""

    id: int
    edition: int
    supplier: SupplierWritten
    next_on: str | None


def all_suppliers(desk: Desk, now: datetime) -> list[SupplierView]:
    """Every supplier."""
    return [_view(row, now.astimezone(desk.zone)) for row in goods.suppliers(desk.session)]


def _view(row: Supplier, here: datetime) -> SupplierView:
    supplier = SupplierWritten(
        name=row.name, lead_days=row.lead_days, delivers_on=tuple(row.delivers_on), order_before=row.order_before,
        terms=row.terms,
    )  # fmt: skip
    day = next_delivery(here, row.lead_days, row.delivers_on, row.order_before)
    return SupplierView(id=row.id, edition=row.edition, supplier=supplier, next_on=day.isoformat() if day else None)


def write(desk: Desk, supplier_id: int | None, body: WriteSupplier) -> None:
    """Write a supplier. Only a lead may. Raises Conflict where another wrote meanwhile."""
    desk.only_lead()
    own_or_refused(desk, "catalogue")
    row = Supplier(edition=0) if supplier_id is None else goods.supplier(desk.session, supplier_id, lock=True)
    if row is None:
        raise NotThere(say("suppliers.no_such_supplier"))
    if row.edition != body.based_on:
        raise Conflict(say("common.was_written_anew_meanwhile_look_at_what", row_name=row.name))
    supplier = body.supplier
    if any(
        other.id != row.id and other.name.lower() == supplier.name.lower() for other in goods.suppliers(desk.session)
    ):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("supplier.name", say("suppliers.another_supplier_has_this_name"))],
        )
    row.name, row.lead_days, row.delivers_on = supplier.name, supplier.lead_days, list(supplier.delivers_on)
    row.order_before, row.terms = supplier.order_before, supplier.terms
    row.edition += 1
    desk.session.add(row)
    let_follow(desk, "catalogue", NO_ITEM)
    announce(desk.session, desk.staff.store_id, "goods")

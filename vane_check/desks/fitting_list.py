"""The fitting list of what was sold: what this car and this battery need, ticked once, by whom and when."""

import uuid
from datetime import datetime
from typing import Any

from pydantic import BaseModel, Field

from ..core.goods.fitting import FittingCar, FittingStep, fitting_list
from ..core.readings import Car, RestVolts
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, ShortText
from ..core.words import say, word
from ..records import goods
from ..records.events import announce
from ..records.models import BatteryRow, FittingTick, Sale
from .check import keep_reading
from .counter import PutThere, battery_or_refused, put
from .desk import Conflict, Desk, NotThere, Refused
from .views import Place

OLD_ONE, RUNNING, DRAIN, NEW_VOLTS = "old_one", "running_volts", "drain", "new_volts"


class Tick(Model):
    """A step done, or taken back."""

    step: ShortText
    done: bool = True
    figure: float | None = Field(None, description="what was read at it")


class TickedStep(BaseModel):
    """A step of the list with who did it."""

    step: FittingStep
    done: bool
    figure: float | None
    who: str
    at: datetime | None


def sale_or_refused(desk: Desk, tag: int) -> tuple[Sale, BatteryRow]:
    """The sale a battery left by. Raises NotThere."""
    battery = battery_or_refused(desk, tag)
    sale = goods.sale_of_battery(desk.session, battery.id)
    if sale is None:
        raise NotThere(say("fitting_list.was_not_sold_from_this_stock", tag=tag))
    return sale, battery


def steps_of(desk: Desk, sale: Sale) -> list[TickedStep]:
    """The list with what is ticked; of a step ticked twice the last word stands."""
    last = {tick.step: tick for tick in goods.ticks_of(desk.session, sale.id)}
    steps = []
    for step in fitting_list(FittingCar.model_validate(sale.body["car"])):
        tick = last.get(step.key)
        done = tick is not None and tick.done
        steps.append(
            TickedStep(
                step=step, done=done, figure=tick.figure if tick and done else None, who=tick.staff.name if tick and done else "",
                at=tick.ticked_at if tick and done else None,
            )
        )  # fmt: skip
    return steps


def tick(desk: Desk, tag: int, ticked: Tick, now: datetime) -> None:
    """Tick a step off, or take that back. A figure read at it is kept as a reading of the new battery too.

    The old battery booked in for recycling is set apart. Raises Refused for a step that is not on the list or wants its
    figure, Conflict where another hand ticked it meanwhile.
    """
    sale, battery = sale_or_refused(desk, tag)
    goods.lock_sale(desk.session, sale.id)
    if goods.way_back(desk.session, sale.id) is not None:
        raise Conflict(say("ways_back.this_sale_was_taken_back_already"))
    steps = {step.step.key: step for step in steps_of(desk, sale)}
    as_listed = steps.get(ticked.step)
    if as_listed is None:
        raise Refused(
            say("fitting_list.no_such_step"),
            [FieldProblem("step", say("fitting_list.this_step_is_not_on_the_list_of_this_car"))],
        )
    if as_listed.done == ticked.done:
        raise Conflict(
            say(
                "fitting_list.did_that_already_look_at_the_list_as_it",
                who=as_listed.who or say("fitting_list.somebody"),
            )
        )
    if ticked.done and as_listed.step.figure and ticked.figure is None:
        raise Refused(
            say("fitting_list.its_figure_is_missing"),
            [FieldProblem("figure", say("fitting_list.enter_what_was_read_in", unit=word(as_listed.step.figure)))],
        )
    desk.session.add(
        FittingTick(
            sale_id=sale.id, step=ticked.step, done=ticked.done, figure=ticked.figure, ticked_at=now, staff_id=desk.staff.id
        )
    )  # fmt: skip
    desk.session.flush()
    if ticked.done and ticked.figure is not None:
        _baseline(desk, battery, ticked, now)
    if ticked.done and ticked.step == OLD_ONE and sale.old_battery_id is not None:
        old = desk.session.get(BatteryRow, sale.old_battery_id)
        if old is not None and old.place != "gone":
            put(desk, old.tag, PutThere(place=Place.HELD_APART), now)
    announce(desk.session, desk.staff.store_id, "goods")


def _baseline(desk: Desk, battery: BatteryRow, ticked: Tick, now: datetime) -> None:
    """What is read while fitting starts the record that later checks are compared with."""
    reading: dict[str, Any] = {"id": str(uuid.uuid4()), "taken_at": now}
    try:
        if ticked.step == NEW_VOLTS:
            keep_reading(desk, battery.tag, RestVolts(**reading, volts=ticked.figure), now)
        elif ticked.step == RUNNING:
            keep_reading(desk, battery.tag, Car(**reading, idle_volts=ticked.figure), now)
        elif ticked.step == DRAIN:
            ran = next(
                (
                    step.figure
                    for step in steps_of(desk, sale_or_refused(desk, battery.tag)[0])
                    if step.step.key == RUNNING
                ),
                None,
            )
            keep_reading(desk, battery.tag, Car(**reading, idle_volts=ran, drain_ma=ticked.figure), now)
    except (Refused, ValueError) as error:
        message = (
            error.problems[0].message
            if isinstance(error, Refused) and error.problems
            else say("fitting_list.look_at_the_figure_again")
        )
        raise Refused(say("fitting_list.the_figure_cannot_be_right"), [FieldProblem("figure", message)]) from error

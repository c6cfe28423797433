"""The rack desk: what stands where, what comes next, what needs a hand, and what was promised to whom."""

import re
from datetime import datetime, timedelta
from operator import attrgetter

from pydantic import BaseModel

from ..core.battery.label import CameIn, Context
from ..core.charging.rack import OpeningHours, open_spans, suits
from ..core.charging.rack.house import runs_at_night
from ..core.readings.check import Check
from ..core.units.model import Model, Moment
from ..core.words import NOTHING, Words, as_written, digits, from_record, in_a_row, say
from .counter import TakeIn, with_a_rating
from .desk import Desk
from .rack_hands import Hand, hands
from .rack_jobs import NEW_TAG, Gathered, OnRack, Plan, gather, job_of_new, plan_for
from .rack_slots import Slot, clock, slot_of


class ChargerView(BaseModel):
    """A charger of the rack."""

    id: int
    name: str
    amps: float
    outputs: int
    words: Words
    state: str
    night: bool


class Outside(BaseModel):
    """Batteries that find no place on the rack, why, and what comes first."""

    tags: list[int]
    why: Words
    first: Words


class Broken(BaseModel):
    """A promise that cannot be kept, and the earliest that can."""

    tag: int
    promised_at: datetime
    ready_at: datetime | None
    words: Words


class ChangeView(BaseModel):
    """What the last change did to a battery's place."""

    tag: int
    words: Words


class OpenSpan(BaseModel):
    """From when until when somebody is in."""

    opens: datetime
    closes: datetime


class RackView(BaseModel):
    """The rack as it stands and as it is planned."""

    now: datetime
    until: datetime
    open: list[OpenSpan]
    opening_hours: OpeningHours
    chargers: list[ChargerView]
    slots: list[Slot]
    unnamed: list[int]
    """Tags that stand on charge, nobody said on which."""
    resting: list[int]
    ready: list[int]
    hands: list[Hand]
    outside: list[Outside]
    broken: list[Broken]
    night: Words
    changes: list[ChangeView]
    changed_why: Words
    changed_at: datetime | None
    changed_by: str


class AskEarliest(Model):
    """A battery that is being taken in, and when somebody would like it."""

    take_in: TakeIn
    promised_at: Moment | None = None
    waits: bool = False


class Earliest(BaseModel):
    """When it can be ready at the earliest, and what that does to a promise."""

    ready_at: datetime | None
    kept: bool
    words: Words


def view(desk: Desk, now: datetime) -> RackView:
    """The rack at a moment."""
    gathered = gather(desk, now)
    plan = plan_for(gathered)
    slots = [slot_of(gathered, placed) for placed in plan.placed]
    made = gathered.before
    until = gathered.now + timedelta(days=desk.rules.rack.days.value)
    return RackView(
        now=now,
        until=until,
        open=[OpenSpan(opens=opens, closes=closes) for opens, closes in gathered.spans if opens < until],
        opening_hours=gathered.hours,
        chargers=[_charger_view(desk, gathered, number) for number in _by_name(gathered)],
        slots=slots,
        unnamed=[
            battery.row.tag for battery in gathered.all if battery.row.place == "on_charge" and battery.stay is None
        ],
        resting=[battery.row.tag for battery in gathered.all if battery.row.place == "standing"],
        ready=[battery.row.tag for battery in gathered.all if battery.row.place == "ready"],
        hands=hands(desk, gathered, plan, now),
        outside=_outside(desk, gathered, plan),
        broken=_broken(desk, gathered, plan),
        night=_night_words(gathered, plan),
        changes=[] if made is None else [ChangeView.model_validate(change) for change in made.changes],
        changed_why=NOTHING if made is None else from_record(made.why),
        changed_at=None if made is None else made.made_at,
        changed_by="" if made is None else made.staff.name,
    )


def _by_name(gathered: Gathered) -> list[int]:
    return sorted(gathered.chargers, key=lambda number: in_order(gathered.chargers[number][0].name))


def in_order(name: str) -> list[tuple[int, str]]:
    """Names with numbers in them, as people order them.

    >>> sorted(["Charger 10", "Charger 2"], key=in_order)
    ['Charger 2', 'Charger 10']
    """
    return [(int(part), "") if part.isdigit() else (-1, part.lower()) for part in re.findall(r"\d+|\D+", name)]


def _charger_view(desk: Desk, gathered: Gathered, number: int) -> ChargerView:
    row, charger = gathered.chargers[number]
    night = runs_at_night(charger, desk.rules)
    modes = in_a_row((as_written(mode.name) for mode in charger.modes), ", ")
    return ChargerView(
        id=number, name=row.name, amps=charger.amps, outputs=charger.outputs, words=say('figures.amps_modes_a', amps=digits(charger.amps), modes=modes),
        state=row.state, night=night,
    )  # fmt: skip


def _outside(desk: Desk, gathered: Gathered, plan: Plan) -> list[Outside]:
    """What is not planned, or not as it was asked, by what stands in the way."""
    result: dict[tuple[Words, Words], list[int]] = {}
    for tag, why, first in gathered.refused:
        result.setdefault((why, first), []).append(tag)
    for none in plan.unplaced:
        battery = gathered.batteries.get(none.tag)
        broken = out_of_order_for(gathered, battery, desk) if battery else None
        whys = {fit.why_not for fit in battery.fits.values() if fit.why_not} if battery else set()
        suits_some = battery is not None and any(fit.mode is not None for fit in battery.fits.values())
        why = none.why if suits_some or not whys else min(whys, key=attrgetter("key"))
        first = (
            say("rack.make_room_or_promise_it_later")
            if suits_some
            else say("rack.is_out_of_order_have_it_mended", name=broken)
            if broken
            else say("rack.write_a_charger_that_suits_it_into_the")
        )
        result.setdefault((why, first), []).append(none.tag)
    for placed in plan.placed:
        pin = gathered.batteries[placed.tag].at.pin
        if pin is not None and pin.equipment_id is not None and not placed.pinned and not placed.begun:
            named = gathered.chargers[pin.equipment_id][0].name
            reason = (
                say("rack.was_set_on_where_it_cannot_hang_now", named=named),
                say("rack.set_it_elsewhere_or_leave_it_to_the_plan"),
            )
            result.setdefault(reason, []).append(placed.tag)
    return [Outside(tags=tags, why=why, first=first) for (why, first), tags in result.items()]


def _broken(desk: Desk, gathered: Gathered, plan: Plan) -> list[Broken]:
    result = []
    for placed in plan.placed:
        if placed.late:
            ready, promised = gathered.moment(placed.ready), gathered.batteries[placed.tag].at.promise
            assert promised is not None
            assert promised.promised_at is not None
            words = say("rack.can_be_ready_at_the_earliest", tag=placed.tag, clock=clock(desk, ready, gathered.now))
            result.append(Broken(tag=placed.tag, promised_at=promised.promised_at, ready_at=ready, words=words))
    for none in plan.unplaced:
        battery = gathered.batteries.get(none.tag)
        promise = battery.at.promise if battery else None
        if promise is not None and promise.promised_at is not None:
            result.append(
                Broken(
                    tag=none.tag,
                    promised_at=promise.promised_at,
                    ready_at=None,
                    words=in_a_row((str(none.tag), none.why), ": "),
                )
            )
    return result


def _night_words(gathered: Gathered, plan: Plan) -> Words:
    """What runs while nobody is in, the next time the shop closes."""
    closes = next((end for begin, end in gathered.spans if end > gathered.now), None)
    if closes is None:
        return NOTHING
    over = [placed for placed in plan.placed if gathered.moment(placed.on) < closes < gathered.moment(placed.ends)]
    runs, stops = [placed for placed in over if placed.lane.night], [placed for placed in over if not placed.lane.night]
    words = (
        say("rack.run_overnight_on_chargers_that_limit", count=len(runs))
        if runs
        else say("rack.nothing_runs_overnight")
    )
    return words + (
        say("rack.stop_at_closing", tag=", ".join(str(stop.tag) for stop in stops), count=len(stops))
        if stops
        else NOTHING
    )


def out_of_order_for(gathered: Gathered, battery: OnRack, desk: Desk) -> str | None:
    """A charger of the book that would suit a battery and is out of order."""
    around = desk.store.bay_temperature_c
    return next(
        (
            row.name
            for row, charger in gathered.chargers.values()
            if row.state == "out_of_order" and suits(battery.case, battery.step, charger, around).mode is not None
        ),
        None,
    )


def closed_then(gathered: Gathered, desk: Desk, moment: datetime) -> Words:
    """That nobody is in at a moment: why, where it was said, and when somebody is."""
    day = moment.astimezone(desk.zone).date()
    why = next((each.why for each in gathered.hours.closed if each.first <= day <= each.last and each.why), "")
    spans = open_spans(gathered.hours, desk.zone, moment, moment + timedelta(days=CLOSED_AT_MOST_DAYS))
    opens = clock(desk, spans[0][0], gathered.now) if spans else NOTHING
    return (
        say("rack.closed_then_for_promise_it_for", why=why, opens=opens)
        if why
        else say("rack.closed_then_promise_it_for", opens=opens)
    )


CLOSED_AT_MOST_DAYS = 60


def earliest(desk: Desk, body: AskEarliest, now: datetime) -> Earliest:
    """When a battery that is being taken in can be ready, with everything else as it is planned. Nothing is kept."""
    entry = body.take_in
    check = Check(battery=with_a_rating(desk, entry), context=entry.context, at_hand=desk.at_hand)
    gathered = gather(desk, now)
    if not gathered.chargers:
        return Earliest(ready_at=None, kept=True, words=say("rack.no_charger_stands_in_the_book_of_equipment"))
    if body.promised_at is not None and not gathered.hours.is_open(body.promised_at, desk.zone):
        return Earliest(ready_at=None, kept=False, words=closed_then(gathered, desk, body.promised_at))
    priority = "waiting" if body.waits else "promised" if body.promised_at else _ordinary(entry.context)
    plan = plan_for(gathered, [job_of_new(gathered, desk, check, body.promised_at, priority)])
    placed = next((placed for placed in plan.placed if placed.tag == NEW_TAG), None)
    if placed is None:
        why = next(
            (unplaced.why for unplaced in plan.unplaced if unplaced.tag == NEW_TAG),
            say("common.no_room_in_the_days_planned"),
        )
        return Earliest(
            ready_at=None, kept=body.promised_at is None, words=say("rack.it_finds_no_place_on_the_rack", why=why)
        )
    ready = gathered.moment(placed.ready)
    words = say("rack.charged_rested_and_tested_at_the_earliest", clock=clock(desk, ready, now))
    if body.promised_at is None:
        return Earliest(ready_at=ready, kept=True, words=say("rack.if_it_needs_a_charge", words=words))
    harmed = [placed for placed in plan.placed if placed.late and placed.tag != NEW_TAG]
    were = {placed.tag for placed in plan_for(gathered).placed if placed.late}
    newly = sorted(placed.tag for placed in harmed if placed.tag not in were)
    if placed.late:
        return Earliest(ready_at=ready, kept=False, words=say("rack.cannot_be_kept_if_it_needs_a_charge", words=words))
    if newly:
        tags = ", ".join(str(tag) for tag in newly)
        return Earliest(
            ready_at=ready, kept=False, words=say("rack.can_be_kept_only_at_the_cost_of_what_was", tags=tags)
        )
    return Earliest(ready_at=ready, kept=True, words=say("rack.can_be_kept", words=words))


def _ordinary(context: Context) -> str:
    return "warranty" if context.came_in is CameIn.RETURNED else "ordinary"

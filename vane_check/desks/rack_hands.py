"""What needs a hand at the rack in the next half hour, or is overdue."""

from datetime import datetime, timedelta

from pydantic import BaseModel

from ..core.charging.plan import CHARGES
from ..core.charging.rack import Lane
from ..core.charging.rack.house import soon_minutes
from ..core.charging.rack.parts import TICK_MINUTES
from ..core.findings.kinds import StepKey
from ..core.words import Words, in_a_row, say
from .desk import Desk
from .rack_jobs import Gathered, OnRack, Plan
from .rack_slots import Slot, clock, slot_of, span_words


class Hand(BaseModel):
    """What needs a hand: what to do with which battery, where and when, and what it says beside it."""

    does: str
    """connect, off, look, stop, test or read"""
    tag: int
    charger_id: int | None
    output: int | None
    at: datetime
    overdue: bool
    words: Words
    says: Words


def hands(desk: Desk, gathered: Gathered, plan: Plan, now: datetime) -> list[Hand]:
    """What needs a hand in the next half hour or is overdue, the longest due first."""
    soon = now + timedelta(minutes=soon_minutes(desk.rules))
    result = []
    for placed in plan.placed:
        battery = gathered.batteries[placed.tag]
        slot = slot_of(gathered, placed)
        hand = _of_hanging(gathered, battery, slot, now) if slot.hangs else _to_connect(gathered, battery, slot)
        if hand.at <= soon:
            result.append(hand.model_copy(update={"overdue": hand.does != "connect" and hand.at < now}))
    result += [hand for hand in _switch_off(gathered, plan, now) if hand.at <= soon]
    for at in gathered.all:
        row = at.row
        promised = None if at.promise is None else at.promise.promised_at
        if promised is not None and row.tag not in gathered.batteries and row.place in ("counter", "bench"):
            words = say("rack_hands.promised_for_not_settled_yet", clock=clock(desk, promised, now))
            result.append(
                _simple("read", row.tag, min(promised, now), now, say("rack_hands.read_it", tag=row.tag), words)
            )
        if (
            row.place == "standing"
            and row.needs_hand_at is not None
            and row.needs_hand_at <= soon
            and at.step not in CHARGES
        ):
            words = say("rack_hands.rested_test_it")
            result.append(
                _simple(
                    "test",
                    row.tag,
                    row.needs_hand_at,
                    now,
                    in_a_row((str(row.tag), words), " "),
                    say("rack_hands.by_the_houses_rest_before_a_test"),
                )
            )
    return sorted(result, key=lambda hand: (hand.does != "stop", hand.at, hand.tag))


def _switch_off(gathered: Gathered, plan: Plan, now: datetime) -> list[Hand]:
    """Before the shop closes: chargers that must not run while nobody is in, with what hangs on them."""
    closes = next((end for begin, end in gathered.spans if begin <= gathered.now < end), None)
    return [
        Hand(
            does="switch", tag=placed.tag, charger_id=placed.lane.charger, output=placed.lane.output, at=closes, overdue=False,
            words=say('rack_hands.off_for_the_night', name=gathered.name(placed.lane)), says=say('rack_hands.goes_on_in_the_morning_it_must_not_run', tag=placed.tag),
        )
        for placed in plan.placed
        if closes is not None and placed.begun and not placed.lane.night and gathered.moment(placed.ends) > closes > now
    ]  # fmt: skip


def _simple(does: str, tag: int, at: datetime, now: datetime, words: Words, says: Words) -> Hand:
    return Hand(does=does, tag=tag, charger_id=None, output=None, at=at, overdue=at < now, words=words, says=says)


def _to_connect(gathered: Gathered, battery: OnRack, slot: Slot) -> Hand:
    name = _output_name(gathered, slot)
    return Hand(
        does="connect", tag=slot.tag, charger_id=slot.charger_id, output=slot.output, at=slot.on_at, overdue=False,
        words=say('rack_hands.on', tag=slot.tag, name=name), says=in_a_row((slot.mode, slot.set_words), ": "),
    )  # fmt: skip


def _output_name(gathered: Gathered, slot: Slot) -> str:
    return gathered.name(Lane(slot.charger_id, slot.output, True))


def _of_hanging(gathered: Gathered, battery: OnRack, slot: Slot, now: datetime) -> Hand:
    """Stop it, look at it, or take it off: what comes first of a battery that hangs on a charger."""
    name, at = _output_name(gathered, slot), battery.at
    base = {"tag": slot.tag, "charger_id": slot.charger_id, "output": slot.output, "overdue": False}
    if at.step == StepKey.STOP_CHARGE:
        return Hand(
            **base,
            does="stop",
            at=now,
            words=say("rack_hands.stop_it", tag=slot.tag),
            says=say("rack_hands.its_charge_does_not_go_as_it_should", name=name),
        )
    due = at.row.needs_hand_at
    if due is not None and due + timedelta(minutes=TICK_MINUTES) < slot.ends_at:
        return Hand(
            **base,
            does="look",
            at=due,
            words=say("rack_hands.look_at_it", tag=slot.tag),
            says=say("rack_hands.amps_and_volts_now", name=name),
        )
    return Hand(
        **base, does="off", at=slot.ends_at, words=say('rack_hands.off', tag=slot.tag, name=name),
        says=say('rack_hands.by_its_plan_of_amps_and_volts_at_the_end', span_words=span_words(slot.hours)),
    )  # fmt: skip

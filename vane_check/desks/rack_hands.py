"""What needs a hand at the rack in the next half hour, or is overdue."""

from datetime import datetime, timedelta

from pydantic import BaseModel

from ..core.charging.plan import CHARGES
from ..core.charging.rack import Lane
from ..core.charging.rack.house import soon_minutes
from ..core.charging.rack.parts import TICK_MINUTES
from ..core.findings.kinds import StepKey
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
    words: str
    says: str


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
            words = f"promised for {clock(desk, promised, now)}, not settled yet"
            result.append(_simple("read", row.tag, min(promised, now), now, f"{row.tag}: read it", words))
        if (
            row.place == "standing"
            and row.needs_hand_at is not None
            and row.needs_hand_at <= soon
            and at.step not in CHARGES
        ):
            words = "rested: test it"
            result.append(
                _simple(
                    "test", row.tag, row.needs_hand_at, now, f"{row.tag} {words}", "by the house's rest before a test"
                )
            )
    return sorted(result, key=lambda hand: (hand.does != "stop", hand.at, hand.tag))


def _switch_off(gathered: Gathered, plan: Plan, now: datetime) -> list[Hand]:
    """Before the shop closes: chargers that must not run while nobody is in, with what hangs on them."""
    closes = next((end for begin, end in gathered.spans if begin <= gathered.now < end), None)
    return [
        Hand(
            does="switch", tag=one.tag, charger_id=one.lane.charger, output=one.lane.output, at=closes, overdue=False,
            words=f"{gathered.name(one.lane)} off for the night", says=f"{one.tag} goes on in the morning: it must not run while nobody is in",
        )
        for one in plan.placed
        if closes is not None and one.begun and not one.lane.night and gathered.moment(one.ends) > closes > now
    ]  # fmt: skip


def _simple(does: str, tag: int, at: datetime, now: datetime, words: str, says: str) -> Hand:
    return Hand(does=does, tag=tag, charger_id=None, output=None, at=at, overdue=at < now, words=words, says=says)


def _to_connect(gathered: Gathered, battery: OnRack, slot: Slot) -> Hand:
    name = _output_name(gathered, slot)
    return Hand(
        does="connect", tag=slot.tag, charger_id=slot.charger_id, output=slot.output, at=slot.on_at, overdue=False,
        words=f"{slot.tag} on, {name}", says=f"{slot.mode}: {slot.set_words}" if slot.mode else slot.set_words,
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
            words=f"{slot.tag}: stop it",
            says=f"{name}: its charge does not go as it should",
        )
    due = at.row.needs_hand_at
    if due is not None and due + timedelta(minutes=TICK_MINUTES) < slot.ends_at:
        return Hand(**base, does="look", at=due, words=f"{slot.tag}: look at it", says=f"{name}: amps and volts now")
    return Hand(
        **base, does="off", at=slot.ends_at, words=f"{slot.tag} off, {name}",
        says=f"by its plan of {span_words(slot.hours)}: amps and volts at the end",
    )  # fmt: skip

"""A person's rights at the desk: everything kept of somebody handed over, or forgotten."""

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel

from ..records import customer_rights, customers
from .customers import TheirBattery, Way, customer_or_refused, keep_entry, not_erased, view
from .desk import Desk
from .erasure import erase_people


def erase_customer(desk: Desk, customer_id: int, now: datetime) -> None:
    """Take name, phone and plate away everywhere; what was measured stays. Only a lead may."""
    desk.only_lead()
    row = customer_or_refused(desk, customer_id, lock=True)
    not_erased(row)
    erase_people(desk, customers.aliases_of(desk.session, [row.id]), now)


class HandedOut(BaseModel):
    """All that is kept of a person, in an open format: the person's right, and nobody else's."""

    format: Literal["vane-check-customer/1"] = "vane-check-customer/1"
    shop: str
    made_at: datetime
    written_in_as: list[Way]
    batteries: list[TheirBattery]
    take_ins: list[dict[str, Any]]
    readings: list[dict[str, Any]]
    judgements: list[dict[str, Any]]
    claims: list[dict[str, Any]]
    remarks: list[dict[str, Any]]


def hand_out(desk: Desk, customer_id: int, now: datetime) -> HandedOut:
    """Everything kept of somebody; that it was handed out stays on record. Only a lead may."""
    desk.only_lead()
    row = customer_or_refused(desk, customer_id)
    not_erased(row)
    seen = view(desk, row.id)
    ids = [way.id for way in (seen.own, *seen.ways)]
    kept = customer_rights.everything_about(
        desk.session, ids, [battery.battery_id for battery in customers.batteries_of(desk.session, ids)]
    )
    keep_entry(desk, row, "handed out", [], now)
    return HandedOut(
        shop=desk.store.name,
        made_at=now,
        written_in_as=[seen.own, *seen.ways],
        batteries=seen.batteries,
        take_ins=[{"tag": tag, "written_at": at.isoformat(), **body} for tag, at, body in kept.take_ins],
        readings=[
            {"tag": tag, **{key: value for key, value in body.items() if key != "taken_by"}}
            for tag, _, body in kept.readings
        ],
        judgements=[
            {"tag": tag, "made_at": at.isoformat(), "outcome": outcome, "headline": headline}
            for tag, at, outcome, headline in kept.judgements
        ],
        claims=[
            {"tag": tag, "written_at": at.isoformat(), "decision": decision, "credit_cents": cents}
            for tag, at, decision, cents in kept.claims
        ],
        remarks=[
            {"tag": tag, "written_at": at.isoformat(), "what": what, "text": text}
            for tag, at, what, text in kept.remarks
        ],
    )

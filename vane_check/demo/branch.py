"""Another store of the same owner, who alone works there so far: its shelf, a battery that comes from it, a piece that goes there."""

import uuid
from datetime import datetime, timedelta

from sqlalchemy import select

from ..core.house.rules import house_rules
from ..core.readings.check import ONE_READING
from ..desks.check import keep_reading
from ..desks.counter import TakeIn, take_in
from ..desks.desk import Desk
from ..desks.sending import Send, send
from ..records import goods as goods_records
from ..records.base import StoreSession
from ..records.models import CatalogueItem, RulesVersion, Staff, StockPiece, Store
from . import catalogue
from .visits import look, volts

TAGS_FROM = 41
FROM_THE_BRANCH = {
    "battery": {
        "line": "Merlow Silver", "chemistry": "calcium", "rating": {"amps": 680}, "group_code": "48", "serial": "MS 48-77120",
        "made_on": "2024-03-01",
    },
    "context": {"came_in": "carried_in", "complaint": "slow_crank", "use": "private"},
    "customer_name": "A. Treloar", "customer_phone": "0555 0190",
}  # fmt: skip
SENT_ON = "Merlow Plain 49 810"


def open_branch(session: StoreSession, main: Store, now: datetime) -> None:
    """Write it in, and what is between the two."""
    today = now.date()
    owner = session.scalars(select(Staff).where(Staff.role == "owner")).one()
    branch = Store(name=catalogue.BRANCH, time_zone=main.time_zone, demo=True, next_tag=TAGS_FROM)
    session.add(branch)
    session.flush()
    session.bind_to(branch.id)
    rows = [CatalogueItem(**item) for item in catalogue.own_items() if item["line"] in {"Merlow Silver", "Quellan Mat"}]
    there = Staff(person_uuid=owner.person_uuid, name=owner.name, role="owner", pin_hash=owner.pin_hash)
    session.add_all([*rows, there])
    session.flush()
    pieces = [StockPiece(item_id=row.id, arrived_on=today, last_volts=12.8, last_volts_on=today) for row in rows]
    rules = house_rules()
    body = rules.model_dump(mode="json")
    reason = "as in the first store"
    version = RulesVersion(version=rules.version, made_at=now, made_by=there.id, reason=reason, body=body)
    session.add_all([*pieces, version])
    session.flush()
    desk, at = Desk(session, there), now - timedelta(hours=3)
    tag = take_in(desk, TakeIn.model_validate(FROM_THE_BRANCH), at)
    for reading in (look(), volts(12.31)):
        values = {**reading, "id": str(uuid.uuid4()), "taken_at": at.isoformat()}
        keep_reading(desk, tag, ONE_READING.validate_python(values), at)
    send(desk, Send(tag=tag, to_store_id=main.id, note="no tester here"), now - timedelta(hours=2))
    session.bind_to(main.id)
    item = goods_records.item_named(session, SENT_ON)
    assert item is not None
    piece = goods_records.unsold_of(session, [item.id])[item.id][0]
    going = Send(piece_id=piece.id, to_store_id=branch.id, note="by the evening van")
    send(Desk(session, owner), going, now - timedelta(hours=1))

"""Several stores of one owner: which there are, who works where, what they share, and all of them side by side."""

import json
import secrets
from collections.abc import Mapping
from datetime import datetime
from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from ..core.readings.faults import FieldProblem
from ..core.units.model import Model
from ..core.units.zones import known_zones
from ..core.words import fact_of, say
from ..records import house, stores
from ..records.events import announce
from ..records.models import HouseEntry
from .counter import MOST
from .desk import Conflict, Desk, NotThere, Refused
from .house_desk import check_zone
from .house_people import Name

Shared = Literal["rules", "catalogue", "terms"]
SHARED: tuple[Shared, ...] = ("rules", "catalogue", "terms")
NO_ITEM = 0
"""No item has this number: the suppliers alone are taken over."""
WHAT_IS_SHARED = {
    "rules": say("stores.house_rules"),
    "catalogue": say("stores.catalogue_and_prices"),
    "terms": say("stores.warranty_terms"),
}


class StoreName(BaseModel):
    """A store of the house, and whether whoever looks works in it."""

    id: int
    name: str
    works: bool
    here: bool


class SideBySide(BaseModel):
    """What an owner sees of one store: the house now, and seven days of its work."""

    id: int
    name: str
    here: bool
    in_house: int
    due: int
    """Want a hand now."""
    unsafe: int
    watched: int
    taken_in: int
    claims: int
    sales: int
    sold_cents: int
    pieces: int
    pieces_cents: int
    coming: int
    going: int
    people: int
    currency: str
    door: str
    """What the address of its sign-in page carries."""
    follows: dict[Shared, str | None]
    """Whose rules, catalogue and terms it works by; none for its own."""


class HouseStores(BaseModel):
    """Every store side by side, and what opening another asks."""

    stores: list[SideBySide]
    zones: list[str]


class Follows(Model):
    """Whose rules, catalogue and terms a store works by: the number of a store, or none for its own."""

    rules: int | None = Field(None, ge=0, le=MOST)
    catalogue: int | None = Field(None, ge=0, le=MOST)
    terms: int | None = Field(None, ge=0, le=MOST)


class OpenStore(Model):
    """Another store of the same owner."""

    name: Name
    time_zone: str = Field(max_length=60)
    shares: list[Shared] = Field([], max_length=len(SHARED), description="what of this store it works by")


class GiveStore(Model):
    """Whether somebody works in another store."""

    store_id: int = Field(ge=0, le=MOST)
    works: bool


def names(desk: Desk) -> list[StoreName]:
    """The stores of the house, for whoever sends something or goes to work in another."""
    return _names(desk, desk.staff.person_uuid)


def of_person(desk: Desk, staff_id: int) -> list[StoreName]:
    """In which stores somebody of this one works. Only an owner may."""
    only_owner(desk)
    row = house.person(desk.session, staff_id)
    if row is None:
        raise NotThere(say("common.nobody_of_that_number_works_here"))
    return _names(desk, row.person_uuid)


def _names(desk: Desk, person: UUID) -> list[StoreName]:
    return [
        StoreName(id=store.id, name=store.name, works=store.works, here=store.id == desk.staff.store_id)
        for store in stores.all_stores(desk.session, person)
    ]


def only_owner(desk: Desk) -> None:
    """Refuse anybody but an owner."""
    if desk.staff.role != "owner":
        raise PermissionError(say("stores.only_an_owner_can_do_this"))


def view(desk: Desk) -> HouseStores:
    """All stores side by side. Only an owner may."""
    only_owner(desk)
    result = []
    for row in stores.side_by_side(desk.session, desk.staff.person_uuid):
        follows = {what: row.pop(f"{what}_from") for what in SHARED}
        result.append(SideBySide(**row, follows=follows, here=row["id"] == desk.staff.store_id))
    return HouseStores(stores=result, zones=list(known_zones()))


def open_store(desk: Desk, body: OpenStore, now: datetime) -> int:
    """Open another store with the units, money and rules of this one; its owner works in it. Only an owner may."""
    only_owner(desk)
    house.lock_house(desk.session, 0)
    check_zone(body.time_zone, "time_zone")
    if any(name.name.lower() == body.name.lower() for name in names(desk)):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("name", say("common.a_store_has_this_name_give_each_its_own"))],
        )
    row = {
        "name": body.name, "time_zone": body.time_zone, "door": secrets.token_urlsafe(9),
        "calendar_secret": secrets.token_urlsafe(24),
    }  # fmt: skip
    made = stores.open_store(desk.session, json.dumps(row), desk.staff.person_uuid)
    if made is None:
        raise PermissionError(say("stores.only_an_owner_can_do_this"))
    _note(desk, now, "store opened", body.name, {"shares": [fact_of(WHAT_IS_SHARED[what]) for what in body.shares]})
    leader = desk.staff.store_id
    desk.session.bind_to(made)
    house.write_settings(desk.session, made, {f"{what}_from": leader for what in body.shares})
    for what in body.shares:
        stores.follow(desk.session, what, leader, made)
    desk.session.bind_to(leader)
    return made


def write_follows(desk: Desk, body: Follows, now: datetime) -> None:
    """Whose rules, catalogue and terms this store works by from now on. Only an owner may.

    What the other wrote is taken over at once; what this one wrote before stays in its books.
    """
    only_owner(desk)
    here = desk.staff.store_id
    house.lock_house(desk.session, 0)
    own = {name.id: name.name for name in names(desk) if name.works}
    before = {what: stores.leader_of(desk.session, here, what) for what in SHARED}
    wanted = {what: getattr(body, what) for what in SHARED}
    for what, leader in wanted.items():
        if leader is None or leader == before[what]:
            continue
        if leader == here or leader not in own:
            raise Refused(
                say("common.it_cannot_be_right"),
                [FieldProblem(what, say("stores.pick_another_store_you_work_in_or_its_own"))],
            )
        desk.session.bind_to(leader)
        goes_on = stores.leader_of(desk.session, leader, what)
        desk.session.bind_to(here)
        if goes_on is not None:
            words = say("stores.works_by_another_store_itself_pick_that", own=own[leader])
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem(what, words)])
        if any(
            row[f"{what}_from"] == desk.store.name for row in stores.side_by_side(desk.session, desk.staff.person_uuid)
        ):
            words = say("stores.another_store_works_by_this_one_let_that")
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem(what, words)])
    house.write_settings(desk.session, here, {f"{what}_from": leader for what, leader in wanted.items()})
    for what, leader in wanted.items():
        if leader is not None:
            stores.follow(desk.session, what, leader, here)
    leaders: dict[str, object] = {
        what: own[leader] if leader in own else fact_of(say("stores.its_own")) for what, leader in wanted.items()
    }
    _note(desk, now, "works by", desk.store.name, leaders)
    announce(desk.session, here, "everything")


def give(desk: Desk, staff_id: int, body: GiveStore, now: datetime) -> None:
    """Let somebody of this store work in another, or no longer. Only an owner may."""
    only_owner(desk)
    row = house.person(desk.session, staff_id)
    if row is None or not row.pin_hash:
        raise NotThere(say("common.nobody_of_that_number_works_here"))
    target = next((name for name in names(desk) if name.id == body.store_id), None)
    if target is None or target.here:
        raise NotThere(say("stores.no_other_store_of_that_number"))
    why_not = stores.give(desk.session, row.person_uuid, desk.staff.person_uuid, target.id, body.works)
    if why_not == "refused":
        raise PermissionError(say("stores.only_an_owner_can_do_this"))
    words = {
        "name": say("stores.somebody_of_has_this_name_give_each_their", target_name=target.name),
        "last": say("stores.the_only_owner_of_make_somebody_else_one", target_name=target.name),
    }
    if why_not in words:
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("store_id", words[why_not])])
    if not why_not:
        _note(
            desk,
            now,
            "store given" if body.works else "store taken back",
            row.name,
            {"store": target.name},
        )


def who_elsewhere(desk: Desk, store_id: int) -> int:
    """As whom whoever asks works in another store. Raises NotThere where they do not."""
    staff_elsewhere = stores.staff_elsewhere(desk.session, desk.staff.person_uuid, store_id)
    if staff_elsewhere is None:
        raise NotThere(say("stores.you_do_not_work_in_that_store_an_owner"))
    return staff_elsewhere


def own_or_refused(desk: Desk, what: Shared) -> None:
    """Refuse a change of what another store writes for this one."""
    leader = stores.leader_of(desk.session, desk.staff.store_id, what)
    if leader is not None:
        name = next((store.name for store in names(desk) if store.id == leader), say("stores.another_store"))
        raise Conflict(
            say("stores.the_come_from_change_them_there_or_let_an", what_is_shared=WHAT_IS_SHARED[what], name=name)
        )


def let_follow(desk: Desk, what: Shared, only_item: int | None = None) -> None:
    """What was just written here holds in the stores that work by this one."""
    desk.session.flush()
    stores.follow(desk.session, what, desk.staff.store_id, None, only_item)


def _note(desk: Desk, now: datetime, what: str, subject: str, after: Mapping[str, object]) -> None:
    body = {"before": {}, "after": dict(after)}
    desk.session.add(HouseEntry(staff_id=desk.staff.id, written_at=now, what=what, subject=subject, body=body))
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "staff")

"""The House desk: the shop itself, who works in it, what is still missing, and everything that was changed."""

import base64
from datetime import datetime
from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, Field, StringConstraints

from .. import languages
from ..core.battery import Model, printable, printable_lines
from ..core.faults import FieldProblem
from ..core.setting_up import Counts, Missing, missing
from ..core.tables import entry_limits
from ..core.zones import known_zones
from ..papers.pictures import picture_kind
from ..papers.sizes import PaperSize
from ..records import house, stores
from ..records.events import announce
from ..records.models import HouseEntry, SignInTry, Staff, Store
from .desk import LEADS, Conflict, Desk, NotThere, Refused
from .sign_in import TOO_EASY, guessable, hash_pin

_LIMITS = entry_limits()
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60), AfterValidator(printable)]
Money = Annotated[str, StringConstraints(pattern=r"^[A-Z]{3}$")]
Pin = Annotated[str, StringConstraints(min_length=1, max_length=32)]
PaperText = Annotated[str, StringConstraints(strip_whitespace=True, max_length=400), AfterValidator(printable_lines)]
PAGE = 50
LOGO_BYTES = 300_000
NO_PICTURE = f"That is no picture that can be printed: take a PNG or JPEG of at most {LOGO_BYTES // 1000} kB"


def _is_known(code: str) -> str:
    if code not in languages.names():
        raise ValueError("pick one of the languages there is a file for")
    return code


class Role(StrEnum):
    """What somebody may: the counter works, a lead changes rules and prices, an owner the house and its leads."""

    COUNTER = "counter"
    LEAD = "lead"
    OWNER = "owner"


class ShopSettings(Model):
    """What every screen and paper of a shop follows."""

    name: Name
    currency: Money = Field("EUR", description="three letters, such as EUR")
    temperature_unit: Literal["C", "F"] = "C"
    length_unit: Literal["mm", "in"] = "mm"
    time_zone: Annotated[str, StringConstraints(max_length=60)] = "UTC"
    bay_temperature_c: float | None = Field(
        None, ge=_LIMITS["bay_temperature_c"].low, le=_LIMITS["bay_temperature_c"].high
    )
    idle_minutes: int = Field(10, ge=_LIMITS["idle_minutes"].low, le=_LIMITS["idle_minutes"].high)
    tax_name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=20), AfterValidator(printable)] = ""
    tax_pct: float = Field(
        0,
        ge=_LIMITS["tax_pct"].low,
        le=_LIMITS["tax_pct"].high,
        description="within every price; 0 where there is none",
    )
    language: Annotated[str, AfterValidator(_is_known)] = Field(
        "en", description="of screens and papers: a language there is a file for"
    )
    paper_size: PaperSize = "A4"
    paper_head: PaperText = Field("", description="under the shop's name on every paper: address, phone")
    paper_foot: PaperText = Field("", description="at the foot of every paper")


class WriteShop(Model):
    """The settings written anew, over those that were seen."""

    shop: ShopSettings
    based_on: int = Field(ge=0, le=2**31 - 1, description="the edition of the settings that was seen")


class WritePerson(Model):
    """A person as they shall stand; a PIN where they get one."""

    name: Name
    role: Role
    works_here: bool = True
    pin: Pin | None = None


class PersonRow(BaseModel):
    """Somebody of the house."""

    id: int
    name: str
    role: Role
    left_at: datetime | None
    may_change: bool
    """Whether whoever looks may."""


class HouseChange(BaseModel):
    """Something that was changed: what stood before and what stands since, where that can be told."""

    id: int
    at: datetime
    who: str
    what: str
    subject: str
    before: dict[str, Any]
    after: dict[str, Any]


class BackupView(BaseModel):
    """The last good backup, and what went wrong since, if anything did."""

    made_at: datetime | None
    file_name: str
    megabytes: float
    rows: int
    days_old: int | None
    problem: str


class WriteLogo(Model):
    """A picture for the head of papers, as base64; empty takes it away."""

    picture: str = Field(max_length=LOGO_BYTES * 4 // 3 + 4)


class HouseView(BaseModel):
    """All that the desk shows at once."""

    shop: ShopSettings
    has_logo: bool
    edition: int
    money_fixed: bool
    """Something was sold already, so that its money no longer changes."""
    people: list[PersonRow]
    missing: list[Missing]
    backup: BackupView
    zones: list[str]
    languages: dict[str, str]
    """By their code, as they call themselves."""


def view(desk: Desk, now: datetime) -> HouseView:
    """The whole desk. Only a lead may."""
    desk.only_lead()
    found = house.counts(desk.session, desk.staff.store_id)
    store = house.settings_now(desk.session, desk.staff.store_id)
    return HouseView(
        shop=settings_of(store),
        has_logo=bool(store.logo_type),
        edition=house.settings_edition(desk.session),
        money_fixed=found["sales"] > 0,
        people=[
            PersonRow(id=one.id, name=one.name, role=Role(one.role), left_at=one.left_at, may_change=_may(desk, one.role) or one.id == desk.staff.id)
            for one in house.everybody(desk.session)
        ],
        missing=missing(Counts.model_validate({name: found[name] for name in Counts.model_fields})),
        backup=_backup(desk, now),
        zones=list(known_zones()),
        languages=languages.names(),
    )  # fmt: skip


def _backup(desk: Desk, now: datetime) -> BackupView:
    good, tried = house.newest_backups(desk.session)
    problem = tried.problem if tried else ""
    if good is None:
        return BackupView(made_at=None, file_name="", megabytes=0, rows=0, days_old=None, problem=problem)
    return BackupView(
        made_at=good.made_at, file_name=good.file_name, megabytes=round(good.bytes / 1e6, 1), rows=sum(good.rows.values()),
        days_old=(desk.today(now) - desk.today(good.made_at)).days, problem=problem,
    )  # fmt: skip


def ask_for_backup(desk: Desk, now: datetime) -> None:
    """Ask whoever watches over this server for a backup now. Only a lead may."""
    desk.only_lead()
    house.ask_for_backup(desk.session)
    _note(desk, now, "backup asked for", desk.store.name, {}, {})


def changes(desk: Desk, before: int | None) -> list[HouseChange]:
    """A page of what was changed, the newest first. Only a lead may."""
    desk.only_lead()
    return [
        HouseChange(
            id=one.id, at=one.written_at, who=one.staff.name if one.staff else "at the server", what=one.what,
            subject=one.subject, before=one.body.get("before", {}), after=one.body.get("after", {}),
        )
        for one in house.entries(desk.session, PAGE, before)
    ]  # fmt: skip


def settings_of(store: Store) -> ShopSettings:
    """A store's row as its settings."""
    return ShopSettings.model_validate({name: getattr(store, name) for name in ShopSettings.model_fields})


def write_shop(desk: Desk, written: WriteShop, now: datetime) -> None:
    """The shop's settings from now on. Only a lead may. Raises Conflict where somebody changed them meanwhile."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    if house.settings_edition(desk.session) != written.based_on:
        raise Conflict("The shop was changed meanwhile: look at what stands now; what you typed is still here")
    check_zone(written.shop.time_zone, "shop.time_zone")
    if written.shop.tax_pct and not written.shop.tax_name:
        raise Refused("It cannot be right", [FieldProblem("shop.tax_name", "Say what the tax is called, such as VAT")])
    others = (one for one in stores.every(desk.session, desk.staff.person_uuid) if one.id != desk.staff.store_id)
    if any(one.name.lower() == written.shop.name.lower() for one in others):
        raise Refused("It cannot be right", [FieldProblem("shop.name", "A store has this name: give each its own")])
    before = settings_of(house.settings_now(desk.session, desk.staff.store_id))
    if before.currency != written.shop.currency and house.counts(desk.session, desk.staff.store_id)["sales"]:
        said = f"Something was sold in {before.currency} already: prices and sums stay in it"
        raise Refused("It cannot be right", [FieldProblem("shop.currency", said)])
    after = written.shop.model_dump(mode="json")
    house.write_settings(desk.session, desk.staff.store_id, after)
    _note(desk, now, "shop", written.shop.name, before.model_dump(mode="json"), after)


def write_logo(desk: Desk, written: WriteLogo, now: datetime) -> None:
    """The picture on papers from now on, or none. Only a lead may. Raises Refused for what is no PNG or JPEG."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    try:
        picture = base64.b64decode(written.picture, validate=True)
    except ValueError as error:
        raise Refused("It cannot be right", [FieldProblem("picture", NO_PICTURE)]) from error
    kind = "" if not picture else picture_kind(picture)
    if kind is None or len(picture) > LOGO_BYTES:
        raise Refused("It cannot be right", [FieldProblem("picture", NO_PICTURE)])
    before = desk.store.logo_type
    house.write_settings(desk.session, desk.staff.store_id, {"logo": picture or None, "logo_type": kind})
    _note(desk, now, "logo", desk.store.name, {"logo": before or "none"}, {"logo": kind or "none"})


def add_person(desk: Desk, written: WritePerson, now: datetime) -> int:
    """Somebody new. A lead takes on counter hands, an owner anybody."""
    _may_give(desk, written.role)
    house.lock_house(desk.session, desk.staff.store_id)
    _name_is_free(desk, written.name, None)
    if written.pin is None:
        raise Refused("It cannot be right", [FieldProblem("pin", "Give a PIN to begin with: six digits or more")])
    row = Staff(name=written.name, role=written.role.value, pin_hash=_hashed(desk, written.pin, "pin"))
    desk.session.add(row)
    desk.session.flush()
    _note(desk, now, "person added", row.name, {}, _told(row))
    return row.id


def write_person(desk: Desk, staff_id: int, written: WritePerson, now: datetime) -> None:
    """Rename, give another role or PIN, let go or take back. What they kept stays theirs; their sessions end with them."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    row = house.person(desk.session, staff_id)
    if row is None:
        raise NotThere("nobody of that number works here")
    if written.role != row.role or not written.works_here or row.id != desk.staff.id:
        _may_give(desk, Role(row.role))
    if written.role != row.role:
        _may_give(desk, written.role)
    _name_is_free(desk, written.name, row.id)
    before = _told(row)
    row.name, row.role = written.name, written.role.value
    if written.works_here != (row.left_at is None):
        row.left_at = None if written.works_here else now
    if before["works_here"]:
        _somebody_stays(desk, row, Role(before["role"]))
    if written.pin is not None:
        row.pin_hash = _hashed(desk, written.pin, "pin")
    desk.session.flush()
    if (row.left_at is not None or written.pin is not None) and row.id != desk.staff.id:
        house.end_sessions(desk.session, row.id, now)
    if (row.name, row.role) != (before["name"], before["role"]) or written.pin is not None:
        stores.spread(desk.session, row.person_uuid, written.pin is not None)
    after = _told(row) | ({"pin": "a new one"} if written.pin is not None else {})
    if after != before:
        _note(desk, now, "person", row.name, before, after)


def unlock(desk: Desk, staff_id: int, now: datetime) -> None:
    """End somebody's waiting after wrong PINs, wherever they tried. Only a lead may."""
    desk.only_lead()
    row = house.person(desk.session, staff_id)
    if row is None:
        raise NotThere("nobody of that number works here")
    for address in house.addresses_tried(desk.session, row.id):
        desk.session.add(
            SignInTry(staff_id=row.id, address=address, kind="lifted", tried_at=now, lifted_by=desk.staff.id)
        )
    _note(desk, now, "wait lifted", row.name, {}, {})


def check_zone(time_zone: str, path: str) -> None:
    """Raises Refused for a zone nobody knows."""
    if time_zone not in known_zones():
        raise Refused("It cannot be right", [FieldProblem(path, "No such time zone: pick one, such as Europe/Dublin")])


def _hashed(desk: Desk, pin: str, path: str) -> str:
    if not desk.store.demo and guessable(pin):
        raise Refused("It cannot be right", [FieldProblem(path, TOO_EASY)])
    try:
        return hash_pin(pin)
    except ValueError as error:
        raise Refused(
            "It cannot be right", [FieldProblem(path, f"{str(error).capitalize()}: six or more, no letters")]
        ) from error


def _may(desk: Desk, role: str) -> bool:
    return (
        desk.staff.role == Role.OWNER or (desk.staff.role == Role.LEAD and role == Role.COUNTER) or not _has_owner(desk)
    )


def _has_owner(desk: Desk) -> bool:
    """A house without an owner (older than the role) is changed by its leads."""
    if "has_owner" not in desk.__dict__:
        everybody = house.everybody(desk.session)
        desk.__dict__["has_owner"] = any(one.role == Role.OWNER and one.left_at is None for one in everybody)
    return bool(desk.__dict__["has_owner"])


def _may_give(desk: Desk, role: Role) -> None:
    desk.only_lead()
    if not _may(desk, role):
        raise PermissionError("only an owner changes leads and owners")


def _name_is_free(desk: Desk, name: str, of: int | None) -> None:
    if any(one.id != of and one.name.lower() == name.lower() for one in house.everybody(desk.session)):
        raise Refused(
            "It cannot be right", [FieldProblem("name", "Somebody has this name, or had it: give each their own")]
        )


def _somebody_stays(desk: Desk, row: Staff, was: Role) -> None:
    """Raises Refused where nobody would own the shop any more, or nobody lead it."""
    at_work = [Role(one.role) for one in house.everybody(desk.session) if one.id != row.id and one.left_at is None]
    if row.left_at is None:
        at_work.append(Role(row.role))
    if was is Role.OWNER and Role.OWNER not in at_work:
        raise Refused("It cannot be right", [FieldProblem("role", "The only owner: make somebody else one first")])
    if was is not Role.COUNTER and not LEADS.intersection(at_work):
        raise Refused("It cannot be right", [FieldProblem("role", "The only lead: make somebody else one first")])


def _told(row: Staff) -> dict[str, Any]:
    return {"name": row.name, "role": row.role, "works_here": row.left_at is None}


def _note(desk: Desk, now: datetime, what: str, subject: str, before: dict[str, Any], after: dict[str, Any]) -> None:
    body = {"before": before, "after": after}
    desk.session.add(HouseEntry(staff_id=desk.staff.id, written_at=now, what=what, subject=subject, body=body))
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "staff")

"""The House desk: the shop itself, its papers and backup, what is still missing, and everything that was changed."""

import base64
from datetime import datetime
from typing import Annotated, Any, Literal, NamedTuple

from pydantic import AfterValidator, BaseModel, Field, StringConstraints

from .. import languages
from ..core.house.setting_up import Counts, Missing, missing
from ..core.readings.faults import FieldProblem
from ..core.tables import currencies, entry_limits
from ..core.units.model import Model, printable, printable_lines
from ..core.units.money import decimals_of
from ..core.units.zones import known_zones
from ..core.words import Words, as_written, has, say
from ..files.reader import READER
from ..papers.sizes import PaperSize
from ..records import goods, house, stores
from ..records.events import announce
from ..records.models import Store
from .desk import Conflict, Desk, Refused
from .house_people import Name, PersonRow, Role, may, note

_LIMITS = entry_limits()


def _is_money(code: str) -> str:
    if code not in currencies():
        raise ValueError(say("house_desk.no_money_has_these_letters"))
    return code


Money = Annotated[str, StringConstraints(pattern=r"^[A-Z]{3}$"), AfterValidator(_is_money)]
PaperText = Annotated[str, StringConstraints(strip_whitespace=True, max_length=400), AfterValidator(printable_lines)]
PAGE = 50
LOGO_BYTES = 300_000
NO_PICTURE = say("house_desk.that_is_no_picture_that_can_be_printed", logo_bytes=LOGO_BYTES // 1000)


def _is_known(code: str) -> str:
    if code not in languages.names():
        raise ValueError(say("house_desk.pick_one_of_the_languages_there_is_a_file"))
    return code


TaxName = Annotated[str, StringConstraints(strip_whitespace=True, max_length=20), AfterValidator(printable)]


class MoreTax(Model):
    """A further rate, by the name items have it by."""

    name: Annotated[TaxName, StringConstraints(min_length=1)]
    pct: float = Field(ge=_LIMITS["tax_pct"].low, le=_LIMITS["tax_pct"].high)


class ShopSettings(Model):
    """What every screen and paper of a shop follows."""

    name: Name
    currency: Money = Field("EUR", description="three letters of ISO 4217, such as EUR")
    temperature_unit: Literal["C", "F"] = "C"
    length_unit: Literal["mm", "in"] = "mm"
    time_zone: Annotated[str, StringConstraints(max_length=60)] = "UTC"
    bay_temperature_c: float | None = Field(
        None, ge=_LIMITS["bay_temperature_c"].low, le=_LIMITS["bay_temperature_c"].high
    )
    idle_minutes: int = Field(10, ge=_LIMITS["idle_minutes"].low, le=_LIMITS["idle_minutes"].high)
    tax_name: TaxName = ""
    tax_pct: float = Field(
        0,
        ge=_LIMITS["tax_pct"].low,
        le=_LIMITS["tax_pct"].high,
        description="within every price; 0 where there is none",
    )
    tax_on_top: bool = Field(False, description="prices are without it and it comes on top")
    more_taxes: tuple[MoreTax, ...] = Field((), max_length=6, description="further rates single items are sold at")
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
    prices_times: float | None = Field(
        None,
        gt=0,
        le=_LIMITS["price_times"].high,
        description="of another money: what every price of the catalogue is multiplied by; 1 keeps the figures",
    )


class HouseChange(BaseModel):
    """Something that was changed: what stood before and what stands since, where that can be told."""

    id: int
    at: datetime
    who: Words
    what: Words
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
    problem: Words


class Logo(NamedTuple):
    """A picture that can be printed with its media type, or none."""

    picture: bytes | None
    kind: str


class WriteLogo(Model):
    """A picture for the head of papers, as base64; empty takes it away."""

    picture: str = Field(max_length=LOGO_BYTES * 4 // 3 + 4)


class HouseView(BaseModel):
    """All that the desk shows at once."""

    shop: ShopSettings
    has_logo: bool
    edition: int
    priced_items: int
    """Items whose prices another money has to do something about."""
    people: list[PersonRow]
    missing: list[Missing]
    backup: BackupView
    zones: list[str]
    languages: dict[str, str]
    """By their code, as they call themselves."""


def view(desk: Desk, now: datetime) -> HouseView:
    """The whole desk. Only a lead may."""
    desk.only_lead()
    counts = house.counts(desk.session, desk.staff.store_id)
    store = house.settings_now(desk.session, desk.staff.store_id)
    return HouseView(
        shop=settings_of(store),
        has_logo=bool(store.logo_type),
        edition=house.settings_edition(desk.session),
        priced_items=counts["items"],
        people=[
            PersonRow(id=person.id, name=person.name, role=Role(person.role), left_at=person.left_at, may_change=may(desk, person.role) or person.id == desk.staff.id)
            for person in house.everybody(desk.session)
        ],
        missing=missing(Counts.model_validate({name: counts[name] for name in Counts.model_fields})),
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
    note(desk, now, "backup asked for", desk.store.name, {}, {})


def changes(desk: Desk, before: int | None) -> list[HouseChange]:
    """A page of what was changed, the newest first. Only a lead may."""
    desk.only_lead()
    return [
        HouseChange(
            id=entry.id, at=entry.written_at, who=as_written(entry.staff.name) if entry.staff else say("house_desk.at_the_server"), what=_change_in_words(entry.what),
            subject=entry.subject, before=entry.body.get("before", {}), after=entry.body.get("after", {}),
        )
        for entry in house.entries(desk.session, PAGE, before)
    ]  # fmt: skip


def settings_of(store: Store) -> ShopSettings:
    """A store's row as its settings."""
    return ShopSettings.model_validate({name: getattr(store, name) for name in ShopSettings.model_fields})


def write_shop(desk: Desk, body: WriteShop, now: datetime) -> None:
    """The shop's settings from now on. Only a lead may. Raises Conflict where somebody changed them meanwhile."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    if house.settings_edition(desk.session) != body.based_on:
        raise Conflict(say("house_desk.the_shop_was_changed_meanwhile_look_at"))
    check_zone(body.shop.time_zone, "shop.time_zone")
    if body.shop.tax_pct and not body.shop.tax_name:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("shop.tax_name", say("house_desk.say_what_the_tax_is_called_such_as_vat"))],
        )
    others = (
        store for store in stores.all_stores(desk.session, desk.staff.person_uuid) if store.id != desk.staff.store_id
    )
    if any(store.name.lower() == body.shop.name.lower() for store in others):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("shop.name", say("common.a_store_has_this_name_give_each_its_own"))],
        )
    before = settings_of(house.settings_now(desk.session, desk.staff.store_id))
    names = [body.shop.tax_name.lower(), *(tax.name.lower() for tax in body.shop.more_taxes)]
    if body.shop.more_taxes and len(set(names)) < len(names):
        twice = say("house_desk.give_each_tax_its_own_name")
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("shop.more_taxes", twice)])
    if before.currency != body.shop.currency:
        _change_money(desk, before.currency, body)
    after = body.shop.model_dump(mode="json")
    house.write_settings(desk.session, desk.staff.store_id, after)
    note(desk, now, "shop", body.shop.name, before.model_dump(mode="json"), after)


def _change_money(desk: Desk, was: str, body: WriteShop) -> None:
    """Another money: what was sold and claimed keeps its own; the catalogue's prices do what somebody says. Raises Refused where nobody did."""
    priced = house.counts(desk.session, desk.staff.store_id)["items"]
    if not priced:
        return
    if body.prices_times is None:
        words = say("house_desk.say_what_happens_to_the_prices", count=priced, was=was, becomes=body.shop.currency)
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("prices_times", words)])
    if desk.store.catalogue_from is not None:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("shop.currency", say("house_desk.its_prices_are_another_stores"))],
        )
    scale = 10.0 ** (decimals_of(body.shop.currency) - decimals_of(was))
    goods.multiply_prices(desk.session, desk.staff.store_id, body.prices_times * scale)
    announce(desk.session, desk.staff.store_id, "goods")


def look_at_logo(body: WriteLogo) -> Logo:
    """A picture as it came, looked at without a transaction. Raises Refused for what is no PNG or JPEG."""
    try:
        picture = base64.b64decode(body.picture, validate=True)
    except ValueError as error:
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("picture", NO_PICTURE)]) from error
    kind = "" if not picture else READER.picture_kind(picture) if len(picture) <= LOGO_BYTES else None
    if kind is None:
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("picture", NO_PICTURE)])
    return Logo(picture or None, kind)


def write_logo(desk: Desk, logo: Logo, now: datetime) -> None:
    """The picture on papers from now on, or none. Only a lead may."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    before = desk.store.logo_type
    house.write_settings(desk.session, desk.staff.store_id, {"logo": logo.picture, "logo_type": logo.kind})
    note(desk, now, "logo", desk.store.name, {"logo": before or "none"}, {"logo": logo.kind or "none"})


def check_zone(time_zone: str, path: str) -> None:
    """Raises Refused for a zone nobody knows."""
    if time_zone not in known_zones():
        raise Refused(
            say("common.it_cannot_be_right"), [FieldProblem(path, say("house_desk.no_such_time_zone_pick_one"))]
        )


def _change_in_words(what: str) -> Words:
    key = f"house_change.{what.replace(' ', '_')}"
    return say(key) if has(key) else as_written(what)

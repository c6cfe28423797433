"""A shop of its own, set up once on a server that has none: its settings, its people, its house rules."""

import json
import secrets
from datetime import datetime

from pydantic import BaseModel, Field

from .. import languages
from ..core.charging.rack.hours import OpeningHours
from ..core.house.rules import changed_rules, house_rules
from ..core.house.setting_up import BELIEVES, QUESTIONS, Answers, school_for
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model
from ..core.words import Words, for_record, rules_in_words, say
from ..records import house, people
from ..records.base import StoreSession
from ..records.models import HouseEntry, RulesVersion, Staff
from ..records.models.house import WEEK
from .desk import Conflict, Refused
from .house_desk import ShopSettings, check_zone
from .house_people import Role, WritePerson
from .sign_in import TOO_EASY, guessable, hash_pin


class SchoolFound(BaseModel):
    """The house rules that suit the answers, and why."""

    school: str
    name: Words
    why: Words


class SetUpView(BaseModel):
    """What the first page asks; `open` while there is no shop here."""

    open: bool
    questions: dict[str, Words]
    believes: dict[str, Words]
    schools: dict[str, SchoolFound]
    """By the answers as they are written in `key_of`."""
    zones: list[str]
    languages: dict[str, str]


class SetUp(Model):
    """A whole shop to begin with. The first of its people owns it."""

    code: str = Field(max_length=80, description="as the start command printed it")
    shop: ShopSettings
    people: list[WritePerson] = Field(min_length=1, max_length=40)
    answers: Answers = Answers()
    opening_hours: OpeningHours = Field(default_factory=lambda: OpeningHours.model_validate(WEEK))


class WrongCode(PermissionError):
    """Not the code that was printed when this server started."""


def preview(answers: Answers) -> SchoolFound:
    """The school some answers lead to."""
    rules = school_for(answers)
    return SchoolFound(school=rules.school, name=rules_in_words(house_rules(rules.school).name), why=rules.why)


def is_open(session: StoreSession) -> bool:
    """Whether there is no shop on this server yet."""
    return not people.stores(session)


def view(session: StoreSession, zones: list[str]) -> SetUpView:
    """What the page asks."""
    return SetUpView(
        open=is_open(session), questions=QUESTIONS, believes={belief.value: said for belief, said in BELIEVES.items()},
        schools={key_of(answers): preview(answers) for answers in every_answer()}, zones=zones,
        languages=languages.names(),
    )  # fmt: skip


def key_of(answers: Answers) -> str:
    """Answers as one word: a figure for each thing there is, then what is believed."""
    has = (answers.has_tester, answers.has_adjustable_load, answers.has_fixed_load, answers.has_hydrometer)
    return "".join("1" if there else "0" for there in has) + answers.believes.value


def every_answer() -> list[Answers]:
    """Every way to answer."""
    return [
        Answers(has_tester=bool(bits & 8), has_adjustable_load=bool(bits & 4), has_fixed_load=bool(bits & 2), has_hydrometer=bool(bits & 1), believes=belief)
        for bits in range(16) for belief in BELIEVES
    ]  # fmt: skip


def set_up(session: StoreSession, shop: SetUp, code: str | None, now: datetime) -> Staff:
    """Open the shop. Returns its owner. Raises WrongCode, Conflict where one is open already, Refused with the field."""
    if code is None or not secrets.compare_digest(shop.code.strip().encode(), code.encode()):
        raise WrongCode(say("set_up.that_is_not_the_code_the_start_command"))
    check_zone(shop.shop.time_zone, "shop.time_zone")
    hashes = _checked(shop.people)
    values = {
        **shop.shop.model_dump(mode="json"), "opening_hours": shop.opening_hours.model_dump(mode="json"),
        "door": secrets.token_urlsafe(9), "calendar_secret": secrets.token_urlsafe(24),
    }  # fmt: skip
    store_id = house.open_shop(session, json.dumps(values))
    if store_id is None:
        raise Conflict(say("set_up.there_is_a_shop_here_already_sign_in_to_it"))
    session.bind_to(store_id)
    house.write_settings(session, store_id, shop.shop.model_dump(mode="json"))
    staff = [
        Staff(name=person.name, role=person.role.value, pin_hash=hashed)
        for person, hashed in zip(shop.people, hashes, strict=True)
    ]
    session.add_all(staff)
    session.flush()
    result = school_for(shop.answers)
    rules = changed_rules(
        house_rules(result.school),
        {"steps.tools_at_hand": list(result.tools)},
        "house choice: as answered when set up",
    )
    rules = rules.model_copy(
        update={"version": f"{now:%Y}.1", "holds_from": now.date(), "name": house_rules(result.school).name}
    )
    change = {"before": {}, "after": {**shop.shop.model_dump(mode="json"), "rules": rules.name, "people": len(staff)}}
    session.add_all(
        [
            RulesVersion(version=rules.version, made_at=now, made_by=staff[0].id, reason=for_record(say("set_up.set_up", why=result.why)), body=rules.model_dump(mode="json")),
            HouseEntry(staff_id=staff[0].id, written_at=now, what='set up', subject=shop.shop.name, body=change),
        ]
    )  # fmt: skip
    session.flush()
    return staff[0]


def _checked(wanted: list[WritePerson]) -> list[str]:
    faults, hashes, seen = [], [], set[str]()
    for index, person in enumerate(wanted):
        if person.name.lower() in seen:
            faults.append(
                FieldProblem(f"people[{index}].name", say("set_up.somebody_has_this_name_give_each_their_own"))
            )
        seen.add(person.name.lower())
        if guessable(person.pin or ""):
            faults.append(FieldProblem(f"people[{index}].pin", TOO_EASY))
            continue
        try:
            hashes.append(hash_pin(person.pin or ""))
        except ValueError:
            faults.append(FieldProblem(f"people[{index}].pin", say("set_up.a_pin_has_six_digits_or_more")))
    if wanted[0].role is not Role.OWNER:
        faults.append(FieldProblem("people[0].role", say("set_up.the_first_owns_the_shop")))
    if faults:
        raise Refused(say("common.it_cannot_be_right"), faults)
    return hashes

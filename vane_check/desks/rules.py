"""The House rules desk: every value with its source; a lead makes a new version, and no old judgement changes."""

from datetime import date, datetime
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, Field, field_validator

from ..core.house.rules import SCHOOLS, HouseRules, RulesRefused, changed_rules, house_rules
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, ShortText, printable
from ..core.words import HOUSE_CHOICE, OWN_VALUES, Words, from_record, rules_in_words, say
from ..records import people
from ..records.events import announce
from ..records.models import RulesVersion
from .desk import Conflict, Desk, Refused
from .house import RuleView
from .stores import let_follow, own_or_refused

VERSIONS_AT_MOST = 100


class VersionView(BaseModel):
    """One version the house has had."""

    version: str
    name: Words
    made_at: datetime
    made_by: str | None
    reason: Words


class SchoolView(BaseModel):
    """A preset: its name, and the values in which it differs from the first."""

    school: str
    name: Words
    values: dict[str, Any]


class RuleOnDesk(RuleView):
    """A rule with what may be entered for it."""

    holds_from: date
    low: float | None = None
    high: float | None = None
    choices: tuple[str, ...] = ()
    at_least: int = 0


class RulesView(BaseModel):
    """The rules in force, the presets, and the versions before."""

    version: str
    name: Words
    holds_from: date
    rules: dict[str, RuleOnDesk]
    """By the path of each, as `tester.replace_below_ratio`, in the order of their matters."""
    schools: list[SchoolView]
    versions: list[VersionView]
    may_change: bool


class NewRules(Model):
    """A new version: a preset, or the rules in force, with values of one's own and the reason for it."""

    school: ShortText | None = Field(None, description="a preset to start from; the rules in force when empty")
    values: dict[str, Any] = Field(default_factory=dict, description="value by the path of a rule")
    reason: Annotated[str, Field(min_length=3, max_length=400), AfterValidator(printable)]
    based_on: ShortText = Field(description="the version that was looked at when this was written")

    @field_validator("values")
    @classmethod
    def _check_printable(cls, values: dict[str, Any]) -> dict[str, Any]:
        _only_printable(values)
        return values


def _only_printable(value: object) -> None:
    """Raises ValueError for signs that no keyboard types, wherever they stand in a value."""
    if isinstance(value, str):
        printable(value)
    elif isinstance(value, dict):
        for name, part in value.items():
            _only_printable(name)
            _only_printable(part)
    elif isinstance(value, list):
        for part in value:
            _only_printable(part)


def view(desk: Desk) -> RulesView:
    """Everything the desk shows."""
    first = house_rules(SCHOOLS[0])
    return RulesView(
        version=desk.rules.version,
        name=rules_in_words(desk.rules.name),
        holds_from=desk.rules.holds_from,
        rules={path: RuleOnDesk.of(rule) for path, rule in desk.rules.parameters().items()},
        schools=[
            SchoolView(school=school, name=rules_in_words(house_rules(school).name), values=_differs(house_rules(school), first))
            for school in SCHOOLS
        ],
        versions=[
            VersionView(
                version=row.version, name=rules_in_words(row.body.get("name", "")), made_at=row.made_at,
                made_by=staff.name if staff else None, reason=from_record(row.reason),
            )
            for row, staff in people.rules_versions(desk.session, VERSIONS_AT_MOST)
        ],
        may_change=desk.is_lead,
    )  # fmt: skip


def change(desk: Desk, body: NewRules, now: datetime) -> None:
    """Make a new version from now on. Only a lead may. Raises Refused with the rule whose value cannot be."""
    desk.only_lead()
    if body.school is not None and body.school not in SCHOOLS:
        raise Refused(
            say("rules.no_such_preset"), [FieldProblem("school", say("rules.pick_one_of", schools=", ".join(SCHOOLS)))]
        )
    people.lock_rules(desk.session, desk.staff.store_id)
    own_or_refused(desk, "rules")
    desk.forget_rules()
    if desk.rules.version != body.based_on:
        raise Conflict(say("rules.the_rules_were_changed_meanwhile_to_look", version=desk.rules.version))
    base = house_rules(body.school) if body.school else desk.rules
    number = people.count_rules_versions(desk.session) + 1
    try:
        rules = changed_rules(base, body.values, HOUSE_CHOICE + body.reason, since=desk.today(now))
    except RulesRefused as error:
        problems = [FieldProblem(f"values.{name}", said) for name, said in error.faults.items()]
        raise Refused(say("rules.the_house_cannot_work_by_that"), problems) from error
    rules = rules.model_copy(
        update={
            "version": f"{desk.today(now):%Y}.{number}",
            "holds_from": desk.today(now),
            "name": base.name.removesuffix(OWN_VALUES) + OWN_VALUES if body.values else base.name,
        }
    )
    kept = RulesVersion(
        version=rules.version,
        made_at=now,
        made_by=desk.staff.id,
        reason=body.reason,
        body=rules.model_dump(mode="json"),
    )
    desk.session.add(kept)
    let_follow(desk, "rules")
    desk.forget_rules()
    announce(desk.session, desk.staff.store_id, "rules")


def _differs(school: HouseRules, first: HouseRules) -> dict[str, Any]:
    theirs = first.parameters()
    return {path: ours.value for path, ours in school.parameters().items() if ours.value != theirs[path].value}

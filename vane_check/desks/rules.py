"""The House rules desk: every value with its source; a lead makes a new version, and no old judgement changes."""

from datetime import datetime
from typing import Any

from pydantic import BaseModel, Field, ValidationError

from ..core.battery import Model
from ..core.check import FieldProblem
from ..core.rules import CHOICES, DECIDING, SCHOOLS, TOOLS, HouseRules, Parameter, house_rules
from ..records import people
from ..records.events import announce
from ..records.models import RulesVersion
from .desk import Desk, Refused

KNOWN_NAMES: dict[str, tuple[str, ...]] = {"tools_at_hand": TOOLS, "deciding_kinds": DECIDING}


class VersionView(BaseModel):
    """One version the house has had."""

    version: str
    name: str
    made_at: datetime
    made_by: str | None
    reason: str


class SchoolView(BaseModel):
    """A preset: its name, and the values in which it differs from the first."""

    school: str
    name: str
    values: dict[str, Any]


class RulesView(BaseModel):
    """The rules in force, the presets, and the versions before."""

    rules: HouseRules
    schools: list[SchoolView]
    versions: list[VersionView]
    may_change: bool
    known_names: dict[str, tuple[str, ...]]
    """What each list may hold."""


class NewRules(Model):
    """A new version: a preset, or the rules in force, with values of one's own and the reason for it."""

    school: str | None = Field(None, description="a preset to start from; the rules in force when empty")
    values: dict[str, Any] = Field(default_factory=dict, description="value by rule name")
    reason: str = Field(min_length=3, max_length=400)


def view(desk: Desk) -> RulesView:
    """Everything the desk shows."""
    first = house_rules(SCHOOLS[0])
    return RulesView(
        rules=desk.rules,
        schools=[
            SchoolView(school=school, name=house_rules(school).name, values=_differs(house_rules(school), first))
            for school in SCHOOLS
        ],
        versions=[
            VersionView(
                version=row.version, name=row.body.get("name", ""), made_at=row.made_at,
                made_by=staff.name if staff else None, reason=row.reason,
            )
            for row, staff in people.rules_versions(desk.session)
        ],
        may_change=desk.staff.role == "lead",
        known_names=KNOWN_NAMES,
    )  # fmt: skip


def change(desk: Desk, asked: NewRules, now: datetime) -> RulesView:
    """Make a new version from now on. Only a lead may. Raises Refused with the rule whose value cannot be."""
    desk.only_lead()
    if asked.school is not None and asked.school not in SCHOOLS:
        raise Refused("No such preset", [FieldProblem("school", f"Pick one of {', '.join(SCHOOLS)}")])
    base = house_rules(asked.school) if asked.school else desk.rules
    body = base.model_dump(mode="json")
    number = len(people.rules_versions(desk.session)) + 1
    for name, value in asked.values.items():
        if not isinstance(getattr(base, name, None), Parameter):
            raise Refused("No such rule", [FieldProblem(f"values.{name}", "There is no such rule")])
        body[name] = {**body[name], "value": value, "source": f"house choice: {asked.reason}", "standing": "practice"}
    body["version"] = f"{now:%Y}.{number}"
    body["holds_from"] = now.date().isoformat()
    if asked.values:
        body["name"] = f"{base.name.removesuffix(', own values')}, own values"
    try:
        rules = HouseRules.model_validate(body)
    except ValidationError as error:
        faults = [FieldProblem(f"values.{fault['loc'][0]}", f"{fault['msg']}") for fault in error.errors()]
        raise Refused("A value cannot be", faults) from error
    _refuse_nonsense(rules)
    kept = RulesVersion(
        version=rules.version,
        made_at=now,
        made_by=desk.staff.id,
        reason=asked.reason,
        body=rules.model_dump(mode="json"),
    )
    desk.session.add(kept)
    desk.session.flush()
    desk.__dict__.pop("rules_id", None)
    announce(desk.session, desk.staff.store_id, "rules")
    return view(desk)


def _differs(school: HouseRules, first: HouseRules) -> dict[str, Any]:
    found = {}
    for name in HouseRules.model_fields:
        ours, theirs = getattr(school, name), getattr(first, name)
        if isinstance(ours, Parameter) and ours.value != theirs.value:
            found[name] = ours.value
    return found


def _refuse_nonsense(rules: HouseRules) -> None:
    """Numbers below nothing, ratios and weights over one where they cannot be."""
    faults = []
    for name in HouseRules.model_fields:
        parameter = getattr(rules, name)
        said = _nonsense(name, parameter.value) if isinstance(parameter, Parameter) else None
        if said:
            faults.append(FieldProblem(f"values.{name}", said))
    if faults:
        raise Refused("A value cannot be", faults)


def _nonsense(name: str, value: object) -> str | None:
    """What is wrong with a value and what to enter instead; None when it can be."""
    if name in KNOWN_NAMES and isinstance(value, tuple):
        strange = not set(value) <= set(KNOWN_NAMES[name]) or (name == "deciding_kinds" and not value)
        return f"Pick from {', '.join(KNOWN_NAMES[name])}" if strange else None
    if name in CHOICES:
        return None if value in CHOICES[name] else f"Pick one of {', '.join(CHOICES[name])}"
    if isinstance(value, dict):
        names = house_rules().parameter(name).value.keys()
        if value.keys() != names:
            return f"Give a value for each of {', '.join(names)}, and no other"
        low = any(isinstance(part, float) and part < 0 for part in value.values())
        return "Enter numbers of 0 or more" if low else None
    if not isinstance(value, float):
        return None
    if value < 0 or (value == 0 and name.endswith("_ratio")):
        return "Enter a number above 0" if name.endswith("_ratio") else "Enter a number of 0 or more"
    if name.startswith("weight_") and value > 1:
        return "A weight lies between 0 and 1"
    if name == "replace_below_ratio" and not 0.4 <= value <= 0.95:
        return "Enter 0.40 to 0.95: houses use 0.70, 0.75 or 0.80"
    if name == "recharge_line_volts" and not 12.0 <= value <= 12.7:
        return "Enter 12.0 to 12.7 V: houses use 12.4, 12.5 or 12.6"
    return None

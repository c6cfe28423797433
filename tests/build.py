"""Builds checks for tests: one battery, readings minutes apart."""

from datetime import UTC, datetime, timedelta
from typing import Any

from vane_check.core.house.rules import HouseRules, changed_rules, house_rules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.readings import AnyReading
from vane_check.core.readings.check import ONE_READING, Check

START = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
DELIVERED = house_rules()
RULES = changed_rules(
    DELIVERED, {"decision.methods_to_condemn": 1, "rest.to_condemn": "as_said"}, "a house that lets one method condemn"
)
"""What one reading says by itself is tried by these; what the delivered rules make of it is asked with DELIVERED."""


def at(minutes: float) -> str:
    return (START + timedelta(minutes=minutes)).isoformat()


def reading(kind: str, minutes: float = 0, /, **body: Any) -> AnyReading:
    return ONE_READING.validate_python({"kind": kind, "taken_at": at(minutes), **body})


def volts(value: float, minutes: float = 0, **body: Any) -> AnyReading:
    return reading("rest_volts", minutes, volts=value, **body)


def tester(cca: float, minutes: float = 2, type_set: str = "flooded", **body: Any) -> AnyReading:
    return reading("electronic_tester", minutes, measured_cca_amps=cca, type_set=type_set, **body)


def look(*signs: str, minutes: float = 0, **body: Any) -> AnyReading:
    return reading("look", minutes, marks=[{"sign": sign} for sign in signs], **body)


def check(*readings: AnyReading, chemistry: str = "flooded", rated: float | None = 600, **more: Any) -> Check:
    """A check of a 12 V battery; `context` and any label field can be given by name."""
    context = more.pop("context", {})
    label = {"chemistry": chemistry, "rating": None if rated is None else {"amps": rated}, **more}
    return Check.model_validate({"battery": label, "context": context, "readings": list(readings)})


def judge(*readings: AnyReading, looked: bool = True, rules: HouseRules = RULES, **more: Any) -> Judgement:
    """The judgement. Somebody looked and found nothing, unless a look is given or `looked` says otherwise; that is left out."""
    if not looked or any(one.kind == "look" for one in readings):
        return assess(check(*readings, **more), rules)
    judged = assess(check(look(minutes=-30, id="looked"), *readings, **more), rules)
    return judged.model_copy(update={"findings": tuple(one for one in judged.findings if one.reading_id != "looked")})

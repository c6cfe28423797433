"""A finding with the source of its rule."""

from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome, Status
from ..house.rules import HouseRules
from ..readings import AnyReading
from ..tables import Sourced
from ..tables.base import COMMON_PRACTICE
from ..words import Words, cited

KIND_OF = {kind.value: kind for kind in Kind}


def finding(
    reading: AnyReading,
    rules: HouseRules,
    rule: str,
    *,
    points_to: Outcome | None,
    weight: str | None,
    status: Status = "counts",
    reading_text: Words,
    limit_text: Words,
    text: Words,
    why_not: Words | None = None,
    remedy: StepKey | None = None,
    places: tuple[int, ...] = (),
    figures: tuple[float, ...] = (),
    origin: Sourced | None = None,
) -> Finding:
    """A finding with the source of its rule filled in, or of the table it rests on (`origin`).

    `weight` names the rule that holds it; None is no weight.
    """
    source = origin or rules.parameter(rule)
    return Finding(
        kind=KIND_OF[reading.kind],
        reading_id=reading.id,
        status=status,
        points_to=points_to,
        weight=0.0 if weight is None else rules.parameter(weight).value,
        rule=rule,
        source=cited(source.source),
        standing=source.standing,
        reading_text=reading_text,
        limit_text=limit_text,
        text=text,
        why_not=why_not,
        remedy=remedy,
        places=places,
        figures=figures,
    )


def background(
    rules: HouseRules, kind: Kind, reading_text: Words, limit_text: Words, text: Words, rule: str | None = None
) -> Finding:
    """What is known beside any reading: it points nowhere and weighs nothing. `rule` names the house's it rests on, if any."""
    source = None if rule is None else rules.parameter(rule)
    return Finding(
        kind=kind, reading_id=None, status="doubtful", points_to=None, weight=0.0, reading_text=reading_text, limit_text=limit_text,
        text=text, rule=kind.value, source=cited(source.source if source else COMMON_PRACTICE), standing=source.standing if source else "practice",
    )  # fmt: skip

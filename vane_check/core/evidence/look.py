"""Look: a hazard seen, felt or smelled outranks every reading."""

from ..battery import Chemistry
from ..kinds import StepKey
from ..once import once
from ..outcomes import Finding, Outcome
from ..readings import HAZARDS, Corrosion, Eye, Level, Look
from . import Case, finding

SEALED = frozenset({Chemistry.AGM, Chemistry.GEL})


@once
def level_unsaid(case: Case) -> bool:
    """Whether its cells can be looked into and nobody has said how the acid stands in them."""
    return case.battery.has_caps is True and not marked_sealed(case) and not any(look.levels for look in case.looks)


@once
def looked_into(case: Case) -> bool:
    """Whether somebody saw the level of a cell: it has an opening, whatever its label says."""
    return any(look.levels for look in case.looks)


@once
def marked_sealed(case: Case) -> bool:
    """Whether its type or its label says that the cells cannot be opened."""
    return case.battery.chemistry in SEALED or case.battery.has_caps is False


@once
def sealed(case: Case) -> bool:
    """Whether the cells cannot be opened: so it is marked, and nobody looked into one."""
    return marked_sealed(case) and not looked_into(case)


def eye_cannot_be_helped(reading: Look, case: Case) -> bool:
    """Whether the eye is clear and no water can be added: sealed, or nobody knows of caps."""
    return reading.eye is Eye.CLEAR and not reading.levels and (sealed(case) or not case.battery.has_caps)


def find(reading: Look, case: Case) -> Finding:
    """Any hazard points to unsafe; a clear eye without caps to worn out; bare plates ask for water first.

    A clean case points nowhere and weighs nothing: it proves no health.
    """
    hazards = [mark.sign.value.replace("_", " ") for mark in reading.marks if mark.sign in HAZARDS]
    if hazards:
        seen = ", ".join(dict.fromkeys(hazards))
        return finding(
            reading, case.rules, "weight_hazard", points_to=Outcome.UNSAFE, weight="weight_hazard",
            reading_text=seen, limit_text="no hazard allowed", text=f"Battery is {seen}: do not test, charge or load it",
        )  # fmt: skip
    if eye_cannot_be_helped(reading, case):
        return finding(
            reading, case.rules, "weight_dry_sealed", points_to=Outcome.WORN_OUT, weight="weight_dry_sealed",
            reading_text="eye clear", limit_text="no caps: no water can be added",
            text="The eye is clear and no water can be added: low acid. Do not charge it",
        )  # fmt: skip
    noted = [mark.sign.value.replace("_", " ") for mark in reading.marks]
    if reading.corrosion is not Corrosion.NONE:
        noted.append(f"{reading.corrosion.value} corrosion")
    for level, words in LEVEL_WORDS.items():
        count = sum(one is level for one in reading.levels)
        if count:
            noted.append(f"{words} in {count} cell{'s' if count > 1 else ''}")
    if reading.eye is Eye.CLEAR:
        noted.append("eye clear: low acid, lift the caps")
    elif reading.eye is Eye.DARK:
        noted.append("eye dark: it shows the charge of one cell of six, so measure")
    bare = Level.PLATES_BARE in reading.levels or (reading.eye is Eye.CLEAR and not reading.levels)
    if bare and reading.levels and marked_sealed(case):
        noted.append("it is marked as sealed: look at its label again")
    remedy = (
        StepKey.TOP_UP
        if bare and not sealed(case)
        else StepKey.CLEAN_POSTS
        if reading.corrosion is Corrosion.HEAVY
        else None
    )
    said = ", ".join(noted)
    return finding(
        reading, case.rules, "weight_hazard", points_to=None, weight=None, remedy=remedy,
        reading_text=said or "nothing wrong seen", limit_text="no hazard allowed",
        text=f"{said[:1].upper()}{said[1:]}: noted, no hazard" if said else "No crack, leak, bulge, heat, smell or ice found",
    )  # fmt: skip


LEVEL_WORDS = {
    Level.PLATES_BARE: "plates bare",
    Level.LOW: "level low",
    Level.OVER: "level over the mark",
}

"""Look: a hazard seen, felt or smelled outranks every reading."""

from ..battery import Chemistry
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import HAZARDS, Corrosion, Eye, Level, Look
from . import Case, finding

SEALED = frozenset({Chemistry.AGM, Chemistry.GEL})


def sealed(case: Case) -> bool:
    """Whether the cells cannot be opened: the type says so, or somebody looked."""
    return case.battery.chemistry in SEALED or case.battery.has_caps is False


def find(reading: Look, case: Case) -> Finding:
    """Any hazard points to unsafe; a clear eye in a sealed case to worn out; bare plates ask for water first.

    A clean case points nowhere and weighs nothing: it proves no health.
    """
    hazards = [mark.sign.value.replace("_", " ") for mark in reading.marks if mark.sign in HAZARDS]
    if hazards:
        seen = ", ".join(dict.fromkeys(hazards))
        return finding(
            reading, case.rules, "weight_hazard", points_to=Outcome.UNSAFE, weight="weight_hazard",
            reading_text=seen, limit_text="no hazard allowed", text=f"Battery is {seen}: do not test, charge or load it",
        )  # fmt: skip
    if reading.eye is Eye.CLEAR and sealed(case):
        return finding(
            reading, case.rules, "weight_dry_sealed", points_to=Outcome.WORN_OUT, weight="weight_dry_sealed",
            reading_text="eye clear", limit_text="sealed: no water can be added",
            text="The eye is clear in a sealed battery: low acid. Do not charge it",
        )  # fmt: skip
    bare = sum(level is Level.PLATES_BARE for level in reading.levels)
    noted = [mark.sign.value.replace("_", " ") for mark in reading.marks]
    if reading.corrosion is not Corrosion.NONE:
        noted.append(f"{reading.corrosion.value} corrosion")
    if bare:
        noted.append(f"plates bare in {bare} cell{'s' if bare > 1 else ''}")
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

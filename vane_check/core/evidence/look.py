"""Look: a hazard seen, felt or smelled outranks every reading."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import HAZARDS, Corrosion, Eye, Level, Look
from .finding import finding
from .reads import reads


@reads(Look)
def find(reading: Look, case: Case) -> Finding:
    """Any hazard points to unsafe; a clear eye without caps to worn out; bare plates ask for water first.

    A clean case points nowhere and weighs nothing: it proves no health.
    """
    hazards = [mark.sign.value.replace("_", " ") for mark in reading.marks if mark.sign in HAZARDS]
    if hazards:
        seen = ", ".join(dict.fromkeys(hazards))
        return finding(
            reading, case.rules, "weight.hazard", points_to=Outcome.UNSAFE, weight="weight.hazard",
            reading_text=seen, limit_text="no hazard allowed", text=f"Battery is {seen}: do not test, charge or load it",
        )  # fmt: skip
    if case.eye_cannot_be_helped(reading):
        return finding(
            reading, case.rules, "weight.dry_sealed", points_to=Outcome.WORN_OUT, weight="weight.dry_sealed",
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
    if bare and reading.levels and case.marked_sealed:
        noted.append("it is marked as sealed: look at its label again")
    remedy = (
        StepKey.TOP_UP
        if bare and not case.sealed
        else StepKey.CLEAN_POSTS
        if reading.corrosion is Corrosion.HEAVY
        else None
    )
    said = ", ".join(noted)
    return finding(
        reading, case.rules, "weight.hazard", points_to=None, weight=None, remedy=remedy,
        reading_text=said or "nothing wrong seen", limit_text="no hazard allowed",
        text=f"{said[:1].upper()}{said[1:]}: noted, no hazard" if said else "No crack, leak, bulge, heat, smell or ice found",
    )  # fmt: skip


LEVEL_WORDS = {
    Level.PLATES_BARE: "plates bare",
    Level.LOW: "level low",
    Level.OVER: "level over the mark",
}

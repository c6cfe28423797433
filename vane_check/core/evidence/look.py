"""Look: a hazard seen, felt or smelled outranks every reading."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import HAZARDS, Corrosion, Eye, Level, Look
from ..words import capital, in_a_row, say, word
from .finding import finding
from .reads import reads


@reads(Look)
def find(reading: Look, case: Case) -> Finding:
    """Any hazard points to unsafe; a clear eye without caps to worn out; bare plates ask for water first.

    A clean case points nowhere and weighs nothing: it proves no health.
    """
    hazards = [word(mark.sign.value) for mark in reading.marks if mark.sign in HAZARDS]
    if hazards:
        seen = in_a_row(dict.fromkeys(hazards), ", ")
        return finding(
            reading, case.rules, "weight.hazard", points_to=Outcome.UNSAFE, weight="weight.hazard",
            reading_text=seen, limit_text=say('look.no_hazard_allowed'), text=say('look.battery_is_do_not_test_charge_or_load_it', seen=seen),
        )  # fmt: skip
    if case.eye_cannot_be_helped(reading):
        return finding(
            reading, case.rules, "weight.dry_sealed", points_to=Outcome.WORN_OUT, weight="weight.dry_sealed",
            reading_text=say('look.eye_clear'), limit_text=say('look.no_caps_no_water_can_be_added'),
            text=say('look.the_eye_is_clear_and_no_water_can_be_added'),
        )  # fmt: skip
    noted = [word(mark.sign.value) for mark in reading.marks]
    if reading.corrosion is not Corrosion.NONE:
        noted.append(say(f"look.corrosion_{reading.corrosion.value}"))
    for level, words in LEVEL_WORDS.items():
        count = sum(seen is level for seen in reading.levels)
        if count:
            noted.append(say("look.in_cells", words=words, count=count))
    if reading.eye is Eye.CLEAR:
        noted.append(say("look.eye_clear_low_acid_lift_the_caps"))
    elif reading.eye is Eye.DARK:
        noted.append(say("look.eye_dark_it_shows_the_charge_of_one_cell"))
    bare = Level.PLATES_BARE in reading.levels or (reading.eye is Eye.CLEAR and not reading.levels)
    if bare and reading.levels and case.marked_sealed:
        noted.append(say("look.it_is_marked_as_sealed_look_at_its_label"))
    remedy = (
        StepKey.TOP_UP
        if bare and not case.sealed
        else StepKey.CLEAN_POSTS
        if reading.corrosion is Corrosion.HEAVY
        else None
    )
    said = in_a_row(noted, ", ")
    return finding(
        reading, case.rules, "weight.hazard", points_to=None, weight=None, remedy=remedy,
        reading_text=said or say('look.nothing_wrong_seen'), limit_text=say('look.no_hazard_allowed'),
        text=say('look.noted_no_hazard', noted=capital(said)) if said else say('look.no_crack_leak_bulge_heat_smell_or_ice'),
    )  # fmt: skip


LEVEL_WORDS = {
    Level.PLATES_BARE: say("common.plates_bare"),
    Level.LOW: say("look.level_low"),
    Level.OVER: say("look.level_over_the_mark"),
}

"""The closed sets by name: kinds of finding and next steps. Each is declared once, with all that belongs to it."""

from enum import StrEnum


class Kind(StrEnum):
    """What a finding is made from: a kind of reading, or several readings together (`ice`, `sag`, `collapse`)."""

    LOOK = "look"
    CASE_LEAKAGE = "case_leakage"
    REST_VOLTS = "rest_volts"
    CELLS = "cells"
    ELECTRONIC_TESTER = "electronic_tester"
    ADJUSTABLE_LOAD = "adjustable_load"
    FIXED_LOAD = "fixed_load"
    CRANK = "crank"
    CHARGE_RUN = "charge_run"
    STAND = "stand"
    CAR = "car"
    WITHDRAWAL = "withdrawal"
    RESERVE = "reserve"
    ICE = "ice"
    SAG = "sag"
    COLLAPSE = "collapse"
    WAS_DRY = "was_dry"
    FRESH_FILLING = "fresh_filling"
    WRONG_TYPE = "wrong_type"
    STOP_START = "stop_start"
    TESTER_VOLTS = "tester_volts"
    FADE = "fade"


class StepKey(StrEnum):
    """A thing to do next: its words, why it is worth doing, what it needs, and the tool of the bench it is done with.

    Figures in the words are the house's: `{headlamp_minutes}`, `{load_wait_minutes}`, `{stand_hours}`, `{gate_pct}`,
    `{watch_minutes}` and `{load_words}` are filled from the rules.
    """

    text: str
    why: str
    needs: str
    tool: str | None
    wants_charge: bool

    def __new__(
        cls,
        key: str,
        text: str = "",
        why: str = "",
        needs: str = "",
        tool: str | None = None,
        wants_charge: bool = False,
    ) -> "StepKey":
        """A step with all that belongs to it."""
        member = str.__new__(cls, key)
        member._value_ = key
        member.text, member.why, member.needs = text, why, needs
        member.tool, member.wants_charge = tool, wants_charge
        return member

    LOOK = (
        "look",
        "Look it over first: case, posts, smell, warmth",
        "Nothing is clamped to a battery that nobody has looked at",
        "eyes, gloves, a light",
    )
    HOLD_APART = (
        "hold_apart",
        "Hold it apart, outside or in moving air",
        "No test or charge is worth a burst case",
        "gloves and eye protection, a strap or carrier",
    )
    MEASURE_VOLTS = (
        "measure_volts",
        "Read the volts at rest, on the lead posts",
        "It costs a minute, and no other figure can be trusted without the charge",
        "meter on the range next above the battery's volts, battery off charge and off load",
        "meter",
    )
    MEASURE_AGAIN = (
        "measure_again",
        "Clean the posts and read the volts again",
        "A reading like that is a probe or a slip before it is a battery",
        "meter on the range next above the battery's volts, clean lead",
        "meter",
    )
    SETTLE = (
        "settle",
        "Take the surface charge off: headlamps {headlamp_minutes} min, lights off, wait, read again",
        "Volts straight off a charge say nothing; this is quicker than standing overnight",
        "headlamps or a small load, and a short wait",
        "meter",
    )
    READ_LABEL = (
        "read_label",
        "Find the rated CCA on the label and enter it",
        "Without a rating no figure has anything to be held against",
        "the label, or the car's requirement",
    )
    TESTER = (
        "tester",
        "Put the electronic tester on the lead posts",
        "It is the quickest look at health that works on this charge",
        "tester set to this type and rating, clean lead posts",
        "tester",
    )
    TESTER_AGAIN = (
        "tester_again",
        "Test again with the settings as on the label, on the lead posts",
        "The figure there is cannot be used, and a right one is soon taken",
        "tester set to this type and scale, clean lead posts",
        "tester",
    )
    LOAD_TEST = (
        "load_test",
        "Pull {load_words} and read the volts at the end",
        "The tester cannot settle it; a resistive load is an independent method",
        "adjustable load, rested battery at {gate_pct} % charge or more, clean posts",
        "adjustable_load",
        True,
    )
    LOAD_AGAIN = (
        "load_again",
        "Wait {load_wait_minutes} min, check the charge, pull the load once more",
        "A second pull of the same size settles what the first left open",
        "adjustable load cooled down, battery still at {gate_pct} % charge",
        "adjustable_load",
        True,
    )
    CLEAN_POSTS = (
        "clean_posts",
        "Clean posts and clamps to bright metal, then test again",
        "Corrosion alone can make a tester read wrong",
        "brush, gloves and eye protection",
    )
    CLEAN_TOP = (
        "clean_top",
        "Clean and dry the top, then measure the case again",
        "A wet dirty top drains a good battery; this is quicker than another stand",
        "cleaner as the house uses, caps shut, keep it out of the cells",
    )
    TOP_UP = (
        "top_up",
        "Cover the plates with distilled water, then charge",
        "Bare plates must not be charged; fill to the mark only after the charge",
        "distilled or deionised water, never tap water, never acid",
    )
    CELLS = (
        "cells",
        "Read the gravity of every cell with its temperature",
        "This house decides by the cells; it shows the one that fails",
        "hydrometer, gloves and eye protection, caps that open",
        "hydrometer",
    )
    EQUALISE = (
        "equalise",
        "Give it an equalising charge, then read the cells again",
        "A weak cell or two may come back; nothing else would",
        "charger with that mode, ventilation, somebody watching",
        "charger",
    )
    STAND = (
        "stand",
        "Let it stand {stand_hours} h off everything, then read the volts",
        "Only time shows whether it holds its charge",
        "a full charge, {stand_hours} h or more off everything",
        "meter",
    )
    STOP_CHARGE = (
        "stop_charge",
        "Stop the charge now and take it off",
        "With a cell gone it is being overcharged",
        "charger off before the clamps are lifted, ventilation",
    )
    CHARGE_AND_RETEST = (
        "charge_and_retest",
        "Charge it fully, let it rest, then test again",
        "A flat battery reads like a bad one; only a charge tells them apart",
        "charger for this type; eyes and gloves, ventilation, never a frozen or hot battery",
        "charger",
    )
    REPLACE = (
        "replace",
        "See what the warranty gives and what replaces it",
        "It failed a valid test with charge enough to be judged",
        "receipt or date of sale, the car's requirement",
    )
    RETEST_LATER = (
        "retest_later",
        "Keep these figures as the baseline and test again at the date given",
        "A starting test does not condemn a standby or deep-cycle battery that keeps its charge",
        "its tag, a reminder",
    )
    GIVE_BACK = (
        "give_back",
        "Give it back into service with the slip",
        "Charged enough and healthy by a valid test",
        "clean posts, positive on first and negative last",
    )
    CHARGE_AND_WATCH = (
        "charge_and_watch",
        "Charge it, and look again within {watch_minutes} min: current, volts, cells",
        "A cell may be gone; flat it cannot be told, but the charge shows it soon",
        "charger for this type, eyes and gloves, ventilation, somebody who looks in",
        "charger",
    )
    WATCH_CHARGE = (
        "watch_charge",
        "Leave it on, look again in {watch_minutes} min: amps, volts, warm sides, cells",
        "A large battery may still be filling; volts that have not risen by then mark a shorted cell",
        "the charger as it stands, somebody who looks in",
        "charger",
    )
    CHECK_CHARGER = (
        "check_charger",
        "Check clamps and charger; bring a very flat one up beside a good one, watched",
        "Some chargers do not see a very flat battery; no current is not yet a verdict",
        "clean clamps, a good battery of the same volts in parallel for minutes, never unwatched",
        "charger",
    )
    RECOVERY_CHARGE = (
        "recovery_charge",
        "Give it one recovery charge, slow and watched, then test again",
        "It stood flat for long: sulphation may come off once, and that is cheaper than a new one",
        "charger with that mode, a type that allows it, ventilation, somebody watching",
        "charger",
    )
    MEASURE_AFTER_PULL = (
        "measure_after_pull",
        "Wait {load_wait_minutes} min, then read the volts: a second pull decides",
        "One failed pull is not enough here; the charge is looked at before the second",
        "meter, load cooled down",
        "meter",
    )
    RESERVE_TEST = (
        "reserve_test",
        "Discharge it from full at steady amps to the end volts, and note the minutes",
        "Starting amps say little about reserve; start-stop batteries lose it first",
        "a full charge and a rest, a steady load, somebody who stops it at the end volts",
        "discharger",
        True,
    )
    FIXED_TEST = (
        "fixed_test",
        "Pull the fixed load for {fixed_seconds} s, read the volts, then where they come back to",
        "This house decides by it, as far as it is large enough",
        "fixed load cooled down, rested battery at {gate_pct} % charge or more, clean posts",
        "fixed_load",
        True,
    )
    CRANK_TEST = (
        "crank_test",
        "Crank with the engine disabled and read the volts at the battery's posts",
        "The starter is the load this house has",
        "the car, engine disabled, meter on the lead posts",
        "car",
        True,
    )
    STOP_START_LIST = (
        "stop_start_list",
        "Go through what stop-start waits for, and tick it off",
        "The battery has charge enough; something else keeps the function off",
        "the car, its handbook, a code reader where there is one",
    )
    LOOK_AGAIN = (
        "look_again",
        "Look at the eye again, with a light, after a tap",
        "The eye says low acid, the battery passes: eyes stick, and see one cell of six",
        "eyes, gloves, a light",
    )
    DO_JOB = (
        "do_job",
        "Do the first open job",
        "It is sound once that is done",
        "what the job says",
    )

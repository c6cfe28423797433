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
    """A thing to do next, and the tool of the bench it is done with. Its words are messages: `step.KEY.text`, why it is worth
    doing (`.why`) and what it needs (`.needs`), with figures of the house."""

    tool: str | None
    wants_charge: bool

    def __new__(cls, key: str, tool: str | None = None, wants_charge: bool = False) -> "StepKey":
        """A step with all that belongs to it."""
        member = str.__new__(cls, key)
        member._value_ = key
        member.tool, member.wants_charge = tool, wants_charge
        return member

    LOOK = "look"
    HOLD_APART = "hold_apart"
    MEASURE_VOLTS = ("measure_volts", "meter")
    MEASURE_AGAIN = ("measure_again", "meter")
    SETTLE = ("settle", "meter")
    REST_BY_HOURS = ("rest_by_hours", "meter")
    READ_LABEL = "read_label"
    TESTER = ("tester", "tester")
    TESTER_AGAIN = ("tester_again", "tester")
    LOAD_TEST = ("load_test", "adjustable_load", True)
    LOAD_AGAIN = ("load_again", "adjustable_load", True)
    CLEAN_POSTS = "clean_posts"
    CLEAN_TOP = "clean_top"
    TOP_UP = "top_up"
    CELLS = ("cells", "hydrometer")
    EQUALISE = ("equalise", "charger")
    STAND = ("stand", "meter")
    STOP_CHARGE = "stop_charge"
    CHARGE_AND_RETEST = ("charge_and_retest", "charger")
    REPLACE = "replace"
    RETEST_LATER = "retest_later"
    GIVE_BACK = "give_back"
    SOLD = "sold"
    CHARGE_AND_WATCH = ("charge_and_watch", "charger")
    WATCH_CHARGE = ("watch_charge", "charger")
    CHECK_CHARGER = ("check_charger", "charger")
    RECOVERY_CHARGE = ("recovery_charge", "charger")
    MEASURE_AFTER_PULL = ("measure_after_pull", "meter")
    RESERVE_TEST = ("reserve_test", "discharger", True)
    FIXED_TEST = ("fixed_test", "fixed_load", True)
    CRANK_TEST = ("crank_test", "car", True)
    STOP_START_LIST = "stop_start_list"
    LOOK_AGAIN = "look_again"
    DO_JOB = "do_job"

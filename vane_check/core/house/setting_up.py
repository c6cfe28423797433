"""A shop of its own: which school of house rules suits it, by five plain questions, and what is still missing for its work."""

from enum import StrEnum
from typing import NamedTuple

from pydantic import Field

from ..units.model import Model
from ..words import Words, say


class Believes(StrEnum):
    """What decides at the bench where two readings disagree."""

    TESTER = "tester"
    LOAD = "load"
    CELLS = "cells"
    CRANK = "crank"


class Answers(Model):
    """Five answers of somebody who knows the bench and not the program."""

    has_tester: bool = Field(True, description="an electronic tester that is set to the rating")
    has_adjustable_load: bool = Field(False, description="a load whose amps are set by the rating")
    has_fixed_load: bool = Field(False, description="a load that always pulls the same")
    has_hydrometer: bool = Field(False, description="a hydrometer, and batteries that still open at the top")
    believes: Believes = Field(Believes.TESTER, description="what decides where two readings disagree")


class School(NamedTuple):
    """The rules to begin with, the tools they reckon with, and why in one sentence."""

    school: str
    tools: tuple[str, ...]
    why: Words


QUESTIONS: dict[str, Words] = {
    "has_tester": say("setting_up.have_you_an_electronic_tester_that_is_set"),
    "has_adjustable_load": say("setting_up.have_you_a_load_tester_whose_amps_you_set"),
    "has_fixed_load": say("setting_up.have_you_a_load_tester_that_always_pulls"),
    "has_hydrometer": say("setting_up.have_you_a_hydrometer_and_batteries_that"),
    "believes": say("setting_up.when_two_readings_disagree_what_decides"),
}
BELIEVES: dict[Believes, Words] = {
    Believes.TESTER: say("setting_up.the_tester"),
    Believes.LOAD: say("setting_up.the_volts_under_load"),
    Believes.CELLS: say("setting_up.the_acid_cell_by_cell"),
    Believes.CRANK: say("setting_up.how_the_car_cranks"),
}
_ALWAYS = ("meter", "charger", "car")
"""What no bench is without."""


def school_for(answers: Answers) -> School:
    """The school of house rules that suits a bench: what it believes, where it has the tool for it; else what it has."""
    has = {
        "tester": answers.has_tester,
        "adjustable_load": answers.has_adjustable_load,
        "fixed_load": answers.has_fixed_load,
        "hydrometer": answers.has_hydrometer,
    }
    tools = (*_ALWAYS, *(tool for tool, there in has.items() if there))
    wanted = {
        Believes.TESTER: ("electronic_first", "tester", say("setting_up.the_tester_decides_the_load_confirms")),
        Believes.LOAD: ("load_first", "adjustable_load", say("setting_up.the_volts_under_load_decide")),
        Believes.CELLS: ("cell_first", "hydrometer", say("setting_up.the_acid_of_each_cell_decides")),
    }
    if answers.believes is Believes.CRANK:
        return School("crank_first", tools, say("setting_up.how_the_car_cranks_decides_with_a_meter"))
    school, tool, why = wanted[answers.believes]
    if has[tool]:
        return School(school, tools, why)
    if answers.believes is Believes.LOAD and has["fixed_load"]:
        return School("fixed_first", tools, say("setting_up.the_volts_under_the_one_load_you_have"))
    for school, tool, why in (
        ("electronic_first", "tester", say('setting_up.you_have_a_tester_and_not_what_you_would')),
        ("load_first", "adjustable_load", say('setting_up.you_have_a_load_that_is_set_by_the_rating')),
        ("fixed_first", "fixed_load", say('setting_up.you_have_one_fixed_load_and_not_what_you')),
        ("cell_first", "hydrometer", say('setting_up.you_have_a_hydrometer_and_not_what_you')),
    ):  # fmt: skip
        if has[tool]:
            return School(school, tools, why)
    return School("crank_first", tools, say("setting_up.with_a_meter_alone_how_the_car_cranks_decides"))


class Counts(Model):
    """How many of what a shop's work hangs on it has written in."""

    items: int
    pieces: int
    priced: int
    terms: int
    lines_without_terms: int
    vehicles: int
    suppliers: int
    chargers: int
    testers: int
    people: int
    leads: int


class Missing(Model):
    """One thing that is not there yet, what cannot be done without it, and the desk where it is written in."""

    what: Words
    without_it: Words
    where: str


def missing(counts: Counts) -> list[Missing]:
    """What the next piece of work would miss, in the order in which a shop meets it."""
    result = [
        (not counts.chargers, say('setting_up.no_charger_stands_in_the_book'), say('setting_up.nothing_can_be_put_on_charge_or_planned'), "/equipment"),
        (not counts.testers, say('setting_up.no_tester_or_load_stands_in_the_book'), say('setting_up.the_bench_steps_go_by_the_house_rules'), "/equipment"),
        (not counts.items, say('setting_up.the_catalogue_is_empty'), say('setting_up.no_replacement_can_be_matched_or_sold'), "/goods/lists"),
        (counts.items > 0 and not counts.priced, say('setting_up.no_item_has_a_price'), say('setting_up.nothing_can_be_sold'), "/goods/lists"),
        (counts.items > 0 and not counts.pieces, say('setting_up.nothing_is_in_stock'), say('setting_up.every_match_is_ordered_first'), "/goods"),
        (not counts.vehicles, say('setting_up.the_vehicle_list_is_empty'), say('setting_up.a_cars_battery_is_found_by_its_label_or_by'), "/goods/lists"),
        (not counts.terms, say('setting_up.no_warranty_terms'), say('setting_up.no_claim_can_be_decided'), "/house?terms"),
        (counts.terms > 0 and counts.lines_without_terms > 0, say('setting_up.lines_have_no_warranty_terms', count=counts.lines_without_terms), say('setting_up.claims_of_those_lines_stay_open'), "/house?terms"),
        (not counts.suppliers, say('setting_up.no_supplier'), say('setting_up.nobody_can_say_when_an_order_comes'), "/goods"),
        (counts.leads == 1, say('setting_up.one_person_alone_may_lead'), say('setting_up.nobody_else_can_change_rules_prices_or'), "/house"),
    ]  # fmt: skip
    return [Missing(what=what, without_it=without, where=where) for holds, what, without, where in result if holds]

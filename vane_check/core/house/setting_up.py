"""A shop of its own: which school of house rules suits it, by five plain questions, and what is still missing for its work."""

from enum import StrEnum
from typing import NamedTuple

from pydantic import Field

from ..units.model import Model


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
    why: str


QUESTIONS: dict[str, str] = {
    "has_tester": "Have you an electronic tester that is set to the rating?",
    "has_adjustable_load": "Have you a load tester whose amps you set by the rating?",
    "has_fixed_load": "Have you a load tester that always pulls the same?",
    "has_hydrometer": "Have you a hydrometer, and batteries that still open at the top?",
    "believes": "When two readings disagree, what decides?",
}
BELIEVES: dict[Believes, str] = {
    Believes.TESTER: "the tester",
    Believes.LOAD: "the volts under load",
    Believes.CELLS: "the acid, cell by cell",
    Believes.CRANK: "how the car cranks",
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
        Believes.TESTER: ("electronic_first", "tester", "the tester decides, the load confirms"),
        Believes.LOAD: ("load_first", "adjustable_load", "the volts under load decide"),
        Believes.CELLS: ("cell_first", "hydrometer", "the acid of each cell decides"),
    }
    if answers.believes is Believes.CRANK:
        return School("crank_first", tools, "how the car cranks decides, with a meter across the posts")
    school, tool, why = wanted[answers.believes]
    if has[tool]:
        return School(school, tools, why)
    if answers.believes is Believes.LOAD and has["fixed_load"]:
        return School("fixed_first", tools, "the volts under the one load you have decide")
    for school, tool, why in (
        ("electronic_first", "tester", "you have a tester, and not what you would rather go by"),
        ("load_first", "adjustable_load", "you have a load that is set by the rating, and not what you would rather go by"),
        ("fixed_first", "fixed_load", "you have one fixed load, and not what you would rather go by"),
        ("cell_first", "hydrometer", "you have a hydrometer, and not what you would rather go by"),
    ):  # fmt: skip
        if has[tool]:
            return School(school, tools, why)
    return School("crank_first", tools, "with a meter alone, how the car cranks decides")


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

    what: str
    without_it: str
    where: str


def missing(counts: Counts) -> list[Missing]:
    """What the next piece of work would miss, in the order in which a shop meets it."""
    result = [
        (not counts.chargers, "No charger stands in the book", "nothing can be put on charge or planned", "/equipment"),
        (not counts.testers, "No tester or load stands in the book", "the bench steps go by the house rules alone", "/equipment"),
        (not counts.items, "The catalogue is empty", "no replacement can be matched or sold", "/goods/lists"),
        (counts.items > 0 and not counts.priced, "No item has a price", "nothing can be sold", "/goods/lists"),
        (counts.items > 0 and not counts.pieces, "Nothing is in stock", "every match is ordered first", "/goods"),
        (not counts.vehicles, "The vehicle list is empty", "a car's battery is found by its label or by tape alone", "/goods/lists"),
        (not counts.terms, "No warranty terms", "no claim can be decided", "/house?terms"),
        (counts.terms > 0 and counts.lines_without_terms > 0, f"{counts.lines_without_terms} lines have no warranty terms", "claims of those lines stay open", "/house?terms"),
        (not counts.suppliers, "No supplier", "nobody can say when an order comes", "/goods"),
        (counts.leads == 1, "One person alone may lead", "nobody else can change rules, prices or people, or lift a wait", "/house"),
    ]  # fmt: skip
    return [Missing(what=what, without_it=without, where=where) for holds, what, without, where in result if holds]

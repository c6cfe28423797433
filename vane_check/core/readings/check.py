"""The check file: one battery with everything read from it, as an open JSON format (docs/formats/check.md)."""

from collections.abc import Callable, Sequence
from operator import attrgetter
from typing import Literal

from pydantic import Field, TypeAdapter, ValidationError

from ..battery.label import Battery, Context
from ..tables import entry_limits
from ..units.compare import AMPS, VOLTS, over, under
from ..units.model import Model, ShortText
from ..words import Words, capital, digits, fixed, in_a_row, say, word
from . import (
    READING_MODELS,
    AdjustableLoad,
    AnyReading,
    CaseLeakage,
    Cells,
    ChargeRun,
    Crank,
    ElectronicTester,
    FixedLoad,
    RestVolts,
    Sign,
    Withdrawal,
)
from .base import OwnVolts, Reading
from .bounds import marked
from .faults import FAULTS_AT_MOST, CheckRefused, FieldProblem, field_problems

ONE_READING: TypeAdapter[AnyReading] = TypeAdapter(AnyReading)


class Check(Model):
    """One battery, how it came in, and its readings in any order."""

    format: Literal["vane-check/1"] = "vane-check/1"
    battery: Battery = Battery()
    context: Context = Context()
    at_hand: tuple[ShortText, ...] | None = Field(
        None, max_length=20, description="what this shop can reach by its book of equipment; None: as its rules say"
    )
    readings: tuple[AnyReading, ...] = ()


def standing_of(readings: Sequence[AnyReading]) -> list[AnyReading]:
    """The readings that stand: no correction replaces them and none was taken back.

    A correction that was taken back replaces nothing any more, so the entry before it stands again.
    """
    entries = [reading for reading in readings if reading.replaces]
    if not entries:
        return [reading for reading in readings if not isinstance(reading, Withdrawal)]
    in_force = _in_force(entries)
    replaced = {entry.replaces for entry in entries if in_force(entry)}
    return [
        reading
        for reading in readings
        if not isinstance(reading, Withdrawal) and in_force(reading) and (reading.id or "") not in replaced
    ]


def _in_force(entries: Sequence[AnyReading]) -> Callable[[AnyReading], bool]:
    """Tells of an entry whether no withdrawal that is itself in force takes it back."""
    taken_back_by: dict[str, list[AnyReading]] = {}
    for reading in entries:
        if isinstance(reading, Withdrawal):
            taken_back_by.setdefault(reading.replaces, []).append(reading)
    known: dict[str, bool] = {}

    def in_force(entry: AnyReading) -> bool:
        # from the entry along the withdrawals that take one another back, then decided from the last one backwards
        chain, at = [], entry.id
        while at is not None and at in taken_back_by and at not in known and at not in chain:
            chain.append(at)
            at = taken_back_by[at][0].id
        for name in reversed(chain):
            known[name] = not any(known.get(reading.id or "", True) for reading in taken_back_by[name])
        return known.get(entry.id or "", True)

    return in_force


def volts_problem(volts: float, nominal_volts: int) -> Words | None:
    """Why a voltage cannot belong to a battery of this nominal voltage, with what to do; None when it can."""
    highest = entry_limits()["volts_per_nominal_volt"].high * nominal_volts
    if volts <= highest:
        return None
    return say(
        "check.v_cannot_be_read_on_a_v_battery_at_most_v",
        volts=digits(volts),
        nominal_volts=nominal_volts,
        highest=digits(highest),
    )


def impossible_values(check: Check) -> list[FieldProblem]:
    """Values that are each allowed but cannot be together."""
    problems = []
    standing = standing_of(check.readings)
    rests = [reading for reading in standing if isinstance(reading, RestVolts)]
    counts = {id(reading) for reading in standing}
    hazards = {reading.id: result for reading in check.readings if (result := reading.hazards()) and reading.id}
    for index, reading in enumerate(check.readings):
        back = hazards.get(reading.replaces or "", frozenset()) - reading.hazards()
        if back and not reading.reason:
            problems.append(
                FieldProblem(
                    f"readings[{index}].reason",
                    say("check.was_marked_say_why_that_is_taken_back_such", signs=capital(signs_in_words(back))),
                )
            )
        if id(reading) in counts and isinstance(reading, AdjustableLoad | FixedLoad | Crank):
            said = None if reading.volts is None else _lifted(reading, rests) or _unloaded(reading, rests, check)
            problems += [FieldProblem(f"readings[{index}].volts", said)] if said else []
        if id(reading) in counts and isinstance(reading, ChargeRun) and (said := _too_quick(reading, rests)):
            problems.append(FieldProblem(f"readings[{index}].hours", said))
        if empty := reading.nothing_read():
            problems.append(FieldProblem(f"readings[{index}].{empty[0]}", empty[1]))
        for field in VOLTS_FIELDS[type(reading)]:
            volts = getattr(reading, field)
            if volts is not None:
                problem = volts_problem(volts, check.battery.nominal_volts)
                if problem:
                    problems.append(FieldProblem(f"readings[{index}].{field}", problem))
        if isinstance(reading, CaseLeakage) and (said := _leaks_more_than_it_has(reading, rests, check)):
            problems.append(FieldProblem(f"readings[{index}].volts", said))
        if isinstance(reading, ElectronicTester) and (said := _of_another_unit(reading, check)):
            problems.append(FieldProblem(f"readings[{index}].resistance_mohm", said))
        problems += [FieldProblem(f"readings[{index}].{name}", said) for name, said in _cell_problems(reading, check)]
    return problems


def _of_another_unit(tested: ElectronicTester, check: Check) -> Words | None:
    """Why milliohms cannot be right: beside the amps they were shown with they are minutes, or ohms. Source: tables/entry-limits.csv."""
    amps, mohm = tested.measured_cca_amps, tested.resistance_mohm
    if not amps or mohm is None:
        return None
    limit, scale = entry_limits()["mohm_times_cca"], check.battery.nominal_volts / 12
    if not over(amps * mohm, limit.high * scale, AMPS) and not under(amps * mohm, limit.low * scale, AMPS):
        return None
    return say(
        "check.m_beside_a_enter_what_the_tester_shows_in",
        mohm=digits(mohm),
        amps=fixed(amps, 0),
        low=digits(round(limit.low * scale / amps, 1)),
        high=digits(round(limit.high * scale / amps, 1)),
    )


def signs_in_words(signs: frozenset[Sign]) -> Words:
    """Signs in words, by their names."""
    return in_a_row((word(name) for name in sorted(sign.value for sign in signs)), ", ")


def _leaks_more_than_it_has(top: CaseLeakage, rests: Sequence[RestVolts], check: Check) -> Words | None:
    """Why volts on the case cannot be right: they are more than the battery itself has."""
    before = [rest for rest in rests if rest.taken_at <= top.taken_at]
    limits = entry_limits()
    highest = (
        max(before, key=attrgetter("taken_at")).volts + limits["load_over_rest_volts"].high
        if before
        else limits["volts_per_nominal_volt"].high * check.battery.nominal_volts
    )
    if not over(top.worst_volts, highest, VOLTS):
        return None
    return say(
        "check.v_on_the_case_are_more_than_the_battery_has", volts=fixed(top.worst_volts, 2), highest=fixed(highest, 2)
    )


def _lifted(pull: AdjustableLoad | FixedLoad | Crank, rests: Sequence[RestVolts]) -> Words | None:
    """Why volts under load cannot be right: they stand above the rest volts last read before them."""
    before = [rest for rest in rests if rest.taken_at <= pull.taken_at]
    if not before:
        return None
    rest = max(before, key=attrgetter("taken_at"))
    assert pull.volts is not None
    if not over(pull.volts, rest.volts + entry_limits()["load_over_rest_volts"].high, VOLTS):
        return None
    return say(
        "check.v_under_load_is_more_than_the_v_it_rested", volts=fixed(pull.volts, 2), rest_volts=fixed(rest.volts, 2)
    )


def _unloaded(pull: AdjustableLoad | FixedLoad | Crank, rests: Sequence[RestVolts], check: Check) -> Words | None:
    """Why volts under load cannot be right: they sag less than a battery many times as strong would."""
    before = [rest for rest in rests if rest.taken_at <= pull.taken_at]
    rating = check.battery.rating
    if isinstance(pull, Crank) or not before or rating is None:
        return None
    rest = max(before, key=attrgetter("taken_at"))
    assert pull.volts is not None
    limits = entry_limits()
    strongest = rating.cca_amps * limits["cca_over_rated"].high
    least_sag = limits["sag_volts_at_rating"].low * check.battery.nominal_volts / 12 * pull.amps / strongest
    if under(rest.volts - pull.volts, least_sag, VOLTS):
        return say(
            "check.v_under_a_is_hardly_less_than_the_v_it",
            volts=fixed(pull.volts, 2),
            amps=fixed(pull.amps, 0),
            rest_volts=fixed(rest.volts, 2),
        )
    return None


def _too_quick(run: ChargeRun, rests: Sequence[RestVolts]) -> Words | None:
    """Why a charge that is said to be full cannot be: no time went by since volts that were low."""
    before = [rest for rest in rests if rest.taken_at <= run.taken_at]
    if not run.finished or run.hours > entry_limits()["full_after_hours"].low or not before:
        return None
    rest = max(before, key=attrgetter("taken_at"))
    return say("check.full_after_h_from_v_enter_the_hours_it_was", hours=digits(run.hours), volts=fixed(rest.volts, 2))


VOLTS_FIELDS: dict[type[Reading], tuple[str, ...]] = {
    model: tuple(name for name, field in model.model_fields.items() if marked(field, OwnVolts))
    for model in READING_MODELS
}
"""Which fields of each kind are volts of the battery itself."""


def _cell_problems(reading: AnyReading, check: Check) -> list[tuple[str, Words]]:
    """A row of cells has as many places as the battery has cells."""
    cells = check.battery.nominal_volts // 2
    rows = reading.rows_of_cells()
    if isinstance(reading, Cells) and not any(rows.values()):
        return [("specific_gravities", say("check.enter_the_gravity_of_all_cells_or_their", cells=cells))]
    return [
        (
            name,
            say(
                "check.a_v_battery_has_cells_enter_all_were_given",
                nominal_volts=check.battery.nominal_volts,
                cells=cells,
                count=count,
            ),
        )
        for name, count in rows.items()
        if count not in {0, cells}
    ]


class CheckFile(Check):
    """The same as a file; the format's name must stand in it."""

    format: Literal["vane-check/1"] = Field(description="name and version of this format")
    readings: tuple[AnyReading, ...] = Field((), max_length=int(entry_limits()["check_readings"].high))


def parse_check(text: str | bytes) -> CheckFile:
    """Read a check file. Raises CheckRefused with the path of every field that is wrong."""
    try:
        check = CheckFile.model_validate_json(text)
    except ValidationError as error:
        faults = error.errors(include_url=False, include_input=False)
        raise CheckRefused(field_problems(faults[:FAULTS_AT_MOST])) from error
    if problems := impossible_values(check):
        raise CheckRefused(problems)
    return check

"""What the figures mean to its owner: its age, down to what cold it starts the car, what it died of."""

from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import NamedTuple

from ..battery.label import RESERVE_USES, Complaint, RatingSource
from ..evidence.car import idle_alone_is_doubtful
from ..facts.case import Case
from ..findings.outcomes import FAILED, Outcome
from ..readings import Car, Sign
from ..tables import causes, practice_cold_shares
from ..units.compare import AMPS, VOLTS, at_least, over, under
from ..units.lines import on_line
from ..units.months import whole_months_between
from ..words import NOTHING, Words, digits, fixed, in_a_row, say, word
from .estimate import estimate_of
from .jobs import was_wet

RATED_AT_C = -18.0
"""CCA is rated at -18 C. Source: SAE J537."""
MONTHS_PER_YEAR = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Age:
    """How old it is by its date, whole years and months, against what is usual for its use."""

    years: int
    months: int
    counted_from: Words
    words: Words
    past_usual: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Prospect:
    """Down to which cold it starts what asks so much of it, in words for its owner."""

    present_cca_amps: float
    asked_cca_amps: float
    asked_by: Words
    starts_down_to_c: float | None
    words: Words
    lighter_duty: Words | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """What it died of, as far as the evidence says, and what to change."""

    key: str
    words: Words
    change: Words


def age_of(case: Case, today: date | None) -> Age | None:
    """Years and months since it was made, else since it was sold; None where neither is known, or no day to count to."""
    start, what = (case.battery.made_on, word("made")) if case.battery.made_on else (case.context.sold_on, word("sold"))
    if start is None or today is None or start > today:
        return None
    months = whole_months_between(start, today)
    usual = case.rules.outlook.usual_life_years.value[case.context.use.value]
    past = months >= usual * MONTHS_PER_YEAR
    years, rest = divmod(months, MONTHS_PER_YEAR)
    span = _span(years, rest)
    use = word(case.context.use.value)
    return Age(
        years=years, months=rest, counted_from=what, past_usual=past,
        words=say('outlook.since_it_was_about_years_are_usual_in_use', span=span, what=what, usual=digits(usual), use=use),
    )  # fmt: skip


def _span(years: int, months: int) -> Words:
    parts = [say(f"outlook.{of}", count=count) for count, of in ((years, "years"), (months, "months")) if count]
    return in_a_row(parts, " ") if parts else say("outlook.less_than_a_month")


class Asked(NamedTuple):
    """What is asked of it [CCA], and by whom."""

    amps: float
    by: Words


_RATED_BY = {
    RatingSource.LABEL: say("outlook.its_label"),
    RatingSource.VEHICLE: say("outlook.its_car"),
    RatingSource.CATALOGUE: say("outlook.its_line_in_the_catalogue"),
    RatingSource.ASSUMED: say("outlook.a_figure_that_is_assumed"),
}
"""Whose word the rating on a battery is."""


def asked_of(case: Case) -> Asked | None:
    """The car's own figure first, then the label's, then the engine's by the house's rule of thumb."""
    context, litres = case.context, case.context.engine_litres
    if context.car_cca_amps is not None:
        return Asked(context.car_cca_amps, say("outlook.its_car"))
    if case.battery.rating is not None:
        return Asked(case.battery.rating.cca_amps, _RATED_BY[case.battery.rating_source])
    if litres is None:
        return None
    return Asked(
        litres * case.rules.match.need_cca_per_litre.value[context.engine_fuel],
        say("outlook.a_litre_engine", litres=digits(litres), engine_fuel=word(context.engine_fuel)),
    )


def starts_down_to_c(present_cca_amps: float, asked_cca_amps: float) -> float | None:
    """The lowest whole degree [C] at which it still gives what is asked; None when not even at 27 C.

    A battery gives less in the cold and the engine asks more: tables/practice-cold-shares.csv. Equal figures meet at -18 C.

    >>> starts_down_to_c(600, 600), starts_down_to_c(360, 600)
    (-18, -6)
    """
    return _meeting(round(present_cca_amps), round(asked_cca_amps))


def coldest_c() -> int:
    """The lowest temperature the table of the cold goes to [C]."""
    return int(practice_cold_shares()["battery_share"].at[0])


@lru_cache(maxsize=4096)
def _meeting(present_cca_amps: int, asked_cca_amps: int) -> float | None:
    gives, asks = practice_cold_shares()["battery_share"], practice_cold_shares()["engine_share"]

    def spare(temperature_c: float) -> float:
        given = on_line(temperature_c, gives.at, gives.values) / on_line(RATED_AT_C, gives.at, gives.values)
        needed = on_line(temperature_c, asks.at, asks.values) / on_line(RATED_AT_C, asks.at, asks.values)
        return present_cca_amps * given - asked_cca_amps * needed

    coldest, warmest = coldest_c(), int(gives.at[-1])
    return next((warmth for warmth in range(coldest, warmest + 1) if spare(warmth) >= -1e-9), None)


def prospect_of(case: Case, outcome: Outcome) -> Prospect | None:
    """Down to what cold it starts its car; nothing where that is not its work or a cell is gone."""
    needed, estimate = asked_of(case), estimate_of(case)
    present = None if estimate is None or estimate.conflict else float(estimate.cca_amps)
    if (
        case.context.use in RESERVE_USES
        or needed is None
        or present is None
        or outcome in {Outcome.UNSAFE, Outcome.DEAD_CELL, Outcome.NEEDS_CHARGE}
    ):
        return None
    down_to = starts_down_to_c(present, needed.amps)
    car_known = case.context.car_cca_amps is not None or case.context.engine_litres is not None
    if down_to is None:
        words = say(
            "outlook.with_cca_where_asks_it_starts_it_only_with",
            present=fixed(present, 0),
            by=needed.by,
            amps=fixed(needed.amps, 0),
        )
    elif down_to <= coldest_c():
        words = (
            say(
                "outlook.starts_this_car_in_any_cold_usual_here_cca",
                present=fixed(present, 0),
                by=needed.by,
                amps=fixed(needed.amps, 0),
            )
            if car_known
            else say(
                "outlook.starts_what_it_was_made_for_in_any_cold",
                present=fixed(present, 0),
                by=needed.by,
                amps=fixed(needed.amps, 0),
            )
        )
    else:
        words = (
            say(
                "outlook.starts_this_car_down_to_about_c_cca_where",
                down_to=fixed(down_to, 0),
                present=fixed(present, 0),
                by=needed.by,
                amps=fixed(needed.amps, 0),
            )
            if car_known
            else say(
                "outlook.starts_what_it_was_made_for_down_to_about",
                down_to=fixed(down_to, 0),
                present=fixed(present, 0),
                by=needed.by,
                amps=fixed(needed.amps, 0),
            )
        )
    if estimate is not None and estimate.methods == (word("pull"),):
        words += say("outlook.roughly_by_the_pull")
    return Prospect(
        present_cca_amps=round(present), asked_cca_amps=round(needed.amps), asked_by=needed.by, starts_down_to_c=down_to, words=words,
        lighter_duty=_lighter_duty(present, case, outcome),
    )  # fmt: skip


def _lighter_duty(present: float, case: Case, outcome: Outcome) -> Words | None:
    rated = case.rated
    if outcome is not Outcome.WORN_OUT or rated is None:
        return None
    if not at_least(present, rated.amps * case.rules.outlook.lighter_duty_ratio.value, AMPS):
        return None
    # no larger an engine than it was sold for, however well it reads
    litres = (
        min(present, rated.amps * case.rules.tester.replace_below_ratio.value)
        / case.rules.match.need_cca_per_litre.value["petrol"]
    )
    return say("outlook.fit_for_lighter_duty_it_still_starts_a", litres=fixed(litres, 1))


OF_A_CELL = frozenset({"overcharged", "dried_out", "vibration", "hard_use", "age"})
"""What kills one cell; a drain or a want of charge takes all of them alike."""


def cause_of(case: Case, outcome: Outcome, age: Age | None) -> Cause | None:
    """What it died of in plain words, the surest of what the evidence says; None while it is not condemned."""
    if outcome not in FAILED:
        return None
    table = causes()
    keys = [key for key in table if outcome is not Outcome.DEAD_CELL or key in OF_A_CELL]
    spoken = _speaking(case, age)
    key = next((key for key in keys if spoken[key]), None)
    return None if key is None else Cause(key=key, words=table[key].words, change=table[key].change or NOTHING)


def _speaking(case: Case, age: Age | None) -> dict[str, bool]:
    """Which causes the evidence speaks for."""
    rules, context = case.rules, case.context
    car = case.last_of(Car)
    signs = {mark.sign for look in case.looks for mark in look.marks}
    low = any(under(volts.volts, case.recharge_line_volts, VOLTS) for volts in case.valid_rest_volts)
    running = [volts for volts in (car.idle_volts, car.loaded_volts) if volts is not None] if car else []
    scale = case.battery.nominal_volts / 12
    return {
        "overcharged": any(over(volts, rules.car.running_high_volts.value * scale, VOLTS) for volts in running),
        "dried_out": case.was_dry or any(case.eye_cannot_be_helped(look) for look in case.looks),
        "drained": car is not None
        and car.modules_asleep
        and car.drain_ma is not None
        and car.drain_ma > rules.car.drain_ma.value,
        "over_the_top": was_wet(case) and low,
        "wrong_type": case.type_the_car_asks_for is not None,
        "vibration": bool(signs & {Sign.HOLD_DOWN_MISSING, Sign.HOLD_DOWN_LOOSE, Sign.LOOSE_POST}),
        "standing": context.complaint is Complaint.STOOD_FOR_WEEKS and low,
        "undercharged": car is not None
        and (
            car.short_trips
            or (
                any(under(volts, rules.car.running_low_volts.value * scale, VOLTS) for volts in running)
                and not idle_alone_is_doubtful(car, case)
            )
        ),
        "hard_use": age is not None and age.past_usual and context.use.value in {"taxi", "delivery", "emergency"},
        "age": age is not None and age.past_usual,
    }

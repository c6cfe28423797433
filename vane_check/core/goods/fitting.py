"""The list a fitter works through for this car and this battery, in the order it is done."""

from functools import cache
from typing import Literal, NamedTuple

from pydantic import BaseModel, ConfigDict

from ..tables.base import Sourced, origin_of, rows_of
from ..words import NOTHING, Argument, Words, cited, say, say_from, word

When = Literal["before", "out", "in", "after"]
AFTER_FITTING = ("windows", "steering_angle", "radio_code", "clear_codes")
"""What a car may ask for once it is in."""


class StepRow(NamedTuple):
    """A step of the list with what calls for it."""

    key: str
    when: str
    about: str
    figure_kind: str
    origin: Sourced


@cache
def step_rows() -> tuple[StepRow, ...]:
    """Every step there is, in order. Source: tables/fitting.csv."""
    return tuple(
        StepRow(row["key"], row["when"], row["about"], row["figure_kind"], origin_of(row))
        for row in rows_of("fitting.csv")
    )


class FittingCar(BaseModel):
    """What a fitter must know of the car and of what goes in."""

    model_config = ConfigDict(frozen=True)

    positive_side: str = "right"
    memory: str = ""
    programme: str = ""
    needs_registration: bool = False
    after: tuple[str, ...] = ()
    vent_tube: bool = False
    vent_side: str = ""
    spacer: Words = NOTHING
    shim: bool = False
    hold_down: Words = NOTHING
    core_deposit: bool = False


class FittingStep(BaseModel):
    """One step, in words; `figure` is what is read at it."""

    model_config = ConfigDict(frozen=True)

    key: str
    about: When
    text: Words
    figure: Literal["", "volts", "mA"]
    source: Words
    standing: str


def fitting_list(car: FittingCar) -> list[FittingStep]:
    """The steps for a car. What it does not need is not in it."""
    calls = {
        "always": True, "memory": bool(car.memory), "spacer": bool(car.spacer), "shim": car.shim,
        "vent_tube": car.vent_tube, "registration": car.needs_registration, "core": car.core_deposit,
        **{name: name in car.after for name in AFTER_FITTING},
    }  # fmt: skip
    words: dict[str, Argument] = {
        "memory": car.memory, "side": word(car.positive_side), "spacer": car.spacer,
        "hold_down": car.hold_down or say('fitting.as_the_old_one_was_held'), "vent_side": say('fitting.side', vent_side=word(car.vent_side)) if car.vent_side else say('fitting.side_the_hose_comes_from'),
        "programme": car.programme or say('fitting.by_the_car_makers_instructions'),
    }  # fmt: skip
    return [
        FittingStep.model_validate(
            {
                "key": row.key, "about": row.about, "text": say_from(f"fitting.{row.key}", lambda: words), "figure": row.figure_kind,
                "source": cited(row.origin.source), "standing": row.origin.standing,
            }
        )
        for row in step_rows()
        if calls[row.when]
    ]  # fmt: skip

"""What every page asks once: sizes, cars, lines, limits, the rules in force, the cautions."""

from typing import Any

from pydantic import BaseModel

from ..core.kinds import HANDS_ON, Kind
from ..core.readings import HAZARDS, Sign
from ..core.tables import cautions, entry_limits, footprints, scale_definitions
from ..records import shop
from .desk import Desk
from .views import ListedCar, Size, car_view, size_view


class Limit(BaseModel):
    """What a typed figure may be at all."""

    low: float
    high: float
    unit: str
    what_to_enter: str


class ScaleView(BaseModel):
    """What a rating scale means, its ratio to SAE CCA and how far that may be off."""

    definition: str
    amps_per_sae_cca_amp: float
    relative_spread: float
    source: str
    standing: str


class RuleView(BaseModel):
    """One value of the house rules."""

    value: Any
    unit: str
    source: str
    standing: str


class Reference(BaseModel):
    """What a page asks once; cautions by the place they belong to."""

    sizes: list[Size]
    cars: list[ListedCar]
    cars_in_all: int
    lines: list[str]
    limits: dict[str, Limit]
    scales: dict[str, ScaleView]
    rules_version: str
    rules_name: str
    rules: dict[str, RuleView]
    cautions: dict[str, list[str]]
    hazards: list[Sign]
    """Signs that stop every test and charge."""
    hands_on: list[Kind]
    """Kinds of reading that put clamps or current on a battery."""


CARS_AT_MOST = 200
LINES_AT_MOST = 500
"""So many are handed over whole; of a longer list of cars a page asks for those that hold what is typed."""


def cars(desk: Desk, typed: str = "") -> list[ListedCar]:
    """The vehicle list, or those of it whose name holds what is typed."""
    return [car_view(vehicle) for vehicle in shop.vehicles(desk.session, CARS_AT_MOST, typed)]


def reference(desk: Desk) -> Reference:
    """Everything that changes seldom, in one answer."""
    said: dict[str, list[str]] = {}
    for caution in cautions():
        said.setdefault(caution.where, []).append(caution.text)
    rules = desk.rules.model_dump(mode="json").items()
    return Reference(
        sizes=[size_view(footprint) for footprint in footprints().values()],
        cars=cars(desk),
        cars_in_all=shop.count_vehicles(desk.session),
        lines=list(shop.lines(desk.session, LINES_AT_MOST)),
        limits={name: Limit.model_validate(limit._asdict()) for name, limit in entry_limits().items()},
        scales={
            name: ScaleView(
                definition=scale.definition,
                amps_per_sae_cca_amp=scale.amps_per_sae_cca_amp,
                relative_spread=scale.relative_spread,
                source=scale.origin.source,
                standing=scale.origin.standing,
            )
            for name, scale in scale_definitions().items()
        },
        rules_version=desk.rules.version,
        rules_name=desk.rules.name,
        rules={name: RuleView(**value) for name, value in rules if isinstance(value, dict)},
        cautions=said,
        hazards=sorted(HAZARDS),
        hands_on=sorted(HANDS_ON),
    )

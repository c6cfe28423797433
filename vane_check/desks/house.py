"""What every page asks once: sizes, cars, lines, limits, the rules in force, the cautions."""

from typing import Any, Self

from pydantic import BaseModel

from ..core.findings.kinds import Kind, StepKey
from ..core.house.rules import Parameter
from ..core.readings import HAZARDS, METHODS, SHOWS_HEALTH, Sign
from ..core.tables import cautions, entry_limits, footprints, scale_definitions
from ..core.words import Words, cited, listed, rules_in_words
from ..records import shop
from .desk import Desk
from .views import ListedCar, Size, car_view, size_view


class Limit(BaseModel):
    """What a typed figure may be at all."""

    low: float
    high: float
    unit: Words
    what_to_enter: Words


class ScaleView(BaseModel):
    """What a rating scale means, its ratio to SAE CCA and how far that may be off."""

    definition: Words
    amps_per_sae_cca_amp: float
    relative_spread: float
    source: Words
    standing: str


class RuleView(BaseModel):
    """One value of the house rules."""

    value: Any
    unit: Words
    source: Words
    standing: str

    @classmethod
    def of(cls, rule: Parameter[Any]) -> Self:
        """A rule for a screen: its unit and its source in words."""
        return cls.model_validate(
            {**rule.model_dump(), "unit": listed("unit", rule.unit), "source": cited(rule.source)}
        )


class MethodView(BaseModel):
    """How one kind of reading is taken: what it is read with, the steps it is the doing of, what stands in its way."""

    kind: Kind
    title: Words
    read_with: str | None
    opened_by: list[StepKey]
    hands_on: bool
    """It puts hands, clamps or current on the battery: closed while that is unsafe."""
    through_posts: bool
    needs_acid: bool
    loads: bool
    shows_health: bool


def methods() -> list[MethodView]:
    """Every method, as it is declared."""
    return [
        MethodView(
            kind=method.kind, title=method.title, read_with=method.read_with, opened_by=sorted(method.opened_by),
            hands_on=method.hands_on, through_posts=method.through_posts, needs_acid=method.needs_acid, loads=method.loads,
            shows_health=method.kind in SHOWS_HEALTH,
        )
        for method in METHODS
    ]  # fmt: skip


class Reference(BaseModel):
    """What a page asks once; cautions by the place they belong to."""

    sizes: list[Size]
    cars: list[ListedCar]
    cars_in_all: int
    lines: list[str]
    limits: dict[str, Limit]
    scales: dict[str, ScaleView]
    rules_version: str
    rules_name: Words
    rules: dict[str, RuleView]
    cautions: dict[str, list[Words]]
    hazards: list[Sign]
    """Signs that stop every test and charge."""
    methods: list[MethodView]
    """How each kind of reading is taken, in the order of its rungs."""


CARS_AT_MOST = 200
LINES_AT_MOST = 500
"""So many are handed over whole; of a longer list of cars a page asks for those that hold what is typed."""


def cars(desk: Desk, typed: str = "") -> list[ListedCar]:
    """The vehicle list, or those of it whose name holds what is typed."""
    return [car_view(vehicle) for vehicle in shop.vehicles(desk.session, CARS_AT_MOST, typed)]


def reference(desk: Desk) -> Reference:
    """Everything that changes seldom, in one answer."""
    by_place: dict[str, list[Words]] = {}
    for caution in cautions():
        by_place.setdefault(caution.where, []).append(caution.text)
    return Reference(
        sizes=[size_view(footprint) for footprint in footprints().values()],
        cars=cars(desk),
        cars_in_all=shop.count_vehicles(desk.session),
        lines=list(shop.lines(desk.session, LINES_AT_MOST)),
        limits={
            name: Limit.model_validate({**limit._asdict(), "unit": listed("unit", limit.unit)})
            for name, limit in entry_limits().items()
        },
        scales={
            name: ScaleView(
                definition=scale.definition,
                amps_per_sae_cca_amp=scale.amps_per_sae_cca_amp,
                relative_spread=scale.relative_spread,
                source=cited(scale.origin.source),
                standing=scale.origin.standing,
            )
            for name, scale in scale_definitions().items()
        },
        rules_version=desk.rules.version,
        rules_name=rules_in_words(desk.rules.name),
        rules={path: RuleView.of(rule) for path, rule in desk.rules.parameters().items()},
        cautions=by_place,
        hazards=sorted(HAZARDS),
        methods=methods(),
    )

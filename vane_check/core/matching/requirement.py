"""What is asked for, what is offered, and how the two stand."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..battery.label import Chemistry, RatingScale, Use
from ..tables import Footprint, entry_limits, footprints, scale_definitions
from ..units.model import Model, ShortText
from ..words import NOTHING, Words, say

_LIMITS = entry_limits()
Side = Literal["left", "right"]
Post = Literal["top", "pencil", "side", "stud", "tab"]
Ledge = Literal["none", "long", "all"]
"""A rim at the foot that a clamp holds: none, on the long sides, or all round."""
Millimetres = Annotated[float, Field(ge=_LIMITS["case_mm"].low, le=_LIMITS["case_mm"].high)]
AhAsked = Annotated[float, Field(ge=0, le=_LIMITS["capacity_ah_20h"].high)]
MinutesAsked = Annotated[float, Field(ge=0, le=_LIMITS["reserve_minutes"].high)]
CableSpare = Annotated[float, Field(ge=_LIMITS["cable_spare_mm"].low, le=_LIMITS["cable_spare_mm"].high)]


class Measured(Model):
    """A tray or an old battery under the tape [mm]; the side of the positive with the posts towards you."""

    of: Literal["tray", "old"] = "tray"
    length_mm: Millimetres
    width_mm: Millimetres
    height_mm: Millimetres
    positive_side: Side | None = None
    post: Post | None = None
    ledge: Ledge | None = None
    tolerance_mm: float | None = Field(
        None, ge=_LIMITS["tolerance_mm"].low, le=_LIMITS["tolerance_mm"].high,
        description="how far the tape may be off; else by house rule",
    )  # fmt: skip


def _size_in(claims: Any) -> Footprint | None:
    """The size of the table that something not looked at yet speaks of, if it is text and one."""
    code = claims.get("group_code") if isinstance(claims, dict) else None
    return footprints().get(code) if isinstance(code, str) else None


class Requirement(Model):
    """What the car, the old battery or the tape asks for. CCA in SAE amps, with the scale the figure was said on."""

    group_code: ShortText = ""
    also_codes: tuple[ShortText, ...] = Field((), max_length=20)
    measured: Measured | None = None
    nominal_volts: Literal[6, 12] = 12
    positive_side: Side | None = Field(None, description="where it is known against what the size says")
    post: Post | None = None
    ledge: Ledge | None = Field(None, description="what the hold-down grips")
    spare_cable_mm: CableSpare = Field(0, description="how much further the cables reach")
    min_cca_amps: float = Field(ge=0, le=_LIMITS["rated_amps"].high)
    cca_scale: RatingScale = RatingScale.CCA
    min_capacity_ah: AhAsked | None = None
    min_reserve_minutes: MinutesAsked | None = None
    chemistry: Chemistry = Chemistry.FLOODED
    stop_start: bool = False
    vent_tube: bool = False
    vent_side: Side | None = None
    no_agm: bool = Field(False, description="hot bay or uncontrolled old regulator that would kill AGM")
    flooded_stays: bool = Field(False, description="the car charges by a profile for flooded types alone")
    running_volts: float | None = Field(None, description="what the car ran at, where that was too high")
    use: Use = Use.PRIVATE
    source: Words = NOTHING

    @model_validator(mode="before")
    @classmethod
    def _by_its_size(cls, claims: Any) -> Any:
        """A 6 V size is a 6 V battery, whatever else was said."""
        size = _size_in(claims)
        return {**claims, "nominal_volts": size.nominal_volts} if size else claims

    @model_validator(mode="after")
    def _asks_for_a_size(self) -> "Requirement":
        if not self.group_code and self.measured is None:
            raise ValueError(say("requirement.give_a_size_or_measure_the_tray_without"))
        return self

    @property
    def cca_spread(self) -> float:
        """How far the rating asked may be off for the scale it was said on, as a share of it."""
        return spread_of(self.cca_scale)


def spread_of(scale: RatingScale) -> float:
    """The spread of a scale against SAE CCA; 0 where it is no scale of amps. Source: tables/rating-scales.csv."""
    scale_definition = scale_definitions().get(scale.value)
    return scale_definition.relative_spread if scale_definition else 0.0


class Piece(Model):
    """The very piece that would be handed over: the oldest that may be sold."""

    id: int
    arrived_months_ago: float
    uncharged_months: float
    last_volts: float | None = None
    dry: bool = False
    mark: Literal["", "reduced", "refused"] = ""


class Candidate(Model):
    """One catalogue item with what stands on the shelf of it; its own outside, else that of its size."""

    item_id: int
    line: str
    name: str
    group_code: str
    length_mm: int = 0
    width_mm: int = 0
    height_mm: int = 0
    nominal_volts: int = 12
    positive_side: Side = "right"
    post: Post = "top"
    ledge: Ledge = "none"
    same_as: str = ""
    chemistry: Chemistry
    cca_amps: float
    rated_amps: float | None = None
    rated_scale: RatingScale = RatingScale.CCA
    capacity_ah_20h: float | None = None
    reserve_minutes: float | None = None
    vent_tube: bool = False
    vent_side: Side | None = None
    excluded_uses: tuple[Use, ...] = ()
    price_cents: int = 0
    in_stock: int = 0
    last_volts: float | None = Field(None, description="rest volts of the piece that would be handed over")
    piece: Piece | None = None

    @model_validator(mode="before")
    @classmethod
    def _outside_of_its_size(cls, claims: Any) -> Any:
        size = _size_in(claims)
        if size is None:
            return claims
        of_size = {
            "length_mm": size.length_mm, "width_mm": size.width_mm, "height_mm": size.height_mm,
            "nominal_volts": size.nominal_volts, "positive_side": size.positive_side, "post": size.post,
            "ledge": size.ledge, "same_as": size.same_as,
        }  # fmt: skip
        return {**of_size, **{name: value for name, value in claims.items() if value is not None}}


class Fit(StrEnum):
    """How a candidate stands."""

    EXACT = "exact"
    NEAR = "near"
    REJECTED = "rejected"


About = Literal[
    "size", "positive", "post", "ledge", "rating", "capacity", "reserve", "chemistry", "vent", "terms", "stock", "charge",
    "volts",
]  # fmt: skip
Stands = Literal["fits", "changes", "against"]
OF_THE_PIECE = frozenset({"stock", "charge"})
"""What says nothing of how an item fits."""


@dataclass(frozen=True, slots=True)
class Point:
    """One thing compared: in words and figures. `stands` is against, changes (fits, but something differs) or fits."""

    about: About
    stands: Stands
    text: Words


class Match(BaseModel):
    """A candidate with how it fits, why, and how its case differs [mm, new minus old]."""

    model_config = ConfigDict(frozen=True)

    candidate: Candidate
    fit: Fit
    points: tuple[Point, ...]
    length_difference_mm: int
    width_difference_mm: int
    height_difference_mm: int
    to_do: tuple[Words, ...]

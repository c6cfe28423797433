"""What is asked for, what is offered, and how the two stand."""

from enum import StrEnum
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from ..battery import Chemistry, Model, ShortText
from ..tables import entry_limits


class Requirement(Model):
    """What the car, or the old battery, asks for. CCA in SAE amps."""

    group_code: ShortText
    also_codes: tuple[ShortText, ...] = Field((), max_length=20)
    min_cca_amps: float = Field(ge=0, le=entry_limits()["rated_amps"].high)
    chemistry: Chemistry = Chemistry.FLOODED
    stop_start: bool = False
    vent_tube: bool = False
    no_agm: bool = Field(False, description="hot bay or uncontrolled old regulator that would kill AGM")
    source: ShortText = ""


class Candidate(Model):
    """One catalogue item with what stands on the shelf of it."""

    item_id: int
    line: str
    name: str
    group_code: str
    chemistry: Chemistry
    cca_amps: float
    vent_tube: bool = False
    price_cents: int = 0
    in_stock: int = 0
    last_volts: float | None = Field(None, description="rest volts of the best piece in stock")


class Fit(StrEnum):
    """How a candidate stands."""

    EXACT = "exact"
    NEAR = "near"
    REJECTED = "rejected"


class Point(BaseModel):
    """One thing compared: in words and figures. `stands` is against, changes (fits, but something differs) or fits."""

    model_config = ConfigDict(frozen=True)

    about: Literal["size", "positive", "post", "rating", "chemistry", "vent", "stock", "charge", "volts"]
    stands: Literal["fits", "changes", "against"]
    text: str


class Match(BaseModel):
    """A candidate with how it fits, why, and how its case differs [mm, new minus old]."""

    model_config = ConfigDict(frozen=True)

    candidate: Candidate
    fit: Fit
    points: tuple[Point, ...]
    length_difference_mm: int
    width_difference_mm: int
    height_difference_mm: int
    to_do: tuple[str, ...]

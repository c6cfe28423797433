"""What a source claims of the battery that is asked for, and what claims come to beside one another."""

from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from ..battery.label import Chemistry, RatingScale, Use
from ..units.model import Model, ShortText
from ..words import NOTHING, Words
from .requirement import AhAsked, CableSpare, Ledge, Measured, MinutesAsked, Post, Requirement, Side


class SourceKey(StrEnum):
    """Where a claim comes from, in the order in which they are asked for the size."""

    TYPED = "typed"
    TAPE = "tape"
    CAR = "car"
    CODE = "code"
    LABEL = "label"
    OWNER = "owner"
    CHECK = "check"


class Need(StrEnum):
    """What the owner says of the work the battery has."""

    WINTER = "winter"
    CONSUMERS = "consumers"
    STANDING = "standing"
    TAXI = "taxi"


class Claim(Model):
    """What one source says; what it does not say is None."""

    key: SourceKey
    title: Words
    group_code: ShortText = ""
    also_codes: tuple[ShortText, ...] = ()
    measured: Measured | None = None
    nominal_volts: int | None = None
    positive_side: Side | None = None
    post: Post | None = None
    ledge: Ledge | None = None
    spare_cable_mm: CableSpare | None = None
    cca_amps: float | None = None
    cca_scale: RatingScale = RatingScale.CCA
    capacity_ah: AhAsked | None = None
    reserve_minutes: MinutesAsked | None = None
    chemistry: Chemistry | None = None
    stop_start: bool | None = None
    vent_tube: bool | None = None
    vent_side: Side | None = None
    no_agm: bool | None = None
    flooded_stays: bool | None = None
    running_volts: float | None = None
    use: Use | None = None
    needs: tuple[Need, ...] = ()
    standing: Words = NOTHING


class Line(BaseModel):
    """One thing asked: what each source says of it, in words; who wins, and why where they differ."""

    model_config = ConfigDict(frozen=True)

    about: str
    says: dict[SourceKey, Words]
    wins: SourceKey
    differ: bool
    strictest: SourceKey | None = None
    why: Words = NOTHING


class Merged(BaseModel):
    """The requirement out of all sources, or None while nobody says a size; and the lines it was made of."""

    model_config = ConfigDict(frozen=True)

    requirement: Requirement | None
    lines: tuple[Line, ...]

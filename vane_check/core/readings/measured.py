"""What a meter, an electronic tester and a hydrometer show."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..battery import RatingScale, ShortText
from ..tables import entry_limits
from .base import Reading, TemperatureC

_LIMITS = entry_limits()


class Settled(StrEnum):
    """What came before the volts were read."""

    RESTED = "rested"
    HEADLAMPS = "headlamps"
    JUST_CHARGED = "just_charged"
    MAINTAINER_ON = "maintainer_on"


MeterRange = Literal["20_v", "200_v", "600_v"]


class RestVolts(Reading):
    """Volts at the posts, off charge and off load."""

    kind: Literal["rest_volts"] = "rest_volts"
    volts: float = Field(ge=0, description="volts")
    settled: Settled = Settled.RESTED
    rested_hours: float | None = Field(None, ge=_LIMITS["rested_hours"].low, le=_LIMITS["rested_hours"].high)
    after_full_charge: bool = Field(False, description="a full charge came before this rest")
    confirmed: bool = Field(False, description="measured again on clean posts with the same result")
    meter_range: MeterRange | None = Field(None, description="range of the meter; a higher one drops a digit")
    temperature_c: TemperatureC | None = None


class TypeSet(StrEnum):
    """The battery type an electronic tester is set to."""

    FLOODED = "flooded"
    EFB = "efb"
    AGM_FLAT = "agm_flat"
    AGM_SPIRAL = "agm_spiral"
    GEL = "gel"


class Clamped(StrEnum):
    """Where the tester's jaws sat."""

    LEAD_POSTS = "lead_posts"
    STUDS = "studs"
    CABLE_CLAMPS = "cable_clamps"


class TesterMessage(StrEnum):
    """The five messages testers give, in substance."""

    GOOD = "good"
    GOOD_RECHARGE = "good_recharge"
    RECHARGE_RETEST = "recharge_retest"
    REPLACE = "replace"
    BAD_CELL = "bad_cell"


class ElectronicTester(Reading):
    """A conductance or impedance tester's result with the settings it was made under."""

    kind: Literal["electronic_tester"] = "electronic_tester"
    measured_cca_amps: float | None = Field(
        None,
        ge=_LIMITS["measured_cca_amps"].low,
        le=_LIMITS["measured_cca_amps"].high,
        description="amps; None where the result is only a message, or a resistance",
    )
    type_set: TypeSet
    scale_set: RatingScale = RatingScale.CCA
    rated_set_amps: float | None = Field(
        None, ge=_LIMITS["rated_amps"].low, le=_LIMITS["rated_amps"].high, description="rated figure set on the tester"
    )
    clamped: Clamped = Clamped.LEAD_POSTS
    message: TesterMessage | None = None
    health_pct: float | None = Field(None, ge=_LIMITS["health_pct"].low, le=_LIMITS["health_pct"].high)
    charge_setting: Literal["before", "after"] | None = Field(
        None, description="the tester's own question: before or after charge"
    )
    state_of_charge_pct: float | None = Field(
        None, ge=_LIMITS["health_pct"].low, le=_LIMITS["health_pct"].high, description="the tester's own estimate"
    )
    volts: float | None = Field(None, ge=0, description="the tester's own volts, before it tests")
    resistance_mohm: float | None = Field(None, ge=_LIMITS["resistance_mohm"].low, le=_LIMITS["resistance_mohm"].high)
    in_vehicle: bool = False
    posts_clean: bool | None = Field(None, description="None: as the last look found them")
    tester_name: ShortText = ""
    temperature_c: TemperatureC | None = None


class CellState(StrEnum):
    """How a cell looks while charging: lively gassing, or still."""

    LIVELY = "lively"
    STILL = "still"


class Band(StrEnum):
    """What a hydrometer with colours shows."""

    GREEN = "green"
    WHITE = "white"
    RED = "red"


class Cells(Reading):
    """Gravity, and where trained hands measure it volts, of each cell in order from the positive post."""

    kind: Literal["cells"] = "cells"
    specific_gravities: tuple[
        Annotated[float, Field(ge=_LIMITS["specific_gravity"].low, le=_LIMITS["specific_gravity"].high)], ...
    ] = ()
    cell_volts: tuple[Annotated[float, Field(ge=_LIMITS["cell_volts"].low, le=_LIMITS["cell_volts"].high)], ...] = ()
    on_charge: tuple[CellState, ...] = ()
    bands: tuple[Band, ...] = Field((), description="colours instead of figures")
    temperature_c: TemperatureC | None = None
    after_full_charge: bool = False
    equalised: bool = Field(False, description="an equalising charge came before")

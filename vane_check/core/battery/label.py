"""What a battery is: its label, rating and scale, chemistry, footprint, and how it is used."""

from enum import StrEnum
from typing import Any, Literal

from pydantic import (
    Field,
    field_validator,
    model_validator,
)

from ..tables import entry_limits, footprints, scale_definitions
from ..units.model import Day, Model, ShortText
from ..words import Words, say, word
from .sizes import recognised_size

_LIMITS = entry_limits()


class Chemistry(StrEnum):
    """How the battery is built. Calcium is flooded with calcium plates, hybrid one of each."""

    FLOODED = "flooded"
    HYBRID = "hybrid"
    CALCIUM = "calcium"
    EFB = "efb"
    AGM = "agm"
    GEL = "gel"

    @property
    def words(self) -> Words:
        """The name as people say it."""
        return word(self.value)


CHEMISTRY_RANK = {
    Chemistry.FLOODED: 0, Chemistry.HYBRID: 0, Chemistry.CALCIUM: 0, Chemistry.EFB: 1, Chemistry.AGM: 2,
}  # fmt: skip
"""Each does the work of those below it; gel stands beside them."""

ORDINARY = frozenset({Chemistry.FLOODED, Chemistry.HYBRID, Chemistry.CALCIUM})
"""Not made for stop-start."""


class RatingScale(StrEnum):
    """The scale a starting figure is printed on."""

    CCA = "CCA"
    CA = "CA"
    MCA = "MCA"
    HCA = "HCA"
    EN = "EN"
    IEC = "IEC"
    DIN = "DIN"
    JIS = "JIS"


class RatingSource(StrEnum):
    """Whose word a fact of the label is: read on it, lent by its car's list or by a catalogue line, or assumed so that work goes on."""

    LABEL = "label"
    VEHICLE = "vehicle"
    CATALOGUE = "catalogue"
    ASSUMED = "assumed"


class Use(StrEnum):
    """What the battery does for its owner."""

    PRIVATE = "private"
    TAXI = "taxi"
    DELIVERY = "delivery"
    EMERGENCY = "emergency"
    AGRICULTURAL = "agricultural"
    STANDBY = "standby"
    DEEP_CYCLE = "deep_cycle"


RESERVE_USES = frozenset({Use.STANDBY, Use.DEEP_CYCLE})
"""Uses in which reserve matters and a starting test condemns nothing."""


class CameIn(StrEnum):
    """How it crossed the counter."""

    IN_CAR = "in_car"
    CARRIED_IN = "carried_in"
    RETURNED = "returned"
    SOLD = "sold"
    """It went the other way: a new one, handed over."""


class Complaint(StrEnum):
    """What the customer says is wrong."""

    WILL_NOT_START = "will_not_start"
    SLOW_CRANK = "slow_crank"
    CLICKS = "clicks"
    STOOD_FOR_WEEKS = "stood_for_weeks"
    WARNING_LIGHT = "warning_light"
    STOP_START_STOPPED = "stop_start_stopped"
    FAILED_ELSEWHERE = "failed_elsewhere"
    CHECK_ONLY = "check_only"
    NOT_SAID = "not_said"


class Rating(Model):
    """The printed starting figure with its scale. JIS is a type code, not a number of amps."""

    amps: float = Field(ge=_LIMITS["rated_amps"].low, le=_LIMITS["rated_amps"].high, description="amps on the scale")
    scale: RatingScale = RatingScale.CCA

    @field_validator("scale")
    @classmethod
    def _is_a_scale_of_amps(cls, scale: RatingScale) -> RatingScale:
        if scale.value not in scale_definitions():
            raise ValueError(say("label.is_a_type_code_not_a_number_of_amps_pick", scale=scale.value))
        return scale

    @property
    def cca_amps(self) -> float:
        """The figure as SAE CCA [A], by the scale's approximate ratio. Source: tables/rating-scales.csv."""
        return self.amps / scale_definitions()[self.scale.value].amps_per_sae_cca_amp

    @property
    def relative_spread(self) -> float:
        """How far the conversion to SAE CCA may be off, as a share of it. 0 for CCA itself."""
        return scale_definitions()[self.scale.value].relative_spread


class Battery(Model):
    """The label: what the battery says of itself."""

    line: ShortText = Field("", description="the maker's line it is sold under")
    nominal_volts: Literal[6, 12] = 12
    chemistry: Chemistry = Chemistry.FLOODED
    chemistry_source: RatingSource = RatingSource.LABEL
    rating: Rating | None = None
    rating_source: RatingSource = RatingSource.LABEL
    capacity_ah_20h: float | None = Field(
        None, ge=_LIMITS["capacity_ah_20h"].low, le=_LIMITS["capacity_ah_20h"].high, description="Ah, 20 h rate"
    )
    reserve_minutes: float | None = Field(
        None, ge=_LIMITS["reserve_minutes"].low, le=_LIMITS["reserve_minutes"].high, description="minutes at 25 A"
    )
    group_code: ShortText | None = Field(None, description="group or box code, one of the table group-sizes.csv")
    size_source: RatingSource = RatingSource.LABEL
    has_caps: bool | None = Field(None, description="whether the cells can be opened; None when nobody looked")
    serial: ShortText = ""
    made_on: Day | None = Field(None, description="first day of the month it was made, as read from the date code")

    @model_validator(mode="before")
    @classmethod
    def _volts_of_the_size(cls, data: Any) -> Any:
        """A size that only comes in 6 V sets the volts, where nobody said them."""
        if isinstance(data, dict) and data.get("group_code") and data.get("nominal_volts") is None:
            size = footprints().get(recognised_size(str(data["group_code"])) or "")
            if size is not None:
                return {**data, "nominal_volts": size.nominal_volts}
        return data

    @field_validator("group_code")
    @classmethod
    def _known_code(cls, code: str | None) -> str | None:
        if code is None or not code.strip():
            return None
        known = recognised_size(code)
        if known is None:
            raise ValueError(say("label.no_group_or_box_size_is_called_pick_one", code=code.strip()))
        return known


class Context(Model):
    """What is known of how it came in and what it is used for."""

    came_in: CameIn = CameIn.CARRIED_IN
    complaint: Complaint = Complaint.NOT_SAID
    use: Use = Use.PRIVATE
    stop_start_car: bool = False
    car_chemistry: Chemistry | None = Field(None, description="the type the vehicle list asks for")
    car_cca_amps: float | None = Field(
        None, ge=_LIMITS["rated_amps"].low, le=_LIMITS["rated_amps"].high, description="CCA the vehicle list asks for"
    )
    stop_start_line_volts: float | None = Field(
        None,
        ge=_LIMITS["stop_start_line_volts"].low,
        le=_LIMITS["stop_start_line_volts"].high,
        description="rest volts under which this car switches stop-start off, where it is known",
    )
    engine_litres: float | None = Field(None, ge=_LIMITS["engine_litres"].low, le=_LIMITS["engine_litres"].high)
    engine_fuel: Literal["petrol", "diesel"] = "petrol"
    needs_registration: bool = Field(False, description="the car is told which battery it has")
    sold_on: Day | None = None

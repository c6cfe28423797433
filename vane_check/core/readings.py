"""One model per kind of reading. Volts, amps and Celsius, with the unit in the field's name. New kinds only add."""

from enum import StrEnum
from typing import Annotated, Literal, get_args

from pydantic import AfterValidator, Field

from .battery import Model, Moment, RatingScale, ShortText, printable
from .tables import entry_limits

_LIMITS = entry_limits()

Identity = Annotated[str, Field(min_length=1, max_length=64), AfterValidator(printable)]
TemperatureC = Annotated[
    float, Field(ge=_LIMITS["temperature_c"].low, le=_LIMITS["temperature_c"].high, description="Celsius")
]


class Reading(Model):
    """What every reading has: when, who, and which earlier entry it corrects."""

    id: Identity | None = None
    taken_at: Moment
    taken_by: ShortText = ""
    replaces: Identity | None = Field(None, description="id of the entry this one corrects")


class Sign(StrEnum):
    """What eyes, hands and nose can find on a battery."""

    BULGED = "bulged"
    CRACKED = "cracked"
    LEAKING = "leaking"
    HOT = "hot"
    ROTTEN_EGG_SMELL = "smelling_of_rotten_egg"
    FROZEN = "frozen"
    MELTED_POST = "melted_post"
    LOOSE_POST = "loose_post"
    HOLD_DOWN_MISSING = "hold_down_missing"
    WET_TOP = "wet_top"
    STICKER_GONE = "sticker_gone"


HAZARDS = frozenset(
    {
        Sign.BULGED, Sign.CRACKED, Sign.LEAKING, Sign.HOT, Sign.ROTTEN_EGG_SMELL, Sign.FROZEN, Sign.MELTED_POST,
        Sign.LOOSE_POST,
    }
)  # fmt: skip
"""Signs that forbid testing and charging."""


class Mark(Model):
    """A sign where it was touched on the drawn case: shares of the view's width and height, from the top left."""

    sign: Sign
    view: Literal["front", "top"] = "front"
    across: float = Field(0.16, ge=0, le=1)
    down: float = Field(0.8, ge=0, le=1)


class Corrosion(StrEnum):
    """How far the posts and clamps are grown over."""

    NONE = "none"
    LIGHT = "light"
    HEAVY = "heavy"


class Level(StrEnum):
    """Acid over the plates of one cell."""

    OVER = "over"
    RIGHT = "right"
    LOW = "low"
    PLATES_BARE = "plates_bare"


class Eye(StrEnum):
    """The charge indicator: it watches one cell of six and decides nothing alone, but clear means low acid."""

    GREEN = "green"
    DARK = "dark"
    CLEAR = "clear"


class Look(Reading):
    """What eyes, hands and nose say before anything is clamped on. No marks means nothing was found."""

    kind: Literal["look"] = "look"
    marks: tuple[Mark, ...] = ()
    corrosion: Corrosion = Corrosion.NONE
    levels: tuple[Level, ...] = Field((), description="cell by cell from the positive post; empty when not looked at")
    eye: Eye | None = None


LeakageVolts = Annotated[float, Field(ge=_LIMITS["leakage_volts"].low, le=_LIMITS["leakage_volts"].high)]


class Spot(Model):
    """Volts at one place of the drawn case: shares of the view's width and height, from the top left."""

    volts: LeakageVolts
    view: Literal["front", "top"] = "top"
    across: float = Field(0.5, ge=0, le=1)
    down: float = Field(0.5, ge=0, le=1)


class CaseLeakage(Reading):
    """Volts from the positive post to the damp plastic of the case: the worst of the places that were touched."""

    kind: Literal["case_leakage"] = "case_leakage"
    volts: LeakageVolts = Field(description="volts at the worst place")
    cleaned: bool = Field(False, description="cleaned, dried and measured again")
    spots: tuple[Spot, ...] = Field((), description="each place touched, where on the case it is")

    @property
    def worst_volts(self) -> float:
        """The highest of all places [V]."""
        return max((self.volts, *(spot.volts for spot in self.spots)))


class Settled(StrEnum):
    """What came before the volts were read."""

    RESTED = "rested"
    HEADLAMPS = "headlamps"
    JUST_CHARGED = "just_charged"


class RestVolts(Reading):
    """Volts at the posts, off charge and off load."""

    kind: Literal["rest_volts"] = "rest_volts"
    volts: float = Field(ge=0, description="volts")
    settled: Settled = Settled.RESTED
    rested_hours: float | None = Field(None, ge=_LIMITS["rested_hours"].low, le=_LIMITS["rested_hours"].high)
    after_full_charge: bool = Field(False, description="a full charge came before this rest")
    confirmed: bool = Field(False, description="measured again on clean posts with the same result")
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
    measured_cca_amps: float = Field(
        ge=_LIMITS["measured_cca_amps"].low, le=_LIMITS["measured_cca_amps"].high, description="amps"
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
    in_vehicle: bool = False
    posts_clean: bool = True
    tester_name: ShortText = ""
    temperature_c: TemperatureC | None = None


class CellState(StrEnum):
    """How a cell looks while charging: lively gassing, or still."""

    LIVELY = "lively"
    STILL = "still"


class Cells(Reading):
    """Gravity, and where trained hands measure it volts, of each cell in order from the positive post."""

    kind: Literal["cells"] = "cells"
    specific_gravities: tuple[
        Annotated[float, Field(ge=_LIMITS["specific_gravity"].low, le=_LIMITS["specific_gravity"].high)], ...
    ] = ()
    cell_volts: tuple[Annotated[float, Field(ge=_LIMITS["cell_volts"].low, le=_LIMITS["cell_volts"].high)], ...] = ()
    on_charge: tuple[CellState, ...] = ()
    temperature_c: TemperatureC | None = None
    after_full_charge: bool = False
    equalised: bool = Field(False, description="an equalising charge came before")


LoadAmps = Annotated[float, Field(ge=_LIMITS["load_amps"].low, le=_LIMITS["load_amps"].high, description="amps")]
LoadSeconds = Annotated[
    float, Field(ge=_LIMITS["load_seconds"].low, le=_LIMITS["load_seconds"].high, description="seconds")
]


class Needle(StrEnum):
    """What the volts did during the pull."""

    HELD = "held"
    DROPPED_AFTER = "dropped_after"
    DROPPED_AT_ONCE = "dropped_at_once"


class AdjustableLoad(Reading):
    """A pull with an adjustable load: amps set, seconds held, volts at the end under load."""

    kind: Literal["adjustable_load"] = "adjustable_load"
    amps: LoadAmps
    seconds: LoadSeconds
    volts: float = Field(ge=0, description="volts at the end, under load")
    needle: Needle = Needle.HELD
    temperature_c: TemperatureC | None = None


class FixedLoad(Reading):
    """A pull with a fixed resistor, and where the volts came back to."""

    kind: Literal["fixed_load"] = "fixed_load"
    amps: LoadAmps = 100
    seconds: LoadSeconds
    volts: float = Field(ge=0, description="volts at the end, under load")
    bounce_volts: float | None = Field(None, ge=0, description="volts a minute after the load came off")
    temperature_c: TemperatureC | None = None


class Crank(Reading):
    """Volts at the posts while the starter turns a disabled engine at a steady speed."""

    kind: Literal["crank"] = "crank"
    volts: float = Field(ge=0)
    seconds: LoadSeconds
    engine_disabled: bool = True
    temperature_c: TemperatureC | None = None


class Stand(Reading):
    """A full charge, then rest off everything: volts after settling and at the end."""

    kind: Literal["stand"] = "stand"
    start_volts: float = Field(ge=0)
    volts: float = Field(ge=0, description="volts at the end")
    hours: float = Field(gt=0, le=_LIMITS["rested_hours"].high)
    temperature_c: TemperatureC | None = None


ChargeAmps = Annotated[float, Field(ge=_LIMITS["charge_amps"].low, le=_LIMITS["charge_amps"].high)]
ChargeVolts = Annotated[float, Field(ge=_LIMITS["charge_volts"].low, le=_LIMITS["charge_volts"].high)]


class ChargeRun(Reading):
    """A charge as it is seen at the charger: amps and volts at the start and now."""

    kind: Literal["charge_run"] = "charge_run"
    start_amps: ChargeAmps
    amps: ChargeAmps
    volts: ChargeVolts
    hours: float = Field(ge=_LIMITS["charge_hours"].low, le=_LIMITS["charge_hours"].high)
    finished: bool = Field(False, description="fully charged and taken off")


RunningVolts = Annotated[float, Field(ge=_LIMITS["running_volts"].low, le=_LIMITS["running_volts"].high)]


class Car(Reading):
    """What the car does to its battery."""

    kind: Literal["car"] = "car"
    idle_volts: RunningVolts | None = None
    loaded_volts: RunningVolts | None = None
    clamp_moves: bool = Field(False, description="volts jump when a clamp is moved")
    drain_ma: float | None = Field(None, ge=_LIMITS["drain_ma"].low, le=_LIMITS["drain_ma"].high)
    modules_asleep: bool = True
    unregistered: bool = Field(False, description="replaced without telling the battery management system")
    short_trips: bool = False


class Withdrawal(Reading):
    """Takes an entry back that was a slip of the finger. The entry stays readable; it no longer counts."""

    kind: Literal["withdrawal"] = "withdrawal"
    replaces: Identity = Field(description="id of the entry that is taken back")


AnyReading = Annotated[
    Look
    | CaseLeakage
    | RestVolts
    | ElectronicTester
    | Cells
    | AdjustableLoad
    | FixedLoad
    | Crank
    | Stand
    | ChargeRun
    | Car
    | Withdrawal,
    Field(discriminator="kind"),
]
"""Any kind of reading, told apart by `kind`."""

READING_MODELS: tuple[type[Reading], ...] = get_args(get_args(AnyReading)[0])
"""Every kind, as `AnyReading` lists them."""

WITH_TEMPERATURE = frozenset(model for model in READING_MODELS if "temperature_c" in model.model_fields)
"""The kinds that may carry the battery's own temperature."""

"""What the car does to its battery."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import say
from .base import Reading, Within
from .method import Method

RunningVolts = Annotated[float, Within("running_volts")]
DropVolts = Annotated[float, Within("drop_volts")]


class Waits(StrEnum):
    """What a stop-start system waits for; words in tables/stop-start-waits.csv."""

    DRIVER = "driver"
    BONNET = "bonnet"
    ENGINE_WARM = "engine_warm"
    BATTERY_WARM = "battery_warm"
    CLIMATE = "climate"
    STEERING = "steering"
    OWN_SWITCH = "own_switch"
    SENSOR = "sensor"
    CODES = "codes"
    REGISTERED = "registered"


class Car(Reading):
    """What the car does to its battery."""

    kind: Literal["car"] = "car"
    idle_volts: RunningVolts | None = None
    loaded_volts: RunningVolts | None = None
    clamp_moves: bool = Field(False, description="volts jump when a clamp is moved")
    drain_ma: Annotated[float, Within("drain_ma")] | None = None
    modules_asleep: bool = True
    unregistered: bool = Field(False, description="replaced without telling the battery management system")
    short_trips: bool = False
    drop_joint_volts: DropVolts | None = Field(None, description="battery post to its clamp, while cranking")
    drop_ground_volts: DropVolts | None = Field(None, description="negative post to chassis, while cranking")
    drop_starter_volts: DropVolts | None = Field(None, description="positive post to starter, while cranking")
    waits_checked: tuple[Waits, ...] = Field((), description="what stop-start waits for, looked at and in order")
    waits_found: tuple[Waits, ...] = Field((), description="what stop-start waits for, and was found wrong")


METHOD = Method(
    reading=Car,
    title=say("car.the_car"),
    read_with="meter",
    opened_by=frozenset({StepKey.STOP_START_LIST}),
    counted_for=frozenset(),
    hands_on=False,
    corrosion_spoils=False,
    needs_acid=False,
)

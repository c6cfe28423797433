"""A charge as it is seen at the charger."""

from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..tables import entry_limits
from ..units.conversions import MINUTES_PER_HOUR
from ..units.model import Model
from ..words import Words, say
from .base import OwnVolts, Reading, Within
from .method import Method

ChargeAmps = Annotated[float, Within("charge_amps")]
ChargeVolts = Annotated[float, Within("charge_volts")]


class ChargePoint(Model):
    """Amps at so many minutes of a charge, and volts where they were read."""

    minutes: float = Field(ge=0, le=entry_limits()["charge_hours"].high * MINUTES_PER_HOUR)
    amps: ChargeAmps
    volts: ChargeVolts | None = None


class ChargeRun(Reading):
    """A charge as it is seen at the charger: amps and volts at the start and now, and on the way where they were written down."""

    kind: Literal["charge_run"] = "charge_run"
    start_amps: ChargeAmps | None = None
    amps: ChargeAmps | None = Field(None, description="amps now; a maintainer shows none")
    start_volts: Annotated[ChargeVolts, OwnVolts()] | None = Field(None, description="volts before it went on")
    volts: Annotated[ChargeVolts, OwnVolts()]
    hours: Annotated[float, Within("charge_hours")]
    finished: bool = Field(False, description="fully charged and taken off, as the charger says")
    stopped: bool = Field(False, description="taken off before it was full")
    recovery: bool = Field(False, description="a recovery charge: slow, with a mode for long flat batteries")
    ah_in: Annotated[float, Within("charge_ah")] | None = Field(
        None, description="Ah put in, as the charger shows them"
    )
    log: tuple[ChargePoint, ...] = Field((), max_length=500, description="amps on the way")

    def nothing_read(self) -> tuple[str, Words] | None:
        """No amps, and nothing to tell whether its volts rose."""
        if self.amps is None and self.start_volts is None:
            return "amps", say("charge_run.enter_the_amps_now_a_maintainer_shows_none")
        return None


METHOD = Method(
    reading=ChargeRun,
    title=say('charge_run.charge'),
    read_with="charger",
    opened_by=frozenset({StepKey.WATCH_CHARGE}),
    counted_for=frozenset(
        {
            StepKey.CHARGE_AND_RETEST, StepKey.CHARGE_AND_WATCH, StepKey.EQUALISE, StepKey.RECOVERY_CHARGE,
            StepKey.CHECK_CHARGER,
        }
    ),
    through_posts=False,
    corrosion_spoils=False,
    dryness_spoils=False,  # a stuck charge is stopped all the same
)  # fmt: skip

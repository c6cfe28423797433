"""The bench: instruments with their errors, and hands that now and then set them wrong."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any

from ..check import ONE_READING
from ..readings import AnyReading
from .battery import CELLS, SimulatedBattery

START = datetime(2026, 1, 5, 8, 0, tzinfo=UTC)
METER_GAIN, METER_VOLTS = 0.002, 0.008
TESTER_NOISE = 0.045
LOAD_AMPS_NOISE = 0.02
HYDROMETER_NOISE = 0.002
WRONG_SETTING = 0.07
"""How often a tester is set to the wrong type, or clamped on studs."""

TYPES = {"flooded": "flooded", "calcium": "flooded", "efb": "efb", "agm": "agm_flat", "gel": "gel"}
WRONG_TYPE_EFFECT = 0.77
STUDS_EFFECT = 0.5
LONGEST_PULL_AMPS = 500.0
STARTER_SHARE = 0.35
"""What a starter draws at a steady speed, of the rated CCA of the battery that belongs to it."""


class SimulatedBench:
    """Takes readings of one battery. Time goes by as it works; `minutes` counts it, `tests` the readings."""

    def __init__(self, battery: SimulatedBattery, chance: random.Random) -> None:
        self.battery = battery
        self.chance = chance
        self.minutes = 0.0
        self.tests = 0
        self.meter_gain = 1 + chance.gauss(0, METER_GAIN)
        self.just_charged = False
        self.charged = False

    def _reading(self, kind: str, minutes: float, **body: Any) -> AnyReading:
        self.minutes += minutes
        self.tests += 1
        at = (START + timedelta(minutes=self.minutes)).isoformat()
        return ONE_READING.validate_python({"kind": kind, "taken_at": at, "id": str(self.tests), **body})

    def _metered(self, volts: float) -> float:
        return round(max(volts * self.meter_gain + self.chance.gauss(0, METER_VOLTS), 0.0), 2)

    def look(self) -> AnyReading:
        """Eyes and hands find the hazard when there is one, and a wet top."""
        marks = [{"sign": self.battery.hazard}] if self.battery.hazard else []
        marks += [{"sign": "wet_top"}] if self.battery.wet_top else []
        return self._reading("look", 1, marks=marks)

    def rest_volts(self, settle: bool = False) -> AnyReading:
        """Volts as the battery stands, or after headlamps and a short rest."""
        if settle:
            self.battery.headlamps()
            self.minutes += 17
            self.just_charged = False
        settled = "just_charged" if self.just_charged else "headlamps" if settle else "rested"
        return self._reading(
            "rest_volts", 1, volts=self._metered(self.battery.rest_volts()), settled=settled,
            after_full_charge=self.charged and not self.just_charged, temperature_c=round(self.battery.temperature_c),
            confirmed=True,
        )  # fmt: skip

    def tester(self, careful: bool = False) -> AnyReading:
        """The electronic tester; a second, careful go is set right."""
        slip = 0.0 if careful else self.chance.random()
        right = TYPES[self.battery.chemistry]
        shown = self.battery.conductance_cca() * (1 + self.chance.gauss(0, TESTER_NOISE))
        body: dict[str, Any] = {"type_set": right}
        if not careful and slip < WRONG_SETTING / 2:
            body, shown = {"type_set": "efb" if right != "efb" else "flooded"}, shown * WRONG_TYPE_EFFECT
        elif not careful and slip < WRONG_SETTING:
            body, shown = {"type_set": right, "clamped": "studs"}, shown * STUDS_EFFECT
        return self._reading("electronic_tester", 2, measured_cca_amps=round(shown), **body)

    def adjustable_load(self, amps: float, seconds: float = 15) -> AnyReading:
        """A pull; volts dropping at once show on the needle."""
        amps = min(amps, LONGEST_PULL_AMPS)
        drawn = amps * (1 + self.chance.gauss(0, LOAD_AMPS_NOISE))
        volts = self._metered(self.battery.under_load(drawn, seconds))
        needle = "dropped_at_once" if volts < 6 else "held"
        return self._reading("adjustable_load", 5, amps=round(amps), seconds=seconds, volts=volts, needle=needle,
                             temperature_c=round(self.battery.temperature_c))  # fmt: skip

    def fixed_load(self, amps: float, seconds: float) -> AnyReading:
        """The small resistor, and where the volts come back to."""
        volts = self._metered(self.battery.under_load(amps, seconds))
        back = self._metered(self.battery.rest_volts())
        return self._reading(
            "fixed_load", 3, amps=amps, seconds=seconds, volts=volts, bounce_volts=back, temperature_c=round(self.battery.temperature_c)
        )  # fmt: skip

    def crank(self, seconds: float) -> AnyReading:
        """The car's starter, read at the posts."""
        volts = self._metered(self.battery.under_load(STARTER_SHARE * self.battery.rated_cca_amps, seconds))
        return self._reading("crank", 5, seconds=seconds, volts=volts, temperature_c=round(self.battery.temperature_c))

    def clean_the_top(self) -> AnyReading:
        """Cleaned, dried, and measured again from the positive post to the plastic."""
        self.battery.wet_top = False
        return self._reading("case_leakage", 10, volts=0.1, cleaned=True)

    def cells(self) -> AnyReading:
        """Gravity of every cell."""
        shorted = self.battery.shorted_cells
        gravities = [
            round(self.battery.cell_gravity(shorted=place < shorted) + self.chance.gauss(0, HYDROMETER_NOISE), 3)
            for place in range(CELLS)
        ]
        return self._reading(
            "cells", 12, specific_gravities=gravities, after_full_charge=self.charged, temperature_c=26.7
        )

    def charge(self) -> list[AnyReading]:
        """A full charge as seen at the charger, then the volts straight after."""
        missing = max(self.battery.top_charge - self.battery.charge, 0.05)
        hours = 2 + 10 * missing
        shorted = self.battery.shorted_cells > 0
        if shorted:
            hours = max(hours, 4.0)  # it never finishes; somebody looks in after half a shift
        start_amps = round(4 + 6 * missing, 1)
        if shorted:
            return [self._reading("charge_run", hours * 60, start_amps=start_amps, amps=start_amps,
                                  volts=self._metered(14.4 - 2.0 * self.battery.shorted_cells), hours=round(hours, 1))]  # fmt: skip
        self.battery.charge_fully(hours)
        self.charged = self.just_charged = True
        return [
            self._reading(
                "charge_run",
                hours * 60,
                start_amps=start_amps,
                amps=0.6,
                volts=14.4,
                hours=round(hours, 1),
                finished=True,
            )
        ]

    def stand(self, hours: float = 14) -> AnyReading:
        """Off everything for some hours."""
        start = self._metered(self.battery.rest_volts())
        self.battery.rest(hours)
        self.just_charged = False
        return self._reading(
            "stand", hours * 60, start_volts=start, volts=self._metered(self.battery.rest_volts()), hours=hours
        )

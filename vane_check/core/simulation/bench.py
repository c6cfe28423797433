"""The bench: instruments with their errors, and hands that go wrong now and then without saying so."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any

from ..readings import AnyReading
from ..readings.check import ONE_READING
from .battery import CELLS, SimulatedBattery

START = datetime(2026, 1, 5, 8, 0, tzinfo=UTC)
METER_GAIN, METER_VOLTS = 0.002, 0.003
"""One meter is off by a share that stays; its last digit and the hand add a little each time."""

TESTER_NOISE = 0.045
LOAD_AMPS_NOISE = 0.02
HYDROMETER_NOISE = 0.002
CAREFUL = 0.25
"""Share of the slips that are left when somebody is told to take care."""

TYPES = {"flooded": "flooded", "calcium": "flooded", "efb": "efb", "agm": "agm_flat", "gel": "gel"}
TESTER_SLIPS = (("studs", 0.5), ("wrong type", 0.77), ("wrong type", 1.12), ("dirty posts", 0.8))
LOAD_SLIPS = ("held short", "dirty posts", "no temperature")
SHORT_PULL_SECONDS = 7.0
DIRTY_OHM = 0.0012
LONGEST_PULL_AMPS = 500.0
EFFICIENCY = {"flooded": (0.86, 0.93), "calcium": (0.88, 0.94), "efb": (0.88, 0.94), "agm": (0.92, 0.97)}


class SimulatedBench:
    """Takes readings of one battery. Time goes by as it works; `minutes` counts it, `tests` the readings, `slipped` the slips."""

    def __init__(self, battery: SimulatedBattery, chance: random.Random) -> None:
        self.battery = battery
        self.chance = chance
        self.minutes = 0.0
        self.tests = 0
        self.slipped: list[str] = []
        self.charged_ice = False
        self.meter_gain = 1 + chance.gauss(0, METER_GAIN)
        self.just_charged = False
        self.charged = False

    def _reading(self, kind: str, took: float, /, **body: Any) -> AnyReading:
        self.minutes += took
        self.tests += 1
        at = (START + timedelta(minutes=self.minutes)).isoformat()
        return ONE_READING.validate_python({"kind": kind, "taken_at": at, "id": str(self.tests), **body})

    def _slips(self, what: str, careful: bool = False) -> bool:
        slipped = self.chance.random() < self.battery.slips * (CAREFUL if careful else 1.0)
        if slipped:
            self.slipped.append(what)
        return slipped

    def _metered(self, volts: float) -> float:
        return round(max(volts * self.meter_gain + self.chance.gauss(0, METER_VOLTS), 0.0), 2)

    def _temperature(self, always: bool = False) -> float | None:
        forgotten = not always and self._slips("no temperature")
        return None if forgotten else round(self.battery.temperature_c)

    def look(self) -> AnyReading:
        """Eyes and hands find the hazard when there is one, and a wet top; ice inside shows nothing."""
        marks = [{"sign": self.battery.hazard}] if self.battery.hazard else []
        marks += [{"sign": "wet_top"}] if self.battery.wet_top else []
        return self._reading("look", 1, marks=marks)

    def rest_volts(self, settle: bool = False, ask_temperature: bool = False) -> AnyReading:
        """Volts as the battery stands, or after headlamps and a short rest that is skipped now and then."""
        settled = "just_charged" if self.just_charged else "rested"
        if settle:
            settled = "headlamps"
            self.minutes += 17
            if not self._slips("rest skipped"):
                self.battery.headlamps()
                self.just_charged = False
        return self._reading(
            "rest_volts", 1, volts=self._metered(self.battery.rest_volts()), settled=settled,
            after_full_charge=self.charged and not self.just_charged, temperature_c=self._temperature(ask_temperature),
            confirmed=True,
        )  # fmt: skip

    def tester(self, careful: bool = False) -> AnyReading:
        """The electronic tester; a second, careful go is set right more often."""
        display = self.battery.conductance_cca() * (1 + self.chance.gauss(0, TESTER_NOISE))
        if self._slips("tester", careful):
            name, effect = self.chance.choice(TESTER_SLIPS)
            self.slipped[-1], display = name, display * effect
        return self._reading(
            "electronic_tester", 2, measured_cca_amps=round(display), type_set=TYPES[self.battery.chemistry]
        )

    def adjustable_load(self, amps: float, seconds: float = 15) -> AnyReading:
        """A pull; volts dropping at once show on the needle."""
        amps = min(amps, LONGEST_PULL_AMPS)
        drawn = amps * (1 + self.chance.gauss(0, LOAD_AMPS_NOISE))
        held, dirt, warmth = seconds, 0.0, self._temperature(always=True)
        if self._slips("load"):
            self.slipped[-1] = slip = self.chance.choice(LOAD_SLIPS)
            held = SHORT_PULL_SECONDS if slip == "held short" else seconds
            dirt = DIRTY_OHM if slip == "dirty posts" else 0.0
            warmth = None if slip == "no temperature" else warmth
        volts = self._metered(max(self.battery.under_load(drawn, held) - drawn * dirt, 0.3))
        needle = "dropped_at_once" if volts < 6 else "held"
        return self._reading("adjustable_load", 5, amps=round(amps), seconds=seconds, volts=volts, needle=needle,
                             temperature_c=warmth)  # fmt: skip

    def fixed_load(self, amps: float, seconds: float) -> AnyReading:
        """The small resistor, and where the volts come back to."""
        volts = self._metered(self.battery.under_load(amps, seconds))
        back = self._metered(self.battery.rest_volts())
        return self._reading(
            "fixed_load", 3, amps=amps, seconds=seconds, volts=volts, bounce_volts=back, temperature_c=self._temperature()
        )  # fmt: skip

    def crank(self, seconds: float) -> AnyReading:
        """The car's starter, read at the posts."""
        volts = self._metered(
            self.battery.under_load(self.battery.starter_share * self.battery.rated_cca_amps, seconds)
        )
        return self._reading("crank", 5, seconds=seconds, volts=volts, temperature_c=self._temperature())

    def clean_the_top(self) -> AnyReading:
        """Cleaned, dried, and measured again from the positive post to the plastic."""
        self.battery.wet_top = False
        return self._reading("case_leakage", 10, volts=0.1, cleaned=True)

    def cells(self) -> AnyReading:
        """Gravity of every cell."""
        battery = self.battery
        weak_at = CELLS - 1 if battery.weak_by else None
        gravities = [
            round(
                battery.cell_gravity(shorted=place < battery.shorted_cells, weak=place == weak_at)
                + self.chance.gauss(0, HYDROMETER_NOISE),
                3,
            )
            for place in range(CELLS)
        ]
        return self._reading(
            "cells", 12, specific_gravities=gravities, after_full_charge=self.charged, temperature_c=26.7
        )

    def charge(self, recovery: bool = False) -> list[AnyReading]:
        """A full charge as seen at the charger, written down a few times on the way."""
        battery = self.battery
        if battery.holds_ice():
            self.charged_ice = True
        if battery.shorted_cells or (battery.open_link and self.chance.random() < 0.5):
            hours, amps = 4.0, 8.0  # it never finishes; somebody looks in after half a shift
            volts = 14.4 - 2.0 * battery.shorted_cells
            if battery.open_link:
                amps, volts = 0.0, 14.4
            return [self._reading("charge_run", hours * 60, start_amps=amps, amps=amps, volts=self._metered(volts),
                                  hours=hours)]  # fmt: skip
        curve = battery.charge_curve(self.chance.uniform(*EFFICIENCY[battery.chemistry]))
        hours = curve[-1][0]
        battery.charge_fully(hours)
        self.charged = self.just_charged = True
        log = [{"minutes": round(at * 60), "amps": round(amps, 1)} for at, amps in curve]
        return [
            self._reading("charge_run", hours * 60, start_amps=round(curve[0][1], 1), amps=round(curve[-1][1], 1), volts=14.4,
                          hours=round(max(hours, 0.1), 1), finished=True, log=log, recovery=recovery)
        ]  # fmt: skip

    def stand(self, hours: float = 14) -> AnyReading:
        """Off everything for some hours, the same meter before and after."""
        start = self._metered(self.battery.rest_volts())
        self.battery.rest(hours)
        self.just_charged = False
        return self._reading(
            "stand", hours * 60, start_volts=start, volts=self._metered(self.battery.rest_volts()), hours=hours
        )

    def reserve(self, amps: float) -> AnyReading:
        """A timed discharge from the charge it has, to 10.5 V."""
        full = self.charged or self.battery.charge > 0.97
        minutes = self.battery.discharge_minutes(amps)
        self.just_charged = self.charged = False
        return self._reading("reserve", minutes + 5, amps=amps, minutes=round(max(minutes, 1)), volts=10.5,
                             after_full_charge=full, temperature_c=round(self.battery.temperature_c))  # fmt: skip

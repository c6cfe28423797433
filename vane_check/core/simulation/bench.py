"""The bench: instruments with their errors, and hands that go wrong now and then without saying so."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any

from ..readings import AnyReading
from ..readings.check import ONE_READING
from .battery import SimulatedBattery
from .charging import Charging

START = datetime(2026, 1, 5, 8, 0, tzinfo=UTC)
METER_GAIN, METER_VOLTS = 0.002, 0.003
"""One meter is off by a share that stays; its last digit and the hand add a little each time."""

TESTER_GAIN, TESTER_NOISE = 0.015, 0.015
"""One tester is off by a share that stays, and by a little each time it is clamped."""

LOAD_AMPS_NOISE = 0.02
HYDROMETER_NOISE = 0.003
CAREFUL = 0.25
"""Share of the slips that are left when somebody is told to take care."""

TYPES = {"flooded": "flooded", "calcium": "flooded", "efb": "efb", "agm": "agm_flat", "gel": "gel"}
TESTER_SLIPS = (("studs", 0.5), ("wrong type", 0.77), ("wrong type", 1.12), ("dirty posts", 0.8))
LOAD_SLIPS = ("held short", "dirty posts", "no temperature")
SHORT_PULL_SECONDS = 7.0
DIRTY_OHM = 0.0012
LONGEST_PULL_AMPS = 500.0
MISREAD, MISREAD_VOLTS = 0.1, 0.2
"""Of the slips at a meter, how many are a digit read or typed wrong, and by how much."""

CHARGER_AMPS = (6.0, 10.0, 10.0, 15.0)
MOST_AMPS_PER_AH = 0.25
RECOVERY_AMPS_PER_AH = 0.03
KNOWN_WITHIN_C = 2.0
"""Ice shows nothing: it could be known where the battery's own temperature was typed."""


class SimulatedBench:
    """Takes readings of one battery. Time goes by as it works; `minutes` counts it, `tests` the readings, `slipped` the slips."""

    def __init__(self, battery: SimulatedBattery, chance: random.Random, slips: float = 0.1) -> None:
        self.battery = battery
        self.chance = chance
        self.slips = slips
        self.minutes = 0.0
        self.tests = 0
        self.slipped: list[str] = []
        self.charged_ice = False
        self.meter_gain = 1 + chance.gauss(0, METER_GAIN)
        self.load_meter_gain = 1 + chance.gauss(0, 2 * METER_GAIN)
        self.tester_gain = 1 + chance.gauss(0, TESTER_GAIN)
        self.room_c = min(max(chance.gauss(18, 5), 5.0), 30.0)
        self.just_charged = False
        self.charged = False
        self.water_seen = battery.has_caps and chance.random() < 0.7
        self.charging: Charging | None = None
        self.charger_amps = chance.choice(CHARGER_AMPS)
        self.typed_c: float | None = None

    def _reading(self, kind: str, took: float, /, **body: Any) -> AnyReading:
        self.pass_minutes(took)
        self.tests += 1
        at = (START + timedelta(minutes=self.minutes)).isoformat()
        return ONE_READING.validate_python({"kind": kind, "taken_at": at, "id": str(self.tests), **body})

    def pass_minutes(self, minutes: float, rests: bool = False) -> None:
        """The clock goes on; the battery with it where it only rests."""
        self.minutes += minutes
        if rests:
            self.battery.rest(minutes / 60)

    def _slips(self, what: str, careful: bool = False) -> bool:
        slipped = self.chance.random() < self.slips * (CAREFUL if careful else 1.0)
        if slipped:
            self.slipped.append(what)
        return slipped

    def _metered(self, volts: float, gain: float | None = None) -> float:
        return round(max(volts * (gain or self.meter_gain) + self.chance.gauss(0, METER_VOLTS), 0.0), 2)

    def _misread(self, volts: float) -> float:
        if self.chance.random() >= self.slips * MISREAD:
            return volts
        self.slipped.append("misread")
        return round(max(volts + self.chance.choice((-1, 1)) * MISREAD_VOLTS, 0.0), 2)

    def _temperature(self, always: bool = False) -> float | None:
        """The battery's, now and then the room's in its place, now and then none."""
        if self._slips("room's temperature"):
            self.typed_c = round(self.room_c)
        elif always or not self._slips("no temperature"):
            self.typed_c = round(self.battery.temperature_c)
        else:
            return None
        return self.typed_c

    def look(self, into: bool = False) -> AnyReading:
        """Eyes and hands: a hazard that shows, a wet top, corrosion, the level where somebody looked in; ice inside shows nothing."""
        battery = self.battery
        self.water_seen = self.water_seen or (into and battery.has_caps)
        marks = [{"sign": battery.hazard}] if battery.hazard and battery.hazard_shows else []
        marks += [{"sign": "wet_top"}] if battery.wet_top else []
        body: dict[str, Any] = {"marks": marks, "corrosion": "heavy" if battery.corroded else "none"}
        if self.water_seen:
            body["levels"] = ["plates_bare" if battery.dry else "right"] * battery.cells
        return self._reading("look", 1, **body)

    def rest_volts(self, settle: bool = False, hours: float | None = None) -> AnyReading:
        """Volts as the battery stands, after headlamps and a short rest that is skipped now and then, or after hours that are counted."""
        settled: dict[str, Any] = {"settled": "just_charged" if self.just_charged else "rested"}
        if hours is not None:
            self.pass_minutes(hours * 60, rests=True)
            self.just_charged = False
            settled = {"settled": "rested", "rested_hours": hours}
        elif settle:
            settled["settled"] = "headlamps"
            self.pass_minutes(17)
            if not self._slips("rest skipped"):
                self.battery.headlamps()
                self.just_charged = False
        volts = self._misread(self._metered(self.battery.rest_volts()))
        return self._reading(
            "rest_volts", 1, volts=volts, **settled, after_full_charge=self.charged and not self.just_charged,
            temperature_c=self._temperature(), confirmed=True,
        )  # fmt: skip

    def tester(self, careful: bool = False) -> AnyReading:
        """The electronic tester; a second, careful go is set right more often."""
        display = self.battery.conductance_cca() * self.tester_gain * (1 + self.chance.gauss(0, TESTER_NOISE))
        if self.battery.corroded:
            display *= 0.85
        if self._slips("tester", careful):
            name, effect = self.chance.choice(TESTER_SLIPS)
            self.slipped[-1], display = name, display * effect
        return self._reading(
            "electronic_tester", 2, measured_cca_amps=round(max(display, 20)), type_set=TYPES[self.battery.chemistry]
        )

    def adjustable_load(self, amps: float, seconds: float = 15) -> AnyReading:
        """A pull; volts dropping at once show on the needle."""
        amps = min(max(amps, 50), LONGEST_PULL_AMPS)
        drawn = amps * (1 + self.chance.gauss(0, LOAD_AMPS_NOISE))
        held, dirt, warmth = seconds, DIRTY_OHM if self.battery.corroded else 0.0, self._temperature(always=True)
        if self._slips("load"):
            self.slipped[-1] = slip = self.chance.choice(LOAD_SLIPS)
            held = SHORT_PULL_SECONDS if slip == "held short" else seconds
            dirt = DIRTY_OHM if slip == "dirty posts" else dirt
            warmth = None if slip == "no temperature" else warmth
        under = self.battery.under_load(drawn, held) - drawn * dirt
        volts = self._metered(max(under, 0.3), self.load_meter_gain)
        needle = "dropped_at_once" if volts < self.battery.cells else "held"
        return self._reading(
            "adjustable_load", 5, amps=round(amps), seconds=seconds, volts=volts, needle=needle, temperature_c=warmth
        )

    def fixed_load(self, amps: float, seconds: float) -> AnyReading:
        """The small resistor, and where the volts come back to."""
        volts = self._metered(self.battery.under_load(amps, seconds), self.load_meter_gain)
        back = self._metered(self.battery.rest_volts(), self.load_meter_gain)
        return self._reading(
            "fixed_load", 3, amps=amps, seconds=seconds, volts=volts, bounce_volts=back, temperature_c=self._temperature()
        )  # fmt: skip

    def crank(self, seconds: float) -> AnyReading:
        """The car's starter, read at the posts."""
        drawn = self.battery.starter_share * self.battery.rated_cca_amps
        volts = self._metered(self.battery.under_load(drawn, seconds))
        return self._reading("crank", 5, seconds=seconds, volts=volts, temperature_c=self._temperature())

    def clean_the_top(self) -> AnyReading:
        """Cleaned, dried, and measured again from the positive post to the plastic."""
        self.battery.wet_top = False
        return self._reading("case_leakage", 10, volts=0.1, cleaned=True)

    def clean_the_posts(self) -> AnyReading:
        """Cleaned, and looked at again."""
        self.battery.corroded = False
        self.pass_minutes(9)
        return self.look()

    def top_up(self) -> AnyReading:
        """Distilled water over the plates, and a look into every cell: what was strong acid is thinner now."""
        self.water_seen = True
        if self.battery.dry:
            self.battery.dry = False
            self.battery.charge *= 0.8
        self.pass_minutes(14)
        return self.look()

    def cells(self, equalised: bool = False) -> AnyReading:
        """Gravity of every cell."""
        figures = [round(gravity + self.chance.gauss(0, HYDROMETER_NOISE), 3) for gravity in self.battery.gravities()]
        if self._slips("hydrometer"):
            place = self.chance.randrange(len(figures))
            figures[place] = round(figures[place] + self.chance.choice((-0.03, 0.03, 0.1)), 3)
        return self._reading(
            "cells", 12, specific_gravities=figures, after_full_charge=self.charged, temperature_c=26.7, equalised=equalised
        )  # fmt: skip

    def begin_charge(self, recovery: bool = False, amps: float | None = None) -> None:
        """On the charger: at its plan's amps as far as this charger gives them."""
        known = self.typed_c is not None and abs(self.typed_c - self.battery.temperature_c) <= KNOWN_WITHIN_C
        if self.battery.holds_ice() and known:
            self.charged_ice = True
        ah = self.battery.rated_ah
        gives = min(self.charger_amps, MOST_AMPS_PER_AH * ah if amps is None else amps)
        self.charging = Charging(self.battery, max(RECOVERY_AMPS_PER_AH * ah if recovery else gives, 0.5))
        self.just_charged = False

    def watch_charge(self, minutes: float, recovery: bool = False, stopped: bool = False) -> AnyReading:
        """So many minutes more, then amps and volts as they stand; taken off where it says full, or where it is stopped."""
        if self.charging is None:
            self.begin_charge(recovery)
        charge = self.charging
        assert charge is not None
        before = charge.hours
        charge.run(minutes / 60)
        took, now, full = (charge.hours - before) * 60, charge.shown(), charge.is_full
        if full or stopped:
            charge.take_off()
            self.charging, self.just_charged, self.charged = None, True, full
        return self._reading(
            "charge_run", took + 2, start_amps=0.0 if charge.dead else round(charge.most_amps, 1), amps=round(now.amps, 1),
            volts=self._metered(now.volts), hours=round(max(charge.hours, 0.1), 1), finished=full, stopped=stopped and not full,
            recovery=recovery,
        )  # fmt: skip

    def stand(self, hours: float = 14) -> AnyReading:
        """Off everything for some hours, the same meter before and after."""
        start = self._metered(self.battery.rest_volts())
        self.battery.rest(hours)
        self.just_charged = False
        return self._reading(
            "stand", hours * 60, start_volts=start, volts=self._metered(self.battery.rest_volts()), hours=hours
        )

    def reserve(self, amps: float) -> AnyReading:
        """A timed discharge from the charge it has, to 1.75 V a cell."""
        full = self.charged or self.battery.charge > 0.97
        minutes = self.battery.discharge_minutes(amps)
        self.just_charged = self.charged = False
        return self._reading(
            "reserve", minutes + 5, amps=amps, minutes=round(max(minutes, 1)), volts=1.75 * self.battery.cells,
            after_full_charge=full, temperature_c=round(self.battery.temperature_c),
        )  # fmt: skip

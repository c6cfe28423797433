"""A charge as the charger sees it: current limited first, then held at its volts while the current falls."""

import math
from typing import NamedTuple

from .battery import ABSORPTION_VOLTS, CHARGE_TAU_HOURS, SHORT_VOLTS, STEP_HOURS, SimulatedBattery

WAKES_AFTER_HOURS = 1.0
"""How long one that stood flat for weeks takes before it rests by its acid again."""

MOST_HOURS = 60.0


class Shown(NamedTuple):
    """What the charger and the meter show."""

    amps: float
    volts: float


class Charging:
    """A charge that goes on: `run` lets hours pass, `shown` is what stands on the charger now, `is_full` whether it says so."""

    def __init__(self, battery: SimulatedBattery, most_amps: float) -> None:
        self.battery = battery
        self.most_amps = most_amps
        self.hours = 0.0
        self.put_in_ah = 0.0
        self.limit_volts = ABSORPTION_VOLTS[battery.chemistry] * battery.cells / 6
        self.hours_at_volts = 0.0
        self.amps_at_volts = 0.0

    @property
    def dead(self) -> bool:
        """Whether no current can flow: its link is open for good."""
        return self.battery.open_link and self.battery.strength < 0.9

    def _volts_at(self, amps: float) -> float:
        """Volts at the posts [V] while so much flows, before the charger holds them."""
        battery = self.battery
        rate = max(amps / max(battery.real_ah, 1.0) / 0.1, 0.02)
        live = (battery.cells - battery.shorted_cells) / battery.cells
        over = 0.5 * rate**0.4 + 1.3 * max(battery.charge, 0.0) ** 4 * rate**0.3
        over += 0.8 * max(-battery.charge, 0.0) + 0.6 * battery.sulphation * rate
        lift = battery.surface.volts * battery.cells / 6
        volts: float = battery.rest_volts() - lift + over * live * battery.cells / 6
        return volts + battery.shorted_cells * SHORT_VOLTS

    def _ends_at(self) -> float:
        return max(self.battery.ends_at_amps_per_ah * self.battery.rated_ah, 0.1)

    def shown(self) -> Shown:
        """Amps and volts now."""
        if self.dead:
            return Shown(0.0, self.limit_volts)
        if self.hours_at_volts > 0:
            falls = math.exp(-self.hours_at_volts / CHARGE_TAU_HOURS)
            return Shown(self._ends_at() + (self.amps_at_volts - self._ends_at()) * falls, self.limit_volts)
        return Shown(self.most_amps, min(self._volts_at(self.most_amps), self.limit_volts))

    @property
    def is_full(self) -> bool:
        """Whether the charger shows its end: the current hardly falls any more."""
        return self.hours_at_volts > 0 and self.shown().amps <= self._ends_at() * 1.25 + 0.05

    def run(self, hours: float) -> None:
        """Let so many hours pass, or fewer where it is full before."""
        end = self.hours + hours
        while self.hours < end - 1e-9 and not self.is_full and self.hours < MOST_HOURS:
            self._pass(STEP_HOURS)

    def _pass(self, hours: float) -> None:
        battery, now = self.battery, self.shown()
        self.hours += hours
        battery.clock_hours += hours
        if self.dead:
            return
        self.put_in_ah += now.amps * hours
        stored = now.amps * hours * battery.efficiency / max(battery.real_ah, 1.0)
        if battery.shorted_cells:  # the live cells fill, and the volts never come
            battery.charge = min(battery.charge + stored, battery.top_charge)
        elif self.hours_at_volts > 0:
            whole = self.amps_at_volts * CHARGE_TAU_HOURS * battery.efficiency / max(battery.real_ah, 1.0)
            least = battery.top_charge - whole * math.exp(-self.hours_at_volts / CHARGE_TAU_HOURS)
            battery.charge = min(max(battery.charge + 0.3 * stored, least), battery.top_charge)
            self.hours_at_volts += hours
        else:
            battery.charge = min(battery.charge + stored, battery.top_charge)
            near = battery.top_charge - now.amps * CHARGE_TAU_HOURS * battery.efficiency / max(battery.real_ah, 1.0)
            if battery.charge >= near and not battery.shorted_cells:
                missing_ah = max(battery.top_charge - battery.charge, 0.0) * battery.real_ah / battery.efficiency
                self.hours_at_volts = hours
                self.amps_at_volts = max(min(now.amps, missing_ah / CHARGE_TAU_HOURS), self._ends_at())
        if self.hours >= WAKES_AFTER_HOURS:
            battery.sunk_volts = 0.0
        battery.surface.put(min(battery.surface.volts + 0.6 * hours, battery.surface.left_by_charge_volts))

    def take_off(self) -> None:
        """The charger comes off: surface charge is left, a long charge has mixed the acid and lifted the weak cell a little."""
        battery = self.battery
        if self.hours_at_volts > 1.0:
            battery.layered *= 0.15
            battery.weak_by *= 0.8
            battery.cell_charge_lost *= 0.3
            battery.surface.put(battery.surface.left_by_charge_volts)
        if battery.shorted_cells:
            battery.surface.put(0.15)

"""Acid: its gravity, where it freezes, and the state of charge that gravity, volts and tester tell together."""

from dataclasses import dataclass, replace
from statistics import median

from ..battery.label import Chemistry
from ..house.rules import HouseRules
from ..readings import Cells, ChargeRun, ElectronicTester
from ..tables import charge_tables
from ..units.compare import CELSIUS, over
from ..units.lines import on_line
from ..words import NOTHING, cited, in_a_row, say, word
from .charges import ChargeFacts
from .gravity import corrected_gravity, freezing_point_c
from .remembered import derived
from .rest import after_charge
from .state_of_charge import StateOfCharge, state_of_charge_range
from .tester_settings import why_void


def corrected_gravities(reading: Cells, rules: HouseRules) -> tuple[float, ...]:
    """All cells corrected; as read when no temperature was taken."""
    if reading.temperature_c is None:
        return reading.specific_gravities
    return tuple(corrected_gravity(gravity, reading.temperature_c, rules) for gravity in reading.specific_gravities)


@dataclass(frozen=True, kw_only=True)
class AcidFacts(ChargeFacts):
    """Its acid, and its state of charge."""

    @derived
    def _latest_gravities(self) -> tuple[float, ...]:
        for reading in reversed(self.all_of(Cells)):
            if reading.specific_gravities and not self._is_older(reading):
                return corrected_gravities(reading, self.rules_for(reading))
        return ()

    def _is_older(self, reading: Cells) -> bool:
        """Whether a charge was taken off after this was read."""
        return self.charge_off_at is not None and reading.taken_at < self.charge_off_at

    def _gravity_at(self, soc_pct: float) -> float:
        """Gravity at a state of charge, from the chemistry's table; where that has none (AGM, gel) the weaker acid of a flooded one."""
        table = charge_tables()[self.battery.chemistry.value]
        if None in table.specific_gravity:
            table = charge_tables()[Chemistry.FLOODED.value]
        gravities = [gravity for gravity in table.specific_gravity if gravity is not None]
        return on_line(soc_pct, table.state_of_charge_pct, gravities)

    @derived
    def weakest_gravity(self) -> float | None:
        """Gravity of its weakest acid as far as it is known, from the cells, else from the low end of its charge; None when nothing tells."""
        gravities = self._latest_gravities
        if gravities:
            return min(gravities)
        charge = self.state_of_charge
        if charge is None:
            return None
        by_table = self._gravity_at(charge.low_pct)
        if charge.low_pct > 0 or charge.rest_volts is None or charge.meter_uncertainty_volts is None:
            return by_table
        # under the table's empty the acid goes on getting weaker: a cell's volts are its gravity and a constant
        cells = self.battery.nominal_volts // 2
        by_volts = (
            charge.rest_volts - charge.meter_uncertainty_volts
        ) / cells - self.rules.cells.volts_over_gravity.value
        return max(min(by_table, by_volts), 1.0)

    @property
    def may_hold_ice(self) -> float | None:
        """Where its acid freezes [C], if that is warmer than a battery may be here and nobody took its temperature; None otherwise."""
        if self.temperature_c is not None or not self.readings:
            return None
        if any(run.amps is not None and not self.no_current(run) for run in self.all_of(ChargeRun)):
            return None  # ice takes no current
        if str(self.readings[-1].taken_at.month) not in self.rules.outlook.cold_months.value:
            return None
        gravity = self.weakest_gravity
        point = None if gravity is None else freezing_point_c(gravity)
        return point if point is not None and over(point, self.rules.outlook.coldest_c.value, CELSIUS) else None

    @derived
    def state_of_charge(self) -> StateOfCharge | None:
        """One range of charge from gravity, rest volts and the tester, and which of them rules.

        Gravity reads the acid itself; volts can still be lifted by surface charge; a tester only guesses. A stronger source is
        narrowed by a weaker one where the two overlap, and rules alone where they do not.
        """
        sources = [
            estimate for estimate in (self._by_gravity(), self._by_volts(), self._by_tester()) if estimate is not None
        ]
        if not sources:
            return None
        fused, agreeing, against = sources[0], [sources[0].rules_by], []
        for other in sources[1:]:
            low, high = max(fused.low_pct, other.low_pct), min(fused.high_pct, other.high_pct)
            if low <= high:
                agreeing.append(other.rules_by)
                fused = replace(fused, low_pct=low, high_pct=high, at_most=fused.at_most and other.at_most)
            else:
                against.append(other.rules_by)
        volts = next((source.rest_volts for source in sources if source.rest_volts is not None), None)
        off = next(
            (source.meter_uncertainty_volts for source in sources if source.meter_uncertainty_volts is not None), None
        )
        words = in_a_row(agreeing, "common.and") + (
            say("acid.against_the", others=in_a_row(against, "common.and")) if against else NOTHING
        )
        return replace(fused, rest_volts=volts, meter_uncertainty_volts=off, rules_by=words)

    def _by_tester(self) -> StateOfCharge | None:
        for reading in reversed(self.all_of(ElectronicTester)):
            if reading.state_of_charge_pct is not None:
                if why_void(reading, self) is not None or (
                    self.charge_off_at and reading.taken_at < self.charge_off_at
                ):
                    return None
                spread = self.rules.tester.soc_spread_pct
                return StateOfCharge(
                    low_pct=max(reading.state_of_charge_pct - spread.value, 0.0),
                    high_pct=min(reading.state_of_charge_pct + spread.value, 100.0),
                    rest_volts=None, meter_uncertainty_volts=None, at_most=False,
                    source=cited(spread.source), standing=spread.standing, rules_by=word("tester"),
                )  # fmt: skip
        return None

    def _by_volts(self) -> StateOfCharge | None:
        if not self.valid_rest_volts:
            return None
        last = self.valid_rest_volts[-1]
        if self.charge_off_at is not None and last.taken_at < self.charge_off_at:
            return None
        at_most = after_charge(last) and not last.after_full_charge
        return state_of_charge_range(
            last.volts, self.battery, self.rules_for(last), at_most=at_most, meter_range=last.meter_range
        )

    def _by_gravity(self) -> StateOfCharge | None:
        gravities = self._latest_gravities
        table = charge_tables()[self.battery.chemistry.value]
        known = [gravity for gravity in table.specific_gravity if gravity is not None]
        if not gravities or len(known) != len(table.specific_gravity):
            return None
        middle = median(gravities)  # one dead cell says nothing of the charge of the others
        off = self.rules_for(self.all_of(Cells)[-1]).gravity.resolution.value
        low, high = (on_line(middle + shift, known, table.state_of_charge_pct) for shift in (-off, off))
        return StateOfCharge(
            low_pct=low, high_pct=high, rest_volts=None, meter_uncertainty_volts=None, at_most=False,
            source=cited(table.origin.source), standing=table.origin.standing, rules_by=say("word.gravity"),
        )  # fmt: skip

    @derived
    def frozen_acid(self) -> tuple[float, float] | None:
        """Gravity of its weakest acid and where that freezes [C], if it is as cold as that: it may hold ice. None otherwise."""
        if self.temperature_c is None or self.temperature_c > 0:
            return None
        gravity = self.weakest_gravity
        if gravity is None:
            return None
        point = freezing_point_c(gravity)
        if over(self.temperature_c, point + self.rules.gravity.ice_margin_c.value, CELSIUS):
            return None
        return gravity, point

"""A battery one can measure without owning one.

Physics for practice and for judging the judgement: it shares no table and no threshold with it but the line of 75 % of the rating that
both call fit. Open-circuit volts come from the acid, resistance from temperature, charge and wear, charge from what is done to it.
"""

from .battery import SimulatedBattery, SurfaceCharge, Truth
from .bench import SimulatedBench
from .charging import Charging
from .population import Arrival, population

__all__ = ["Arrival", "Charging", "SimulatedBattery", "SimulatedBench", "SurfaceCharge", "Truth", "population"]

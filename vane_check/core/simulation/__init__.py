"""A battery one can measure without owning one.

Physics for practice and for judging the judgement: it shares no table and no threshold with it. Open-circuit volts come
from the acid (a straight fit to the electrode potentials of Bode 1977), resistance from temperature, charge and wear,
charge from what is done to it. Figures of the model are from memory unless said otherwise.
"""

from .battery import SimulatedBattery, Truth
from .bench import SimulatedBench
from .population import population

__all__ = ["SimulatedBattery", "SimulatedBench", "Truth", "population"]

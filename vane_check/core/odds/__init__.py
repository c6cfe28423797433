"""A second opinion beside the rules: how likely each outcome is, by weighing a library of simulated batteries with every reading.

The rules stay the judge: papers and claims name rules, never odds.
"""

from .ahead import Horizon, ahead_of
from .second_opinion import Odds, odds_of

__all__ = ["Horizon", "Odds", "ahead_of", "odds_of"]

"""What a charge tells of the Ah a battery holds, against the simulator's truth.

python -m bench.capacity [SIZE]      the table of docs/rack.md
"""

import random
import statistics
import sys
from collections.abc import Sequence
from typing import NamedTuple

from pydantic import TypeAdapter

from vane_check.core.battery.label import Battery
from vane_check.core.facts.capacity import capacity_of
from vane_check.core.facts.case import Case
from vane_check.core.house.rules import house_rules
from vane_check.core.readings.charge_run import ChargePoint
from vane_check.core.readings.check import Check
from vane_check.core.simulation import Arrival, SimulatedBench, Truth, population

ONE_LOG = TypeAdapter(tuple[ChargePoint, ...])
SEED = 20261126
CHARGED_BY = {Truth.SHORTED_CELL, Truth.OPEN_LINK, Truth.HAZARD, Truth.FROZEN}
"""Those whose charge never finishes, or is not begun."""


class Told(NamedTuple):
    """The estimate of one charge against what the battery really holds."""

    missing_pct: float
    error_pct: float
    inside: bool


def told(arrival: Arrival, chance: random.Random) -> Told | None:
    """Rested volts, a full charge looked at each hour, and the capacity from both; None where it says nothing."""
    battery = arrival.battery
    holds = (
        battery.real_ah * battery.top_charge
    )  # what it gives from full today: sulphated plates keep part of the acid
    bench = SimulatedBench(battery, chance, slips=0.0)
    battery.rest(24)
    battery.sunk_volts = 0.0
    rested, log = bench.rest_volts(), []
    bench.begin_charge()
    while bench.charging is not None:
        noted = bench.charging.hours, bench.charging.shown().amps
        log.append({"minutes": round(noted[0] * 60), "amps": round(noted[1], 1)})
        run = bench.watch_charge(60)
    readings = (rested, run.model_copy(update={"log": ONE_LOG.validate_python(log)}))
    label = Battery.model_validate({"chemistry": battery.chemistry, "capacity_ah_20h": round(battery.rated_ah)})
    found = capacity_of(Case.of(Check(battery=label, readings=readings), house_rules()))
    if found is None:
        return None
    return Told(found.missing_pct, (found.ah / holds - 1) * 100, found.low_ah <= holds <= found.high_ah)


def measured(size: int) -> tuple[list[Told], int]:
    """Every estimate over a seeded population, and of how many batteries nothing was said."""
    chance = random.Random(SEED)
    batteries = [
        arrival
        for arrival in population(size, SEED)
        if arrival.battery.truth not in CHARGED_BY and arrival.nominal_volts == 12 and not arrival.battery.dry
    ]
    found = [told(one, chance) for one in batteries]
    said = [one for one in found if one is not None]
    return said, len(found) - len(said)


def line(name: str, said: Sequence[Told]) -> str:
    """One row of the table."""
    errors = sorted(abs(one.error_pct) for one in said)
    bias = statistics.mean(one.error_pct for one in said)
    share = sum(one.inside for one in said) / len(said) * 100
    return f"| {name} | {len(said)} | {statistics.median(errors):.0f} % | {errors[int(len(errors) * 0.9)]:.0f} % | {bias:+.0f} % | {share:.0f} % |"


def main() -> None:
    """Print the table."""
    said, silent = measured(int(sys.argv[1]) if len(sys.argv) > 1 else 3000)
    print(
        "| missing before the charge | batteries | median error | nine of ten within | bias | truth inside its width |"
    )
    print("|---|---|---|---|---|---|")
    for low, high in ((0, 40), (40, 60), (60, 80), (80, 101)):
        part = [one for one in said if low <= one.missing_pct < high]
        if part:
            print(line(f"{low} to {min(high, 100)} %", part))
    print(line("all that say something", said))
    print(f"\nof {len(said) + silent} that could be charged, {silent} say nothing: too little was missing")


if __name__ == "__main__":
    main()

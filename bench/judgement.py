"""Does it judge better? A seeded population with known truth, played to the end by each policy.

`python -m bench.judgement [SIZE]` writes docs/judgement.md and docs/judgement.svg.
"""

import copy
import random
import sys
import time
from dataclasses import replace
from multiprocessing import Pool

from bench.judgement_page import DOCS, TEXT, by_cause, plot, table
from bench.odds import FRESH_SEED, odds_in_words, played
from bench.policies import Policy, by_the_house, careful, careful_with_reserve, load_only, tester_only, volts_only
from bench.scoring import Row, cause_of, row_of
from vane_check.core.house.rules import SCHOOLS, HouseRules, changed_rules, house_rules
from vane_check.core.simulation import population

SIZE, SEED = 3000, 20270401
SINGLES = 10
"""How many policies come before the switched ones."""

STEADIER, STEADY_HANDS = (0, 1, 2, 5), 1 / 3
"""Which policies are also played with steadier hands, and how much steadier."""

ODDS_SIZE = 1200
"""How many batteries the odds are tried on, by each of three schools."""


def score(name: str, policy: Policy, size: int, seed: int = SEED, hands: float = 1.0) -> Row:
    """The policy over a population of this size, whose hands slip so many times as often."""
    arrivals = [replace(arrival, slips=hands * arrival.slips) for arrival in population(size, seed)]
    ends = [policy(copy.deepcopy(arrival), random.Random(seed + place)) for place, arrival in enumerate(arrivals)]
    return row_of(name, list(zip(arrivals, ends, strict=True)))


def policies() -> list[tuple[str, Policy]]:
    """The five schools, the single methods, a careful technician; then what each rule buys, one switched at a time."""
    schools = [
        (f"Vane Check, {house_rules(school).name.lower()}", by_the_house(house_rules(school))) for school in SCHOOLS
    ]
    return [
        *schools,
        ("careful technician", careful),
        ("careful, and 25 A from full", careful_with_reserve),
        ("volts only", volts_only),
        ("tester only", tester_only),
        ("load only", load_only),
        *((f"without {what}", by_the_house(_switched(values))) for what, values in SWITCHED.items()),
    ]


SWITCHED: dict[str, dict[str, object]] = {
    "a second method": {"decision.methods_to_condemn": 1},
    "a second method or a second clamping": {"decision.methods_to_condemn": 1, "decision.second_look": "no"},
    "the volts after a failed pull": {"rest.to_condemn": "as_said"},
    "a second pull": {"load.pulls_to_condemn": "one"},
    "a stand after a charge": {"stand.after_flat": "no"},
    "a load where it did not start": {"load.after_clicks": "no"},
    "a margin for ice": {"gravity.ice_margin_c": 0},
}
"""Rules of electronic first that are switched off one at a time."""


def _switched(values: dict[str, object]) -> HouseRules:
    return changed_rules(house_rules(), values, "for the bench")


def cases(size: int = 100) -> str:
    """So many batteries picked at random from the seed of the figures, with what was said of each on its way."""
    play, lines = by_the_house(house_rules()), []
    for place, arrival in enumerate(population(size, SEED + 1)):
        battery = arrival.battery
        what = f"{battery.truth.value.replace('_', ' ')}, {battery.chemistry}, gives {battery.strength:.0%}, came with {max(battery.charge, 0):.0%}"
        end = play(copy.deepcopy(arrival), random.Random(SEED + place))
        said = [step.split(" -> ")[1].replace("_", " ") for step in end.asked]
        outcome = end.asked[-1].split(" h ")[1].split(" -> ")[0].replace("_", " ")
        lines.append(f"| {place + 1} | {what} | {', '.join(said)} | **{outcome}** after {end.minutes / 60:.1f} h |")
    return "| | what it is | what was asked, in order | what was said |\n|---|---|---|---|\n" + "\n".join(lines)


def _scored(asked: tuple[int, int, float]) -> Row:
    place, size, hands = asked
    name, policy = policies()[place]
    return score(name, policy, size, hands=hands)


def main() -> None:
    size = int(sys.argv[1]) if len(sys.argv) > 1 else SIZE
    began = time.perf_counter()
    with Pool(2) as pool:
        asked = [(place, size, 1.0) for place in range(len(policies()))]
        rows = pool.map(_scored, [*asked, *((place, size, STEADY_HANDS) for place in STEADIER)], chunksize=1)
    rows, steadier = rows[: len(asked)], rows[len(asked) :]
    ours, switched = rows[:SINGLES], [rows[0], *rows[SINGLES:]]
    print(table(rows))
    print(by_cause(rows))
    print(f"{time.perf_counter() - began:.1f} s")
    if size == SIZE:
        near = (
            100 * sum(cause_of(arrival.battery) == "worn, near the line" for arrival in population(size, SEED)) / size
        )
        plot(ours)
        (DOCS / "judgement.md").write_text(
            TEXT.format(
                size=size, seed=SEED, near=f"{near:.1f}", table=table(ours), causes=by_cause(ours), switched=table(switched), steadier=table(steadier),
                odds=odds_in_words(played(ODDS_SIZE, FRESH_SEED)), cases=cases(),
            )
        )  # fmt: skip


if __name__ == "__main__":
    main()

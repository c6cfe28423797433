"""The second opinion: its library, and whether of those called 90 % nine of ten are so.

python -m bench.odds library     make vane_check/core/odds/library.npz anew, then fit its calibration
python -m bench.odds fit         fit the calibration of the library that is there, after the rules changed
python -m bench.odds             calibration and scores on fresh seeds, as docs/judgement.md has them
"""

import copy
import math
import random
import sys
from multiprocessing import Pool
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

import bench.policies as policies
from bench.scoring import interval
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.house.rules import SCHOOLS, HouseRules, house_rules
from vane_check.core.judging.judgement import Judgement, judge
from vane_check.core.odds.library import CLASSES, FIELDS, LEAST_SHARE, terms
from vane_check.core.odds.second_opinion import ENDED, shares_of, weighed
from vane_check.core.readings.check import Check
from vane_check.core.simulation import Arrival, SimulatedBattery, Truth, population
from vane_check.core.simulation.battery import GRAVITY_FULL

OUT = Path(__file__).parents[1] / "vane_check/core/odds/library.npz"
LIBRARY_SEED, TUNING_SEED, FRESH_SEED = 20261202, 101, 20270402
SIZE, RESERVE_SIZE, TUNING_SIZE = 7000, 2500, 2500
"""Batteries a group of types, of those that start and of those that work by what they hold."""

KIND = {
    Truth.GOOD: 0, Truth.FROZEN: 0, Truth.WORN: 1, Truth.FADED: 1, Truth.WEAK_CELL: 2, Truth.SHORTED_CELL: 2, Truth.OPEN_LINK: 2,
    Truth.LEAKS: 3,
}  # fmt: skip
GROUPS = {"flooded": {"flooded"}, "calcium": {"calcium"}, "efb": {"efb"}, "agm": {"agm", "gel"}}


def kind_of(arrival: Arrival) -> int | None:
    """Which of CLASSES a battery is; a dangerous one is none of them. One that starts and only holds too little passes for starting."""
    battery = arrival.battery
    if battery.truth is Truth.HAZARD:
        return None
    if battery.truth is Truth.FADED and arrival.use == "private":
        return 0
    return KIND[battery.truth]


def _row(battery: SimulatedBattery, kind: int) -> list[float]:
    surface = battery.surface
    values = {
        **{name: getattr(battery, name) for name in FIELDS if hasattr(battery, name)},
        "gravity_full": GRAVITY_FULL[battery.chemistry] + battery.full_gravity_by,
        "cold_doubles_per_c": battery.cold_doubles_per_c,
        **{name: getattr(surface, name) for name in ("fast_volts", "slow_volts", "left_by_charge_volts", "slow_share", "fast_hours", "slow_hours", "lamps_leave")},
    }  # fmt: skip
    return [float(kind), *(float(values[name]) for name in FIELDS)]


def make_library() -> dict[str, np.ndarray]:
    """So many batteries of each group, drawn as a shop's year brings them in."""
    sizes = {name: SIZE for name in GROUPS} | {f"{name}_reserve": RESERVE_SIZE for name in GROUPS}
    rows: dict[str, list[list[float]]] = {name: [] for name in sizes}
    seed = LIBRARY_SEED
    while any(len(kept) < sizes[name] for name, kept in rows.items()):
        for arrival in population(4000, seed):
            kind = kind_of(arrival)
            group = next(name for name, types in GROUPS.items() if arrival.battery.chemistry in types)
            group = group if arrival.use == "private" else f"{group}_reserve"
            if kind is not None and len(rows[group]) < sizes[group]:
                rows[group].append(_row(arrival.battery, kind))
        seed += 1
    return {name: np.array(kept, dtype=np.float32) for name, kept in rows.items()}


class Said(NamedTuple):
    """What was said of a battery at one moment: the odds of a sound one, its sureness in words, and what is so."""

    sound: float
    shares: tuple[float, ...]
    outcome: Outcome
    sureness: str
    kind: int
    ended: bool


def _moments(arrival: Arrival, chance: random.Random, rules: HouseRules, kind: int) -> list[Said]:
    said: list[Said] = []

    def hears(check: Check, judged: Judgement) -> None:
        verdict = judge(check, rules)
        if not verdict.case.valid_rest_volts or judged.outcome is Outcome.UNSAFE:
            return
        shares = shares_of(weighed(verdict.case, verdict.findings), judged.outcome)
        ended = judged.outcome in policies.ENDS
        said.append(Said(float(shares[0]), tuple(shares.tolist()), judged.outcome, judged.sureness.key, kind, ended))

    policies.by_the_house(rules, hears)(arrival, chance)
    return said


def _played(task: tuple[str, int, int]) -> list[Said]:
    school, size, seed = task
    rules, result = house_rules(school), list[Said]()
    for place, arrival in enumerate(copy.deepcopy(population(size, seed))):
        kind = kind_of(arrival)
        if kind is not None and arrival.battery.hazard is None and arrival.battery.truth is not Truth.FROZEN:
            chance = random.Random(seed * 7 + place)
            moments = _moments(arrival, chance, rules, kind)
            if moments:  # one at random, so that long checks count no more than short ones; and the last
                result += [chance.choice(moments)._replace(ended=False), moments[-1]]
    return result


def played(size: int, seed: int) -> list[Said]:
    """Every moment of every play of a population by the first three schools."""
    with Pool(2) as pool:
        return [
            said
            for part in pool.map(_played, [(school, size, seed) for school in SCHOOLS[:3]], chunksize=1)
            for said in part
        ]


def fit(said: list[Said]) -> np.ndarray:
    """Weights of the terms that make the odds of a sound one true over what was played, by Newton's method: a row for checks that are
    open, one for those the rules have ended. What is played must be odds that no calibration touched."""
    rows = []
    for is_ended in (False, True):
        part = [one for one in said if (one.outcome in ENDED) == is_ended]
        shares = np.clip(np.array([one.sound for one in part]), LEAST_SHARE, 1 - LEAST_SHARE)
        summands, truth = terms(np.log(shares / (1 - shares))), np.array([one.kind == 0 for one in part], dtype=float)
        weights = np.array([0.0, 1.0, 0.0])
        for _ in range(50):
            right = 1 / (1 + np.exp(-(summands @ weights)))
            hessian = (summands * (right * (1 - right))[:, None]).T @ summands
            weights -= np.linalg.solve(hessian + 1e-9 * np.eye(3), summands.T @ (right - truth))
        rows.append(weights)
    return np.array(rows)


class Tenth(NamedTuple):
    """Those called within a tenth: how many, their mean odds, how many are so."""

    many: int
    called: float
    so: int


def tenths(said: list[Said]) -> list[Tenth | None]:
    """By tenths of what was called, the lowest first; None where nothing was called so."""
    rows: list[Tenth | None] = []
    for tenth in range(10):
        part = [one for one in said if tenth / 10 <= one.sound < (tenth + 1) / 10 + (tenth == 9)]
        called = sum(one.sound for one in part) / max(len(part), 1)
        rows.append(Tenth(len(part), called, sum(one.kind == 0 for one in part)) if part else None)
    return rows


def scores(said: list[Said]) -> tuple[float, float]:
    """Brier and log score of the odds of a sound one."""
    pairs = [(min(max(one.sound, 1e-6), 1 - 1e-6), one.kind == 0) for one in said]
    brier = sum((odds - so) ** 2 for odds, so in pairs) / len(pairs)
    return brier, -sum(math.log(odds if so else 1 - odds) for odds, so in pairs) / len(pairs)


SURE = {"judgement.sure": 0.95, "judgement.fairly_sure": 0.75, "judgement.not_sure": 0.5}
"""What the words of before the odds may be taken to have meant, to give them a score of their own."""


def by_words(said: list[Said]) -> float:
    """Brier score of the outcome and its word of sureness by the rules' own weights, as a chance of a sound one."""
    total = 0.0
    for one in said:
        chance = SURE.get(one.sureness, 0.5)
        odds = chance if one.outcome is Outcome.SOUND else 1 - chance if one.outcome in FAILED else 0.5
        total += (odds - (one.kind == 0)) ** 2
    return total / len(said)


NEAR_PCT = 3.0
"""So near [points] the share that is so is what was called."""


def odds_in_words(said: list[Said]) -> str:
    """Calibration and scores as docs/judgement.md has them."""
    ended, midway = [one for one in said if one.ended], [one for one in said if not one.ended]
    lines = [
        "The second opinion weighs a library of simulated batteries with every reading (`vane_check/core/odds`); these are other batteries, of a seed of",
        f"their own, at one moment of each check, picked at random ({len(midway)}), and at its end ({len(ended)}). Ends of 95 % intervals in brackets.", "",
        "| called sound | midway | called | are so | at the end | called | are so |", "|---|---|---|---|---|---|---|",
    ]  # fmt: skip
    true = rows = 0
    for place, parts in enumerate(zip(tenths(midway), tenths(ended), strict=True)):
        cells = []
        for part in parts:
            if part is None:
                cells.append("0 | | ")
                continue
            called, so, (least, most) = 100 * part.called, 100 * part.so / part.many, interval(part.so, part.many)
            rows, true = rows + 1, true + (least <= called <= most or abs(called - so) <= NEAR_PCT)
            cells.append(f"{part.many} | {called:.0f} % | {so:.0f} ({least:.0f} to {most:.0f}) %")
        lines.append(f"| {10 * place} to {10 * place + 10} % | {' | '.join(cells)} |")
    lines += [
        "",
        f"In {true} of {rows} what is so lies within three points of what was called, or its interval holds it.",
    ]
    (brier, log), (end_brier, end_log) = scores(midway), scores(ended)
    lines += [
        "",
        f"Brier score {brier:.3f} midway, {end_brier:.3f} at the end (log score {log:.3f} and {end_log:.3f}); the words of sureness by the rules' weights alone",
        f"score {by_words(ended):.3f} at the end.",
    ]
    return "\n".join(lines)


NOT_FITTED = np.array([[0.0, 1.0, 0.0], [0.0, 1.0, 0.0]])


def _write(table: dict[str, np.ndarray], calibration: np.ndarray) -> None:
    kept: dict[str, Any] = {**table, "calibration": calibration.astype(np.float32)}
    np.savez_compressed(OUT, **kept)


def main() -> None:
    """As asked."""
    if sys.argv[1:2] in (["library"], ["fit"]):
        with np.load(OUT) as kept:
            table = make_library() if sys.argv[1] == "library" else {name: kept[name] for name in kept.files}
        _write(table, NOT_FITTED)
        calibration = fit(played(TUNING_SIZE, TUNING_SEED))
        _write(table, calibration)
        print(
            f"{OUT.stat().st_size / 1e6:.1f} MB, {len(CLASSES)} outcomes, calibration {calibration.round(3).tolist()}"
        )
        return
    said = played(int(sys.argv[1]) if len(sys.argv) > 1 else 1500, FRESH_SEED)
    for name, part in (
        ("midway", [one for one in said if not one.ended]),
        ("at the end", [one for one in said if one.ended]),
    ):
        brier, log = scores(part)
        print(f"{name}: {len(part)}, Brier {brier:.4f}, log {log:.4f}")
        for tenth in filter(None, tenths(part)):
            print(f"  called {tenth.called:.3f}, so {tenth.so / tenth.many:.3f} ({tenth.many})")


if __name__ == "__main__":
    main()

"""The odds of each outcome, given every reading of a check."""

import math
from dataclasses import dataclass

import numpy as np

from ..battery.label import Chemistry
from ..facts.case import Case
from ..findings.outcomes import FAILED, Finding, Outcome
from .library import CLASSES, library_of, set_right
from .likelihood import Known, Weighing

GROUP_OF = {
    Chemistry.FLOODED: "flooded", Chemistry.HYBRID: "calcium", Chemistry.CALCIUM: "calcium", Chemistry.EFB: "efb",
    Chemistry.AGM: "agm", Chemistry.GEL: "agm",
}  # fmt: skip
"""Which batteries of the library a type is held against."""

OLD = frozenset({"judgement.from_before_the_charge", "judgement.measured_again_later"})
"""Why something fell off that was read as it should be, and still tells."""

LIKELY = 0.9
APART = 0.25
"""Where the rules condemn and more than so many like it are sound, or pass and more than so many are not, it is said."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Odds:
    """How likely each outcome is, 0 to 1; together they are 1. `likeliest` is the first of them."""

    sound: float
    worn_out: float
    dead_cell: float
    leaks_charge: float
    likeliest: Outcome
    disagrees: float | None = None
    """Share of those like it that the rules' outcome would be wrong of, where that is much."""

    @property
    def best(self) -> float:
        """The share of the likeliest."""
        return max(self.sound, self.worn_out, self.dead_cell, self.leaks_charge)


def share_of(odds: Odds, outcome: Outcome, otherwise: float) -> float:
    """How likely it is that this outcome is so; what it is otherwise where the odds do not know the outcome."""
    shares = {
        Outcome.SOUND: odds.sound,
        Outcome.WORN_OUT: odds.worn_out,
        Outcome.DEAD_CELL: odds.dead_cell,
        Outcome.LEAKS_CHARGE: odds.leaks_charge,
    }
    if outcome not in shares:
        return otherwise
    return (
        odds.sound if outcome is Outcome.SOUND else 1 - odds.sound
    )  # which of the bad ones it is matters less than that it is bad


def known_of(case: Case) -> Known:
    """What is known of it apart from its readings."""
    rated = case.label_rating if not case.works_by_reserve else None
    rated = rated or case.rated
    return Known(
        None if rated is None else rated.amps,
        0.0 if rated is None or rated.firm else rated.relative_spread,
        case.capacity_ah,
        case.battery.reserve_minutes,
        case.temperature_c,
    )


def weighed(case: Case, findings: tuple[Finding, ...]) -> Weighing:
    """The library of its type, weighed with every reading in order of time; what its tool or its setting spoiled does not count."""
    group = GROUP_OF[case.battery.chemistry]
    batteries = library_of(f"{group}_reserve" if case.judged_by_reserve else group).copy()
    batteries.cells = case.battery.nominal_volts // 2
    weighing = Weighing(batteries, known_of(case))
    spoiled = {
        found.reading_id
        for found in findings
        if found.status == "dropped" and (found.why_not is None or found.why_not.key not in OLD)
        and found.kind.value not in {"rest_volts", "charge_run", "stand"}
    }  # fmt: skip
    before = None
    for reading in case.readings:
        hours = 0.0 if before is None else (reading.taken_at - before).total_seconds() / 3600
        weighing.weigh(reading, hours, counts=reading.id is None or reading.id not in spoiled)
        before = reading.taken_at
    return weighing


ENDED = FAILED | {Outcome.SOUND, Outcome.WATCH}


def shares_of(weighing: Weighing, outcome: Outcome) -> np.ndarray:
    """The odds of each of CLASSES, set right by the calibration for checks that the rules have ended so, or not."""
    weight = np.exp(weighing.log_weight - weighing.log_weight.max())
    shares = np.bincount(weighing.batteries.kind, weights=weight, minlength=len(CLASSES))
    shares = shares / shares.sum()
    right = 1 / (1 + math.exp(-float(set_right(shares[0], outcome in ENDED))))
    others = shares[1:] / max(shares[1:].sum(), 1e-12)
    return np.concatenate(([right], others * (1 - right)))


def odds_of(case: Case, findings: tuple[Finding, ...], outcome: Outcome) -> Odds | None:
    """The second opinion on a case; None where it is unsafe, or nothing was read yet that tells."""
    if outcome is Outcome.UNSAFE or not case.valid_rest_volts:
        return None
    shares = shares_of(weighed(case, findings), outcome)
    place = int(shares.argmax())
    sound = float(shares[0])
    disagrees = None
    if outcome in FAILED and sound > APART:
        disagrees = sound
    elif outcome is Outcome.SOUND and 1 - sound > APART:
        disagrees = 1 - sound
    first, second, third, fourth = (round(float(share), 4) for share in shares)
    return Odds(
        sound=first, worn_out=second, dead_cell=third, leaks_charge=fourth, likeliest=CLASSES[place], disagrees=disagrees
    )  # fmt: skip

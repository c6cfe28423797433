"""Wait or know: what could be said now, in ten minutes, tonight, in two days, and which step buys it."""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..judging.steps import lacks_tool, load_figures, minutes_of
from ..judging.steps import step as step_of
from ..readings import Stand
from ..units.compare import VOLTS, under
from ..words import Words
from . import physics
from .library import CLASSES, Array, Batteries, set_right
from .likelihood import GRAVITY_WIDTH, MODEL_VOLTS, PULL_SHARE, PULL_VOLTS, SAME_METER_VOLTS, SLIP, TESTER_SHARE
from .second_opinion import shares_of, weighed

LIKE_IT, TRIED = 500, 60
"""How many batteries like it are looked at, and of how many of them the next reading is made up."""

SEED = 7
LAMPS_HOURS, NIGHT_HOURS, DAYS_HOURS = 0.25, 12.0, 48.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Horizon:
    """What can be expected by then: the likeliest outcome, how sure it will be (0 to 1), after how long, by which step."""

    when: str
    """now, ten_minutes, tonight or two_days."""

    outcome: Outcome
    odds: float
    minutes: float
    step: StepKey | None = None
    words: Words | None = None
    """What buys it, as the step is said."""


class _Look(NamedTuple):
    """What a way would show of each battery, and how wide."""

    expected: Array
    width: Array


def _tester(batteries: Batteries, case: Case) -> _Look:
    expected = physics.tester_share(batteries, _warmth(batteries, case))
    return _Look(expected, np.maximum(TESTER_SHARE * expected, 0.01))


def _pull(batteries: Batteries, case: Case) -> _Look:
    figures, rated = load_figures(case), case.rated
    amps = figures.amps or 250.0
    share = amps / rated.amps if rated is not None else 0.5
    rest = physics.rest_volts(batteries)
    expected = physics.under_load(batteries, share, amps, figures.seconds, _warmth(batteries, case))
    return _Look(expected, np.hypot(PULL_SHARE * np.abs(rest - expected), PULL_VOLTS))


def _cells(batteries: Batteries, _case: Case) -> _Look:
    return _Look(physics.weakest_behind(batteries), np.full(len(batteries), 2 * GRAVITY_WIDTH))


def _stand(batteries: Batteries, case: Case) -> _Look:
    stood = case.last_of(Stand) is not None
    hours = DAYS_HOURS - NIGHT_HOURS if stood else NIGHT_HOURS
    before = physics.rest_volts(batteries)
    physics.rest(batteries, hours, _warmth(batteries, case))
    lost = before - physics.rest_volts(batteries)
    return _Look(lost, SAME_METER_VOLTS + MODEL_VOLTS * np.minimum(lost, 0.3))


def _charge(batteries: Batteries, _case: Case) -> _Look:
    """Its charge comes to its end, or never does: what it rests at then tells a dead cell."""
    physics.charge_fully(batteries)
    physics.headlamps(batteries)
    return _Look(physics.rest_volts(batteries), np.full(len(batteries), 2 * MODEL_VOLTS))


def _warmth(batteries: Batteries, case: Case) -> Array | float:
    return batteries.temperature_c if case.temperature_c is None else case.temperature_c


Way = Callable[[Batteries, Case], _Look]
QUICK: dict[StepKey, Way] = {StepKey.TESTER: _tester, StepKey.LOAD_TEST: _pull, StepKey.CELLS: _cells}


def ahead_of(case: Case, findings: tuple[Finding, ...], outcome: Outcome) -> tuple[Horizon, ...]:
    """The horizons that are open, the nearest first; none where it is unsafe, ended, or nothing was read that tells."""
    if outcome not in {Outcome.CANNOT_TELL, Outcome.NEEDS_CHARGE} or not case.valid_rest_volts:
        return ()
    weighing = weighed(case, findings)
    shares = shares_of(weighing, outcome)
    likeliest, chance = CLASSES[int(shares.argmax())], np.random.default_rng(SEED)
    weight = np.exp(weighing.log_weight - weighing.log_weight.max())
    places = chance.choice(len(weight), size=LIKE_IT, p=weight / weight.sum())
    like_it = weighing.batteries.picked(places)
    result = [Horizon(when="now", outcome=likeliest, odds=float(shares.max()), minutes=0.0)]

    def reached(when: str, step: StepKey, minutes: float, ways: Iterable[Way]) -> None:
        sure = _expected(like_it, ways, case, chance, shares)
        result.append(
            Horizon(
                when=when,
                outcome=likeliest,
                odds=max(sure, result[-1].odds),
                minutes=minutes,
                step=step,
                words=step_words(step, case),
            )
        )

    low = under(case.valid_rest_volts[-1].volts, case.recharge_line_volts, VOLTS)
    quick = _quick_of(case, low)
    best = None
    for key in quick:
        sure, minutes = _expected(like_it, [QUICK[key]], case, chance, shares), minutes_of(key, case)
        gain = (sure - float(shares.max())) / max(minutes, 1.0)
        if best is None or gain > best[0]:
            best = (gain, key, sure, minutes)
    if best is not None:
        _, key, sure, minutes = best
        result.append(
            Horizon(
                when="ten_minutes",
                outcome=likeliest,
                odds=max(sure, result[-1].odds),
                minutes=minutes,
                step=key,
                words=step_words(key, case),
            )
        )
    last: Way = _pull if not lacks_tool(StepKey.LOAD_TEST, case.rules) else _tester
    if low:
        charge = minutes_of(StepKey.CHARGE_AND_RETEST, case)
        reached("tonight", StepKey.CHARGE_AND_RETEST, charge, [_charge, last])
        reached("two_days", StepKey.STAND, charge + NIGHT_HOURS * 60, [_charge, last, _stand])
    else:
        reached("two_days", StepKey.STAND, minutes_of(StepKey.STAND, case), [last, _stand])
    return tuple(result)


def step_words(key: StepKey, case: Case) -> Words:
    """What the step says."""
    return step_of(key, case).text


def _quick_of(case: Case, low: bool) -> list[StepKey]:
    """What takes minutes here, is safe now, and has not been done since the last charge."""
    opens = bool(case.battery.has_caps) and not case.sealed
    return [
        key
        for key in QUICK
        if not lacks_tool(key, case.rules)
        and not (key is StepKey.LOAD_TEST and (low or case.rated is None))
        and not (key is StepKey.TESTER and case.rated is None)
        and not (key is StepKey.CELLS and not opens)
    ]


def _expected(like_it: Batteries, ways: Iterable[Way], case: Case, chance: np.random.Generator, shares: Array) -> float:
    """How sure one will be on the average after these ways: each of some is played as if it were the battery on the bench, and all
    like it are weighed with what it would show."""
    batteries = like_it.copy()
    log_weight = np.zeros((TRIED, LIKE_IT))
    for way in ways:
        look = way(batteries, case)
        tried, width = look.expected[:TRIED], look.width
        shown = tried + chance.normal(0.0, 1.0, TRIED) * width[:TRIED]
        told = np.exp(-0.5 * ((shown[:, None] - look.expected[None, :]) / width[None, :]) ** 2) / width[None, :]
        log_weight += np.log((1 - SLIP) * told + SLIP)
    weight = np.exp(log_weight - log_weight.max(axis=1, keepdims=True))
    one_of = np.eye(len(CLASSES))[like_it.kind]
    after = weight @ one_of
    after /= after.sum(axis=1, keepdims=True)
    right = 1 / (1 + np.exp(-(set_right(after[:, 0], is_ended=True) + _shift(shares, like_it))))
    others = np.max(after[:, 1:], axis=1) / np.maximum(1 - after[:, 0], 1e-6)
    return float(np.mean(np.maximum(right, (1 - right) * others)))


def _shift(shares: Array, like_it: Batteries) -> float:
    """What sets the average of those like it to the odds as they are said now."""
    said, drawn = (min(max(share, 1e-3), 1 - 1e-3) for share in (float(shares[0]), float(np.mean(like_it.kind == 0))))
    return math.log(said / (1 - said)) - float(set_right(np.asarray(drawn), is_ended=True))

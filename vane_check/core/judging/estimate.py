"""One estimate of what it can give: tester, pulls and resistance each give amps with a width, fused where they agree."""

import math
from dataclasses import dataclass
from datetime import datetime
from operator import attrgetter
from typing import Literal, NamedTuple

from ..evidence.adjustable_load import temperature_of
from ..facts.case import Case
from ..facts.remembered import remembered
from ..facts.state_of_charge import (
    meter_uncertainty_volts,
    resistance_mohm,
    state_of_charge_pct,
    state_of_charge_range,
)
from ..facts.tester_settings import compare_on_one_scale, good_mohm_amps, measured_amps, reads_low, why_void
from ..readings import AdjustableLoad, ChargeRun, Crank, ElectronicTester, FixedLoad, Needle
from ..tables import entry_limits, scale_definitions
from ..units.compare import AMPS, PERCENT, SECONDS, VOLTS, at_least, over, under
from ..words import Words, in_a_row, say, word


class Part(NamedTuple):
    """What one method says: starting amps [CCA] and how far they may be off (relative), from so many readings."""

    method: Literal["tester", "resistance", "pull", "crank"]
    cca_amps: float
    spread: float
    readings: int = 1

    @property
    def words(self) -> Words:
        """The method by name; several pulls by their number."""
        return word(self.method) if self.readings == 1 else say("estimate.pulls", readings=self.readings)


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """Starting amps as all methods together say them, with their width. In conflict it is the widest of them, not a mean."""

    cca_amps: float
    low_amps: float
    high_amps: float
    methods: tuple[Words, ...]
    conflict: bool
    words: Words


def pull_cca_amps(
    rest_volts: float, load_volts: float, amps: float, temperature_c: float, seconds: float, case: Case
) -> float:
    """Starting amps [CCA] of a pull: its resistance brought to -18 C, full and 30 s, by tables/model-resistance.csv (from memory).

    A battery that makes its rating sags 5.4 V at its CCA there (SAE J537).
    """
    charge = state_of_charge_pct(rest_volts, case.battery.chemistry, case.battery.nominal_volts)
    of_one_amp = resistance_mohm(1.0, temperature_c, charge, seconds, case.battery.nominal_volts)
    return of_one_amp / ((rest_volts - load_volts) / amps * 1000)


@remembered
def parts_of(case: Case) -> list[Part]:
    """What each method that counts says; several pulls are one part, their mean."""
    result = [part for part in (_of_tester(case), _of_pulls(case), _of_resistance(case)) if part is not None]
    if not result or (all(isinstance(pull, FixedLoad) for pull in case.pulls) and not _valid_testers(case)):
        crank = _of_crank(case)  # cable and starter are in it: it speaks only where nothing better does
        result += [crank] if crank is not None else []
    return [part for part in result if at_least(part.cca_amps, AMPS, AMPS)]  # nothing has no width


@remembered
def _last_recovery(case: Case) -> datetime | None:
    return max((run.taken_at for run in case.all_of(ChargeRun) if run.recovery and run.finished), default=None)


def _still_holds(reading: ElectronicTester | AdjustableLoad | FixedLoad | Crank, case: Case) -> bool:
    """Whether it speaks of the battery as it is: read since the last charge, or before it on a battery that was not low; a
    recovery charge may have changed it."""
    if case.charge_off_at is None or reading.taken_at >= case.charge_off_at:
        return True
    recovery = _last_recovery(case)
    recovered = recovery is not None and recovery > reading.taken_at
    rest = case.rest_before(reading)
    off = 0.0 if rest is None else meter_uncertainty_volts(rest, case.rules)
    return not recovered and (rest is None or at_least(rest + off, case.recharge_line_volts, VOLTS))


@remembered
def _valid_testers(case: Case) -> list[ElectronicTester]:
    return [
        tester
        for tester in case.all_of(ElectronicTester)
        if _still_holds(tester, case) and why_void(tester, case) is None and reads_low(tester, case) is None
    ]


def _of_tester(case: Case) -> Part | None:
    for reading in reversed(_valid_testers(case)):
        if reading.measured_cca_amps is None or case.rated is None:
            continue
        held = compare_on_one_scale(reading, case)
        result = measured_amps(reading, held, case)
        assert result is not None
        scale = scale_definitions()[held.scale.value]
        return Part(
            "tester",
            result[0] / scale.amps_per_sae_cca_amp,
            case.rules_for(reading).tester.uncertainty_ratio.value + scale.relative_spread,
        )
    return None


def _of_resistance(case: Case) -> Part | None:
    resistances_mohm = [reading.resistance_mohm for reading in _valid_testers(case) if reading.resistance_mohm]
    if not resistances_mohm:
        return None
    return Part("resistance", good_mohm_amps(case) / resistances_mohm[-1], case.rules.tester.mohm_spread_ratio.value)


@remembered
def _of_pulls(case: Case) -> Part | None:
    """What pulls say: charged above the gate, a load of some size, a needle that stood. Where nothing says how large the load
    should be, it counts as the smallest that says anything: the less is known, the wider.
    """
    rules, amps = case.rules, case.load_amps
    share = entry_limits()["estimate_load_share"].low
    result: list[tuple[float, float]] = []
    for pull in case.pulls:
        rest = case.rest_before(pull)
        if pull.volts is None or rest is None or not _still_holds(pull, case) or not over(rest, pull.volts, VOLTS):
            continue
        if amps is not None and under(pull.amps, amps * share, AMPS):
            continue
        stood = pull.needle in {Needle.HELD, Needle.DROPPED_AFTER}
        highest_pct = state_of_charge_range(rest, case.battery, rules).high_pct
        if not stood or under(highest_pct, rules.load.gate_soc_pct.value, PERCENT):
            continue
        smaller = max(1.0, amps / pull.amps) if amps else 1 / share
        cca = pull_cca_amps(rest, pull.volts, pull.amps, temperature_of(pull, case), pull.seconds, case)
        result.append((cca, min(rules.load.pull_uncertainty_ratio.value * smaller, 1.0)))
    if not result:
        return None
    narrow = min(spread for _, spread in result)
    best = [cca for cca, spread in result if spread <= narrow]
    return Part("pull", math.fsum(best) / len(best), narrow, len(best))


def _of_crank(case: Case) -> Part | None:
    """The starter as a load whose amps are only roughly known: a share of the CCA its car asks for."""
    rules, needed_amps = case.rules, case.context.car_cca_amps or (case.rated.amps if case.rated else None)
    for crank in reversed(case.all_of(Crank)):
        rest = case.rest_before(crank)
        settled = crank.at_posts and at_least(crank.seconds, rules.crank.seconds.value, SECONDS)
        if (
            crank.volts is None
            or rest is None
            or needed_amps is None
            or not settled
            or not over(rest, crank.volts, VOLTS)
        ):
            continue
        if not _still_holds(crank, case):
            continue
        amps = needed_amps * rules.crank.starter_share_of_rated.value
        cca = pull_cca_amps(rest, crank.volts, amps, temperature_of(crank, case), crank.seconds, case)
        return Part("crank", cca, rules.crank.uncertainty_ratio.value)
    return None


@remembered
def estimate_of(case: Case) -> Estimate | None:
    """All parts as one: by inverse variance where they agree; where two do not overlap it says so and takes no mean."""
    parts = parts_of(case)
    if not parts:
        return None
    low = max(part.cca_amps * (1 - part.spread) for part in parts)
    high = min(part.cca_amps * (1 + part.spread) for part in parts)
    conflict = over(low, high, AMPS)
    weights = [1 / (part.cca_amps * part.spread) ** 2 for part in parts]
    amps = math.fsum(part.cca_amps * weight for part, weight in zip(parts, weights, strict=True)) / math.fsum(weights)
    width = 1 / math.sqrt(math.fsum(weights))
    if conflict:
        ends = [part.cca_amps * (1 + sign * part.spread) for part in parts for sign in (-1, 1)]
        reach = (min(ends), max(ends))
    else:
        reach = (amps - width, amps + width)
    methods = tuple(part.words for part in parts)
    words = (
        say("estimate.do_not_agree")
        if conflict
        else say("estimate.together")
        if len(parts) > 1
        else say("estimate.alone")
    )
    return Estimate(
        cca_amps=round(amps), low_amps=round(max(reach[0], 0.0)), high_amps=round(reach[1]), methods=methods, conflict=conflict,
        words=say('estimate.to_cca', low_amps=round(max(reach[0], 0.0)), high_amps=round(reach[1]), methods=in_a_row(methods, "common.and"), agree=words),
    )  # fmt: skip


def least_amps(case: Case) -> float | None:
    """Starting amps [CCA] under which this house replaces it; None without a rating on it."""
    rated = case.label_rating
    return None if rated is None else rated.amps * case.rules.tester.replace_below_ratio.value


def is_firm(case: Case) -> bool:
    """Whether the rating is the label's own."""
    rated = case.label_rating
    return rated is not None and rated.firm


@remembered
def compare_with_limit(case: Case) -> str:
    """Whether the estimate clears the house's share of the rating: under, over, or between; unknown without either."""
    estimate, least = estimate_of(case), least_amps(case)
    if estimate is None or least is None or estimate.conflict:
        return "unknown"
    if under(estimate.high_amps, least, AMPS):
        return "under"
    return "over" if not under(estimate.low_amps, least, AMPS) else "between"


def clearly_under(case: Case) -> bool:
    """Whether what it gives, the whole width of it, lies under the house's share of the least its rating may be."""
    estimate, least, rated = estimate_of(case), least_amps(case), case.label_rating
    if estimate is None or least is None or rated is None:
        return False
    return under(estimate.high_amps, least * (1 - rated.relative_spread), AMPS)


@remembered
def barely_enough(case: Case) -> bool:
    """Whether the estimate's middle lies under the house's share of the rating by so much of its width; of a rating that is lent or assumed,
    under the least it may be."""
    estimate, least, rated = estimate_of(case), least_amps(case), case.label_rating
    if estimate is None or least is None or rated is None or estimate.conflict:
        return False
    least *= 1 if rated.firm else 1 - rated.relative_spread
    width = (estimate.high_amps - estimate.low_amps) / 2
    return under(estimate.cca_amps + width * case.rules.load.hardly_enough_share.value, least, AMPS)


@remembered
def clears_a_guess(case: Case) -> bool:
    """Whether two methods together, with their width, clear the house's share of the most its rating may be, where that is a guess."""
    estimate, rated = estimate_of(case), case.rated
    if estimate is None or rated is None or rated.firm or estimate.conflict or len(estimate.methods) < 2:
        return False
    most = rated.amps * (1 + rated.relative_spread) * case.rules.tester.replace_below_ratio.value
    return at_least(estimate.low_amps, most, AMPS)


def any_part_below_limit(case: Case) -> bool:
    """Whether the methods do not agree and one of them lies under the house's share of a firm rating."""
    estimate, least = estimate_of(case), least_amps(case)
    if estimate is None or least is None or not estimate.conflict or not is_firm(case):
        return False
    return under(min(part.cca_amps for part in parts_of(case)), least, AMPS)


def any_part_above_limit(case: Case) -> bool:
    """Whether the methods do not agree and one of them clears the house's share of the rating."""
    estimate, least = estimate_of(case), least_amps(case)
    if estimate is None or least is None or not estimate.conflict:
        return False
    return any(at_least(part.cca_amps, least, AMPS) for part in parts_of(case))


APART = {
    frozenset({"tester", "resistance"}): say("estimate.tester_and_its_own_milliohms_lie_apart_on"),
    frozenset({"tester", "pull"}): say("estimate.tester_and_pull_lie_apart"),
    frozenset({"tester", "crank"}): say("estimate.tester_and_crank_lie_apart"),
    frozenset({"resistance", "pull"}): say("estimate.milliohms_and_pull_lie_apart"),
    frozenset({"resistance", "crank"}): say("estimate.milliohms_and_crank_lie_apart"),
    frozenset({"pull", "crank"}): say("estimate.pull_and_crank_lie_apart"),
}


def words_apart(case: Case) -> Words:
    """Which two methods lie furthest apart; one of them alone lies apart from nothing."""
    parts = sorted(parts_of(case), key=attrgetter("cca_amps"))
    return APART[frozenset({parts[0].method, parts[-1].method})]

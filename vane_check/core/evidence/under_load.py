"""What rest volts and a load step say together: a rough CCA from the sag, and a collapse that no lack of charge explains."""

from typing import NamedTuple

from ..facts.case import Case
from ..facts.state_of_charge import resistance_mohm, volts_scale
from ..findings.kinds import Kind
from ..findings.outcomes import Finding, Outcome
from ..readings import ElectronicTester
from ..tables import entry_limits, model_resistance_ratios
from ..units.compare import AMPS, VOLTS, at_least, over, under
from ..words import NOTHING, Words, cited, digits, fixed, say
from .adjustable_load import temperature_of
from .obstacles import weaken


def internal_resistance_ohm(rest_volts: float, load_volts: float, amps: float) -> float:
    """Internal resistance [ohm] from the sag of a load step; a long pull adds polarisation to it.

    >>> round(internal_resistance_ohm(12.6, 10.6, 300), 5)
    0.00667
    """
    return (rest_volts - load_volts) / amps


class _Sag(NamedTuple):
    """The sag of the last load step: its resistance and the rough CCA it says, with how far that may be off (relative)."""

    ohm: float
    cca_amps: float
    spread: float


def _sag_of(case: Case) -> _Sag | None:
    rules = case.rules
    steps = [(reading, reading.volts) for reading in case.pulls if reading.volts is not None]
    if not steps or not case.valid_rest_volts:
        return None
    step, volts = steps[-1]
    rest = min(case.valid_rest_volts, key=lambda near: abs((near.taken_at - step.taken_at).total_seconds()))
    if not over(rest.volts, volts, VOLTS):
        return None
    ohm = internal_resistance_ohm(rest.volts, volts, step.amps)
    amps = case.load_amps
    smaller = max(1.0, amps / step.amps) if amps else 1 / entry_limits()["estimate_load_share"].low
    end = rules.load.sag_end_volts.value * volts_scale(case.battery.nominal_volts)
    rough = max(rest.volts - end, 0.0) / (ohm * rules.load.cold_resistance_ratio.value)
    return _Sag(ohm, rough, min(rules.load.sag_spread_ratio.value * smaller, 0.99))


def sag(case: Case) -> Finding | None:
    """A rough CCA from the last load step: a second opinion, its range the wider the smaller the load."""
    rules, result = case.rules, _sag_of(case)
    if result is None:
        return None
    rough, spread, rated = result.cca_amps, result.spread, case.rated
    low, high = rough * (1 - spread), rough * (1 + spread)
    limit = rules.tester.replace_below_ratio.value * rated.amps if rated else None
    points = (
        None
        if limit is None
        else Outcome.WORN_OUT
        if under(high, limit, AMPS)
        else Outcome.SOUND
        if over(low, limit, AMPS)
        else None
    )
    return Finding(
        kind=Kind.SAG, reading_id=None, status="doubtful", points_to=points, weight=rules.weight.sag.value if points else 0.0,
        reading_text=say('under_load.sag_cca', rough=fixed(rough, 0)), limit_text=say('under_load.replace_below_cca', limit=fixed(limit, 0)) if limit else say('under_load.no_rating'),
        text=say('under_load.the_sag_is_m_roughly_to_cca_a_second', ohm=fixed(result.ohm * 1000, 1), beside_the_tester=_beside_the_tester(case), low=fixed(low, 0), high=fixed(high, 0)),
        rule="load.sag_spread_ratio", source=cited(rules.load.sag_spread_ratio.source), standing=rules.load.sag_spread_ratio.standing,
    )  # fmt: skip


def _beside_the_tester(case: Case) -> Words:
    """The resistance a tester showed, beside that of the sag: a quick look reads less than a pull."""
    shown = [tester.resistance_mohm for tester in case.all_of(ElectronicTester) if tester.resistance_mohm]
    return say("under_load.where_the_tester_shows_m", shown=digits(shown[-1])) if shown else NOTHING


def flattest_volts(rest_volts: float, amps: float, cca_amps: float, temperature_c: float, case: Case) -> float:
    """Volts [V] the flattest battery that is still good for the house's share of its rating falls to under a load.

    Resistance by tables/model-resistance.csv (a physical model, from memory): its ratio at no charge over a full one.
    """
    least_cca = cca_amps * case.rules.tester.replace_below_ratio.value
    ohm = resistance_mohm(least_cca, temperature_c, charge_pct=0.0, nominal_volts=case.battery.nominal_volts) / 1000
    return max(rest_volts - amps * ohm, 0.0)


def collapse(case: Case) -> Finding | None:
    """A charged enough battery that falls under a load below what the flattest good one would: broken inside, whatever its charge.

    The last pull of each tool counts; the rest volts next to it in time say that it was not empty.
    """
    rules = case.rules
    # a battery that works by reserve has no CCA; for what it could fall to at worst its Ah are enough
    rated = case.label_rating
    if rated is None or not case.valid_rest_volts or rated.relative_spread >= 1:
        return None
    least = (
        rules.load.collapse_above_volts.value + rules.rest.chemistry_offset_volts.value[case.battery.chemistry.value]
    ) * volts_scale(case.battery.nominal_volts)
    for pull in {pull.kind: pull for pull in case.pulls}.values():
        rest = case.rest_before(pull)
        if pull.volts is None or rest is None or not at_least(rest, least, VOLTS):
            continue
        at = temperature_of(pull, case)
        weakest = rated.amps * (1 - rated.relative_spread)
        floor = flattest_volts(rest, pull.amps, weakest, at, case)
        held_since = any(
            later.taken_at > pull.taken_at
            and later.volts is not None
            and later.amps >= pull.amps
            and not under(later.volts, floor, VOLTS)
            for later in case.pulls
        )
        if not held_since and (pull.volts < VOLTS / 2 or under(pull.volts, floor, VOLTS)):
            origin = model_resistance_ratios()["charge_pct"].origin
            finding = Finding(
                kind=Kind.COLLAPSE, reading_id=None, status="counts", points_to=Outcome.DEAD_CELL, weight=rules.weight.collapse.value,
                reading_text=say('common.v_under_a', volts=fixed(pull.volts, 1), amps=fixed(pull.amps, 0)), limit_text=say('under_load.the_flattest_good_one_holds_v', floor=fixed(floor, 1)),
                text=say('under_load.it_rested_at_v_and_fell_to_v_under_a', rest=fixed(rest, 2), volts=fixed(pull.volts, 1), amps=fixed(pull.amps, 0)),
                rule="load.collapse_above_volts", source=cited(origin.source), standing=origin.standing,
            )  # fmt: skip
            return weaken(finding, pull, case)
    return None

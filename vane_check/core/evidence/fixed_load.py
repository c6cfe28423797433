"""The fixed load, judged by what it shows: volts, the bands of its scale, or CCA. Too small for most: it can fail, seldom pass."""

from typing import NamedTuple

from ..facts.case import Case
from ..facts.state_of_charge import cold_share, load_amps, volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import FixedLoad, Needle, ShownBand
from ..tables import entry_limits
from ..units.compare import AMPS, RATIO, SECONDS, VOLTS, at_least, over, under
from .adjustable_load import amps_at_least, failed_pull_outcome, fell_words, gate_words, temperature_of, too_small
from .finding import finding
from .reads import reads


class _Shown(NamedTuple):
    """What it shows against what is asked of that: volts of volts, CCA of CCA."""

    words: str
    held: str
    band: ShownBand
    bad_rule: str
    why_bad: str
    good_rule: str
    why_weak: str
    firm: bool = True


@reads(FixedLoad)
def find(reading: FixedLoad, case: Case) -> Finding:
    """About 100 A for ten seconds: what it shows and where the volts came back to, on a battery charged enough to be pulled."""
    rules = case.rules_for(reading)
    compared = _compare_needle(reading, case)
    if _never_loaded(reading, case):
        why = f"more than a battery of {case.rated.amps if case.rated else 0:.0f} CCA can give: the load was not on"
        return finding(
            reading, rules, "load.enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.FIXED_TEST,
            reading_text=compared.words, limit_text="a needle that moved", text=f"{compared.words} does not count: {why}", why_not=why,
        )  # fmt: skip
    bounce = rules.fixed_load.bounce_volts.value * volts_scale(case.battery.nominal_volts)
    no_bounce = reading.bounce_volts is not None and under(reading.bounce_volts, bounce, VOLTS)
    if compared.band is ShownBand.BAD or no_bounce:
        return _failed(reading, case, compared, no_bounce)
    if compared.band is ShownBand.WEAK:
        return finding(
            reading, rules, compared.good_rule, points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_TEST, reading_text=compared.words, limit_text=compared.held,
            text=f"{compared.words}: {compared.why_weak}{fell_words(reading)}",
        )  # fmt: skip
    if under(reading.seconds, rules.fixed_load.seconds.value * rules.load.enough_ratio.value, SECONDS):
        why = f"pulled {reading.seconds:.0f} s of {rules.fixed_load.seconds.value:.0f} s: too short to pass"
        return too_small(reading, case, compared.words, compared.held, why)
    amps = load_amps(case.battery, rules)
    drawn = amps_at_least(reading)
    if amps is None or under(drawn, amps * rules.load.enough_ratio.value, AMPS):
        size = f"{drawn:.0f} A" + (f" where {amps:.0f} A are asked" if amps else "")
        why = f"{size}: such a pull can fail a battery, never pass it"
        return too_small(reading, case, compared.words, compared.held, why)
    return finding(
        reading, rules, compared.good_rule, points_to=Outcome.SOUND, weight="weight.fixed_load", reading_text=compared.words,
        limit_text=compared.held, text=f"{compared.words}: good. Recharge it soon",
    )  # fmt: skip


def _failed(reading: FixedLoad, case: Case, compared: _Shown, no_bounce: bool) -> Finding:
    """It gave too little, or did not come back: that counts on a battery that was charged."""
    rules = case.rules_for(reading)
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge != "enough":
        why = f"on a battery {gate_words(reading, case)}" if charge == "low" else "but it was not known to be charged"
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE if charge == "low" else Outcome.CANNOT_TELL,
            weight="weight.doubtful", status="doubtful", remedy=StepKey.CHARGE_AND_RETEST if charge == "low" else StepKey.MEASURE_VOLTS,
            reading_text=compared.words, limit_text=compared.held, text=f"{compared.words} failed {why}",
        )  # fmt: skip
    why = f"came back only to {reading.bounce_volts:.1f} V" if no_bounce else compared.why_bad
    firm = compared.firm or no_bounce
    return finding(
        reading, rules, "fixed_load.bounce_volts" if no_bounce else compared.bad_rule, points_to=failed_pull_outcome(case),
        weight="weight.fixed_load" if firm else "weight.tester_equivocal", status="counts" if firm else "doubtful",
        reading_text=compared.words, limit_text=compared.held, text=f"{compared.words}: {why}{fell_words(reading)}",
    )  # fmt: skip


def _never_loaded(reading: FixedLoad, case: Case) -> bool:
    """Whether its scale shows more than any battery of this rating gives: its needle stood where it stands without a load.
    Source: tables/entry-limits.csv (cca_over_rated)."""
    if reading.shown_cca_amps is None or case.rated is None:
        return False
    return over(reading.shown_cca_amps, case.rated.amps * entry_limits()["cca_over_rated"].high, AMPS)


def _compare_needle(reading: FixedLoad, case: Case) -> _Shown:
    if reading.volts is not None:
        return _in_volts(reading, reading.volts, case)
    if reading.shown_cca_amps is not None:
        return _in_cca(reading, reading.shown_cca_amps, case)
    band = reading.band or ShownBand.WEAK
    said = f"its scale calls it {band.value}"
    words = f"{band.value} on its scale under {reading.amps:.0f} A"
    return _Shown(words, "good on its scale", band, "fixed_load.floor_volts", said, "fixed_load.good_volts", said)


def _in_volts(reading: FixedLoad, volts: float, case: Case) -> _Shown:
    """Volts by the house's two lines."""
    rules, scale = case.rules_for(reading), volts_scale(case.battery.nominal_volts)
    floor, good = rules.fixed_load.floor_volts.value * scale, rules.fixed_load.good_volts.value * scale
    band = ShownBand.GOOD
    if under(volts, floor, VOLTS):
        band = ShownBand.BAD
    elif under(volts, good, VOLTS):
        band = ShownBand.WEAK
    compared = _Shown(
        f"{volts:.1f} V under {reading.amps:.0f} A", f"good above {good:.1f} V, floor {floor:.1f} V", band,
        "fixed_load.floor_volts", f"under the floor of {floor:.1f} V",
        "fixed_load.good_volts", f"between the floor of {floor:.1f} V and {good:.1f} V",
    )  # fmt: skip
    return _as_it_stood(compared, reading)


def _as_it_stood(compared: _Shown, reading: FixedLoad) -> _Shown:
    """Good only where the needle stood."""
    if compared.band is not ShownBand.GOOD or reading.needle is not Needle.FELL_DURING:
        return compared
    return compared._replace(band=ShownBand.WEAK, why_weak="still good at the end")


def _in_cca(reading: FixedLoad, amps: float, case: Case) -> _Shown:
    """CCA by the house's share of the rating, less where it is cold by the steps of the load table."""
    words = f"{amps:.0f} CCA on its scale under {reading.amps:.0f} A"
    rule = "tester.replace_below_ratio"
    if case.rated is None:
        return _Shown(
            words, "a rating to hold it against", ShownBand.WEAK, rule, "", rule, "no rating to hold it against"
        )
    rules, rated, off = case.rules_for(reading), case.rated.amps, case.rules_for(reading).load.sag_spread_ratio.value
    celsius = temperature_of(reading, case)
    share = cold_share(celsius, case.battery, rules)
    limit = rated * rules.tester.replace_below_ratio.value * share
    held = f"{limit:.0f} CCA, {rules.tester.replace_below_ratio.value * 100:.0f} % of {rated:.0f}"
    if under(share, 1.0, RATIO):
        held = f"{held}, less at {celsius:.0f} °C"
    if under(amps * (1 + off), limit, AMPS):
        band = ShownBand.BAD
    else:
        band = ShownBand.GOOD if at_least(amps * (1 - off), limit, AMPS) else ShownBand.WEAK
    compared = _Shown(
        words, held, band, rule, f"clear under the {limit:.0f} CCA asked", rule,
        f"within ±{off * 100:.0f} % of the {limit:.0f} CCA asked, as near as such a scale reads", case.rated.firm,
    )  # fmt: skip
    return _as_it_stood(compared, reading)

"""The fixed load, judged by what it shows: volts, the bands of its scale, or CCA. Too small for most: it can fail, seldom pass."""

from typing import NamedTuple

from ..facts.case import Case
from ..facts.state_of_charge import cold_share, volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import FixedLoad, Needle, ShownBand
from ..tables import entry_limits
from ..units.compare import AMPS, RATIO, SECONDS, VOLTS, at_least, over, under
from ..words import NOTHING, Words, fixed, say
from .adjustable_load import amps_at_least, failed_pull_outcome, fell_words, gate_words, temperature_of, too_small
from .finding import finding
from .reads import reads


class _Shown(NamedTuple):
    """What it shows against what is asked of that: volts of volts, CCA of CCA."""

    words: Words
    held: Words
    band: ShownBand
    bad_rule: str
    why_bad: Words
    good_rule: str
    why_weak: Words
    firm: bool = True


@reads(FixedLoad)
def find(reading: FixedLoad, case: Case) -> Finding:
    """About 100 A for ten seconds: what it shows and where the volts came back to, on a battery charged enough to be pulled."""
    rules = case.rules_for(reading)
    compared = _compare_needle(reading, case)
    if _never_loaded(reading, case):
        why = say(
            "fixed_load.more_than_a_battery_of_cca_can_give_the", amps=fixed(case.rated.amps if case.rated else 0, 0)
        )
        return finding(
            reading, rules, "load.enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.FIXED_TEST,
            reading_text=compared.words, limit_text=say('fixed_load.a_needle_that_moved'), text=say('fixed_load.does_not_count', compared=compared.words, why=why), why_not=why,
        )  # fmt: skip
    bounce = rules.fixed_load.bounce_volts.value * volts_scale(case.battery.nominal_volts)
    no_bounce = reading.bounce_volts is not None and under(reading.bounce_volts, bounce, VOLTS)
    if compared.band is ShownBand.BAD or no_bounce:
        return _failed(reading, case, compared, no_bounce)
    if compared.band is ShownBand.WEAK:
        return finding(
            reading, rules, compared.good_rule, points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_TEST, reading_text=compared.words, limit_text=compared.held,
            text=say("fixed_load.and_why", words=compared.words, why=compared.why_weak, fell=fell_words(reading)),
        )  # fmt: skip
    if under(reading.seconds, rules.fixed_load.seconds.value * rules.load.enough_ratio.value, SECONDS):
        why = say(
            "fixed_load.pulled_s_of_s_too_short_to_pass",
            seconds=fixed(reading.seconds, 0),
            asked_seconds=fixed(rules.fixed_load.seconds.value, 0),
        )
        return too_small(reading, case, compared.words, compared.held, why)
    amps = case.passing_amps
    drawn = amps_at_least(reading)
    if amps is None or under(drawn, amps * rules.load.enough_ratio.value, AMPS):
        size = say("figures.drawn_a", drawn=fixed(drawn, 0)) + (
            say("fixed_load.where_a_are_asked", amps=fixed(amps, 0)) if amps else NOTHING
        )
        why = say("fixed_load.such_a_pull_can_fail_a_battery_never_pass", size=size)
        return too_small(reading, case, compared.words, compared.held, why)
    return finding(
        reading, rules, compared.good_rule, points_to=Outcome.SOUND, weight="weight.fixed_load", reading_text=compared.words,
        limit_text=compared.held, text=say('fixed_load.good_recharge_it_soon', compared=compared.words),
    )  # fmt: skip


def _failed(reading: FixedLoad, case: Case, compared: _Shown, no_bounce: bool) -> Finding:
    """It gave too little, or did not come back: that counts on a battery that was charged."""
    rules = case.rules_for(reading)
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge != "enough":
        unsure = (
            say("fixed_load.on_a_battery", gate_words=gate_words(reading, case))
            if charge == "low"
            else say("fixed_load.but_it_was_not_known_to_be_charged")
        )
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE if charge == "low" else Outcome.CANNOT_TELL,
            weight="weight.doubtful", status="doubtful", remedy=StepKey.CHARGE_AND_RETEST if charge == "low" else StepKey.MEASURE_VOLTS,
            reading_text=compared.words, limit_text=compared.held, text=say('fixed_load.failed', compared=compared.words, why=unsure),
        )  # fmt: skip
    why = (
        say("fixed_load.came_back_only_to_v", bounce_volts=fixed(reading.bounce_volts or 0.0, 1))
        if no_bounce
        else compared.why_bad
    )
    firm = compared.firm or no_bounce
    return finding(
        reading, rules, "fixed_load.bounce_volts" if no_bounce else compared.bad_rule, points_to=failed_pull_outcome(case),
        weight="weight.fixed_load" if firm else "weight.tester_equivocal", status="counts" if firm else "doubtful",
        reading_text=compared.words, limit_text=compared.held, text=say("fixed_load.and_why", words=compared.words, why=why, fell=fell_words(reading)),
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
    said = say("fixed_load.its_scale_calls_it", band=say(f"band.{band.value}"))
    words = say("fixed_load.on_its_scale_under_a", band=say(f"band.{band.value}"), amps=fixed(reading.amps, 0))
    return _Shown(
        words, say("fixed_load.good_on_its_scale"), band, "fixed_load.floor_volts", said, "fixed_load.good_volts", said
    )


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
        say('common.v_under_a', volts=fixed(volts, 1), amps=fixed(reading.amps, 0)), say('fixed_load.good_above_v_floor_v', good=fixed(good, 1), floor=fixed(floor, 1)), band,
        "fixed_load.floor_volts", say('fixed_load.under_the_floor_of_v', floor=fixed(floor, 1)),
        "fixed_load.good_volts", say('fixed_load.between_the_floor_of_v_and_v', floor=fixed(floor, 1), good=fixed(good, 1)),
    )  # fmt: skip
    return _as_it_stood(compared, reading)


def _as_it_stood(compared: _Shown, reading: FixedLoad) -> _Shown:
    """Good only where the needle stood."""
    if compared.band is not ShownBand.GOOD or reading.needle is not Needle.FELL_DURING:
        return compared
    return compared._replace(band=ShownBand.WEAK, why_weak=say("fixed_load.still_good_at_the_end"))


def _in_cca(reading: FixedLoad, amps: float, case: Case) -> _Shown:
    """CCA by the house's share of the rating, less where it is cold by the steps of the load table."""
    words = say("fixed_load.cca_on_its_scale_under_a", cca_amps=fixed(amps, 0), load_amps=fixed(reading.amps, 0))
    rule = "tester.replace_below_ratio"
    if case.rated is None:
        return _Shown(
            words,
            say("fixed_load.a_rating_to_hold_it_against"),
            ShownBand.WEAK,
            rule,
            NOTHING,
            rule,
            say("fixed_load.no_rating_to_hold_it_against"),
        )
    rules, rated, off = case.rules_for(reading), case.rated.amps, case.rules_for(reading).load.sag_spread_ratio.value
    celsius = temperature_of(reading, case)
    share = cold_share(celsius, case.battery, rules)
    limit = rated * rules.tester.replace_below_ratio.value * share
    held = say(
        "fixed_load.cca_of",
        limit=fixed(limit, 0),
        replace_below_ratio=fixed(rules.tester.replace_below_ratio.value * 100, 0),
        rated=fixed(rated, 0),
    )
    if under(share, 1.0, RATIO):
        held = say("fixed_load.less_at_c", held=held, celsius=fixed(celsius, 0))
    if under(amps * (1 + off), limit, AMPS):
        band = ShownBand.BAD
    else:
        band = ShownBand.GOOD if at_least(amps * (1 - off), limit, AMPS) else ShownBand.WEAK
    compared = _Shown(
        words, held, band, rule, say('fixed_load.clear_under_the_cca_asked', limit=fixed(limit, 0)), rule,
        say('fixed_load.within_of_the_cca_asked_as_near_as_such_a', off=fixed(off * 100, 0), limit=fixed(limit, 0)), case.rated.firm,
    )  # fmt: skip
    return _as_it_stood(compared, reading)

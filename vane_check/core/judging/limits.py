"""What a battery is held against, worked out before anything is read: the figures a rung shows."""

from datetime import datetime

from pydantic import BaseModel, ConfigDict

from ..charging.plan import ChargePlan, Keeping, keeping_of, plan_of
from ..evidence.crank import floor_volts
from ..evidence.reserve import amps_of, end_volts, limit_pct
from ..facts.case import Case
from ..facts.rest import school_hours
from ..facts.state_of_charge import load_min_volts, recharge_line_volts, volts_at_pct, volts_scale
from ..tables import bci_load_test, entry_limits
from ..units.compare import AMPS, at_least
from ..words import Words, fixed, say
from .steps import LoadFigures, load_figures


class FixedFigures(BaseModel):
    """The house's fixed load: what it draws, how long, and its bands. Volts for this battery."""

    model_config = ConfigDict(frozen=True)

    amps: float
    seconds: float
    good_volts: float
    floor_volts: float
    bounce_volts: float
    can_pass: bool
    warm_cca_amps: float | None
    """What a scale in CCA must show when warm; None without a rating."""
    gate_rest_volts: float
    """Rest volts [V] of a battery just charged enough to be pulled: the cold allowance of a scale in CCA counts from here."""


class Usual(BaseModel):
    """What a figure usually is; outside it is asked about. Source: tables/entry-limits.csv."""

    model_config = ConfigDict(frozen=True)

    least: float
    most: float


class CellFigures(BaseModel):
    """What a resting cell usually reads: gravity [1] and volts [V]."""

    model_config = ConfigDict(frozen=True)

    gravities: Usual
    volts: Usual


class CrankFigures(BaseModel):
    """Cranking in the car: how long, and what must hold at the temperature last taken."""

    model_config = ConfigDict(frozen=True)

    seconds: float
    min_volts: float
    dip_volts: float


class LoadLimits(BaseModel):
    """The volts a pull must hold against Celsius, on straight lines between the points."""

    model_config = ConfigDict(frozen=True)

    celsius: tuple[float, ...]
    volts: tuple[float, ...]


class ReserveFigures(BaseModel):
    """A timed discharge of this battery: amps, the end volts, and the share of rated it must give."""

    model_config = ConfigDict(frozen=True)

    amps: float
    end_volts: float
    limit_pct: float
    rated_words: Words


class Limits(BaseModel):
    """What this battery is held against, worked out before anything is read. Volts at rest, amps on the label's scale."""

    model_config = ConfigDict(frozen=True)

    load: LoadFigures
    load_wait_minutes: float
    fixed: FixedFigures
    crank: CrankFigures
    recharge_line_volts: float
    rest_hours: float
    headlamp_seconds: float
    stand_hours: float
    own_loss_pct_per_month: float
    charge_reaches_volts: float
    replace_below_amps: float | None
    leakage_volts: float
    gravity_healthy: float
    gravity_spread: float
    cell_suspect_volts: float
    cells: CellFigures
    running_low_volts: float
    running_high_volts: float
    drain_ma: float
    rating_words: Words | None
    temperature_c: float | None
    """The battery's own, last taken; None when nobody took it."""
    load_limits: LoadLimits
    reserve: ReserveFigures
    stop_start_line_volts: float
    drop_joint_volts: float
    drop_cable_volts: float
    drop_side_volts: float
    health_below_pct: float
    maintainer_rise_volts: float
    plan: ChargePlan | None
    """Of an ordinary charge; None where nothing on it tells its Ah."""
    keeping: Keeping | None
    off_charge_until: datetime | None
    """Until then volts that somebody calls rested are read as just off the charge; None where no charge came off."""


def _usual(name: str) -> Usual:
    limit = entry_limits()[name]
    return Usual(least=limit.low, most=limit.high)


def limits_of(case: Case) -> Limits:
    """The figures a rung shows before its reading is typed."""
    rated, rating, rules = case.rated, case.battery.rating, case.rules
    scale = volts_scale(case.battery.nominal_volts)
    load = load_figures(case)
    on_scale = rating.amps if rating else rated.amps if rated else None
    return Limits(
        load=load,
        load_wait_minutes=rules.load.wait_minutes.value,
        fixed=fixed_figures(case),
        crank=CrankFigures(
            seconds=rules.crank.hold_seconds.value,
            min_volts=floor_volts(load.temperature_c, case),
            dip_volts=rules.car.dip_suspicious_volts.value * scale,
        ),
        recharge_line_volts=recharge_line_volts(case.battery, rules),
        rest_hours=school_hours(rules),
        headlamp_seconds=rules.rest.headlamp_seconds.value,
        stand_hours=rules.stand.hours.value,
        own_loss_pct_per_month=rules.stand.self_discharge_pct_per_month.value[case.battery.chemistry.value],
        charge_reaches_volts=case.charge_reaches_volts,
        replace_below_amps=None if on_scale is None else on_scale * rules.tester.replace_below_ratio.value,
        leakage_volts=rules.look.leakage_volts.value,
        gravity_healthy=rules.gravity.healthy.value,
        gravity_spread=rules.gravity.spread.value,
        cell_suspect_volts=rules.cells.suspect_volts.value,
        cells=CellFigures(gravities=_usual("specific_gravity_likely"), volts=_usual("cell_volts_likely")),
        running_low_volts=rules.car.running_low_volts.value * scale,
        running_high_volts=rules.car.running_high_volts.value * scale,
        drain_ma=rules.car.drain_ma.value,
        rating_words=rated.words if rated else None,
        temperature_c=case.temperature_c,
        load_limits=LoadLimits(
            celsius=bci_load_test().temperature_c,
            volts=tuple(load_min_volts(warmth, case.battery.nominal_volts) for warmth in bci_load_test().temperature_c),
        ),
        reserve=_reserve_figures(case),
        stop_start_line_volts=case.stop_start_line_volts,
        drop_joint_volts=rules.car.drop_joint_volts.value,
        drop_cable_volts=rules.car.drop_cable_volts.value,
        drop_side_volts=rules.car.drop_side_volts.value,
        health_below_pct=rules.tester.health_below_pct.value,
        maintainer_rise_volts=rules.charge.maintainer_rise_volts.value * scale,
        plan=plan_of(case, counts_so_far=False),
        keeping=keeping_of(case),
        off_charge_until=case.off_charge_until,
    )


def fixed_figures(case: Case) -> FixedFigures:
    """The fixed load's figures for this battery."""
    rules, amps = case.rules, case.load_amps
    scale = volts_scale(case.battery.nominal_volts)
    return FixedFigures(
        amps=rules.fixed_load.amps.value,
        seconds=rules.fixed_load.seconds.value,
        good_volts=rules.fixed_load.good_volts.value * scale,
        floor_volts=rules.fixed_load.floor_volts.value * scale,
        bounce_volts=rules.fixed_load.bounce_volts.value * scale,
        can_pass=amps is not None and at_least(rules.fixed_load.amps.value, amps * rules.load.enough_ratio.value, AMPS),
        warm_cca_amps=None if case.rated is None else case.rated.amps * rules.tester.replace_below_ratio.value,
        gate_rest_volts=volts_at_pct(rules.load.gate_soc_pct.value, case.battery),
    )


def _reserve_figures(case: Case) -> ReserveFigures:
    label = case.battery
    minutes, ah = label.reserve_minutes, label.capacity_ah_20h
    rated = (
        say("common.min", minutes=fixed(minutes, 0))
        if minutes
        else say("figures.ah_ah", ah=fixed(ah, 0))
        if ah
        else say("limits.no_ah_and_no_minutes_on_it")
    )
    return ReserveFigures(
        amps=round(amps_of(case), 1), end_volts=end_volts(case), limit_pct=limit_pct(case), rated_words=rated
    )

"""House rules of what is read: volts, acid, tester, loads, crank, charge, reserve, look and car."""

from .parameter import ByName, Choice, Names, Number, RuleGroup


class RestRules(RuleGroup):
    """Volts at rest: where the line is drawn, what counts as rested, and what volts under it are."""

    recharge_line_volts: Number
    recharge_line_in: Choice
    recharge_line_soc_pct: Number
    stop_start_line_soc_pct: Number
    chemistry_offset_volts: ByName
    surface_charge_volts: Number
    charging_volts: Number
    doubt_below_volts: Number
    school: Choice
    hours: ByName
    headlamp_seconds: Number
    low_after_charge: Choice
    low_for_long_days: Number
    brought_back_below_volts: Number
    to_condemn: Choice
    charged_to_hand_over_soc_pct: Number
    near_cell_short_volts: Number


class MeterRules(RuleGroup):
    """The house's meter, where the book names none."""

    percent: Number
    digits: Number
    resolution_volts: Number
    range_resolution_volts: ByName


class StandRules(RuleGroup):
    """Standing off everything: how long, and how much it may lose."""

    hours: Number
    long_hours: Number
    settle_hours: Number
    drop_volts: Number
    after_flat: Choice
    start_minutes: Number
    self_discharge_pct_per_month: ByName
    loss_pct: Number
    digits_volts: Number
    leak_pct_per_day: Number
    leak_doubt_pct_per_day: Number
    leak_long_pct_per_day: Number


class CellsRules(RuleGroup):
    """Cell by cell: volts of a cell, and cells that lie apart."""

    live_volts: Number
    dead_window_volts: Number
    suspect_volts: Number
    failing_volts: Number
    sum_volts: Number
    remembered_volts: Number
    volts_over_gravity: Number
    watch_minutes: Number
    weak_to_equalise: Number


class GravityRules(RuleGroup):
    """The acid by hydrometer."""

    healthy: Number
    discharged: Number
    full: Number
    spread: Number
    far_out: Number
    resolution: Number
    per_10f: Number
    reference_c: Number
    ice_margin_c: Number


class TesterRules(RuleGroup):
    """The electronic tester: what it condemns by, how far its figure may be off."""

    replace_below_ratio: Number
    health_below_pct: Number
    uncertainty_ratio: Number
    absurd_ratio: Number
    soc_spread_pct: Number
    pairing_minutes: Number
    volts_apart: Number
    scales: Names
    mohm_cca: Number
    mohm_spread_ratio: Number
    cold_c: Number
    cold_ratio: Number
    void_c: Number


class LoadRules(RuleGroup):
    """The adjustable load: amps, seconds, what it asks for before, how its figure is read."""

    seconds: Number
    share_of_cca: Number
    times_ah: Number
    default_temperature_c: Number
    gate_soc_pct: Number
    enough_ratio: Number
    hardly_enough_share: Number
    too_much_ratio: Number
    max_amps: Number
    wait_minutes: Number
    after_clicks: Choice
    pulls_to_condemn: Choice
    pull_uncertainty_ratio: Number
    collapse_above_volts: Number
    sag_spread_ratio: Number
    sag_end_volts: Number
    cold_resistance_ratio: Number


class FixedLoadRules(RuleGroup):
    """The fixed load."""

    amps: Number
    seconds: Number
    good_volts: Number
    floor_volts: Number
    bounce_volts: Number


class CrankRules(RuleGroup):
    """The crank in the car."""

    floor_volts: Number
    hold_seconds: Number
    seconds: Number
    uncertainty_ratio: Number
    starter_share_of_rated: Number


class ChargeRules(RuleGroup):
    """A charge: when it is full, when it is stuck, what a charger can do."""

    unknown_ah: Number
    unknown_ah_spread_ratio: Number
    unknown_amps: Number
    full_amps_share: Number
    full_share_of_start: Number
    full_still_hours: Number
    no_current_amps: Number
    maintainer_rise_volts: Number
    stuck_hours: Number
    stuck_share_of_start: Number
    stuck_amps: Number
    stuck_amps_per_ah: Number
    stuck_below_absorption_volts: Number
    efficiency: ByName
    points_least: Number
    overhead: Number
    tail_hours: Number
    hot_c: Number
    ambient_most_c: Number
    charger_amps: Number
    charger_sees_volts: Number
    recovery_first: Choice
    recovery_amps_share: Number
    equalise_hours: Number
    panel_share_of_ah: Number


class CapacityRules(RuleGroup):
    """Capacity as a charge shows it."""

    least_missing_pct: Number
    spread_ratio: Number
    faded_pct: Number
    fade_asks: Choice


class ReserveRules(RuleGroup):
    """The timed discharge."""

    amps: Number
    end_volts: Number
    reference_c: Number
    pct_per_c: Number
    peukert: ByName
    peukert_spread: Number
    new_pct: Number
    used_pct: Number
    ah_spread_ratio: Number


class LookRules(RuleGroup):
    """The look."""

    leakage_volts: Number


class CarRules(RuleGroup):
    """The car around the battery."""

    running_low_volts: Number
    running_high_volts: Number
    running_doubt_volts: Number
    drain_ma: Number
    no_start_soc_pct: Number
    dip_usual_volts: Number
    dip_suspicious_volts: Number
    drop_joint_volts: Number
    drop_cable_volts: Number
    drop_side_volts: Number

"""What a house rule is, and every rule there is."""

from datetime import date
from typing import Any, Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, model_validator

Standing = Literal["published", "practice", "memory"]


Value = TypeVar("Value")


class Parameter(BaseModel, Generic[Value]):
    """One value of the house rules: where it comes from, and what it may be at all.

    Numbers (also those in a table by name) lie between `low` and `high`; words are among `choices`. Raises on anything
    else, NaN and infinity among it, with what to enter instead.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    value: Value
    unit: str
    source: str
    standing: Standing
    low: float | None = None
    high: float | None = None
    choices: tuple[str, ...] = ()
    at_least: int = 0

    @model_validator(mode="after")
    def _can_be(self) -> "Parameter[Value]":
        if said := self.fault_of(self.value):
            raise ValueError(said)
        return self

    def fault_of(self, value: object) -> str | None:
        """What to enter instead of a value that this rule cannot have; None for one that it can."""
        if self.choices:
            picked = value if isinstance(value, tuple) else (value,)
            if not set(picked) <= set(self.choices):
                return f"Pick from {', '.join(self.choices)}"
            return f"Pick at least {self.at_least}" if len(picked) < self.at_least else None
        figures = value.values() if isinstance(value, dict) else (value,)
        if self.low is None or self.high is None:
            return "A rule of the package has no bounds"
        if not all(isinstance(one, float) and self.low <= one <= self.high for one in figures):
            return f"Enter {self.low:g} to {self.high:g}: {self.unit}"
        return None


Number = Parameter[float]
ByName = Parameter[dict[str, float]]
Words = Parameter[str]
Names = Parameter[tuple[str, ...]]


class HouseRules(BaseModel):
    """One version of the house's rules. Units stand with each value in the TOML file; voltages are for 12 V batteries."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: str
    name: str
    holds_from: date

    recharge_line_volts: Number
    chemistry_rest_offset_volts: ByName
    surface_charge_volts: Number
    charging_volts: Number
    doubt_below_volts: Number
    live_cell_volts: Number
    dead_cell_window_volts: Number
    stand_hours: Number
    self_discharge_pct_per_month: ByName
    stand_loss_pct: Number
    meter_percent: Number
    meter_digits: Number
    meter_resolution_volts: Number
    replace_below_ratio: Number
    tester_uncertainty_ratio: Number
    absurd_ratio: Number
    pairing_minutes: Number
    load_seconds: Number
    load_share_of_cca: Number
    load_times_ah: Number
    load_default_temperature_c: Number
    watch_months: Number
    weight_hazard: Number
    weight_rest_low: Number
    weight_rest_near_line: Number
    weight_rest_charged: Number
    weight_dead_cell_volts: Number
    weight_stand: Number
    weight_tester: Number
    weight_tester_equivocal: Number
    weight_doubtful: Number
    strong_weight: Number
    sure_at: Number
    fairly_sure_at: Number
    step_minutes: ByName
    charged_to_hand_over_soc_pct: Number
    spacer_max_mm: Number
    footprint_tolerance_mm: Number
    deciding_kinds: Names
    tools_at_hand: Names
    missing_tool_minutes: Number
    methods_to_condemn: Number
    low_after_charge: Words
    rest_school: Words
    headlamp_seconds: Number
    cca_per_ah: Number
    estimate_spread_ratio: Number
    borrowed_spread_ratio: Number
    leakage_volts: Number
    gravity_per_10f: Number
    gravity_reference_c: Number
    gravity_healthy: Number
    gravity_discharged: Number
    gravity_spread: Number
    gravity_far_out: Number
    gravity_resolution: Number
    weak_cells_to_equalise: Number
    cell_suspect_volts: Number
    cell_failing_volts: Number
    load_gate_soc_pct: Number
    load_enough_ratio: Number
    load_too_much_ratio: Number
    load_tester_max_amps: Number
    load_wait_minutes: Number
    fixed_good_volts: Number
    fixed_floor_volts: Number
    fixed_seconds: Number
    fixed_load_amps: Number
    bounce_volts: Number
    crank_floor_volts: Number
    crank_hold_seconds: Number
    crank_seconds: Number
    cold_resistance_ratio: Number
    sag_spread_ratio: Number
    sag_end_volts: Number
    stuck_hours: Number
    stuck_share_of_start: Number
    stuck_amps: Number
    stuck_below_absorption_volts: Number
    stand_after_flat: Words
    running_low_volts: Number
    running_high_volts: Number
    drain_ma: Number
    no_start_soc_pct: Number
    weight_load: Number
    weight_fixed: Number
    weight_crank: Number
    weight_cells: Number
    weight_charge_run: Number
    weight_dry_sealed: Number
    tester_soc_spread_pct: Number
    weight_sag: Number
    rest_hours: ByName
    recharge_line_in: Words
    recharge_line_soc_pct: Number
    meter_range_resolution_volts: ByName
    collapse_above_volts: Number
    weight_collapse: Number
    pulls_to_condemn: Words
    recovery_first: Words
    low_for_long_days: Number
    full_amps_share: Number
    full_share_of_start: Number
    no_current_amps: Number
    maintainer_rise_volts: Number
    cell_watch_minutes: Number
    gravity_full: Number
    cell_sum_volts: Number
    health_below_pct: Number
    tester_mohm_cca: Number
    tester_mohm_spread_ratio: Number
    tester_cold_c: Number
    tester_cold_ratio: Number
    tester_void_c: Number
    tester_scales: Names
    weight_message: Number
    weight_crank_twice: Number
    dip_usual_volts: Number
    dip_suspicious_volts: Number
    drop_joint_volts: Number
    drop_cable_volts: Number
    drop_side_volts: Number
    running_doubt_volts: Number
    reserve_end_volts: Number
    reserve_amps: Number
    reserve_reference_c: Number
    reserve_pct_per_c: Number
    peukert: ByName
    reserve_new_pct: Number
    reserve_used_pct: Number
    weight_reserve: Number
    stop_start_line_soc_pct: Number
    usual_life_years: ByName
    need_cca_per_litre: ByName
    lighter_duty_ratio: Number
    brought_back_below_volts: Number
    stuck_amps_per_ah: Number
    stand_digits_volts: Number
    leak_pct_per_day: Number
    leak_doubt_pct_per_day: Number
    long_stand_hours: Number
    leak_long_pct_per_day: Number
    second_look: Words
    same_step_times: Number
    pull_uncertainty_ratio: Number
    full_still_hours: Number
    coldest_c: Number
    cold_months: Names
    cell_volts_over_gravity: Number
    charge_efficiency: ByName
    charge_points_least: Number
    capacity_least_missing_pct: Number
    capacity_spread_ratio: Number
    capacity_faded_pct: Number
    weight_capacity: Number
    fade_asks: Words
    cell_remembered_volts: Number
    starter_share_of_rated: Number
    crank_uncertainty_ratio: Number
    load_after_clicks: Words
    rest_to_condemn: Words
    hardly_enough_share: Number
    charger_amps: Number
    charge_overhead: Number
    charge_tail_hours: Number
    charge_hot_c: Number
    ambient_most_c: Number
    charger_sees_volts: Number
    recovery_amps_share: Number
    equalise_hours: Number
    panel_share_of_ah: Number
    stand_start_minutes: Number
    label_asked_readings: Number
    near_cell_short_volts: Number
    reserve_ah_spread_ratio: Number
    equipment_check_months: Number
    rack_hands: Number
    connect_minutes: Number
    rack_test_minutes: Number
    rack_rest_hours: ByName
    rack_weights: ByName
    rack_move_minutes: Number
    rack_days: Number
    rack_soon_minutes: Number
    night_run: Words
    rating_asked: Words
    ah_short_pct: Number
    ah_short_most_pct: Number
    post_inset_mm: Number
    need_ratios: ByName
    usual_starts: ByName
    stock_check_months: ByName
    stock_uncharged_months: Number
    stock_reduced_months: Number
    stock_reduced_pct: Number
    dry_charged_months: Number

    def parameter(self, rule: str) -> Parameter[Any]:
        """The parameter of a name. Raises KeyError for a name that is no rule."""
        found = getattr(self, rule, None)
        if not isinstance(found, Parameter):
            raise KeyError(rule)
        return found

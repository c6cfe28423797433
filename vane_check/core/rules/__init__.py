"""House rules: every threshold as data with value, unit, source and standing; formulas read them by name."""

import tomllib
from datetime import date
from functools import cache
from importlib.resources import files
from typing import Any, Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict

Standing = Literal["published", "practice", "memory"]


Value = TypeVar("Value")


class Parameter(BaseModel, Generic[Value]):
    """One value of the house rules with where it comes from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    value: Value
    unit: str
    source: str
    standing: Standing


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
    void_effects: Parameter[dict[str, str]]
    deciding_kinds: Names
    tools_at_hand: Names
    missing_tool_minutes: Number
    methods_to_condemn: Number
    low_after_charge: Words
    rest_school: Words
    headlamp_seconds: Number
    series_pack: Words
    cleaning_school: Words
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

    def parameter(self, rule: str) -> Parameter[Any]:
        """The parameter of a name. Raises KeyError for a name that is no rule."""
        found = getattr(self, rule, None)
        if not isinstance(found, Parameter):
            raise KeyError(rule)
        return found


TOOLS = ("meter", "tester", "adjustable_load", "hydrometer", "charger")
"""What a bench may have, by name, for `tools_at_hand`."""

DECIDING = ("electronic_tester", "adjustable_load", "cells")
"""The kinds of reading a house may decide by, for `deciding_kinds`."""

CHOICES = {
    "rest_school": ("headlamps", "2_h", "12_h", "24_h"),
    "low_after_charge": ("charge_once_more", "replace"),
    "stand_after_flat": ("yes", "no"),
    "series_pack": ("replace_all", "weak_one"),
}
"""The answers to the side questions that are words."""

SCHOOLS = ("electronic_first", "load_first", "cell_first")
"""The presets; each of the others is the first with some values of its own."""


@cache
def house_rules(school: str = "electronic_first") -> HouseRules:
    """The packaged rules of a school. Raises FileNotFoundError for an unknown one."""
    whole = _toml(SCHOOLS[0])
    return HouseRules.model_validate(whole if school == SCHOOLS[0] else {**whole, **_toml(school)})


def kept_rules(body: dict[str, Any]) -> HouseRules:
    """A version as it was kept. A rule that was not there yet when it was made has the package's value."""
    return HouseRules.model_validate({**_toml(SCHOOLS[0]), **body})


def _toml(school: str) -> dict[str, Any]:
    return tomllib.loads(files(__package__).joinpath(f"{school}.toml").read_text(encoding="utf-8"))

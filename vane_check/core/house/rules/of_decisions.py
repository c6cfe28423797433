"""House rules of what is made of it: weights, the decision, its steps, the match, the outlook, the rack, the stock."""

from .parameter import ByName, Choice, Names, Number, RuleGroup


class WeightRules(RuleGroup):
    """What a finding weighs, 0 to 1."""

    hazard: Number
    rest_low: Number
    rest_near_line: Number
    rest_charged: Number
    dead_cell_volts: Number
    stand: Number
    tester: Number
    tester_equivocal: Number
    doubtful: Number
    load: Number
    fixed_load: Number
    crank: Number
    crank_twice: Number
    cells: Number
    charge_run: Number
    dry_sealed: Number
    sag: Number
    collapse: Number
    message: Number
    reserve: Number
    capacity: Number
    strong: Number


class DecisionRules(RuleGroup):
    """What decides, and how sure it is."""

    deciding_kinds: Names
    methods_to_condemn: Number
    own_call_shown_on: Names
    second_look: Choice
    same_step_times: Number
    watch_months: Number
    sure_at: Number
    fairly_sure_at: Number


class StepsRules(RuleGroup):
    """What a step costs in hands, and the tools there are."""

    minutes: ByName
    tools_at_hand: Names
    missing_tool_minutes: Number
    label_asked_readings: Number


class EstimateRules(RuleGroup):
    """A rating where the label tells none."""

    cca_per_ah: Number
    ah_per_litre: Number
    size_spread_ratio: Number
    spread_ratio: Number
    borrowed_spread_ratio: Number


class MatchRules(RuleGroup):
    """What fits a car."""

    footprint_tolerance_mm: Number
    spacer_max_mm: Number
    post_inset_mm: Number
    rating_asked: Choice
    need_ratios: ByName
    need_cca_per_litre: ByName
    ah_short_pct: Number
    ah_short_most_pct: Number


class OutlookRules(RuleGroup):
    """How long it will do, and in which cold."""

    usual_life_years: ByName
    usual_starts: ByName
    lighter_duty_ratio: Number
    coldest_c: Number
    cold_months: Names


class RackRules(RuleGroup):
    """The rack of chargers."""

    hands: Number
    connect_minutes: Number
    test_minutes: Number
    rest_hours: ByName
    weights: ByName
    move_minutes: Number
    days: Number
    soon_minutes: Number
    night_run: Choice


class StockRules(RuleGroup):
    """Pieces on the shelf."""

    check_months: ByName
    uncharged_months: Number
    reduced_months: Number
    reduced_pct: Number
    dry_charged_months: Number
    return_days: Number


class EquipmentRules(RuleGroup):
    """The house's own tools."""

    check_months: Number

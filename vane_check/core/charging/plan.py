"""The charge plan of one battery: volts, amps and hours, what must come first, and what keeps a standing car's battery full."""

from pydantic import BaseModel, ConfigDict

from ..battery.label import CameIn
from ..facts.case import Case
from ..facts.put_in import worth_so_far
from ..facts.remembered import remembered
from ..facts.state_of_charge import volts_scale
from ..findings.kinds import StepKey
from ..readings import Sign
from ..readings.check import signs_in_words
from ..tables import charging_limits
from ..units.compare import AMPS, CELSIUS, VOLTS, over, rounded, under
from ..units.conversions import HOURS_OF_RATE, HOURS_PER_MONTH, MINUTES_PER_HOUR
from ..words import Words, digits, fixed, say

TABLE_C = 25.0
"""The table's volts are given for this temperature [C]."""


class Refusal(BaseModel):
    """Why it is not charged now, and what comes first."""

    model_config = ConfigDict(frozen=True)

    why: Words
    first: Words


class Moment(BaseModel):
    """Amps at so many hours of a charge."""

    model_config = ConfigDict(frozen=True)

    hours: float
    amps: float


class ChargePlan(BaseModel):
    """What the charger is set to and for how long. Volts of this battery, amps, hours; `hours_low` to `hours_high` is how far they may be off."""

    model_config = ConfigDict(frozen=True)

    mode: str
    """ordinary, recovery or equalise."""

    refused: Refusal | None
    volts: float
    ceiling_volts: float
    amps: float
    most_amps: float
    capacity_ah: float
    ah_assumed: bool = False
    """Nothing on it tells its Ah: somebody looks in every hour. Plans kept before this was told were of known Ah."""
    counted_from: Words
    """Where the Ah come from."""

    missing_low_pct: float
    missing_high_pct: float
    missing_known: bool
    hours: float
    hours_low: float
    hours_high: float
    energy_wh: float
    """What goes in at the posts, missing Ah x overhead x volts [Wh], for the middle of what is missing."""

    words: Words
    """Volts, amps and hours in one line."""

    why: Words
    """What they were worked out of."""

    notes: tuple[Words, ...]
    """What else matters for this battery, the most dangerous first."""

    expected: tuple[Moment, ...]
    """As it should go: steady until it comes to its volts, then falling to where it counts as full."""


class Keeping(BaseModel):
    """What keeps the battery of a standing car full: amps of a maintainer, and of a solar panel up to which no controller is needed."""

    model_config = ConfigDict(frozen=True)

    maintainer_amps: float
    panel_without_controller_amps: float
    words: Words


CHARGES = frozenset({StepKey.CHARGE_AND_RETEST, StepKey.CHARGE_AND_WATCH, StepKey.RECOVERY_CHARGE, StepKey.EQUALISE})
"""Steps that are a charge, and follow its plan."""


def ah_of_reserve(minutes: float, chemistry: str, peukert: dict[str, float], amps: float) -> float:
    """Ah at the 20 h rate [Ah] of a reserve rating: so many minutes at so many amps, brought to Ah / 20 by Peukert.

    >>> round(ah_of_reserve(120, "flooded", {"flooded": 1.25}, 25))
    79
    """
    exponent = peukert[chemistry]
    hours = minutes / MINUTES_PER_HOUR
    return float((hours * amps**exponent * HOURS_OF_RATE ** (exponent - 1)) ** (1 / exponent))


def ah_known(case: Case) -> tuple[float, Words, float] | None:
    """Its Ah [Ah], where they come from, and how far they may be off (relative); None where nothing on it tells."""
    label, rules = case.battery, case.rules
    if label.capacity_ah_20h is not None:
        return label.capacity_ah_20h, say("plan.the_ah_on_its_label"), 0.0
    if label.reserve_minutes is not None:
        ah = ah_of_reserve(
            label.reserve_minutes, label.chemistry.value, rules.reserve.peukert.value, rules.reserve.amps.value
        )
        return (
            ah,
            say("plan.its_reserve_minutes", reserve_minutes=fixed(label.reserve_minutes, 0)),
            rules.reserve.ah_spread_ratio.value,
        )
    if case.rated is not None:
        return (
            case.rated.amps / rules.estimate.cca_per_ah.value,
            say("plan.its", rated=case.rated.words),
            rules.estimate.spread_ratio.value,
        )
    return None


def refusal_of(case: Case) -> Refusal | None:
    """What forbids a charge now: danger, ice, bare plates, a battery that is hot or cannot be filled."""
    look = case.looks[-1] if case.looks else None
    signs = frozenset[Sign]().union(*(look.hazards() for look in case.looks))
    if signs:
        return Refusal(
            why=say("plan.it_is", signs=signs_in_words(signs)),
            first=say("plan.hold_it_apart_it_is_not_charged_at_all"),
        )
    if case.frozen_acid is not None:
        return Refusal(why=say("plan.it_may_hold_ice"), first=say("plan.thaw_it_in_the_warm_for_a_day_look_for"))
    warmth, most = case.temperature_c, case.rules.charge.hot_c.value
    if warmth is not None and over(warmth, most, CELSIUS):
        return Refusal(
            why=say("plan.it_is_c_warm_over_c", warmth=fixed(warmth, 0), most=fixed(most, 0)),
            first=say("plan.let_it_cool_first"),
        )
    if look is not None and case.eye_cannot_be_helped(look):
        return Refusal(
            why=say("plan.its_eye_is_clear_and_no_water_can_be_added"), first=say("plan.replace_it_it_is_not_charged")
        )
    if look is not None and case.is_dry(look):
        return Refusal(
            why=say("plan.its_plates_are_bare"), first=say("plan.distilled_water_just_over_the_plates_first")
        )
    return None


def _volts_at(volts_25c: float, ceiling: float, case: Case) -> float:
    """The table's volts at the battery's temperature [V], never over the ceiling; as printed where nobody took one."""
    limits = charging_limits()[case.battery.chemistry.value]
    warmer = 0.0 if case.temperature_c is None else case.temperature_c - TABLE_C
    scale = volts_scale(case.battery.nominal_volts)
    return rounded(min(volts_25c + limits.millivolts_per_c / 1000 * warmer, ceiling) * scale, VOLTS * 5)


def _missing(case: Case, counts_so_far: bool) -> tuple[float, float, bool]:
    """The share of charge that is missing [%], least and most, and whether it is known."""
    so_far = worth_so_far(case) if counts_so_far else None
    if so_far is not None:
        return 100 - so_far.high_pct, 100 - so_far.low_pct, True
    charge = case.state_of_charge
    if charge is None:
        return 0.0, 100.0, False
    return 100 - charge.high_pct, 100 - charge.low_pct, True


def plan_of(
    case: Case,
    key: StepKey = StepKey.CHARGE_AND_RETEST,
    charger_amps: float | None = None,
    counts_so_far: bool = True,
    charger_volts: float | None = None,
) -> ChargePlan:
    """The plan of a charge: tables/charging.csv by type and temperature, hours by missing Ah x overhead / amps and a tail.

    `charger_amps` is what the charger gives; without it the house's. `charger_volts` is what it holds, once it is known which one: one
    battery has one voltage wherever it is read. What a charge that goes on has put in is taken off, unless
    `counts_so_far` says to plan it as it was begun. Where nothing on the battery tells its Ah, the house's figure stands in, at its small amps.
    """
    question = (plan_of, key, charger_amps, counts_so_far, charger_volts)  # a rack asks for every charger of a size
    if question not in case.answers:
        case.answers[question] = _plan(case, key, charger_amps, counts_so_far, charger_volts)
    answer: ChargePlan = case.answers[question]
    return answer


def _assumed(case: Case) -> tuple[float, Words, float]:
    """The house's figure for a battery nothing tells the Ah of, with its width."""
    rules = case.rules
    return rules.charge.unknown_ah.value, say("plan.nobody_knows_its_ah"), rules.charge.unknown_ah_spread_ratio.value


def _plan(
    case: Case, key: StepKey, charger_amps: float | None, counts_so_far: bool, charger_volts: float | None
) -> ChargePlan:
    known = ah_known(case)
    ah, counted_from, off = known or _assumed(case)
    rules, limits = case.rules, charging_limits()[case.battery.chemistry.value]
    scale = volts_scale(case.battery.nominal_volts)
    mode = {StepKey.RECOVERY_CHARGE: "recovery", StepKey.EQUALISE: "equalise"}.get(key, "ordinary")
    if mode != "ordinary" and not case.may_equalise:
        mode = "ordinary"
    gives = rules.charge.charger_amps.value if charger_amps is None else charger_amps
    share = limits.normal_amps_per_ah * (rules.charge.recovery_amps_share.value if mode == "recovery" else 1.0)
    most = limits.max_amps_per_ah * ah
    if known is None:  # nobody knows how small it is: the house's small amps, and somebody looks in
        most = min(most, rules.charge.unknown_amps.value)
    amps = max(rounded(min(share * ah, gives, most), AMPS / 10), 0.1)
    special = limits.equalise_volts if mode == "equalise" else None
    by_type = _volts_at(special or limits.absorption_volts, special or limits.ceiling_volts, case)
    volts = by_type if charger_volts is None else charger_volts
    least, highest, is_known = _missing(case, counts_so_far)
    tail = rules.charge.tail_hours.value
    if mode == "equalise":
        hours = low = high = rules.charge.equalise_hours.value
    else:
        low, high = (
            missing / 100 * ah * (1 + sign * off) * rules.charge.overhead.value / amps + tail
            for missing, sign in ((least, -1), (highest, 1))
        )
        hours = (low + high) / 2 if is_known else high
    span = (
        say("figures.hours_h", hours=fixed(hours, 0))
        if round(low) == round(high)
        else say("plan.to_h", low=fixed(max(low, 1), 0), high=fixed(high, 0))
    )
    range_words = (
        fixed(highest, 0)
        if round(least) == round(highest)
        else say("plan.to", least=fixed(least, 0), highest=fixed(highest, 0))
    )
    missing_words = (
        say("plan.missing", range_words=range_words) if is_known else say("plan.charge_not_known_counted_from_empty")
    )
    energy_wh = (least + highest) / 2 / 100 * ah * rules.charge.overhead.value * volts
    return ChargePlan(
        mode=mode, refused=refusal_of(case), volts=volts, ceiling_volts=rounded((special or limits.ceiling_volts) * scale, VOLTS),
        amps=amps, most_amps=rounded(most, AMPS / 10), capacity_ah=ah, ah_assumed=known is None, counted_from=counted_from,
        missing_low_pct=least, missing_high_pct=highest, missing_known=is_known,
        energy_wh=round(energy_wh, -1),
        hours=round(hours, 2), hours_low=round(low, 2), hours_high=round(high, 2),
        words=say('figures.volts_amps_span_v_a', volts=fixed(volts, 1), amps=digits(amps), span=span),
        why=say('plan.at_ah_about_kwh', chemistry=case.battery.chemistry.words, warmth_words=_warmth_words(case), ah=fixed(ah, 0), counted_from=counted_from, missing_words=missing_words, energy_wh=fixed(energy_wh / 1000, 1)),
        notes=(*([say("plan.nobody_knows_its_ah_look_in_every_hour")] if known is None else []), *_notes(case, mode)), expected=_expected(amps, hours, min(tail, hours), ah * rules.charge.full_amps_share.value),
    )  # fmt: skip


PARTS_OF_TAIL = 6


def _expected(amps: float, hours: float, tail: float, full_amps: float) -> tuple[Moment, ...]:
    """Steady amps, then falling by the same share in each part of the tail."""
    end = min(full_amps, amps)
    falling = (
        Moment(
            hours=round(hours - tail + tail * part / PARTS_OF_TAIL, 2),
            amps=round(amps * (end / amps) ** (part / PARTS_OF_TAIL), 2),
        )
        for part in range(PARTS_OF_TAIL + 1)
    )
    return (Moment(hours=0.0, amps=amps), *falling)


def _warmth_words(case: Case) -> Words:
    return (
        say("plan.c_as_nobody_took_its_own", table_c=fixed(TABLE_C, 0))
        if case.temperature_c is None
        else say("figures.temperature_c_c", temperature_c=fixed(case.temperature_c, 0))
    )


def _notes(case: Case, mode: str) -> list[Words]:
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    notes: list[Words] = []
    last = case.valid_rest_volts[-1] if case.valid_rest_volts else None
    if last is not None and under(last.volts, rules.charge.charger_sees_volts.value * scale, VOLTS):
        notes.append(say("plan.at_v_a_charger_may_not_see_it_bring_it_up", volts=fixed(last.volts, 1)))
    if case.context.came_in is CameIn.IN_CAR:
        notes.append(say("plan.in_the_car_negative_off_somebody_by_it_not"))
    if mode == "equalise":
        notes.append(say("plan.it_gasses_hard_caps_loose_moving_air"))
    elif not case.sealed:
        notes.append(say("plan.it_gasses_towards_the_end_moving_air_no"))
    notes.append(
        say(
            "plan.not_above_c_around_it_positive_on_negative",
            ambient_most_c=fixed(rules.charge.ambient_most_c.value, 0),
        )
    )
    return notes


@remembered
def keeping_of(case: Case) -> Keeping | None:
    """What keeps it full while its car stands: a maintainer's amps, a panel with a diode, a controller from a share of its Ah on."""
    known = ah_known(case)
    if known is None:
        return None
    rules, ah = case.rules, known[0]
    drain = rules.car.drain_ma.value / 1000
    own = rules.stand.self_discharge_pct_per_month.value[case.battery.chemistry.value] / 100 * ah / HOURS_PER_MONTH
    need = max(rounded((drain + own) * rules.charge.overhead.value, 0.1), 0.1)
    panel = rounded(ah * rules.charge.panel_share_of_ah.value, 0.1)
    return Keeping(
        maintainer_amps=need,
        panel_without_controller_amps=panel,
        words=say("plan.standing_for_weeks_a_maintainer_of_a_or", need=fixed(need, 1), panel=fixed(panel, 1)),
    )

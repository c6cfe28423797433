"""State of charge from rest volts, as a range that carries the meter's own uncertainty; and the load test's figures."""

from dataclasses import dataclass

from ..battery.label import Battery, Chemistry
from ..house.rules import HouseRules
from ..tables import bci_load_test, charge_tables, model_resistance_ratios
from ..units.compare import VOLTS, rounded
from ..units.lines import on_line
from ..words import Words, cited, fixed, say, word

RATING_SAG_VOLTS = 12.6 - 7.2
"""From full to where a 12 V battery's CCA is rated to. Source: SAE J537."""

TABLE_NOMINAL_VOLTS = 12
"""The tables and the house's voltages are written for 12 V batteries; a 6 V battery reads half."""


BY_VOLTS = word("volts")


@dataclass(frozen=True, slots=True, kw_only=True)
class StateOfCharge:
    """A range of charge. `at_most` when surface charge can only have flattered the reading."""

    low_pct: float
    high_pct: float
    rest_volts: float | None
    meter_uncertainty_volts: float | None
    at_most: bool
    source: Words
    standing: str
    rules_by: Words = BY_VOLTS


def share_words(low_pct: float, high_pct: float) -> Words:
    """A range of charge [%], 0 to 100, as it is said: one figure where both ends are the same to the per cent.

    >>> str(share_words(79.6, 100)), str(share_words(99.8, 100))
    ('80 to 100 %', '100 %')
    """
    low, high = fixed(low_pct, 0), fixed(high_pct, 0)
    return say("state_of_charge.pct", pct=high) if low == high else say("state_of_charge.to", low=low, high=high)


def volts_scale(nominal_volts: int) -> float:
    """How a 12 V table figure scales to this battery [1]: 1 for 12 V, 0.5 for 6 V."""
    return nominal_volts / TABLE_NOMINAL_VOLTS


def meter_uncertainty_volts(volts: float, rules: HouseRules, meter_range: str | None = None) -> float:
    """Half-width [V] of what the meter may be off: per cent of reading plus digits, which a higher range makes coarser.

    >>> from ..house.rules import house_rules
    >>> round(meter_uncertainty_volts(12.5, house_rules()), 3)
    0.083
    >>> round(meter_uncertainty_volts(12.5, house_rules(), "200_v"), 3)
    0.263
    """
    step = rules.meter.resolution_volts.value
    if meter_range is not None:
        step = max(step, rules.meter.range_resolution_volts.value[meter_range])
    digits = rules.meter.digits.value * step
    return volts * rules.meter.percent.value / 100 + digits


def state_of_charge_pct(rest_volts: float, chemistry: Chemistry, nominal_volts: int = 12) -> float:
    """State of charge [%] by straight lines between the table's points, 0 to 100, held at the ends.

    Valid at rest, off charge and off load, without surface charge. Source: tables/state-of-charge.csv.

    >>> state_of_charge_pct(12.45, Chemistry.FLOODED)
    75.0
    >>> state_of_charge_pct(6.12, Chemistry.FLOODED, nominal_volts=6)
    50.0
    """
    table = charge_tables()[chemistry.value]
    volts_12v = rest_volts / volts_scale(nominal_volts)
    return on_line(volts_12v, table.rest_volts_12v, table.state_of_charge_pct)


def state_of_charge_range(
    rest_volts: float, battery: Battery, rules: HouseRules, at_most: bool = False, meter_range: str | None = None
) -> StateOfCharge:
    """The range of charge [%] that a reading allows, from the meter's uncertainty."""
    half_width = meter_uncertainty_volts(rest_volts, rules, meter_range)
    table = charge_tables()[battery.chemistry.value]
    low, high = (
        state_of_charge_pct(volts, battery.chemistry, battery.nominal_volts)
        for volts in (rest_volts - half_width, rest_volts + half_width)
    )
    return StateOfCharge(
        low_pct=0.0 if at_most else low,
        high_pct=high,
        rest_volts=rest_volts,
        meter_uncertainty_volts=half_width,
        at_most=at_most,
        source=cited(table.origin.source),
        standing=table.origin.standing,
    )


def recharge_line_volts(battery: Battery, rules: HouseRules) -> float:
    """The rest volts [V] below which this battery is charged before it is judged."""
    if rules.rest.recharge_line_in.value == "per_cent":
        return volts_at_pct(rules.rest.recharge_line_soc_pct.value, battery)
    offset = rules.rest.chemistry_offset_volts.value[battery.chemistry.value]
    return rounded((rules.rest.recharge_line_volts.value + offset) * volts_scale(battery.nominal_volts), VOLTS / 10)


def volts_at_pct(state_of_charge_pct: float, battery: Battery) -> float:
    """Rest volts [V] at a state of charge [%], by the chemistry's table.

    >>> volts_at_pct(75, Battery())
    12.45
    """
    table = charge_tables()[battery.chemistry.value]
    volts = on_line(state_of_charge_pct, table.state_of_charge_pct, table.rest_volts_12v)
    return rounded(volts * volts_scale(battery.nominal_volts), VOLTS / 10)


def resistance_mohm(
    cca_amps: float, temperature_c: float, charge_pct: float = 100.0, seconds: float = 15.0, nominal_volts: int = 12
) -> float:
    """Resistance [mΩ] of a pull on a battery that just makes its CCA: (12.6 - 7.2 V) / CCA at -18 C after 30 s.

    Ratios for temperature, charge and time: tables/model-resistance.csv (a physical model, from memory).

    >>> round(resistance_mohm(600, 21), 1)
    6.0
    """
    ratio = 1.0
    for of, at in (("temperature_c", temperature_c), ("charge_pct", charge_pct), ("seconds", seconds)):
        curve = model_resistance_ratios()[of]
        ratio *= on_line(at, curve.at, curve.values)
    return RATING_SAG_VOLTS * volts_scale(nominal_volts) / cca_amps * ratio * 1000


def surface_charge_volts(battery: Battery, rules: HouseRules) -> float:
    """The rest volts [V] above which surface charge is still there."""
    offset = rules.rest.chemistry_offset_volts.value[battery.chemistry.value]
    return rounded((rules.rest.surface_charge_volts.value + offset) * volts_scale(battery.nominal_volts), VOLTS / 10)


def load_amps(battery: Battery, rules: HouseRules) -> float | None:
    """The load test's set-point [A]: half the rated CCA, or three times the Ah; None when neither is known."""
    if battery.rating is not None:
        return battery.rating.cca_amps * rules.load.share_of_cca.value
    if battery.capacity_ah_20h is not None:
        return battery.capacity_ah_20h * rules.load.times_ah.value
    return None


def load_words(rules: HouseRules) -> Words:
    """The load test's size in words: half the rated CCA as delivered."""
    share = rules.load.share_of_cca.value
    return (
        say("state_of_charge.half_the_rated_cca")
        if share == 0.5
        else say("state_of_charge.of_the_rated_cca", share=fixed(share * 100, 0))
    )


def load_min_volts(temperature_c: float, nominal_volts: int = 12) -> float:
    """Volts [V] the battery must still hold at the end of the load, by straight lines between the table's rows.

    Held at the ends: 9.6 V (12 V battery) at 21.1 C and warmer. Source: tables/bci-load-test.csv.

    >>> load_min_volts(21.1)
    9.6
    """
    table = bci_load_test()
    return on_line(temperature_c, table.temperature_c, table.min_volts_12v) * volts_scale(nominal_volts)


def cold_share(temperature_c: float, battery: Battery, rules: HouseRules) -> float:
    """What a load shows of a battery's CCA at this temperature [1, at most 1]: the sag the load table allows when warm over
    the sag it allows then, from the volts of a battery that is just charged enough to be pulled. Source: tables/bci-load-test.csv.

    >>> from ..house.rules import house_rules
    >>> [round(cold_share(celsius, Battery(), house_rules()), 2) for celsius in (30, 21.1, 4.4, -17.8)]
    [1.0, 1.0, 0.9, 0.72]
    """
    rest = volts_at_pct(rules.load.gate_soc_pct.value, battery)
    warm, then = (
        rest - load_min_volts(celsius, battery.nominal_volts)
        for celsius in (max(bci_load_test().temperature_c), temperature_c)
    )
    return min(warm / then, 1.0)

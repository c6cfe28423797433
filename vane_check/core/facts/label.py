"""What follows from the label, the car and the house's rules: rating, work, type, limits of volts."""

from dataclasses import dataclass

from ..battery.label import (
    CHEMISTRY_RANK,
    ORDINARY,
    RESERVE_USES,
    Battery,
    Chemistry,
    Complaint,
    Context,
    RatingSource,
)
from ..house.equipment import rules_through
from ..house.rules import HouseRules
from ..readings import AdjustableLoad, AnyReading, Reserve
from ..tables import charging_limits
from ..units.compare import AMPS, VOLTS, at_least, over
from ..words import NOTHING, Words, say
from .history import History
from .rating import RatedCca, asked_by_its_car, by_its_case, rated_cca
from .remembered import derived
from .state_of_charge import load_amps, load_min_volts, recharge_line_volts, volts_at_pct, volts_scale

LOAD_TABLE_WARM_C = 21.1
"""The load table's warmest row [C]: what holds its volts holds those of any colder one."""

SEALED = frozenset({Chemistry.AGM, Chemistry.GEL})


@dataclass(frozen=True, kw_only=True)
class LabelFacts(History):
    """The label, how it came in, and the house's rules, beside its readings."""

    battery: Battery
    context: Context
    rules: HouseRules

    @derived
    def _rules_by_tool(self) -> dict[int, HouseRules]:
        return {}

    def rules_for(self, reading: AnyReading) -> HouseRules:
        """The rules this reading is held against: the house's, with the figures of the tool it was made with."""
        if reading.tool is None or reading.tool.tool is None:
            return self.rules
        key = id(reading.tool)
        if key not in self._rules_by_tool:
            self._rules_by_tool[key] = rules_through(self.rules, reading.tool)
        return self._rules_by_tool[key]

    @derived
    def works_by_reserve(self) -> bool:
        """Whether its work is reserve, so that no starting figure belongs to it: no CCA on it, and Ah or reserve minutes instead,
        on a battery of 6 V, on one that starts nothing, or on one whose reserve was measured and whose car asks no figure."""
        label = self.battery
        rated_for_it = label.rating is None and (label.capacity_ah_20h is not None or label.reserve_minutes is not None)
        return rated_for_it and (
            label.nominal_volts == 6
            or self.context.use in RESERVE_USES
            or label.capacity_ah_20h is None
            or (bool(self.all_of(Reserve)) and asked_by_its_car(self.context, self.rules) is None)
        )

    @derived
    def judged_by_reserve(self) -> bool:
        """Whether what it is for is to hold charge, not to start: a starting test of any size raises a question there, never a verdict."""
        return self.works_by_reserve or self.context.use in RESERVE_USES

    @derived
    def label_rating(self) -> RatedCca | None:
        """What its label, its catalogue line or its Ah say of its starting figure; None where none of them does."""
        return rated_cca(self.battery, self.rules)

    @derived
    def rated(self) -> RatedCca | None:
        """The starting figure the battery is held against; None where its work is reserve."""
        if self.works_by_reserve:
            return None
        return self.label_rating or asked_by_its_car(self.context, self.rules) or by_its_case(self.battery, self.rules)

    @derived
    def load_amps(self) -> float | None:
        """The load test's set-point [A]: by the label's CCA or Ah, else by half of what its car asks or its case usually gives."""
        by_label = load_amps(self.battery, self.rules)
        if by_label is not None or self.rated is None:
            return by_label
        return self.rated.amps * self.rules.load.share_of_cca.value

    @derived
    def passing_amps(self) -> float | None:
        """What a pull must draw to pass it [A]: its set-point; where its rating is a guess, as much as the most it may be rated asks."""
        rated, guessed = self.rated, self.battery.rating is None or self.battery.rating_source is RatingSource.ASSUMED
        if rated is None or not guessed:
            return self.load_amps
        return rated.amps * (1 + rated.relative_spread) * self.rules.load.share_of_cca.value

    @derived
    def held_a_guess(self) -> bool:
        """Whether a pull sized by a guess held: it passes nothing, and a harder one would."""
        amps, passing, enough = self.load_amps, self.passing_amps, self.rules.load.enough_ratio.value
        if amps is None or passing is None or not over(passing, amps, AMPS):
            return False
        return any(
            pull.volts is not None
            and at_least(pull.amps, amps * enough, AMPS)
            and at_least(pull.volts, load_min_volts(LOAD_TABLE_WARM_C, self.battery.nominal_volts), VOLTS)
            for pull in self.all_of(AdjustableLoad)
        )

    @derived
    def capacity_ah(self) -> float | None:
        """Ah at the 20 h rate [Ah]: from the label, else reckoned from the rating."""
        if self.battery.capacity_ah_20h is not None:
            return self.battery.capacity_ah_20h
        return self.rated.amps / self.rules.estimate.cca_per_ah.value if self.rated else None

    @derived
    def recharge_line_volts(self) -> float:
        """The rest volts [V] below which this battery is charged before it is judged."""
        return recharge_line_volts(self.battery, self.rules)

    @derived
    def charge_reaches_volts(self) -> float:
        """The volts [V] a charge comes up to when all cells work. Source: tables/charging.csv, less what the house allows."""
        limits = charging_limits()[self.battery.chemistry.value]
        short = self.rules.charge.stuck_below_absorption_volts.value
        return (limits.absorption_volts - short) * volts_scale(self.battery.nominal_volts)

    @property
    def may_equalise(self) -> bool:
        """Whether the chemistry stands an equalising charge at all."""
        return charging_limits()[self.battery.chemistry.value].equalise_volts is not None

    @derived
    def level_unsaid(self) -> bool:
        """Whether its cells can be looked into and nobody has said how the acid stands in them."""
        return self.battery.has_caps is True and not self.marked_sealed and not self.looked_into

    @derived
    def looked_into(self) -> bool:
        """Whether somebody saw the level of a cell: it has an opening, whatever its label says."""
        return any(look.levels for look in self.looks)

    @derived
    def marked_sealed(self) -> bool:
        """Whether its type or its label says that the cells cannot be opened."""
        return self.battery.chemistry in SEALED or self.battery.has_caps is False

    @derived
    def sealed(self) -> bool:
        """Whether the cells cannot be opened: so it is marked, and nobody looked into one."""
        return self.marked_sealed and not self.looked_into

    @property
    def type_is_read(self) -> bool:
        """Whether somebody read its type on it. One that its car lends, or that is assumed, proves neither the right type nor a wrong one."""
        return self.battery.chemistry_source is RatingSource.LABEL

    @derived
    def type_the_car_asks_for(self) -> Words | None:
        """The type the car asks for where this battery is less; None where it is right, nobody read it, or nothing is known."""
        if not self.type_is_read:
            return None
        has, listed, ranks = self.battery.chemistry, self.context.car_chemistry, CHEMISTRY_RANK
        if listed in ranks and has in ranks and ranks[has] < ranks[listed]:
            return listed.words + (say("label.or_better") if listed is Chemistry.EFB else NOTHING)
        if self.context.stop_start_car and has in ORDINARY:
            return say("label.efb_or_better")
        return None

    @derived
    def stop_start_line_volts(self) -> float:
        """Rest volts [V] under which its car switches stop-start off: the car's own, else by the house's share of charge."""
        own = self.context.stop_start_line_volts
        return own if own is not None else volts_at_pct(self.rules.rest.stop_start_line_soc_pct.value, self.battery)

    @property
    def asks_why_stop_start_stopped(self) -> bool:
        """Whether the complaint is that stop-start no longer stops the engine."""
        return self.context.complaint is Complaint.STOP_START_STOPPED

    @property
    def stood_for_weeks(self) -> bool:
        """Whether its story says that it went flat while it stood."""
        return self.context.complaint is Complaint.STOOD_FOR_WEEKS

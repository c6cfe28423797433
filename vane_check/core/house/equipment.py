"""The house's own tools: chargers, meters, electronic testers, loads, hydrometers; and what each changes in the rules its readings are held against."""

from collections.abc import Iterable, Mapping
from datetime import date
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..battery.label import Chemistry, RatingScale
from ..tables import entry_limits
from ..units.model import Day, Model, ShortText
from ..units.months import add_months
from ..words import Words, say
from .rules import HouseRules, Parameter

_LIMITS = entry_limits()


def _figure(name: str) -> tuple[float, float]:
    return _LIMITS[name].low, _LIMITS[name].high


_VOLTS_LOW, _VOLTS_HIGH = _figure("charger_volts")


class ChargerMode(Model):
    """One of a charger's settings: the volts it holds, the types it is for, and what it is besides an ordinary charge."""

    name: ShortText = Field(min_length=1)
    volts: float = Field(ge=_VOLTS_LOW, le=_VOLTS_HIGH, description="volts it holds at the end of a charge")
    chemistries: tuple[Chemistry, ...] = Field(
        (), description="types it is for; none named is all whose ceiling it keeps"
    )
    does: Literal["ordinary", "recovery", "equalise"] = "ordinary"


class Charger(Model):
    """A charger: amps of each output, its modes, how many batteries at once, and whether it may run while nobody is in."""

    kind: Literal["charger"] = "charger"
    amps: float = Field(description="A, the most of one output")
    modes: tuple[ChargerMode, ...] = Field(min_length=1, max_length=12)
    outputs: int = Field(1, ge=1, le=int(_LIMITS["charger_outputs"].high))
    least_amps: float | None = Field(
        None, description="A, the least it can be set to; none where it goes as low as is asked"
    )
    limits_itself: bool = Field(True, description="holds its volts by itself: it may run while the shop is closed")
    reports: bool = Field(False, description="shows or tells Ah and amps by itself")
    ambient_low_c: float = Field(0.0, ge=_LIMITS["temperature_c"].low, le=_LIMITS["temperature_c"].high)
    ambient_high_c: float = Field(40.0, ge=_LIMITS["temperature_c"].low, le=_LIMITS["temperature_c"].high)

    @model_validator(mode="after")
    def _warmer_is_higher(self) -> "Charger":
        if self.ambient_low_c >= self.ambient_high_c:
            raise ValueError(say("equipment.the_lowest_temperature_around_it_must_lie"))
        return self


class Meter(Model):
    """A volt meter: per cent of what it shows, digits, and its last digit."""

    kind: Literal["meter"] = "meter"
    percent: float
    digits: float
    resolution_volts: float


TypeName = Literal["flooded", "efb", "agm_flat", "agm_spiral", "gel"]


class Tester(Model):
    """An electronic tester: the scales and types it can be set to, and how far its figure may be off."""

    kind: Literal["tester"] = "tester"
    scales: tuple[RatingScale, ...] = Field((RatingScale.CCA,), min_length=1)
    types: tuple[TypeName, ...] = Field(("flooded",), min_length=1)
    uncertainty_ratio: float
    shows: Literal["amps", "milliohms", "message"] = "amps"


class Load(Model):
    """A load tester: adjustable or fixed, its amps, the seconds on its face, what its scale shows, and how long it cools."""

    kind: Literal["load"] = "load"
    adjustable: bool
    amps: float = Field(description="A it draws, or its most")
    seconds: float
    shows: Literal["volts", "bands", "amps"] = "volts"
    cool_minutes: float
    good_volts: float | None = Field(None, description="the good line on its face, 12 V")
    floor_volts: float | None = Field(None, description="the bad line on its face, 12 V")

    @model_validator(mode="after")
    def _good_lies_over_bad(self) -> "Load":
        if self.good_volts is not None and self.floor_volts is not None and self.good_volts <= self.floor_volts:
            raise ValueError(say("equipment.the_good_line_must_lie_over_the_bad_one"))
        return self


class Hydrometer(Model):
    """A hydrometer: figures or colours, its smallest step, and whether it corrects for warmth by itself."""

    kind: Literal["hydrometer"] = "hydrometer"
    shows: Literal["gravity", "bands"] = "gravity"
    resolution: float = 0.005
    corrects_itself: bool = False


class Discharger(Model):
    """What draws steady amps for a timed discharge."""

    kind: Literal["discharger"] = "discharger"
    amps: float = Field(ge=_LIMITS["discharge_amps"].low, le=_LIMITS["discharge_amps"].high)


AnyTool = Annotated[Charger | Meter | Tester | Load | Hydrometer | Discharger, Field(discriminator="kind")]


class Equipment(Model):
    """A tool of the house as it stands in the book: its name, its figures, its state, when it was last checked."""

    name: ShortText = Field(min_length=1)
    tool: AnyTool
    state: Literal["in_use", "out_of_order", "away"] = "in_use"
    checked_on: Day | None = None
    check_every_months: float | None = Field(
        None, ge=1, le=_LIMITS["check_months"].high, description="None: the house's"
    )
    remarks: ShortText = ""


class ToolUsed(Model):
    """The tool a reading was made with, as it was then."""

    equipment_id: int = Field(ge=0, le=2**63 - 1)
    name: ShortText = ""
    tool: AnyTool | None = None
    overdue_since: Day | None = Field(None, description="the day its check fell due, where that had passed")


def due_on(equipment: Equipment, rules: HouseRules) -> date | None:
    """The day its next check falls due; None where it was never checked, which is due at once."""
    if equipment.checked_on is None:
        return None
    months = equipment.check_every_months
    return add_months(equipment.checked_on, round(rules.equipment.check_months.value if months is None else months))


def overdue_since(equipment: Equipment, rules: HouseRules, today: date) -> date | None:
    """Since when its check is due; None while it is not, or where the house keeps no day of a check."""
    due = due_on(equipment, rules)
    return due if due is not None and due <= today else None


def reached_with(book: Iterable[tuple[str, Mapping[str, object], bool]], by_rules: Iterable[str]) -> tuple[str, ...]:
    """What this shop can reach, as the rules name it: of the kinds its book holds (kind, figures, in use), what is in use; of
    those it says nothing of, what the rules say.

    >>> reached_with([("load", {"adjustable": True}, True), ("tester", {}, False)], ("meter", "tester"))
    ('adjustable_load', 'meter')
    """
    written = [
        (("adjustable_load" if tool["adjustable"] else "fixed_load") if kind == "load" else kind, in_use)
        for kind, tool, in_use in book
    ]
    kinds = {kind for kind, _ in written}
    return tuple(sorted({kind for kind, in_use in written if in_use} | (set(by_rules) - kinds)))


Given = dict[str, object]


STANDS_IN: dict[type[Model], dict[str, str]] = {
    Meter: {"percent": "meter.percent", "digits": "meter.digits", "resolution_volts": "meter.resolution_volts"},
    Tester: {"uncertainty_ratio": "tester.uncertainty_ratio"},
    Hydrometer: {"resolution": "gravity.resolution"},
    Charger: {"amps": "charge.charger_amps"},
}
"""Which rule each figure of a tool stands in for: that rule's bounds are the figure's, and there are no others."""

_ADJUSTABLE = {"amps": "load.max_amps", "seconds": "load.seconds", "cool_minutes": "load.wait_minutes"}
_FIXED = {
    "amps": "fixed_load.amps", "seconds": "fixed_load.seconds", "cool_minutes": "load.wait_minutes", "good_volts": "fixed_load.good_volts",
    "floor_volts": "fixed_load.floor_volts",
}  # fmt: skip


def _stands_in(tool: AnyTool) -> dict[str, str]:
    if isinstance(tool, Load):
        return _ADJUSTABLE if tool.adjustable else _FIXED
    return STANDS_IN.get(type(tool), {})


def figures_out_of_bounds(tool: AnyTool, rules: HouseRules) -> dict[str, Words]:
    """Figures of a tool that no house could write into the rule they stand in for: by field, what to enter instead."""
    faults: dict[str, Words] = {}
    for field, rule in _stands_in(tool).items():
        value, kept = getattr(tool, field), rules.parameter(rule)
        if value is not None and (fault := kept.fault_of(float(value))):
            faults[field] = fault
    return faults


def _own(tool: AnyTool) -> Given:
    """The rules that a tool's own figures stand in for."""
    given: Given = {rule: getattr(tool, field) for field, rule in _stands_in(tool).items()}
    if isinstance(tool, Tester):
        given["tester.scales"] = tuple(scale.value for scale in tool.scales)
    return {name: value for name, value in given.items() if value is not None}


def rules_through(rules: HouseRules, used: ToolUsed | None) -> HouseRules:
    """The rules as a reading made with this tool is held against them: its own figures in the house's place, and named as source.

    A load that must cool longer than a battery recovers makes the wait longer.

    >>> from .rules import house_rules
    >>> fine = ToolUsed(equipment_id=1, name="Fine meter", tool=Meter(percent=0.1, digits=1, resolution_volts=0.01))
    >>> rules_through(house_rules(), fine).meter.percent.value
    0.1
    """
    if used is None or used.tool is None:
        return rules
    given = _own(used.tool)
    if isinstance(used.tool, Load):
        given["load.wait_minutes"] = max(rules.load.wait_minutes.value, used.tool.cool_minutes)
    through = replaced(rules, given, used.name)
    if isinstance(used.tool, Hydrometer) and used.tool.corrects_itself:  # no rule: what it shows is corrected already
        none = rules.gravity.per_10f.model_copy(update={"value": 0.0, "source": used.name})
        through = through.with_parameters({"gravity.per_10f": none})
    return through


def replaced(rules: HouseRules, given: Given, source: str) -> HouseRules:
    """The rules with some values of a tool's or a shop's own; a value that the rule's bounds do not allow changes nothing."""
    changed: dict[str, Parameter[object]] = {}
    for name, value in given.items():
        kept = rules.parameter(name)
        if kept.value != value and kept.fault_of(value) is None:
            changed[name] = kept.model_copy(update={"value": value, "source": source})
    return rules.with_parameters(changed) if changed else rules

"""Every house rule there is, by what it is about."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from pydantic import BaseModel, ConfigDict

from .of_decisions import (
    DecisionRules,
    EquipmentRules,
    EstimateRules,
    MatchRules,
    OutlookRules,
    RackRules,
    StepsRules,
    StockRules,
    WeightRules,
)
from .of_readings import (
    CapacityRules,
    CarRules,
    CellsRules,
    ChargeRules,
    CrankRules,
    FixedLoadRules,
    GravityRules,
    LoadRules,
    LookRules,
    MeterRules,
    ReserveRules,
    RestRules,
    StandRules,
    TesterRules,
)
from .parameter import Parameter


class HouseRules(BaseModel):
    """One version of the house's rules. Units stand with each value in the TOML file; voltages are for 12 V batteries."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: str
    name: str
    holds_from: date

    rest: RestRules
    meter: MeterRules
    stand: StandRules
    cells: CellsRules
    gravity: GravityRules
    tester: TesterRules
    load: LoadRules
    fixed_load: FixedLoadRules
    crank: CrankRules
    charge: ChargeRules
    capacity: CapacityRules
    reserve: ReserveRules
    look: LookRules
    car: CarRules
    weight: WeightRules
    decision: DecisionRules
    steps: StepsRules
    estimate: EstimateRules
    match: MatchRules
    outlook: OutlookRules
    rack: RackRules
    stock: StockRules
    equipment: EquipmentRules

    def parameters(self) -> dict[str, Parameter[Any]]:
        """Every rule by its path, as `tester.replace_below_ratio`."""
        groups = {name: getattr(self, name) for name in GROUPS}
        return {f"{group}.{name}": parameter for group, rules in groups.items() for name, parameter in rules}

    def parameter(self, path: str) -> Parameter[Any]:
        """The rule of a path. Raises KeyError for a path that leads to none."""
        group, _, name = path.partition(".")
        try:
            result = vars(vars(self)[group])[name]
        except (KeyError, TypeError):
            raise KeyError(path) from None
        if not isinstance(result, Parameter):
            raise KeyError(path)
        return result

    def with_parameters(self, changed: Mapping[str, Parameter[Any]]) -> "HouseRules":
        """The same rules with these in place of their own, by path. Raises KeyError for a path that leads to none."""
        by_group: dict[str, dict[str, Parameter[Any]]] = {}
        for path, parameter in changed.items():
            self.parameter(path)
            group, _, name = path.partition(".")
            by_group.setdefault(group, {})[name] = parameter
        return self.model_copy(
            update={group: getattr(self, group).model_copy(update=own) for group, own in by_group.items()}
        )


GROUPS = tuple(name for name in HouseRules.model_fields if name not in {"version", "name", "holds_from"})
"""The matters that house rules are about, in their order."""

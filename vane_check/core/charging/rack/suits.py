"""Whether a charger suits a battery, with which of its modes, and how long it takes there."""

from typing import NamedTuple

from ...facts.case import Case
from ...facts.state_of_charge import volts_scale
from ...findings.kinds import StepKey
from ...house.equipment import Charger, ChargerMode
from ...units.compare import CELSIUS, VOLTS, over, under
from ..plan import ChargePlan, plan_of


class Suits(NamedTuple):
    """The mode a battery is charged with on a charger, and its plan there; or why it is not."""

    mode: ChargerMode | None
    plan: ChargePlan | None
    why_not: str


def suits(case: Case, key: StepKey, charger: Charger, around_c: float | None) -> Suits:
    """The mode of a charger for this battery's step: its volts reach what the type needs and never lie over its ceiling.

    Of several the one with the most volts. `around_c` is the warmth of the charging place [C], None where nobody knows it.
    """
    if around_c is not None and (
        over(around_c, min(charger.ambient_high_c, case.rules.charge.ambient_most_c.value), CELSIUS)
        or under(around_c, charger.ambient_low_c, CELSIUS)
    ):
        return Suits(None, None, f"{around_c:.0f} °C around it is out of its limits")
    plan = plan_of(case, key, charger.amps)
    if plan is None:
        return Suits(None, None, "nothing on it tells its Ah: correct its label")
    if plan.refused is not None:
        return Suits(None, plan, plan.refused.why)
    least = plan.volts if plan.mode == "equalise" else case.charge_reaches_volts
    own = case.battery.chemistry
    fits = [
        mode
        for mode in charger.modes
        if mode.does == plan.mode
        and not over(mode.volts, plan.ceiling_volts, VOLTS)
        and not under(mode.volts, least, VOLTS)
        and (not mode.chemistries or own in mode.chemistries)
    ]
    if not fits:
        kind_words = {"ordinary": "", "recovery": " recovery", "equalise": " equalising"}[plan.mode]
        size = "" if volts_scale(case.battery.nominal_volts) == 1 else f" for {case.battery.nominal_volts} V"
        return Suits(
            None, plan, f"no{kind_words} mode of {least:.1f} to {plan.ceiling_volts:.1f} V for {own.words}{size}"
        )
    return Suits(max(fits, key=lambda mode: mode.volts), plan, "")

"""Whether a charger suits a battery, with which of its modes, and how long it takes there."""

from typing import NamedTuple

from ...facts.case import Case
from ...facts.state_of_charge import volts_scale
from ...findings.kinds import StepKey
from ...house.equipment import Charger, ChargerMode
from ...units.compare import AMPS, CELSIUS, VOLTS, over, under
from ...words import NOTHING, Words, digits, fixed, say
from ..plan import ChargePlan, plan_of


class Suits(NamedTuple):
    """The mode a battery is charged with on a charger, and its plan there; or why it is not."""

    mode: ChargerMode | None
    plan: ChargePlan | None
    why_not: Words


def suits(case: Case, key: StepKey, charger: Charger, around_c: float | None) -> Suits:
    """The mode of a charger for this battery's step: its volts reach what the type needs and never lie over its ceiling.

    Of several the one with the most volts. `around_c` is the warmth of the charging place [C], None where nobody knows it.
    """
    if around_c is not None and (
        over(around_c, min(charger.ambient_high_c, case.rules.charge.ambient_most_c.value), CELSIUS)
        or under(around_c, charger.ambient_low_c, CELSIUS)
    ):
        return Suits(None, None, say("suits.c_around_it_is_out_of_its_limits", around_c=fixed(around_c, 0)))
    plan = plan_of(case, key, charger.amps)
    if plan.refused is not None:
        return Suits(None, plan, plan.refused.why)
    if charger.least_amps is not None and over(charger.least_amps, plan.most_amps, AMPS):
        lowest, bears = digits(charger.least_amps), digits(plan.most_amps)
        return Suits(None, plan, say("suits.it_cannot_go_down_to_what_it_bears", lowest=lowest, bears=bears))
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
        kind_words = {"ordinary": NOTHING, "recovery": say("suits.recovery"), "equalise": say("suits.equalising")}[
            plan.mode
        ]
        size = (
            NOTHING
            if volts_scale(case.battery.nominal_volts) == 1
            else say("suits.for_v", nominal_volts=case.battery.nominal_volts)
        )
        return Suits(
            None,
            plan,
            say(
                "suits.no_mode_of_to_v_for",
                kind_words=kind_words,
                least=fixed(least, 1),
                ceiling_volts=fixed(plan.ceiling_volts, 1),
                own=own.words,
                size=size,
            ),
        )
    mode = max(fits, key=lambda mode: mode.volts)
    return Suits(mode, plan_of(case, key, charger.amps, charger_volts=mode.volts), NOTHING)

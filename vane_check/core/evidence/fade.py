"""Fade: what a charge tells of the Ah it still holds, against its label."""

from ..battery.label import RESERVE_USES
from ..facts.capacity import capacity_of
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Reserve
from ..units.compare import PERCENT, under
from ..words import NOTHING, cited, fixed, say


def fade(case: Case) -> Finding | None:
    """Whether the last charge says that it holds far less than its label: a doubt that a timed discharge settles, never a verdict."""
    rules, result, rated = case.rules, capacity_of(case), case.capacity_ah
    firm = case.battery.capacity_ah_20h is not None
    if result is None or rated is None or (result.at_most and not firm):
        return None
    spread = 0.0 if firm else rules.estimate.spread_ratio.value
    limit = rules.capacity.faded_pct.value
    low, high = result.low_ah / rated * 100 / (1 + spread), result.high_ah / rated * 100 / (1 - spread)
    faded = under(high, limit, PERCENT)
    if result.at_most and not faded:
        return None  # an upper end that is high says nothing
    measured = case.last_of(Reserve) is not None
    says = None if not faded or measured else _says(case)
    label = say("figures.rated_ah", rated=fixed(rated, 0)) + (NOTHING if firm else say("fade.reckoned_from_its_rating"))
    went = say(
        "fade.ah_went_in_where_about_was_missing",
        at_most=say("fade.at_most") if result.at_most else NOTHING,
        ah_in=fixed(result.ah_in, 0),
        missing_pct=fixed(result.missing_pct, 0),
    )
    holds = (
        say("fade.at_most_ah", high_ah=fixed(result.high_ah, 0))
        if result.at_most
        else say("fade.to_ah", low_ah=fixed(result.low_ah, 0), high_ah=fixed(result.high_ah, 0))
    )
    return Finding(
        kind=Kind.FADE, reading_id=None, status="doubtful", points_to=says, weight=rules.weight.capacity.value if says else 0.0,
        reading_text=say('fade.holds', holds=holds), limit_text=say('fade.doubted_below_of', limit=fixed(limit, 0), label=label),
        text=say('fade.it_holds_far_less', went=went, holds=holds, label=label, low=fixed(max(low, 0), 0), high=fixed(min(high, 150), 0))
        if faded
        else say('fade.it_holds_of_to', went=went, holds=holds, label=label, low=fixed(max(low, 0), 0), high=fixed(min(high, 150), 0)),
        remedy=StepKey.RESERVE_TEST if says is Outcome.CANNOT_TELL else None, rule="capacity.faded_pct",
        source=cited(rules.capacity.faded_pct.source), standing=rules.capacity.faded_pct.standing,
    )  # fmt: skip


def _says(case: Case) -> Outcome:
    """A timed discharge is asked where reserve is its work and this house can run one; else it is watched."""
    context, rule = case.context, case.rules.capacity.fade_asks.value
    matters = context.use in RESERVE_USES or context.stop_start_car
    if rule == "worn_out":
        return Outcome.WORN_OUT
    can = "discharger" in case.rules.steps.tools_at_hand.value
    asked = rule == "reserve_test" or (rule == "where_it_matters" and matters)
    return Outcome.CANNOT_TELL if can and asked else Outcome.WATCH

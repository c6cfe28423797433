"""Ice: a battery as cold as its weakest acid freezes."""

from ..facts.case import Case
from ..findings.kinds import Kind
from ..findings.outcomes import Finding, Outcome
from ..tables import handbook_freezing_points
from ..words import cited, fixed, say


def ice(case: Case) -> Finding | None:
    """A warning when the battery is as cold as its weakest acid freezes: it may hold ice and must not be charged."""
    if case.frozen_acid is None or case.temperature_c is None:
        return None
    gravity, point = case.frozen_acid
    origin = handbook_freezing_points().origin
    return Finding(
        kind=Kind.ICE, reading_id=None, status="counts", points_to=Outcome.UNSAFE, weight=case.rules.weight.hazard.value,
        reading_text=say('ice.acid_about', gravity=fixed(gravity, 3)), limit_text=say('ice.freezes_at_c', point=fixed(point, 0)),
        text=say('ice.at_c_acid_of_may_be_frozen_thaw_it_in_the', temperature_c=fixed(case.temperature_c, 0), gravity=fixed(gravity, 3)),
        rule="weight.hazard", source=cited(origin.source), standing=origin.standing,
    )  # fmt: skip

"""Ice: a battery as cold as its weakest acid freezes."""

from ..facts.case import Case
from ..findings.kinds import Kind
from ..findings.outcomes import Finding, Outcome
from ..tables import handbook_freezing_points


def ice(case: Case) -> Finding | None:
    """A warning when the battery is as cold as its weakest acid freezes: it may hold ice and must not be charged."""
    if case.frozen_acid is None:
        return None
    gravity, point = case.frozen_acid
    origin = handbook_freezing_points().origin
    return Finding(
        kind=Kind.ICE, reading_id=None, status="counts", points_to=Outcome.UNSAFE, weight=case.rules.weight.hazard.value,
        reading_text=f"acid about {gravity:.3f}", limit_text=f"freezes at {point:.0f} °C",
        text=f"At {case.temperature_c:.0f} °C acid of {gravity:.3f} may be frozen: thaw it in the warm, then look for cracks",
        rule="weight.hazard", source=origin.source, standing=origin.standing,
    )  # fmt: skip

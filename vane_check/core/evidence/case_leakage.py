"""Case leakage: a dirty wet top drains the battery to the hold-down. It condemns nothing; it explains a loss."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding
from ..readings import CaseLeakage
from ..tables import cleaning_words
from ..units.compare import VOLTS, over, under
from .finding import finding
from .reads import reads


@reads(CaseLeakage)
def find(reading: CaseLeakage, case: Case) -> Finding:
    """Above the limit: clean, dry, measure again; if it comes back look under the sticker and at the vents."""
    limit = case.rules.look.leakage_volts.value
    worst = reading.worst_volts
    wet = over(worst, limit, VOLTS)
    places = f" at the worst of {len(reading.spots)} places" if len(reading.spots) > 1 else ""
    if not wet:
        text = f"{worst:.1f} V to the plastic{places}: the top is clean and dry enough"
    elif reading.cleaned:
        text = f"{worst:.1f} V to the plastic{places} even when cleaned: look under the sticker and at the vents"
    else:
        low = bool(case.valid_rest_volts) and under(case.valid_rest_volts[0].volts, case.recharge_line_volts, VOLTS)
        likely = ", likely why it is flat" if low else ""
        text = f"{worst:.1f} V to the plastic{places}: it drains over its top{likely}. Clean it: {cleaning_words()}"
    return finding(
        reading, case.rules, "look.leakage_volts", points_to=None, weight=None,
        status="doubtful" if wet else "counts", remedy=StepKey.CLEAN_TOP if wet and not reading.cleaned else None,
        reading_text=f"{worst:.1f} V on the case", limit_text=f"clean above {limit:.1f} V", text=text,
        places=tuple(place for place, spot in enumerate(reading.spots) if over(spot.volts, limit, VOLTS)),
    )  # fmt: skip

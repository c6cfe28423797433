"""Case leakage: a dirty wet top drains the battery to the hold-down. It condemns nothing; it explains a loss."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding
from ..readings import CaseLeakage
from ..tables import cleaning_words
from ..units.compare import VOLTS, over, under
from ..words import fixed, say
from .finding import finding
from .reads import reads


@reads(CaseLeakage)
def find(reading: CaseLeakage, case: Case) -> Finding:
    """Above the limit: clean, dry, measure again; if it comes back look under the sticker and at the vents."""
    limit = case.rules.look.leakage_volts.value
    worst = reading.worst_volts
    wet = over(worst, limit, VOLTS)
    places = say("case_leakage.at_the_worst_of_places", count=len(reading.spots)) if len(reading.spots) > 1 else ""
    if not wet:
        text = say("case_leakage.v_to_the_plastic_the_top_is_clean_and_dry", worst=fixed(worst, 1), places=places)
    elif reading.cleaned:
        text = say("case_leakage.v_to_the_plastic_even_when_cleaned_look", worst=fixed(worst, 1), places=places)
    else:
        low = bool(case.valid_rest_volts) and under(case.valid_rest_volts[0].volts, case.recharge_line_volts, VOLTS)
        likely = say("case_leakage.likely_why_it_is_flat") if low else ""
        text = say(
            "case_leakage.v_to_the_plastic_it_drains_over_its_top",
            worst=fixed(worst, 1),
            places=places,
            likely=likely,
            cleaning_words=cleaning_words(),
        )
    return finding(
        reading, case.rules, "look.leakage_volts", points_to=None, weight=None,
        status="doubtful" if wet else "counts", remedy=StepKey.CLEAN_TOP if wet and not reading.cleaned else None,
        reading_text=say('case_leakage.v_on_the_case', worst=fixed(worst, 1)), limit_text=say('case_leakage.clean_above_v', limit=fixed(limit, 1)), text=text,
        places=tuple(place for place, spot in enumerate(reading.spots) if over(spot.volts, limit, VOLTS)),
    )  # fmt: skip

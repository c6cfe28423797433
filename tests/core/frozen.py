"""Labels, matches, money and simulated batteries as they were written down: `python -m tests.core.frozen` writes them anew.

As with the corpus of checks, the difference is to be read before it is kept.
"""

import json
import random
from dataclasses import asdict
from datetime import date
from itertools import product
from pathlib import Path
from typing import Any

from vane_check.core.battery.date_codes import date_candidates, recognised_size
from vane_check.core.battery.label import Chemistry, Use
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.goods.warranty import Question, Terms, decide
from vane_check.core.house.rules import house_rules
from vane_check.core.matching import Candidate, Requirement, bounds_of, chemistries_that_fit, least_cca_amps, match
from vane_check.core.simulation import SimulatedBench, population
from vane_check.core.units.months import add_months, whole_months_between

FILE = Path(__file__).with_name("frozen.json")
RULES = house_rules()
TODAY = date(2026, 3, 20)
CODES = (
    "A5", "B5", "H5", "I5", "J5", "K5", "L5", "M5", "C6", "C25", "C250", "C5X", "I25", "M25", "N5", "A", "5A", "0325", "325", "1325",
    "0026", "2512", "2500", "2552", "2553", "1325", "1225", "5225", "5325", "25001", "25365", "25366", "25000", "26079", "26080",
    "012025", "122025", "132025", "002025", "012035", "C-5", "c 5", "03/25", "03.2025", "²", "٣", "", "123456789",
)  # fmt: skip
SIZES = (
    "48",
    "LN3",
    "L3",
    "lb3",
    "L9",
    "group 24f",
    "BCI 35",
    "GR 35",
    "55D23L",
    "46B24LS",
    "75D23R",
    "5D23L",
    "D23L",
    "24-F",
    "nothing",
)


def labels() -> Any:
    """What date codes and sizes are read as."""
    dates = {
        f"{code} {sold or ''}".strip(): [
            (one.made_on.isoformat(), one.read_as, round(one.plausibility, 4))
            for one in date_candidates(code, TODAY, sold)
        ]
        for code, sold in product(CODES, (None, date(2025, 6, 1), date(2016, 1, 1)))
    }
    return {"dates": dates, "sizes": {printed: recognised_size(printed) for printed in SIZES}}


def matches() -> Any:
    """What fits a handful of requirements, and why the rest does not."""
    candidates = [
        Candidate(
            item_id=number, line="L", name=f"{code} {chemistry}", group_code=code, chemistry=chemistry, cca_amps=cca,
            vent_tube=number % 2 == 0, price_cents=9000 + number % 5, in_stock=number % 3, last_volts=(None, 12.3, 12.47, 12.7)[number % 4],
        )
        for number, (code, chemistry, cca) in enumerate(
            product(("48", "LN3", "47", "49", "94R", "24F", "51R", "35", "96R", "GC2"), Chemistry, (540, 680, 900))
        )
    ]  # fmt: skip
    asked = [
        Requirement(group_code="48", also_codes=("LN3",), min_cca_amps=680, chemistry=Chemistry.EFB, stop_start=True),
        Requirement(group_code="48", min_cca_amps=600, chemistry=Chemistry.AGM, vent_tube=True),
        Requirement(group_code="47", min_cca_amps=540, chemistry=Chemistry.FLOODED, no_agm=True),
        Requirement(group_code="51R", min_cca_amps=540, chemistry=Chemistry.GEL),
        Requirement(group_code="24F", min_cca_amps=0, chemistry=Chemistry.CALCIUM),
        Requirement(group_code="GC2", min_cca_amps=0),
    ]
    return [
        {
            "found": [
                [one.candidate.name, one.candidate.cca_amps, one.fit, [(point.about, point.stands, point.text) for point in one.points], one.to_do,
                 one.length_difference_mm, one.width_difference_mm, one.height_difference_mm]
                for one in match(requirement, candidates, RULES)[:40]
            ],
            "order": [one.candidate.item_id for one in match(requirement, candidates, RULES)],
            "bounds": bounds_of(requirement, RULES)._asdict(),
            "chemistries": chemistries_that_fit(requirement),
            "least": least_cca_amps(requirement),
        }
        for requirement in asked
    ]  # fmt: skip


def money() -> Any:
    """What the warranty gives, day by day around its turns."""
    told = []
    terms = Terms(line="L", free_months=12, pro_rata_months=24, date_code_allowance_months=3, excluded_uses=(Use.TAXI,))
    days = [
        date(2025, 3, 20),
        date(2025, 3, 21),
        date(2023, 3, 20),
        date(2023, 3, 21),
        date(2024, 2, 29),
        date(2026, 3, 21),
        None,
    ]
    for sold, outcome, made in product(
        days, (Outcome.WORN_OUT, Outcome.SOUND, Outcome.UNSAFE), (None, date(2024, 1, 1), date(2026, 3, 1))
    ):
        question = Question(
            line="L", sold_on=sold, made_on=made, today=TODAY, outcome=outcome, price_cents=12345,
            replacement_cents=None if made is None else 20000,
        )  # fmt: skip
        told.append(decide(question, terms).model_dump(mode="json"))
    base = Question(line="L", sold_on=date(2025, 1, 31), today=TODAY, outcome=Outcome.WORN_OUT, price_cents=999)
    for change in (
        {"use": Use.TAXI},
        {"wrong_type_for_car": True},
        {"already_claimed": True},
        {"line": ""},
        {"replacement_cents": 100},
    ):
        told.append(decide(base.model_copy(update=change), terms).model_dump(mode="json"))
    told.append(decide(base, None).model_dump(mode="json"))
    none = Terms(line="L", free_months=0, pro_rata_months=0)
    told.append([decide(base, none).model_dump(mode="json"), none.date_code_allowance_months, none.excluded_uses])
    spans = [
        (date(2024, 1, 31), date(2024, 2, 29)),
        (date(2024, 1, 31), date(2024, 2, 28)),
        (date(2025, 5, 5), date(2024, 5, 5)),
    ]
    return {
        "answers": told,
        "months": [whole_months_between(*span) for span in spans],
        "added": [add_months(date(2024, 1, 31), months).isoformat() for months in (-2, 0, 1, 11, 12, 13)],
    }


def batteries() -> Any:
    """Forty simulated batteries put through everything a bench does."""
    told = []
    for number, battery in enumerate(population(40, 7)):
        bench = SimulatedBench(battery, random.Random(number))
        came = asdict(battery)
        readings = [
            bench.look(),
            bench.rest_volts(),
            bench.rest_volts(settle=True),
            bench.tester(),
            bench.tester(careful=True),
        ]
        readings += [
            bench.adjustable_load(battery.rated_cca_amps / 2),
            bench.adjustable_load(900, 10),
            bench.cells(),
            *bench.charge(),
        ]
        readings += [bench.rest_volts(), bench.stand(), bench.rest_volts(), bench.cells(), bench.tester()]
        told.append(
            {
                "came": {name: round(value, 9) if isinstance(value, float) else value for name, value in came.items()},
                "readings": [one.model_dump(mode="json", exclude_defaults=True) for one in readings],
                "left": {name: round(value, 9) if isinstance(value, float) else value for name, value in asdict(battery).items()},
                "minutes": round(bench.minutes, 6), "tests": bench.tests,
            }
        )  # fmt: skip
    return told


def shop() -> Any:
    """A large population, by what is the matter: how many, and how far each figure reaches."""
    told: dict[str, Any] = {}
    for battery in population(3000, 11):
        told.setdefault(battery.truth.value, []).append(asdict(battery))
    return {
        truth: {
            "count": len(rows),
            **{
                name: [round(min(values), 6), round(sum(values) / len(values), 6), round(max(values), 6)]
                for name in rows[0]
                if isinstance(rows[0][name], float | int)
                for values in ([row[name] for row in rows],)
            },
        }
        for truth, rows in sorted(told.items())
    }


def everything() -> dict[str, Any]:
    """All of it, as JSON would hold it."""
    found = {"labels": labels(), "matches": matches(), "money": money(), "batteries": batteries(), "shop": shop()}
    plain: dict[str, Any] = json.loads(json.dumps(found, default=str))
    return plain


if __name__ == "__main__":
    FILE.write_text(json.dumps(everything(), ensure_ascii=False, separators=(",", ":")) + "\n", encoding="utf-8")

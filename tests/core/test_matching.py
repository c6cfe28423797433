import unittest
from typing import Any

from tests.build import RULES
from vane_check.core.matching import Candidate, Fit, Match, Requirement, match


def candidate(**more: Any) -> Candidate:
    body = {
        "item_id": 1, "line": "Plain", "name": "Plain 48", "group_code": "48", "chemistry": "efb", "cca_amps": 700,
        "in_stock": 2, "price_cents": 10000, **more,
    }  # fmt: skip
    return Candidate.model_validate(body)


def one(asked: dict[str, Any], **more: Any) -> Match:
    requirement = Requirement.model_validate({"group_code": "48", "min_cca_amps": 680, "chemistry": "efb", **asked})
    return match(requirement, [candidate(**more)], RULES)[0]


class Fitting(unittest.TestCase):
    def test_cables_reach_no_further_where_nobody_says_so(self) -> None:
        self.assertEqual(Requirement(group_code="48", min_cca_amps=600).spare_cable_mm, 0)

    def test_table(self) -> None:
        table: list[tuple[str, dict[str, Any], dict[str, Any], Fit, str]] = [
            ("the size asked", {}, {}, Fit.EXACT, "size asked"),
            ("same footprint by another name", {}, {"group_code": "LN3"}, Fit.EXACT, "size asked"),
            ("agm is a step up", {}, {"chemistry": "agm"}, Fit.EXACT, "step up"),
            ("never stepped down", {"stop_start": True}, {"chemistry": "calcium"}, Fit.REJECTED, "never stepped down"),
            ("10 A short", {}, {"cca_amps": 670}, Fit.REJECTED, "10 under the 680"),
            ("too long", {}, {"group_code": "94R"}, Fit.REJECTED, "37 mm too long"),
            ("lower case, a spacer's worth", {}, {"group_code": "40R"}, Fit.NEAR, "15 mm less high"),
            ("positive on the other side", {"group_code": "24"}, {"group_code": "24F"}, Fit.REJECTED, "Positive on the right"),
            ("side posts", {"group_code": "34"}, {"group_code": "78"}, Fit.REJECTED, "Side posts"),
            ("no vent", {"vent_tube": True}, {}, Fit.REJECTED, "No vent tube"),
            ("vent", {"vent_tube": True}, {"vent_tube": True}, Fit.EXACT, "vent tube"),
            ("agm under an old regulator", {"chemistry": "flooded", "no_agm": True}, {"chemistry": "agm"}, Fit.REJECTED, "would not last"),
            ("gel for flooded", {"chemistry": "flooded"}, {"chemistry": "gel"}, Fit.REJECTED, "charged differently"),
            ("calcium for flooded", {"chemistry": "flooded"}, {"chemistry": "calcium"}, Fit.EXACT, "flooded type"),
            ("6 V", {}, {"group_code": "GC2"}, Fit.REJECTED, "6 V"),
        ]  # fmt: skip
        for what, asked, more, fit, said in table:
            with self.subTest(what):
                found = one(asked, **more)
                self.assertEqual(found.fit, fit, [point.text for point in found.points])
                self.assertIn(said, " ".join(str(point.text) for point in found.points))

    def test_differences_are_new_minus_old_in_millimetres(self) -> None:
        found = one({}, group_code="94R")
        self.assertEqual((found.length_difference_mm, found.height_difference_mm), (37, 0))

    def test_best_first(self) -> None:
        found = match(
            Requirement.model_validate({"group_code": "48", "min_cca_amps": 600}),
            [
                candidate(item_id=1, name="dear", price_cents=20000),
                candidate(item_id=2, name="none left", in_stock=0, price_cents=5000),
                candidate(item_id=3, name="weak", cca_amps=400, price_cents=1000),
                candidate(item_id=4, name="cheap", price_cents=9000),
            ],
            RULES,
        )
        self.assertEqual([one.candidate.name for one in found], ["cheap", "dear", "none left", "weak"])

    def test_stale_stock_is_charged_before_it_is_handed_over(self) -> None:
        self.assertIn("charge it before", " ".join(str(point.text) for point in one({}, last_volts=12.3).points))
        self.assertNotIn("charge it before", " ".join(str(point.text) for point in one({}, last_volts=12.7).points))

    def test_jobs_beside_the_fit(self) -> None:
        jobs = " ".join(map(str, one({"stop_start": True, "vent_tube": True}, vent_tube=True).to_do))
        self.assertIn("Register", jobs)
        self.assertIn("vent tube", jobs)

"""A near one: what fits only with a change, in millimetres and per cent; every edge with its figure written out."""

import unittest
from typing import Any

from tests.build import RULES
from tests.goods import candidate
from vane_check.core.house.rules import changed_rules
from vane_check.core.matching import Fit, Match, Measured, Requirement, match


def one(asked: dict[str, Any], rules: Any = RULES, **more: Any) -> Match:
    requirement = Requirement.model_validate({"min_cca_amps": 600, "chemistry": "flooded", **asked})
    return match(requirement, [candidate(**{"chemistry": "flooded", **more})], rules)[0]


def said(found: Match) -> str:
    return " | ".join(str(point.text) for point in found.points)


class Changes(unittest.TestCase):
    def check(
        self, asked: dict[str, Any], more: dict[str, Any], fit: Fit, words: str = "", rules: Any = RULES
    ) -> Match:
        found = one(asked, rules, **more)
        self.assertEqual(found.fit, fit, said(found))
        self.assertIn(words, said(found))
        return found

    def test_ratings_on_two_scales_may_differ_by_what_the_conversion_may(self) -> None:
        en = {"rated_amps": 560, "rated_scale": "EN"}
        self.check({"group_code": "48"}, {"cca_amps": 600, **en}, Fit.EXACT)
        # 5 % of 572 is 28.6: enough for 600; of 570 it is not
        self.check({"group_code": "48"}, {"cca_amps": 572, **en}, Fit.NEAR, "which may differ by 5 %")
        self.check({"group_code": "48"}, {"cca_amps": 570, **en}, Fit.REJECTED, "30 under the 600 asked")
        self.check({"group_code": "48", "cca_scale": "EN"}, {"cca_amps": 599, **en}, Fit.REJECTED)
        # both conversions: EN 5 % and DIN 6 %
        self.check({"group_code": "48", "cca_scale": "DIN"}, {"cca_amps": 541, **en}, Fit.NEAR, "11 %")
        self.check({"group_code": "48", "cca_scale": "DIN"}, {"cca_amps": 540, **en}, Fit.REJECTED)

    def test_ah_and_reserve_within_five_and_fifteen_per_cent(self) -> None:
        asked = {"group_code": "48", "min_capacity_ah": 70}
        for ah, fit in (
            (70, Fit.EXACT),
            (66.5, Fit.EXACT),
            (66.4, Fit.NEAR),
            (59.5, Fit.NEAR),
            (59.4, Fit.REJECTED),
            (None, Fit.NEAR),
        ):
            with self.subTest(ah):
                self.check(asked, {"capacity_ah_20h": ah}, fit, "Ah")
        reserve = {"group_code": "48", "min_reserve_minutes": 120}
        for minutes, fit in ((114, Fit.EXACT), (113, Fit.NEAR), (102, Fit.NEAR), (101, Fit.REJECTED), (None, Fit.NEAR)):
            with self.subTest(minutes):
                self.check(reserve, {"reserve_minutes": minutes}, fit, "min of reserve")

    def test_cables_that_reach_the_other_side(self) -> None:
        # a 24 is 260 mm long: from post to post 260 - 2 x 40 = 180 mm
        asked = {"group_code": "24F", "spare_cable_mm": 180}
        table = (
            (180, Fit.NEAR, "must reach 180 mm further, 180 mm are there"),
            (179, Fit.REJECTED, "180 mm would be needed"),
            (0, Fit.REJECTED, "the cables reach the right"),
        )
        for spare, fit, words in table:
            with self.subTest(spare):
                found = self.check({**asked, "spare_cable_mm": spare}, {"group_code": "24"}, fit, words)
        found = self.check(asked, {"group_code": "24"}, Fit.NEAR)
        self.assertIn("Lead both cables 180 mm further, clear of metal and heat", found.to_do)
        longer = changed_rules(RULES, {"match.post_inset_mm": 30}, "test")
        self.check(asked, {"group_code": "24"}, Fit.REJECTED, "200 mm would be needed", longer)

    def test_a_hold_down_that_grips_a_ledge(self) -> None:
        self.check({"group_code": "48"}, {"ledge": "none"}, Fit.NEAR, "hold it over the top")
        self.check({"group_code": "48", "ledge": "long"}, {"ledge": "long"}, Fit.EXACT)
        self.check({"group_code": "48", "ledge": "long"}, {"ledge": "all"}, Fit.EXACT)
        self.check({"group_code": "48", "ledge": "none"}, {"ledge": "none"}, Fit.EXACT)
        self.check({"group_code": "48", "ledge": "all"}, {"ledge": "long"}, Fit.NEAR)

    def test_the_vent_comes_from_the_other_side(self) -> None:
        asked = {"group_code": "48", "vent_tube": True, "vent_side": "right"}
        self.check(asked, {"vent_tube": True, "vent_side": "left"}, Fit.NEAR, "a longer tube")
        self.check(asked, {"vent_tube": True, "vent_side": "right"}, Fit.EXACT)
        self.check(asked, {"vent_tube": True}, Fit.EXACT)
        self.check(asked, {}, Fit.REJECTED, "No vent tube")

    def test_thin_posts_under_thick_clamps_want_shims_and_never_the_other_way(self) -> None:
        found = self.check(
            {"group_code": "35", "post": "top"}, {"group_code": "35", "post": "pencil"}, Fit.NEAR, "needs shims"
        )
        self.assertIn("Fit shims on the thin posts", found.to_do)
        self.check({"group_code": "51R"}, {"group_code": "51R", "post": "top"}, Fit.REJECTED, "the clamps take pencil")

    def test_what_may_not_stand_under_this_charging(self) -> None:
        agm = {"chemistry": "agm"}
        self.check({"group_code": "48"}, agm, Fit.EXACT)
        self.check({"group_code": "48", "flooded_stays": True}, agm, Fit.REJECTED, "flooded types alone")
        self.check({"group_code": "48", "flooded_stays": True}, {"chemistry": "efb"}, Fit.EXACT)
        self.check(
            {"group_code": "48", "running_volts": 15.4, "chemistry": "agm"},
            agm,
            Fit.REJECTED,
            "mend its charging first",
        )

    def test_the_terms_leave_this_use_out(self) -> None:
        found = self.check(
            {"group_code": "48", "use": "taxi"}, {"excluded_uses": ["taxi"]}, Fit.NEAR, "No warranty in taxi use"
        )
        self.assertEqual(found.points[-2].about, "terms")
        self.check({"group_code": "48", "use": "taxi"}, {"excluded_uses": ["delivery"]}, Fit.EXACT)
        both = match(
            Requirement.model_validate({"group_code": "48", "min_cca_amps": 600, "use": "taxi"}),
            [
                candidate(item_id=1, chemistry="flooded", excluded_uses=["taxi"], price_cents=1000),
                candidate(item_id=2, group_code="LB3", chemistry="flooded", in_stock=0, price_cents=90000),
                candidate(item_id=3, group_code="LN3", chemistry="flooded", in_stock=0, price_cents=90000),
            ],
            RULES,
        )  # fmt: skip
        self.assertEqual(
            [(found.candidate.item_id, found.fit) for found in both], [(3, Fit.EXACT), (2, Fit.NEAR), (1, Fit.NEAR)]
        )


class Tape(unittest.TestCase):
    def fit(self, tolerance: float | None = None, of: str = "tray", **outside: float) -> Match:
        """A 48 (278 x 175 x 190) into what was measured; the house's tolerance is 5 mm, its largest spacer 25."""
        taped = Measured.model_validate(
            {"of": of, "length_mm": 278, "width_mm": 175, "height_mm": 190, "tolerance_mm": tolerance, **outside}
        )
        return one({"measured": taped})

    def test_length_against_the_tape(self) -> None:
        for length, fit in (
            (273, Fit.EXACT),
            (272, Fit.REJECTED),
            (283, Fit.EXACT),
            (284, Fit.NEAR),
            (303, Fit.NEAR),
            (304, Fit.REJECTED),
        ):
            with self.subTest(length):
                self.assertEqual(self.fit(length_mm=length).fit, fit)

    def test_a_tray_may_be_higher_but_an_old_one_may_not_be_much(self) -> None:
        self.assertEqual(self.fit(height_mm=260).fit, Fit.NEAR)
        self.assertIn("The hold-down must reach 70 mm lower", self.fit(height_mm=260).to_do)
        self.assertEqual(self.fit(height_mm=260, of="old").fit, Fit.REJECTED)
        self.assertEqual(self.fit(height_mm=184).fit, Fit.REJECTED)

    def test_a_tolerance_of_ones_own_and_one_wider_than_any_spacer(self) -> None:
        self.assertEqual(self.fit(tolerance=0, length_mm=277).fit, Fit.REJECTED)
        self.assertEqual(self.fit(tolerance=0, length_mm=279).fit, Fit.NEAR)
        self.assertEqual(self.fit(tolerance=30, length_mm=308).fit, Fit.EXACT)

    def test_the_side_and_posts_are_asked_only_where_somebody_looked(self) -> None:
        taped: dict[str, Any] = {"length_mm": 278, "width_mm": 175, "height_mm": 190}
        self.assertEqual(one({"measured": taped}, positive_side="left", post="stud").fit, Fit.EXACT)
        self.assertEqual(one({"measured": {**taped, "positive_side": "right"}}, positive_side="left").fit, Fit.REJECTED)
        self.assertEqual(one({"measured": {**taped, "post": "top"}}, post="stud").fit, Fit.REJECTED)
        self.assertEqual(one({"measured": {**taped, "ledge": "all"}}, ledge="none").fit, Fit.NEAR)

    def test_a_size_and_a_tape_are_both_held_against_it(self) -> None:
        small = {"length_mm": 250, "width_mm": 175, "height_mm": 190}
        found = one({"group_code": "48", "measured": small})
        self.assertEqual(found.fit, Fit.REJECTED)
        self.assertIn("For the tray it is 28 mm too long", said(found))

    def test_six_volts_by_the_size_whatever_else_was_said(self) -> None:
        asked = Requirement.model_validate({"group_code": "GC2", "min_cca_amps": 0, "nominal_volts": 12})
        self.assertEqual(asked.nominal_volts, 6)
        with self.assertRaisesRegex(ValueError, "Give a size, or measure the tray"):
            Requirement.model_validate({"min_cca_amps": 0})

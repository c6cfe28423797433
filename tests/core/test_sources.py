"""Who says what is asked, who wins where they differ, and what that comes to."""

import unittest
from typing import Any

from tests.build import RULES
from vane_check.core.battery.label import Chemistry, RatingScale, Use
from vane_check.core.house.rules import changed_rules
from vane_check.core.matching import Measured, Requirement
from vane_check.core.matching.claims import Claim, Line, Merged, Need, SourceKey
from vane_check.core.matching.sources import merge, too_high_running_volts

TRAY = Measured(length_mm=250, width_mm=178, height_mm=195)


def claim(key: str, **more: Any) -> Claim:
    return Claim.model_validate({"key": key, "title": key, **more})


CAR = claim("car", group_code="48", also_codes=("LN3",), cca_amps=680, capacity_ah=70, chemistry="efb", stop_start=True)
LABEL = claim("label", group_code="48", cca_amps=720, capacity_ah=74, chemistry="efb")


def asked(*claims: Claim, rules: Any = RULES) -> Requirement:
    found = merge(claims, rules).requirement
    assert found is not None
    return found


def line(merged: Merged, about: str) -> Line:
    return next(one for one in merged.lines if one.about == about)


class Sources(unittest.TestCase):
    def test_the_cars_rating_is_asked_and_the_stricter_label_is_named(self) -> None:
        merged = merge([LABEL, CAR], RULES)
        rating = line(merged, "rating")
        self.assertEqual((rating.wins, rating.strictest, rating.differ), ("car", "label", True))
        self.assertEqual(rating.says, {SourceKey.CAR: "680 CCA", SourceKey.LABEL: "720 CCA"})
        self.assertEqual((asked(CAR, LABEL).min_cca_amps, asked(CAR, LABEL).min_capacity_ah), (680, 70))

    def test_by_house_rule_the_higher_of_the_two(self) -> None:
        strict = changed_rules(RULES, {"match.rating_asked": "strictest"}, "test")
        found = asked(CAR, LABEL, rules=strict)
        self.assertEqual((found.min_cca_amps, found.min_capacity_ah), (720, 74))

    def test_two_names_of_one_case_do_not_differ(self) -> None:
        twin = claim("label", group_code="LN3")
        self.assertFalse(line(merge([CAR, twin], RULES), "size").differ)
        self.assertTrue(line(merge([CAR, claim("label", group_code="47")], RULES), "size").differ)

    def test_the_tape_says_where_a_size_does_not_go_in(self) -> None:
        size = line(merge([CAR, claim("tape", measured=TRAY)], RULES), "size")
        self.assertTrue(size.differ)
        self.assertIn("size 48 does not go into what was measured", size.why)
        self.assertEqual(asked(CAR, claim("tape", measured=TRAY)).measured, TRAY)
        alone = merge([claim("tape", measured=TRAY)], RULES)
        self.assertEqual(line(alone, "size").says, {SourceKey.TAPE: "250 by 178 by 195 mm"})

    def test_posts_are_those_of_what_wins_the_size(self) -> None:
        code = claim("code", group_code="B24L", post="pencil")
        self.assertIsNone(asked(CAR, code).post)
        self.assertEqual(asked(code).post, "pencil")

    def test_a_code_that_is_only_measured_is_used_where_nobody_names_a_size(self) -> None:
        code = claim("code", measured={"of": "old", "length_mm": 410, "width_mm": 176, "height_mm": 234})
        self.assertIsNone(asked(CAR, code).measured)
        self.assertIsNotNone(asked(code).measured)

    def test_chemistry_never_goes_down_the_ladder(self) -> None:
        table: list[tuple[str, list[Claim], Chemistry]] = [
            ("agm stays agm", [claim("car", group_code="48", chemistry="flooded"), claim("label", chemistry="agm")], Chemistry.AGM),
            ("a label's efb is no reason beside the list", [claim("car", group_code="48", chemistry="flooded"), claim("label", chemistry="efb")], Chemistry.FLOODED),
            ("but alone it is", [claim("label", group_code="48", chemistry="efb")], Chemistry.EFB),
            ("stop-start asks for efb", [claim("label", group_code="48", chemistry="calcium"), claim("owner", stop_start=True)], Chemistry.EFB),
            ("a hot bay takes no agm", [claim("car", group_code="48", chemistry="flooded", no_agm=True), claim("label", chemistry="agm")], Chemistry.FLOODED),
            ("gel only where nobody says otherwise", [claim("car", group_code="48", chemistry="efb"), claim("label", chemistry="gel")], Chemistry.EFB),
            ("gel alone", [claim("label", group_code="48", chemistry="gel")], Chemistry.GEL),
        ]  # fmt: skip
        for what, claims, chemistry in table:
            with self.subTest(what):
                self.assertIs(asked(*claims).chemistry, chemistry)

    def test_what_the_owner_needs_raises_what_is_asked(self) -> None:
        self.assertEqual(asked(CAR, claim("owner", needs=["winter"])).min_cca_amps, 748)
        self.assertEqual(asked(CAR, claim("owner", needs=["consumers", "standing"])).min_capacity_ah, 77)
        bare = claim("car", group_code="48", cca_amps=600)
        # nobody says Ah: as many as a battery of that rating usually has (600 A at 9.5 A an Ah), and a tenth more
        self.assertAlmostEqual(asked(bare, claim("owner", needs=["standing"])).min_capacity_ah or 0, 69.47, places=2)
        self.assertIs(asked(CAR, claim("owner", needs=["taxi"], use="private")).use, Use.TAXI)
        needs = line(merge([CAR, claim("owner", needs=["winter", "taxi"])], RULES), "needs")
        self.assertEqual(needs.says, {SourceKey.OWNER: "hard winters: 10 % more CCA, taxi"})
        self.assertEqual({need.value for need in Need}, {"winter", "consumers", "standing", "taxi"})

    def test_nobody_names_a_size(self) -> None:
        self.assertIsNone(merge([claim("label", cca_amps=600)], RULES).requirement)

    def test_the_scale_goes_with_the_rating_that_wins(self) -> None:
        label = claim("label", group_code="48", cca_amps=560, cca_scale="EN")
        self.assertIs(asked(label).cca_scale, RatingScale.EN)
        self.assertIs(asked(CAR, label).cca_scale, RatingScale.CCA)

    def test_a_car_that_runs_too_high(self) -> None:
        self.assertIsNone(too_high_running_volts([], RULES))
        self.assertIsNone(too_high_running_volts([14.2, 14.7], RULES))
        self.assertEqual(too_high_running_volts([14.2, 15.4], RULES), 15.4)
        found = asked(CAR, claim("check", running_volts=15.4))
        self.assertEqual(found.running_volts, 15.4)

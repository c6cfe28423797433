"""Where two figures or two times are the same, or a thing is there once or thrice: the side on which each falls, written out."""

import importlib
import pkgutil
import unittest
from datetime import date

from pydantic import BaseModel

import vane_check.core
from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.battery.date_codes import date_candidates
from vane_check.core.battery.label import Chemistry
from vane_check.core.evidence.car import days_until
from vane_check.core.facts.case import Case
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import RulesRefused, changed_rules
from vane_check.core.matching import Candidate, Requirement, match
from vane_check.core.readings import AnyReading
from vane_check.core.readings.faults import field_path, plain_fault
from vane_check.core.simulation.battery import SimulatedBattery, Truth

CHARGED = volts(12.65)


def pull(value: float, minutes: float = 4) -> AnyReading:
    return reading("adjustable_load", minutes, amps=300, seconds=15, volts=value)


class Times(unittest.TestCase):
    def test_a_top_cleaned_after_the_loss_asks_for_another_stand_whatever_was_read_before(self) -> None:
        lost = reading("stand", 900, start_volts=12.6, volts=12.0, hours=14)
        for dirty in (1, 2, 3):
            before = [reading("case_leakage", 10 + each, volts=5.0) for each in range(dirty)]
            clean = reading("case_leakage", 910, volts=0.1, cleaned=True)
            judged = judge(volts(12.6, 0, rested_hours=12), tester(610, 5), *before, lost, clean)
            with self.subTest(dirty=dirty):
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "stand"))

    def test_a_top_cleaned_in_the_minute_of_the_loss_was_clean_then(self) -> None:
        dirty = reading("case_leakage", 10, volts=5.0)
        lost = reading("stand", 900, start_volts=12.6, volts=12.0, hours=14)
        self.assertEqual(
            judge(volts(12.6, 0, rested_hours=12), dirty, lost, reading("case_leakage", 900, volts=0.1)).outcome,
            Outcome.LEAKS_CHARGE,
        )

    def test_made_and_sold_in_the_same_month_is_as_likely_as_any(self) -> None:
        found = date_candidates("C25", date(2026, 3, 1), date(2025, 3, 1))[0]
        self.assertEqual((found.made_on, found.plausibility), (date(2025, 3, 1), 1.0))


class Counts(unittest.TestCase):
    def test_one_two_and_three_pulls_against_a_tester_that_condemns(self) -> None:
        for pulls, outcome in ((1, Outcome.CANNOT_TELL), (2, Outcome.SOUND), (3, Outcome.SOUND)):
            with self.subTest(pulls):
                judged = judge(
                    CHARGED, tester(300), tester(310, 3), *(pull(10.2, 4 + 20 * each) for each in range(pulls))
                )
                self.assertEqual(judged.outcome, outcome)

    def test_one_two_and_three_pulls_that_condemn_against_a_tester_that_passes(self) -> None:
        for pulls, outcome in ((1, Outcome.CANNOT_TELL), (2, Outcome.WORN_OUT), (3, Outcome.WORN_OUT)):
            with self.subTest(pulls):
                judged = judge(CHARGED, tester(620), *(pull(8.8, 4 + 20 * each) for each in range(pulls)))
                self.assertEqual(judged.outcome, outcome)

    def test_a_pull_held_against_a_borrowed_rating_condemns_nothing_alone(self) -> None:
        for source, status in (("label", "counts"), ("vehicle", "doubtful")):
            found = [
                one for one in judge(CHARGED, pull(8.8), rating_source=source).findings if one.kind == "adjustable_load"
            ]
            self.assertEqual([one.status for one in found], [status], source)

    def test_a_stand_said_to_be_after_a_full_charge_counts_though_the_charge_was_not_kept_here(self) -> None:
        flat = volts(12.0)
        held = volts(12.64, 2000, after_full_charge=True, rested_hours=14)
        asks = RULES.with_parameters({"stand.after_flat": RULES.stand.after_flat.model_copy(update={"value": "yes"})})
        judged = judge(flat, held, tester(620, 2002), rules=asks)
        self.assertEqual(judged.outcome, Outcome.SOUND)
        not_stood = judge(flat, volts(12.64, 2000, after_full_charge=True), tester(620, 2002), rules=asks)
        self.assertNotEqual(not_stood.outcome, Outcome.SOUND)


class Ranges(unittest.TestCase):
    def test_ranges_that_touch_agree(self) -> None:
        full = reading("cells", specific_gravities=[1.30] * 6)  # above the table: 100 to 100
        guess = tester(600, 2, state_of_charge_pct=90)  # 80 to 100
        found = Case.of(check(full, guess), RULES).state_of_charge
        assert found is not None
        self.assertEqual((found.low_pct, found.high_pct, found.rules_by), (100.0, 100.0, "gravity and tester"))

    def test_a_pull_empties_a_battery_and_no_further(self) -> None:
        battery = SimulatedBattery(
            truth=Truth.GOOD, chemistry="flooded", rated_cca_amps=600.0, strength=1.0, charge=0.01
        )
        battery.under_load(900, 15)
        self.assertEqual(battery.charge, 0.0)

    def test_a_charge_told_only_as_at_most_by_one_of_two_is_a_charge(self) -> None:
        hot = volts(12.2, 60, settled="just_charged")
        guess = tester(600, 62, state_of_charge_pct=60)
        alone = Case.of(check(hot), RULES).state_of_charge
        both = Case.of(check(hot, guess), RULES).state_of_charge
        assert both is not None
        self.assertEqual((alone and alone.at_most, both.at_most), (True, False))

    def test_a_milliamp_is_a_drain_and_none_is_none(self) -> None:
        self.assertEqual(days_until(100, 60, 1, 50), 1250.0)
        self.assertEqual(days_until(100, 60, 0.5, 50), 2500.0)
        self.assertIsNone(days_until(100, 60, 0, 50))

    def test_cells_by_volts_alone_weigh_only_when_one_is_suspect(self) -> None:
        for lowest, weight, status in ((2.10, 0.0, "counts"), (2.04, 0.3, "doubtful")):
            found = judge(reading("cells", cell_volts=[2.1] * 5 + [lowest])).findings[0]
            self.assertEqual((found.weight, found.status), (weight, status))

    def test_a_case_as_long_but_lower_needs_no_spacer_for_its_length(self) -> None:
        offered = [
            Candidate(item_id=1, line="L", name=code, group_code=code, chemistry=Chemistry.FLOODED, cca_amps=600)
            for code in ("58", "42")
        ]
        for found in match(Requirement(group_code="59", min_cca_amps=500), offered, RULES):
            self.assertEqual(found.fit, "near")
            longer = "Fit a spacer for 12 mm of length and 20 mm of width, then the hold-down"
            self.assertEqual(longer in found.to_do, found.candidate.group_code == "42")
            narrower = "Fit a spacer for 10 mm of width, then the hold-down"
            self.assertEqual(narrower in found.to_do, found.candidate.group_code == "58")
            self.assertEqual(len(found.to_do), 3)

    def test_two_digits_are_one_year_and_no_other(self) -> None:
        for code, year in (("C19", 2019), ("C12", 2012)):
            found = date_candidates(code, date(2026, 3, 20))
            self.assertEqual([one.made_on.year for one in found if f"{code[1:]} for year" in one.read_as], [year])

    def test_a_rest_under_the_end_of_a_rating_leaves_nothing_to_reckon(self) -> None:
        judged = judge(volts(6.9, confirmed=True), reading("adjustable_load", 4, amps=100, seconds=15, volts=5.0))
        found = [one for one in judged.findings if one.kind == "sag"]
        self.assertEqual([one.reading_text for one in found], ["sag ~0 CCA"])

    def test_one_spot_is_no_choice_of_places_two_are(self) -> None:
        spots = [{"volts": 3.1}, {"volts": 0.2}]
        for count, said in ((1, False), (2, True)):
            found = judge(reading("case_leakage", volts=0.1, spots=spots[:count])).findings[0]
            self.assertEqual("places" in found.text, said)

    def test_what_is_not_said_is_not_there(self) -> None:
        offered = Candidate(item_id=1, line="L", name="N", group_code="58", chemistry=Chemistry.FLOODED, cca_amps=600)
        self.assertEqual((offered.in_stock, offered.price_cents, offered.vent_tube), (0, 0, False))
        plain = SimulatedBattery(truth=Truth.GOOD, chemistry="flooded", rated_cca_amps=600.0, strength=1.0, charge=1.0)
        self.assertEqual((plain.has_caps, plain.wet_top, plain.hazard), (False, False, None))

    def test_the_first_week_of_a_year_is_a_week(self) -> None:
        self.assertIn("year and week", [found.read_as for found in date_candidates("2501", date(2026, 3, 20))])
        self.assertIn("week and year", [found.read_as for found in date_candidates("1325", date(2026, 3, 20))])


class Words(unittest.TestCase):
    def test_a_field_with_the_name_of_a_reading_keeps_it(self) -> None:
        for location, path in (
            (("readings", 0, "cells", "cells", 2), "readings[0].cells[2]"),
            (("look", "volts"), "volts"),
            (("battery", "look"), "battery.look"),
            (("readings", 1, "car", "car"), "readings[1].car"),
        ):
            self.assertEqual(field_path(location), path)

    def test_a_limit_is_told_only_where_a_limit_is_passed(self) -> None:
        where = ("battery", "rating", "amps")
        self.assertEqual(plain_fault({"type": "missing", "loc": where, "msg": "Field required"}), "This is needed")
        self.assertIn(
            "Enter 50 to 2000", plain_fault({"type": "less_than_equal", "loc": where, "msg": "Input should be less"})
        )
        self.assertEqual(plain_fault({"type": "less_than_equal", "loc": (), "msg": "too much"}), "too much")

    def test_a_rule_that_is_no_number_or_not_in_the_list_says_which(self) -> None:
        for name, value, said in (
            ("stand.hours", "long", "Enter a number"),
            ("stand.after_flat", "maybe", "Pick from yes, no"),
        ):
            with self.assertRaises(RulesRefused) as error:
                changed_rules(RULES, {name: value}, "this test")
            self.assertEqual(error.exception.faults, {name: said})

    def test_every_rule_that_is_wrong_is_named_not_the_first_alone(self) -> None:
        with self.assertRaises(RulesRefused) as error:
            changed_rules(
                RULES, {"no_rule": 1, "steps.minutes": {"tester": 3}, "neither": 2, "stand.hours": "x"}, "this test"
            )
        self.assertEqual(set(error.exception.faults), {"no_rule", "steps.minutes", "neither", "stand.hours"})

    def test_signs_of_danger_come_before_all_else(self) -> None:
        self.assertEqual(judge(look("bulged"), CHARGED, tester(620)).outcome, Outcome.UNSAFE)


class Frozen(unittest.TestCase):
    def test_nothing_the_core_hands_out_can_be_changed_afterwards(self) -> None:
        for module in pkgutil.walk_packages(vane_check.core.__path__, "vane_check.core."):
            for name, found in vars(importlib.import_module(module.name)).items():
                if isinstance(found, type) and issubclass(found, BaseModel) and found.__module__ == module.name:
                    with self.subTest(f"{module.name}.{name}"):
                        self.assertIs(found.model_config.get("frozen"), True)

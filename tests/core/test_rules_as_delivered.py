"""The rules as delivered, every value and source written out; and each of them changes a judgement or a figure, not words alone."""

import json
import math
import re
import unittest
from collections.abc import Iterator
from datetime import date
from pathlib import Path
from typing import Any

from tests.build import check, look, reading, tester, volts
from tests.core.made_checks import made_checks
from tests.goods import goods_figures
from tests.racks import rack_figures
from vane_check.core.battery.label import Chemistry
from vane_check.core.facts.case import Case
from vane_check.core.house.rules import (
    SCHOOLS,
    HouseRules,
    Parameter,
    RulesRefused,
    changed_rules,
    house_rules,
    rules_from,
)
from vane_check.core.judging.judgement import assess
from vane_check.core.judging.limits import limits_of
from vane_check.core.matching import Candidate, Requirement, match
from vane_check.core.readings.check import Check

FROZEN: dict[str, dict[str, Any]] = json.loads(Path(__file__).with_name("rules-as-delivered.json").read_text())
RULES = house_rules()
NAMES = list(RULES.parameters())
GRAVITIES = [1.265] * 4 + [1.210] * 2


WINTER = -90 * 24 * 60
LOG = [{"minutes": 60, "amps": 6}, {"minutes": 120, "amps": 2}, {"minutes": 300, "amps": 1}]


def full(minutes: float, **body: Any) -> Any:
    return reading("charge_run", minutes, start_amps=7, amps=0.6, volts=14.5, hours=9, finished=True, **body)


def stood(minutes: float) -> Any:
    return reading("stand", minutes, start_volts=12.75, volts=12.66, hours=14)


def pull(value: float, minutes: float = 5) -> Any:
    return reading("adjustable_load", minutes, amps=300, seconds=15, volts=value)


EDGES = [
    check(volts(10.75, after_full_charge=True)),
    check(volts(12.62), tester(850)),
    check(volts(12.62), tester(390), rated=None, capacity_ah_20h=70),
    check(volts(12.62), reading("cells", 5, specific_gravities=GRAVITIES, after_full_charge=True)),
    check(reading("charge_run", start_amps=8, amps=6.9, volts=12.4, hours=4)),
    check(volts(12.62), tester(560), rating_source="vehicle"),
    check(look(), volts(11.9), rated=None),
    check(
        volts(12.1),
        reading("charge_run", 5, start_amps=8, amps=0.4, volts=14.5, hours=9, finished=True),
        volts(12.66, 600),
        tester(620, 602),
    ),
    check(volts(12.62), reading("fixed_load", 5, volts=9.0, seconds=10)),
    check(volts(12.62), tester(300), context={"use": "standby"}),
    check(volts(12.5), tester(600, state_of_charge_pct=80)),
    check(volts(12.62), tester(600, volts=11.9)),
    check(volts(12.62), tester(500), rated=None, group_code="24"),
    check(volts(12.62), tester(640), pull(10.4, 9), rated=None, group_code="24"),
    check(volts(12.62), tester(620), reading("car", 5, drain_ma=400), capacity_ah_20h=60),
    check(volts(8.6, confirmed=True), full(600), volts(12.66, 640), tester(620, 642), stood(1500)),
    check(volts(12.37), reading("cells", 2, cell_volts=[1.74, 2.12, 2.5, 2.5, 2.5, 2.5])),
    check(volts(12.62), reading("crank", 2, dip_volts=9.2, seconds=3)),
    check(volts(12.62), tester(330)),
    check(volts(12.62), tester(330), rated=None, capacity_ah_20h=100, context={"engine_litres": 2.0}),
    check(
        volts(12.0),
        volts(12.0, 60 * 24 * 20),
        full(60 * 24 * 21),
        volts(12.64, 60 * 24 * 22),
        tester(300, 60 * 24 * 22 + 5),
    ),
    check(volts(12.44, meter_range="200_v"), tester(600)),
    check(volts(12.62), pull(8.5), context={"came_in": "returned"}),
    check(volts(12.62), pull(8.5)),
    check(volts(12.62), reading("car", 3, idle_volts=13.4)),
    check(
        volts(12.0),
        reading("charge_run", 5, start_amps=1.5, amps=1.5, volts=13.2, hours=9),
        capacity_ah_20h=12,
        rated=None,
    ),
    check(volts(12.62, temperature_c=-4), tester(520)),
    check(volts(12.62), reading("electronic_tester", 2, type_set="flooded", resistance_mohm=5.2)),
    check(volts(12.62), tester(300), made_on="2023-01-01"),
    check(volts(12.62), reading("crank", 5, volts=8.5, seconds=10), reading("crank", 30, volts=8.4, seconds=10)),
    check(
        volts(6.35, temperature_c=10),
        reading("reserve", 5, amps=25, minutes=300, volts=5.25, after_full_charge=True),
        rated=None,
        capacity_ah_20h=225,
        nominal_volts=6,
        context={"use": "deep_cycle"},
    ),
    check(
        volts(12.66),
        reading("reserve", 5, amps=10, minutes=350, volts=10.5, after_full_charge=True, temperature_c=10),
        rated=None,
        capacity_ah_20h=100,
        context={"use": "standby"},
    ),
    check(volts(12.1), full(600), volts(12.64, 640), tester(300, 645), context={"complaint": "stood_for_weeks"}),
    check(volts(11.6), reading("fixed_load", 5, volts=2.0, seconds=10)),
    check(volts(12.50), pull(8.5)),
    check(reading("stand", 900, start_volts=12.64, volts=12.59, hours=14)),
    check(reading("stand", 4400, start_volts=12.64, volts=12.54, hours=72)),
    check(volts(12.62), tester(348), pull(9.75, 9)),
    check(volts(12.62), tester(300), pull(8.6, 9), pull(8.6, 30), context={"came_in": "returned"}),
    check(volts(12.62), pull(8.5).model_copy(update={"amps": 360.0})),
    check(volts(12.62), tester(610), rated=None, rating={"amps": 640, "scale": "EN"}),
    check(
        volts(12.0),
        reading("charge_run", 600, start_amps=10, amps=1.5, volts=14.5, hours=9, finished=True),
        volts(12.1, 640),
        rated=None,
    ),
    check(
        volts(12.0),
        reading("charge_run", 500, start_amps=4, amps=3.0, volts=14.4, hours=7),
        reading("charge_run", 570, start_amps=4, amps=3.0, volts=14.4, hours=8, finished=True),
        volts(12.1, 640),
        rated=None,
    ),
    check(reading("cells", 5, specific_gravities=[1.266] * 6)),
    check(volts(12.62), reading("electronic_tester", 2, type_set="flooded", message="good")),
    check(volts(12.0), full(600, ah_in=20), volts(12.66, 640), tester(620, 642), stood(1500), capacity_ah_20h=60),
    check(volts(12.24), full(600, ah_in=22), volts(12.66, 640), tester(620, 642), stood(1500), capacity_ah_20h=60),
    check(volts(12.0), full(600, log=LOG), volts(12.66, 640), tester(620, 642), stood(1500), capacity_ah_20h=60),
    check(volts(12.62), look(minutes=1, eye="clear"), has_caps=False),
    check(volts(12.12), full(600, ah_in=17.5), volts(12.66, 640), tester(620, 642), stood(1500), capacity_ah_20h=60),
    check(volts(12.62), reading("crank", 9, volts=10.6, seconds=15), context={"came_in": "in_car"}),
    check(volts(12.62), pull(9.93), tester(455, 12)),
    check(volts(12.62), tester(620), context={"complaint": "clicks", "came_in": "in_car"}),
    check(
        volts(12.75, 20, settled="headlamps"),
        reading("stand", 2880, start_volts=12.75, volts=12.66, hours=48),
        chemistry="efb",
    ),
    check(volts(12.62), tester(500), reading("crank", 9, volts=10.8, seconds=15), rated=None),
    check(volts(10.55), full(600), volts(12.66, 640), tester(620, 642), stood(1500)),
    check(
        volts(12.0),
        reading("cells", 5, cell_volts=[2.0, 2.0, 1.85, 2.0, 2.0, 2.0], specific_gravities=[1.15] * 6),
        full(600),
        volts(12.64, 640),
        tester(620, 642),
        stood(1500),
    ),
    check(volts(12.62), pull(8.5), tester(300, 7)),
    check(volts(11.9, WINTER)),
    check(volts(11.5, temperature_c=-5)),
    check(volts(11.9, temperature_c=44), capacity_ah_20h=60),
    check(volts(7.0, confirmed=True), capacity_ah_20h=60),
    check(volts(12.62), reading("cells", 5, specific_gravities=GRAVITIES, after_full_charge=True), has_caps=True),
    check(volts(12.62), reading("crank", 9, volts=10.9, seconds=15), context={"came_in": "in_car"}),
    check(volts(12.62), pull(9.80), tester(440, 12)),
    check(volts(12.62), reading("stand", 3000, start_volts=12.64, volts=12.60, hours=24)),
    check(volts(12.0), volts(12.0, 28800), full(30240), volts(12.64, 31680), tester(300, 31685), pull(8.5, 31690)),
    check(volts(10.55), full(600), volts(12.66, 1500, rested_hours=14), tester(620, 1502)),
    check(
        volts(12.0, -900), full(-30), volts(12.62), tester(620), stood(1500), context={"complaint": "stood_for_weeks"}
    ),
    check(volts(12.64, rested_hours=6), reading("stand", 900, start_volts=12.64, volts=12.54, hours=14)),
    check(volts(12.64, 75, rested_hours=12), reading("stand", 900, start_volts=12.64, volts=12.54, hours=14)),
    check(
        volts(10.6),
        *(reading("charge_run", at, start_amps=10, amps=8, volts=11.9, hours=at / 60) for at in (60, 300)),
        capacity_ah_20h=90,
    ),
    check(volts(12.62), pull(8.0), volts(12.6, 20), context={"came_in": "returned"}).model_copy(
        update={"at_hand": ("meter", "charger", "adjustable_load")}
    ),
    check(
        reading("charge_run", -60, start_amps=7, amps=0.6, volts=14.5, hours=9, finished=True),
        volts(12.7, settled="headlamps"),
        reading("stand", 900, start_volts=12.86, volts=12.74, hours=14),
    ),
    check(
        volts(12.66),
        reading("reserve", 5, amps=25, minutes=163, volts=10.5, after_full_charge=True),
        rated=None,
        capacity_ah_20h=100,
        context={"use": "standby"},
    ),
    check(volts(11.9, temperature_c=-11)),
]
"""Checks that stand where a rule bites and none of the made ones does."""
EDGES = [
    each.model_copy(
        update={
            "readings": (look(minutes=-30 if each.readings[0].taken_at.month == 3 else WINTER - 30), *each.readings)
        }
    )
    for each in EDGES
]
CHECKS = [*(Check.model_validate(made["check"]) for made in made_checks()[::3]), *EDGES]
BARE = changed_rules(RULES, {"steps.tools_at_hand": []}, "a bench without tools").steps.tools_at_hand
REQUIREMENT = Requirement(group_code="48", min_cca_amps=600, chemistry=Chemistry.FLOODED)
OFFERED = [
    Candidate(item_id=number, line="L", name=code, group_code=code, chemistry=Chemistry.FLOODED, cca_amps=700, in_stock=1, last_volts=12.47)
    for number, code in enumerate(("48", "47", "LN3", "49", "94R", "LN2", "24F"))
]  # fmt: skip


def figures(rules: HouseRules) -> Iterator[Any]:
    """Everything the rules lead to but the words, what is soonest reckoned first."""
    yield rack_figures(rules)
    yield goods_figures(rules)
    for matched in match(REQUIREMENT, OFFERED, rules):
        yield matched.fit, [point.stands for point in matched.points]
    bare = rules.with_parameters({"steps.tools_at_hand": BARE})
    for one in EDGES:
        yield assess(one, bare).next_step.minutes
    for one in reversed(CHECKS):
        judged = assess(one, rules)
        step = judged.next_step
        yield (
            judged.outcome, judged.confidence, judged.sureness, judged.look_at_the_car, judged.watch_until,
            re.findall(r"[0-9.]+", str(judged.look_at_the_car_why or "")),
            judged.estimate and (judged.estimate.low_amps, judged.estimate.high_amps),
            judged.state_of_charge and (judged.state_of_charge.low_pct, judged.state_of_charge.high_pct),
            step.key, step.minutes, step.load, step.plan, judged.age and judged.age.past_usual, judged.cause and judged.cause.key,
            judged.prospect and (judged.prospect.asked_cca_amps, judged.prospect.starts_down_to_c, not judged.prospect.lighter_duty),
            [(found.status, found.points_to, found.weight, found.remedy, found.places) for found in judged.findings],
            limits_of(Case.of(one, rules)).model_dump(exclude={"rating_words"}),
        )  # fmt: skip


def others(parameter: Parameter[Any]) -> list[Any]:
    """Other values a rule may have."""
    if parameter.choices and isinstance(parameter.value, tuple):
        return [[one] for one in parameter.choices]
    if parameter.choices:
        return [one for one in parameter.choices if one != parameter.value]
    ends = [parameter.low, parameter.high]
    if isinstance(parameter.value, dict):
        return [dict.fromkeys(parameter.value, end) for end in ends]
    return [*ends, (parameter.low + parameter.high) / 2]  # type: ignore[operator]


class AsDelivered(unittest.TestCase):
    def test_every_value_bound_and_source_is_the_one_written_here(self) -> None:
        self.assertEqual(set(FROZEN), set(NAMES))
        for name in NAMES:
            with self.subTest(name):
                self.assertEqual(RULES.parameter(name).model_dump(mode="json", exclude={"holds_from"}), FROZEN[name])

    def test_the_other_schools_differ_in_what_is_written_here(self) -> None:
        differs = {
            school: {name: house_rules(school).parameter(name).value for name in NAMES if house_rules(school).parameter(name) != RULES.parameter(name)}
            for school in SCHOOLS[1:]
        }  # fmt: skip
        self.assertEqual(
            differs,
            {
                "load_first": {
                    "rest.recharge_line_volts": 12.5,
                    "decision.deciding_kinds": ("adjustable_load",),
                    "rest.school": "12_h",
                    "decision.methods_to_condemn": 1.0,
                },
                "cell_first": {
                    "rest.recharge_line_volts": 12.5,
                    "decision.deciding_kinds": ("cells", "adjustable_load"),
                    "rest.school": "2_h",
                    "decision.methods_to_condemn": 1.0,
                },
                "fixed_first": {
                    "decision.deciding_kinds": ("fixed_load",),
                    "steps.tools_at_hand": ("meter", "fixed_load", "charger", "car"),
                    "rest.school": "12_h",
                },
                "crank_first": {
                    "decision.deciding_kinds": ("crank",),
                    "steps.tools_at_hand": ("meter", "charger", "car"),
                    "rest.school": "2_h",
                    "crank.floor_volts": 10.0,
                },
            },
        )


class Used(unittest.TestCase):
    expected_seconds = 60.0
    in_quick_run = False

    def test_each_rule_changes_a_judgement_or_a_figure(self) -> None:
        before = list(figures(RULES))

        def differ(rules: HouseRules) -> bool:
            return any(now != then for now, then in zip(figures(rules), before, strict=True))

        for name in NAMES:
            if name == "rest.recharge_line_soc_pct":
                continue  # used only where the line is drawn in per cent: see below
            with self.subTest(name):
                tried = (changed_rules(RULES, {name: value}, "a test") for value in others(RULES.parameter(name)))
                self.assertTrue(any(map(differ, tried)), f"{name} changes nothing but words")

    def test_a_line_drawn_in_per_cent_is_another_line(self) -> None:
        for pct, line in ((75, 12.45), (50, 12.24)):
            rules = changed_rules(
                RULES, {"rest.recharge_line_in": "per_cent", "rest.recharge_line_soc_pct": pct}, "a test"
            )
            self.assertEqual(limits_of(Case.of(check(), rules)).recharge_line_volts, line)


class Bounds(unittest.TestCase):
    in_quick_run = False

    def test_no_value_outside_its_bounds_is_taken(self) -> None:
        for name in NAMES:
            parameter = RULES.parameter(name)
            if isinstance(parameter.value, float):
                wrong: list[Any] = [
                    parameter.low - 0.001,
                    parameter.high + 0.001,
                    math.nan,
                    math.inf,
                    -math.inf,
                    1e300,
                    "many",
                    None,
                ]
            elif isinstance(parameter.value, dict):
                wrong = [
                    {},
                    {**parameter.value, "more": 1.0},
                    dict.fromkeys(parameter.value, math.nan),
                    dict.fromkeys(parameter.value, 1e9),
                    3,
                ]
            else:
                wrong = ["", "something else", ["something else"], 7, None]
            for value in wrong:
                with self.subTest(name, value=value), self.assertRaises(RulesRefused) as refused:
                    changed_rules(RULES, {name: value}, "a test")
                self.assertEqual(list(refused.exception.faults), [name])

    def test_both_ends_are_taken_and_judge(self) -> None:
        for name in NAMES:
            for value in others(RULES.parameter(name)):
                rules = changed_rules(RULES, {name: value}, "a test")
                for one in CHECKS[:20]:
                    self.assertTrue(assess(one, rules).headline)

    def test_a_rule_that_is_none_is_named(self) -> None:
        for name in ("nonsense", "version", "rest", "rest.model_fields", "replace_below_ratio", "rest.school.value"):
            with self.assertRaises(RulesRefused) as refused:
                changed_rules(RULES, {name: 1}, "a test")
            self.assertEqual(refused.exception.faults, {name: "There is no such rule"})


FLAT = Path(__file__).with_name("rules-kept-flat.json")
"""A version of a house's as it was kept before rules were a tree: all of it, 0.72 and 12 h of its own, from 4 June 2026."""


class Kept(unittest.TestCase):
    def body(self) -> dict[str, Any]:
        return RULES.model_dump(mode="json")

    def test_a_version_kept_flat_is_read_under_the_names_of_today(self) -> None:
        read = rules_from(json.loads(FLAT.read_text()))
        own = {
            path: rule.value for path, rule in read.parameters().items() if rule.value != RULES.parameter(path).value
        }
        delivered_then = {
            "charge.no_current_amps": 0.1, "decision.methods_to_condemn": 1.0, "estimate.cca_per_ah": 6.0,
            "load.pull_uncertainty_ratio": 0.12, "rest.to_condemn": "as_said", "stand.leak_long_pct_per_day": 1.0,
        }  # fmt: skip
        self.assertEqual(own, {"tester.replace_below_ratio": 0.72, "rest.school": "12_h", **delivered_then})
        self.assertEqual((read.version, read.holds_from), ("2026.4", date(2026, 6, 4)))
        self.assertEqual(read.tester.replace_below_ratio.source, "house choice: a cold spring")
        self.assertEqual(
            {rule.unit for rule in read.parameters().values()}, {rule.unit for rule in RULES.parameters().values()}
        )

    def test_each_rule_says_from_when_it_holds(self) -> None:
        self.assertEqual({rule.holds_from for rule in RULES.parameters().values()}, {RULES.holds_from})
        self.assertEqual(
            {rule.holds_from for rule in house_rules("cell_first").parameters().values()}, {RULES.holds_from}
        )
        day = date(2026, 7, 1)
        own = changed_rules(RULES, {"tester.replace_below_ratio": 0.7}, "ours", since=day)
        later = changed_rules(own, {"rest.school": "12_h"}, "ours", since=date(2026, 8, 2))
        self.assertEqual(
            (later.tester.replace_below_ratio.holds_from, later.rest.school.holds_from), (day, date(2026, 8, 2))
        )
        self.assertEqual(later.tester.absurd_ratio.holds_from, RULES.holds_from)
        self.assertEqual(rules_from(later.model_dump(mode="json")), later)
        flat = rules_from(json.loads(FLAT.read_text()))  # kept before each said so
        self.assertEqual(
            (flat.rest.school.holds_from, flat.load.seconds.holds_from), (date(2026, 6, 4), RULES.holds_from)
        )

    def test_a_retired_rule_never_makes_an_old_version_unreadable(self) -> None:
        old = {
            **self.body(),
            "series_pack": {"value": "weak_one", "unit": "", "source": "x", "standing": "practice"},
            "gone": 3,
        }
        self.assertEqual(rules_from(old), RULES)

    def test_a_value_no_bounds_allow_reads_as_delivered(self) -> None:
        for name, value in (
            ("decision.watch_months", 1e9),
            ("estimate.cca_per_ah", 0.0),
            ("rest.school", "a while"),
            ("steps.minutes", {"cells": 1e12}),
        ):
            old, (group, _, rule) = self.body(), name.partition(".")
            old[group][rule] = {**old[group][rule], "value": value}
            self.assertEqual(rules_from(old).parameter(name).value, RULES.parameter(name).value, name)

    def test_units_and_bounds_are_the_package_s_and_values_the_house_s(self) -> None:
        old = self.body()
        old["tester"]["replace_below_ratio"] = {"value": 0.8, "unit": "cups", "source": "ours", "standing": "practice"}
        found = rules_from(old).tester.replace_below_ratio
        self.assertEqual(
            (found.value, found.source, found.unit, found.high),
            (0.8, "ours", RULES.tester.replace_below_ratio.unit, 0.95),
        )

    def test_a_table_that_grew_takes_the_package_s_value_for_the_new_name(self) -> None:
        old = self.body()
        del old["steps"]["minutes"]["value"]["cells"]
        old["steps"]["minutes"]["value"]["tester"] = 7.0
        found = rules_from(old).steps.minutes.value
        self.assertEqual((found["cells"], found["tester"]), (12.0, 7.0))

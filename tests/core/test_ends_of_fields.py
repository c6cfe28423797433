"""How far each field of labels, terms and readings goes."""

import unittest

from pydantic import ValidationError

from vane_check.core.battery.label import Battery, Rating
from vane_check.core.goods.terms import Terms
from vane_check.core.goods.warranty import Question
from vane_check.core.matching import Requirement
from vane_check.core.readings import READING_MODELS
from vane_check.core.readings.check import parse_check
from vane_check.core.readings.faults import CheckRefused


class Bounds(unittest.TestCase):
    """How far each field of the models goes, on both sides of its ends."""

    def ends(self, model: type, field: str, good: list[object], bad: list[object], **more: object) -> None:
        for value, fits in [*((one, True) for one in good), *((one, False) for one in bad)]:
            with self.subTest(model.__name__, field=field, value=str(value)[:30]):
                try:
                    model(**{field: value, **more})
                    self.assertTrue(fits)
                except ValidationError:
                    self.assertFalse(fits)

    def test_of_labels_and_terms(self) -> None:
        self.ends(Rating, "amps", [50, 2000], [49.9, 2001, float("inf"), float("nan")])
        self.ends(Battery, "capacity_ah_20h", [2, 300, None], [1.9, 301])
        self.ends(Battery, "line", ["x" * 120, ""], ["x" * 121, "a\x00"])
        self.ends(Requirement, "also_codes", [("48",) * 20, ()], [("48",) * 21], group_code="48", min_cca_amps=1)
        self.ends(Requirement, "min_cca_amps", [0, 2000], [-1, 2001], group_code="48")
        self.ends(Terms, "free_months", [0, 120], [-1, 121], line="L", pro_rata_months=0)
        self.ends(Terms, "pro_rata_months", [0, 120], [-1, 121], line="L", free_months=0)
        self.ends(Terms, "date_code_allowance_months", [0, 36], [-1, 37], line="L", free_months=0, pro_rata_months=0)
        more = {"line": "L", "today": "2026-03-20", "outcome": "sound"}
        self.ends(Question, "price_cents", [0], [-1], **more)
        self.ends(Question, "replacement_cents", [0, None], [-1], **more, price_cents=0)
        self.assertEqual(Requirement(group_code="48", min_cca_amps=1).stop_start, False)

    def test_of_every_reading(self) -> None:
        whole: dict[str, dict[str, object]] = {
            "rest_volts": {"volts": 12}, "electronic_tester": {"measured_cca_amps": 500, "type_set": "flooded"},
            "adjustable_load": {"amps": 300, "seconds": 15, "volts": 10}, "fixed_load": {"amps": 100, "seconds": 10, "volts": 11},
            "crank": {"volts": 10, "seconds": 10}, "stand": {"start_volts": 12.7, "volts": 12.6, "hours": 12},
            "charge_run": {"start_amps": 6, "amps": 1, "volts": 14, "hours": 5}, "case_leakage": {"volts": 0.1},
            "cells": {}, "look": {}, "car": {}, "withdrawal": {"replaces": "x"}, "reserve": {"amps": 25, "minutes": 90, "volts": 10.5},
        }  # fmt: skip
        ends: dict[str, dict[str, tuple[float, float, float]]] = {
            "rest_volts": {"rested_hours": (0, 720, 0.1), "temperature_c": (-40, 60, 0.1)},
            "electronic_tester": {
                "measured_cca_amps": (0, 3000, 1), "rated_set_amps": (50, 2000, 1), "health_pct": (0, 100, 0.1),
                "state_of_charge_pct": (0, 100, 0.1), "resistance_mohm": (0.5, 200, 0.1), "temperature_c": (-40, 60, 0.1),
            },
            "adjustable_load": {"amps": (5, 1500, 1), "seconds": (1, 60, 0.1), "temperature_c": (-40, 60, 0.1)},
            "fixed_load": {"amps": (5, 1500, 1), "seconds": (1, 60, 0.1)},
            "crank": {"seconds": (1, 60, 0.1)},
            "reserve": {"amps": (0.2, 100, 0.1), "minutes": (1, 3000, 1)},
            "charge_run": {"start_amps": (0, 200, 0.1), "amps": (0, 200, 0.1), "volts": (0, 20, 0.1), "hours": (0, 120, 0.1)},
            "case_leakage": {"volts": (0, 18, 0.1)},
            "car": {"idle_volts": (8, 20, 0.1), "loaded_volts": (8, 20, 0.1), "drain_ma": (0, 20000, 1), "drop_starter_volts": (0, 13, 0.1)},
        }  # fmt: skip
        models = {str(model.model_fields["kind"].default): model for model in READING_MODELS}
        self.assertEqual(set(models), set(whole))
        for kind, fields in ends.items():
            for field, (low, high, step) in fields.items():
                body = {**whole[kind], "taken_at": "2026-03-02T09:00:00Z"}
                self.ends(
                    models[kind],
                    field,
                    [low, high],
                    [low - step, high + step],
                    **{k: v for k, v in body.items() if k != field},
                )

    def test_a_file_holds_a_thousand_readings_and_no_more(self) -> None:
        one = '{"kind":"look","taken_at":"2026-03-02T09:00:00Z"}'
        text = '{"format":"vane-check/1","readings":[' + ",".join([one] * 1_001) + "]}"
        self.assertEqual(len(parse_check(text.replace(f"{one},", "", 1)).readings), 1_000)
        with self.assertRaises(CheckRefused) as refused:
            parse_check(text)
        self.assertEqual(refused.exception.problems[0].path, "readings")

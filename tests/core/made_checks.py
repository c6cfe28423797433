"""Checks as a bench might write them, made by chance and always the same: what a test says of every check is tried on them.

What the core answers is not kept: an answer of our own is no truth. `python -m bench.answers FILE` writes it, to compare before and after a change.
"""

import random
from functools import cache
from typing import Any

from tests.build import at
from vane_check.core.house.rules import SCHOOLS

SEED = 20261134
SIGNS = ("bulged", "cracked", "leaking", "hot", "frozen", "melted_post", "wet_top", "hold_down_missing", "sticker_gone")
TYPES = {"flooded": "flooded", "hybrid": "flooded", "calcium": "flooded", "efb": "efb", "agm": "agm_flat", "gel": "gel"}


class Chance(random.Random):
    """Half the checks are made by a careful hand: what is written first is what is usually so."""

    careful = False


def _one_of(chance: Chance, *values: Any) -> Any:
    return values[0] if chance.careful and chance.random() < 0.72 else chance.choice(values)


def _reading(chance: Chance, kind: str, label: dict[str, Any]) -> dict[str, Any]:
    scale = label["nominal_volts"] / 12
    cells = label["nominal_volts"] // 2
    rated = label["rating"]["amps"] if label["rating"] else 500
    warmth = _one_of(chance, None, -18, -5, 0, 10, 19, 24, 30)
    if kind == "look":
        marks = [{"sign": sign} for sign in chance.sample(SIGNS, _one_of(chance, 0, 0, 0, 1, 2))]
        levels = [_one_of(chance, "right", "right", "low", "plates_bare", "over") for _ in range(cells)]
        return {
            "marks": marks,
            "corrosion": _one_of(chance, "none", "none", "light", "heavy"),
            "levels": _one_of(chance, [], [], levels),
            "eye": _one_of(chance, None, None, "green", "dark", "clear"),
        }
    if kind == "case_leakage":
        return {
            "volts": _one_of(chance, 0.1, 0.5, 0.6, 4.0),
            "cleaned": chance.random() < 0.4,
            "spots": _one_of(chance, [], [{"volts": 0.2}, {"volts": 3.1}]),
        }
    if kind == "rest_volts":
        value = _one_of(
            chance,
            12.65,
            12.6,
            12.5,
            12.41,
            12.38,
            12.2,
            11.9,
            10.5,
            8.4,
            4.0,
            12.95,
            13.2,
            13.8,
            chance.uniform(11.5, 12.9),
        )
        return {
            "volts": round(value * scale, 2),
            "settled": _one_of(chance, "rested", "rested", "headlamps", "just_charged"),
            "rested_hours": _one_of(chance, None, 1, 2, 14),
            "after_full_charge": chance.random() < 0.3,
            "confirmed": chance.random() < 0.3,
            "temperature_c": warmth,
        }
    if kind == "electronic_tester":
        share = _one_of(chance, *_one_of(chance, (1.0,), (0.5,)), 0.3, 0.5, 0.6, 0.68, 0.74, 0.78, 0.85, 1.0, 1.1, 2.2)
        return {
            "measured_cca_amps": round(rated * share),
            "type_set": _one_of(
                chance, TYPES[label["chemistry"]], TYPES[label["chemistry"]], TYPES[label["chemistry"]], "agm_spiral"
            ),
            "scale_set": _one_of(chance, *[label["rating"]["scale"] if label["rating"] else "CCA"] * 4, "EN"),
            "clamped": _one_of(chance, "lead_posts", "lead_posts", "lead_posts", "studs", "cable_clamps"),
            "message": _one_of(chance, None, "good", "good_recharge", "recharge_retest", "replace", "bad_cell"),
            "posts_clean": _one_of(chance, None, True, False),
            "charge_setting": _one_of(chance, None, "before", "after"),
            "state_of_charge_pct": _one_of(chance, None, 40, 75, 100),
            "rated_set_amps": _one_of(chance, None, rated, rated + 50),
            "health_pct": _one_of(chance, None, 55),
            "volts": _one_of(chance, None, None, None, round(12.6 * scale, 2), round(12.1 * scale, 2)),
            "resistance_mohm": _one_of(chance, None, None, 5.2),
        }
    if kind == "cells":
        base = _one_of(chance, 1.265, 1.25, 1.235, 1.215, 1.18)
        row = [round(base + chance.choice((0, 0.002, -0.003)), 3) for _ in range(cells)]
        if chance.random() < 0.5:
            row[chance.randrange(cells)] = round(base - _one_of(chance, 0.03, 0.05, 0.06, 0.11), 3)
        volts = [round(2.1 - _one_of(chance, 0, 0, 0.02, 0.06, 0.3), 2) for _ in range(cells)]
        states = [_one_of(chance, "lively", "lively", "still") for _ in range(cells)]
        return {
            "specific_gravities": _one_of(chance, row, row, row, []) or row,
            "cell_volts": _one_of(chance, [], [], volts),
            "on_charge": _one_of(chance, [], [], [], states),
            "bands": _one_of(chance, [], [], ["green"] * cells),
            "temperature_c": warmth,
            "after_full_charge": chance.random() < 0.6,
            "equalised": chance.random() < 0.3,
        }
    if kind == "adjustable_load":
        return {
            "amps": round(rated / 2 * _one_of(chance, 1, 1, 1, 0.8, 0.96, 1.2)),
            "seconds": _one_of(chance, 15, 15, 15, 10, 5),
            "volts": round(_one_of(chance, 10.4, 9.9, 9.65, 9.58, 9.4, 8.8, 7.5, 0.5) * scale, 2),
            "needle": _one_of(chance, "held", "held", "dropped_after", "dropped_at_once", "fell_during"),
            "temperature_c": warmth,
        }
    if kind == "fixed_load":
        return {
            "amps": _one_of(chance, 100, 100, 125),
            "seconds": _one_of(chance, 10, 10, 5),
            "volts": round(_one_of(chance, 11.4, 11.0, 10.3, 9.5, 9.1, 1.0, 2.0, 3.0) * scale, 2),
            "bounce_volts": _one_of(chance, None, round(12.3 * scale, 2), round(10.8 * scale, 2)),
        }
    if kind == "crank":
        return {
            "volts": round(_one_of(chance, 10.6, 9.7, 9.5, 8.2) * scale, 2),
            "seconds": _one_of(chance, 10, 2, 15),
            "dip_volts": _one_of(chance, None, None, round(8.6 * scale, 2)),
            "temperature_c": warmth,
        }
    if kind == "charge_run":
        start = _one_of(chance, 2.5, 6, 8)
        return {
            "start_amps": start, "amps": _one_of(chance, 0.4, start, start + 1, round(start * 0.86, 1)),
            "volts": round(_one_of(chance, 12.4, 13.4, 14.3, 14.5) * scale, 2), "hours": _one_of(chance, 1, 3, 8),
            "finished": chance.random() < 0.5, "recovery": chance.random() < 0.1, "ah_in": _one_of(chance, None, None, 14),
        }  # fmt: skip
    if kind == "stand":
        return {
            "start_volts": round(_one_of(chance, 12.7, 12.9) * scale, 2), "hours": _one_of(chance, 6, 12, 24),
            "volts": round(_one_of(chance, 12.68, 12.5, 12.42, 12.37, 12.1) * scale, 2),
        }  # fmt: skip
    if kind == "reserve":
        return {
            "amps": 25, "minutes": _one_of(chance, 110, 95, 60, 30), "volts": round(_one_of(chance, 10.5, 10.4, 11.6) * scale, 2),
            "after_full_charge": chance.random() < 0.6, "temperature_c": warmth,
        }  # fmt: skip
    return {
        "idle_volts": _one_of(chance, None, 14.1, 13.5, 14.9), "loaded_volts": _one_of(chance, None, 13.8, 13.2),
        "drain_ma": _one_of(chance, None, 20, 60, 400), "modules_asleep": chance.random() < 0.7,
        "clamp_moves": chance.random() < 0.2, "unregistered": chance.random() < 0.2, "short_trips": chance.random() < 0.3,
    }  # fmt: skip


ORDER = (
    "look",
    "case_leakage",
    "rest_volts",
    "electronic_tester",
    "cells",
    "adjustable_load",
    "fixed_load",
    "crank",
    "charge_run",
    "stand",
    "reserve",
    "car",
)


def _made(chance: Chance, number: int) -> dict[str, Any]:
    label: dict[str, Any] = {
        "line": "Made",
        "nominal_volts": _one_of(chance, 12, 12, 12, 12, 6),
        "chemistry": _one_of(chance, "flooded", "flooded", "calcium", "hybrid", "efb", "agm", "gel"),
        "rating": _one_of(
            chance,
            *[{"amps": 600, "scale": "CCA"}] * 5,
            None,
            {"amps": 360, "scale": "DIN"},
            {"amps": 750, "scale": "CA"},
        ),
        "rating_source": _one_of(chance, "label", "label", "label", "vehicle"),
        "capacity_ah_20h": _one_of(chance, None, 60, 90),
        "reserve_minutes": _one_of(chance, None, None, 110),
        "made_on": _one_of(chance, None, "2023-05-01", "2018-02-01"),
        "has_caps": _one_of(chance, None, True, False),
    }
    context = {
        "came_in": _one_of(chance, "in_car", "carried_in", "returned"),
        "complaint": _one_of(
            chance, "will_not_start", "slow_crank", "stood_for_weeks", "stop_start_stopped", "check_only"
        ),
        "use": chance.choice(("private", "private", "taxi", "standby", "deep_cycle")),
        "stop_start_car": chance.random() < 0.3,
    }
    kinds = ["rest_volts"] * (chance.random() < 0.85) + chance.sample(ORDER, chance.randrange(0, 5))
    minutes, readings = 0.0, []
    if number % 9 == 4:  # flat, charged with its Ah read, rested
        scale = label["nominal_volts"] / 12
        ah = _one_of(chance, 48, 20, 9)
        put = {"start_amps": 8, "amps": 0.5, "volts": round(14.5 * scale, 2), "hours": 8, "finished": True, "ah_in": ah}
        after = {"volts": round(12.68 * scale, 2), "settled": "headlamps"}
        readings = [
            {
                "kind": "rest_volts",
                "id": "flat",
                "taken_at": at(-900),
                "volts": round(_one_of(chance, 12.0, 12.2) * scale, 2),
            },
            {"kind": "charge_run", "id": "put", "taken_at": at(-400), **put},
            {"kind": "rest_volts", "id": "after", "taken_at": at(-60), **after},
        ]
    for kind in kinds:
        readings.append(
            {"kind": kind, "id": f"r{len(readings)}", "taken_at": at(minutes), **_reading(chance, kind, label)}
        )
        minutes += _one_of(chance, 1, 5, 12, 40, 130)
    if readings and chance.random() < 0.15:
        readings.append(
            {"kind": "withdrawal", "id": "back", "taken_at": at(minutes), "replaces": chance.choice(readings)["id"]}
        )
    if readings and chance.random() < 0.12:  # looked at again, all in order by then
        readings.append(
            {
                "kind": "look",
                "id": "again",
                "taken_at": at(minutes + 5),
                "levels": ["right"] * (label["nominal_volts"] // 2),
            }
        )
    school = chance.choice(SCHOOLS)
    if number % 5 and not any(reading["kind"] == "look" for reading in readings):  # most are looked over first
        readings.insert(0, {"kind": "look", "id": "looked", "taken_at": at(-30), "marks": []})
    return {"school": school, "check": {"battery": label, "context": context, "readings": readings}}


@cache
def made_checks(count: int = 360, seed: int = SEED) -> tuple[dict[str, Any], ...]:
    """So many, each the name of a school and the body of a check; two of three by a careful hand."""
    chance, found = Chance(seed), []
    for number in range(count):
        chance.careful = number % 3 != 0
        found.append(_made(chance, number))
    return tuple(found)

"""A catalogue of some two thousand invented items over all sizes, and some three hundred invented cars with their variants."""

import random
from collections.abc import Iterator
from typing import Any, NamedTuple

from ..core.tables import Footprint, footprints, scale_definitions
from . import goods


class Make(NamedTuple):
    """A line of the larger catalogue: how strong, how much it holds and what it costs against the plain ones."""

    line: str
    chemistry: str
    strength: float
    holds: float
    base_cents: int
    cents_per_amp: int


MORE_LINES = (
    Make("Aldane Start", "flooded", 0.9, 0.95, 13000, 9),
    Make("Aldane Start Plus", "calcium", 1.0, 1.0, 15500, 10),
    Make("Aldane Stop", "efb", 1.02, 1.0, 19500, 13),
    Make("Aldane Mat", "agm", 1.12, 1.05, 26000, 17),
    Make("Corvin Field", "flooded", 0.95, 1.05, 14000, 9),
    Make("Corvin Long", "calcium", 0.98, 1.12, 16500, 11),
)
STEPS = (0.86, 0.93, 1.0, 1.07, 1.14)
AMPS_PER_LITRE, AH_PER_LITRE, MINUTES_PER_AH = 72, 7.9, 1.75
SUPPLIERS = (
    (
        "Harrow Wholesale",
        1,
        [0, 2, 4],
        "15:00",
        "Carriage paid from six pieces; old batteries taken back with the lorry",
    ),
    ("Northgate Battery Trade", 3, [1, 3], "", "Pays the deposit by weight; nothing taken back that was on a car"),
)


def own_items() -> Iterator[dict[str, Any]]:
    """The shop's own lines, as rows of the catalogue."""
    for item in goods.items():
        size = footprints()[item.group_code]
        yield {
            **item._asdict(), **outside(size), "name": f"{item.line} {item.group_code} {item.cca_amps}",
            "rated_amps": item.cca_amps, "rated_scale": "CCA", "reserve_minutes": round(item.capacity_ah_20h * MINUTES_PER_AH),
            "vent_side": "left" if item.vent_tube else None, "core_deposit_cents": 1200,
        }  # fmt: skip


def more_items() -> Iterator[dict[str, Any]]:
    """The larger catalogue: every size, six lines, five strengths; no name twice."""
    seen = set()
    for item in _every_strength():
        if item["name"] not in seen:
            seen.add(item["name"])
            yield item


def _every_strength() -> Iterator[dict[str, Any]]:
    for size in footprints().values():
        litres = size.length_mm * size.width_mm * size.height_mm / 1e6
        scale = "CCA" if size.system == "BCI" else "EN"
        ratio = scale_definitions()[scale].amps_per_sae_cca_amp
        vent = size.ledge == "all"
        for make in MORE_LINES:
            for step in STEPS:
                amps = min(round(litres * AMPS_PER_LITRE * make.strength * step * ratio, -1), 1990)
                ah = min(round(litres * AH_PER_LITRE * make.holds * (0.94 + 0.06 * step)), 299)
                yield {
                    **outside(size), "line": make.line, "name": f"{make.line} {size.code} {amps:.0f}", "group_code": size.code,
                    "chemistry": make.chemistry, "rated_amps": amps, "rated_scale": scale, "cca_amps": round(amps / ratio, 1),
                    "capacity_ah_20h": ah, "reserve_minutes": round(ah * MINUTES_PER_AH), "vent_tube": vent,
                    "vent_side": "right" if vent else None, "price_cents": make.base_cents + round(amps * make.cents_per_amp),
                    "core_deposit_cents": 1200 if litres < 12 else 2400,
                }  # fmt: skip


def outside(size: Footprint) -> dict[str, Any]:
    """A size as the catalogue keeps it."""
    return {
        "length_mm": size.length_mm, "width_mm": size.width_mm, "height_mm": size.height_mm, "nominal_volts": size.nominal_volts,
        "positive_side": size.positive_side, "post": size.post, "ledge": size.ledge, "same_as": size.same_as,
    }  # fmt: skip


class Model(NamedTuple):
    """A model of the larger list: its first year, the size of its small and of its large engine, where the battery sits."""

    name: str
    year: int
    small: str
    large: str
    place: str
    access: str


PLACES = (
    ("under the bonnet, left", "open, nothing in the way"),
    ("under the bonnet, right", "air duct off first, two clips"),
    ("boot, right, under the floor", "load floor up, foam tray out; the boot needs its emergency key once it is flat"),
    ("under the passenger's seat", "seat right forward; mind the airbag plug, ignition off three minutes first"),
)
MAKES = {
    "Ulmar": ("Senna", "Tarn", "Brook", "Kestrel", "Moor", "Fell", "Strand"),
    "Vesk": ("One", "Two", "Three", "Line", "Cross", "Port", "Tall"),
    "Wendry": ("Larkin", "Thorn", "Copse", "Hedge", "Meadow", "Orchard", "Barley"),
    "Yarrow": ("Pique", "Reed", "Sedge", "Rush", "Marsh", "Otter", "Heronry"),
    "Zephrine": ("Alto", "Brio", "Canto", "Dolce", "Epic", "Forte", "Grave"),
}
BOXES = ("47", "48", "94R", "96R", "35", "24F", "51R", "LN2", "LN3", "D23L", "D26L", "LB2")
LARGER = {
    "47": "48", "48": "94R", "94R": "49", "96R": "47", "35": "24F", "24F": "27F", "51R": "35", "LN2": "LN3", "LN3": "LN4",
    "D23L": "D26L", "D26L": "D31L", "LB2": "LB3",
}  # fmt: skip
AMPS = {
    "47": 540, "48": 640, "94R": 720, "49": 800, "96R": 500, "35": 480, "24F": 540, "27F": 600, "51R": 380, "LN2": 520,
    "LN3": 620, "LN4": 700, "LN5": 780, "D23L": 480, "D26L": 540, "D31L": 620, "LB2": 480, "LB3": 580,
}  # fmt: skip


def more_cars() -> list[dict[str, Any]]:
    """Cars of five makes: each model in two generations, each generation in three or four variants."""
    chance, cars = random.Random(1126), []
    for make, models in MAKES.items():
        for model in models:
            small = chance.choice(BOXES)
            for from_year, to_year in ((chance.randrange(2004, 2008), 2013), (2014, None)):
                place, access = chance.choice(PLACES)
                inside = not place.startswith("under the bonnet")
                for variant in _variants(from_year, chance):
                    size = LARGER[small] if variant["engine_fuel"] == "diesel" or inside else small
                    stop = variant["stop_start"]
                    cars.append(
                        {
                            "make": make, "model": model, "from_year": from_year, "to_year": to_year, **variant,
                            "group_code": size, "also_codes": [], "min_cca_amps": AMPS[size] + (40 if stop else 0),
                            "min_capacity_ah": round(AMPS[size] / 10), "vent_tube": inside and footprints()[size].ledge == "all",
                            "vent_side": "right" if inside and footprints()[size].ledge == "all" else None,
                            "battery_place": place, "access": access, "needs_registration": bool(stop),
                            "programme": "battery replacement, by a diagnostic tool" if stop else "",
                            "memory": "clock, radio stations" if from_year < 2010 else "clock, windows, seat memory",
                            "after_fitting": ["windows", "steering_angle", "clear_codes"] if stop else ["radio_code"] if from_year < 2010 else ["windows"],
                            "source": "vehicle list, edition 12",
                        }
                    )  # fmt: skip
    return cars


def _variants(from_year: int, chance: random.Random) -> list[dict[str, Any]]:
    litres = chance.choice((1.0, 1.2, 1.4, 1.6))
    plain = {"engine": f"{litres:.1f} petrol", "engine_litres": litres, "engine_fuel": "petrol"}
    diesel = {"engine": f"{litres + 0.4:.1f} diesel", "engine_litres": litres + 0.4, "engine_fuel": "diesel"}
    if from_year < 2010:
        return [
            {**plain, "trim": "", "stop_start": False, "chemistry": "flooded"},
            {**plain, "trim": "cold lands", "stop_start": False, "chemistry": "flooded", "spare_cable_mm": 40},
            {**diesel, "trim": "", "stop_start": False, "chemistry": "flooded"},
            {**diesel, "trim": "towing", "stop_start": False, "chemistry": "calcium"},
        ]
    return [
        {**plain, "trim": "", "stop_start": False, "chemistry": "flooded"},
        {**plain, "trim": "stop-start", "stop_start": True, "chemistry": "efb"},
        {**diesel, "trim": "", "stop_start": False, "chemistry": "calcium"},
        {**diesel, "trim": "stop-start", "stop_start": True, "chemistry": "agm"},
    ]


BRANCH = "Weir Lane Batteries, Quay Street"
SOLD: tuple[tuple[str, float, str, str, float, tuple[tuple[str, float | None], ...]], ...] = (
    (
        "Quellan Cycle 48 700", 12.78, "QC-70233", "Brevan Tillet 1.2", 9.0,
        (
            ("covers_on", None), ("side_by_side", None), ("new_volts", 12.78), ("key_out", None), ("negative_off", None),
            ("positive_off", None), ("tray_clean", None), ("into_place", None), ("hold_down", None), ("positive_on", None),
            ("clamp_torque", None), ("grease", None), ("register", None), ("running_volts", 14.3), ("drain", 22.0), ("old_one", None),
        ),
    ),
    (
        "Quellan Mat 94R 840", 12.9, "QM-11872", "Brevan Ossel 2018", 0.1,
        (("covers_on", None), ("side_by_side", None), ("new_volts", 12.9), ("key_out", None)),
    ),
)  # fmt: skip
"""Sold in the last days: item, volts at hand-over, serial, car, days ago, and what is ticked off of its fitting."""

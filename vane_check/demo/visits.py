"""The batteries in the made-up shop as it opens: label, how each came, what was read, where it stands."""

from dataclasses import dataclass, field


@dataclass
class Visit:
    """A battery in the house: label, how it came, what was read (minutes after it came, body), where it stands."""

    line: str
    group: str
    place: str = "counter"
    hand_in_hours: float | None = None
    came_hours_ago: float = 2.0
    sold_months_ago: int | None = None
    made_months_ago: int | None = None
    rated: int | None = None
    car: str | None = None
    customer: int | None = None
    context: dict[str, object] = field(default_factory=dict)
    readings: list[tuple[float, dict[str, object]]] = field(default_factory=list)
    chemistry: str | None = None
    serial: str = ""
    has_caps: bool | None = None
    capacity_ah_20h: float | None = None
    """Where this is given it is a battery without a starting figure."""
    charger: str = ""
    """On which charger it hangs."""
    ready_in_hours: float | None = None
    """When it was promised."""
    waits: bool = False


def look(*hazards: str) -> dict[str, object]:
    """A look's body."""
    return {"kind": "look", "marks": [{"sign": sign} for sign in hazards]}


def volts(value: float, **more: object) -> dict[str, object]:
    """A rest voltage's body."""
    return {"kind": "rest_volts", "volts": value, "temperature_c": 19, **more}


def charged(
    amps: float,
    start_amps: float,
    value: float,
    hours: float,
    finished: bool = False,
    log: tuple[tuple[float, float], ...] = (),
) -> dict[str, object]:
    """A charge run's body, with amps at hours on the way."""
    return {
        **({"log": [{"minutes": at * 60, "amps": drawn} for at, drawn in log]} if log else {}),
        "kind": "charge_run",
        "amps": amps,
        "start_amps": start_amps,
        "volts": value,
        "hours": hours,
        "finished": finished,
    }


def tester(cca: float, type_set: str, **more: object) -> dict[str, object]:
    """An electronic tester's body."""
    return {
        "kind": "electronic_tester",
        "measured_cca_amps": cca,
        "type_set": type_set,
        "tester_name": "Bench tester 1",
        **more,
    }


SEEN_BEFORE = Visit(
    "Quellan Cycle", "48", "gone", None, sold_months_ago=12, made_months_ago=14, car="Brevan Tillet 1.2", customer=1, serial="qc 48-20731",
    context={"came_in": "in_car", "complaint": "check_only"},
    readings=[(3.0, look()), (5.0, volts(12.68)), (8.0, tester(690, "efb"))],
)  # fmt: skip
"""The first visit of a battery that stands on the bench again, its serial written another way."""

IN_THE_HOUSE = (
    Visit("Merlow Silver", "47", came_hours_ago=0.2, car="Caldo Stanza", customer=0, context={"came_in": "in_car", "complaint": "will_not_start"}),
    Visit("Quellan Cycle", "96R", came_hours_ago=0.1, sold_months_ago=20, customer=2, car="Caldo Pico Eco",
          context={"came_in": "returned", "complaint": "stop_start_stopped", "stop_start_car": True}),
    Visit("Quellan Cycle", "48", "bench", sold_months_ago=18, made_months_ago=20, car="Brevan Tillet 1.2", customer=1, serial="QC48-20731",
          context={"came_in": "in_car", "complaint": "slow_crank", "stop_start_car": True},
          readings=[(4, look()), (6, volts(12.62, settled="headlamps")), (9, tester(420, "efb", message="replace", health_pct=48))]),
    Visit("Merlow Silver", "34", "bench", sold_months_ago=31, car="Navarre Delta R", customer=3,
          context={"came_in": "carried_in", "complaint": "slow_crank"},
          readings=[(3, look()), (5, volts(12.71)), (8, tester(540, "flooded"))]),
    Visit("Quellan Mat", "94R", "bench", sold_months_ago=44, car="Brevan Ossel", customer=5,
          context={"came_in": "in_car", "complaint": "warning_light", "stop_start_car": True},
          readings=[(3, look()), (5, volts(12.78)), (7, tester(590, "flooded", message="recharge_retest"))]),
    Visit("Merlow Plain", "24F", "on_charge", 3.5, 4.0, charger="Charger 2", ready_in_hours=9, sold_months_ago=9, customer=6, car="Ister Heron",
          context={"came_in": "carried_in", "complaint": "stood_for_weeks"}, readings=[(3, look()), (6, volts(11.92)), (200, charged(4.4, 6.0, 13.6, 3, log=((0.5, 6.0), (1, 5.9), (2, 5.2))))]),
    Visit("Merlow Silver", "65", "on_charge", 6.0, 8.8, charger="Charger 3", sold_months_ago=26, customer=7, car="Navarre Ridge",
          context={"came_in": "carried_in", "complaint": "will_not_start", "use": "agricultural"},
          readings=[(3, look()), (5, volts(12.38)), (8, tester(470, "flooded", message="recharge_retest"))]),
    Visit("Quellan Mat", "49", "on_charge", 9.0, 5.0, charger="Charger 4", customer=4, context={"came_in": "returned", "complaint": "clicks", "use": "taxi"},
          sold_months_ago=11, readings=[(3, look()), (5, volts(12.08))]),
    Visit("Merlow Plain", "51R", "standing", 15.0, 9.0, car="Ister Wren", context={"came_in": "carried_in", "complaint": "slow_crank"},
          readings=[(3, look()), (5, volts(12.18)), (480, charged(0.6, 5.2, 14.4, 7.5, finished=True)), (500, volts(13.12, settled="just_charged"))]),
    Visit("Tessaro Duty", "27F", "standing", 18.0, 30.0, sold_months_ago=16, customer=4, car="Pallin Larch Long",
          context={"came_in": "returned", "complaint": "failed_elsewhere", "use": "taxi"},
          readings=[(3, look()), (5, volts(12.31)), (890, charged(0.7, 7.8, 14.6, 13, finished=True)), (900, volts(13.3, settled="just_charged"))]),
    Visit("Merlow Silver", "35", "ready", None, 26.0, sold_months_ago=14, customer=3, car="Ister Kite",
          context={"came_in": "carried_in", "complaint": "check_only"}, readings=[(3, look()), (5, volts(12.74)), (8, tester(585, "flooded", message="good"))]),
    Visit("Quellan Mat", "48", "ready", None, 6.0, sold_months_ago=8, customer=5, car="Torvane T4 Tourer",
          context={"came_in": "in_car", "complaint": "slow_crank", "stop_start_car": True},
          readings=[(3, look()), (5, volts(12.82)), (8, tester(802, "agm_flat", message="good"))]),
    Visit("Merlow Plain", "78", "held_apart", None, 20.0, sold_months_ago=40, customer=7,
          context={"came_in": "carried_in", "complaint": "will_not_start", "use": "agricultural"}, readings=[(2, look("bulged", "smelling_of_rotten_egg"))]),
    Visit("Merlow Silver", "86", "bench", None, 28.0, sold_months_ago=22, customer=2, car="Pallin Alder",
          context={"came_in": "returned", "complaint": "will_not_start"},
          has_caps=True,
          readings=[(3, {**look("wet_top"), "corrosion": "light", "levels": ["right", "right", "low", "right", "right", "right"]}), (5, volts(10.4)),
                    (1040, charged(6.9, 7.0, 11.9, 5)),
                    (1220, charged(6.8, 7.0, 11.9, 8)),
                    (1230, {"kind": "cells", "specific_gravities": [1.262, 1.260, 1.118, 1.261, 1.259, 1.263], "temperature_c": 24, "after_full_charge": True})]),
    Visit("Quellan Mat", "34", "ready", 300.0, 50.0, sold_months_ago=50, customer=6, context={"came_in": "carried_in", "complaint": "check_only", "use": "standby"},
          readings=[(3, look()), (5, volts(12.86)), (9, tester(480, "agm_spiral"))]),
    Visit("Tessaro Duty", "65", "bench", None, 3.0, sold_months_ago=12, customer=4, context={"came_in": "returned", "complaint": "slow_crank", "use": "delivery"},
          readings=[(3, look()), (5, volts(12.74, settled="headlamps")), (8, tester(560, "flooded")),
                    (14, {"kind": "adjustable_load", "amps": 395, "seconds": 15, "volts": 8.92, "temperature_c": 19}),
                    (20, {"kind": "car", "idle_volts": 14.1, "loaded_volts": 13.8, "drain_ma": 180}), (26, volts(12.66)),
                    (28, {"kind": "adjustable_load", "amps": 395, "seconds": 15, "volts": 8.86, "temperature_c": 19})]),
    Visit("Merlow Silver", "24", "bench", None, 40.0, sold_months_ago=27, customer=0, car="Navarre Hollin",
          context={"came_in": "carried_in", "complaint": "stood_for_weeks"},
          readings=[(3, look()), (5, volts(12.15)), (2200, volts(12.3, after_full_charge=True, rested_hours=14))]),
    Visit("Merlow Plain", "25", "bench", None, 1.5, sold_months_ago=29, customer=0, car="Ister Bittern", has_caps=True,
          context={"came_in": "in_car", "complaint": "slow_crank"},
          readings=[(3, {**look("hold_down_loose"), "corrosion": "light", "levels": ["right", "low", "right", "right", "right", "right"]}),
                    (5, {"kind": "case_leakage", "volts": 6.2, "spots": [{"volts": 6.2, "across": 0.4, "down": 0.5}]}), (7, volts(12.66)), (10, tester(545, "flooded"))]),
    Visit("Tessaro Duty", "34", "bench", None, 1.0, sold_months_ago=15, customer=2,
          context={"came_in": "returned", "complaint": "clicks", "use": "delivery"},
          readings=[(3, look()), (5, volts(12.41)), (9, {"kind": "fixed_load", "amps": 100, "seconds": 10, "volts": 1.8, "bounce_volts": 11.9, "temperature_c": 19})]),
    Visit("Merlow Plain", "GC2", "bench", None, 40.0, sold_months_ago=38, customer=2, has_caps=True, capacity_ah_20h=225,
          context={"came_in": "carried_in", "complaint": "check_only", "use": "deep_cycle"},
          readings=[(3, {**look(), "levels": ["right", "right", "right"]}), (5, volts(6.24)), (900, charged(3.1, 22, 7.4, 11, finished=True)), (1060, volts(6.36, rested_hours=2.5)),
                    (1780, {"kind": "stand", "start_volts": 6.36, "volts": 6.35, "hours": 12}),
                    (2110, {"kind": "reserve", "amps": 25, "minutes": 318, "volts": 5.25, "temperature_c": 19,
                            "log": [{"minutes": 60, "volts": 6.14}, {"minutes": 180, "volts": 5.97}, {"minutes": 270, "volts": 5.72}]})]),
    Visit("Quellan Cycle", "48", "bench", None, 0.8, sold_months_ago=14, customer=5, car="Brevan Tillet 1.2", capacity_ah_20h=70,
          context={"came_in": "in_car", "complaint": "stop_start_stopped", "stop_start_car": True},
          readings=[(3, look()), (5, volts(12.69, rested_hours=3)), (8, tester(671, "efb", message="good"))]),
    Visit("Merlow Plain", "35", "bench", None, 0.9, sold_months_ago=17, customer=3, car="Ister Kite", ready_in_hours=6, waits=True,
          context={"came_in": "in_car", "complaint": "will_not_start"}, readings=[(3, look()), (5, volts(12.04))]),
    Visit("Quellan Mat", "48", "bench", None, 1.6, sold_months_ago=23, customer=6, car="Torvane T4 Tourer", ready_in_hours=26,
          context={"came_in": "carried_in", "complaint": "stood_for_weeks"}, readings=[(3, look()), (5, volts(12.16))]),
    Visit("Tessaro Duty", "27F", "bench", None, 2.2, sold_months_ago=9, customer=4,
          context={"came_in": "returned", "complaint": "slow_crank", "use": "delivery"}, readings=[(3, look()), (5, volts(12.22))]),
    Visit("Merlow Silver", "47", "bench", None, 0.5, sold_months_ago=30, customer=1, car="Caldo Stanza", ready_in_hours=30,
          context={"came_in": "carried_in", "complaint": "slow_crank"}, readings=[(3, look()), (5, volts(11.9))]),
)  # fmt: skip

"""Fill an empty database with the made-up shop: people, goods, the batteries in the house, half a year of past checks.

What happened in it is written through the core: every judgement is what the rules say of the readings.
"""

import random
import uuid
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from ..core.battery import CameIn, Complaint, Use
from ..core.months import add_months
from ..core.rules import house_rules
from ..desks.check import core_check, judge_and_keep
from ..desks.counter import PutThere, TakeIn, put, take_in
from ..desks.desk import Desk
from ..desks.sign_in import hash_pin
from ..records import batteries
from ..records.base import StoreSession
from ..records.models import (
    CatalogueItem,
    CheckRow,
    ReadingRow,
    RulesVersion,
    Staff,
    StockPiece,
    Store,
    TermsRow,
    Vehicle,
)
from . import goods

PAST_CHECKS = 170
PAST_DAYS = 182


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


def look(*hazards: str) -> dict[str, object]:
    """A look's body."""
    return {"kind": "look", "marks": [{"sign": sign} for sign in hazards]}


def volts(value: float, **more: object) -> dict[str, object]:
    """A rest voltage's body."""
    return {"kind": "rest_volts", "volts": value, "temperature_c": 19, **more}


def charged(amps: float, start_amps: float, value: float, hours: float, finished: bool = False) -> dict[str, object]:
    """A charge run's body."""
    return {
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
    Visit("Merlow Plain", "24F", "on_charge", 3.5, 4.0, sold_months_ago=9, customer=6, car="Ister Heron",
          context={"came_in": "carried_in", "complaint": "stood_for_weeks"}, readings=[(3, look()), (6, volts(11.92)), (200, charged(4.1, 7.5, 13.6, 3))]),
    Visit("Merlow Silver", "65", "on_charge", 6.0, 3.0, sold_months_ago=26, customer=7, car="Navarre Ridge",
          context={"came_in": "carried_in", "complaint": "will_not_start", "use": "agricultural"},
          readings=[(3, look()), (5, volts(12.21)), (8, tester(470, "flooded", message="recharge_retest"))]),
    Visit("Quellan Mat", "49", "on_charge", 9.0, 5.0, customer=4, context={"came_in": "returned", "complaint": "clicks", "use": "taxi"},
          sold_months_ago=11, readings=[(3, look()), (5, volts(12.08))]),
    Visit("Merlow Plain", "51R", "standing", 15.0, 9.0, car="Ister Wren", context={"came_in": "carried_in", "complaint": "slow_crank"},
          readings=[(3, look()), (5, volts(12.18)), (480, charged(0.6, 5.2, 14.4, 7.5, finished=True)), (500, volts(13.12, settled="just_charged"))]),
    Visit("Tessaro Duty", "27F", "standing", 18.0, 30.0, sold_months_ago=16, customer=4, car="Pallin Larch Long",
          context={"came_in": "returned", "complaint": "failed_elsewhere", "use": "taxi"},
          readings=[(3, look()), (5, volts(12.31)), (890, charged(0.7, 7.8, 14.6, 13, finished=True)), (900, volts(13.3, settled="just_charged"))]),
    Visit("Merlow Silver", "35", "ready", None, 26.0, sold_months_ago=14, customer=3, car="Ister Kite",
          context={"came_in": "carried_in", "complaint": "check_only"}, readings=[(3, look()), (5, volts(12.74)), (8, tester(585, "flooded", message="good"))]),
    Visit("Quellan Mat", "48", "ready", None, 6.0, sold_months_ago=8, customer=5, car="Torvane T4 Tourer",
          context={"came_in": "in_car", "complaint": "will_not_start", "stop_start_car": True},
          readings=[(3, look()), (5, volts(12.82)), (8, tester(802, "agm_flat", message="good"))]),
    Visit("Merlow Plain", "78", "held_apart", None, 20.0, sold_months_ago=40, customer=7,
          context={"came_in": "carried_in", "complaint": "will_not_start", "use": "agricultural"}, readings=[(2, look("bulged", "smelling_of_rotten_egg"))]),
    Visit("Merlow Silver", "86", "bench", None, 28.0, sold_months_ago=22, customer=2, car="Pallin Alder",
          context={"came_in": "returned", "complaint": "will_not_start"},
          has_caps=True,
          readings=[(3, {**look("wet_top"), "corrosion": "light", "levels": ["right", "right", "low", "right", "right", "right"]}), (5, volts(10.4)),
                    (1100, charged(6.8, 7.0, 12.3, 6)),
                    (1200, {"kind": "cells", "specific_gravities": [1.262, 1.260, 1.118, 1.261, 1.259, 1.263], "temperature_c": 24, "after_full_charge": True})]),
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
    Visit("Merlow Plain", "GC2", "bench", None, 30.0, sold_months_ago=38, customer=2, has_caps=True, capacity_ah_20h=225,
          context={"came_in": "carried_in", "complaint": "check_only", "use": "deep_cycle"},
          readings=[(3, {**look(), "levels": ["right", "right", "right"]}), (5, volts(6.24)), (900, charged(3.1, 22, 7.4, 11, finished=True)), (1060, volts(6.36, rested_hours=2.5)),
                    (1400, {"kind": "reserve", "amps": 25, "minutes": 318, "volts": 5.25, "temperature_c": 19,
                            "log": [{"minutes": 60, "volts": 6.14}, {"minutes": 180, "volts": 5.97}, {"minutes": 270, "volts": 5.72}]})]),
    Visit("Quellan Cycle", "48", "bench", None, 0.8, sold_months_ago=14, customer=5, car="Brevan Tillet 1.2",
          context={"came_in": "in_car", "complaint": "stop_start_stopped", "stop_start_car": True},
          readings=[(3, look()), (5, volts(12.69, rested_hours=3)), (8, tester(671, "efb", message="good"))]),
)  # fmt: skip


def fill(sessions: sessionmaker[Session], now: datetime | None = None) -> bool:
    """Fill the database if no store is in it. Returns whether it did."""
    at = now or datetime.now(UTC)
    with sessions.begin() as session:
        assert isinstance(session, StoreSession)
        if session.scalar(select(Store.id).limit(1)) is not None:
            return False
        chance = random.Random(20261125)
        desks = _people(session)
        _goods(session, chance, at.date())
        cars = {f"{car.make} {car.model}": car for car in session.scalars(select(Vehicle))}
        for visit, opened in _past(chance, at, list(cars.values())):
            _happened(chance.choice(desks), visit, cars, opened, at)
        for visit in IN_THE_HOUSE:
            _happened(chance.choice(desks), visit, cars, at - timedelta(hours=visit.came_hours_ago), at)
    return True


def _people(session: StoreSession) -> list[Desk]:
    store = Store(name=goods.SHOP, bay_temperature_c=19.0, time_zone="Europe/Dublin", demo=True)
    session.add(store)
    session.flush()
    session.bind_to(store.id)
    staff = [Staff(name=name, role=role, pin_hash=hash_pin(pin)) for name, role, pin in goods.PEOPLE]
    rules = house_rules()
    session.add_all(
        [*staff, RulesVersion(version=rules.version, reason="as delivered", body=rules.model_dump(mode="json"))]
    )
    session.flush()
    return [Desk(session, person) for person in staff]


def _goods(session: StoreSession, chance: random.Random, today: date) -> None:
    for line in goods.LINES:
        session.add(
            TermsRow(
                line=line.name, free_months=line.free_months, pro_rata_months=line.pro_rata_months,
                date_code_allowance_months=line.date_code_allowance_months,
                excluded_uses=[use.value for use in line.excluded_uses], reference=f"Terms sheet {line.name}, edition 4",
            )
        )  # fmt: skip
    for car in goods.CARS:
        session.add(Vehicle(**{**car._asdict(), "also_codes": list(car.also_codes)}, source="vehicle list, edition 12"))
    for item in goods.items():
        row = CatalogueItem(
            **item._asdict(), name=f"{item.line} {item.group_code} {item.cca_amps}", core_deposit_cents=1200
        )
        session.add(row)
        session.flush()
        for _ in range(chance.choice((0, 1, 1, 2, 3, 4))):
            months = chance.randrange(0, 14)
            full = {"agm": 12.9, "calcium": 12.82, "efb": 12.75}.get(item.chemistry, 12.68)
            piece = StockPiece(
                item_id=row.id, arrived_on=add_months(today, -months), last_volts=round(full - months * 0.025, 2),
                last_volts_on=today - timedelta(days=chance.randrange(3, 60)),
            )  # fmt: skip
            session.add(piece)


def _happened(desk: Desk, visit: Visit, cars: dict[str, Vehicle], opened: datetime, now: datetime) -> None:
    """A visit as it would have been written at the counter, at the time it happened."""
    car = cars.get(visit.car or "")
    line = next((line for line in goods.LINES if line.name == visit.line), None)
    name, phone = goods.CUSTOMERS[visit.customer] if visit.customer is not None else ("", "")
    rated = visit.rated or next(
        (item.cca_amps for item in goods.items() if (item.line, item.group_code) == (visit.line, visit.group)), 600
    )
    today = opened.date()
    made = visit.made_months_ago if visit.made_months_ago is not None else (visit.sold_months_ago or 0) + 2
    written = TakeIn.model_validate(
        {
            "battery": {
                "line": visit.line, "chemistry": visit.chemistry or (line.chemistry if line else "flooded"),
                "rating": None if visit.capacity_ah_20h else {"amps": rated}, "capacity_ah_20h": visit.capacity_ah_20h, "group_code": visit.group, "serial": visit.serial, "has_caps": visit.has_caps,
                "made_on": add_months(today.replace(day=1), -made).isoformat(),
            },
            "context": {"use": "private", **visit.context},
            "sold_on": None if visit.sold_months_ago is None else add_months(today, -visit.sold_months_ago) - timedelta(days=9),
            "customer_name": name, "customer_phone": phone, "vehicle_id": car.id if car else None,
        }
    )  # fmt: skip
    tag = take_in(desk, written, opened)
    row = batteries.battery_of_tag(desk.session, tag)
    assert row is not None
    check = batteries.latest_check(desk.session, row.id)
    for minutes, body in visit.readings:
        _keep(desk, check, body, opened + timedelta(minutes=minutes))
    if visit.readings:
        checked = core_check(row, check, batteries.readings_of(desk.session, check.id))
        judge_and_keep(desk, check, checked, opened + timedelta(minutes=visit.readings[-1][0]))
    if visit.place != "counter":
        hand = None if visit.hand_in_hours is None else now + timedelta(hours=visit.hand_in_hours)
        moved = opened + timedelta(minutes=visit.readings[-1][0] + 5 if visit.readings else 5)
        put(desk, tag, PutThere.model_validate({"place": visit.place, "needs_hand_at": hand}), min(moved, now))


def _keep(desk: Desk, check: CheckRow, body: dict[str, object], taken_at: datetime) -> None:
    name = uuid.uuid4()
    whole = {"id": str(name), "taken_by": desk.staff.name, "taken_at": taken_at.isoformat(), **body}
    desk.session.add(
        ReadingRow(
            reading_uuid=name, check_id=check.id, kind=str(body["kind"]), taken_at=taken_at, kept_at=taken_at,
            staff_id=desk.staff.id, body=whole,
        )
    )  # fmt: skip
    desk.session.flush()


def _past(chance: random.Random, now: datetime, cars: list[Vehicle]) -> list[tuple[Visit, datetime]]:
    """Half a year of visits that have left the house, oldest first."""
    times = sorted(now - timedelta(days=chance.uniform(1.5, PAST_DAYS)) for _ in range(PAST_CHECKS))
    past = [
        (_past_visit(chance, chance.choice(cars)), opened.replace(hour=chance.randrange(8, 18))) for opened in times
    ]
    return [(SEEN_BEFORE, past[0][1]), *past[1:]]


def _past_visit(chance: random.Random, car: Vehicle) -> Visit:
    fitting = [item for item in goods.items() if item.group_code == car.group_code]
    item = chance.choice([found for found in fitting if found.chemistry == car.chemistry] or fitting)
    type_set = {"efb": "efb", "agm": "agm_flat"}.get(item.chemistry, "flooded")
    flat, worn = chance.random() < 0.4, chance.random() < 0.35
    offset = {"agm": 0.15, "calcium": 0.15, "efb": 0.05}.get(item.chemistry, 0.0)
    rest = chance.uniform(11.8, 12.3) if flat else chance.uniform(12.52, 12.66)
    health = chance.uniform(0.35, 0.6) if worn else chance.uniform(0.85, 1.1)
    readings = [(3.0, look()), (5.0, volts(round(rest + offset, 2)))]
    if not flat or chance.random() < 0.6:
        readings.append((8.0, tester(round(item.cca_amps * health * (0.8 if flat else 1)), type_set)))
    if flat:
        readings.append(
            (1500.0, volts(round(chance.uniform(12.55, 12.66) + offset, 2), settled="rested", rested_hours=12))
        )
        readings.append((1504.0, tester(round(item.cca_amps * health), type_set)))
    return Visit(
        item.line, item.group_code, "gone", None, rated=item.cca_amps, car=f"{car.make} {car.model}",
        customer=chance.randrange(len(goods.CUSTOMERS)) if chance.random() < 0.5 else None,
        sold_months_ago=chance.randrange(6, 70) if chance.random() < 0.7 else None,
        context={
            "came_in": chance.choice(list(CameIn)), "complaint": chance.choice(list(Complaint)),
            "use": chance.choice([Use.PRIVATE] * 6 + [Use.TAXI, Use.DELIVERY]), "stop_start_car": car.stop_start,
        },
        readings=readings,
    )  # fmt: skip

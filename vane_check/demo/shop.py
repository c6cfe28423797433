"""Fill an empty database with the made-up shop: people, goods, the batteries in the house, half a year of past checks.

What happened in it is written through the core: every judgement is what the rules say of the readings.
"""

import random
import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from ..core.battery.label import CameIn, Complaint, Use
from ..core.charging.rack import suits
from ..core.facts.case import Case
from ..core.findings.kinds import StepKey
from ..core.house.equipment import Charger
from ..core.house.rules import house_rules
from ..core.units.months import add_months
from ..core.words import say
from ..desks.check import core_check, judge_and_keep
from ..desks.counter import PutThere, TakeIn, put, take_in
from ..desks.customers import OtherCustomer, find, merge_customers
from ..desks.desk import Desk
from ..desks.equipment import WriteEquipment, add, equipment_of
from ..desks.rack_jobs import gather, plan_for
from ..desks.rack_plan import keep_plan
from ..desks.rack_slots import slot_of
from ..desks.rack_work import PinThere, pin
from ..desks.sign_in import hash_pin
from ..records import batteries
from ..records.base import StoreSession
from ..records.events import UNHEARD
from ..records.models import BatteryRow, CheckRow, HouseEntry, RackStay, ReadingRow, RulesVersion, Staff, Store, Vehicle
from . import goods
from .branch import open_branch
from .stock import stock, trade
from .visits import IN_THE_HOUSE, SEEN_BEFORE, Visit, look, tester, volts

PAST_CHECKS = 170
PAST_DAYS = 182


SET_BY_HAND = 194
"""The tag of a battery somebody set on a charger, whatever the plan says."""


def fill(sessions: sessionmaker[Session], now: datetime | None = None) -> bool:
    """Fill the database if no store is in it. Returns whether it did."""
    at = now or datetime.now(UTC)
    with sessions.begin() as session:
        assert isinstance(session, StoreSession)
        if session.scalar(select(Store.id).limit(1)) is not None:
            return False
        session.info[UNHEARD] = True
        chance = random.Random(20261125)
        desks = _people(session, at - timedelta(days=PAST_DAYS))
        _equipment(desks[0], at)
        stock(session, chance, at)
        cars = {
            f"{car.make} {car.model}": car
            for car in session.scalars(select(Vehicle).where(Vehicle.engine == "").order_by(Vehicle.id))
        }
        for visit, opened in _past(chance, at, list(cars.values())):
            _happened(chance.choice(desks), visit, cars, opened, at)
        for visit in IN_THE_HOUSE:
            _happened(chance.choice(desks), visit, cars, at - timedelta(hours=visit.came_hours_ago), at)
        keep_plan(desks[0], at, say("rack_work.the_day_began"))
        charger = next(tool.id for tool in desks[0].equipment if tool.name == "Charger 1")
        pin(desks[0], SET_BY_HAND, PinThere(charger_id=charger), at)
        _due_as_noted(desks[0], at)
        trade(desks[0], at)
        _written_twice(desks[0], at)
        open_branch(session, desks[0].store, at)
    return True


def _people(session: StoreSession, now: datetime) -> list[Desk]:
    store = Store(
        name=goods.SHOP, bay_temperature_c=19.0, time_zone="Europe/Dublin", demo=True, tax_name="VAT", tax_pct=23,
        paper_head=goods.PAPER_HEAD, paper_foot=goods.PAPER_FOOT,
    )  # fmt: skip
    session.add(store)
    session.flush()
    session.bind_to(store.id)
    staff = [Staff(name=name, role=role, pin_hash=hash_pin(pin)) for name, role, pin in goods.PEOPLE]
    rules = house_rules()
    session.add_all(
        [*staff, RulesVersion(version=rules.version, reason="as delivered", body=rules.model_dump(mode="json"))]
    )
    session.flush()
    for person in staff:
        entry = {"before": {}, "after": {"name": person.name, "role": person.role, "works_here": True}}
        session.add(
            HouseEntry(staff_id=staff[-1].id, written_at=now, what="person added", subject=person.name, body=entry)
        )
    return [Desk(session, person) for person in staff if person.role != "owner"]


def _equipment(desk: Desk, now: datetime) -> None:
    """The book of equipment: all of it in use but one, one overdue for its check."""
    for name, tool, days_ago, state, remarks in goods.EQUIPMENT:
        entry = WriteEquipment.model_validate(
            {
                "equipment": {
                    "name": name, "tool": tool, "state": state, "remarks": remarks,
                    "checked_on": None if days_ago is None else (now - timedelta(days=days_ago)).date().isoformat(),
                }
            }
        )  # fmt: skip
        add(desk, entry, now - timedelta(days=days_ago or 30))


def _hang(desk: Desk, row: BatteryRow, check: CheckRow, visit: Visit, at: datetime) -> None:
    """Clamp it to its charger as somebody did then."""
    charger = next(tool for tool in desk.equipment if tool.name == visit.charger)
    tool = equipment_of(charger).tool
    assert isinstance(tool, Charger)
    case = Case.of(core_check(row, check, batteries.readings_of(desk.session, check.id)), house_rules())
    fit = suits(case, StepKey.CHARGE_AND_RETEST, tool, None)
    assert fit.mode is not None
    assert fit.plan is not None
    desk.session.add(
        RackStay(
            battery_id=row.id, check_id=check.id, equipment_id=charger.id, output=1, step=StepKey.CHARGE_AND_RETEST.value,
            volts=fit.mode.volts, amps=fit.plan.amps, hours=fit.plan.hours, connected_at=at, connected_by=desk.staff.id,
        )
    )  # fmt: skip
    row.needs_hand_at = at + timedelta(hours=fit.plan.hours)
    desk.session.flush()


def _due_as_noted(desk: Desk, now: datetime) -> None:
    """What hangs on a charger is due when its last note says."""
    gathered = gather(desk, now)
    for slot in (slot_of(gathered, placed) for placed in plan_for(gathered).placed if placed.begun):
        gathered.batteries[slot.tag].at.row.needs_hand_at = slot.ends_at
    desk.session.flush()


def _written_twice(desk: Desk, now: datetime) -> None:
    """Somebody who was written in without a phone at each of two sales: one is merged, the other waits to be seen."""
    people = find(desk, "L. Bramwell").people
    known = next(person for person in people if person.phone)
    without = [person for person in people if not person.phone]
    merge_customers(desk, known.id, OtherCustomer(other_id=without[0].id), now)


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
    entry = TakeIn.model_validate(
        {
            "battery": {
                "line": visit.line, "chemistry": visit.chemistry or (line.chemistry if line else "flooded"),
                "rating": None if visit.capacity_ah_20h else {"amps": rated}, "capacity_ah_20h": visit.capacity_ah_20h, "group_code": visit.group, "serial": visit.serial, "has_caps": visit.has_caps,
                "made_on": add_months(today.replace(day=1), -made).isoformat(),
            },
            "context": {"use": "private", **visit.context},
            "sold_on": None if visit.sold_months_ago is None else add_months(today, -visit.sold_months_ago) - timedelta(days=9),
            "customer_name": name, "customer_phone": phone, "vehicle_id": car.id if car else None,
            "promised_at": None if visit.ready_in_hours is None else now + timedelta(hours=visit.ready_in_hours), "waits": visit.waits,
        }
    )  # fmt: skip
    tag = take_in(desk, entry, opened)
    row = batteries.battery_of_tag(desk.session, tag)
    assert row is not None
    check = batteries.latest_check(desk.session, row.id)
    desk.session.add_all([_reading(desk, check, body, opened + timedelta(minutes=at)) for at, body in visit.readings])
    if visit.readings:
        checked = core_check(row, check, batteries.readings_of(desk.session, check.id), at_hand=desk.at_hand)
        judge_and_keep(desk, check, checked, opened + timedelta(minutes=visit.readings[-1][0]))
    if visit.place != "counter":
        hand = None if visit.hand_in_hours is None else now + timedelta(hours=visit.hand_in_hours)
        moved = opened + timedelta(minutes=visit.readings[-1][0] + 5 if visit.readings else 5)
        put(desk, tag, PutThere.model_validate({"place": visit.place, "needs_hand_at": hand}), min(moved, now))
    if visit.charger:
        charge = next(((minutes, body) for minutes, body in visit.readings if body["kind"] == "charge_run"), None)
        began = (
            moved if charge is None else opened + timedelta(minutes=charge[0], hours=-float(str(charge[1]["hours"])))
        )
        _hang(desk, row, check, visit, min(began, now))


def _reading(desk: Desk, check: CheckRow, body: dict[str, object], taken_at: datetime) -> ReadingRow:
    name = uuid.uuid4()
    whole = {"id": str(name), "taken_by": desk.staff.name, "taken_at": taken_at.isoformat(), **body}
    return ReadingRow(
        reading_uuid=name, check_id=check.id, kind=str(body["kind"]), taken_at=taken_at, kept_at=taken_at,
        staff_id=desk.staff.id, body=whole,
    )  # fmt: skip


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

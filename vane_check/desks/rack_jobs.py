"""What the rack has to do, gathered for the core: lanes, open hours, and a job for every battery that is or goes on charge."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from ..core.charging.plan import CHARGES, ChargePlan, plan_of
from ..core.charging.rack import (
    Begun,
    ChargeJob,
    Lane,
    OpeningHours,
    Pin,
    Placed,
    Rack,
    Suits,
    Unplaced,
    open_spans,
    planned,
    suits,
)
from ..core.charging.rack.house import job_of, rack_of, tick_after, tick_at
from ..core.charging.rack.parts import TICK_MINUTES
from ..core.facts.case import Case
from ..core.facts.put_in import worth_so_far
from ..core.findings.kinds import StepKey
from ..core.house.equipment import Charger
from ..core.readings import ChargeRun
from ..core.readings.check import Check
from ..core.words import Words
from ..records import rack
from ..records.models import EquipmentRow, RackPlan
from ..records.rack import AtRack
from .check import core_check
from .desk import Desk
from .equipment import equipment_of

HORIZON_DAYS = 2
"""So many days after those planned a charge may still end and a test still wait: over a week-end."""


@dataclass
class OnRack:
    """One battery as the rack sees it."""

    at: AtRack
    step: StepKey
    case: Case
    fits: dict[int, Suits]
    plan: ChargePlan

    @property
    def tag(self) -> int:
        """Its number."""
        return self.at.row.tag


@dataclass
class Gathered:
    """Everything the rack has to do at a moment."""

    now: datetime
    chargers: dict[int, tuple[EquipmentRow, Charger]]
    hours: OpeningHours
    spans: list[tuple[datetime, datetime]]
    batteries: dict[int, OnRack]
    all: list[AtRack]
    rack: Rack
    jobs: list[ChargeJob] = field(default_factory=list)
    refused: list[tuple[int, Words, Words]] = field(default_factory=list)
    """Tag, why it is not charged, and what comes first."""
    before: RackPlan | None = None

    def tick(self, moment: datetime) -> int:
        """A moment in ticks from now."""
        return tick_at(moment, self.now)

    def moment(self, tick: int) -> datetime:
        """The moment of a tick."""
        return self.now + timedelta(minutes=tick * TICK_MINUTES)

    def name(self, lane: Lane) -> str:
        """A lane as people call it."""
        row, charger = self.chargers[lane.charger]
        return row.name if charger.outputs == 1 else f"{row.name}/{lane.output}"


def floored(now: datetime) -> datetime:
    """The tick a moment lies in: plans of the same five minutes are the same."""
    minutes = now.minute // TICK_MINUTES * TICK_MINUTES
    return now.astimezone(UTC).replace(minute=minutes, second=0, microsecond=0)


def gather(desk: Desk, now: datetime, also: int | None = None) -> Gathered:
    """Everything the rack has to do, in a handful of queries however many batteries there are; `also` a tag nobody judged to need a charge."""
    start = floored(now)
    rules = desk.rules
    days = rules.rack.days.value
    end = start + timedelta(days=days + HORIZON_DAYS)
    book = [(row, equipment_of(row)) for row in desk.equipment]
    chargers = {row.id: (row, tool.tool) for row, tool in book if isinstance(tool.tool, Charger)}
    working = {row.id for row, tool in book if isinstance(tool.tool, Charger) and tool.state == "in_use"}
    everything = rack.at_rack(desk.session)
    batteries = [
        battery
        for battery in everything
        if _wants_charge(battery) or battery.stay is not None or battery.row.tag == also
    ]
    kept = rack.readings_of_all(desk.session, [battery.check.id for battery in batteries])
    hours = OpeningHours.model_validate(rack.hours_of(desk.session, desk.staff.store_id))
    spans = open_spans(hours, desk.zone, start, end)
    rested = [
        battery.row.needs_hand_at
        for battery in everything
        if battery.row.place == "standing" and battery.row.needs_hand_at is not None and not _wants_charge(battery)
    ]
    tools = {number: charger for number, (_, charger) in chargers.items()}
    gathered = Gathered(
        now=start, chargers=chargers, hours=hours, spans=spans, batteries={}, all=everything, before=rack.newest_plan(desk.session),
        rack=rack_of(tools, spans, start, end, rested, rules),
    )  # fmt: skip
    for battery in batteries:
        _enter(
            desk,
            gathered,
            battery,
            Case.of(core_check(battery.row, battery.check, kept[battery.check.id], at_hand=desk.at_hand), rules),
            working,
        )
    return gathered


def _wants_charge(battery: AtRack) -> bool:
    return battery.stay is None and battery.row.place != "on_charge" and battery.step in CHARGES


def _enter(desk: Desk, gathered: Gathered, battery: AtRack, case: Case, working: set[int]) -> None:
    around = desk.store.bay_temperature_c
    charge_step = battery.step if battery.step in CHARGES else StepKey.CHARGE_AND_RETEST
    step = StepKey(charge_step if battery.stay is None else battery.stay.step)
    fits = {
        number: suits(case, step, charger, around)
        for number, (_, charger) in gathered.chargers.items()
        if number in working
    }
    plan = plan_of(case, step)
    gathered.batteries[battery.row.tag] = OnRack(battery, step, case, fits, plan)
    if battery.stay is None and plan.refused is not None:
        gathered.refused.append((battery.row.tag, plan.refused.why, plan.refused.first))
        return
    promise = battery.promise
    promised = None if promise is None or promise.promised_at is None else gathered.tick(promise.promised_at)
    begun = None if battery.stay is None else _running_of(gathered, battery, case, step)
    gathered.jobs.append(
        job_of(battery.row.tag, fits, priority_of(battery), promised, desk.rules, begun, _pin(gathered, battery))
    )


def priority_of(battery: AtRack) -> str:
    """How it is treated: as was said, else promised where it was promised, warranty where it came back."""
    promise = battery.promise
    if promise is not None and promise.priority != "ordinary":
        return promise.priority
    if promise is not None and promise.promised_at is not None:
        return "promised"
    return "warranty" if battery.check.came_in == "returned" else "ordinary"


def _running_of(gathered: Gathered, battery: AtRack, case: Case, step: StepKey) -> Begun:
    assert battery.stay is not None
    lane = next(
        (
            lane
            for lane in gathered.rack.lanes
            if (lane.charger, lane.output) == (battery.stay.equipment_id, battery.stay.output)
        ),
        Lane(battery.stay.equipment_id, battery.stay.output, True),
    )
    return Begun(lane, max(tick_after(ends_at(battery, case, step), gathered.now), 0))


def ends_at(battery: AtRack, case: Case, step: StepKey) -> datetime:
    """When a charge that has begun is done: by its plan, and from the last note on by what is still missing then."""
    stay = battery.stay
    assert stay is not None
    noted = [run for run in case.all_of(ChargeRun) if run.taken_at >= stay.connected_at]
    if not noted:
        return stay.connected_at + timedelta(hours=stay.hours)
    if case.full_by(noted[-1]) is not None:
        return noted[-1].taken_at
    plan = plan_of(case, step, stay.amps)
    began = noted[-1].taken_at if _is_counted(noted[-1], case) else stay.connected_at
    return began + timedelta(hours=plan.hours)


def _is_counted(run: ChargeRun, case: Case) -> bool:
    """Whether what went in until this note is taken off what is missing."""
    worth = worth_so_far(case)
    return worth is not None and case.all_of(ChargeRun)[-1] is run


def _pin(gathered: Gathered, battery: AtRack) -> Pin | None:
    pin = battery.pin
    if pin is None or pin.equipment_id is None or pin.output is None:
        return None
    lane = next(
        (lane for lane in gathered.rack.lanes if (lane.charger, lane.output) == (pin.equipment_id, pin.output)), None
    )
    return None if lane is None else Pin(lane, None if pin.starts_at is None else max(gathered.tick(pin.starts_at), 0))


@dataclass(frozen=True)
class Plan:
    """A plan with what it could not place."""

    placed: list[Placed]
    unplaced: list[Unplaced]


_PLANS: dict[bytes, Plan] = {}
PLANS_AT_MOST = 64


def plan_for(gathered: Gathered, more: Sequence[ChargeJob] = ()) -> Plan:
    """The plan of what was gathered. The same rack in the same five minutes is planned once in a process."""
    jobs, before = [*gathered.jobs, *more], before_of(gathered)
    key = _key(gathered, jobs, before)
    if key not in _PLANS:
        placed, unplaced, _ = planned(gathered.rack, jobs, before)
        _remember(key, Plan(placed, unplaced))
    return _PLANS[key]


def adopt_plan(gathered: Gathered, plan: Plan, row: RackPlan) -> None:
    """The plan that was kept just now is the plan, until something changes: it is not searched for again."""
    gathered.before = row
    _remember(_key(gathered, gathered.jobs, before_of(gathered)), plan)


def _key(gathered: Gathered, jobs: Sequence[ChargeJob], before: Sequence[Placed]) -> bytes:
    figures = [(*job[:1], sorted(job.charge.items()), *job[2:]) for job in jobs]
    return hashlib.sha256(repr((gathered.rack, figures, before)).encode()).digest()


def _remember(key: bytes, plan: Plan) -> None:
    if len(_PLANS) >= PLANS_AT_MOST:
        _PLANS.clear()
    _PLANS[key] = plan


def before_of(gathered: Gathered) -> list[Placed]:
    """The plan as it was last acted upon, in ticks of now."""
    if gathered.before is None:
        return []
    lanes = {(lane.charger, lane.output): lane for lane in gathered.rack.lanes}
    result = []
    for slot in gathered.before.slots:
        lane = lanes.get((slot["charger_id"], slot["output"]))
        if lane is not None:
            on, starts, ends, off, rested, ready = (gathered.tick(datetime.fromisoformat(slot[name])) for name in TIMES)
            result.append(Placed(slot["tag"], lane, on, starts, ends, off, rested, ready, None, False, False))
    return result


TIMES = ("on_at", "starts_at", "ends_at", "off_at", "rested_at", "ready_at")


def job_of_new(gathered: Gathered, desk: Desk, check: Check, promised_at: datetime | None, priority: str) -> ChargeJob:
    """A battery that is only being taken in: counted from empty, as nobody has read it."""
    case = Case.of(check, desk.rules)
    fits = {
        number: suits(case, StepKey.CHARGE_AND_RETEST, charger, desk.store.bay_temperature_c)
        for number, (row, charger) in gathered.chargers.items()
        if row.state == "in_use"
    }
    return job_of(NEW_TAG, fits, priority, None if promised_at is None else gathered.tick(promised_at), desk.rules)


NEW_TAG = -1
"""Stands for a battery that has no tag yet."""

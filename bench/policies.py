"""How a battery is played to its end: by the house's own next steps, by single methods, by a careful technician."""

import random
from collections.abc import Callable
from typing import NamedTuple

from vane_check.core.battery.label import Chemistry
from vane_check.core.findings.kinds import StepKey
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.house.rules import HouseRules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.judging.steps import NextStep
from vane_check.core.readings import AnyReading, Waits
from vane_check.core.readings.check import ONE_READING, Check
from vane_check.core.simulation import Arrival, SimulatedBench

MOST_STEPS = 24
NOT_HERE = "borrow one, or send it on"
"""How a step ends that this house has no tool for."""

ENDS = FAILED | {Outcome.SOUND, Outcome.UNSAFE, Outcome.WATCH}
SOUND_FROM, VOLTS_FROM, LOAD_VOLTS, RESERVE_FROM = 0.75, 12.4, 9.6, 0.6
LOOKS_IN = (60.0, 120.0)
"""Minutes after which somebody looks at a charge, the first and the second time; then it is left until it is full."""

MOST_CHARGE_MINUTES = 40 * 60.0


class End(NamedTuple):
    """How a policy left one battery. `said` tells whether a pass said that what it holds was not measured."""

    condemned: bool
    passed: bool
    hazardous: bool
    tests: int
    minutes: float
    watched: bool = False
    said: bool = False
    slips: tuple[str, ...] = ()
    asked: tuple[str, ...] = ()


Policy = Callable[[Arrival, random.Random], End]

MISTAKEN = {"flooded": "calcium", "calcium": "flooded", "efb": "flooded"}
"""What one takes a battery for whose label does not tell its type."""


def label(arrival: Arrival) -> dict[str, object]:
    """What is printed on it, or lent to it."""
    battery = arrival.battery
    chemistry = battery.chemistry if arrival.type_on_label else MISTAKEN.get(battery.chemistry, battery.chemistry)
    ratings: dict[str, dict[str, object]] = {
        "label": {"rating": {"amps": battery.rated_cca_amps}},
        "lent": {
            "rating": {"amps": round(battery.rated_cca_amps * arrival.lent_share, -1)},
            "rating_source": "vehicle",
        },
        "none": {},
        "assumed": {
            "rating": {"amps": round(battery.rated_cca_amps * arrival.lent_share, -1)},
            "rating_source": "assumed",
        },
    }
    return {
        "nominal_volts": arrival.nominal_volts,
        "chemistry": Chemistry(chemistry),
        "chemistry_source": "label" if arrival.type_on_label else "assumed",
        **ratings[arrival.rating],
        "has_caps": battery.has_caps,
        "capacity_ah_20h": battery.rated_ah if arrival.ah_on_label else None,
        "reserve_minutes": round(battery.rated_reserve_minutes) if arrival.reserve_on_label else None,
    }


def context(arrival: Arrival, rules: HouseRules) -> dict[str, object]:
    """What is asked at the counter. A house that decides by the car's starter or a small load judges what is in its car."""
    small = {"crank", "fixed_load"} & set(rules.decision.deciding_kinds.value) and arrival.use == "private"
    return {
        "came_in": "in_car" if small else arrival.came_in,
        "complaint": arrival.complaint,
        "use": arrival.use,
        "stop_start_car": arrival.use == "private" and arrival.battery.chemistry in {"efb", "agm"},
        "car_cca_amps": round(arrival.battery.rated_cca_amps * arrival.lent_share, -1) if arrival.rating == "lent" else None,
    }  # fmt: skip


class Player:
    """Does what it is asked, as it is asked, at one bench with one battery."""

    def __init__(self, arrival: Arrival, chance: random.Random, rules: HouseRules) -> None:
        self.arrival, self.rules = arrival, rules
        self.bench = SimulatedBench(arrival.battery, chance, arrival.slips)
        self.looked_in = 0

    def does(self, step: NextStep) -> list[AnyReading]:
        """What comes of doing a step: readings, in order."""
        key, bench = step.key, self.bench
        if key in CHARGES:
            return self._charge(step)
        before = [] if bench.charging is None else [bench.watch_charge(0, stopped=True)]
        self.looked_in = 0
        bench.pass_minutes(WAITS.get(key, 0), rests=True)
        return before + self._reads(step)

    def _reads(self, step: NextStep) -> list[AnyReading]:
        bench, rules = self.bench, self.rules
        ways: dict[StepKey, Callable[[], list[AnyReading]]] = {
            StepKey.LOOK: lambda: [bench.look()],
            StepKey.LOOK_AGAIN: lambda: [bench.look(into=True)],
            StepKey.DO_JOB: lambda: [bench.look()],
            StepKey.HOLD_APART: lambda: [],
            StepKey.REPLACE: lambda: [],
            StepKey.RETEST_LATER: lambda: [],
            StepKey.GIVE_BACK: lambda: [],
            StepKey.SOLD: lambda: [],
            StepKey.READ_LABEL: self._assume_a_figure,
            StepKey.MEASURE_VOLTS: lambda: [bench.rest_volts()],
            StepKey.MEASURE_AFTER_PULL: lambda: [bench.rest_volts()],
            StepKey.MEASURE_AGAIN: lambda: [bench.rest_volts(settle=True)],
            StepKey.REST_BY_HOURS: lambda: [bench.rest_volts(hours=rules.rest.hours.value[rules.rest.school.value])],
            StepKey.SETTLE: lambda: [bench.rest_volts(settle=True)],
            StepKey.TESTER: lambda: [bench.tester()],
            StepKey.TESTER_AGAIN: lambda: [bench.tester(careful=True)],
            StepKey.CLEAN_POSTS: lambda: [bench.clean_the_posts()],
            StepKey.CLEAN_TOP: lambda: [bench.clean_the_top()],
            StepKey.TOP_UP: lambda: [bench.top_up()],
            StepKey.LOAD_TEST: lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
            StepKey.LOAD_AGAIN: lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
            StepKey.FIXED_TEST: lambda: [bench.fixed_load(rules.fixed_load.amps.value, rules.fixed_load.seconds.value)],
            StepKey.CRANK_TEST: lambda: [bench.crank(rules.crank.hold_seconds.value)],
            StepKey.CELLS: lambda: [bench.cells()],
            StepKey.RESERVE_TEST: lambda: [bench.reserve(rules.reserve.amps.value)],
            StepKey.STAND: lambda: [bench.stand(max(step.minutes / 60, 1.0))],
            StepKey.STOP_CHARGE: lambda: [],
            StepKey.STOP_START_LIST: self._stop_start_list,
        }
        return ways[step.key]()

    def _assume_a_figure(self) -> list[AnyReading]:
        """No label: somebody looks at the size of its case and assumes a figure."""
        self.bench.pass_minutes(2)
        if self.arrival.rating == "none":
            self.arrival.rating = "assumed"
            self.arrival.lent_share = self.bench.chance.uniform(0.75, 1.3)
        return []

    def _stop_start_list(self) -> list[AnyReading]:
        self.bench.pass_minutes(10)
        at = self.bench.look().taken_at
        return [ONE_READING.validate_python({"kind": "car", "taken_at": at, "waits_checked": [*Waits]})]

    def _charge(self, step: NextStep) -> list[AnyReading]:
        """On the charger; somebody looks in after an hour and after three, then it is left to its end."""
        bench, key = self.bench, step.key
        recovery = key is StepKey.RECOVERY_CHARGE
        if bench.charging is None:
            self.looked_in = 0
            bench.begin_charge(recovery, None if step.plan is None else step.plan.amps)
        if key in {StepKey.CHARGE_AND_WATCH, StepKey.WATCH_CHARGE}:
            return [bench.watch_charge(max(step.minutes, 1))]
        if self.looked_in < len(LOOKS_IN):
            self.looked_in += 1
            return [bench.watch_charge(LOOKS_IN[self.looked_in - 1], recovery)]
        left = bench.watch_charge(MOST_CHARGE_MINUTES, recovery, stopped=True)
        return (
            [left, bench.cells(equalised=True)] if key is StepKey.EQUALISE and self.arrival.battery.has_caps else [left]
        )


CHARGES = frozenset(
    {
        StepKey.CHARGE_AND_RETEST, StepKey.CHARGE_AND_WATCH, StepKey.WATCH_CHARGE, StepKey.RECOVERY_CHARGE, StepKey.EQUALISE,
        StepKey.CHECK_CHARGER,
    }
)  # fmt: skip
WAITS = {StepKey.LOAD_AGAIN: 10, StepKey.CRANK_TEST: 10, StepKey.MEASURE_AFTER_PULL: 10}
"""Minutes that are waited before."""


def is_ice(judged: Judgement) -> bool:
    """Whether it is unsafe for nothing but ice: it is thawed first, and only then judged."""
    hazards = {found.kind.value for found in judged.findings if found.points_to is Outcome.UNSAFE}
    return judged.outcome is Outcome.UNSAFE and hazards == {"ice"}


def by_the_house(rules: HouseRules, hears: Callable[[Check, Judgement], None] | None = None) -> Policy:
    """Look, then follow the judgement's own next step until it is done; `hears` is told each judgement on the way."""

    def play(arrival: Arrival, chance: random.Random) -> End:
        player = Player(arrival, chance, rules)
        bench, battery = player.bench, arrival.battery
        readings: list[AnyReading] = [bench.look()]
        touched = said = False
        outcome = Outcome.CANNOT_TELL
        asked: list[str] = []
        for _ in range(MOST_STEPS):
            head = {"battery": label(arrival), "context": context(arrival, rules)}
            check = Check.model_validate({**head, "readings": readings})
            judged = assess(check, rules)
            if hears is not None:
                hears(check, judged)
            outcome, said = judged.outcome, judged.not_measured is not None
            asked.append(f"{bench.minutes / 60:.1f} h {outcome.value} -> {judged.next_step.key.value}")
            if is_ice(judged):
                bench.pass_minutes(24 * 60)
                battery.thaw()
                readings.extend([bench.look(), bench.rest_volts()])
                continue
            if judged.outcome in ENDS or str(judged.next_step.needs).endswith(NOT_HERE):
                break  # ended, or honestly left open: this house has no tool that settles it
            touched = True
            readings.extend(player.does(judged.next_step))
        known = battery.hazard is not None and battery.hazard_shows
        return End(
            outcome in FAILED | {Outcome.UNSAFE},
            outcome is Outcome.SOUND,
            bench.charged_ice or (touched and known),
            bench.tests,
            bench.minutes,
            outcome is Outcome.WATCH,
            said,
            tuple(bench.slipped),
            tuple(asked),
        )

    return play


def _end(bench: SimulatedBench, good: bool) -> End:
    battery = bench.battery
    known = battery.hazard is not None and battery.hazard_shows
    return End(not good, good, bench.charged_ice or known, bench.tests, bench.minutes, slips=tuple(bench.slipped))


def _volts(bench: SimulatedBench, settle: bool = False) -> float:
    return float(bench.rest_volts(settle=settle).volts or 0) * 6 / bench.battery.cells  # type: ignore[union-attr]


def _charged(bench: SimulatedBench) -> None:
    bench.watch_charge(MOST_CHARGE_MINUTES, stopped=True)


def _tests_good(bench: SimulatedBench) -> bool:
    shown = bench.tester().measured_cca_amps or 0  # type: ignore[union-attr]
    return bool(shown >= SOUND_FROM * bench.battery.rated_cca_amps)


def _pulls_good(bench: SimulatedBench) -> bool:
    cold = max(21 - bench.battery.temperature_c, 0)
    least = (
        (LOAD_VOLTS - 0.018 * cold) * bench.battery.cells / 6
    )  # 8.9 V at -18 C or thereabouts, as a card on the wall has it
    return bool((bench.adjustable_load(bench.battery.rated_cca_amps / 2).volts or 0) >= least)  # type: ignore[union-attr]


def _bench(arrival: Arrival, chance: random.Random) -> SimulatedBench:
    return SimulatedBench(arrival.battery, chance, arrival.slips)


def volts_only(arrival: Arrival, chance: random.Random) -> End:
    """Under 12.4 V it is charged once and read straight after; still under, it is bad."""
    bench = _bench(arrival, chance)
    good = _volts(bench) >= VOLTS_FROM
    if not good:
        _charged(bench)
        good = _volts(bench) >= VOLTS_FROM
    return _end(bench, good)


def tester_only(arrival: Arrival, chance: random.Random) -> End:
    """Measured over rated as it stands, whatever the charge and the settings."""
    bench = _bench(arrival, chance)
    return _end(bench, _tests_good(bench))


def load_only(arrival: Arrival, chance: random.Random) -> End:
    """Half the rating for 15 s as it stands: 9.6 V or it is bad."""
    bench = _bench(arrival, chance)
    volts = bench.adjustable_load(bench.battery.rated_cca_amps / 2).volts or 0  # type: ignore[union-attr]
    return _end(bench, bool(volts * 6 / bench.battery.cells >= LOAD_VOLTS))


def careful(arrival: Arrival, chance: random.Random, reserve: bool = False) -> End:
    """Looks, charges what is low, rests it, tests and pulls it; condemns where both say so, pulls again where one does."""
    bench, battery = _bench(arrival, chance), arrival.battery
    bench.look()
    if battery.hazard is not None and battery.hazard_shows:
        return End(True, False, False, bench.tests, bench.minutes)
    if battery.dry and bench.water_seen:
        bench.top_up()
        _charged(bench)
    elif _volts(bench) < VOLTS_FROM:
        _charged(bench)
    if bench.charged and _volts(bench, settle=True) < VOLTS_FROM - 0.1:
        return _end(bench, False)
    tests_good, pulls_good = _tests_good(bench), _pulls_good(bench)
    good = tests_good and pulls_good
    if tests_good != pulls_good:
        bench.pass_minutes(10, rests=True)
        good = _pulls_good(bench)
    if good and reserve:
        _charged(bench)
        rated = battery.rated_reserve_minutes
        good = bool(bench.reserve(25).minutes >= RESERVE_FROM * rated)  # type: ignore[union-attr]
    return _end(bench, good)


def careful_with_reserve(arrival: Arrival, chance: random.Random) -> End:
    """The same, and a discharge at 25 A from full."""
    return careful(arrival, chance, reserve=True)

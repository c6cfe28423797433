"""Records: past checks, and one battery's life."""

from datetime import datetime

from pydantic import BaseModel, TypeAdapter

from ..core.battery.label import Battery, Complaint
from ..core.facts.rating import rated_cca
from ..core.findings.kinds import StepKey
from ..core.findings.outcomes import Outcome
from ..core.judging.estimate import Estimate
from ..core.life.trend import Given, Trend, trend_of
from ..core.words import Words, words_of
from ..records import batteries, goods
from ..records import past_checks as pages
from ..records.models import BatteryRow
from .check import CheckView, view
from .counter import TakeIn, battery_or_refused, take_in_of
from .desk import Desk
from .views import Place, label_of

PAGE = 50
"""Checks on one page."""


class PastCheck(BaseModel):
    """One line of the list of checks."""

    tag: int
    opened_at: datetime
    battery: Battery
    place: Place
    complaint: Complaint
    outcome: Outcome | None
    sold: bool
    """It stands as it was handed over new: nobody was asked to test it."""
    figures: list[Words]
    undone: bool


class PastChecks(BaseModel):
    """A page of checks, and how many there are; `more` when counting stopped there."""

    checks: list[PastCheck]
    page: int
    pages: int
    found: int
    more: bool


class WrittenTakeIn(BaseModel):
    """The take-in as somebody wrote it."""

    written_at: datetime
    who: str
    take_in: TakeIn


class Stay(BaseModel):
    """Where a battery was put."""

    moved_at: datetime
    who: str
    place: Place
    needs_hand_at: datetime | None


class Life(BaseModel):
    """Everything kept of one battery, corrections included."""

    check: CheckView
    take_ins: list[WrittenTakeIn]
    stays: list[Stay]
    sold: bool
    """It left by a sale here, and has a fitting list."""
    sold_for: int | None
    """The tag it was sold for, or given for under warranty."""
    replaced_by: int | None
    """The tag that was sold or given for it."""
    trend: Trend | None
    """What batteries of this serial gave over their visits; None where fewer than two tell."""


def past_checks(desk: Desk, text: str = "", page: int = 0) -> PastChecks:
    """The newest checks whose tag, line, serial, customer, phone, plate or car holds the text, a page at a time."""
    checks = pages.find_checks(desk.session, PAGE, page, text)
    return PastChecks(
        checks=[
            PastCheck(
                tag=row.tag,
                opened_at=check.opened_at,
                battery=label_of(row),
                place=Place(row.place),
                complaint=Complaint(check.complaint),
                outcome=Outcome(outcome) if outcome else None,
                sold=step == StepKey.SOLD,
                figures=[words for words in map(words_of, figures) if words.key != "look.nothing_wrong_seen"],
                undone=check.undone_at is not None,
            )
            for check, row, outcome, step, figures in checks.rows
        ],
        page=page,
        pages=-(-checks.total // PAGE),
        found=checks.total,
        more=checks.more_than_counted,
    )


ESTIMATE = TypeAdapter(Estimate)


def _trend(desk: Desk, row: BatteryRow) -> Trend | None:
    rated, ratio = rated_cca(label_of(row), desk.rules), desk.rules.tester.replace_below_ratio.value
    return trend_of(
        [
            Given(made_at.astimezone(desk.zone).date(), ESTIMATE.validate_python(estimate))
            for _, made_at, estimate in batteries.estimates_of_serial(desk.session, row.serial)
        ],
        None if rated is None else rated.amps * ratio,
    )


def life(desk: Desk, tag: int) -> Life:
    """One battery's life in this house."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    sold_for, replaced_by = goods.lives_beside(desk.session, row.id)
    return Life(
        check=view(desk, tag),
        take_ins=[
            WrittenTakeIn(written_at=entry.written_at, who=entry.staff.name, take_in=take_in_of(entry))
            for entry in batteries.take_in_entries(desk.session, check.id)
        ],
        stays=[
            Stay(moved_at=move.moved_at, who=staff.name, place=Place(move.place), needs_hand_at=move.needs_hand_at)
            for move, staff in batteries.moves_of(desk.session, row.id)
        ],
        sold=goods.sale_of_battery(desk.session, row.id) is not None,
        sold_for=sold_for,
        replaced_by=replaced_by,
        trend=_trend(desk, row),
    )

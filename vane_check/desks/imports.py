"""Bringing lists in: a file is sent, its columns are confirmed once, every row is looked at, then all of it is kept or nothing.

The looking and the keeping run beside the requests, with progress and a stop, in transactions of their own. How far a run is
stands in its row, so that every process of the server can say it.
"""

import hashlib
import io
from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any

from pydantic import BaseModel, Field

from ..core.goods.importing import FIELDS, ColumnMap, Kind, MappingRefused, guessed
from ..core.goods.importing import readers as how_read
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model
from ..core.words import Words, from_record, say, words_of
from ..papers.language import translate
from ..papers.lists import write_csv
from ..records import importing
from ..records.base import StoreSession
from ..records.models import ImportMapping, ImportRun
from .desk import Conflict, Desk, NotThere, Refused
from .paper_language import in_its_language
from .stores import Shared, own_or_refused

NEWEST = 12
REFUSED_PAGE = 100
SILENT = timedelta(seconds=60)
"""A run that says nothing for so long has died with its process."""
RUNNING = ("reading", "checking", "keeping")

FOLLOWED: dict[str, Shared] = {"items": "catalogue", "terms": "terms"}
"""Lists of what a store may have from another."""


class FieldView(BaseModel):
    """A field a list may have."""

    name: str
    label: Words
    needed: bool


class ImportView(BaseModel):
    """A file being brought in, as far as it is."""

    id: int
    kind: Kind
    file_name: str
    state: str
    columns: list[str]
    sample: list[list[str]]
    fields: list[FieldView]
    mapping: ColumnMap
    remembered: bool
    rows_done: int
    rows_total: int
    rows_good: int
    rows_refused: int
    refused: list[list[Any]]
    read_as: list[dict[str, Any]]
    problem: Words
    sent_at: datetime


class ImportLine(BaseModel):
    """A file in the list of those brought in last."""

    id: int
    kind: Kind
    file_name: str
    state: str
    rows_done: int
    rows_refused: int
    sent_at: datetime


class Sent(BaseModel):
    """What was sent, without its contents."""

    kind: Kind
    name: str
    bytes: int
    digest: str


class Confirm(Model):
    """How the columns are read."""

    mapping: ColumnMap


class Keep(Model):
    """Keep what was looked at; refused rows are left out only when somebody says so."""

    leave_out: bool = Field(False, description="refused rows stay out, the others are kept")


class Stopped(Exception):
    """Somebody asked to stop."""


def send(desk: Desk, kind: Kind, name: str, content: bytes, now: datetime) -> int:
    """Take a file in; its heading is read beside the requests. Only a lead may. Returns its number."""
    desk.only_lead()
    if kind in FOLLOWED:
        own_or_refused(desk, FOLLOWED[kind])
    run = ImportRun(
        kind=kind, file_name=name[:120], content=content, mapping=ColumnMap(columns={}).model_dump(), state="reading",
        refused={}, sent_at=now, beat_at=now, columns={"names": [], "sample": [], "remembered": False},
        staff_id=desk.staff.id,
    )  # fmt: skip
    desk.session.add(run)
    desk.session.flush()
    return run.id


def read_heading(session: StoreSession, run: ImportRun, columns: list[str], sample: list[list[str]]) -> None:
    """A file's heading was read: how its columns may be meant, as they were for the last one with this heading."""
    kind: Kind = run.kind  # type: ignore[assignment]
    before = importing.mapping_for(session, kind, heading_of(columns))
    run.mapping = before.mapping if before else guessed(kind, columns).model_dump()
    cells = [[cell[:80] for cell in row] for row in sample]
    run.columns = {"names": columns, "sample": cells, "remembered": before is not None}
    run.state = "sent"


def digest_of(content: bytes) -> str:
    """By what a file is known again."""
    return hashlib.sha256(content).hexdigest()


def newest(desk: Desk, now: datetime) -> list[ImportLine]:
    """The files brought in last."""
    desk.only_lead()
    return [
        ImportLine(
            id=run.id, kind=run.kind, file_name=run.file_name, state="failed" if _died(run, now) else run.state,
            rows_done=run.rows_done, rows_refused=run.rows_refused, sent_at=run.sent_at,
        )
        for run in importing.newest_runs(desk.session, NEWEST)
    ]  # fmt: skip


def _died(run: ImportRun, now: datetime) -> bool:
    return run.state in RUNNING and now - run.beat_at > SILENT


def heading_of(columns: list[str]) -> str:
    """By what a heading is remembered: its names, in whatever order."""
    return hashlib.sha256("\x1f".join(sorted(columns)).encode()).hexdigest()


def run_at_desk(desk: Desk, run_id: int, lock: bool = False) -> ImportRun:
    """A run. Raises NotThere."""
    desk.only_lead()
    run = importing.run_of(desk.session, run_id, lock)
    if run is None:
        raise NotThere(say("imports.no_such_file"))
    return run


def view(desk: Desk, run_id: int, now: datetime, page: int = 0) -> ImportView:
    """A run as far as it is, with a page of its refused rows."""
    run = run_at_desk(desk, run_id)
    kind: Kind = run.kind  # type: ignore[assignment]
    refused = importing.refused_of(desk.session, run.id) if run.rows_refused else []
    died = _died(run, now)
    return ImportView(
        id=run.id, kind=kind, file_name=run.file_name, state="failed" if died else run.state, columns=run.columns["names"],
        sample=run.columns["sample"],
        fields=[FieldView(name=field.name, label=field.label, needed=field.needed) for field in FIELDS[kind]],
        mapping=ColumnMap.model_validate(run.mapping), remembered=run.columns["remembered"], rows_done=run.rows_done,
        rows_total=run.rows_total, rows_good=run.rows_good, rows_refused=run.rows_refused,
        refused=refused[page * REFUSED_PAGE : (page + 1) * REFUSED_PAGE], read_as=run.columns.get("read_as", []),
        problem=say('imports.the_server_stopped_while_it_was_at_work') if died else from_record(run.problem),
        sent_at=run.sent_at,
    )  # fmt: skip


def _in_words(refused: list[list[Any]]) -> Iterator[list[Any]]:
    for number, column, why in refused:
        yield [number, translate(words_of(column)), translate(words_of(why))]


@in_its_language
def refused_csv(desk: Desk, run_id: int) -> bytes:
    """Every refused row with why, to be mended in a spreadsheet."""
    run = run_at_desk(desk, run_id)
    out = io.StringIO()
    write_csv(out, [["row", "column", "why"], *_in_words(importing.refused_of(desk.session, run.id))])
    return out.getvalue().encode()


def begin_check(desk: Desk, run_id: int, body: Confirm, now: datetime) -> None:
    """Say how the columns are read, and have every row looked at. Raises Refused by field of the mapping."""
    run = _idle(desk, run_id, now)
    try:
        how_read(run.kind, body.mapping, run.columns["names"])  # type: ignore[arg-type]
    except MappingRefused as error:
        faults = [FieldProblem(f"mapping.columns.{name}", said) for name, said in error.faults.items()]
        raise Refused(say("imports.it_cannot_be_read_like_this"), faults) from error
    run.mapping = body.mapping.model_dump()
    run.state, run.stop_asked, run.problem, run.beat_at = "checking", False, "", now
    run.rows_done = run.rows_good = run.rows_refused = 0
    desk.session.flush()


def begin_keep(desk: Desk, run_id: int, body: Keep, now: datetime) -> None:
    """Keep what was looked at, all of it or nothing; the mapping is remembered. Raises Refused where rows are refused."""
    run = _idle(desk, run_id, now)
    if run.state != "checked":
        raise Refused(
            say("imports.not_looked_at_yet"), [FieldProblem("", say("imports.have_its_rows_looked_at_first"))]
        )
    if run.rows_refused and not body.leave_out:
        raise Refused(
            say("imports.rows_are_refused"),
            [
                FieldProblem(
                    "leave_out",
                    say("imports.rows_are_refused_mend_the_file_or_say_that", count=run.rows_refused),
                )
            ],
        )
    if not run.rows_good:
        raise Refused(say("imports.nothing_to_keep"), [FieldProblem("", say("imports.no_row_of_it_can_be_kept"))])
    kept = importing.mapping_for(desk.session, run.kind, heading_of(run.columns["names"]))
    kept = kept or ImportMapping(kind=run.kind, heading=heading_of(run.columns["names"]))
    kept.mapping, kept.confirmed_at, kept.staff_id = run.mapping, now, desk.staff.id
    desk.session.add(kept)
    run.state, run.stop_asked, run.problem, run.beat_at, run.rows_done = "keeping", False, "", now, 0
    desk.session.flush()


def _idle(desk: Desk, run_id: int, now: datetime) -> ImportRun:
    run = run_at_desk(desk, run_id, lock=True)
    if run.state in RUNNING and not _died(run, now):
        raise Conflict(say("imports.it_is_being_worked_at_wait_or_stop_it"))
    if not run.columns["names"]:
        raise Conflict(say("imports.its_heading_could_not_be_read_mend_the"))
    if run.state == "kept":
        raise Conflict(say("imports.this_file_is_kept_already_send_it_again_to"))
    return run


def stop(desk: Desk, run_id: int) -> None:
    """Ask a run to stop; nothing of it is kept."""
    run = run_at_desk(desk, run_id, lock=True)
    if run.state in RUNNING:
        run.stop_asked = True
        desk.session.flush()

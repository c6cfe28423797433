"""Bringing lists in: a file is sent, its columns are confirmed once, every row is looked at, then all of it is kept or nothing.

The looking and the keeping run beside the requests, with progress and a stop, in transactions of their own. How far a run is
stands in its row, so that every process of the server can say it.
"""

import csv
import hashlib
import io
import logging
import threading
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

from pydantic import BaseModel, Field

from ..core.battery import Model
from ..core.faults import FieldProblem
from ..core.importing import FIELDS, ColumnMap, Kind, MappingRefused, check_rows, guessed
from ..core.importing import readers as how_read
from ..papers.lists import NotAList, Table, data_package, open_list
from ..records import importing
from ..records.base import StoreSession, engine_of, sessions_of
from ..records.events import announce
from ..records.models import ImportMapping, ImportRun
from .desk import Conflict, Desk, NotThere, Refused

LOG = logging.getLogger("vane_check")
SAMPLE = 5
NEWEST = 12
REFUSED_PAGE = 100
BEAT = timedelta(seconds=1)
SILENT = timedelta(seconds=60)
"""A run that says nothing for so long has died with its process."""
RUNNING = ("checking", "keeping")


class FieldView(BaseModel):
    """A field a list may have."""

    name: str
    label: str
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
    problem: str
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
    """Take a file in and read its heading. Only a lead may. Raises Refused where it is no list. Returns its number."""
    desk.only_lead()
    try:
        opened = open_list(content)
        sample = [row for row, _ in zip(opened.rows, range(SAMPLE), strict=False)]
    except NotAList as error:
        raise Refused("No list", [FieldProblem("file", str(error))]) from error
    kept = importing.mapping_for(desk.session, kind, heading_of(opened.columns))
    mapping = kept.mapping if kept else guessed(kind, opened.columns).model_dump()
    run = ImportRun(
        kind=kind, file_name=name[:120], content=content, mapping=mapping, state="sent", refused={}, sent_at=now, beat_at=now,
        columns={"names": opened.columns, "sample": [[cell[:80] for cell in row] for row in sample], "remembered": kept is not None},
        staff_id=desk.staff.id,
    )  # fmt: skip
    desk.session.add(run)
    desk.session.flush()
    return run.id


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


def found(desk: Desk, run_id: int, lock: bool = False) -> ImportRun:
    """A run. Raises NotThere."""
    desk.only_lead()
    run = importing.run_of(desk.session, run_id, lock)
    if run is None:
        raise NotThere("no such file")
    return run


def view(desk: Desk, run_id: int, now: datetime, page: int = 0) -> ImportView:
    """A run as far as it is, with a page of its refused rows."""
    run = found(desk, run_id)
    kind: Kind = run.kind  # type: ignore[assignment]
    refused = importing.refused_of(desk.session, run.id) if run.rows_refused else []
    died = _died(run, now)
    return ImportView(
        id=run.id, kind=kind, file_name=run.file_name, state="failed" if died else run.state, columns=run.columns["names"],
        sample=run.columns["sample"],
        fields=[FieldView(name=one.name, label=one.label, needed=one.needed) for one in FIELDS[kind]],
        mapping=ColumnMap.model_validate(run.mapping), remembered=run.columns["remembered"], rows_done=run.rows_done,
        rows_total=run.rows_total, rows_good=run.rows_good, rows_refused=run.rows_refused,
        refused=refused[page * REFUSED_PAGE : (page + 1) * REFUSED_PAGE], read_as=run.columns.get("read_as", []),
        problem="The server stopped while it was at work: nothing was kept, begin again" if died else run.problem,
        sent_at=run.sent_at,
    )  # fmt: skip


def refused_csv(desk: Desk, run_id: int) -> bytes:
    """Every refused row with why, to be mended in a spreadsheet."""
    run = found(desk, run_id)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["row", "column", "why"])
    writer.writerows(importing.refused_of(desk.session, run.id))
    return out.getvalue().encode()


def begin_check(desk: Desk, run_id: int, asked: Confirm, now: datetime) -> None:
    """Say how the columns are read, and have every row looked at. Raises Refused by field of the mapping."""
    run = _idle(desk, run_id, now)
    try:
        how_read(run.kind, asked.mapping, run.columns["names"])  # type: ignore[arg-type]
    except MappingRefused as error:
        faults = [FieldProblem(f"mapping.columns.{name}", said) for name, said in error.faults.items()]
        raise Refused("It cannot be read like this", faults) from error
    run.mapping = asked.mapping.model_dump()
    run.state, run.stop_asked, run.problem, run.beat_at = "checking", False, "", now
    run.rows_done = run.rows_good = run.rows_refused = 0
    desk.session.flush()


def begin_keep(desk: Desk, run_id: int, asked: Keep, now: datetime) -> None:
    """Keep what was looked at, all of it or nothing; the mapping is remembered. Raises Refused where rows are refused."""
    run = _idle(desk, run_id, now)
    if run.state != "checked":
        raise Refused("Not looked at yet", [FieldProblem("", "Have its rows looked at first")])
    if run.rows_refused and not asked.leave_out:
        raise Refused(
            "Rows are refused",
            [
                FieldProblem(
                    "leave_out", f"{run.rows_refused} rows are refused: mend the file, or say that they stay out"
                )
            ],
        )
    if not run.rows_good:
        raise Refused("Nothing to keep", [FieldProblem("", "No row of it can be kept")])
    kept = importing.mapping_for(desk.session, run.kind, heading_of(run.columns["names"]))
    kept = kept or ImportMapping(kind=run.kind, heading=heading_of(run.columns["names"]))
    kept.mapping, kept.confirmed_at, kept.staff_id = run.mapping, now, desk.staff.id
    desk.session.add(kept)
    run.state, run.stop_asked, run.problem, run.beat_at, run.rows_done = "keeping", False, "", now, 0
    desk.session.flush()


def _idle(desk: Desk, run_id: int, now: datetime) -> ImportRun:
    run = found(desk, run_id, lock=True)
    if run.state in RUNNING and not _died(run, now):
        raise Conflict("it is being worked at: wait, or stop it")
    if run.state == "kept":
        raise Conflict("this file is kept already: send it again to bring it in anew")
    return run


def stop(desk: Desk, run_id: int) -> None:
    """Ask a run to stop; nothing of it is kept."""
    run = found(desk, run_id, lock=True)
    if run.state in RUNNING:
        run.stop_asked = True
        desk.session.flush()


class Runner:
    """Runs one import after another beside the requests, on connections of its own."""

    def __init__(self, database_url: str) -> None:
        self._engine = engine_of(database_url, pool_size=3)
        self._sessions = sessions_of(self._engine)
        self._one_at_a_time = threading.Lock()

    def start(self, run_id: int, store_id: int) -> None:
        """Begin what a run's state says, in a thread."""
        threading.Thread(target=self.run, args=(run_id, store_id), daemon=True, name=f"import {run_id}").start()

    def close(self) -> None:
        """Let the connections go."""
        self._engine.dispose()

    def run(self, run_id: int, store_id: int) -> None:
        """Do what a run's state says, to its end."""
        with self._one_at_a_time:
            try:
                self._work(run_id, store_id)
            except Stopped:
                self._say(run_id, store_id, state="stopped", problem="Stopped: nothing of it was kept")
            except NotAList as error:
                self._say(run_id, store_id, state="failed", problem=str(error))
            except Exception as error:
                LOG.exception("an import failed: %s", type(error).__qualname__)
                self._say(
                    run_id, store_id, state="failed", problem="It could not be kept, and nothing of it was: try again"
                )

    def _session(self, store_id: int) -> Any:
        session = self._sessions()
        assert isinstance(session, StoreSession)
        session.bind_to(store_id)
        return session

    def _say(self, run_id: int, store_id: int, **told: Any) -> None:
        """Write how far it is, in a transaction of its own. Raises Stopped when somebody asked to stop."""
        with self._session(store_id) as session, session.begin():
            run = importing.run_of(session, run_id, lock=True)
            assert run is not None
            if run.stop_asked and "state" not in told:
                raise Stopped
            for name, value in told.items():
                setattr(run, name, value)
            run.beat_at = datetime.now(UTC)
            announce(session, store_id, "import", run_id)

    def _work(self, run_id: int, store_id: int) -> None:
        with self._session(store_id) as session, session.begin():
            run = importing.run_of(session, run_id)
            assert run is not None
            kind, mapping, state = run.kind, ColumnMap.model_validate(run.mapping), run.state
            columns = run.columns
            content, known = importing.content_of(session, run_id), importing.known_names(session, run.kind)
        opened = open_list(content)
        parts = check_rows(kind, mapping, opened.columns, opened.rows, known)  # type: ignore[arg-type]
        beat = _Beat(lambda **told: self._say(run_id, store_id, **told))
        if state == "checking":
            good = looked = 0
            refused: list[list[Any]] = []
            read_as: list[dict[str, Any]] = []
            total = content.count(b"\n") if content[:2] != b"PK" else 0
            for part in parts:
                looked += part.looked_at
                good += len(part.good)
                refused += [list(fault) for fault in part.faults]
                read_as += [_shown(row) for _, row in part.good[: SAMPLE - len(read_as)]]
                beat(rows_done=looked, rows_total=max(total, looked), rows_good=good, rows_refused=len(refused))
            self._say(
                run_id, store_id, state="checked", rows_done=looked, rows_total=looked, rows_good=good,
                rows_refused=len(refused), refused={"rows": refused}, columns={**columns, "read_as": read_as},
            )  # fmt: skip
        elif state == "keeping":
            rows = (row for part in parts for _, row in part.good)
            if kind == "pieces":
                rows = (row for row in rows for _ in range(row.get("count") or 1))
            with self._session(store_id) as session, session.begin():
                kept = importing.write_rows(session, kind, rows, lambda done: beat(rows_done=done))
                last = importing.run_of(session, run_id, lock=True)
                assert last is not None
                if last.stop_asked:  # the last moment at which somebody may have
                    raise Stopped
                last.state, last.rows_done, last.beat_at = "kept", kept, datetime.now(UTC)
                announce(session, store_id, "goods")
                announce(session, store_id, "import", run_id)


def _shown(row: dict[str, Any]) -> dict[str, Any]:
    return {name: str(value) if value is not None else "" for name, value in row.items()}


class _Beat:
    """Says how far it is, once a second."""

    def __init__(self, say: Callable[..., None]) -> None:
        self._say, self._last = say, datetime.now(UTC)

    def __call__(self, **told: Any) -> None:
        if datetime.now(UTC) - self._last >= BEAT:
            self._last = datetime.now(UTC)
            self._say(**told)


TYPES = {
    "length_mm": "integer", "width_mm": "integer", "height_mm": "integer", "nominal_volts": "integer", "cca_amps": "number",
    "rated_amps": "number", "capacity_ah_20h": "number", "reserve_minutes": "number", "vent_tube": "boolean",
    "price_cents": "integer", "core_deposit_cents": "integer", "arrived_on": "date", "made_on": "date",
    "dry_charged": "boolean", "filled_on": "date", "charged_on": "date", "last_volts": "number", "last_volts_on": "date",
    "piece": "integer", "from_year": "integer", "to_year": "integer", "min_cca_amps": "number", "min_capacity_ah": "number",
    "min_reserve_minutes": "number", "stop_start": "boolean", "no_agm": "boolean", "flooded_stays": "boolean",
    "spare_cable_mm": "number", "engine_litres": "number", "needs_registration": "boolean", "free_months": "integer",
    "pro_rata_months": "integer", "date_code_allowance_months": "integer",
}  # fmt: skip
OUT: dict[str, tuple[str, tuple[str, ...], tuple[str, ...], tuple[str, ...]]] = {
    "items": ("Catalogue", ("name",), ("supplier_id",), ("supplier",)),
    "pieces": ("Stock", ("piece",), ("item_id",), ("name", "piece")),
    "vehicles": ("Vehicle list", ("make", "model", "from_year", "engine", "trim"), (), ()),
    "aliases": ("Codes of other trades", ("code",), (), ()),
    "terms": ("Warranty terms", ("line",), (), ()),
}
"""Title, key, what of the table is left out, what is put in for it."""


def package(desk: Desk, now: datetime) -> bytes:
    """The shop's goods as a Data Package. Only a lead may take them out."""
    desk.only_lead()
    told = importing.tables_out(desk.session)
    tables = []
    for name, (title, key, without, more) in OUT.items():
        fields = [one for one in (*importing.INTO[name].columns, *more) if one not in without]
        rows = [[row[field] for field in fields] for row in told[name]]
        tables.append(Table(name, title, [(field, TYPES.get(field, "string")) for field in fields], key, rows))
    return data_package("vane-check-goods", f"Goods of {desk.store.name}", now, tables)

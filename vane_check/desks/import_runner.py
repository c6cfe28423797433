"""The work on lists that are brought in: looking at every row, keeping all of them or none, with progress and a stop."""

import logging
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from traceback import extract_tb
from typing import Any, NamedTuple

from sqlalchemy.exc import OperationalError
from sqlalchemy.exc import TimeoutError as NoConnection

from ..core.goods.importing import Checked, ColumnMap, check_rows
from ..core.units.money import decimals_of
from ..core.words import Words, fact_of, for_record, say, words_of
from ..files.lists import ROWS_AT_MOST, SAMPLE, NotAList
from ..files.reader import READER
from ..records import importing, stores
from ..records.base import StoreSession, engine_of, sessions_of
from ..records.events import announce
from ..records.models import Store
from .imports import FOLLOWED, SILENT, Stopped, read_heading

LOG = logging.getLogger("vane_check")
BEAT = timedelta(seconds=1)
AGAIN_SECONDS = 1.0
WORD_EVERY_SECONDS = 20
"""Who waits for a turn says so often that it is there."""
REFUSED_ON_RECORD = 10_000
"""So many refused rows are shown by their reasons; a file with more is another file."""


class Work(NamedTuple):
    """What is to be done with a file: its kind and state, its columns as they are on record, about how many rows it has."""

    kind: str
    state: str
    columns: dict[str, Any]
    total: int


class Runner:
    """Runs one import after another beside the requests, on connections of its own."""

    def __init__(self, database_url: str) -> None:
        self._engine = engine_of(database_url, pool_size=4, for_requests=False)
        self._sessions = sessions_of(self._engine)
        self._one_at_a_time, self._headings = threading.Lock(), threading.Lock()

    def start(self, run_id: int, store_id: int) -> None:
        """Begin what a run's state says, in a thread."""
        threading.Thread(target=self.run, args=(run_id, store_id), daemon=True, name=f"import {run_id}").start()

    def close(self) -> None:
        """Let the connections go."""
        self._engine.dispose()

    def run(self, run_id: int, store_id: int) -> None:
        """Do what a run's state says, to its end."""
        try:
            with self._session(store_id) as session, session.begin():
                run = importing.run_of(session, run_id)
                state = run.state if run is not None else ""
            if state == "reading":  # somebody looks at this one, and it is soon done
                with self._turn(self._headings, run_id, store_id):
                    self._read_heading(run_id, store_id)
            else:
                with self._turn(self._one_at_a_time, run_id, store_id):
                    self._work(run_id, store_id)
        except Stopped:
            self._end(run_id, store_id, "stopped", say("import_runner.stopped_nothing_of_it_was_kept"))
        except NotAList as error:
            self._end(run_id, store_id, "failed", say(error.key, **error.figures))
        except OperationalError as error:
            LOG.warning("an import met a database that went away: %s", type(error).__qualname__)
            self._end(run_id, store_id, "failed", say("import_runner.it_could_not_be_kept_and_nothing_of_it_was"))
        except Exception as error:  # its place alone: a message may hold what nobody should read
            places = "\n".join(
                f"  {frame.filename}:{frame.lineno} {frame.name}" for frame in extract_tb(error.__traceback__)
            )
            LOG.error("an import failed: %s\n%s", type(error).__qualname__, places)
            self._end(run_id, store_id, "failed", say("import_runner.it_could_not_be_kept_and_nothing_of_it_was"))

    def _end(self, run_id: int, store_id: int, state: str, problem: Words) -> None:
        """Say how it ended, again until the database is there to hear it; after that it is known to be dead by its silence."""
        gone_at = time.monotonic() + SILENT.total_seconds()
        while True:
            try:
                return self._say(run_id, store_id, state=state, problem=for_record(problem))
            except (OperationalError, NoConnection):
                if time.monotonic() >= gone_at:
                    return
                time.sleep(AGAIN_SECONDS)

    @contextmanager
    def _turn(self, turn: threading.Lock, run_id: int, store_id: int) -> Iterator[None]:
        """Wait for others to end, and say meanwhile that this one has not died. Raises Stopped."""
        while not turn.acquire(timeout=WORD_EVERY_SECONDS):
            self._say(run_id, store_id)
        try:
            yield
        finally:
            turn.release()

    def _read_heading(self, run_id: int, store_id: int) -> None:
        with self._session(store_id) as session, session.begin():
            content = importing.content_of(session, run_id)
        columns, sample = READER.heading(content)
        with self._session(store_id) as session, session.begin():
            run = importing.run_of(session, run_id, lock=True)
            assert run is not None
            if run.stop_asked:
                raise Stopped
            read_heading(session, run, columns, sample)
            run.beat_at = datetime.now(UTC)
            announce(session, store_id, "import", run_id)

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
            if run.stop_asked and told.get("state") not in {"stopped", "failed"}:
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
            columns, decimals = run.columns, decimals_of(session.get_one(Store, store_id).currency)
            content, known = importing.content_of(session, run_id), importing.names_to_ids(session, run.kind)
        with READER.opened(content) as opened:
            parts = check_rows(kind, mapping, opened.columns, opened.rows, known, decimals)  # type: ignore[arg-type]
            total = content.count(b"\n") if content[:2] != b"PK" else 0
            self._go_through(run_id, store_id, Work(kind, state, columns, total), parts)

    def _go_through(self, run_id: int, store_id: int, work: Work, parts: Iterator[Checked]) -> None:
        beat = _Beat(lambda **told: self._say(run_id, store_id, **told))
        if work.state == "checking":
            good = looked = wrong = 0
            refused: list[list[Any]] = []
            read_as: list[dict[str, Any]] = []
            pieces = 0
            for part in parts:
                pieces += sum(row.get("count") or 1 for _, row in part.good) if work.kind == "pieces" else 0
                if pieces > ROWS_AT_MOST:
                    raise NotAList("import_runner.more_than_pieces_send_it_in_parts", pieces=f"{ROWS_AT_MOST:,}")
                looked += part.looked_at
                good += len(part.good)
                wrong += len(part.faults)
                refused += [
                    [fault.row, fact_of(words_of(fault.column)), fact_of(fault.why)]
                    for fault in part.faults[: REFUSED_ON_RECORD - len(refused)]
                ]
                read_as += [_as_text(row) for _, row in part.good[: SAMPLE - len(read_as)]]
                beat(rows_done=looked, rows_total=max(work.total, looked), rows_good=good, rows_refused=wrong)
            self._say(
                run_id, store_id, state="checked", rows_done=looked, rows_total=looked, rows_good=good,
                rows_refused=wrong, refused={"rows": refused}, columns={**work.columns, "read_as": read_as},
            )  # fmt: skip
        elif work.state == "keeping":
            rows = (row for part in parts for _, row in part.good)
            if work.kind == "pieces":
                rows = (row for row in rows for _ in range(row.get("count") or 1))
            with self._session(store_id) as session, session.begin():
                kept = importing.write_rows(session, work.kind, rows, lambda done: beat(rows_done=done))
                last = importing.run_of(session, run_id, lock=True)
                assert last is not None
                if last.stop_asked:  # the last moment at which somebody may have
                    raise Stopped
                if work.kind in FOLLOWED:
                    stores.follow(session, FOLLOWED[work.kind], store_id)
                last.state, last.rows_done, last.beat_at = "kept", kept, datetime.now(UTC)
                announce(session, store_id, "goods")
                announce(session, store_id, "import", run_id)


def _as_text(row: dict[str, Any]) -> dict[str, Any]:
    return {name: str(value) if value is not None else "" for name, value in row.items()}


class _Beat:
    """Says how far it is, once a second."""

    def __init__(self, say: Callable[..., None]) -> None:
        self._say, self._last = say, datetime.now(UTC)

    def __call__(self, **told: Any) -> None:
        if datetime.now(UTC) - self._last >= BEAT:
            self._last = datetime.now(UTC)
            self._say(**told)

"""The work on lists that are brought in: looking at every row, keeping all of them or none, with progress and a stop."""

import logging
import threading
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

from ..core.importing import ColumnMap, check_rows
from ..papers.lists import NotAList, open_list
from ..records import importing, stores
from ..records.base import StoreSession, engine_of, sessions_of
from ..records.events import announce
from .imports import FOLLOWED, SAMPLE

LOG = logging.getLogger("vane_check")
BEAT = timedelta(seconds=1)


class Stopped(Exception):
    """Somebody asked to stop."""


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
                if kind in FOLLOWED:
                    stores.follow(session, FOLLOWED[kind], store_id)
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

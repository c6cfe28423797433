"""One start at a time in a checkout: a lock that goes with its process, and where it serves."""

import fcntl
import hashlib
import os
from pathlib import Path
from types import TracebackType

from .cluster import CannotStart


def lock_file(root: Path, database_url: str | None) -> Path:
    """The lock of a checkout's own database, or of a database that was given."""
    folder = root / ".vane"
    folder.mkdir(exist_ok=True)
    if database_url is None:
        return folder / "running"
    return folder / f"running-{hashlib.sha256(database_url.encode()).hexdigest()[:12]}"


class Running:
    """The lock, held while a start runs. Raises CannotStart with where the other one serves when there is one."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def __enter__(self) -> "Running":
        self.file = open(self.path, "a+")
        try:
            fcntl.flock(self.file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            self.file.seek(0)
            text = self.file.read().strip()
            self.file.close()
            raise CannotStart(f"Vane Check already runs here: {text or 'it is just starting'}.") from None
        self._write(f"starting, process {os.getpid()}")
        return self

    def tell(self, address: str) -> None:
        """Note where it serves, for a second start to say."""
        self._write(f"{address} (process {os.getpid()})")

    def leave(self) -> None:
        """In a process that came of this one: the lock goes with the first alone."""
        self.file.close()

    def _write(self, words: str) -> None:
        self.file.seek(0)
        self.file.truncate()
        self.file.write(words + "\n")
        self.file.flush()

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, at: TracebackType | None) -> None:
        self.file.seek(0)
        self.file.truncate()
        self.file.close()

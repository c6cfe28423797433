"""The start command behind bin/start: database up, migrations, demo data, server; Ctrl-C stops both cleanly."""

import argparse
import gc
import os
import secrets
import signal
import socket
import sys
import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import select

from ..records.base import engine_of, sessions_of
from ..records.migrate import CannotMigrate, migrate, wants_migration
from ..records.roles import APP_ROLE
from ..records.seals import seal_if_due
from . import watch
from .backup import Asked, CannotBackUp, back_up, backups_folder
from .cluster import CannotStart, Cluster, cluster_folder
from .running import Running, lock_file
from .sentences import in_a_sentence, last_kept_at

if TYPE_CHECKING:
    from types import ModuleType

ROOT = Path(__file__).parents[2]
DEFAULT_PORT = 8140
CLOCK_BEHIND = timedelta(hours=1)
"""A clock may have been a little ahead when something was kept."""


def main() -> int:
    """Start everything and serve until stopped. Returns 1 with one sentence when a piece is missing."""
    parser = argparse.ArgumentParser(prog="bin/start")
    parser.add_argument("--fresh", action="store_true", help="throw the data away and start over with the demo data")
    parser.add_argument(
        "--empty", action="store_true", help="no demo shop: a shop of your own is set up on the first page"
    )
    parser.add_argument("--yes", action="store_true", help="do not ask before --fresh throws the data away")
    parser.add_argument("--port", type=int, default=int(os.environ.get("VANE_PORT", DEFAULT_PORT)))
    parser.add_argument(
        "--clock-is-right",
        action="store_true",
        help="start though something was kept after what this machine's clock says",
    )
    args = parser.parse_args()
    given = os.environ.get("VANE_DATABASE_URL")
    signal.signal(signal.SIGTERM, _stop)
    cluster = None
    try:
        with Running(lock_file(ROOT, given)) as running:
            own = None if given else Cluster(cluster_folder(ROOT))
            if args.fresh:
                _ask_first(args.yes, "the database given" if own is None else str(own.folder))
            cluster = own
            if cluster and args.fresh:
                cluster.remove()
            owner_url, web = _begin(given, cluster)
            if not args.fresh:
                _keep_before_update(owner_url)
            if not args.clock_is_right:
                _look_at_the_clock(owner_url, datetime.now(UTC))
            prepare(owner_url, fresh=args.fresh and cluster is None, demo=not args.empty, say=_say)
            _wait_for_front()
            return serve(web, _app_url(given, cluster), owner_url, args.port, cluster, running)
    except (CannotStart, CannotMigrate) as error:
        print(error, file=sys.stderr)
        return 1
    except OSError as error:
        print(in_a_sentence(error), file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        if cluster:
            cluster.stop()
    return 0


def _look_at_the_clock(url: str, now: datetime) -> None:
    """A clock that lies before what was kept last is wrong, and would date what is kept from now on wrongly. Raises CannotStart."""
    last = last_kept_at(url)
    if last is not None and last - now > CLOCK_BEHIND:
        raise CannotStart(
            f"This machine's clock says {now:%d %b %Y, %H:%M}, but something was kept on {last:%d %b %Y, %H:%M} (UTC): set the clock "
            "right, then start again. If the clock is right, say so with --clock-is-right."
        )


def _say(step: str, seconds: float) -> None:
    print(f"  {step}: {seconds:.1f} s", file=sys.stderr, flush=True)


@contextmanager
def _timed(step: str, say: Callable[[str, float], None] = _say) -> Iterator[None]:
    """Say what was done and how long it took."""
    began = time.monotonic()
    yield
    say(step, time.monotonic() - began)


def _begin(given: str | None, cluster: Cluster | None) -> tuple[str, "ModuleType"]:
    """The owner's address and the web process's code, loaded while the database starts."""

    def start() -> str:
        if cluster is None or os.environ.get("VANE_OWNER_URL"):
            return os.environ.get("VANE_OWNER_URL") or given or ""
        with _timed("database started"):
            return cluster.start()

    with ThreadPoolExecutor(1) as side:
        address: Future[str] = side.submit(start)
        with _timed("program loaded"):
            from . import web

            web.preload()
        gc.freeze()
        gc.enable()
        return address.result(), web


def _wait_for_front() -> None:
    """The pages are built beside; whoever builds them (bin/start) leaves word when it is done, and says itself what is wrong."""
    word = os.environ.pop("VANE_FRONT_ENDED", "")
    if not word:
        return
    with _timed("waited for the pages"):
        while not Path(word).exists():
            time.sleep(0.05)
    if Path(word).read_text().strip() != "0":
        raise CannotStart("The pages could not be built: what was said above is in the way.")


def _keep_before_update(url: str) -> None:
    """A backup before tables are changed under a shop that works with them. Raises CannotStart where none could be made."""
    if wants_migration(url):
        try:
            made = back_up(url, backups_folder(), "before an update")
        except CannotBackUp as error:
            raise CannotStart(f"{error}. Nothing was changed: an update takes a backup first.") from error
        print(f"  The tables are brought up to date. Before that everything was kept in {made.path}")


def prepare(
    url: str, fresh: bool = False, demo: bool = True, say: Callable[[str, float], None] = lambda *_: None
) -> None:
    """Bring the tables up to date and put the demo shop into an empty database, where it is wanted. Runs as the owner."""
    if fresh:
        _empty(url)
    with _timed("tables up to date", say):
        migrate(url)
    if not demo or any(_stores(url)):
        return
    from ..demo.shop import fill

    engine = engine_of(url, for_requests=False)
    try:
        with _timed("demo shop filled", say):
            fill(sessions_of(engine))
    finally:
        engine.dispose()


def serve(web: "ModuleType", app_url: str, owner_url: str, port: int, cluster: Cluster | None, running: Running) -> int:
    """Serve on loopback, on the next free port when the wanted one is taken, in a process that is not root's."""
    listening = _listen(port)
    address = f"http://127.0.0.1:{listening.getsockname()[1]}"
    demo, own = _stores(owner_url)
    code = None if demo or own else secrets.token_hex(4)
    running.tell(address)
    # From here on a signal waits until somebody is there to hear it: an exception could be lost in whatever it interrupts.
    signal.pthread_sigmask(signal.SIG_BLOCK, watch.SIGNS)
    print(f"\n  Vane Check: {address}\n")
    if demo:
        from ..demo import goods

        print(f"  Demo sign-ins for {goods.SHOP}:")
        for name, role, pin in goods.PEOPLE:
            print(f"    {name:<14} {role:<8} PIN {pin}")
    if code:
        print(f"  There is no shop here yet. Set yours up: {address}/?code={code}")
        print(f"  Whoever sets it up gives this code, which holds until the server stops: {code}")
    print("\n  Ctrl-C stops the server and its database.\n", flush=True)

    def web_process() -> int:
        running.leave()
        return int(web.serve(app_url, listening, code, None if cluster is None else cluster.folder))

    return watch.over(web_process, cluster, Asked(owner_url, backups_folder()), partial(seal_if_due, owner_url))


def _app_url(given: str | None, cluster: Cluster | None) -> str:
    """The application's address. Where only one address is given, its connections take the role that owns nothing."""
    if cluster is not None:
        return cluster.app_url
    assert given is not None
    if os.environ.get("VANE_OWNER_URL"):
        return given
    return f"{given}{'&' if '?' in given else '?'}options=-c%20role%3D{APP_ROLE}"


def _stores(owner_url: str) -> tuple[bool, bool]:
    """Whether the demo shop is here, and whether a shop of somebody's own is."""
    from ..records.models import Store

    engine = engine_of(owner_url)
    try:
        with sessions_of(engine).begin() as session:
            result = session.scalars(select(Store.demo)).all()
    finally:
        engine.dispose()
    return True in result, False in result


def _ask_first(yes: bool, where: str) -> None:
    """`--fresh` throws everything away: only with a word for it."""
    if yes:
        return
    if not sys.stdin.isatty():
        raise CannotStart(f"--fresh throws away everything in {where}: say so with --yes.")
    if input(f"Throw away everything in {where}? Type yes: ").strip().lower() != "yes":
        raise CannotStart("Nothing was thrown away.")


def _stop(*_: object) -> None:
    raise KeyboardInterrupt


def _empty(url: str) -> None:
    import psycopg

    try:
        with psycopg.connect(url, autocommit=True, connect_timeout=5) as connection:
            connection.execute("drop schema public cascade; create schema public")
    except psycopg.OperationalError as error:
        raise CannotStart(f"The database cannot be reached: {str(error).strip().splitlines()[0]}") from error


def _listen(port: int) -> socket.socket:
    for candidate in range(port, port + 20):
        # named as TCP, so that what is accepted on it sends at once instead of waiting for the other side
        listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind(("127.0.0.1", candidate))
        except OSError:
            listening.close()
            continue
        listening.listen(2048)
        return listening
    raise CannotStart(f"Ports {port} to {port + 19} are all taken: set VANE_PORT to a free one.")

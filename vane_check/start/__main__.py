"""The start command behind bin/start: database up, migrations, demo data, server; Ctrl-C stops both cleanly."""

import argparse
import os
import signal
import socket
import sys
from pathlib import Path

from ..demo import goods
from ..demo.shop import fill
from ..records.base import engine_of, sessions_of
from ..records.migrate import migrate
from .cluster import CannotStart, Cluster, cluster_folder
from .server import server_on

ROOT = Path(__file__).parents[2]
DEFAULT_PORT = 8140


def main() -> int:
    """Start everything and serve until stopped. Returns 1 with one sentence when a piece is missing."""
    parser = argparse.ArgumentParser(prog="bin/start")
    parser.add_argument("--fresh", action="store_true", help="throw the data away and start over with the demo data")
    parser.add_argument("--port", type=int, default=int(os.environ.get("VANE_PORT", DEFAULT_PORT)))
    asked = parser.parse_args()
    given = os.environ.get("VANE_DATABASE_URL")
    signal.signal(signal.SIGTERM, _stop)
    cluster = None
    try:
        cluster = None if given else Cluster(cluster_folder(ROOT))
        if cluster and asked.fresh:
            cluster.remove()
        url = given or (cluster.start() if cluster else "")
        prepare(url, fresh=asked.fresh and given is not None)
        serve(url, asked.port)
    except CannotStart as error:
        print(error, file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        if cluster:
            cluster.stop()
    return 0


def prepare(url: str, fresh: bool = False) -> None:
    """Bring the tables up to date and put the demo shop into an empty database."""
    engine = engine_of(url)
    try:
        if fresh:
            _empty(url)
        migrate(url)
        fill(sessions_of(engine))
    finally:
        engine.dispose()


def serve(url: str, port: int) -> None:
    """Serve on loopback; the next free port when the wanted one is taken."""
    port = _first_free(port)
    server = server_on(url, port)
    # From here on a signal is a flag the server looks at: an exception could be lost in whatever it interrupts.
    for sign in (signal.SIGINT, signal.SIGTERM):
        signal.signal(sign, server.handle_exit)
    print(f"\n  Vane Check: http://127.0.0.1:{port}\n\n  Demo sign-ins for {goods.SHOP}:")
    for name, role, pin in goods.PEOPLE:
        print(f"    {name:<14} {role:<8} PIN {pin}")
    print("\n  Ctrl-C stops the server and its database.\n", flush=True)
    server.run()


def _stop(*_: object) -> None:
    raise KeyboardInterrupt


def _empty(url: str) -> None:
    import psycopg

    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("drop schema public cascade; create schema public")


def _first_free(port: int) -> int:
    for candidate in range(port, port + 20):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", candidate))
            except OSError:
                continue
            return candidate
    raise CannotStart(f"Ports {port} to {port + 19} are all taken: set VANE_PORT to a free one.")


if __name__ == "__main__":
    sys.exit(main())

"""What a backup and its way back take with 200,000 checks: `python -m bench.backup`."""

import argparse
import sys
import tempfile
import time
from pathlib import Path

import psycopg
from psycopg.conninfo import conninfo_to_dict

from bench.house import build, cluster
from vane_check.start.backup import back_up
from vane_check.start.cluster import ADMIN, OWNER
from vane_check.start.restore import restore


def main() -> int:
    """Build, back up, restore into a second database, print."""
    parser = argparse.ArgumentParser(prog="bench.backup")
    parser.add_argument("--checks", type=int, default=200_000)
    parser.add_argument("--items", type=int, default=100_000)
    asked = parser.parse_args()
    with cluster() as found, tempfile.TemporaryDirectory() as folder:
        build(found.url, items=asked.items, checks=asked.checks)
        began = time.perf_counter()
        made = back_up(found.url, Path(folder))
        took = time.perf_counter() - began
        print(f"{sum(made.rows.values())} rows, {made.bytes / 1e6:.0f} MB in one archive: {took:.1f} s", flush=True)
        with psycopg.connect(found.address(ADMIN, "postgres"), autocommit=True) as connection:
            connection.execute(f"create database back owner {OWNER}")
        place = conninfo_to_dict(found.url) | {"dbname": "back"}
        url = f"postgresql://{place['user']}:{place['password']}@{place['host']}:{place['port']}/back"
        began = time.perf_counter()
        rows, _ = restore(url, made.path)
        print(f"{sum(rows.values())} rows are back in an empty database: {time.perf_counter() - began:.1f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""The commands that make, put back and verify archives."""

import argparse
import json
import sys
import zipfile
from pathlib import Path

import psycopg

from ..records.migrate import CannotMigrate
from ..records.seals import verify
from .backup import MANIFEST, ROOT, CannotBackUp, back_up, backups_folder
from .cluster import CannotStart, cluster_folder, owners_address
from .restore import restore
from .sentences import in_a_sentence


def heads_in(folder: Path, url: str) -> dict[str, tuple[int, str]]:
    """By name the head that each archive made of this database carries; one nobody can read says so by having none."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        ours = {name for (name,) in connection.execute("select file_name from backups where problem = ''")}
    found = {}
    for path in sorted(folder.glob("vane-check-*.zip")):
        if path.name not in ours:
            continue  # of another database, or of this one before something was put back
        try:
            with zipfile.ZipFile(path) as archive:
                kept = json.loads(archive.read(MANIFEST)).get("seal")
        except (OSError, KeyError, ValueError, zipfile.BadZipFile):
            continue  # putting it back says so
        if kept:
            found[path.name] = (int(kept["id"]), str(kept["head"]))
    return found


def _verified(url: str, folder: Path) -> int:
    heads = heads_in(folder, url)
    found = verify(url, heads)
    for fault in found.faults:
        print(fault, file=sys.stderr)
    if found.faults:
        return 1
    rows = sum(one.rows for one in found.seals)
    last = f", the last of {found.seals[-1].made_at:%d %b %Y %H:%M}" if found.seals else ""
    print(
        f"{rows} rows of evidence under {len(found.seals)} seals{last}: all as they were sealed. "
        f"{found.since} came since. Archives that carry a head: {len(heads)}, and all agree."
    )
    return 0


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """The commands and what each takes."""
    one = commands.add_parser("backup", help="make a dated archive of everything")
    one.add_argument("--to", type=Path, default=None, help="the folder it goes to; .vane/backups, or VANE_BACKUPS")
    back = commands.add_parser("restore", help="put an archive back into an empty place")
    back.add_argument("archive", type=Path)
    back.add_argument("--yes", action="store_true", help="throw away what is in the database now")
    walk = commands.add_parser(
        "verify", help="hold the evidence against its seals, and those against what archives carry"
    )
    walk.add_argument(
        "--archives", type=Path, default=None, help="the folder they are in; .vane/backups, or VANE_BACKUPS"
    )


def run(asked: argparse.Namespace) -> int:
    """Run one command. Returns 0, or 2 with one sentence; `verify` 1 where evidence is not what was sealed."""
    try:
        with owners_address(cluster_folder(ROOT), may_make=asked.command == "restore") as url:
            if asked.command == "backup":
                made = back_up(url, asked.to or backups_folder())
                print(f"{made.path}  {made.bytes / 1e6:.1f} MB, {sum(made.rows.values())} rows")
            elif asked.command == "verify":
                return _verified(url, asked.archives or backups_folder())
            else:
                rows, again = restore(url, asked.archive, asked.yes, backups_folder())
                print(f"{sum(rows.values())} rows of {len(rows)} tables are back")
                if again:
                    print(f"People who had been forgotten came back with it and were forgotten again: {again}")
    except (CannotStart, CannotBackUp, CannotMigrate) as error:
        print(error, file=sys.stderr)
        return 2
    except (OSError, psycopg.OperationalError) as error:
        print(in_a_sentence(error), file=sys.stderr)
        return 2
    return 0

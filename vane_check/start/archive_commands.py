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
    result = {}
    for path in sorted(folder.glob("vane-check-*.zip")):
        if path.name not in ours:
            continue  # of another database, or of this one before something was put back
        try:
            with zipfile.ZipFile(path) as archive:
                kept = json.loads(archive.read(MANIFEST)).get("seal")
        except (OSError, KeyError, ValueError, zipfile.BadZipFile):
            continue  # putting it back says so
        if kept:
            result[path.name] = (int(kept["id"]), str(kept["head"]))
    return result


def _verified(url: str, folder: Path) -> int:
    heads = heads_in(folder, url)
    result = verify(url, heads)
    for fault in result.faults:
        print(fault, file=sys.stderr)
    if result.faults:
        return 1
    rows = sum(seal.rows for seal in result.seals)
    last = f", the last of {result.seals[-1].made_at:%d %b %Y %H:%M}" if result.seals else ""
    print(
        f"{rows} rows of evidence under {len(result.seals)} seals{last}: all as they were sealed. "
        f"{result.since} came since. Archives that carry a head: {len(heads)}, and all agree."
    )
    return 0


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """The commands and what each takes."""
    parser = commands.add_parser("backup", help="make a dated archive of everything")
    parser.add_argument("--to", type=Path, default=None, help="the folder it goes to; .vane/backups, or VANE_BACKUPS")
    back = commands.add_parser("restore", help="put an archive back into an empty place")
    back.add_argument("archive", type=Path)
    back.add_argument("--yes", action="store_true", help="throw away what is in the database now")
    walk = commands.add_parser(
        "verify", help="hold the evidence against its seals, and those against what archives carry"
    )
    walk.add_argument(
        "--archives", type=Path, default=None, help="the folder they are in; .vane/backups, or VANE_BACKUPS"
    )


def run(options: argparse.Namespace) -> int:
    """Run one command. Returns 0, or 2 with one sentence; `verify` 1 where evidence is not what was sealed."""
    try:
        with owners_address(cluster_folder(ROOT), may_make=options.command == "restore") as url:
            if options.command == "backup":
                made = back_up(url, options.to or backups_folder())
                print(f"{made.path}  {made.bytes / 1e6:.1f} MB, {sum(made.rows.values())} rows")
            elif options.command == "verify":
                return _verified(url, options.archives or backups_folder())
            else:
                rows, again = restore(url, options.archive, options.yes, backups_folder())
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

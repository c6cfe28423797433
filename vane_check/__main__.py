"""Command line: `vane-check assess FILE|-` prints the judgement of a check file as JSON; `people` says who may sign in."""

import argparse
import json
import sys

from . import assess_command
from .core.readings.check import CheckFile
from .start import archive_commands, people


def main(arguments: list[str] | None = None) -> int:
    """Run one command. Returns 0, or 2 when what it was given is refused (its faults go to standard error as JSON)."""
    parser = argparse.ArgumentParser(prog="vane-check", description="Judge a battery from its check file.")
    commands = parser.add_subparsers(dest="command", required=True)
    assess_command.add_command(commands)
    commands.add_parser("schema", help="print the JSON Schema of the check file")
    people.add_commands(commands)
    archive_commands.add_commands(commands)
    args = parser.parse_args(arguments)
    if args.command == "people":
        return people.run(args)
    if args.command in {"backup", "restore", "verify"}:
        return archive_commands.run(args)
    if args.command == "schema":
        print(json.dumps(CheckFile.model_json_schema(), indent=2, sort_keys=True))
        return 0
    return assess_command.run(args)


if __name__ == "__main__":
    sys.exit(main())

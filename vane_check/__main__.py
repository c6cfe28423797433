"""Command line: `vane-check assess FILE|-` prints the judgement of a check file as JSON."""

import argparse
import json
import sys
from pathlib import Path

from .core.check import CheckFile, CheckRefused, parse_check
from .core.judgement import assess
from .core.rules import house_rules


def main(arguments: list[str] | None = None) -> int:
    """Run one command. Returns 0, or 2 when the file is refused (its faults go to standard error as JSON)."""
    parser = argparse.ArgumentParser(prog="vane-check", description="Judge a battery from its check file.")
    commands = parser.add_subparsers(dest="command", required=True)
    judge = commands.add_parser("assess", help="print the judgement of a check file as JSON")
    judge.add_argument("file", help="a check file, or - for standard input")
    commands.add_parser("schema", help="print the JSON Schema of the check file")
    asked = parser.parse_args(arguments)
    if asked.command == "schema":
        print(json.dumps(CheckFile.model_json_schema(), indent=2, sort_keys=True))
        return 0
    try:
        text = sys.stdin.read() if asked.file == "-" else Path(asked.file).read_text(encoding="utf-8")
        print(assess(parse_check(text), house_rules()).model_dump_json(indent=2))
    except CheckRefused as refused:
        faults = [problem._asdict() for problem in refused.problems]
        print(json.dumps({"refused": faults}, indent=2), file=sys.stderr)
        return 2
    except OSError as error:
        print(f"{asked.file}: {error.strerror}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""Command line: `vane-check assess FILE|-` prints the judgement of a check file as JSON; `people` says who may sign in."""

import argparse
import codecs
import json
import sys
from pathlib import Path

from .core.house.rules import house_rules
from .core.judging.judgement import assess
from .core.readings.check import CheckFile, parse_check
from .core.readings.faults import CheckRefused
from .languages import OWN, speaker_of
from .start import archive_commands, people


def main(arguments: list[str] | None = None) -> int:
    """Run one command. Returns 0, or 2 when the file is refused (its faults go to standard error as JSON)."""
    parser = argparse.ArgumentParser(prog="vane-check", description="Judge a battery from its check file.")
    commands = parser.add_subparsers(dest="command", required=True)
    judge = commands.add_parser("assess", help="print the judgement of a check file as JSON")
    judge.add_argument("file", help="a check file in UTF-8, or - for standard input")
    judge.add_argument("--lang", default=OWN, help="the language of its sentences, such as de")
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
    try:
        text = sys.stdin.buffer.read() if args.file == "-" else Path(args.file).read_bytes()
        if fault := _not_text(text):
            print(f"{args.file}: {fault}", file=sys.stderr)
            return 2
        judged = assess(parse_check(text), house_rules()).model_dump(mode="json")
        print(json.dumps(speaker_of(args.lang).with_text(judged), indent=2, ensure_ascii=False))
    except CheckRefused as refused:
        say = speaker_of(args.lang).say
        faults = [{"path": problem.path, "message": say(problem.message)} for problem in refused.problems]
        print(json.dumps({"refused": faults}, indent=2), file=sys.stderr)
        return 2
    except (OSError, ValueError) as error:
        fault = error.strerror if isinstance(error, OSError) else str(error)
        print(f"{args.file}: {fault}", file=sys.stderr)
        return 2
    return 0


def _not_text(body: bytes) -> str | None:
    """Why these bytes are no check file at all, before anything is read in them."""
    if body.startswith((codecs.BOM_UTF8, codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "it begins with a byte order mark: save it as UTF-8 without one"
    try:
        body.decode("utf-8")
    except UnicodeDecodeError as error:
        return f"byte {error.start} is not UTF-8: save it as UTF-8"
    return None


if __name__ == "__main__":
    sys.exit(main())

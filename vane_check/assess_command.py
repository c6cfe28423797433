"""`vane-check assess`: one check file, or a list of them a line each, judged by a school's rules or by a house's own."""

import argparse
import codecs
import json
import sys
import tomllib
from collections.abc import Iterator, Mapping
from contextlib import nullcontext
from pathlib import Path
from typing import Any

from .core.house.rules import SCHOOLS, RulesRefused, changed_rules, house_rules
from .core.house.rules.tree import HouseRules
from .core.judging.judgement import assess
from .core.readings.check import parse_check
from .core.readings.faults import CheckRefused
from .languages import OWN, speaker_of
from .languages.speak import Speaker

Printed = dict[str, Any]


def add_command(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """The command with its arguments."""
    judge = commands.add_parser("assess", help="print the judgement of a check file as JSON")
    judge.add_argument("file", help="a check file in UTF-8, or - for standard input")
    judge.add_argument("--lang", default=OWN, help="the language of its sentences, such as de")
    judge.add_argument("--school", choices=SCHOOLS, default=SCHOOLS[0], help="whose rules judge it")
    judge.add_argument("--rules", metavar="FILE", help="rules of one's own over the school's, as TOML or JSON")
    judge.add_argument("--lines", action="store_true", help="JSON Lines: a check file a line, a judgement a line")


def run(args: argparse.Namespace) -> int:
    """Judge what was asked. Returns 0, or 2 where a file, a line or a rule is refused."""
    speaker = speaker_of(args.lang)
    try:
        rules = _rules(args.school, args.rules)
        if args.lines:
            return _lines(args.file, rules, speaker)
        text = sys.stdin.buffer.read() if args.file == "-" else Path(args.file).read_bytes()
        if fault := _not_text(text):
            print(f"{args.file}: {fault}", file=sys.stderr)
            return 2
        print(json.dumps(_judged(text, rules, speaker), indent=2, ensure_ascii=False))
    except CheckRefused as refused:
        print(json.dumps(_refused(refused, speaker), indent=2), file=sys.stderr)
        return 2
    except RulesRefused as refused:
        faults = [{"path": name, "message": speaker.say(said)} for name, said in refused.faults.items()]
        print(json.dumps({"refused": faults}, indent=2), file=sys.stderr)
        return 2
    except (OSError, ValueError) as error:
        fault = error.strerror if isinstance(error, OSError) else str(error)
        print(f"{getattr(error, 'filename', None) or args.file}: {fault}", file=sys.stderr)
        return 2
    return 0


def _rules(school: str, file: str | None) -> HouseRules:
    """The school's rules, with those of a file over them. Raises OSError, ValueError, RulesRefused."""
    rules = house_rules(school)
    if file is None:
        return rules
    text = Path(file).read_text(encoding="utf-8")
    tree = json.loads(text) if text.lstrip().startswith("{") else tomllib.loads(text)
    return changed_rules(rules, dict(_flat(tree)), Path(file).name)


def _flat(tree: Mapping[str, Any]) -> Iterator[tuple[str, Any]]:
    """Values by path: `tester.replace_below_ratio = 0.7`, the same in a table, or with its value beside its unit."""
    for group, kept in tree.items():
        if not isinstance(kept, Mapping):
            yield group, kept
            continue
        for name, entry in kept.items():
            yield f"{group}.{name}", entry["value"] if isinstance(entry, Mapping) and "value" in entry else entry


def _judged(text: str | bytes, rules: HouseRules, speaker: Speaker) -> Printed:
    return speaker.with_text(assess(parse_check(text), rules, with_odds=True).model_dump(mode="json"))  # type: ignore[no-any-return]


def _refused(refused: CheckRefused, speaker: Speaker) -> Printed:
    return {"refused": [{"path": fault.path, "message": speaker.say(fault.message)} for fault in refused.problems]}


def _lines(file: str, rules: HouseRules, speaker: Speaker) -> int:
    """A judgement a line, in their order; a line that is refused says why and the next goes on."""
    ended = 0
    with nullcontext(sys.stdin.buffer) if file == "-" else open(file, "rb") as source:
        for number, line in enumerate(source, 1):
            if not line.strip():
                continue
            try:
                if fault := _not_text(line):
                    raise ValueError(fault)
                said = _judged(line, rules, speaker)
            except CheckRefused as refused:
                said, ended = _refused(refused, speaker), 2
            except ValueError as error:
                said, ended = {"refused": [{"path": "", "message": str(error)}]}, 2
            print(json.dumps({"line": number, **said}, ensure_ascii=False))
    return ended


def _not_text(body: bytes) -> str | None:
    """Why these bytes are no check file at all, before anything is read in them."""
    if body.startswith((codecs.BOM_UTF8, codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "it begins with a byte order mark: save it as UTF-8 without one"
    try:
        body.decode("utf-8")
    except UnicodeDecodeError as error:
        return f"byte {error.start} is not UTF-8: save it as UTF-8"
    return None

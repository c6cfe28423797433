"""House rules: every threshold as data with value, unit, source and standing; formulas read them by name."""

import csv
import tomllib
from collections.abc import Iterable, Mapping
from datetime import date
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from ...words import Words, in_a_row, say, word, words_of
from .parameter import Parameter as Parameter
from .tree import GROUPS as GROUPS
from .tree import HouseRules as HouseRules

SCHOOLS = ("electronic_first", "load_first", "cell_first", "fixed_first", "crank_first")
"""The presets; each of the others is the first with some values of its own."""


@cache
def house_rules(school: str = "electronic_first") -> HouseRules:
    """The packaged rules of a school. Raises FileNotFoundError for an unknown one."""
    return HouseRules.model_validate(_merged(_toml(SCHOOLS[0]), {} if school == SCHOOLS[0] else _toml(school)))


class RulesRefused(ValueError):
    """Values that no house can work by; `faults` say by rule what to enter instead."""

    def __init__(self, faults: Mapping[str, Words]) -> None:
        super().__init__("; ".join(f"{name}: {said!s}" for name, said in faults.items()))
        self.faults = faults


def changed_rules(base: HouseRules, values: Mapping[str, Any], source: str, since: date | None = None) -> HouseRules:
    """The rules with other values by path, from a day on (that of the rules themselves where none is given), under the
    package's bounds. Raises RulesRefused with every rule that is wrong."""
    changed, faults = {}, dict[str, Words]()
    for path, value in values.items():
        try:
            kept = base.parameter(path)
        except KeyError:
            faults[path] = say("rules.there_is_no_such_rule")
            continue
        if isinstance(kept.value, dict) and not (isinstance(value, Mapping) and value.keys() == kept.value.keys()):
            faults[path] = say(
                "rules.give_a_number_for_each_of_and_no_other", kept=in_a_row(map(word, kept.value), ", ")
            )
            continue
        try:
            changed[path] = type(kept).model_validate(
                {
                    **kept.model_dump(), "value": value, "source": source, "standing": "practice",
                    "holds_from": since or base.holds_from,
                }
            )  # fmt: skip
        except ValidationError as error:
            faults[path] = _plain(error.errors()[-1])
    if faults:
        raise RulesRefused(faults)
    return base.with_parameters(changed)


def _plain(fault: ErrorDetails) -> Words:
    if fault["type"] == "value_error":
        return words_of(fault["ctx"]["error"].args[0])
    return say("common.enter_a_number") if fault["type"].startswith("float") else say("rules.pick_from_the_list")


def rules_from(body: Mapping[str, Any]) -> HouseRules:
    """A version as it was kept, whenever that was.

    A rule that did not exist yet has the package's value, one that was retired since is left out, and so is a value that
    an earlier release took and no bounds allow: an old version stays readable and never breaks a judgement. Rules that
    an earlier release kept under another name are read under it.
    """
    whole = _merged(_toml(SCHOOLS[0]), _as_tree(body))
    try:
        return HouseRules.model_validate(whole)
    except ValidationError as error:
        delivered = _delivered(_toml(SCHOOLS[0]))
        for group, name in {(str(fault["loc"][0]), str(fault["loc"][1])) for fault in error.errors()}:
            whole[group][name] = delivered[group][name]
        return HouseRules.model_validate(whole)


def _as_tree(body: Mapping[str, Any]) -> dict[str, Any]:
    """What was kept flat, under the names of its day, as it stands now; what is no rule any more is left out."""
    result = {name: body[name] for name in HouseRules.model_fields if name in body and name not in GROUPS}
    for group in GROUPS:
        kept = body.get(group, {})
        result[group] = {name: kept[name] for name in _fields(group) if name in kept}
    for name, path in former_names().items():
        if name in body:
            group, _, now = path.partition(".")
            result[group].setdefault(now, body[name])
    return result


def _fields(group: str) -> Iterable[str]:
    annotation = HouseRules.model_fields[group].annotation
    return annotation.model_fields if annotation else ()  # every group is a model of its own


@cache
def former_names() -> dict[str, str]:
    """The path of a rule by the name it had before rules were a tree."""
    text = files(__package__).joinpath("former-names.csv").read_text(encoding="utf-8")
    return {row["name"]: row["path"] for row in csv.DictReader(text.splitlines())}


def _delivered(whole: Mapping[str, Any]) -> dict[str, Any]:
    """The package's rules, each holding from the day they all do where it says no other."""
    since = whole["holds_from"]
    return {
        name: {rule: {"holds_from": since, **entry} for rule, entry in kept.items()} if name in GROUPS else kept
        for name, kept in whole.items()
    }


def _merged(whole: Mapping[str, Any], own: Mapping[str, Any]) -> dict[str, Any]:
    """The package's rules with values of one's own; unit and bounds stay the package's."""
    merged = _delivered(whole)
    since = own.get("holds_from", whole["holds_from"])
    for name, kept in own.items():
        if name in GROUPS:
            for rule, entry in kept.items():
                merged[name][rule] = _own(merged[name][rule], entry, since)
        else:
            merged[name] = kept
    return merged


def _own(delivered: dict[str, Any], entry: Any, since: date) -> dict[str, Any]:
    if not isinstance(entry, dict):
        return {**delivered, "value": entry}
    own = {part: entry[part] for part in ("value", "source", "standing", "holds_from") if part in entry}
    if isinstance(delivered["value"], dict) and isinstance(own.get("value"), dict):
        own["value"] = {key: own["value"].get(key, value) for key, value in delivered["value"].items()}
    if "holds_from" not in own and own.get("source", delivered["source"]) != delivered["source"]:
        own["holds_from"] = since  # kept before each said it: no later than the version it stands in
    return {**delivered, **own}


@cache
def _toml(school: str) -> dict[str, Any]:
    return tomllib.loads(files(__package__).joinpath(f"{school}.toml").read_text(encoding="utf-8"))

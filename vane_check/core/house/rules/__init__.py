"""House rules: every threshold as data with value, unit, source and standing; formulas read them by name."""

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import ValidationError

from .values import HouseRules as HouseRules
from .values import Parameter as Parameter

SCHOOLS = ("electronic_first", "load_first", "cell_first", "fixed_first", "crank_first")
"""The presets; each of the others is the first with some values of its own."""


@cache
def house_rules(school: str = "electronic_first") -> HouseRules:
    """The packaged rules of a school. Raises FileNotFoundError for an unknown one."""
    return HouseRules.model_validate(_merged(_toml(SCHOOLS[0]), {} if school == SCHOOLS[0] else _toml(school)))


class RulesRefused(ValueError):
    """Values that no house can work by; `faults` say by rule what to enter instead."""

    def __init__(self, faults: dict[str, str]) -> None:
        super().__init__("; ".join(f"{name}: {said}" for name, said in faults.items()))
        self.faults = faults


def changed_rules(base: HouseRules, values: Mapping[str, Any], source: str) -> HouseRules:
    """The rules with other values, under the package's bounds. Raises RulesRefused with every rule that is wrong."""
    body, faults = base.model_dump(mode="json"), {}
    for name, value in values.items():
        kept = getattr(base, name, None)
        if not isinstance(kept, Parameter):
            faults[name] = "There is no such rule"
            continue
        if isinstance(kept.value, dict) and not (isinstance(value, Mapping) and value.keys() == kept.value.keys()):
            faults[name] = f"Give a number for each of {', '.join(kept.value)}, and no other"
            continue
        body[name] = {**body[name], "value": value, "source": source, "standing": "practice"}
    try:
        rules = HouseRules.model_validate(body)
    except ValidationError as error:
        faults |= {str(fault["loc"][0]): _plain(fault["type"], fault["msg"]) for fault in error.errors()}
    if faults:
        raise RulesRefused(faults)
    return rules


def _plain(kind: str, said: str) -> str:
    if kind == "value_error":
        return said.removeprefix("Value error, ")
    return "Enter a number" if kind.startswith("float") else "Pick from the list"


def kept_rules(body: Mapping[str, Any]) -> HouseRules:
    """A version as it was kept, whenever that was.

    A rule that did not exist yet has the package's value, one that was retired since is left out, and so is a value that
    an earlier release took and no bounds allow: an old version stays readable and never breaks a judgement.
    """
    whole = _merged(_toml(SCHOOLS[0]), {name: body[name] for name in HouseRules.model_fields if name in body})
    try:
        return HouseRules.model_validate(whole)
    except ValidationError as error:
        wrong = {str(fault["loc"][0]) for fault in error.errors()}
        return HouseRules.model_validate({**whole, **{name: _toml(SCHOOLS[0])[name] for name in wrong}})


def _merged(whole: Mapping[str, Any], own: Mapping[str, Any]) -> dict[str, Any]:
    """The package's rules with values of one's own; unit and bounds stay the package's."""
    merged = dict(whole)
    for name, entry in own.items():
        held = whole.get(name)
        if isinstance(held, dict) and isinstance(entry, dict):
            told = {part: entry[part] for part in ("value", "source", "standing") if part in entry}
            if isinstance(held["value"], dict) and isinstance(told.get("value"), dict):
                told["value"] = {key: told["value"].get(key, value) for key, value in held["value"].items()}
            merged[name] = {**held, **told}
        else:
            merged[name] = entry
    return merged


@cache
def _toml(school: str) -> dict[str, Any]:
    return tomllib.loads(files(__package__).joinpath(f"{school}.toml").read_text(encoding="utf-8"))

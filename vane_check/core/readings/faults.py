"""What is wrong with a check, field by field, in words that say what to enter."""

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from ..tables import entry_limits
from ..words import NOTHING, Words, digits, in_a_row, listed, say, words_of
from . import READING_MODELS
from .bounds import limits_of_fields

READING_KINDS = frozenset(str(model.model_fields["kind"].default) for model in READING_MODELS)


class FieldProblem(NamedTuple):
    """A fault with the path of the field it stands in."""

    path: str
    message: Words


class CheckRefused(ValueError):
    """A check that cannot be right; `problems` says in which fields and what to enter instead."""

    def __init__(self, problems: list[FieldProblem]) -> None:
        super().__init__("; ".join(f"{problem.path}: {problem.message!s}" for problem in problems))
        self.problems = problems


def field_path(location: tuple[int | str, ...]) -> str:
    """The path of a field as a person would write it: `readings[0].volts`. The kind of a reading is left out."""
    path = ""
    after_index = True
    for part in location:
        if isinstance(part, int):
            path += f"[{part}]"
            after_index = True
            continue
        if not (after_index and part in READING_KINDS):
            path += f".{part}" if path else part
        after_index = False
    return path


def field_problems(faults: Sequence[Mapping[str, Any]]) -> list[FieldProblem]:
    """Every fault of a refused model, in words that say what to enter, ready to stand in the field that is wrong."""
    return [FieldProblem(field_path(fault["loc"]), plain_fault(fault)) for fault in faults]


_LIMIT_OF_LABEL = {
    "amps": "rated_amps", "length_mm": "case_mm", "width_mm": "case_mm", "height_mm": "case_mm", "spare_cable_mm": "cable_spare_mm",
    "core_deposit_cents": "price_cents", "volts": "piece_volts",
}  # fmt: skip
"""Figures of a label or an item whose limit has another name; a reading's field carries its own."""


_PLAIN = {
    "missing": say("faults.this_is_needed"),
    "extra_forbidden": say("common.there_is_no_such_field"),
    "float_parsing": say("common.enter_a_number"),
    "float_type": say("common.enter_a_number"),
    "int_parsing": say("faults.enter_a_whole_number"),
    "finite_number": say("common.enter_a_number"),
    "too_long": say("faults.that_is_longer_than_a_check_can_be"),
    "string_too_long": say("faults.that_is_too_long"),
    "string_too_short": say("faults.that_is_too_short"),
    "string_type": say("faults.enter_words"),
    "bool_type": say("faults.say_yes_or_no"),
    "bool_parsing": say("faults.say_yes_or_no"),
    "union_tag_not_found": say("faults.say_of_which_kind_it_is"),
    "date_from_datetime_parsing": say("faults.enter_a_day"),
    "date_parsing": say("faults.enter_a_day"),
    "datetime_from_date_parsing": say("faults.enter_a_moment"),
    "datetime_parsing": say("faults.enter_a_moment"),
    "timezone_aware": say("faults.enter_a_moment"),
    "int_from_float": say("faults.enter_a_whole_number"),
    "int_type": say("faults.enter_a_whole_number"),
    "uuid_parsing": say("faults.that_is_no_name_of_a_write"),
    "uuid_type": say("faults.that_is_no_name_of_a_write"),
    "date_type": say("faults.enter_a_day"),
    "date_from_datetime_inexact": say("faults.enter_a_day"),
    "datetime_type": say("faults.enter_a_moment"),
    "int_parsing_size": say("faults.that_is_too_large"),
    "list_type": say("faults.a_list_is_needed"),
    "tuple_type": say("faults.a_list_is_needed"),
    "dict_type": say("faults.that_has_another_shape"),
    "model_type": say("faults.that_has_another_shape"),
    "model_attributes_type": say("faults.that_has_another_shape"),
    "string_pattern_mismatch": say("faults.that_is_not_how_it_is_written"),
    "string_unicode": say("faults.that_is_not_how_it_is_written"),
    "json_invalid": say("faults.it_is_no_json"),
    "too_short": say("faults.that_is_too_short"),
}


_LIMIT_IN = {"greater_than_equal": "ge", "less_than_equal": "le", "greater_than": "gt", "less_than": "lt"}
_BOUNDS = {
    "greater_than_equal": "faults.at_least", "less_than_equal": "faults.at_most", "greater_than": "faults.more_than", "less_than": "faults.less_than",
}  # fmt: skip


def plain_fault(fault: Mapping[str, Any]) -> Words:
    """A validator's message in words for the counter."""
    if fault["type"] in {"greater_than_equal", "less_than_equal"} and fault["loc"]:
        words = [str(part) for part in fault["loc"] if not isinstance(part, int)]
        name = words[-1]
        owner = next((word for word in words if word in READING_KINDS), None)
        row = _LIMIT_OF_LABEL.get(name, name) if owner is None else limits_of_fields().get((owner, name), name)
        limit = entry_limits().get(row)
        if limit is not None:
            return say(
                "faults.enter_to",
                low=digits(limit.low),
                high=digits(limit.high),
                unit=in_a_row(("", " ", listed("unit", limit.unit))) if limit.unit else NOTHING,
                what_to_enter=limit.what_to_enter,
            )
    if fault["type"] in _BOUNDS and "ctx" in fault:
        return say(_BOUNDS[fault["type"]], limit=str(fault["ctx"][_LIMIT_IN[fault["type"]]]))
    if fault["type"] == "union_tag_invalid":
        return say("faults.there_is_no_such_kind", tag=str(fault["ctx"]["tag"])[:TAG_AT_MOST])
    if fault["type"] in {"literal_error", "enum"}:
        return say("faults.pick_one_of", expected=str(fault["ctx"]["expected"]).replace(" or ", ", "))
    return _PLAIN.get(fault["type"]) or said_by(fault)


def said_by(fault: Mapping[str, Any]) -> Words:
    """What a validator of ours says of it; else the library's own sentence."""
    error = fault.get("ctx", {}).get("error")
    return words_of(error.args[0] if isinstance(error, ValueError) and error.args else str(fault["msg"]))


TAG_AT_MOST = 40
FAULTS_AT_MOST = 100
"""A file with more faults than this is mended a hundred at a time."""

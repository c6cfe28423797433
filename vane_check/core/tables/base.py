"""How a table is read: packaged CSV, every row with its source and standing."""

import csv
from importlib.resources import files
from typing import NamedTuple

from ..words import NOTHING, Words, has, say

COMMON_PRACTICE = "common practice"


class Sourced(NamedTuple):
    """Where a figure comes from: a named source and its standing (published, practice or memory)."""

    source: str
    standing: str


def rows_of(name: str) -> list[dict[str, str]]:
    """The rows of a packaged table. Raises FileNotFoundError for a table that is none."""
    text = files(__package__).joinpath(name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def words_of(key: str) -> Words:
    """The words of a row by their key; nothing where the row has none."""
    return say(key) if has(key) else NOTHING


def origin_of(row: dict[str, str]) -> Sourced:
    """Where a row's figures come from; without a name it is common practice."""
    return Sourced(row["source"] or COMMON_PRACTICE, row["standing"])

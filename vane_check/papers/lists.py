"""Lists that go out: CSV with nothing in it that a spreadsheet would work out, and a Data Package of them with a JSON descriptor."""

import codecs
import csv
import io
import json
import re
import zipfile
from collections.abc import Iterable, Sequence
from datetime import UTC, datetime
from itertools import chain
from typing import IO, Any, NamedTuple

FORMULA = re.compile(r"'*[=+\-@\t\r]")
"""A cell that begins with one of these is a formula to a spreadsheet. Source: OWASP, CSV Injection."""


class Table(NamedTuple):
    """A table to be written: its name, its fields with their types, its key, and its rows."""

    name: str
    title: str
    fields: Sequence[tuple[str, str]]
    key: Sequence[str]
    rows: Iterable[Sequence[Any]]


def data_package(name: str, title: str, created: datetime, tables: Sequence[Table]) -> bytes:
    """A zip with a CSV for each table and `datapackage.json`. Source: Data Package and Table Schema, version 1."""
    packed = io.BytesIO()
    resources = []
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for table in tables:
            path = f"data/{table.name}.csv"
            resources.append(
                {
                    "name": table.name, "title": table.title, "path": path, "profile": "tabular-data-resource", "format": "csv",
                    "mediatype": "text/csv", "encoding": "utf-8",
                    "schema": {
                        "fields": [{"name": field, "type": kind} for field, kind in table.fields],
                        "primaryKey": list(table.key), "missingValues": [""],
                    },
                }
            )  # fmt: skip
            with archive.open(path, "w") as file:
                out = io.TextIOWrapper(file, encoding="utf-8", newline="")
                write_csv(out, chain([[field for field, _ in table.fields]], table.rows))
                out.flush()
        descriptor = {
            "profile": "tabular-data-package", "name": name, "title": title, "created": created.isoformat(), "resources": resources,
        }  # fmt: skip
        archive.writestr("datapackage.json", json.dumps(descriptor, indent=1, ensure_ascii=False))
    return packed.getvalue()


def write_csv(out: IO[str], rows: Iterable[Sequence[Any]]) -> None:
    """Rows as CSV; a text that a spreadsheet would take for a formula is quoted by an apostrophe, which `files.lists` takes off."""
    writer = csv.writer(out, lineterminator="\n")
    writer.writerows([_cell(value) for value in row] for row in rows)


def _cell(value: Any) -> Any:
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, list):
        value = ";".join(str(part) for part in value)
    if isinstance(value, str) and FORMULA.match(value):
        return f"'{value}"
    return "" if value is None else value


def load() -> None:
    """Write a list, so that all of the code and the character tables are there from the start on."""
    for encoding in ("cp437", "utf-8-sig"):  # what is packed, and a calendar's lines
        codecs.lookup(encoding)
    data_package("warm", "warm", datetime(2026, 1, 1, tzinfo=UTC), [Table("t", "t", [("a", "string")], ["a"], [["x"]])])

"""Lists in open formats: CSV and XLSX read row by row; a Data Package (CSV files with a JSON descriptor) written."""

import codecs
import csv
import io
import json
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from datetime import UTC, date, datetime
from typing import Any, NamedTuple

from openpyxl import Workbook, load_workbook

SNIFFED = 16_384
CSV_SIGNS = ",;\t|"
ZIP_MARK = b"PK\x03\x04"
CELL_AT_MOST = 131_072


class NotAList(ValueError):
    """A file that cannot be read as a list; the message says what to send instead."""


class Opened(NamedTuple):
    """A list's heading and its rows."""

    columns: list[str]
    rows: Iterator[list[str]]


def open_list(content: bytes) -> Opened:
    """Read a CSV (UTF-8 or Windows-1252; comma, semicolon, tab or bar) or the first sheet of an XLSX. Raises NotAList."""
    rows = _xlsx(content) if content[:4] == ZIP_MARK else _csv(content)
    try:
        heading = next(rows, [])
    except NotAList:
        raise
    columns = _named([one.strip() for one in heading])
    if len([one for one in columns if one]) < 2:
        raise NotAList("The first row must name the columns, at least two: send a CSV or XLSX with a heading")
    return Opened(columns, rows)


def _named(heading: Sequence[str]) -> list[str]:
    """Columns by name; one that comes twice is told apart by its place, an empty one has none."""
    seen: dict[str, int] = {}
    names = []
    for name in heading:
        short = name[:120]
        seen[short] = seen.get(short, 0) + 1
        names.append(short if seen[short] == 1 or not short else f"{short} ({seen[short]})"[:120])
    return names


def _csv(content: bytes) -> Iterator[list[str]]:
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("cp1252", errors="replace")
    if "\x00" in text[:SNIFFED]:
        raise NotAList("This is neither CSV nor XLSX: save it as one of the two")
    first = text[:SNIFFED].split("\n", 1)[0]
    sign = max(CSV_SIGNS, key=first.count)
    csv.field_size_limit(CELL_AT_MOST)
    try:
        yield from (row for row in csv.reader(io.StringIO(text, newline=""), delimiter=sign) if row)
    except csv.Error as error:
        raise NotAList(f"The file cannot be read as CSV: {error}") from error


def _xlsx(content: bytes) -> Iterator[list[str]]:
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
    except Exception as error:  # a zip of anything: the library raises what it meets
        raise NotAList("This XLSX cannot be opened: save it anew, or as CSV") from error
    sheet = book.worksheets[0] if book.worksheets else None
    if sheet is None:
        raise NotAList("This XLSX has no sheet")
    for row in sheet.iter_rows(values_only=True):
        cells = [_cell(value) for value in row]
        if any(cells):
            yield cells


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return repr(int(value)) if value == int(value) else repr(value)
    return str(value)


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
                writer = csv.writer(out, lineterminator="\n")
                writer.writerow([field for field, _ in table.fields])
                writer.writerows([_written(value) for value in row] for row in table.rows)
                out.flush()
        descriptor = {
            "profile": "tabular-data-package", "name": name, "title": title, "created": created.isoformat(), "resources": resources,
        }  # fmt: skip
        archive.writestr("datapackage.json", json.dumps(descriptor, indent=1, ensure_ascii=False))
    return packed.getvalue()


def _written(value: Any) -> Any:
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, list):
        return ";".join(str(one) for one in value)
    return "" if value is None else value


def warm_lists() -> None:
    """Read a list of each kind and write one, so that all of the code and the character tables are there from the start on."""
    for encoding in ("utf-8-sig", "cp1252", "cp437"):
        codecs.lookup(encoding)
    book, out = Workbook(), io.BytesIO()
    sheet = book.active
    assert sheet is not None
    sheet.append(["one", "two", datetime(2026, 1, 1, tzinfo=UTC).replace(tzinfo=None)])
    sheet.append([1, 2.5, True])
    book.save(out)
    list(open_list(out.getvalue()).rows)
    list(open_list("one;two\nä;b".encode("cp1252")).rows)
    data_package("warm", "warm", datetime(2026, 1, 1, tzinfo=UTC), [Table("t", "t", [("a", "string")], ["a"], [["x"]])])

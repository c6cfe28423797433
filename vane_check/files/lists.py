"""Lists in open formats, read row by row within bounds: CSV and XLSX."""

import codecs
import csv
import io
import re
import zipfile
from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime
from itertools import chain
from typing import Any, NamedTuple

from openpyxl import Workbook, load_workbook
from openpyxl.utils import get_column_letter

SNIFFED = 16_384
CSV_SIGNS = ",;\t|"
ZIP_MARK = b"PK\x03\x04"
COLUMNS_AT_MOST = 200
ROWS_AT_MOST = 250_000
SAMPLE = 5
"""So many rows are shown with a heading."""
EMPTY_ROWS_AT_MOST = 10_000
"""More empty rows than these in one piece are no list, but a cell that strayed."""
CELL_AT_MOST = 2_000
"""Signs of a cell that are read on: what is longer says so by having one more."""
SIGNS_AT_MOST = 2**31 - 1
ROW_AT_MOST = 50_000
"""Signs of a row."""
UNFOLDED_AT_MOST = 400_000_000
"""Bytes an XLSX may hold unpacked: 100,000 items of twenty columns are about 80 million."""
QUOTED_FORMULA = re.compile(r"'+[=+\-@\t\r]")


class NotAList(ValueError):
    """A file that cannot be read as a list; the message says what to send instead."""


class Opened(NamedTuple):
    """A list's heading and its rows."""

    columns: list[str]
    rows: Iterator[list[str]]


def open_list(content: bytes) -> Opened:
    """Read a CSV (UTF-8 or Windows-1252; comma, semicolon, tab or bar) or the first sheet of an XLSX. Raises NotAList, in its
    rows too: for more rows or columns than a list has."""
    rows = _within_bounds(_xlsx(content) if content[:4] == ZIP_MARK else _csv(content))
    columns = _column_names([cell.strip() for cell in next(rows, [])])
    if len([name for name in columns if name]) < 2:
        raise NotAList("The first row must name the columns, at least two: send a CSV or XLSX with a heading")
    return Opened(columns, rows)


def _within_bounds(rows: Iterator[list[str]]) -> Iterator[list[str]]:
    for number, row in enumerate(rows):
        if number > ROWS_AT_MOST:
            raise NotAList(f"More than {ROWS_AT_MOST:,} rows: send it in parts")
        if len(row) > COLUMNS_AT_MOST:
            raise NotAList(f"Row {number + 1} has more than {COLUMNS_AT_MOST} columns: send a list of a line each item")
        cells = [cell if len(cell) <= CELL_AT_MOST else cell[: CELL_AT_MOST + 1] for cell in row]
        if sum(map(len, cells)) > ROW_AT_MOST:
            raise NotAList(f"Row {number + 1} holds more than {ROW_AT_MOST:,} signs: send a list of a line each item")
        yield cells


def _column_names(heading: Sequence[str]) -> list[str]:
    """Columns by name; one that comes twice is told apart by its place, an empty one has none."""
    seen: dict[str, int] = {}
    names = []
    for name in heading:
        short = name[:120]
        seen[short] = seen.get(short, 0) + 1
        names.append(short if seen[short] == 1 or not short else f"{short} ({seen[short]})"[:120])
    return names


def _csv(content: bytes) -> Iterator[list[str]]:
    if b"\x00" in content[:SNIFFED]:
        raise NotAList("This is neither CSV nor XLSX: save it as one of the two")
    encoding = "utf-8-sig" if _is_utf8(content) else "cp1252"
    text = io.TextIOWrapper(io.BytesIO(content), encoding=encoding, errors="replace", newline="")
    first = content[:SNIFFED].split(b"\n", 1)[0].decode(encoding, errors="replace")
    csv.field_size_limit(SIGNS_AT_MOST)  # a cell that is too long is one row's fault, and cut above
    try:
        for row in csv.reader(text, delimiter=max(CSV_SIGNS, key=first.count)):
            if row:
                yield [_unquoted(cell) for cell in row]
    except csv.Error as error:
        raise NotAList(f"The file cannot be read as CSV: {error}") from error


def _is_utf8(content: bytes) -> bool:
    decoder = codecs.getincrementaldecoder("utf-8")()
    whole = memoryview(content)
    try:
        for start in range(0, len(whole), 1 << 20):
            decoder.decode(whole[start : start + (1 << 20)])
        decoder.decode(b"", True)
    except UnicodeDecodeError:
        return False
    return True


def _unquoted(cell: str) -> str:
    """What was quoted on its way out, so that no spreadsheet takes it for a formula, comes back as it was."""
    return cell[1:] if QUOTED_FORMULA.match(cell) else cell


def _xlsx(content: bytes) -> Iterator[list[str]]:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            unfolded = sum(one.file_size for one in packed.infolist())
    except (zipfile.BadZipFile, ValueError, NotImplementedError, EOFError) as error:
        raise _cannot_open() from error
    if unfolded > UNFOLDED_AT_MOST:
        raise NotAList(
            f"This XLSX unfolds to {unfolded // 1_000_000:,} MB, more than a list has: save it anew, or as CSV"
        )
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        sheet = book.worksheets[0] if book.worksheets else None
        if sheet is None:
            raise NotAList("This XLSX has no sheet")
        sheet.reset_dimensions()  # how large it is, it says itself, and may be wrong
        yield from _full_rows(sheet.iter_rows(values_only=True))
    except (NotAList, MemoryError):
        raise
    except Exception as error:  # a zip of anything: the library raises what it meets
        raise _cannot_open() from error


def _full_rows(rows: Iterator[Sequence[Any]]) -> Iterator[list[str]]:
    empty = 0
    for number, row in enumerate(rows, 1):
        if not row:
            empty += 1
            continue
        width = max((place for place, value in enumerate(row, 1) if value is not None), default=0)
        if width > COLUMNS_AT_MOST or (width and empty > EMPTY_ROWS_AT_MOST):
            raise NotAList(
                f"A cell stands at {get_column_letter(width)}{number}, far from all others: delete its row and column, and save it anew"
            )
        cells = [_cell(value) for value in row[:width]]
        if any(cells):
            empty = 0
            yield cells
        else:
            empty += 1


def _cannot_open() -> NotAList:
    return NotAList("This XLSX cannot be opened: save it anew, or as CSV")


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
        return repr(int(value)) if value.is_integer() else repr(value)
    return str(value)


def load() -> None:
    """Read a list of each kind, so that all of the code and the character tables are there from the start on."""
    for encoding in ("utf-8-sig", "cp1252", "cp437"):
        codecs.lookup(encoding)
    book, out = Workbook(), io.BytesIO()
    sheet = book.active
    assert sheet is not None
    sheet.append(["one", "two", datetime(2026, 1, 1, tzinfo=UTC).replace(tzinfo=None)])
    sheet.append([1, 2.5, True])
    book.save(out)
    for content in (out.getvalue(), "one;two\nä;b".encode("cp1252")):
        opened = open_list(content)
        list(chain([opened.columns], opened.rows))

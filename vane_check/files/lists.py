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
    """A file that cannot be read as a list: the key of the message that says what to send instead, and its figures."""

    def __init__(self, key: str, **figures: str | int) -> None:
        super().__init__(key, *figures.values())
        self.key, self.figures = key, figures


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
        raise NotAList("files.the_first_row_must_name_the_columns")
    return Opened(columns, rows)


def _within_bounds(rows: Iterator[list[str]]) -> Iterator[list[str]]:
    for number, row in enumerate(rows):
        if number > ROWS_AT_MOST:
            raise NotAList("files.more_than_rows", rows=f"{ROWS_AT_MOST:,}")
        if len(row) > COLUMNS_AT_MOST:
            raise NotAList("files.row_has_more_than_columns", row=number + 1, columns=COLUMNS_AT_MOST)
        cells = [cell if len(cell) <= CELL_AT_MOST else cell[: CELL_AT_MOST + 1] for cell in row]
        if sum(map(len, cells)) > ROW_AT_MOST:
            raise NotAList("files.row_holds_more_than_signs", row=number + 1, signs=f"{ROW_AT_MOST:,}")
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
        raise NotAList("files.this_is_neither_csv_nor_xlsx")
    encoding = "utf-8-sig" if _is_utf8(content) else "cp1252"
    text = io.TextIOWrapper(io.BytesIO(content), encoding=encoding, errors="replace", newline="")
    first = content[:SNIFFED].split(b"\n", 1)[0].decode(encoding, errors="replace")
    csv.field_size_limit(SIGNS_AT_MOST)  # a cell that is too long is one row's fault, and cut above
    try:
        for row in csv.reader(text, delimiter=max(CSV_SIGNS, key=first.count)):
            if row:
                yield [_unquoted(cell) for cell in row]
    except csv.Error as error:
        raise NotAList("files.cannot_be_read_as_csv", error=str(error)) from error


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
            unfolded = sum(member.file_size for member in packed.infolist())
    except (zipfile.BadZipFile, ValueError, NotImplementedError, EOFError) as error:
        raise _cannot_open() from error
    if unfolded > UNFOLDED_AT_MOST:
        raise NotAList("files.this_xlsx_unfolds_to_more_than_a_list_has", megabytes=f"{unfolded // 1_000_000:,}")
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        sheet = book.worksheets[0] if book.worksheets else None
        if sheet is None:
            raise NotAList("files.this_xlsx_has_no_sheet")
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
            raise NotAList("files.a_cell_stands_far_from_all_others", cell=f"{get_column_letter(width)}{number}")
        cells = [_cell(value) for value in row[:width]]
        if any(cells):
            empty = 0
            yield cells
        else:
            empty += 1


def _cannot_open() -> NotAList:
    return NotAList("files.this_xlsx_cannot_be_opened")


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

"""Files that somebody brings: whatever is in one, it is read within bounds, in a process of its own, and refused by what is wrong."""

import io
import os
import time
import unittest
import zipfile
from datetime import date
from itertools import product

from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import Workbook
from PIL import Image

from vane_check.core.goods.importing import ColumnMap, check_rows
from vane_check.core.goods.importing.fields import FIELDS, KINDS
from vane_check.files import lists
from vane_check.files.lists import NotAList
from vane_check.files.reader import AT_ONCE, READER, TOO_MUCH, WHOLE, FileReader, Limits
from vane_check.papers.lists import write_csv

SHEET = "xl/worksheets/sheet1.xml"
LETTERS = "ABCDEFGHIJ"


def workbook(**cells: str) -> bytes:
    """A workbook with a heading of two columns and these cells."""
    book, out = Workbook(), io.BytesIO()
    sheet = book.active
    assert sheet is not None
    sheet.append(["Name", "Price"])
    for place, said in cells.items():
        sheet[place] = said
    book.save(out)
    return out.getvalue()


def with_part(content: bytes, name: str, part: bytes) -> bytes:
    """The same workbook with one of its parts written over."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for one in old.infolist():
            new.writestr(one.filename, part if one.filename == name else old.read(one.filename))
    return out.getvalue()


def sheet_of(rows: str) -> bytes:
    """A sheet's own XML. Source: ECMA-376, SpreadsheetML."""
    space = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
    return f'<?xml version="1.0"?><worksheet xmlns="{space}"><sheetData>{rows}</sheetData></worksheet>'.encode()


def row_of(number: int, *said: str) -> str:
    cells = (f'<c r="{LETTERS[at]}{number}" t="inlineStr"><is><t>{one}</t></is></c>' for at, one in enumerate(said))
    return f'<row r="{number}">{"".join(cells)}</row>'


HEAD = row_of(1, "Name", "Price")
ENTITIES = "".join(f'<!ENTITY e{n} "{f"&e{n - 1};" * 10}">' for n in range(1, 10))
LAUGHS = (
    f'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e0 "ha">{ENTITIES}]>'.encode()
    + sheet_of(f"{HEAD}{row_of(2, '&e9;', '1')}")[21:]
)


class Bounded(unittest.TestCase):
    """None of these may take the machine; each is refused with what to do, or read in no time."""

    def read(self, content: bytes, limits: Limits = WHOLE) -> int:
        with READER.opened(content, limits=limits) as opened:
            return sum(1 for _ in opened.rows)

    def test_files_that_stop_a_shop(self) -> None:
        plain = workbook(A2="x", B2="1")
        wide = "<row r='2'>" + "<c t='inlineStr'><is><t>x</t></is></c>" * 300 + "</row>"
        bombs = {
            "a cell that strayed to the last column and row": (workbook(XFD1048576="x"), "XFD1048576"),
            "one that strayed down": (workbook(A2="x", A90000="x"), "A90000"),
            "one that strayed to the side": (workbook(ZZ2="x"), "ZZ2"),
            "a sheet that unfolds": (with_part(plain, SHEET, sheet_of(HEAD + " " * 450_000_000)), "unfolds.*450"),
            "entities of entities": (with_part(plain, SHEET, LAUGHS), "cannot_be_opened|takes_too_much"),
            "a sheet of no sheet": (with_part(plain, SHEET, b"<html/>"), "name_the_columns"),
            "half a sheet": (with_part(plain, SHEET, sheet_of(HEAD)[:90]), "cannot_be_opened"),
            "three hundred columns": (with_part(plain, SHEET, sheet_of(HEAD + wide)), "KN2|columns"),
            "no workbook in the zip": (with_part(plain, "[Content_Types].xml", b"x"), "cannot_be_opened"),
            "rows without an end": (b"Name;Price\n" + b"x;1\n" * 251_000, "more_than_rows.*250,000"),
            "columns without an end": (b"Name;Price\n" + b"x;" * 300 + b"\n", "columns.*200"),
            "a quote that never closes": (b'Name;Price\n"' + b"x;1\n" * 100_000, ""),
            "one endless line": (b"Name;" + b"x" * 5_000_000 + b"\n1;2\n", ""),
            "endless cells": (b"Name;Price\n" + (b"x" * 3000 + b";") * 40 + b"\n", "signs.*50,000"),
        }
        for what, (content, words) in bombs.items():
            with self.subTest(what):
                if words:
                    with self.assertRaisesRegex(NotAList, words):
                        self.read(content)
                else:
                    self.assertLessEqual(self.read(content), 1)

    def test_a_cell_longer_than_any_says_so_by_its_row(self) -> None:
        with READER.opened(b'Name;Price\n"' + b"x" * 90_000 + b'";1\ny;2\n') as opened:
            rows = list(opened.rows)
        self.assertEqual([len(cells[0]) for cells in rows], [2001, 1])

    def test_memory_and_time_end_for_the_process_that_reads_and_for_nobody_else(self) -> None:
        strings = "".join(f"<si><t>{n:0100d}</t></si>" for n in range(400_000))
        space = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
        large = with_part(
            with_part(workbook(), "xl/sharedStrings.xml", f'<sst xmlns="{space}">{strings}</sst>'.encode()),
            SHEET,
            sheet_of(HEAD + "".join(row_of(n, "x", "1") for n in range(2, 20_000))),
        )
        cells = "<c t='inlineStr'><is><t>x</t></is></c>" * 4
        endless = with_part(workbook(), SHEET, sheet_of(HEAD + f"<row>{cells}</row>" * 240_000))
        for what, content, limits in (
            ("memory", large, WHOLE._replace(memory_bytes=120_000_000)),
            ("time", endless, WHOLE._replace(cpu_seconds=1)),
        ):
            with self.subTest(what), self.assertRaisesRegex(NotAList, "takes_too_much"):
                self.read(content, limits)
        self.assertEqual(self.read(b"Name;Price\nx;1\n"), 1)  # whoever comes next is served

    def test_one_that_says_nothing_is_given_up(self) -> None:
        content = b"Name;Price\n" + b"x;1\n" * 200_000
        began = time.monotonic()
        with self.assertRaisesRegex(NotAList, TOO_MUCH):
            self.read(content, WHOLE._replace(silent_seconds=0.001))
        self.assertLess(time.monotonic() - began, 30)

    def test_who_looks_no_further_leaves_nothing_behind(self) -> None:
        for _ in range(AT_ONCE * 3):
            with READER.opened(b"Name;Price\n" + b"x;1\n" * 200_000) as opened:
                next(opened.rows)
        self.assertEqual(self.read(b"Name;Price\nx;1\n"), 1)

    def test_its_process_is_killed_and_another_reads_on(self) -> None:
        reader = FileReader()
        self.addCleanup(reader.close)
        self.assertEqual(reader.heading(b"Name;Price\nx;1\n"), (["Name", "Price"], [["x", "1"]]))
        assert reader._process is not None
        reader._process.kill()
        self.assertEqual(reader.heading(b"Name;Price\nx;1\n")[0], ["Name", "Price"])

    def test_a_picture_that_unfolds(self) -> None:
        kinds = {}
        for name, size in (("small", (40, 40)), ("huge", (5000, 20))):
            out = io.BytesIO()
            Image.new("RGB", size).save(out, "PNG")
            kinds[name] = READER.picture_kind(out.getvalue())
        cut = READER.picture_kind(out.getvalue()[:60])
        self.assertEqual((kinds, cut), ({"small": "image/png", "huge": None}, None))
        self.assertIsNone(READER.picture_kind(b"GIF89a"))
        self.assertIsNone(READER.picture_kind(os.urandom(100_000)))


NASTY = ("x\ny", "x\r\ny", "x\x07y", "x\x1by", "\x85", "9" * 400, "-" * 5000, "1e999", "nan", "inf", "٣٤", "²", "0x1F", "1_000", "99999-99-99", "'", "=1+1", "\ud7ff")  # fmt: skip
GOOD: dict[str, str] = {
    "name": "Nordal 48", "line": "Nordal", "rated_amps": "600", "price": "99", "group_code": "LN3", "arrived_on": "2026-11-01",
    "make": "Fjord", "model": "Long", "from_year": "2015", "min_cca_amps": "600", "source": "a list", "code": "7-701", "size": "LN3",
    "free_months": "24",
}  # fmt: skip


class Cells(unittest.TestCase):
    """Whatever stands in a cell: its row is refused with why, or kept as something that can be shown and opened."""

    KNOWN = {"suppliers": {}, "items": {"nordal 48": 1}}

    def check(self, kind: str, row: dict[str, str]) -> tuple[list[dict[str, object]], list[str]]:
        columns = list(row)
        mapping = ColumnMap(columns={name: name for name in columns})
        [part] = check_rows(kind, mapping, columns, [list(row.values())], self.KNOWN)  # type: ignore[arg-type]
        return [row for _, row in part.good], [fault.why for fault in part.faults]

    def test_every_field_of_every_list_with_whatever_may_be_in_it(self) -> None:
        for kind in KINDS:
            needed = {field.name: GOOD[field.name] for field in FIELDS[kind] if field.needed}
            if kind == "items":
                needed["group_code"] = "LN3"
            self.assertEqual(self.check(kind, needed)[1], [])
            for field, said in product(FIELDS[kind], NASTY):
                with self.subTest(kind=kind, field=field.name, said=said[:12]):
                    good, why = self.check(kind, {**needed, field.name: said})
                    self.assertEqual(len(good) + len(why), 1)
                    for value in (value for row in good for value in row.values()):
                        self.assertFalse(any(ord(sign) < 32 or 127 <= ord(sign) < 160 for sign in str(value)))
                        self.assertIsInstance(value, str | int | float | bool | date | list | None)
                        self.assertLessEqual(len(str(value)), 200)

    @settings(deadline=None, max_examples=200)
    @given(kind=st.sampled_from(KINDS), said=st.text(max_size=300), data=st.data())
    def test_any_text_at_all(self, kind: str, said: str, data: st.DataObject) -> None:
        field = data.draw(st.sampled_from(FIELDS[kind]))  # type: ignore[index]
        good, why = self.check(kind, {field.name: said, **{one.name: GOOD[one.name] for one in FIELDS[kind] if one.needed and one is not field}})  # type: ignore[index]  # fmt: skip
        self.assertLessEqual(len(good) + len(why), 1)


class Formulas(unittest.TestCase):
    """Source: OWASP, CSV Injection: a cell that begins with = + - @, a tab or a carriage return is a formula to a spreadsheet."""

    def test_what_a_spreadsheet_would_work_out_goes_out_quoted_and_comes_back_as_it_was(self) -> None:
        said = ["=1+1", "+49 30 1", "-", "@x", "\tx", "'=x", "'plain", "it's", "", "5-6"]
        out = io.StringIO()
        write_csv(out, [["name", "said"], *([f"n{at}", one] for at, one in enumerate(said))])
        for line in out.getvalue().splitlines()[1:]:
            self.assertNotRegex(line, r'^n\d,"?[=+\-@\t\r]')
        back = [row[1] for row in lists.open_list(out.getvalue().encode()).rows]
        self.assertEqual(back, said)

    def test_a_number_stays_a_number(self) -> None:
        out = io.StringIO()
        write_csv(out, [["a", "b"], [-1.5, -2]])
        self.assertEqual(out.getvalue(), "a,b\n-1.5,-2\n")

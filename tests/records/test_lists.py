"""Lists as files: what is read of CSV and XLSX, what is no list, and what is written."""

import csv
import io
import json
import unittest
import zipfile
from datetime import UTC, date, datetime

from openpyxl import Workbook

from vane_check.files.lists import NotAList, open_list
from vane_check.papers.lists import Table, data_package


class Reading(unittest.TestCase):
    def test_any_separator_any_of_two_alphabets_and_quotes(self) -> None:
        for content in (
            'Größe,Preis\n48,"1,5"\n'.encode(),
            "Größe;Preis\n48;1,5\n".encode("cp1252"),
            "\ufeffGröße\tPreis\r\n48\t1,5\r\n".encode(),
            "Größe|Preis\n\n48|1,5".encode(),
        ):
            with self.subTest(content):
                opened = open_list(content)
                self.assertEqual(opened.columns, ["Größe", "Preis"])
                self.assertEqual(list(opened.rows), [["48", "1,5"]])

    def test_columns_of_one_name_are_told_apart(self) -> None:
        self.assertEqual(open_list(b"a,b,a,,\n").columns, ["a", "b", "a (2)", "", ""])

    def test_a_line_break_in_a_quoted_cell(self) -> None:
        self.assertEqual(list(open_list(b'a,b\n"one\ntwo",3\n').rows), [["one\ntwo", "3"]])

    def test_a_spreadsheet_with_its_days_numbers_and_truths(self) -> None:
        book, out = Workbook(), io.BytesIO()
        sheet = book.active
        assert sheet is not None
        sheet.append(["a", "b", "c", "d"])
        sheet.append([datetime(2026, 3, 20), 48, 12.5, True])
        sheet.append([None, None, None, None])
        sheet.append([date(2026, 3, 21), 48.0, "x", False])
        book.save(out)
        rows = list(open_list(out.getvalue()).rows)
        self.assertEqual(rows, [["2026-03-20", "48", "12.5", "yes"], ["2026-03-21", "48", "x", "no"]])

    def test_what_is_no_list(self) -> None:
        for content, words in (
            (b"", "name_the_columns"),
            (b"a\n1", "name_the_columns"),
            (b"PK\x03\x04zip", "cannot_be_opened"),
            (b"\x00\x01,\x02", "neither_csv"),
        ):
            with self.subTest(content), self.assertRaisesRegex(NotAList, words):
                open_list(content)


class Writing(unittest.TestCase):
    def test_a_package_says_what_its_fields_are(self) -> None:
        table = Table(
            "things",
            "Things",
            [("name", "string"), ("count", "integer"), ("there", "boolean")],
            ["name"],
            [["a;b", 3, True], ["ä", None, False]],
        )
        packed = zipfile.ZipFile(io.BytesIO(data_package("test", "Test", datetime(2026, 3, 20, tzinfo=UTC), [table])))
        told = json.loads(packed.read("datapackage.json"))
        [resource] = told["resources"]
        self.assertEqual((resource["path"], resource["schema"]["primaryKey"]), ("data/things.csv", ["name"]))
        self.assertEqual([field["type"] for field in resource["schema"]["fields"]], ["string", "integer", "boolean"])
        rows = list(csv.reader(io.StringIO(packed.read("data/things.csv").decode())))
        self.assertEqual(rows, [["name", "count", "there"], ["a;b", "3", "true"], ["ä", "", "false"]])

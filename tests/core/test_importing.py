"""Lists brought in: what each cell means, what is refused and why, and what a heading is taken for."""

import unittest
from collections.abc import Sequence
from typing import Any

from vane_check.core.goods.importing import FIELDS, KINDS, ColumnMap, MappingRefused, check_rows, guessed, values
from vane_check.core.goods.importing.fields import Kind

HEADING = ["Name", "Line", "Size", "Rating", "Price"]
PLAIN = ["Plain 48 600", "Plain", "48", "600", "129.90"]


def looked_at(
    rows: Sequence[Sequence[str]], kind: Kind = "items", heading: Sequence[str] = HEADING, **more: Any
) -> tuple[list[Any], list[Any]]:
    mapping = guessed(kind, list(heading)).model_copy(update=more)
    known = {"suppliers": {"harrow": 7}, "items": {"plain 48 600": 11}}
    good: list[Any] = []
    faults: list[Any] = []
    for part in check_rows(kind, mapping, heading, rows, known):
        good += [row for _, row in part.good]
        faults += part.faults
    return good, faults


class Cells(unittest.TestCase):
    def test_numbers_of_either_comma(self) -> None:
        for said, value in (
            ("1.234,5", 1234.5),
            ("1,234.5", 1234.5),
            ("7,5", 7.5),
            ("7.5", 7.5),
            ("1 234", 1234.0),
            ("", None),
            ("-3", -3.0),
        ):
            with self.subTest(said):
                self.assertEqual(values.number(said), value)
        for said in ("many", "1.2.3", "1,2,3.4,5", "12 V"):
            with self.subTest(said), self.assertRaises(ValueError):
                values.number(said)

    def test_money_yes_types_sides_and_days(self) -> None:
        self.assertEqual(
            [values.money(one) for one in ("129.90", "129,9", "€ 1.299,00", "129,90EUR", "chf129.90", "0", "")],
            [12990, 12990, 129900, 12990, 12990, 0, None],
        )
        self.assertEqual([values.yes(one) for one in ("ja", "YES", "1", "", "no")], [True, True, True, False, False])
        self.assertEqual(
            [values.chemistry(one) for one in ("", "Ca/Ca", "AGM", "wet")], ["flooded", "calcium", "agm", "flooded"]
        )
        self.assertEqual(
            [values.side(one) for one in ("0", "1", "L", "rechts", "+ right", "")],
            ["right", "left", "left", "right", "right", ""],
        )
        self.assertEqual(
            [str(values.day(one)) for one in ("2026-03-20", "20.03.2026", "20/03/2026", "2026-03-20 00:00:00", "")],
            ["2026-03-20"] * 4 + ["None"],
        )
        for reader, wrong in (
            (values.yes, "perhaps"),
            (values.chemistry, "nickel"),
            (values.side, "up"),
            (values.day, "soon"),
            (values.scale, "JIS"),
            (values.money, "a lot"),
        ):
            with self.subTest(wrong), self.assertRaises(ValueError):
                reader(wrong)


class Rows(unittest.TestCase):
    def test_an_item_gets_its_outside_from_its_size_and_its_cca_from_its_scale(self) -> None:
        [row], faults = looked_at([[*PLAIN]], rated_scale="EN")
        self.assertEqual(faults, [])
        self.assertEqual(
            (row["length_mm"], row["positive_side"], row["ledge"], row["same_as"]), (278, "right", "all", "LN3")
        )
        self.assertEqual((row["cca_amps"], row["price_cents"]), (631.6, 12990))

    def test_a_post_written_in_the_list_stands_over_the_size_s_own(self) -> None:
        # DIN 72311 posts stand on top; a list that says otherwise of one item is believed, and an unknown size has top posts
        heading = [*HEADING, "Post", "Length", "Width", "Height", "Positive"]
        rows = [
            [*PLAIN, "side", "", "", "", ""],
            ["Plain 48 640", *PLAIN[1:], "", "", "", "", ""],
            ["Odd", "Plain", "ODD9", "600", "99", "", "240", "170", "180", "right"],
        ]
        got, faults = looked_at(rows, heading=heading)
        self.assertEqual(faults, [])
        self.assertEqual([row["post"] for row in got], ["side", "top", "top"])

    def test_every_refused_row_says_its_number_its_column_and_why(self) -> None:
        rows = [
            PLAIN,
            ["", "Plain", "48", "600", "1"],
            ["A", "Plain", "Z9", "600", "1"],
            ["B", "Plain", "48", "strong", "1"],
            ["C", "Plain", "48", "9000", "1"],
            ["plain 48 600", "Plain", "48", "600", "1"],
            ["D", "Plain", "48", "600"],
        ]
        good, faults = looked_at(rows)
        self.assertEqual(len(good), 1)
        self.assertEqual(
            [(one.row, one.column) for one in faults],
            [(3, "Name"), (4, ""), (5, "Rating"), (6, "Rating"), (7, ""), (8, "Price")],
        )
        whys = [one.why for one in faults]
        for said, why in zip(
            ("is empty", "in no table here", "is no number", "not between 50 and 2000", "first in row 2", "is empty"),
            whys,
            strict=True,
        ):
            self.assertIn(said, why)

    def test_lengths_in_centimetres_and_inches(self) -> None:
        heading = [*HEADING, "Length", "Width", "Height", "Polarity"]
        row = ["A", "Plain", "own", "600", "1", "27,8", "17.5", "19", "0"]
        [found], faults = looked_at([row], heading=heading, length_unit="cm")
        self.assertEqual(
            (found["length_mm"], found["width_mm"], found["height_mm"], found["positive_side"], faults),
            (278, 175, 190, "right", []),
        )
        [found], _ = looked_at([[*row[:5], "10.94", "6.9", "7.5", "R"]], heading=heading, length_unit="in")
        self.assertEqual((found["length_mm"], found["height_mm"]), (278, 190))
        _, faults = looked_at([row], heading=heading)
        self.assertIn("not between 50 and 700 mm", faults[0].why)

    def test_pieces_name_items_that_are_there_and_count(self) -> None:
        heading = ["Item", "Pieces", "Arrived", "Volts"]
        good, faults = looked_at(
            [["PLAIN 48 600", "3", "1.2.2026", "12,6"], ["nobody", "1", "2026-02-01", ""]], "pieces", heading
        )
        self.assertEqual((good[0]["item_id"], good[0]["count"], str(good[0]["last_volts_on"])), (11, 3, "2026-02-01"))
        self.assertIn("no item is called nobody", faults[0].why)

    def test_vehicles_aliases_and_terms(self) -> None:
        heading = ["Make", "Model", "From year", "To year", "Size", "CCA", "Trim", "Afterwards"]
        rows = [["Brevan", "Oat", "2010", "2015", "48", "600", "", "windows"], ["Brevan", "Oat", "2010", "2009", "48", "600", "x", ""], ["Brevan", "Oat", "2010", "", "48", "600", "", "dance"], ["brevan", "oat", "2010", "", "48", "600", "", ""]]  # fmt: skip
        good, faults = looked_at(rows, "vehicles", heading)
        self.assertEqual((len(good), [one.row for one in faults]), (1, [3, 4, 5]))
        good, faults = looked_at([["0-96", "ln3"], ["55", "Q1"]], "aliases", ["Code", "Size"], source="edition 2")
        self.assertEqual((good[0]["code"], good[0]["size"], good[0]["source"]), ("096", "LN3", "edition 2"))
        self.assertIn("size Q1", faults[0].why)
        good, faults = looked_at(
            [["Plain", "24", "taxi; delivery"], ["Other", "24", "racing"]], "terms", ["Line", "Months free", "Excluded"]
        )
        self.assertEqual(good[0]["excluded_uses"], ["taxi", "delivery"])
        self.assertIn("is no use", faults[0].why)

    def test_a_mapping_that_cannot_be_worked_with_is_refused_by_field(self) -> None:
        with self.assertRaises(MappingRefused) as refused:
            list(
                check_rows(
                    "items",
                    ColumnMap(columns={"name": "Nome", "smell": "Name"}, length_unit="ell", rated_scale="JIS"),
                    HEADING,
                    [],
                    {},
                )
            )
        self.assertEqual(
            set(refused.exception.faults),
            {"name", "smell", "line", "rated_amps", "price", "length_unit", "rated_scale"},
        )

    def test_headings_are_guessed_each_column_once(self) -> None:
        found = guessed("items", ["Bezeichnung", "Marke", "Gehäuse", "EN", "Preis", "Länge", "Ah"])
        self.assertEqual(
            found.columns,
            {
                "name": "Bezeichnung",
                "line": "Marke",
                "group_code": "Gehäuse",
                "rated_amps": "EN",
                "price": "Preis",
                "length_mm": "Länge",
                "capacity_ah_20h": "Ah",
            },
        )
        self.assertEqual(found.rated_scale, "EN")
        for kind in KINDS:
            labels = [str(field.label) for field in FIELDS[kind]]
            self.assertEqual(list(guessed(kind, labels).columns.values()), labels)

"""Codes on labels and in lists: what each says, and what is said of those that say nothing."""

import unittest

from vane_check.core.battery.codes import UnknownCode, plain, read_code
from vane_check.core.battery.label import Chemistry
from vane_check.core.tables.base import Sourced
from vane_check.core.tables.codes import Figures, aliases, european_designs


class Codes(unittest.TestCase):
    def test_sizes_by_any_spelling(self) -> None:
        for text, size in (("48", "48"), ("group 24f", "24F"), (" ln3 ", "LN3"), ("d23-l", "D23L"), ("GRP 94R", "94R")):
            with self.subTest(text):
                self.assertEqual(read_code(text).group_code, size)

    def test_a_six_volt_size_and_number_say_six_volts(self) -> None:
        self.assertEqual(read_code("GC2").nominal_volts, 6)
        number = read_code("077 015 034")
        self.assertEqual((number.nominal_volts, number.capacity_ah_20h), (6, 77))

    def test_a_number_of_a_known_ah_and_an_unknown_design_says_to_measure(self) -> None:
        found = read_code("566 999 051")
        self.assertEqual((found.capacity_ah_20h, found.rating and found.rating.amps, found.group_code), (66, 510, None))
        self.assertIn("measure the case", found.says)

    def test_japanese_codes_without_a_table_row_are_computed(self) -> None:
        for text, outside in (("145G51", (510, 222, 257)), ("90E41L", (410, 176, 234))):
            found = read_code(text)
            self.assertEqual((found.length_mm, found.width_mm, found.height_mm), outside)
            self.assertIsNone(found.group_code)
        self.assertIsNone(read_code("145G51").positive_side)
        self.assertEqual((read_code("90E41L").positive_side, read_code("90E41R").positive_side), ("right", "left"))

    def test_thick_posts_are_no_thin_ones(self) -> None:
        self.assertEqual((read_code("46B24L").post, read_code("46B24L").group_code), ("pencil", "B24L"))
        self.assertEqual((read_code("46B24LS").post, read_code("46B24LS").group_code), ("top", None))

    def test_stop_start_letters(self) -> None:
        found = read_code("Q-85R")
        self.assertEqual((found.group_code, found.chemistry, found.rank), ("D23R", Chemistry.EFB, 85))

    def test_the_shops_own_list_comes_first(self) -> None:
        own = {plain("096"): Figures("94R", "right", 80, 700, "EN", "Harbour list", Sourced("edition 3", "practice"))}
        self.assertEqual(read_code("096", own).group_code, "94R")
        self.assertEqual(read_code("096").group_code, "LN3")
        self.assertIn("Harbour list", read_code("096", own).says)

    def test_a_list_that_says_the_other_side_names_no_size_of_the_table(self) -> None:
        own = {"77X": Figures("LN3", "left", None, None, "EN", "", Sourced("edition 3", "practice"))}
        found = read_code("77x", own)
        self.assertEqual((found.group_code, found.positive_side, found.length_mm), (None, "left", 278))

    def test_unknown_codes_get_a_sentence_and_the_way_out(self) -> None:
        for text in ("XYZ", "12345", "55D2L", "560 408 05", "?"):
            with self.subTest(text), self.assertRaisesRegex(UnknownCode, "stands in no list here: measure length"):
                read_code(text)
        with self.assertRaisesRegex(UnknownCode, "Enter what stands on the label"):
            read_code(" - ")

    def test_what_ships_names_only_sizes_of_the_table_and_says_from_memory(self) -> None:
        for table in (aliases(), european_designs()):
            for code, figures in table.items():
                with self.subTest(code):
                    self.assertIsNotNone(read_code(figures.size).length_mm)
                    self.assertEqual(figures.origin.standing, "memory")
                    self.assertEqual(read_code(figures.size).positive_side, figures.positive_side)

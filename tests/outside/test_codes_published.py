"""Codes and cases against what is published of them, written out here from memory beside the name of each source."""

import unittest

from vane_check.core.battery.codes import read_code
from vane_check.core.tables import footprints


class EuropeanNumbers(unittest.TestCase):
    """EN 50342-2 type numbers as battery makers print them beside their figures (worked examples from memory)."""

    def test_volts_ah_and_amps(self) -> None:
        for code, volts, ah, amps, outside in (
            ("560 408 054", 12, 60, 540, (242, 175, 190)),
            ("574 012 068", 12, 74, 680, (278, 175, 190)),
            ("595 402 080", 12, 95, 800, (353, 175, 190)),
            ("610 402 092", 12, 110, 920, (394, 175, 190)),
            ("545 155 033", 12, 45, 330, (238, 129, 227)),
            ("560 409 054", 12, 60, 540, (242, 175, 175)),
            ("591 401 074", 12, 91, 740, (306, 173, 225)),
            ("680 032 100", 12, 180, 1000, None),
            ("077 015 036", 6, 77, 360, None),
        ):
            with self.subTest(code):
                found = read_code(code)
                self.assertEqual(
                    (found.nominal_volts, found.capacity_ah_20h, found.rating and found.rating.amps), (volts, ah, amps)
                )
                self.assertEqual(found.rating and found.rating.scale, "EN")
                if outside is None:
                    self.assertIsNone(found.length_mm)
                else:
                    for told, published in zip(
                        (found.length_mm, found.width_mm, found.height_mm), outside, strict=True
                    ):
                        assert told is not None
                        self.assertLessEqual(abs(told - published), 3)

    def test_left_and_right_hand_twins(self) -> None:
        self.assertEqual(
            (read_code("591 400 074").positive_side, read_code("591 401 074").positive_side), ("right", "left")
        )


class JapaneseCodes(unittest.TestCase):
    """JIS D 5301: rank, letter for width and height (B 129 x 203, D 173 x 204, E 176 x 213 mm), length in cm, side."""

    def test_worked_examples(self) -> None:
        for code, rank, length, width, side in (
            ("55D23L", 55, 230, 173, "right"),
            ("80D26R", 80, 260, 173, "left"),
            ("46B24L", 46, 240, 129, "right"),
            ("34B19R", 34, 190, 129, "left"),
            ("95D31L", 95, 310, 173, "right"),
            ("115E41R", 115, 410, 176, "left"),
            ("145G51", 145, 510, 222, None),
        ):
            with self.subTest(code):
                found = read_code(code)
                assert found.length_mm is not None
                assert found.width_mm is not None
                self.assertEqual((found.rank, found.positive_side), (rank, side))
                self.assertLessEqual(abs(found.length_mm - length), 5)  # the code says whole centimetres
                self.assertLessEqual(abs(found.width_mm - width), 3)
                self.assertIn(f"rank {rank}", found.says)


class Footprints(unittest.TestCase):
    """Where two tables describe one case, the BCI group sizes and EN 50342-2 or JIS D 5301, they agree."""

    def test_two_tables_of_one_case_agree(self) -> None:
        table, pairs = footprints(), 0
        for size in table.values():
            if not size.same_as:
                continue
            other = table[size.same_as]
            pairs += 1
            with self.subTest(f"{size.code} and {other.code}"):
                self.assertEqual(other.same_as, size.code)
                self.assertNotEqual(other.system, size.system)
                self.assertEqual((size.positive_side, size.nominal_volts), (other.positive_side, other.nominal_volts))
                self.assertLessEqual(abs(size.length_mm - other.length_mm), 13)  # makers' lids of the JIS cases differ
                self.assertLessEqual(abs(size.width_mm - other.width_mm), 3)
                self.assertLessEqual(abs(size.height_mm - other.height_mm), 5)
                if {size.system, other.system} == {"BCI", "EN"}:
                    self.assertLessEqual(abs(size.length_mm - other.length_mm), 4)  # BCI lists the largest
        self.assertGreaterEqual(pairs, 20)

    def test_jis_classes_agree_with_the_sizes_in_the_table(self) -> None:
        for size in footprints().values():
            if size.system == "JIS":
                with self.subTest(size.code):
                    found = read_code(f"60{size.code}")
                    self.assertEqual(found.group_code, size.code)
                    self.assertEqual(found.positive_side, size.positive_side)
                    self.assertLessEqual(abs(int(size.code[1:3]) * 10 - size.length_mm), 5)

    def test_box_names_of_the_european_standard_by_their_length(self) -> None:
        """EN 50342-2: L1 to L6 are 207, 242, 278, 315, 353 and 393 mm long and 190 mm high; LB the same, 175 mm high."""
        for number, length in enumerate((207, 242, 278, 315, 353, 393), 1):
            low, high = read_code(f"LB{number}") if number < 6 else None, read_code(f"L{number}")
            assert high.length_mm is not None
            self.assertLessEqual(abs(high.length_mm - length), 1)
            self.assertEqual(high.height_mm, 190)
            if low is not None:
                self.assertEqual((low.length_mm, low.height_mm), (high.length_mm, 175))

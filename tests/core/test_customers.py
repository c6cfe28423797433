"""Whether two entries are one person."""

import unittest

from vane_check.core.life.customers import Written, is_one, name_likeness, phone_key, plate_key, why_alike


class OnePerson(unittest.TestCase):
    def test_a_phone_is_known_by_its_last_seven_digits_however_it_is_written(self) -> None:
        for way in ("0171 555 0192", "+49 171 5550192", "(0171) 555-01-92", "5550192"):
            with self.subTest(way):
                self.assertEqual(phone_key(way), "5550192")
        self.assertEqual(phone_key("555 019"), "")  # six digits tell nobody apart

    def test_a_plate_is_known_by_its_signs(self) -> None:
        self.assertEqual(plate_key("vk-et 182"), "VKET182")
        self.assertEqual(plate_key(" - "), "")

    def test_the_same_name_and_phone_are_one_person_and_another_phone_is_another(self) -> None:
        here = Written("Ida Holm", "0171 555 0192", "")
        self.assertTrue(is_one(here, Written("ida  holm", "+49 171 5550192", "VK 1")))
        self.assertFalse(is_one(here, Written("Ida Holm", "0171 555 0193", "")))
        self.assertFalse(is_one(here, Written("Ida Holm", "", "")))  # a name alone proves nothing
        self.assertFalse(is_one(here, Written("Idar Holm", "0171 555 0192", "")))

    def test_the_same_name_and_plate_are_one_person_where_no_phone_speaks_against_it(self) -> None:
        self.assertTrue(is_one(Written("Ida Holm", "", "VK-1"), Written("Ida Holm", "0171 555 0192", "vk 1")))
        self.assertFalse(
            is_one(Written("Ida Holm", "0171 555 0193", "VK-1"), Written("Ida Holm", "0171 555 0192", "VK1"))
        )
        self.assertFalse(is_one(Written("", "", "VK-1"), Written("", "", "VK-1")))

    def test_what_may_be_one_person_says_why(self) -> None:
        here = Written("Ida Holm", "0171 555 0192", "VK-1")
        cases = [
            (Written("Somebody", "5550192", ""), "the same phone"),
            (Written("Somebody", "", "vk1"), "the same plate"),
            (Written("ida holm", "", ""), "the same name"),
            (Written("Ida Holme", "", ""), "nearly the same name"),
            (Written("Ida Lindqvar", "", ""), None),
            (Written("", "", ""), None),
        ]
        for other, why in cases:
            with self.subTest(other):
                self.assertEqual(why_alike(here, other), why)

    def test_likeness_is_the_share_of_threes(self) -> None:
        # "ida": "  i", " id", "ida", "da "; "ade": "  a", " ad", "ade", "de ": none shared
        self.assertEqual(name_likeness("Ida", "Ade"), 0)
        # "ida" and "idar": shared "  i", " id", "ida"; besides "da ", "dar", "ar ": 3 of 6
        self.assertAlmostEqual(name_likeness("Ida", "Idar"), 0.5)
        self.assertEqual(name_likeness("Ida", ""), 0)

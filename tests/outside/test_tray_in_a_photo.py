"""A tray measured in a photo, against a pinhole camera that knows how long it is; the card is ISO/IEC 7810, ID-1."""

import unittest
from typing import Any

from tests.photos import CARD, PICTURE, corners, seen
from vane_check.core.matching.photo import CannotMeasure, Marks, TrayFound, tray_in
from vane_check.core.tables import photo_figures


def found(
    length: float, width: float, turned: float = 0, at: tuple[float, float] = (0, 0), shift: float = 0, **camera: Any
) -> TrayFound:
    tray = [seen(*point, **camera) for point in corners(length, width)]
    card = [seen(*point, **camera) for point in corners(*CARD, at=at, turned=turned)]
    card[0] = (card[0][0] + shift, card[0][1])
    return tray_in(Marks.model_validate({"tray": tray, "card": card, "picture_px": max(PICTURE)}))


class TrayInAPhoto(unittest.TestCase):
    def test_the_card_is_the_standard_s(self) -> None:
        figures = photo_figures()
        self.assertEqual((figures["card_length_mm"], figures["card_width_mm"]), (85.6, 53.98))

    def test_right_to_a_tenth_of_a_millimetre_at_every_angle_where_marks_are_right(self) -> None:
        for tilt in (0, 10, 25, -25):
            for turn in (0, 30, 90, 180):
                for turned, at in ((0, (0, 0)), (90, (40, -20)), (37, (-60, 30))):
                    with self.subTest(tilt=tilt, turn=turn, turned=turned):
                        told = found(278, 175, turned=turned, at=at, tilt=tilt, turn=turn)
                        self.assertAlmostEqual(told.length_mm, 278, delta=0.1)
                        self.assertAlmostEqual(told.width_mm, 175, delta=0.1)

    def test_the_longer_side_is_the_length_however_it_is_held(self) -> None:
        told = found(175, 278)
        self.assertAlmostEqual(told.length_mm, 278, delta=0.1)

    def test_what_it_says_it_may_be_off_covers_a_mark_that_is_off_and_grows_from_afar(self) -> None:
        near, far = found(278, 175), found(278, 175, high=1800)
        self.assertGreater(far.off_mm, 2 * near.off_mm)
        for shift in (-3.2, 3.2):  # two thousandths of 1600
            slip = found(278, 175, shift=shift)
            self.assertGreater(abs(slip.length_mm - 278), 0.5)
            self.assertLess(abs(slip.length_mm - 278), near.off_mm)

    def test_marks_that_cross_or_lie_on_a_line_are_told_by_their_shape(self) -> None:
        card, tray = corners(*CARD), corners(278, 175)
        for part, wrong in (
            ("card", {"card": [card[0], card[2], card[1], card[3]]}),
            ("tray", {"tray": [tray[0], tray[2], tray[1], tray[3]]}),
            ("card", {"card": [(0, 0), (1, 0), (2, 0), (0, 1)]}),
            ("card", {"card": [(5, 5)] * 4}),
        ):
            with self.subTest(wrong), self.assertRaises(CannotMeasure) as told:
                tray_in(Marks.model_validate({"card": card, "tray": tray, "picture_px": 1600, **wrong}))
            self.assertEqual(told.exception.part, part)

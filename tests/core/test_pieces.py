"""Pieces in stock, what a dearer one buys, when goods come, and what a fitter has to do. Every figure is written out."""

import unittest
from datetime import datetime, timedelta
from typing import Any

from tests.build import RULES
from tests.goods import TODAY, candidate, piece
from vane_check.core.goods.deliveries import next_delivery
from vane_check.core.goods.fitting import AFTER_FITTING, FittingCar, fitting_list, step_rows
from vane_check.core.goods.pieces import Due, PieceState, state_of
from vane_check.core.matching.upgrade import upgrade, upgrades


def state(**more: Any) -> PieceState:
    days = {name: TODAY - timedelta(days=value) for name, value in more.items() if name.endswith("_on")}
    return state_of(piece(**{**more, **days}), TODAY, RULES)


class Pieces(unittest.TestCase):
    def test_what_a_piece_asks_for(self) -> None:
        table: list[tuple[str, dict[str, Any], Due]] = [
            ("read a month ago and full", {}, Due.NOTHING),
            ("flooded, two months without a look", {"last_volts_on": 61}, Due.VOLTS),
            ("the same in agm has half a year", {"chemistry": "agm", "last_volts": 12.9, "last_volts_on": 61}, Due.NOTHING),
            ("never read", {"last_volts": None}, Due.VOLTS),
            ("under the charged line", {"last_volts": 12.40}, Due.CHARGE),
            ("charged since", {"last_volts": 12.40, "charged_on": 3}, Due.NOTHING),
            ("a year uncharged", {"arrived_on": 366, "last_volts_on": 20}, Due.REFUSED),
            ("a year here, but charged in between", {"arrived_on": 366, "charged_on": 100, "last_volts_on": 20}, Due.NOTHING),
            ("made long before it came", {"arrived_on": 30, "made_on": 20, "last_volts_on": 20}, Due.NOTHING),
            ("dry, a year", {"dry_charged": True, "made_on": 365}, Due.NOTHING),
            ("dry, past two years", {"dry_charged": True, "made_on": 731}, Due.FILL),
            ("dry and filled long ago", {"dry_charged": True, "made_on": 900, "filled_on": 400, "arrived_on": 800, "last_volts_on": 20}, Due.REFUSED),
        ]  # fmt: skip
        for what, more, due in table:
            with self.subTest(what):
                self.assertIs(state(**more).due, due, state(**more).why)

    def test_it_stands_from_its_last_charge_and_is_looked_at_from_the_last_hand_on_it(self) -> None:
        charged_late = state(arrived_on=400, made_on=430, charged_on=280, last_volts_on=20)
        self.assertEqual((charged_late.uncharged_months, charged_late.reduced), (9.2, True))
        never = state(arrived_on=100, made_on=430, last_volts_on=20)
        self.assertIs(never.due, Due.REFUSED)  # made 430 days ago and never charged, whenever it came
        # read 70 days ago, charged 10 days ago: two months from the charge
        self.assertIs(state(last_volts_on=70, charged_on=10).due, Due.NOTHING)
        self.assertIs(state(last_volts_on=70, charged_on=69).due, Due.VOLTS)

    def test_priced_down_from_nine_months_and_refused_from_twelve(self) -> None:
        for days, price, reduced, refused in (
            (273, 10000, False, False),
            (275, 8000, True, False),
            (366, 10000, False, True),
        ):
            with self.subTest(days):
                found = state(arrived_on=days, last_volts_on=5)
                self.assertEqual((found.price_cents, found.reduced, found.refused), (price, reduced, refused))

    def test_a_dry_piece_is_not_priced_down_for_standing(self) -> None:
        found = state(dry_charged=True, made_on=600, arrived_on=590)
        self.assertEqual((found.is_dry, found.reduced, found.price_cents), (True, False, 10000))


class Upgrades(unittest.TestCase):
    def test_two_plain_sentences_with_the_figures_that_differ(self) -> None:
        base = candidate(item_id=1, chemistry="calcium", cca_amps=600, capacity_ah_20h=60, price_cents=10000)
        better = candidate(item_id=2, chemistry="agm", cca_amps=690, capacity_ah_20h=66, price_cents=15000)
        found = upgrade(base, better, RULES)
        assert found is not None
        self.assertEqual(found.more_cents, 5000)
        self.assertEqual(
            found.sentences,
            (
                "This one gives 90 A more to start with in the cold and about 10 % more in reserve when the engine is off.",
                "It is built for about 80,000 starts where the other is built for 30,000, which is what stopping and "
                "starting at every light takes.",
            ),
        )

    def test_nothing_more_is_no_upgrade(self) -> None:
        base = candidate(item_id=1, price_cents=10000)
        self.assertIsNone(upgrade(base, candidate(item_id=2, price_cents=15000), RULES))
        self.assertEqual(upgrades([], RULES, 5), [])

    def test_against_the_cheapest_that_is_here(self) -> None:
        here = candidate(item_id=1, price_cents=12000, cca_amps=700)
        away = candidate(item_id=2, price_cents=9000, cca_amps=650, in_stock=0)
        best = candidate(item_id=3, price_cents=15000, cca_amps=760)
        found = upgrades([best, away, here], RULES, 5)
        self.assertEqual([(one.item_id, one.than_id, one.more_cents) for one in found], [(3, 1, 3000)])


class Supply(unittest.TestCase):
    def test_next_delivery(self) -> None:
        thursday = datetime(2026, 11, 26, 14, 59)
        table = [
            ((thursday, 1, (0, 2, 4), "15:00"), "2026-11-27"),
            ((thursday.replace(hour=15, minute=0), 1, (0, 2, 4), "15:00"), "2026-11-30"),
            ((thursday, 3, (1, 3), ""), "2026-12-01"),
            ((thursday, 0, (3,), ""), "2026-11-26"),
            ((thursday, 1, (3,), ""), "2026-12-03"),
        ]
        for asked, day in table:
            with self.subTest(day):
                found = next_delivery(*asked)
                assert found is not None
                self.assertEqual(found.isoformat(), day)
        self.assertIsNone(next_delivery(thursday, 1, ()))


class Fitting(unittest.TestCase):
    def test_only_what_this_car_needs_and_in_order(self) -> None:
        bare = [step.key for step in fitting_list(FittingCar())]
        self.assertNotIn("register", bare)
        self.assertLess(bare.index("negative_off"), bare.index("positive_off"))
        self.assertLess(bare.index("positive_on"), bare.index("clamp_torque"))
        self.assertLess(bare.index("side_by_side"), bare.index("negative_off"))
        whole = fitting_list(
            FittingCar(
                memory="clock", programme="by a tool", needs_registration=True, after=AFTER_FITTING, vent_tube=True, vent_side="left",
                spacer="Fit a spacer for 12 mm", shim=True, core_deposit=True,
            )
        )  # fmt: skip
        self.assertEqual([step.key for step in whole], [row.key for row in step_rows()])
        self.assertEqual(len(whole), len(step_rows()))
        texts = " ".join(str(step.text) for step in whole)
        for said in (
            "clock",
            "by a tool",
            "left side",
            "spacer for 12 mm",
            "5 to 8 Nm",
            "steering",
            "old battery in for recycling",
        ):
            self.assertIn(said.lower(), texts.lower())

    def test_what_is_read_has_its_unit_and_every_step_its_source(self) -> None:
        figures = {step.key: step.figure for step in fitting_list(FittingCar()) if step.figure}
        self.assertEqual(figures, {"new_volts": "volts", "running_volts": "volts", "drain": "mA"})
        self.assertTrue(all(step.source and step.standing for step in fitting_list(FittingCar())))

"""The till's sums against decimals added up by hand, and money by ISO 4217."""

import unittest
from decimal import ROUND_HALF_UP, Decimal

from babel.numbers import get_currency_precision
from hypothesis import given, settings
from hypothesis import strategies as st

from vane_check.core.goods.till import Movement, What, tills
from vane_check.core.tables import currencies
from vane_check.core.units.money import decimals_of, tax_on_top_cents, tax_within_cents

CUSTOMARY = {
    "AFN": 0, "ALL": 0, "IQD": 0, "IRR": 0, "KPW": 0, "LAK": 0, "LBP": 0, "MGA": 0, "MMK": 0, "RSD": 0, "SOS": 0, "SYP": 0, "YER": 0,
}  # fmt: skip
"""Where CLDR has what people write, and ISO 4217 has more decimals."""


class Decimals(unittest.TestCase):
    def test_every_money_has_those_of_iso_4217(self) -> None:
        """Against the table Babel ships (CLDR), which differs by custom for those named above."""
        found = {code: decimals for code, decimals in currencies().items() if code not in CUSTOMARY}
        self.assertEqual(found, {code: get_currency_precision(code) for code in found})
        self.assertGreater(len(found), 130)
        for code, digits in CUSTOMARY.items():
            self.assertEqual(get_currency_precision(code), digits)
            self.assertGreater(decimals_of(code), digits)
        self.assertEqual(decimals_of("???"), 2)

    @settings(max_examples=500, deadline=None)
    @given(st.integers(0, 10_000_000), st.integers(0, 5000))
    def test_what_came_on_top_is_what_is_within(self, net: int, rate: int) -> None:
        pct = rate / 100
        tax = tax_on_top_cents(net, pct)
        exact = Decimal(net) * Decimal(rate) / Decimal(10_000)
        self.assertEqual(tax, int(exact.quantize(Decimal(1), ROUND_HALF_UP)))
        self.assertEqual(tax_within_cents(net + tax, pct), tax)


MOVED = st.builds(
    Movement,
    what=st.sampled_from(What),
    cents=st.integers(0, 50_000),
    currency=st.sampled_from(["EUR", "JPY"]),
    credit_cents=st.integers(0, 9_000),
    tax_name=st.just("VAT"),
    tax_pct=st.sampled_from([0, 7, 19, 8.25]),
)


class Till(unittest.TestCase):
    def test_a_day_by_hand(self) -> None:
        """A sale of 129.90 with 10.00 deposit, a free replacement of 99.00, the first returned, the deposit of another given back."""
        (till,) = tills(
            [
                Movement(What.SOLD, 12990, "EUR", tax_name="VAT", tax_pct=19),
                Movement(What.DEPOSIT_TAKEN, 1000, "EUR"),
                Movement(What.SOLD, 0, "EUR", credit_cents=9900, tax_name="VAT", tax_pct=19),
                Movement(What.REFUNDED, 12990, "EUR", tax_name="VAT", tax_pct=19),
                Movement(What.DEPOSIT_BACK, 1000, "EUR"),
                Movement(What.DEPOSIT_BACK, 700, "EUR"),
            ],
            "EUR",
        )
        self.assertEqual(
            (till.at_prices, till.credited, till.sold, till.refunded, till.deposits_taken, till.deposits_back, till.cash),
            (22890, 9900, 12990, 12990, 1000, 1700, -700),
        )  # fmt: skip
        self.assertEqual(till.taxes, (("VAT", 19, 0),))

    def test_a_credit_whose_sale_is_taken_back_is_open_again(self) -> None:
        """Given free for 99.00, void, and another given: one credit was used, not two."""
        given = Movement(What.SOLD, 0, "EUR", credit_cents=9900)
        (till,) = tills([given, Movement(What.REFUNDED, 0, "EUR", credit_cents=9900), given], "EUR")
        self.assertEqual((till.credited, till.cash), (9900, 0))

    @settings(max_examples=300, deadline=None)
    @given(st.lists(MOVED, max_size=60))
    def test_any_mixture_adds_up_by_money(self, moved: list[Movement]) -> None:
        sign = {What.SOLD: 1, What.REFUNDED: -1, What.DEPOSIT_TAKEN: 1, What.DEPOSIT_BACK: -1}
        every = tills(moved, "EUR")
        self.assertEqual(every[0].currency, "EUR")
        for till in every:
            own = [one for one in moved if one.currency == till.currency]
            self.assertEqual(till.cash, sum((Decimal(sign[one.what]) * one.cents for one in own), Decimal(0)))
            self.assertEqual(till.at_prices - till.credited, till.sold)
            tax = sum(
                sign[one.what] * tax_within_cents(one.cents, one.tax_pct) for one in own if "deposit" not in one.what
            )
            self.assertEqual(sum(line.cents for line in till.taxes), tax)

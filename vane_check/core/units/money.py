"""Money in whole smallest units of its currency, called cents: the tax within a price or on top of it, and how many decimals it has."""

from fractions import Fraction

from ..tables import currencies


def tax_within_cents(gross_cents: int, tax_pct: float) -> int:
    """The tax [cents] within a price that includes it, at `tax_pct` percent, half a cent rounded up.

    Gross times rate over 100 plus rate, common practice. A negative price gives a negative tax of the same size.

    >>> tax_within_cents(12300, 23)
    2300
    >>> tax_within_cents(9999, 0)
    0
    """
    rate = Fraction(str(tax_pct))
    return _rounded(gross_cents, rate / (100 + rate))


def tax_on_top_cents(net_cents: int, tax_pct: float) -> int:
    """The tax [cents] that comes on top of a price without it, half a cent rounded up. Within net and tax together it is the same.

    >>> tax_on_top_cents(10000, 8.25)
    825
    """
    return _rounded(net_cents, Fraction(str(tax_pct)) / 100)


def _rounded(cents: int, share: Fraction) -> int:
    whole = int(abs(cents) * share + Fraction(1, 2))
    return whole if cents >= 0 else -whole


def decimals_of(currency: str) -> int:
    """How many decimals a money has: 2 where nobody knows it, as most have.

    >>> decimals_of("JPY"), decimals_of("EUR"), decimals_of("KWD")
    (0, 2, 3)
    """
    return currencies().get(currency, 2)

"""Money in whole cents: the tax that is within a price."""

from fractions import Fraction


def tax_within_cents(gross_cents: int, tax_pct: float) -> int:
    """The tax [cents] within a price that includes it, at `tax_pct` percent, half a cent rounded up.

    Gross times rate over 100 plus rate, common practice. A negative price gives a negative tax of the same size.

    >>> tax_within_cents(12300, 23)
    2300
    >>> tax_within_cents(9999, 0)
    0
    """
    rate = Fraction(str(tax_pct))
    exact = abs(gross_cents) * rate / (100 + rate)
    cents = int(exact + Fraction(1, 2))
    return cents if gross_cents >= 0 else -cents

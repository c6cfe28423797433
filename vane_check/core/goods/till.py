"""The till of a day: what was sold, credited, given back, deposits in and out, tax by rate, and the cash to be expected."""

from collections.abc import Iterable
from enum import StrEnum
from typing import NamedTuple

from ..units.money import tax_within_cents


class What(StrEnum):
    """What moved money: each act does one or more of these."""

    SOLD = "sold"
    REFUNDED = "refunded"
    DEPOSIT_TAKEN = "deposit_taken"
    DEPOSIT_BACK = "deposit_back"


class Movement(NamedTuple):
    """Money that moved: never below 0, `what` says which way. `credit_cents` is what came off a price before it was paid, and is open
    again where that sale is taken back."""

    what: What
    cents: int
    currency: str
    credit_cents: int = 0
    tax_name: str = ""
    tax_pct: float = 0


class TaxLine(NamedTuple):
    """The tax at a rate within what was sold, less what was given back [cents]."""

    name: str
    pct: float
    cents: int


class Till(NamedTuple):
    """The sums of one money [cents of it]. `at_prices` less `credited` is `sold`; `cash` is what the drawer has more than before."""

    currency: str
    at_prices: int
    credited: int
    sold: int
    refunded: int
    deposits_taken: int
    deposits_back: int
    taxes: tuple[TaxLine, ...]

    @property
    def cash(self) -> int:
        """Sold less given back, deposits in less out. However it was paid: what was paid by card is in it."""
        return self.sold - self.refunded + self.deposits_taken - self.deposits_back


def tills(movements: Iterable[Movement], home: str) -> tuple[Till, ...]:
    """The sums by money, the shop's own first and always. Tax is that of each act, as on its paper, so that papers add up to it."""
    by_money: dict[str, list[Movement]] = {home: []}
    for movement in movements:
        by_money.setdefault(movement.currency, []).append(movement)
    return tuple(_till(currency, moved) for currency, moved in by_money.items())


def _till(currency: str, moved: list[Movement]) -> Till:
    def total(what: What) -> int:
        return sum(one.cents for one in moved if one.what is what)

    taxes: dict[tuple[str, float], int] = {}
    for one in moved:
        if one.what in (What.SOLD, What.REFUNDED) and one.tax_pct:
            sign = 1 if one.what is What.SOLD else -1
            rate = (one.tax_name, one.tax_pct)
            taxes[rate] = taxes.get(rate, 0) + sign * tax_within_cents(one.cents, one.tax_pct)
    credits = {What.SOLD: 1, What.REFUNDED: -1}
    credited = sum(credits.get(one.what, 0) * one.credit_cents for one in moved)
    return Till(
        currency=currency, at_prices=total(What.SOLD) + credited, credited=credited, sold=total(What.SOLD), refunded=total(What.REFUNDED),
        deposits_taken=total(What.DEPOSIT_TAKEN), deposits_back=total(What.DEPOSIT_BACK),
        taxes=tuple(TaxLine(name, pct, cents) for (name, pct), cents in taxes.items()),
    )  # fmt: skip

"""The tax within prices: what it is called and how much, as it was when something was written."""

from pydantic import BaseModel

from ..core.words import Words, digits, fixed, say
from ..records import house
from .desk import Desk


class Tax(BaseModel):
    """A tax of `pct` percent within every price; 0 is none."""

    name: str = ""
    pct: float = 0

    @property
    def words(self) -> Words:
        """As it stands on papers, such as `VAT 23 %`."""
        return say("figures.name_pct", name=self.name, pct=digits(self.pct))


def tax_now(desk: Desk) -> Tax:
    """The store's tax as it is set now."""
    store = house.settings_now(desk.session, desk.staff.store_id)
    return Tax(name=store.tax_name, pct=store.tax_pct)


def money(cents: int, currency: str) -> Words:
    """An amount as it stands on papers."""
    return say("figures.cents_currency", cents=fixed(cents / 100, 2), currency=currency)

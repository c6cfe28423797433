"""The tax of a price: what it is called, how much, within it or on top, as it was when something was written."""

from pydantic import BaseModel

from ..core.units.money import decimals_of, tax_on_top_cents, tax_within_cents
from ..core.words import Words, digits, fixed, say
from ..records import house
from ..records.models import CatalogueItem
from .desk import Desk


class Tax(BaseModel):
    """A tax of `pct` percent within every price, or on top of it; 0 is none."""

    name: str = ""
    pct: float = 0
    on_top: bool = False

    @property
    def words(self) -> Words:
        """As it stands on papers, such as `VAT 23 %`."""
        return say("figures.name_pct", name=self.name, pct=digits(self.pct))

    def on_top_cents(self, price_cents: int) -> int:
        """What comes on top of a price as the shop writes it [cents]; 0 where prices have it within."""
        return tax_on_top_cents(price_cents, self.pct) if self.on_top else 0

    def within_cents(self, paid_cents: int) -> int:
        """The tax within what was paid [cents]."""
        return tax_within_cents(paid_cents, self.pct)


def tax_now(desk: Desk, item: CatalogueItem | None = None) -> Tax:
    """The tax an item is sold at now: the shop's first, or the further one the item names."""
    store = house.settings_now(desk.session, desk.staff.store_id)
    further = next((each for each in store.more_taxes if item is not None and each["name"] == item.tax_name), None)
    if further is not None:
        return Tax(name=further["name"], pct=further["pct"], on_top=store.tax_on_top)
    return Tax(name=store.tax_name, pct=store.tax_pct, on_top=store.tax_on_top)


def money(cents: int, currency: str) -> Words:
    """An amount as it stands on papers, with as many decimals as its money has."""
    decimals = decimals_of(currency)
    return say("figures.cents_currency", cents=fixed(cents / 10**decimals, decimals), currency=currency)

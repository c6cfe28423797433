"""A piece in stock: when it is due for a look at its volts or for a charge, and whether it may still be sold as new."""

from datetime import date, timedelta
from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field

from ..battery.label import Chemistry
from ..facts.state_of_charge import state_of_charge_pct
from ..house.rules import HouseRules
from ..units.compare import PERCENT, under
from ..units.model import Day, Model
from ..units.months import whole_months_between
from ..words import Words, dated, fixed, say

DAYS_PER_MONTH = 365.25 / 12


class Due(StrEnum):
    """What a piece asks for, the most pressing first."""

    REFUSED = "refused"
    FILL = "fill"
    CHARGE = "charge"
    VOLTS = "volts"
    NOTHING = "nothing"


class PieceFacts(Model):
    """What is known of a piece: dates of arrival, making, filling, last charge, last look at its volts."""

    chemistry: Chemistry
    nominal_volts: int = 12
    arrived_on: Day
    made_on: Day | None = None
    dry_charged: bool = False
    filled_on: Day | None = None
    charged_on: Day | None = None
    last_volts: float | None = None
    last_volts_on: Day | None = None
    price_cents: int = Field(0, ge=0)


class PieceState(BaseModel):
    """How a piece stands today: what is due and why, how long it stood uncharged [months], and what it may cost."""

    model_config = ConfigDict(frozen=True)

    due: Due
    why: Words
    due_on: date | None
    uncharged_months: float
    months_in_stock: float
    is_dry: bool
    reduced: bool
    refused: bool
    price_cents: int


def fresh_from(facts: PieceFacts) -> date:
    """The day from which it has stood: its last charge, its filling, its making, else its arrival."""
    made = facts.filled_on if facts.dry_charged else facts.made_on
    return max((day for day in (made, facts.charged_on) if day is not None), default=facts.arrived_on)


def state_of(facts: PieceFacts, today: date, rules: HouseRules) -> PieceState:
    """How a piece stands. Months are counted in days, a month being a twelfth of a year."""
    dry = facts.dry_charged and facts.filled_on is None
    since = (facts.made_on or facts.arrived_on) if dry else fresh_from(facts)
    stood = (today - since).days / DAYS_PER_MONTH
    due, why, due_on = _due(facts, today, stood, dry, rules)
    refused = due is Due.REFUSED
    reduced = not refused and not dry and stood >= rules.stock.reduced_months.value
    off = rules.stock.reduced_pct.value / 100 if reduced else 0
    return PieceState(
        due=due, why=why, due_on=due_on, uncharged_months=0 if dry else round(stood, 1),
        months_in_stock=whole_months_between(facts.arrived_on, today), is_dry=dry, reduced=reduced, refused=refused,
        price_cents=round(facts.price_cents * (1 - off)),
    )  # fmt: skip


def _due(facts: PieceFacts, today: date, stood: float, dry: bool, rules: HouseRules) -> tuple[Due, Words, date | None]:
    if dry:
        left = rules.stock.dry_charged_months.value - stood
        if left <= 0:
            return Due.FILL, say("pieces.dry_charged_months_ago_fill_and_charge_it", count=round(stood)), today
        return Due.NOTHING, say("pieces.dry_charged_keeps_months_more", count=round(left)), None
    if stood >= rules.stock.uncharged_months.value:
        return Due.REFUSED, say("pieces.stood_months_uncharged_not_sold_as_new", count=round(stood)), None
    if facts.last_volts is None or facts.last_volts_on is None:
        return Due.VOLTS, say("pieces.nobody_has_read_its_volts_since_it_came"), today
    charge = state_of_charge_pct(facts.last_volts, facts.chemistry, facts.nominal_volts)
    charged_since = facts.charged_on is not None and facts.charged_on > facts.last_volts_on
    if not charged_since and under(charge, rules.rest.charged_to_hand_over_soc_pct.value, PERCENT):
        return (
            Due.CHARGE,
            say("pieces.stood_at_v_charged", last_volts=fixed(facts.last_volts, 2), charge=fixed(charge, 0)),
            today,
        )
    every = timedelta(days=rules.stock.check_months.value[facts.chemistry.value] * DAYS_PER_MONTH)
    looked = max(facts.last_volts_on, facts.charged_on or facts.last_volts_on)
    due_on = looked + every
    if due_on <= today:
        return Due.VOLTS, say("pieces.last_looked_at_on", looked=dated(looked, "%-d %b %Y")), due_on
    return Due.NOTHING, say("pieces.next_look_on", due_on=dated(due_on, "%-d %b %Y")), due_on

"""What every desk works with: the open transaction, the store, the person; and the errors desks can give."""

from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property
from weakref import WeakKeyDictionary
from zoneinfo import ZoneInfo

from pydantic import BaseModel

from ..core.house.equipment import reached_with
from ..core.house.rules import HouseRules, rules_from
from ..core.readings.faults import FieldProblem
from ..core.words import Words, say
from ..records import house, people, rack
from ..records.base import StoreSession
from ..records.models import EquipmentRow, Staff, Store

OWNER = "owner"
LEADS = frozenset({"lead", OWNER})


class NotThere(LookupError):
    """Nothing of that name in this store."""


class Refused(ValueError):
    """What was asked cannot be done; `problems` name the fields that are wrong."""

    def __init__(self, message: Words, problems: list[FieldProblem] | None = None) -> None:
        super().__init__(message)
        self.problems = problems or []


class Conflict(ValueError):
    """Somebody was there first; `theirs` is what they wrote, to be laid beside one's own."""

    def __init__(self, message: Words, theirs: BaseModel | None = None) -> None:
        super().__init__(message)
        self.theirs = theirs


_READ_RULES: WeakKeyDictionary[object, dict[int, HouseRules]] = WeakKeyDictionary()
"""By database, then by version."""


@dataclass
class Desk:
    """A signed-in person at work in one transaction, kept to their store."""

    session: StoreSession
    staff: Staff

    @cached_property
    def store(self) -> Store:
        """The person's store."""
        return people.store_of(self.session, self.staff.store_id)

    @cached_property
    def zone(self) -> ZoneInfo:
        """The store's time zone: its days, months and papers go by it."""
        return ZoneInfo(self.store.time_zone)

    def today(self, now: datetime) -> date:
        """The day it is in the store."""
        return now.astimezone(self.zone).date()

    @cached_property
    def has_owner(self) -> bool:
        """Whether somebody owns the house; one older than the role is changed by its leads."""
        return any(person.role == OWNER and person.left_at is None for person in house.everybody(self.session))

    @cached_property
    def rules_id(self) -> int:
        """Which version of the rules is in force."""
        return people.newest_rules_id(self.session)

    @property
    def rules(self) -> HouseRules:
        """The rules in force. A version never changes once kept, so it is read once for all desks of the process."""
        read = _READ_RULES.setdefault(self.session.get_bind(), {})
        if self.rules_id not in read:
            read[self.rules_id] = rules_from(people.rules_of(self.session, self.rules_id).body)
        return read[self.rules_id]

    @cached_property
    def equipment(self) -> Sequence[EquipmentRow]:
        """The book of equipment."""
        return rack.equipment(self.session)

    @property
    def at_hand(self) -> tuple[str, ...] | None:
        """What this shop can reach by its book; None while nothing stands in it, then its rules say."""
        rows = self.equipment
        if not rows:
            return None
        book = ((row.kind, row.tool, row.state == "in_use") for row in rows)
        return reached_with(book, self.rules.steps.tools_at_hand.value)

    def forget_equipment(self) -> None:
        """The book was written in: read it again when it is asked for."""
        with suppress(AttributeError):  # nobody had asked for it
            del self.equipment

    def forget_rules(self) -> None:
        """Another version may be in force: look again when it is asked for."""
        with suppress(AttributeError):
            del self.rules_id

    def after_commit(self, do: Callable[[], None]) -> None:
        """Do something once this transaction is kept; never when it is not."""
        self.session.after_commit(do)

    @property
    def is_lead(self) -> bool:
        """Whether the person may change rules, prices and people: a lead or an owner."""
        return self.staff.role in LEADS

    def only_lead(self) -> None:
        """Refuse anybody but a lead or an owner."""
        if not self.is_lead:
            raise PermissionError(say("desk.only_a_lead_can_do_this"))

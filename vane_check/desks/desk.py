"""What every desk works with: the open transaction, the store, the person; and the errors desks can give."""

from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property
from weakref import WeakKeyDictionary
from zoneinfo import ZoneInfo

from pydantic import BaseModel

from ..core.faults import FieldProblem
from ..core.rules import HouseRules, kept_rules
from ..records import people
from ..records.base import StoreSession
from ..records.models import Staff, Store


class NotThere(LookupError):
    """Nothing of that name in this store."""


class Refused(ValueError):
    """What was asked cannot be done; `problems` name the fields that are wrong."""

    def __init__(self, message: str, problems: list[FieldProblem] | None = None) -> None:
        super().__init__(message)
        self.problems = problems or []


class Conflict(ValueError):
    """Somebody was there first; `theirs` is what they wrote, to be laid beside one's own."""

    def __init__(self, message: str, theirs: BaseModel | None = None) -> None:
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
    def rules_id(self) -> int:
        """Which version of the rules is in force."""
        return people.newest_rules_id(self.session)

    @property
    def rules(self) -> HouseRules:
        """The rules in force. A version never changes once kept, so it is read once for all desks of the process."""
        read = _READ_RULES.setdefault(self.session.get_bind(), {})
        if self.rules_id not in read:
            read[self.rules_id] = kept_rules(people.rules_of(self.session, self.rules_id).body)
        return read[self.rules_id]

    def only_lead(self) -> None:
        """Refuse anybody but a lead."""
        if self.staff.role != "lead":
            raise PermissionError("only a lead can do this")

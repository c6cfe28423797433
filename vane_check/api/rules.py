"""What every page asks once, the house rules, the vehicle list, date codes."""

from typing import Annotated

from fastapi import APIRouter, Query

from ..core.battery.date_codes import DateCandidate, date_candidates
from ..core.units.model import Day, ShortText
from ..desks import house, rules
from ..desks.idempotency import once
from ..desks.views import ListedCar
from .asks import KnownSessions, Typed
from .problems import SIGNED_IN, WRITE
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/reference", tags=["house"])
def reference(desk: AtDesk) -> house.Reference:
    """Everything that changes seldom, in one answer."""
    return house.reference(desk)


@router.get("/rules", tags=["house"])
def house_rules(desk: AtDesk) -> rules.RulesView:
    """The rules in force with every source, the presets and the versions before."""
    return rules.view(desk)


@router.post("/rules", status_code=201, tags=["house"], responses=WRITE)
def change_rules(
    body: rules.NewRules, desk: AtDesk, now: Now, write: WriteId, signed_in: KnownSessions
) -> rules.RulesView:
    """Make a new version of the house's rules. Only a lead may."""
    once(desk, write, "rules", body, lambda: rules.change(desk, body, now))
    signed_in.forget()
    return rules.view(desk)


@router.get("/vehicles", tags=["house"])
def vehicles(desk: AtDesk, text: Typed = "") -> list[ListedCar]:
    """Cars of the list whose name holds every word typed."""
    return house.cars(desk, text)


@router.get("/date-codes", tags=["house"])
def date_codes(
    desk: AtDesk,
    now: Now,
    code: Annotated[ShortText, Query(max_length=12)],
    sold_on: Annotated[Day | None, Query()] = None,
) -> list[DateCandidate]:
    """What a date code may mean, the most plausible first."""
    return date_candidates(code, desk.today(now), sold_on)

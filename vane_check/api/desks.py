"""The desks' routes: counter, check, match, warranty, records, slip, and what every page asks once."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel

from ..core.check import CheckFile, CheckRefused, impossible_values
from ..core.judgement import Judgement, assess
from ..core.labels import DateCandidate, date_candidates
from ..core.readings import AnyReading
from ..desks import check, counter, house, match, records, rules, slip, warranty
from ..desks.views import ShelfBattery
from .signed_in import AtDesk, Now

router = APIRouter()

MOST = 2**31 - 1
"""No tag or number of a row goes beyond what the database counts in."""

TagPath = Annotated[int, Path(ge=0, le=MOST)]


@router.get("/reference", tags=["house"])
def reference(desk: AtDesk) -> house.Reference:
    """Everything that changes seldom, in one answer."""
    return house.reference(desk)


@router.get("/rules", tags=["house"])
def house_rules(desk: AtDesk) -> rules.RulesView:
    """The rules in force with every source, the presets and the versions before."""
    return rules.view(desk)


@router.post("/rules", status_code=201, tags=["house"])
def change_rules(asked: rules.NewRules, desk: AtDesk, now: Now) -> rules.RulesView:
    """Make a new version of the house's rules. Only a lead may."""
    return rules.change(desk, asked, now)


@router.get("/date-codes", tags=["house"])
def date_codes(
    desk: AtDesk, now: Now, code: Annotated[str, Query(max_length=12)], sold_on: Annotated[date | None, Query()] = None
) -> list[DateCandidate]:
    """What a date code may mean, the most plausible first."""
    return date_candidates(code, now.date(), sold_on)


class Tag(BaseModel):
    """The tag a battery was given."""

    tag: int


@router.get("/shelf", tags=["counter"])
def shelf(desk: AtDesk) -> list[ShelfBattery]:
    """Every battery in the house."""
    return counter.shelf(desk)


@router.post("/batteries", status_code=201, tags=["counter"])
def take_in(written: counter.TakeIn, desk: AtDesk, now: Now) -> Tag:
    """Take a battery in; it is given a tag."""
    return Tag(tag=counter.take_in(desk, written, now))


@router.put("/batteries/{tag}", tags=["counter"])
def correct_take_in(tag: TagPath, written: counter.TakeIn, desk: AtDesk, now: Now) -> check.CheckView:
    """Correct the take-in; the earlier one stays readable. What was read is judged again."""
    counter.correct_take_in(desk, tag, written, now)
    check.judge_again(desk, tag, now)
    return check.view(desk, tag)


@router.put("/batteries/{tag}/place", tags=["counter"])
def put(tag: TagPath, there: counter.PutThere, desk: AtDesk, now: Now) -> check.CheckView:
    """Put a battery somewhere."""
    counter.put(desk, tag, there, now)
    return check.view(desk, tag)


@router.get("/batteries/{tag}", tags=["check"])
def battery(tag: TagPath, desk: AtDesk) -> check.CheckView:
    """One battery with its readings and judgement."""
    return check.view(desk, tag)


@router.post("/batteries/{tag}/readings", status_code=201, tags=["check"])
def keep_reading(tag: TagPath, reading: AnyReading, desk: AtDesk, now: Now) -> check.CheckView:
    """Keep a reading; sent twice under one name it is kept once."""
    return check.keep_reading(desk, tag, reading, now)


@router.get("/batteries/{tag}/check-file", tags=["check"])
def check_file(tag: TagPath, desk: AtDesk) -> CheckFile:
    """The check in the open format."""
    return check.check_file(desk, tag)


@router.post("/assess", tags=["check"])
def assess_check(body: CheckFile, desk: AtDesk) -> Judgement:
    """Judge a check file under the house's rules without keeping anything."""
    if problems := impossible_values(body):
        raise CheckRefused(problems)
    return assess(body, desk.rules)


@router.get("/batteries/{tag}/match", tags=["match"])
def match_battery(tag: TagPath, desk: AtDesk) -> match.MatchView:
    """What replaces a battery."""
    return match.for_battery(desk, tag)


@router.get("/vehicles/{vehicle_id}/match", tags=["match"])
def match_vehicle(vehicle_id: TagPath, desk: AtDesk) -> match.MatchView:
    """What fits a vehicle."""
    return match.for_vehicle(desk, vehicle_id)


@router.post("/match", tags=["match"])
def match_requirement(asked: match.Asked, desk: AtDesk) -> match.MatchView:
    """What fits a requirement as typed. Nothing is kept."""
    return match.for_requirement(desk, asked)


@router.get("/batteries/{tag}/warranty", tags=["warranty"])
def look_up_warranty(
    tag: TagPath, desk: AtDesk, now: Now, replacement_id: Annotated[int | None, Query(ge=0, le=MOST)] = None
) -> warranty.WarrantyView:
    """What the warranty gives."""
    return warranty.look_up(desk, tag, replacement_id, now.date())


@router.post("/batteries/{tag}/claim", status_code=201, tags=["warranty"])
def write_claim(tag: TagPath, asked: warranty.WriteClaim, desk: AtDesk, now: Now) -> warranty.WarrantyView:
    """Write the claim."""
    return warranty.write_claim(desk, tag, asked, now)


@router.get("/batteries/{tag}/life", tags=["records"])
def life(tag: TagPath, desk: AtDesk) -> records.Life:
    """Everything kept of one battery."""
    return records.life(desk, tag)


@router.get("/checks", tags=["records"])
def past_checks(desk: AtDesk, text: Annotated[str, Query(max_length=80)] = "") -> list[records.PastCheck]:
    """The newest checks."""
    return records.past_checks(desk, text)


@router.get("/batteries/{tag}/slip.pdf", tags=["slip"], response_class=Response)
def slip_pdf(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The customer's slip."""
    paper = slip.slip_pdf(desk, tag, now)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="slip-{tag}.pdf"'}
    )

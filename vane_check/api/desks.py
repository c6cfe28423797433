"""The desks' routes: counter, check, match, warranty, records, slip, and what every page asks once."""

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request, Response

from ..core.battery.codes import CodeRead
from ..core.battery.date_codes import DateCandidate, date_candidates
from ..core.matching.photo import Marks, TrayFound
from ..core.readings import AnyReading
from ..core.readings.check import CheckFile
from ..core.units.model import Day, Model, ShortText
from ..desks import check, counter, house, match, rack_tag, records, reminders, rules, slip, warranty
from ..desks.counter import MOST
from ..desks.erasure import erase_customer as erase
from ..desks.idempotency import once
from ..desks.match_claims import AskMatch, code_read
from ..desks.views import ListedCar, ShelfBattery
from ..papers.rack_tag import TagSize
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE, documented_responses
from .signed_in import AtDesk, AtKnownDesk, Now, SignedIn, WriteId, as_json

router = APIRouter(prefix="/api", responses=SIGNED_IN)

TagPath = Annotated[int, Path(ge=0, le=MOST)]
Typed = Annotated[ShortText, Query(max_length=80)]
PAGES_AT_MOST = 1000


def known_sessions(request: Request) -> SignedIn:
    """The sessions this process knows."""
    found: SignedIn = request.app.state.signed_in
    return found


KnownSessions = Annotated[SignedIn, Depends(known_sessions)]


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
    asked: rules.NewRules, desk: AtDesk, now: Now, write: WriteId, signed_in: KnownSessions
) -> rules.RulesView:
    """Make a new version of the house's rules. Only a lead may."""
    once(desk, write, "rules", asked, lambda: rules.change(desk, asked, now))
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


@router.get("/shelf", tags=["counter"])
def shelf(desk: AtDesk) -> list[ShelfBattery]:
    """Every battery in the house."""
    return counter.shelf(desk)


LookedAgain = Annotated[bool, Query(description="somebody looked at the label again and stands by it")]


@router.post("/batteries", status_code=201, tags=["counter"], responses=WRITE)
def take_in(
    written: counter.TakeIn, desk: AtDesk, now: Now, write: WriteId, label_is_right: LookedAgain = False
) -> check.CheckView:
    """Take a battery in; it is given a tag."""
    tag = once(desk, write, "take-in", written, lambda: counter.take_in(desk, written, now, label_is_right))
    assert tag is not None
    return check.view(desk, tag)


@router.put("/batteries/{tag}", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def correct_take_in(
    tag: TagPath,
    written: counter.CorrectTakeIn,
    desk: AtDesk,
    now: Now,
    write: WriteId,
    label_is_right: LookedAgain = False,
) -> check.CheckView:
    """Correct the take-in; the earlier one stays readable. What was read is judged again."""

    def correct() -> int:
        counter.correct_take_in(desk, tag, written, now, label_is_right)
        check.judge_again(desk, tag, now)
        return tag

    once(desk, write, f"correction {tag}", written, correct)
    return check.view(desk, tag)


@router.put("/batteries/{tag}/place", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def put(tag: TagPath, there: counter.PutThere, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Put a battery somewhere."""
    once(desk, write, f"put {tag}", there, lambda: counter.put(desk, tag, there, now))
    return check.view(desk, tag)


class NoMore(Model):
    """Nothing more is to be said."""


@router.post("/batteries/{tag}/undo", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def undo_take_in(tag: TagPath, body: NoMore, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Take back a take-in made by mistake, while nothing was read of it."""
    once(desk, write, f"undo {tag}", body, lambda: counter.undo_take_in(desk, tag, now))
    return check.view(desk, tag)


@router.post("/batteries/{tag}/erase-customer", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def erase_customer(tag: TagPath, asked: NoMore, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Take name, phone and plate of whom this battery is for away, everywhere. Only a lead may; it stays on record."""
    once(desk, write, f"erase {tag}", asked, lambda: erase(desk, tag, now))
    return check.view(desk, tag)


@router.get("/batteries/{tag}", tags=["check"], responses=OF_A_BATTERY)
def battery(tag: TagPath, desk: AtDesk) -> check.CheckView:
    """One battery with its readings and judgement."""
    return check.view(desk, tag)


@router.post("/batteries/{tag}/readings", status_code=201, tags=["check"], responses={**WRITE, **OF_A_BATTERY})
def keep_reading(
    tag: TagPath,
    reading: AnyReading,
    desk: AtDesk,
    now: Now,
    time_is_right: Annotated[bool, Query(description="somebody stands by an unlikely time")] = False,
) -> check.CheckView:
    """Keep a reading; sent twice under one name it is kept once."""
    return check.keep_reading(desk, tag, reading, now, time_is_right)


@router.get("/batteries/{tag}/check-file", tags=["check"], responses=OF_A_BATTERY)
def check_file(tag: TagPath, desk: AtDesk) -> CheckFile:
    """The check in the open format."""
    return check.check_file(desk, tag)


@router.get("/batteries/{tag}/match", tags=["match"], response_model=match.MatchView, responses=OF_A_BATTERY)
def match_battery(tag: TagPath, open_desk: AtKnownDesk, now: Now) -> Response:
    """What replaces a battery."""
    with open_desk() as desk:
        return as_json(match.for_battery(desk, tag, now))


@router.get("/vehicles/{vehicle_id}/match", tags=["match"], response_model=match.MatchView, responses=OF_A_BATTERY)
def match_vehicle(vehicle_id: TagPath, open_desk: AtKnownDesk, now: Now) -> Response:
    """What fits a vehicle of the list."""
    with open_desk() as desk:
        return as_json(match.for_vehicle(desk, vehicle_id, now))


@router.post("/match", tags=["match"], response_model=match.MatchView, responses=documented_responses(403, 404))
def match_known(asked: AskMatch, open_desk: AtKnownDesk, now: Now) -> Response:
    """What fits what is known: a battery, a car, a code, the tape, the owner's needs. Nothing is kept."""
    with open_desk() as desk:
        return as_json(match.ask(desk, asked, now))


@router.post("/match/others", tags=["match"], response_model=match.Others, responses=documented_responses(403, 404))
def match_others(asked: AskMatch, open_desk: AtKnownDesk) -> Response:
    """Why the rest of the catalogue does not fit, counted by reason."""
    with open_desk() as desk:
        return as_json(match.others(desk, asked))


@router.post("/match/photo", tags=["match"], responses=documented_responses(403))
def measure_photo(marks: Marks, desk: AtDesk) -> TrayFound:
    """A tray's length and width from corners marked in a photo, which stays where it was taken. Nothing is kept."""
    return match.tray_in_photo(marks)


@router.get("/codes", tags=["match"])
def codes(desk: AtDesk, text: Typed) -> CodeRead:
    """What a code on a label or in a list says."""
    return code_read(desk, text)


@router.get("/batteries/{tag}/warranty", tags=["warranty"], responses=OF_A_BATTERY)
def look_up_warranty(
    tag: TagPath, desk: AtDesk, now: Now, replacement_id: Annotated[int | None, Query(ge=0, le=MOST)] = None
) -> warranty.WarrantyView:
    """What the warranty gives."""
    return warranty.look_up(desk, tag, replacement_id, now)


@router.post("/batteries/{tag}/claim", status_code=201, tags=["warranty"], responses={**WRITE, **OF_A_BATTERY})
def write_claim(
    tag: TagPath, asked: warranty.WriteClaim, desk: AtDesk, now: Now, write: WriteId
) -> warranty.WarrantyView:
    """Write the claim."""
    once(desk, write, f"claim {tag}", asked, lambda: warranty.write_claim(desk, tag, asked, now))
    return warranty.look_up(desk, tag, asked.replacement_id, now)


@router.get("/batteries/{tag}/life", tags=["records"], responses=OF_A_BATTERY)
def life(tag: TagPath, desk: AtDesk) -> records.Life:
    """Everything kept of one battery."""
    return records.life(desk, tag)


@router.get("/checks", tags=["records"])
def past_checks(
    desk: AtDesk, text: Typed = "", page: Annotated[int, Query(ge=0, le=PAGES_AT_MOST)] = 0
) -> records.PastChecks:
    """The newest checks, a page at a time."""
    return records.past_checks(desk, text, page)


@router.get("/batteries/{tag}/slip.pdf", tags=["slip"], responses=OF_A_BATTERY, response_class=Response)
def slip_pdf(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The customer's slip."""
    paper = slip.slip_pdf(desk, tag, now)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="slip-{tag}.pdf"'}
    )


@router.get("/batteries/{tag}/rack-tag.pdf", tags=["rack"], responses=OF_A_BATTERY, response_class=Response)
def rack_tag_pdf(tag: TagPath, desk: AtDesk, now: Now, request: Request, size: TagSize = "rack") -> Response:
    """The tag that hangs on a battery at the rack: number, what to set, when it is due, a code that opens it."""
    paper = rack_tag.rack_tag_pdf(desk, tag, str(request.base_url), now, size)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="tag-{tag}.pdf"'}
    )


@router.get("/batteries/{tag}/retest.ics", tags=["rack"], responses=OF_A_BATTERY, response_class=Response)
def retest_ics(tag: TagPath, desk: AtDesk, request: Request) -> Response:
    """The day a watched battery is tested again, as iCalendar."""
    return Response(
        reminders.of_battery(desk, tag, str(request.base_url)), media_type=CALENDAR,
        headers={"Content-Disposition": f'attachment; filename="retest-{tag}.ics"'},
    )  # fmt: skip


CALENDAR = "text/calendar; charset=utf-8"


@router.get("/calendar", tags=["rack"], responses=documented_responses(403))
def calendar(desk: AtDesk, request: Request) -> reminders.CalendarView:
    """The secret address of the shop's calendar. Only a lead may see it."""
    return reminders.address(desk, str(request.base_url))


@router.post("/calendar", status_code=201, tags=["rack"], responses=WRITE)
def renew_calendar(
    asked: reminders.Renewal, desk: AtDesk, request: Request, write: WriteId, signed_in: KnownSessions
) -> reminders.CalendarView:
    """A new secret address: whoever has the old one sees nothing more. Only a lead may."""
    once(desk, write, "calendar", asked, lambda: reminders.renew(desk))
    signed_in.forget()
    return reminders.address(desk, str(request.base_url))

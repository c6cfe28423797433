"""The master's own word: an outcome said otherwise, with its reason, and remarks in free words. The judgement stays beside it."""

from datetime import datetime, timedelta
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, Field, StringConstraints

from ..core.findings.outcomes import Outcome
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, printable_lines
from ..core.words import Words, say, words_of
from ..records import batteries, remarks
from ..records.models import CheckRow, JudgementRow, OwnCall, Remark
from .counter import battery_or_refused
from .desk import Desk, Refused
from .views import announce_battery

FreeWords = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=600), AfterValidator(printable_lines)
]
YEAR_DAYS = 365


class Say(Model):
    """Something said of a battery. An own call has its outcome, or none to take the last one back, and always its reason."""

    what: Literal["remark", "story", "own_call"]
    text: FreeWords
    outcome: Outcome | None = None


class OwnCallView(BaseModel):
    """What somebody says otherwise; `judged` is what it stands beside, and whether that still is the judgement."""

    outcome: Outcome
    reason: str
    who: str
    at: datetime
    judged: Words
    still_judged: bool


class RemarkView(BaseModel):
    """A remark, or the customer's words."""

    what: Literal["remark", "story"]
    text: str
    who: str
    at: datetime


class CallCount(BaseModel):
    """How often one outcome was said where another was judged, in the last year."""

    judged: Outcome
    called: Outcome
    times: int = Field(ge=1)


def say_it(desk: Desk, tag: int, said: Say, now: datetime) -> None:
    """Keep what somebody says. Raises Refused where nothing was judged yet, or the same was judged."""
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    if said.what != "own_call":
        desk.session.add(
            Remark(check_id=check.id, staff_id=desk.staff.id, written_at=now, what=said.what, text=said.text)
        )
    else:
        kept = batteries.latest_judgement(desk.session, check.id)
        if kept is None:
            told = say("remarks.nothing_is_judged_yet")
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem("outcome", told)])
        if said.outcome is not None and said.outcome.value == kept.outcome:
            told = say("remarks.that_is_what_is_judged")
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem("outcome", told)])
        standing = remarks.own_call(desk.session, check.id)
        if said.outcome is None and standing is None:
            told = say("remarks.pick_what_you_say")
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem("outcome", told)])
        desk.session.add(
            OwnCall(
                check_id=check.id, judgement_id=kept.id, staff_id=desk.staff.id, written_at=now, reason=said.text,
                outcome=said.outcome.value if said.outcome else None,
            )
        )  # fmt: skip
    desk.session.flush()
    announce_battery(desk, row, check.id)


def own_call_of(desk: Desk, check: CheckRow) -> OwnCallView | None:
    """What stands beside the judgement of a visit."""
    call = remarks.own_call(desk.session, check.id)
    if call is None:
        return None
    judged = desk.session.get_one(JudgementRow, call.judgement_id)
    newest = batteries.latest_judgement(desk.session, check.id)
    return OwnCallView(
        outcome=Outcome(call.outcome or ""), reason=call.reason, who=call.staff.name, at=call.written_at, judged=words_of(judged.body["headline"]),
        still_judged=newest is not None and newest.outcome == judged.outcome,
    )  # fmt: skip


def remarks_of(desk: Desk, check: CheckRow) -> list[RemarkView]:
    """What was remarked at a visit, in order."""
    return [
        RemarkView.model_validate({"what": row.what, "text": row.text, "who": row.staff.name, "at": row.written_at})
        for row in remarks.remarks_of(desk.session, check.id)
    ]


def counts(desk: Desk, now: datetime) -> list[CallCount]:
    """How often the house said otherwise in the last year, the most frequent first."""
    since = now - timedelta(days=YEAR_DAYS)
    return [
        CallCount(judged=Outcome(judged), called=Outcome(called), times=times)
        for judged, called, times in remarks.calls_since(desk.session, since)
    ]

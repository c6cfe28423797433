"""The claim pack: everything a maker asks, as it was when the claim was written."""

from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from ..core.goods.returns import papers_with_own_call
from ..core.goods.warranty import COUNTED_FROM
from ..core.words import NOTHING, Day, Text, Words, as_written, dated, digits, in_a_row, say, word, words_of
from ..papers.claim_pack import ClaimPack, claim_pack
from ..records import batteries
from ..records.models import Staff
from .counter import battery_or_refused
from .desk import Desk, NotThere
from .paper_language import in_its_language
from .papers import head_now
from .slip import claimed_sum


@in_its_language
def claim_pdf(desk: Desk, tag: int) -> bytes:
    """The claim of a battery as it was written, whatever was read or changed since. Raises NotThere without one."""
    row = battery_or_refused(desk, tag)
    claim = batteries.claim_of(desk.session, row.id)
    if claim is None:
        raise NotThere(say("papers.no_claim_was_written_for_tag", tag=tag))
    # by the names it was kept under: a claim of an older release has what that release knew
    seen, answer, terms = claim.body["evidence"], claim.body["answer"], claim.body.get("terms") or {}
    label, judged = seen["battery"], seen["judgement"]
    rating = label.get("rating")
    who = desk.session.get(Staff, claim.staff_id)
    rows = [
        (say("papers.line"), label.get("line") or say("papers.none")),
        (say("papers.serial"), label.get("serial") or say("papers.none_read")),
        (
            say("papers.rated"),
            say("figures.rating", amps=digits(rating["amps"]), scale=rating["scale"]) if rating else say("papers.none"),
        ),
        (
            say("papers.type_and_size"),
            say(
                "papers.volts_type_and_size",
                volts=label["nominal_volts"],
                type=word(label["chemistry"]),
                size=label.get("group_code") or say("papers.size_not_known"),
            ),
        ),
        (word("made"), _day(label.get("made_on"), "%b %Y") or say("papers.not_read")),
        (word("sold"), _day(seen.get("sold_on")) or say("papers.not_by_us")),
        (word("car"), (seen.get("car") or {}).get("name") or say("papers.not_known")),
    ]
    began = _day(answer["counted_from"])
    counted = say("papers.counted_from", began=began, answer=COUNTED_FROM[answer["counted_from_what"]]) if began else ""
    sheet = say("papers.terms", terms=terms["reference"]) if terms.get("reference") else ""
    return claim_pack(
        ClaimPack(
            shop=head_now(desk),
            tag=tag,
            written_at=claim.written_at.astimezone(desk.zone),
            who=who.name if who else "",
            battery=rows,
            decision=words_of(answer["headline"]) + ".",
            terms=[said for said in (sheet, counted) if said],
            reasons=[
                (words_of(reason["asks"]), words_of(reason["found"]), bool(reason["holds"]))
                for reason in answer["reasons"]
            ],
            judgement=in_a_row((words_of(judged["headline"]), words_of(judged["sureness"])), ", "),
            findings=[
                (
                    words_of(finding["reading_text"]),
                    words_of(finding["limit_text"]),
                    say("papers.does_not_count", why=words_of(finding["why_not"]))
                    if finding["status"] == "dropped"
                    else words_of(finding["text"]),
                )
                for finding in judged["findings"]
            ],
            readings=[
                _read(
                    kept,
                    judged["findings"],
                    desk.zone,
                    {each["equipment_id"]: each["checked_on"] for each in claim.body.get("tools", ())},
                )
                for kept in seen["readings"]
            ],
            own_call=_own_call(desk, seen),
            sum=claimed_sum(desk, claim),
            rules=in_a_row((judged["rules_version"], words_of(judged["rules_name"])), ", "),
            sold_on=row.sold_on,
        )
    )


def _own_call(desk: Desk, seen: dict[str, Any]) -> Text:
    """What whoever judged said otherwise, where the house shows it on claims."""
    call = seen.get("own_call")
    if not call or "claim" not in papers_with_own_call(desk.rules):
        return ""
    return say("own_word.says_otherwise", who=call["who"], outcome=word(call["outcome"]), reason=call["reason"])


def _day(kept: str | None, form: str = "%d %b %Y") -> Day | None:
    """A day as papers write it; what is known by its month is kept as its first day."""
    return dated(datetime.fromisoformat(kept), form) if kept else None


def _read(
    kept: dict[str, Any], findings: list[dict[str, Any]], zone: ZoneInfo, checked_on: dict[int, str | None]
) -> tuple[datetime, str, Words]:
    """When a reading was taken, by whom, what it said, and how: the tool with its check, as it was set, at which temperature."""
    reading = kept["reading"]
    figures = next(
        (words_of(finding["reading_text"]) for finding in findings if finding.get("reading_id") == reading["id"]),
        NOTHING,
    )
    words = in_a_row((say(f"method.{reading['kind']}"), figures), ": ")
    how = in_a_row(_how(reading, checked_on), ", ")
    at = datetime.fromisoformat(reading["taken_at"]).astimezone(zone)
    said = in_a_row((words, how), "; ") + (say("papers.corrected_later") if kept.get("corrected") else NOTHING)
    return at, reading.get("taken_by") or kept["who"], said


def _how(reading: dict[str, Any], checked_on: dict[int, str | None]) -> list[Words]:
    """How a reading was taken, as far as it was written down; by the names it was kept under."""
    how: list[Words] = []
    tool = reading.get("tool")
    if tool:
        checked = _day(checked_on.get(tool["equipment_id"]))
        named = say("claim_pack.with_tool", tool=tool.get("name") or say(f"method.{reading['kind']}"))
        how.append(
            named + (say("claim_pack.checked_on", on=checked) if checked else say("claim_pack.no_check_on_record"))
        )
    elif reading.get("tester_name"):
        how.append(say("claim_pack.with_tool", tool=reading["tester_name"]))
    if reading.get("type_set"):
        scale, amps = reading.get("scale_set") or "CCA", reading.get("rated_set_amps")
        figure = say("figures.rating", amps=digits(amps), scale=scale) if amps else as_written(scale)
        how.append(say("claim_pack.set_to", type=word(reading["type_set"]), figure=figure))
        how.append(say("claim_pack.clamped_on", where=word(reading.get("clamped") or "lead_posts")))
    if reading.get("in_vehicle"):
        how.append(say("claim_pack.in_the_vehicle"))
    if reading.get("rested_hours") is not None:
        how.append(say("claim_pack.rested_hours", hours=digits(reading["rested_hours"])))
    if reading["kind"] in ("adjustable_load", "fixed_load"):
        how.append(say("claim_pack.for_seconds", seconds=digits(reading["seconds"])))
    if reading.get("temperature_c") is not None:
        how.append(say("claim_pack.at_degrees", temperature_c=digits(reading["temperature_c"])))
    return how

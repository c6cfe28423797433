"""The papers beside the slip: claim pack, day sheet, recall letter, shelf tag, and the line for the till."""

from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from ..core.battery.label import Complaint
from ..core.findings.outcomes import Outcome
from ..core.units.money import tax_within_cents
from ..papers.claim_pack import ClaimPack, claim_pack
from ..papers.day_sheet import DaySheet, day_sheet
from ..papers.family import Head
from ..papers.recall import Recall, recall
from ..papers.shelf_tag import ShelfTag, shelf_tag
from ..records import batteries, day, house
from ..records.models import Staff
from .check import view
from .counter import battery_or_refused
from .desk import Desk, NotThere, Refused
from .items import item_or_refused
from .paper_language import in_its_language
from .slip import claimed_sum
from .tax import Tax, money


def head_now(desk: Desk) -> Head:
    """The shop as it stands on papers now."""
    store = house.settings_now(desk.session, desk.staff.store_id)
    return Head(
        shop=store.name,
        head=store.paper_head,
        foot=store.paper_foot,
        logo=store.logo if store.logo_type else None,
        paper_size="Letter" if store.paper_size == "Letter" else "A4",
    )


@in_its_language
def claim_pdf(desk: Desk, tag: int) -> bytes:
    """The claim of a battery as it was written, whatever was read or changed since. Raises NotThere without one."""
    row = battery_or_refused(desk, tag)
    claim = batteries.claim_of(desk.session, row.id)
    if claim is None:
        raise NotThere(f"no claim was written for tag {tag}")
    # by the names it was kept under: a claim of an older release has what that release knew
    seen, answer, terms = claim.body["evidence"], claim.body["answer"], claim.body.get("terms") or {}
    label, judged = seen["battery"], seen["judgement"]
    rating = label.get("rating")
    who = desk.session.get(Staff, claim.staff_id)
    rows = [
        ("line", label.get("line") or "none"),
        ("serial", label.get("serial") or "none read"),
        ("rated", f"{rating['amps']:g} {rating['scale']}" if rating else "none"),
        (
            "type and size",
            f"{label['nominal_volts']} V {label['chemistry'].upper()}, {label.get('group_code') or 'size not known'}",
        ),
        ("made", _day(label.get("made_on"), "%b %Y") or "not read"),
        ("sold", _day(seen.get("sold_on")) or "not by us"),
        ("car", (seen.get("car") or {}).get("name") or "not known"),
    ]
    began = _day(answer["counted_from"])
    counted = f"Counted from {began} ({answer['counted_from_what']})." if began else ""
    sheet = f"Terms: {terms['reference']}." if terms.get("reference") else ""
    return claim_pack(
        ClaimPack(
            shop=head_now(desk),
            tag=tag,
            written_at=claim.written_at.astimezone(desk.zone),
            who=who.name if who else "",
            battery=rows,
            decision=f"{answer['headline']}.",
            terms=[said for said in (sheet, counted) if said],
            reasons=[(one["asks"], one["found"], bool(one["holds"])) for one in answer["reasons"]],
            judgement=f"{judged['headline']}, {judged['sureness']}",
            findings=[
                (
                    one["reading_text"],
                    one["limit_text"],
                    f"does not count: {one['why_not']}" if one["status"] == "dropped" else one["text"],
                )
                for one in judged["findings"]
            ],
            readings=[_read(kept, judged["findings"], desk.zone) for kept in seen["readings"]],
            sum=claimed_sum(desk, claim),
            rules=f"{judged['rules_version']}, {judged['rules_name']}",
            sold_on=row.sold_on,
        )
    )


def _day(kept: str | None, form: str = "%d %b %Y") -> str | None:
    """A day as papers write it; what is known by its month is kept as its first day."""
    return format(datetime.fromisoformat(kept), form) if kept else None


def _read(kept: dict[str, Any], findings: list[dict[str, Any]], zone: ZoneInfo) -> tuple[datetime, str, str]:
    """When a reading was taken, by whom, and what it said."""
    reading = kept["reading"]
    figures = next((finding["reading_text"] for finding in findings if finding.get("reading_id") == reading["id"]), "")
    words = ": ".join(filter(None, (reading["kind"].replace("_", " "), figures)))
    at = datetime.fromisoformat(reading["taken_at"]).astimezone(zone)
    return at, kept["who"], words + (" (corrected later)" if kept.get("corrected") else "")


@in_its_language
def recall_pdf(desk: Desk, tag: int, now: datetime) -> bytes:
    """The letter that asks a customer to have a watched battery tested again. Raises Refused where none is due."""
    row = battery_or_refused(desk, tag)
    seen = view(desk, tag)
    kept = batteries.latest_judgement(desk.session, batteries.latest_check(desk.session, row.id).id)
    judged = seen.judgement
    if judged.outcome is not Outcome.WATCH or judged.watch_until is None or kept is None:
        raise Refused(f"Tag {tag} is not under watch: there is no day to test it again")
    label = seen.battery
    rated = f"{label.rating.amps:g} {label.rating.scale.value}" if label.rating else ""
    return recall(
        Recall(
            shop=head_now(desk),
            tag=tag,
            to=seen.customer_name or "To whom it belongs",
            car=seen.car.name if seen.car else "",
            battery=", ".join(part for part in (label.line, rated) if part) or "no line on it",
            seen_on=desk.today(kept.made_at),
            headline=judged.headline,
            why=judged.age.words if judged.age else "",
            due_on=judged.watch_until,
            written_on=desk.today(now),
        )
    )


@in_its_language
def day_pdf(desk: Desk, wanted: date | None, now: datetime) -> bytes:
    """The sheet of a day by the shop's own clock; today where none is given."""
    on = wanted or desk.today(now)
    begins = datetime(on.year, on.month, on.day, tzinfo=desk.zone)
    after = on + timedelta(days=1)
    ends = datetime(after.year, after.month, after.day, tzinfo=desk.zone)
    currency = desk.store.currency
    sold = day.sold_between(desk.session, begins, ends)
    claims = day.claimed_between(desk.session, begins, ends)
    taxes: dict[str, int] = {}
    for one in sold:
        tax = Tax.model_validate(one.body.get("tax") or {})
        if tax.pct:
            taxes[tax.words] = taxes.get(tax.words, 0) + tax_within_cents(one.price_cents, tax.pct)
    till = [("Sold", money(sum(one.price_cents for one in sold), currency))]
    till += [(f"of which {name}", money(cents, currency)) for name, cents in taxes.items()]
    till += [("Deposits taken", money(sum(one.core_deposit_cents for one in sold), currency))]
    till += [("Credited by claims", money(sum(cents for _, _, cents in claims), currency))]
    return day_sheet(
        DaySheet(
            shop=head_now(desk),
            day=on,
            printed_at=now.astimezone(desk.zone),
            who=desk.staff.name,
            came=[
                (
                    str(one.tag),
                    " ".join(filter(None, (one.line or "no line", f"{one.rated_amps:g} {one.rated_scale}" if one.rated_amps else ""))),
                    Complaint(one.complaint).value.replace("_", " "),
                    one.headline or "not read",
                )
                for one in day.came_between(desk.session, begins, ends)
            ],
            sold=[(str(one.tag), one.name, one.serial, money(one.price_cents, currency)) for one in sold],
            claims=[(str(tag), headline, money(cents, currency)) for tag, headline, cents in claims],
            till=till,
            promised=[
                (str(tag), f"{at.astimezone(desk.zone):%a %d %b %H:%M}", line or "no line")
                for tag, line, at in day.promised(desk.session)
            ],
        )
    )  # fmt: skip


@in_its_language
def shelf_tag_pdf(desk: Desk, item_id: int) -> bytes:
    """The tag of an item for the shelf."""
    row = item_or_refused(desk, item_id)
    figures = [f"{row.rated_amps or row.cca_amps:g} {row.rated_scale if row.rated_amps else 'CCA'}"]
    figures += [f"{row.capacity_ah_20h:g} Ah"] if row.capacity_ah_20h else []
    figures += [f"{row.nominal_volts} V {row.chemistry.upper()}"]
    currency = desk.store.currency
    return shelf_tag(
        ShelfTag(
            shop=desk.store.name,
            line=row.line,
            size=row.group_code,
            figures=" · ".join(figures),
            price=money(row.price_cents, currency),
            deposit=f"plus {money(row.core_deposit_cents, currency)} until the old one is back" if row.core_deposit_cents else "",
        )
    )  # fmt: skip

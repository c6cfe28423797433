"""The papers beside the slip: claim pack, day sheet, recall letter, shelf tag, and the line for the till."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any

from ..core.battery.label import RESERVE_USES, Complaint
from ..core.findings.outcomes import Outcome
from ..core.goods.till import Movement, Till, What, tills
from ..core.words import NOTHING, Text, Words, dated, digits, in_a_row, say, word
from ..papers.day_sheet import DaySheet, day_sheet
from ..papers.family import Head
from ..papers.recall import Recall, recall
from ..papers.shelf_tag import ShelfTag, shelf_tag
from ..records import batteries, day, house
from .check import view
from .counter import battery_or_refused
from .desk import Desk, Refused
from .fitting_list import OLD_ONE
from .items import item_or_refused
from .paper_language import in_its_language
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
def recall_pdf(desk: Desk, tag: int, now: datetime) -> bytes:
    """The letter that asks a customer to have a watched battery tested again. Raises Refused where none is due."""
    row = battery_or_refused(desk, tag)
    seen = view(desk, tag)
    kept = batteries.latest_judgement(desk.session, batteries.latest_check(desk.session, row.id).id)
    judged = seen.judgement
    if judged.outcome is not Outcome.WATCH or judged.watch_until is None or kept is None:
        raise Refused(say("papers.tag_is_not_under_watch_there_is_no_day_to", tag=tag))
    label = seen.battery
    rated = (
        say("figures.amps_scale", amps=digits(label.rating.amps), scale=label.rating.scale.value)
        if label.rating
        else ""
    )
    return recall(
        Recall(
            shop=head_now(desk),
            tag=tag,
            to=seen.customer_name or say("papers.to_whom_it_belongs"),
            car=seen.car.name if seen.car else "",
            battery=in_a_row((label.line, rated), ", ") or say("papers.no_line_on_it"),
            seen_on=desk.today(kept.made_at),
            headline=judged.headline,
            why=judged.age.words if judged.age else NOTHING,
            due_on=judged.watch_until,
            written_on=desk.today(now),
            starts_an_engine=seen.context.use not in RESERVE_USES,
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
    back = day.taken_back_between(desk.session, begins, ends)
    deposits = day.deposits_between(desk.session, begins, ends, OLD_ONE)
    claims = day.claimed_between(desk.session, begins, ends)
    return day_sheet(
        DaySheet(
            shop=head_now(desk),
            day=on,
            printed_at=now.astimezone(desk.zone),
            who=desk.staff.name,
            came=[
                (
                    str(came.tag),
                    in_a_row((came.line or say("common.no_line"), say("figures.rated_amps_rated_scale", rated_amps=digits(came.rated_amps), rated_scale=came.rated_scale or "") if came.rated_amps else NOTHING), " "),
                    word(Complaint(came.complaint).value),
                    came.headline or say('papers.not_read'),
                )
                for came in day.came_between(desk.session, begins, ends)
            ],
            sold=[(str(sale.tag), sale.name, sale.serial, money(sale.price_cents, sale.body.get("currency", currency))) for sale in sold],
            back=[
                (str(one.tag), one.name, say(f"day_sheet.{one.what}", reason=one.reason), money(one.refund_cents, one.body.get("currency", currency)))
                for one in back
            ],
            claims=[
                (str(one.tag), one.headline, say("day_sheet.given", given_tag=one.given_tag) if one.given_tag else say("day_sheet.credit_still_open") if one.credit_cents else NOTHING, money(one.credit_cents, one.body.get("currency", currency)))
                for one in claims
            ],
            till=[line for till in till_of_day(desk, sold, back, deposits) for line in _till_lines(till)],
            promised=[
                (str(tag), dated(at.astimezone(desk.zone), "%a %d %b %H:%M"), line or say('common.no_line'))
                for tag, line, at in day.promised(desk.session)
            ],
        )
    )  # fmt: skip


def till_of_day(
    desk: Desk, sold: Sequence[day.Sold], taken_back: Sequence[day.Back], deposits: Sequence[day.DepositMoved]
) -> tuple[Till, ...]:
    """What moved in the till, summed by money: by sales, ways back and deposits as they are on record."""
    home = desk.store.currency
    moved: list[Movement] = []

    def add(what: What, cents: int, body: dict[str, Any], credit_cents: int = 0) -> None:
        tax = Tax.model_validate(body.get("tax") or {})
        moved.append(Movement(what, cents, body.get("currency", home), credit_cents, tax.name, tax.pct))

    for sale in sold:
        add(What.SOLD, sale.price_cents, sale.body, sale.credit_cents)
        add(What.DEPOSIT_TAKEN, sale.core_deposit_cents, sale.body)
    for back in taken_back:
        add(What.REFUNDED, back.refund_cents, back.body, back.credit_cents)
        add(What.DEPOSIT_BACK, back.deposit_back_cents, back.body)
    for deposit in deposits:
        add(What.DEPOSIT_BACK if deposit.is_back else What.DEPOSIT_TAKEN, deposit.cents, deposit.body)
    return tills(moved, home)


def _till_lines(till: Till) -> list[tuple[Text, Words]]:
    """The sums of one money, so that each line follows from those above it."""

    def amount(cents: int) -> Words:
        return money(cents, till.currency)

    lines: list[tuple[Text, Words]] = []
    if till.credited:
        lines += [
            (say("papers.at_their_prices"), amount(till.at_prices)),
            (say("papers.credited_by_claims"), amount(-till.credited)),
        ]
    lines += [(say("papers.sold"), amount(till.sold))]
    if till.refunded:
        lines += [(say("papers.given_back_for_returns"), amount(-till.refunded))]
    lines += [
        (say("papers.of_which", name=say("figures.name_pct", name=tax.name, pct=digits(tax.pct))), amount(tax.cents))
        for tax in till.taxes
    ]
    lines += [
        (say("papers.deposits_taken"), amount(till.deposits_taken)),
        (say("papers.deposits_given_back"), amount(-till.deposits_back)),
    ]
    lines += [(say("papers.to_be_in_the_till"), amount(till.cash))]
    return lines  # fmt: skip


@in_its_language
def shelf_tag_pdf(desk: Desk, item_id: int) -> bytes:
    """The tag of an item for the shelf."""
    row = item_or_refused(desk, item_id)
    figures: list[Words] = [
        say(
            "figures.rated_amps_rated_scale",
            rated_amps=digits(row.rated_amps or row.cca_amps),
            rated_scale=row.rated_scale if row.rated_amps else "CCA",
        )
    ]
    figures += (
        [say("figures.capacity_ah_20h_ah", capacity_ah_20h=digits(row.capacity_ah_20h))] if row.capacity_ah_20h else []
    )
    figures += [say("papers.volts_and_type", volts=row.nominal_volts, type=word(row.chemistry))]
    currency = desk.store.currency
    return shelf_tag(
        ShelfTag(
            shop=desk.store.name,
            line=row.line,
            size=row.group_code,
            figures=in_a_row(figures, " · "),
            price=money(row.price_cents, currency),
            deposit=say('papers.plus_until_the_old_one_is_back', money=money(row.core_deposit_cents, currency)) if row.core_deposit_cents else "",
        )
    )  # fmt: skip

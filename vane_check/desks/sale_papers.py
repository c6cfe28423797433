"""What goes on the paper for a sale, as it was at the sale."""

from datetime import date, datetime

from ..core.battery.label import Chemistry, Use
from ..core.goods.terms import Terms, in_force
from ..core.tables import cautions
from ..core.units.months import add_months
from ..core.words import NOTHING, Text, Words, dated, digits, fixed, in_a_row, say, word
from ..papers.sale import SalePaper, sale_paper
from ..records import batteries, shop
from ..records.models import BatteryRow, CatalogueItem, Sale
from .desk import Desk
from .fitting_list import sale_or_refused
from .items import item_or_refused
from .paper_language import in_its_language
from .papers import head_now
from .sales import Settles
from .tax import Tax, money
from .terms import terms_of
from .ways_back import way_back_of


@in_its_language
def sale_pdf(desk: Desk, tag: int, now: datetime) -> bytes:
    """The paper of a sale. Raises NotThere for a battery that was not sold from this stock."""
    sale, battery = sale_or_refused(desk, tag)
    item = item_or_refused(desk, sale.item_id)
    car = battery.vehicle
    carried = not sale.body.get("fitted_here", True)
    for_whom = [battery.customer.name if battery.customer else "", " ".join((car.make, car.model)) if car else ""]
    return sale_paper(
        SalePaper(
            shop=head_now(desk), tag=tag, sold_at=sale.sold_at.astimezone(desk.zone), who=sale.staff.name,
            to=", ".join(part for part in for_whom if part), name=sale.body.get("name", item.name),
            facts=_facts(sale, battery, item, carried), sum=_sum(desk, sale), deposit=_deposit(desk, sale), warranty=_warranty(desk, sale, battery, item),
            taken_back=_taken_back(desk, sale),
            advice=[row.text for row in cautions() if row.where == "sale" or (carried and row.where == "sale_carried")],
        )
    )  # fmt: skip


def _facts(sale: Sale, battery: BatteryRow, item: CatalogueItem, carried: bool) -> list[tuple[Text, Text]]:
    rating = say(
        "figures.rated_amps_rated_scale",
        rated_amps=digits(battery.rated_amps or item.cca_amps),
        rated_scale=battery.rated_scale or "CCA",
    )
    what = [say("papers.volts_and_type", volts=item.nominal_volts, type=Chemistry(item.chemistry).words), rating]
    what += [say("slip.group", group_code=item.group_code)] if item.group_code else []
    handed = say("sale_paper.carried_away") if carried else say("sale_paper.fitted_here")
    volts = say("figures.volts_v", volts=fixed(sale.volts, 2))
    return [
        (say("common.what"), in_a_row(what, " · ")),
        (say("day_sheet.serial"), battery.serial),
        (say("sale_paper.volts_at_hand_over"), volts),
        (say("sale_paper.handed_over"), handed),
    ]


def _sum(desk: Desk, sale: Sale) -> list[tuple[Text, Text]]:
    """What was paid, so that it can be added up."""
    currency, tax = sale.body.get("currency", desk.store.currency), Tax.model_validate(sale.body.get("tax") or {})
    within = tax.within_cents(sale.price_cents)
    on_top = within if tax.on_top else 0
    rows: list[tuple[Text, Text]] = [
        (say("sale_paper.price"), money(sale.price_cents - on_top + sale.credit_cents, currency))
    ]
    rows += [(say("slip.credit_under_warranty"), money(-sale.credit_cents, currency))] if sale.credit_cents else []
    rows += [(tax.words, money(on_top, currency))] if on_top else []
    rows += [(say("sale_paper.deposit"), money(sale.core_deposit_cents, currency))] if sale.core_deposit_cents else []
    rows += [(say("sale_paper.paid_in_all"), money(sale.price_cents + sale.core_deposit_cents, currency))]
    rows += [(say("slip.of_which", tax=tax.words), money(within, currency))] if within and not tax.on_top else []
    return rows  # fmt: skip


def _deposit(desk: Desk, sale: Sale) -> Text:
    if not sale.core_deposit_cents:
        return ""
    deposit = money(sale.core_deposit_cents, sale.body.get("currency", desk.store.currency))
    return say("sale_paper.the_deposit_comes_back_with_the_old_one", deposit=deposit)


def _warranty(desk: Desk, sale: Sale, battery: BatteryRow, item: CatalogueItem) -> list[Text]:
    """From when to when, by the terms as they were at the sale; what it keeps of an earlier one is said."""
    kept = Settles.model_validate(sale.body["warranty"]) if sale.body.get("warranty") else None
    start = (kept.sold_on or kept.made_on) if kept else battery.sold_on or desk.today(sale.sold_at)
    editions = [terms_of(row) for row in shop.terms_of_line(desk.session, item.line)]
    terms = (kept.terms if kept else None) or (in_force(editions, start, item.name) if start else None)
    if terms is None or start is None:
        return [say("sale_paper.no_warranty_of_its_line_is_on_record")]
    use = Use(batteries.first_check(desk.session, battery.id).use)
    return list(_term_lines(terms.used_for(use), start, kept is not None, use))


def _term_lines(terms: Terms, start: date, keeps: bool, use: Use) -> list[Words]:
    if use in terms.excluded_uses:
        return [say("warranty.its_terms_leave_out_use", use=word(use.value)) + "."]
    free, ends = add_months(start, terms.free_months), add_months(start, terms.term_months)
    lines = [
        say("sale_paper.keeps_the_first_ones_dates") if keeps else NOTHING,
        say(
            "sale_paper.free_from_until",
            start=dated(start, "%d %b %Y"),
            free=dated(free, "%d %b %Y"),
            count=terms.free_months,
        )
        if terms.free_months
        else NOTHING,
        say("sale_paper.pro_rata_until", ends=dated(ends, "%d %b %Y")) if terms.pro_rata_months else NOTHING,
        say("papers.terms", terms=terms.reference) if terms.reference else NOTHING,
        say("sale_paper.bring_this_paper"),
    ]
    return [line for line in lines if line]


def _taken_back(desk: Desk, sale: Sale) -> Text:
    back = way_back_of(desk, sale)
    if back is None:
        return ""
    currency = sale.body.get("currency", desk.store.currency)
    return say(
        f"sale_paper.{back.what}", on=dated(desk.today(back.at), "%d %b %Y"), reason=back.reason,
        given_back=money(back.refund_cents + back.deposit_back_cents, currency),
    )  # fmt: skip

"""Warranty terms: every line with its editions and the days they hold from. An edition is never written over."""

from datetime import datetime

from pydantic import BaseModel, Field, ValidationError

from ..core.battery.label import Use
from ..core.goods.terms import MONTHS_AT_MOST, MonthsCount, PriceTaken, ProRata, Step, Terms, UseTerms, in_force
from ..core.readings.faults import FieldProblem
from ..core.units.model import Day, Model
from ..core.words import say, words_of
from ..records import goods, house, shop
from ..records.events import announce
from ..records.models import HouseEntry, TermsRow
from .counter import MOST
from .desk import Conflict, Desk, Refused
from .stores import let_follow, own_or_refused

EDITIONS_AT_MOST = 2000
LINES_AT_MOST = 500


class Edition(BaseModel):
    """One edition of a line's terms, who wrote it and whether it is the one for a sale today."""

    id: int
    terms: Terms
    written_at: datetime | None
    who: str
    in_force: bool


class LineTerms(BaseModel):
    """A line with its editions, the newest first; `items` of it are in the catalogue."""

    line: str
    items: int
    editions: list[Edition]


_IN_BODY = ("pro_rata", "steps", "months_count", "price_taken", "use_terms", "return_days")
"""What an edition keeps beside its columns."""


def terms_of(row: TermsRow) -> Terms:
    """An edition as the core knows it."""
    return Terms(
        line=row.line, item=row.item, free_months=row.free_months, pro_rata_months=row.pro_rata_months,
        date_code_allowance_months=row.date_code_allowance_months, excluded_uses=tuple(Use(use) for use in row.excluded_uses),
        reference=row.reference, holds_from=row.holds_from, **row.body,
    )  # fmt: skip


class WriteTerms(Model):
    """A new edition of a line's terms, over the editions that were seen."""

    line: str = Field(min_length=1, max_length=80)
    item: str = Field("", max_length=120)
    free_months: int = Field(ge=0, le=MONTHS_AT_MOST)
    pro_rata_months: int = Field(0, ge=0, le=MONTHS_AT_MOST)
    pro_rata: ProRata = ProRata.WHOLE_TERM
    steps: tuple[Step, ...] = Field((), max_length=MONTHS_AT_MOST)
    months_count: MonthsCount = MonthsCount.COMPLETED
    price_taken: PriceTaken = PriceTaken.TODAY
    use_terms: tuple[UseTerms, ...] = Field((), max_length=len(Use))
    return_days: int | None = Field(None, ge=0, le=365)
    date_code_allowance_months: int = Field(0, ge=0, le=36)
    excluded_uses: tuple[Use, ...] = ()
    reference: str = Field("", max_length=200)
    holds_from: Day | None = None
    based_on: int = Field(
        0, ge=0, le=MOST, description="the newest edition of the line that was seen; 0 where none was"
    )


def view(desk: Desk, now: datetime) -> list[LineTerms]:
    """Every line that is sold or has terms. Only a lead may see it."""
    desk.only_lead()
    items = dict(shop.lines_sold(desk.session, LINES_AT_MOST))
    result: dict[str, LineTerms] = {
        line.lower(): LineTerms(line=line, items=count, editions=[]) for line, count in items.items()
    }
    rows: dict[str, list[TermsRow]] = {}
    for row in shop.all_terms(desk.session, EDITIONS_AT_MOST):
        rows.setdefault(row.line.lower(), []).append(row)
    today = desk.today(now)
    for key, editions in rows.items():
        known = [terms_of(row) for row in editions]
        holds = [in_force(known, today, item) for item in {terms.item for terms in known}]
        line = result.setdefault(key, LineTerms(line=editions[0].line, items=0, editions=[]))
        line.editions = [
            Edition(
                id=row.id,
                terms=terms,
                written_at=row.written_at,
                who=row.staff.name if row.staff else "",
                in_force=any(terms is one for one in holds),
            )
            for row, terms in zip(editions, known, strict=True)
        ][::-1]
    return sorted(result.values(), key=lambda found: found.line.lower())


def write(desk: Desk, written: WriteTerms, now: datetime) -> int:
    """Add an edition. Only a lead may. Raises Conflict where somebody added one since, Refused with the field that is wrong."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    own_or_refused(desk, "terms")
    editions = shop.terms_of_line(desk.session, written.line)
    if (editions[-1].id if editions else 0) != written.based_on:
        raise Conflict(say("terms.somebody_wrote_an_edition_of_these_terms"))
    _faultless(desk, written)
    same = [edition for edition in editions if edition.item.lower() == written.item.lower()]
    if written.holds_from is None and any(edition.holds_from is not None for edition in same):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("holds_from", say("terms.say_from_which_day_of_sale_this_edition"))],
        )
    says = written.model_dump(mode="json", exclude={"based_on", "line"})
    if same and _says(same[-1]) == says:
        raise Refused(
            say("terms.nothing_is_different"),
            [FieldProblem("free_months", say("terms.the_newest_edition_says_just_this"))],
        )
    row = TermsRow(
        line=editions[-1].line if editions else written.line.strip(),
        free_months=written.free_months,
        pro_rata_months=written.pro_rata_months,
        date_code_allowance_months=written.date_code_allowance_months,
        excluded_uses=[use.value for use in written.excluded_uses],
        reference=written.reference.strip(),
        holds_from=written.holds_from,
        item=written.item,
        body=written.model_dump(mode="json", include=set(_IN_BODY)),
        written_at=now,
        staff_id=desk.staff.id,
    )
    desk.session.add(row)
    desk.session.flush()
    body = {"before": _says(same[-1]) if same else {}, "after": says}
    desk.session.add(HouseEntry(staff_id=desk.staff.id, written_at=now, what="terms", subject=row.line, body=body))
    let_follow(desk, "terms")
    announce(desk.session, desk.staff.store_id, "goods")
    announce(desk.session, desk.staff.store_id, "staff")
    return row.id


def _faultless(desk: Desk, written: WriteTerms) -> None:
    """Raises Refused with the field: steps that end too soon, an item of another line."""
    try:
        Terms.model_validate(written.model_dump(exclude={"based_on"}))
    except ValidationError as error:
        problem = error.errors()[0].get("ctx", {}).get("error")
        said = words_of(problem.args[0]) if problem is not None else say("terms.each_step_ends_after_the_one_before")
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem("steps", said)]) from error
    if written.item:
        item = goods.item_named(desk.session, written.item)
        if item is None or item.line.lower() != written.line.strip().lower():
            told = say("terms.no_item_of_this_line_is_called_so", line=written.line)
            raise Refused(say("common.it_cannot_be_right"), [FieldProblem("item", told)])


def _says(row: TermsRow) -> dict[str, object]:
    return terms_of(row).model_dump(mode="json", exclude={"line"})

"""The match desk: what is asked for by every source, against what the house has, and what to do where it has nothing."""

from collections.abc import Sequence
from datetime import date, datetime

from pydantic import BaseModel

from ..core.battery.label import Chemistry, RatingScale, Use
from ..core.goods.deliveries import next_delivery
from ..core.goods.pieces import PieceFacts, PieceState, state_of
from ..core.house.rules import HouseRules
from ..core.matching import Candidate, Fit, Match, Piece, Requirement, bounds_of, match
from ..core.matching.claims import Claim, Line, SourceKey
from ..core.matching.photo import CannotMeasure, Marks, TrayFound, tray_in
from ..core.matching.sources import TITLES, merge
from ..core.matching.upgrade import Upgrade, upgrades
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits, footprints
from ..core.words import NOTHING, Words, fixed, say, words_of
from ..records import fitting_items as fit
from ..records.models import CatalogueItem, StockPiece
from .counter import battery_or_refused
from .desk import Desk, Refused
from .match_claims import AskMatch, claims_of
from .views import Size, label_of, size_of


class SourceView(BaseModel):
    """A source that says something, and how good it is."""

    key: SourceKey
    title: Words
    standing: Words


class Awaited(BaseModel):
    """When an item that is not in stock can be here, and which other stores of the house have it."""

    item_id: int
    expected_on: date | None
    ordered: int
    elsewhere: dict[str, int]


class MatchView(BaseModel):
    """What all sources ask together, what fits of the catalogue and what nearly does, and what the difference buys."""

    tag: int | None
    requirement: Requirement | None
    asked_as: Words
    """The rating on the scale it stands on, where that is not SAE CCA."""
    sources: list[SourceView]
    lines: list[Line]
    matches: list[Match]
    fitting: int
    """How many fit in all; `matches` holds the best of them and a few that nearly do."""
    upgrades: list[Upgrade]
    awaited: list[Awaited]
    sizes: dict[str, Size]
    currency: str


class WhyNot(BaseModel):
    """How many items each thing stands against."""

    about: str
    items: int


class Others(BaseModel):
    """Why the rest of the catalogue does not fit, counted by reason; one item may have several."""

    total: int
    reasons: list[WhyNot]


FITTING_AT_MOST, NEAR_MISSES_AT_MOST, UPGRADES_AT_MOST = 15, 5, 6
"""So many of each are judged in words and shown, the best first; the rest are counted."""


def for_battery(desk: Desk, tag: int, now: datetime) -> MatchView:
    """What replaces a battery: by its car's requirement, else by its own label."""
    return ask(desk, AskMatch(tag=tag), now)


def for_vehicle(desk: Desk, vehicle_id: int, now: datetime) -> MatchView:
    """What fits a vehicle of the list."""
    return ask(desk, AskMatch(vehicle_id=vehicle_id), now)


def ask(desk: Desk, body: AskMatch, now: datetime) -> MatchView:
    """What fits what is known. Raises NotThere, and Refused with the field for a code or a size that is none."""
    requirement, lines, claims = _merged(desk, body)
    view = MatchView(
        tag=body.tag, requirement=requirement, asked_as=_asked_as(desk, body), matches=[], fitting=0, upgrades=[], awaited=[],
        sizes={}, currency=desk.store.currency, lines=list(lines),
        sources=[SourceView(key=claim.key, title=claim.title, standing=claim.standing) for claim in claims],
    )  # fmt: skip
    return view if requirement is None else _matched(desk, requirement, view, now)


def requirement_for(desk: Desk, body: AskMatch) -> Requirement | None:
    """What is asked, where it is known and can be matched; None else."""
    try:
        return _merged(desk, body)[0]
    except Refused:
        return None


def tray_in_photo(marks: Marks) -> TrayFound:
    """A tray's length and width from corners marked in a photo. Raises Refused with the shape that is wrong."""
    try:
        box = tray_in(marks)
    except CannotMeasure as error:
        raise Refused(
            say("match.it_cannot_be_measured_so"), [FieldProblem(error.part, words_of(error.args[0]))]
        ) from error
    case, most = entry_limits()["case_mm"], entry_limits()["tolerance_mm"].high
    if not (case.low <= box.width_mm and box.length_mm <= case.high):
        words = say(
            "match.that_would_be_by_mm_is_it_the_card_that_is",
            length_mm=fixed(box.length_mm, 0),
            width_mm=fixed(box.width_mm, 0),
        )
        raise Refused(say("match.it_cannot_be_measured_so"), [FieldProblem("card", words)])
    if box.off_mm > most:
        words = say("match.that_could_be_off_by_mm_go_closer_stand", off_mm=fixed(box.off_mm, 0))
        raise Refused(say("match.it_cannot_be_measured_so"), [FieldProblem("card", words)])
    return box


def others(desk: Desk, body: AskMatch) -> Others:
    """Why the others do not fit, counted by reason."""
    requirement, *_ = _merged(desk, body)
    if requirement is None:
        return Others(total=0, reasons=[])
    reasons, total = fit.why_not(desk.session, bounds_of(requirement, desk.rules))
    return Others(total=total, reasons=[WhyNot(about=reason.about, items=reason.items) for reason in reasons])


def _merged(desk: Desk, body: AskMatch) -> tuple[Requirement | None, Sequence[Line], list[Claim]]:
    typed = body.requirement
    if typed is not None:
        if typed.group_code and typed.group_code not in footprints():
            raise Refused(
                say("match.no_such_size"),
                [FieldProblem("requirement.group_code", say("match.pick_a_size_from_the_list"))],
            )
        return typed, (), [Claim(key=SourceKey.TYPED, title=TITLES[SourceKey.TYPED])]
    claims = claims_of(desk, body)
    unknown = next((claim for claim in claims if claim.group_code and claim.group_code not in footprints()), None)
    if unknown is not None:
        field = "code" if unknown.key is SourceKey.CODE else "vehicle_id" if unknown.key is SourceKey.CAR else "tag"
        words = say("match.says_size_which_is_in_no_table_here", title=unknown.title, group_code=unknown.group_code)
        claims = [claim.model_copy(update={"group_code": ""}) if claim is unknown else claim for claim in claims]
        if body.measured is None:
            raise Refused(say("match.no_such_size"), [FieldProblem(field, words)])
    merged = merge(claims, desk.rules)
    return merged.requirement, merged.lines, claims


def _asked_as(desk: Desk, body: AskMatch) -> Words:
    if body.tag is None or body.requirement is not None or body.vehicle_id is not None:
        return NOTHING
    row = battery_or_refused(desk, body.tag)
    rating = label_of(row).rating
    if row.vehicle or rating is None or rating.scale is RatingScale.CCA:
        return NOTHING
    return say(
        "match.is_about_cca_give_or_take",
        amps=fixed(rating.amps, 0),
        scale=rating.scale.value,
        cca_amps=fixed(rating.cca_amps, 0),
        relative_spread=fixed(rating.relative_spread * 100, 0),
    )


def _matched(desk: Desk, requirement: Requirement, view: MatchView, now: datetime) -> MatchView:
    """The database decides what fits; the core says of what is shown how and why."""
    bounds = bounds_of(requirement, desk.rules)
    rows, how_many = fit.matching_items(desk.session, bounds, FITTING_AT_MOST, NEAR_MISSES_AT_MOST)
    candidates = [_candidate(row, requirement.use, desk.today(now), desk.rules) for row in rows]
    matches = match(requirement, candidates, desk.rules)
    fitting = [match.candidate for match in matches if match.fit is not Fit.REJECTED]
    missing = [match.candidate for match in matches if match.fit is not Fit.REJECTED and not match.candidate.in_stock]
    codes = {requirement.group_code, *(match.candidate.group_code for match in matches)} - {""}
    return view.model_copy(
        update={
            "matches": matches,
            "fitting": how_many,
            "upgrades": upgrades(fitting, desk.rules, UPGRADES_AT_MOST),
            "awaited": _awaited(desk, missing, rows, now),
            "sizes": {code: size for code in sorted(codes) if (size := size_of(code)) is not None},
        }
    )


def _candidate(answer: fit.Found, use: Use, today: date, rules: HouseRules) -> Candidate:
    """An item as the core reads it; of its pieces the oldest that may be sold."""
    item = dict(answer.item)
    item_id = item.pop("id")
    chemistry, volts, cents = Chemistry(item["chemistry"]), item["nominal_volts"], item["price_cents"]
    states = [(piece, _state(piece, chemistry, volts, cents, today, rules)) for piece in answer.pieces]
    sellable = [(piece, state) for piece, state in states if not state.refused]
    piece, state = sellable[0] if sellable else (None, None)
    if state is not None:
        item["price_cents"] = state.price_cents
    return Candidate(
        item_id=item_id, **item, excluded_uses=(use,) if answer.excluded else (), in_stock=len(sellable),
        last_volts=piece.last_volts if piece else None, piece=_piece(piece, state) if piece and state else None,
    )  # fmt: skip


def plain_candidate(item: CatalogueItem) -> Candidate:
    """An item as the core reads it, whatever stands of it."""
    return Candidate(item_id=item.id, **{name: getattr(item, name) for name in fit.COLUMNS if name != "id"})


def _piece(piece: fit.FoundPiece, state: PieceState) -> Piece:
    return Piece(
        id=piece.id, arrived_months_ago=state.months_in_stock, uncharged_months=state.uncharged_months,
        last_volts=piece.last_volts, dry=state.is_dry, mark="reduced" if state.reduced else "",
    )  # fmt: skip


def piece_state(piece: StockPiece, item: CatalogueItem, today: date, rules: HouseRules) -> PieceState:
    """How a piece stands today."""
    return _state(piece, Chemistry(item.chemistry), item.nominal_volts, item.price_cents, today, rules)


def _state(
    piece: StockPiece | fit.FoundPiece,
    chemistry: Chemistry,
    nominal_volts: int,
    price_cents: int,
    today: date,
    rules: HouseRules,
) -> PieceState:
    facts = PieceFacts(
        chemistry=chemistry, nominal_volts=nominal_volts, arrived_on=piece.arrived_on, made_on=piece.made_on,
        dry_charged=piece.dry_charged, filled_on=piece.filled_on, charged_on=piece.charged_on, last_volts=piece.last_volts,
        last_volts_on=piece.last_volts_on, price_cents=price_cents,
    )  # fmt: skip
    return state_of(facts, today, rules)


def _awaited(desk: Desk, missing: Sequence[Candidate], rows: Sequence[fit.Found], now: datetime) -> list[Awaited]:
    """When ours come and who else of the house has them."""
    if not missing:
        return []
    by_id = {row.item["id"]: row for row in rows}
    here = now.astimezone(desk.zone)
    answers = []
    for candidate in missing:
        row = by_id[candidate.item_id]
        coming = min((day for _, day in row.orders if day is not None), default=None)
        answers.append(
            Awaited(
                item_id=candidate.item_id, expected_on=coming or (next_delivery(here, *row.supplier) if row.supplier else None),
                ordered=sum(count for count, _ in row.orders), elsewhere=row.elsewhere,
            )
        )  # fmt: skip
    return answers

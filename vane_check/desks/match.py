"""The match desk: what is asked for by every source, against what the house has, and what to do where it has nothing."""

from collections.abc import Sequence
from datetime import date, datetime

from pydantic import BaseModel

from ..core.battery import Chemistry, RatingScale, Use
from ..core.faults import FieldProblem
from ..core.matching import Bounds, Candidate, Fit, Match, Piece, Requirement, bounds_of, match
from ..core.matching.sources import TITLES, Claim, Line, SourceKey, merge
from ..core.matching.upgrade import Upgrade, upgrades
from ..core.pieces import PieceFacts, PieceState, state_of
from ..core.rules import HouseRules
from ..core.supply import next_delivery
from ..core.tables import footprints
from ..records import fit, goods
from ..records.models import CatalogueItem, StockPiece
from .counter import found_battery
from .desk import Desk, Refused
from .match_claims import AskMatch, claims_of
from .views import Size, label_of, size_of


class SourceView(BaseModel):
    """A source that says something, and how good it is."""

    key: SourceKey
    title: str
    standing: str


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
    asked_as: str
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


FITTING_AT_MOST, NEAR_MISSES_AT_MOST, UPGRADES_AT_MOST = 24, 6, 6
"""So many of each are judged in words and shown, the best first; the rest are counted."""


def for_battery(desk: Desk, tag: int, now: datetime) -> MatchView:
    """What replaces a battery: by its car's requirement, else by its own label."""
    return ask(desk, AskMatch(tag=tag), now)


def for_vehicle(desk: Desk, vehicle_id: int, now: datetime) -> MatchView:
    """What fits a vehicle of the list."""
    return ask(desk, AskMatch(vehicle_id=vehicle_id), now)


def ask(desk: Desk, asked: AskMatch, now: datetime) -> MatchView:
    """What fits what is known. Raises NotThere, and Refused with the field for a code or a size that is none."""
    requirement, lines, claims = _merged(desk, asked)
    view = MatchView(
        tag=asked.tag, requirement=requirement, asked_as=_asked_as(desk, asked), matches=[], fitting=0, upgrades=[], awaited=[],
        sizes={}, currency=desk.store.currency, lines=list(lines),
        sources=[SourceView(key=one.key, title=one.title, standing=one.standing) for one in claims],
    )  # fmt: skip
    return view if requirement is None else _matched(desk, requirement, view, now)


def requirement_for(desk: Desk, asked: AskMatch) -> Requirement | None:
    """What is asked, where it is known and can be matched; None else."""
    try:
        return _merged(desk, asked)[0]
    except Refused:
        return None


def others(desk: Desk, asked: AskMatch) -> Others:
    """Why the others do not fit, counted by reason."""
    requirement, *_ = _merged(desk, asked)
    if requirement is None:
        return Others(total=0, reasons=[])
    reasons, total = fit.why_not(desk.session, bounds_of(requirement, desk.rules))
    return Others(total=total, reasons=[WhyNot(about=one.about, items=one.items) for one in reasons])


def _merged(desk: Desk, asked: AskMatch) -> tuple[Requirement | None, Sequence[Line], list[Claim]]:
    typed = asked.requirement
    if typed is not None:
        if typed.group_code and typed.group_code not in footprints():
            raise Refused("No such size", [FieldProblem("requirement.group_code", "Pick a size from the list")])
        return typed, (), [Claim(key=SourceKey.TYPED, title=TITLES[SourceKey.TYPED])]
    claims = claims_of(desk, asked)
    unknown = next((claim for claim in claims if claim.group_code and claim.group_code not in footprints()), None)
    if unknown is not None:
        field = "code" if unknown.key is SourceKey.CODE else "vehicle_id" if unknown.key is SourceKey.CAR else "tag"
        said = f"{unknown.title} says size {unknown.group_code}, which is in no table here: measure the tray"
        claims = [claim.model_copy(update={"group_code": ""}) if claim is unknown else claim for claim in claims]
        if asked.measured is None:
            raise Refused("No such size", [FieldProblem(field, said)])
    merged = merge(claims, desk.rules)
    return merged.requirement, merged.lines, claims


def _asked_as(desk: Desk, asked: AskMatch) -> str:
    if asked.tag is None or asked.requirement is not None or asked.vehicle_id is not None:
        return ""
    row = found_battery(desk, asked.tag)
    rating = label_of(row).rating
    if row.vehicle or rating is None or rating.scale is RatingScale.CCA:
        return ""
    return (
        f"{rating.amps:.0f} {rating.scale.value} is about {rating.cca_amps:.0f} CCA, give or take "
        f"{rating.relative_spread * 100:.0f} %"
    )


def _matched(desk: Desk, requirement: Requirement, view: MatchView, now: datetime) -> MatchView:
    """The database decides what fits; the core says of what is shown how and why."""
    bounds = bounds_of(requirement, desk.rules)
    found, how_many = fit.fitting(desk.session, bounds, FITTING_AT_MOST)
    ids = [one.item_id for one in found] + fit.near_misses(desk.session, bounds, NEAR_MISSES_AT_MOST)
    candidates = candidates_of(desk, ids, bounds, desk.today(now))
    matches = match(requirement, candidates, desk.rules)
    fitting = [one.candidate for one in matches if one.fit is not Fit.REJECTED]
    missing = [one.candidate for one in matches if one.fit is not Fit.REJECTED and not one.candidate.in_stock]
    codes = {requirement.group_code, *(one.candidate.group_code for one in matches)} - {""}
    return view.model_copy(
        update={
            "matches": matches,
            "fitting": how_many,
            "upgrades": upgrades(fitting, desk.rules, UPGRADES_AT_MOST),
            "awaited": _awaited(desk, missing, now),
            "sizes": {code: size for code in sorted(codes) if (size := size_of(code)) is not None},
        }
    )


def candidates_of(desk: Desk, ids: Sequence[int], bounds: Bounds, today: date) -> list[Candidate]:
    """Items with the piece that would be handed over, as the core reads them."""
    rows = goods.items_of(desk.session, ids)
    stocked = [item_id for item_id, row in rows.items() if row.in_stock]
    pieces = goods.unsold_of(desk.session, stocked) if stocked else {}
    excluded = set(fit.excluded_lines(desk.session, bounds.use))
    return [
        candidate_of(rows[item_id], pieces.get(item_id, ()), bounds.use, excluded, today, desk.rules)
        for item_id in ids
        if item_id in rows
    ]


def candidate_of(
    item: CatalogueItem, pieces: Sequence[StockPiece], use: str, excluded: set[str], today: date, rules: HouseRules
) -> Candidate:
    """An item as the core reads it; of its pieces the oldest that may be sold."""
    states = [(piece, piece_state(piece, item, today, rules)) for piece in pieces if not piece.mark]
    sellable = [(piece, state) for piece, state in states if not state.refused]
    piece, state = sellable[0] if sellable else (None, None)
    return Candidate(
        item_id=item.id, line=item.line, name=item.name, group_code=item.group_code, length_mm=item.length_mm,
        width_mm=item.width_mm, height_mm=item.height_mm, nominal_volts=item.nominal_volts,
        positive_side=item.positive_side, post=item.post, ledge=item.ledge, same_as=item.same_as,
        chemistry=Chemistry(item.chemistry), cca_amps=item.cca_amps, rated_amps=item.rated_amps,
        rated_scale=RatingScale(item.rated_scale), capacity_ah_20h=item.capacity_ah_20h,
        reserve_minutes=item.reserve_minutes, vent_tube=item.vent_tube, vent_side=item.vent_side,
        excluded_uses=(Use(use),) if item.line.lower() in excluded else (),
        price_cents=state.price_cents if state else item.price_cents, in_stock=len(sellable),
        last_volts=piece.last_volts if piece else None,
        piece=_piece(piece, state) if piece and state else None,
    )  # fmt: skip


def _piece(piece: StockPiece, state: PieceState) -> Piece:
    return Piece(
        id=piece.id, arrived_months_ago=state.months_in_stock, uncharged_months=state.uncharged_months,
        last_volts=piece.last_volts, dry=state.is_dry, mark="reduced" if state.reduced else "",
    )  # fmt: skip


def piece_state(piece: StockPiece, item: CatalogueItem, today: date, rules: HouseRules) -> PieceState:
    """How a piece stands today."""
    facts = PieceFacts(
        chemistry=Chemistry(item.chemistry), nominal_volts=item.nominal_volts, arrived_on=piece.arrived_on,
        made_on=piece.made_on, dry_charged=piece.dry_charged, filled_on=piece.filled_on, charged_on=piece.charged_on,
        last_volts=piece.last_volts, last_volts_on=piece.last_volts_on, price_cents=item.price_cents,
    )  # fmt: skip
    return state_of(facts, today, rules)


def _awaited(desk: Desk, missing: Sequence[Candidate], now: datetime) -> list[Awaited]:
    """When ours come and who else of the house has them."""
    if not missing:
        return []
    ids = [one.item_id for one in missing]
    rows = goods.items_of(desk.session, ids)
    suppliers = {one.id: one for one in goods.suppliers(desk.session)}
    ordered: dict[int, list[tuple[int, date | None]]] = {}
    for order in goods.orders(desk.session, ids):
        ordered.setdefault(order.item_id, []).append((order.pieces, order.expected_on))
    theirs: dict[str, dict[str, int]] = {}
    for one in goods.elsewhere(desk.session, [candidate.name for candidate in missing]):
        theirs.setdefault(one.name, {})[one.store] = one.pieces
    here = now.astimezone(desk.zone)
    told = []
    for candidate in missing:
        supplier = suppliers.get(rows[candidate.item_id].supplier_id or 0)
        coming = [day for _, day in ordered.get(candidate.item_id, []) if day is not None]
        by_order = min(coming, default=None)
        day = by_order or (
            next_delivery(here, supplier.lead_days, supplier.delivers_on, supplier.order_before) if supplier else None
        )
        told.append(
            Awaited(
                item_id=candidate.item_id, expected_on=day, ordered=sum(n for n, _ in ordered.get(candidate.item_id, [])),
                elsewhere=theirs.get(candidate.name, {}),
            )
        )  # fmt: skip
    return told

"""Pieces on the shelf: goods received, what wants a hand today, and what is done to a piece."""

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from ..core.goods.pieces import Due
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.units.model import Day, Model
from ..core.words import say
from ..records import goods
from ..records.goods import PieceWithItem
from ..records.models import PieceEntry, StockPiece
from .counter import MOST
from .desk import Conflict, Desk, NotThere, Refused
from .goods import CloseOrder, PieceView, close_order, piece_view
from .items import item_or_refused, tell_goods

_LIMITS = entry_limits()
PIECES_AT_MOST = 20_000


class Receive(Model):
    """Goods that came: how many of an item, read at arrival."""

    item_id: int = Field(ge=0, le=MOST)
    pieces: int = Field(1, ge=int(_LIMITS["pieces"].low), le=int(_LIMITS["pieces"].high))
    volts: float | None = Field(
        None,
        ge=_LIMITS["piece_volts"].low,
        le=_LIMITS["piece_volts"].high,
        description="rest volts at arrival, the lowest of them",
    )
    made_on: Day | None = None
    dry_charged: bool = False
    order_id: int | None = Field(None, ge=0, le=MOST)


class PieceDone(Model):
    """What was done to a piece."""

    what: Literal["volts", "charged", "filled", "set_aside", "back", "recycled"]
    volts: float | None = Field(None, ge=_LIMITS["piece_volts"].low, le=_LIMITS["piece_volts"].high)


class DueView(BaseModel):
    """The picking list: pieces that want a hand, the most pressing first, and how many there are of each kind."""

    pieces: list[PieceView]
    counts: dict[Due, int]
    in_stock: int
    currency: str


DUE_AT_MOST = 200


def due(desk: Desk, now: datetime) -> DueView:
    """Pieces due for a look at their volts, a charge or a filling, and those that stood too long."""
    today, order = desk.today(now), list(Due)
    pieces = [piece_view(desk, piece, today) for piece in goods.unsold(desk.session, PIECES_AT_MOST)]
    wanting = [
        piece
        for piece in pieces
        if piece.state.due is not Due.NOTHING and not (piece.set_aside or piece.on_the_way or piece.came_back == "dead")
    ]
    wanting.sort(
        key=lambda piece: (order.index(piece.state.due), piece.state.due_on or date.min, piece.arrived_on, piece.id)
    )
    counts: dict[Due, int] = {}
    for piece in wanting:
        counts[piece.state.due] = counts.get(piece.state.due, 0) + 1
    return DueView(pieces=wanting[:DUE_AT_MOST], counts=counts, in_stock=len(pieces), currency=desk.store.currency)


def receive(desk: Desk, came: Receive, now: datetime) -> None:
    """Put goods that came on the shelf, with the volts they were read at."""
    item, today = item_or_refused(desk, came.item_id), desk.today(now)
    if came.made_on is not None and came.made_on > today:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("made_on", say("common.made_in_the_future_read_the_date_code"))],
        )
    if came.volts is not None and came.dry_charged:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("volts", say("pieces.a_dry_piece_shows_no_volts_leave_it_empty"))],
        )
    pieces = [
        StockPiece(
            item_id=item.id, arrived_on=today, made_on=came.made_on, dry_charged=came.dry_charged, last_volts=came.volts,
            last_volts_on=None if came.volts is None else today,
        )
        for _ in range(came.pieces)
    ]  # fmt: skip
    desk.session.add_all(pieces)
    desk.session.flush()
    desk.session.add_all([_entry(desk, piece, "received", now, came.volts) for piece in pieces])
    if came.order_id is not None:
        close_order(desk, came.order_id, CloseOrder(how="received"), now)
    tell_goods(desk)


def _entry(desk: Desk, piece: StockPiece, what: str, now: datetime, volts: float | None = None) -> PieceEntry:
    return PieceEntry(piece_id=piece.id, what=what, done_at=now, staff_id=desk.staff.id, volts=volts, note="")


def piece_or_refused(desk: Desk, piece_id: int) -> PieceWithItem:
    """A piece that is not sold, locked. Raises NotThere, and Conflict for one that went."""
    piece = goods.piece(desk.session, piece_id, lock=True)
    if piece is None:
        raise NotThere(say("pieces.no_such_piece_in_stock"))
    if piece.piece.mark == "on_the_way":
        raise Conflict(say("pieces.this_piece_is_on_its_way_to_another_store"))
    if piece.piece.sold_on is not None:
        raise Conflict(say("pieces.this_piece_was_sold_meanwhile_take_the"))
    return piece


def piece_done(desk: Desk, piece_id: int, done: PieceDone, now: datetime) -> None:
    """Read, charge, fill a piece, or set it aside and take it back."""
    piece, item = piece_or_refused(desk, piece_id)
    today = desk.today(now)
    most = item.nominal_volts * _LIMITS["volts_per_nominal_volt"].high
    if (done.what == "volts" and done.volts is None) or (done.volts is not None and done.volts > most):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("volts", say("pieces.enter_the_volts_at_rest_such_as_12_70"))],
        )
    if done.what in {"volts", "charged"}:
        if done.what == "charged":
            piece.charged_on = today
        if done.volts is not None:
            piece.last_volts, piece.last_volts_on = done.volts, today
    elif done.what == "recycled":
        if piece.mark != "dead":
            raise Refused(
                say("common.it_cannot_be_right"),
                [FieldProblem("what", say("pieces.only_a_dead_one_goes_to_recycling"))],
            )
        piece.sold_on = today
    elif done.what == "filled":
        if not piece.dry_charged or piece.filled_on is not None:
            raise Refused(say("pieces.nothing_to_fill"), [FieldProblem("what", say("pieces.it_is_not_a_dry_piece"))])
        piece.filled_on = piece.charged_on = today
    else:
        desk.only_lead()
        if piece.mark in ("used", "dead"):
            raise Refused(
                say("common.it_cannot_be_right"), [FieldProblem("what", say("pieces.it_came_back_from_a_customer"))]
            )
        piece.mark = "refused" if done.what == "set_aside" else ""
    desk.session.add(_entry(desk, piece, done.what, now, done.volts))
    tell_goods(desk)

"""What people say of a battery beside what was read: own calls and remarks."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from .models import JudgementRow, OwnCall, Remark


def own_call(session: Session, check_id: int) -> OwnCall | None:
    """The last own call of a visit; one that takes back what was said before is None."""
    query = select(OwnCall).where(OwnCall.check_id == check_id).options(joinedload(OwnCall.staff))
    last = session.scalar(query.order_by(OwnCall.id.desc()).limit(1))
    return None if last is None or last.outcome is None else last


def remarks_of(session: Session, check_id: int) -> Sequence[Remark]:
    """What was remarked at a visit, in order; without what was forgotten with its person."""
    query = select(Remark).where(Remark.check_id == check_id, Remark.text != "").options(joinedload(Remark.staff))
    return session.scalars(query.order_by(Remark.id)).all()


def calls_since(session: Session, since: datetime) -> Sequence[tuple[str, str, int]]:
    """How often something else was said than judged: judged, called, how many."""
    last = select(func.max(OwnCall.id)).where(OwnCall.written_at >= since).group_by(OwnCall.check_id)
    rows = session.execute(
        select(JudgementRow.outcome, OwnCall.outcome, func.count())
        .join(JudgementRow, JudgementRow.id == OwnCall.judgement_id)
        .where(OwnCall.id.in_(last), OwnCall.outcome.is_not(None))
        .group_by(JudgementRow.outcome, OwnCall.outcome)
        .order_by(func.count().desc(), JudgementRow.outcome, OwnCall.outcome)
    )
    return [(judged, called or "", count) for judged, called, count in rows]

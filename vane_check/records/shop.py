"""The catalogue, stock, vehicle list and warranty terms."""

import re
from collections.abc import Sequence

from sqlalchemy import func, or_, select
from sqlalchemy.orm import Session, joinedload

from .models import CatalogueItem, TermsRow, Vehicle

YEAR = re.compile(r"(?:19|20)\d\d")


def vehicles(session: Session, at_most: int, typed: str = "") -> Sequence[Vehicle]:
    """The vehicle list by make, model and year; those that hold every word typed. A year is one they were made in."""
    query = select(Vehicle).order_by(
        Vehicle.make, Vehicle.model, Vehicle.from_year, Vehicle.engine, Vehicle.trim, Vehicle.id
    )
    for word in typed.lower().split():
        if YEAR.fullmatch(word):
            year = int(word)
            query = query.where(Vehicle.from_year <= year, or_(Vehicle.to_year.is_(None), Vehicle.to_year >= year))
        else:
            query = query.where(Vehicle.search_text.contains(word, autoescape=True))
    return session.scalars(query.limit(at_most)).all()


def count_vehicles(session: Session) -> int:
    """How many vehicles the list has."""
    return session.scalar(select(func.count()).select_from(Vehicle)) or 0


def vehicle(session: Session, vehicle_id: int) -> Vehicle | None:
    """One vehicle of the list."""
    return session.scalar(select(Vehicle).where(Vehicle.id == vehicle_id))


def same_car(session: Session, make: str, model: str, from_year: int, engine: str, trim: str) -> Vehicle | None:
    """The vehicle of this store's list that another store's names."""
    same = (Vehicle.make == make, Vehicle.model == model, Vehicle.from_year == from_year, Vehicle.engine == engine)
    return session.scalar(select(Vehicle).where(*same, Vehicle.trim == trim).limit(1))


def item(session: Session, item_id: int) -> CatalogueItem | None:
    """One catalogue item."""
    return session.scalar(select(CatalogueItem).where(CatalogueItem.id == item_id))


def terms_of_line(session: Session, line: str) -> Sequence[TermsRow]:
    """Every edition of the warranty terms of a line we sell, as they were written."""
    return session.scalars(
        select(TermsRow).where(func.lower(TermsRow.line) == line.strip().lower()).order_by(TermsRow.id)
    ).all()


def lines(session: Session, at_most: int) -> Sequence[str]:
    """Lines with terms, by name."""
    named = select(func.min(TermsRow.line).label("line")).group_by(func.lower(TermsRow.line)).subquery()
    return session.scalars(select(named.c.line).order_by(named.c.line).limit(at_most)).all()


def all_terms(session: Session, at_most: int) -> Sequence[TermsRow]:
    """Every edition of every line with who wrote it, line by line, as they were written."""
    query = select(TermsRow).options(joinedload(TermsRow.staff)).order_by(func.lower(TermsRow.line), TermsRow.id)
    return session.scalars(query.limit(at_most)).all()


def lines_sold(session: Session, at_most: int) -> Sequence[tuple[str, int]]:
    """The lines of the catalogue with how many items each has."""
    rows = session.execute(
        select(func.min(CatalogueItem.line), func.count())
        .group_by(func.lower(CatalogueItem.line))
        .order_by(func.lower(CatalogueItem.line))
        .limit(at_most)
    )
    return [(line, count) for line, count in rows]


def price_of_line(session: Session, line: str, group_code: str | None, cca_amps: float | None) -> CatalogueItem | None:
    """Today's item nearest to a battery of ours: same line and group, SAE CCA nearest."""
    query = select(CatalogueItem).where(func.lower(CatalogueItem.line) == line.strip().lower())
    if group_code:
        query = query.where(CatalogueItem.group_code == group_code)
    if cca_amps:
        query = query.order_by(func.abs(CatalogueItem.cca_amps - cca_amps))
    return session.scalar(query.order_by(CatalogueItem.price_cents).limit(1))

"""People of the shop: names with initials, and the units each prefers."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from gentle_ember.core.route import initials_of
from gentle_ember.store.front import front
from gentle_ember.store.models import PersonRow
from gentle_ember.units.registry import System


def everyone(session: Session) -> list[PersonRow]:
    """All people, by name."""
    return list(session.scalars(select(PersonRow).order_by(PersonRow.name)))


def remember(session: Session, name: str, units: System | None = None) -> PersonRow:
    """Add a person, or set the units they prefer; a new one begins with the shop's."""
    row = session.scalars(select(PersonRow).where(PersonRow.name == name)).first()
    if row is None:
        row = PersonRow(name=name, initials=initials_of(name), units=units or front(session).units)
        session.add(row)
    elif units:
        row.units = units
    session.flush()
    return row

"""The change log of a job: what is appended, what a write clashes with, what can be undone."""

from __future__ import annotations

from dataclasses import asdict
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from gentle_ember.core.job.change import Change, overlap
from gentle_ember.store.errors import ConflictError
from gentle_ember.store.models import ChangeRow, JobRow


def now() -> datetime:
    """The current time in UTC, without a zone as SQLite keeps it."""
    return datetime.now(UTC).replace(tzinfo=None)


def by_key(session: Session, key: str) -> ChangeRow | None:
    """The write of a key, if it was taken already."""
    return session.scalars(select(ChangeRow).where(ChangeRow.key == key)).first()


def append(
    session: Session,
    row: JobRow,
    kind: str,
    target: int | None,
    key: str,
    who: str,
    changes: list[Change],
    inverse: list[Change],
) -> None:
    """One more revision of a job, with what leads back."""
    row.revision += 1
    session.add(
        ChangeRow(
            job_id=row.id,
            revision=row.revision,
            at=now(),
            who=who,
            kind=kind,
            target=target,
            key=key,
            changes=[asdict(change) for change in changes],
            inverse=[asdict(change) for change in inverse],
        )
    )


def client_of(key: str) -> str:
    """The writer a key belongs to: keys are `writer-number`, and a writer's own are in order.

    >>> client_of("a1b2c3d4-17")
    'a1b2c3d4'
    """
    return key.rpartition("-")[0]


def refuse_overlap(
    session: Session, row: JobRow, changes: list[Change], base: int, writer: str
) -> None:
    """Refuse changes to a place somebody else changed since `base`.

    Raises:
        ConflictError: naming the places, who changed them and when.
    """
    if base >= row.revision:
        return
    since = session.scalars(
        select(ChangeRow)
        .where(ChangeRow.job_id == row.id, ChangeRow.revision > base)
        .order_by(ChangeRow.revision.desc())
    )
    for other in since:
        if writer and client_of(other.key) == writer:
            continue
        clash = overlap(changes, [Change(**entry) for entry in other.changes])
        if clash:
            raise ConflictError(clash, other.who, other.revision)


def stacks(session: Session, job_id: str) -> tuple[list[int], list[int]]:
    """Revisions that can be undone and redone, newest last, derived from the log."""
    rows = session.execute(
        select(ChangeRow.revision, ChangeRow.kind)
        .where(ChangeRow.job_id == job_id)
        .order_by(ChangeRow.revision)
    )
    undo: list[int] = []
    redo: list[int] = []
    for revision, kind in rows:
        if kind == "edit":
            undo.append(revision)
            redo.clear()
        elif kind == "undo":
            redo.append(undo.pop())
        elif kind == "redo":
            undo.append(redo.pop())
    return undo, redo

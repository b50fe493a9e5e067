"""The change log of a job: what is appended, what a write clashes with, what can be undone."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from datetime import UTC, datetime

from sqlalchemy import bindparam, insert, select
from sqlalchemy.orm import Session
from sqlalchemy.orm.attributes import set_committed_value

from gentle_ember.core.job.change import Change, Stacks, client_of, overlap, stacked
from gentle_ember.store.errors import ConflictError, NothingToUndoError
from gentle_ember.store.models import ChangeRow, JobRow


def now() -> datetime:
    """The current time in UTC, without a zone as SQLite keeps it."""
    return datetime.now(UTC).replace(tzinfo=None)


BY_KEY = select(ChangeRow.job_id).where(ChangeRow.key == bindparam("key"))


def by_key(session: Session, key: str) -> str | None:
    """The job a write of this key was taken for already."""
    return session.scalar(BY_KEY, {"key": key})


MOST_ASKED = 500
"""Keys looked for at a time: SQLite takes no statement with more places than a few thousand."""


def known_keys(session: Session, keys: list[str]) -> set[str]:
    """Those of many keys that belong to a write that was taken already."""
    found: set[str] = set()
    for start in range(0, len(keys), MOST_ASKED):
        some = keys[start : start + MOST_ASKED]
        found.update(session.scalars(select(ChangeRow.key).where(ChangeRow.key.in_(some))))
    return found


_APPEND = insert(ChangeRow)


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
    set_committed_value(row, "revision", row.revision + 1)  # written with the document
    values = {
        "job_id": row.id,
        "revision": row.revision,
        "at": now(),
        "who": who,
        "kind": kind,
        "target": target,
        "key": key,
        "changes": [asdict(change) for change in changes],
        "inverse": [asdict(change) for change in inverse],
    }
    session.connection().execute(_APPEND, values)


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


@dataclass(frozen=True, slots=True)
class ReadUpTo:
    """What a log came to up to one of its writes, so that only what follows is read again."""

    last: tuple[int, str, int | None, str] | None
    """The write itself, as the log has it: revision, kind, target, key; None before the first."""
    stacks: Stacks
    another: bool = False
    """Whether it is another log than the one that was read before under the same numbers."""

    @property
    def revision(self) -> int:
        """The write's revision."""
        return self.last[0] if self.last else 0


def stacks(session: Session, job_id: str) -> Stacks:
    """What can be undone and redone of a job, derived from its log.

    Raises:
        NothingToUndoError: the log is damaged.
    """
    return read_on(session, job_id, None).stacks


_SINCE = (
    select(ChangeRow.revision, ChangeRow.kind, ChangeRow.target, ChangeRow.key)
    .where(ChangeRow.job_id == bindparam("job"), ChangeRow.revision >= bindparam("since"))
    .order_by(ChangeRow.revision)
)


def read_on(session: Session, job_id: str, known: ReadUpTo | None) -> ReadUpTo:
    """The same, from where it was read before; from its beginning where that is another log now.

    Raises:
        NothingToUndoError: the log is damaged.
    """
    rows: list[tuple[int, str, int | None, str]] = []

    def since(revision: int) -> list[tuple[int, str, int | None, str]]:
        found = session.execute(_SINCE, {"job": job_id, "since": revision})
        return [(row.revision, row.kind, row.target, row.key) for row in found]

    if known is not None and known.last is not None:
        rows = since(known.revision)
    begun = known.stacks if known is not None and rows and rows[0] == known.last else None
    if begun is not None:
        rows = rows[1:]
        if not rows and known is not None:
            return known
    else:
        rows = since(0)
    try:
        found = stacked(rows, begun)
    except ValueError as error:
        raise NothingToUndoError(f"The log of this job is damaged: {error}.") from error
    another = known is not None and known.last is not None and begun is None
    return ReadUpTo(rows[-1] if rows else None, found, another)


def later(session: Session, job_id: str, target: ChangeRow) -> ChangeRow | None:
    """A write after another one, at one of its places, that still stands; the newest of them."""
    standing = {at for at, _ in stacks(session, job_id).undo}
    places = [Change(**entry) for entry in target.changes]
    since = session.scalars(
        select(ChangeRow)
        .where(ChangeRow.job_id == job_id, ChangeRow.revision > target.revision)
        .order_by(ChangeRow.revision.desc())
    )
    for other in since:
        if other.revision in standing and overlap(
            places, [Change(**entry) for entry in other.changes]
        ):
            return other
    return None

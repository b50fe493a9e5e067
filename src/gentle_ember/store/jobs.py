"""Jobs: create, change, undo, copy; every write is one transaction with its log entry."""

from __future__ import annotations

import uuid
from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from threading import Lock
from typing import Any, TypeVar

from pydantic import ValidationError
from sqlalchemy import Engine, bindparam, insert, select, update
from sqlalchemy.orm import Session, defer, sessionmaker
from sqlalchemy.orm.attributes import set_committed_value

from gentle_ember.core.base.errors import ChangeError
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.measured import lessons_taught
from gentle_ember.core.job.change import Change, Stacks, apply, client_of, hand_of
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part_copies import UnknownPartError
from gentle_ember.core.people import Acting, refuse_hand
from gentle_ember.core.plan import plan
from gentle_ember.core.route import (
    COMPUTED,
    ON_DEMAND,
    Unearned,
    copied,
    implied,
    next_on_set,
    refusals,
    unearned,
)
from gentle_ember.core.shop import Lesson, ShopFront, Taught
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.times import LearnedTime
from gentle_ember.store import board
from gentle_ember.store.database import Document
from gentle_ember.store.errors import (
    FieldError,
    InvalidJobError,
    NotFoundError,
    NothingToUndoError,
    UnearnedError,
    UnreadableJobError,
)
from gentle_ember.store.front import front, put_front
from gentle_ember.store.log import (
    BY_KEY,
    ReadUpTo,
    append,
    by_key,
    known_keys,
    later,
    now,
    read_on,
    refuse_overlap,
)
from gentle_ember.store.models import ChangeRow, JobRow
from gentle_ember.store.news import News
from gentle_ember.store.parts import PartStore
from gentle_ember.store.validate import field_errors, valid_job

K = TypeVar("K")
V = TypeVar("V")
KEPT_JOBS = 16
MOST_LOOKS = 4
"""So often the lessons are read while others write; then what was read last stands for once."""
LEAST_ROUNDS = 4
"""Taking one signature back can take the ground from another: so often it is looked again."""


@dataclass(frozen=True, slots=True)
class Stored:
    """A job as it stands: document, revision, and whether there is something to undo or redo."""

    id: str
    revision: int
    job: Job
    updated_at: datetime
    can_undo: bool
    can_redo: bool
    document: Document | None = None
    """As it was written; none where nothing was."""

    @property
    def text(self) -> str:
        """The job as JSON."""
        return self.job.model_dump_json() if self.document is None else self.document.text


@dataclass(frozen=True, slots=True)
class Whole:
    """A job at one revision; neither is to be changed."""

    job: Job
    document: Document


def _keep_latest(kept: OrderedDict[K, V], place: K, value: V) -> None:
    """Keep what was seen last of so many jobs."""
    kept[place] = value
    while len(kept) > KEPT_JOBS:
        kept.popitem(last=False)


def not_earned(found: Iterable[Unearned]) -> UnearnedError:
    """What of a job from elsewhere is not allowed here, each at its place."""
    return UnearnedError([FieldError(one.refusal.path, one.refusal.text) for one in found])


class JobStore:
    """All access to jobs; one instance a process."""

    def __init__(self, engine: Engine, parts: PartStore) -> None:
        self.engine = engine
        self.parts = parts
        self._kept: OrderedDict[tuple[str, int, datetime], Whole] = OrderedDict()
        self._read: OrderedDict[str, ReadUpTo] = OrderedDict()
        self._rows: OrderedDict[str, board.Written] = OrderedDict()
        self.news = News()
        self._times: Mapping[str, LearnedTime] | None = None
        self._taught, self._taught_read = Taught(), False
        self._told_of: dict[str, tuple[int, datetime]] = {}
        self._writes = 0
        self._lock = Lock()
        self.reading = sessionmaker(engine)
        self.writing = sessionmaker(engine.execution_options(write=True), expire_on_commit=False)

    @property
    def catalog(self) -> Catalog:
        """The catalog as it stands now."""
        return self.parts.catalog

    @property
    def times(self) -> Mapping[str, LearnedTime]:
        """What this shop took for each kind of step of the bench; read anew when one is timed."""
        # Held by a name of its own: a write on another thread may clear it at any time.
        times = self._times
        if times is None:
            with self.reading.begin() as session:
                times = self._times = board.all_times(session)
        return times

    @property
    def taught(self) -> Taught:
        """What every job taught: read once, then kept by what is written here."""
        found = self._taught
        for _ in range(MOST_LOOKS):
            if self._taught_read:
                return self._taught
            asked_at = self._writes
            with self.reading.begin() as session:
                lessons, fronted = board.all_lessons(session), front(session)
            with self._lock:
                found = self._taught.renewed(lessons, fronted)
                # What was written meanwhile may not have been read: then it is read again.
                if asked_at == self._writes:
                    self._taught, self._taught_read = found, True
        return found

    def plan(self, job: Job, job_id: str = "") -> Plan:
        """The plan of a job over this shop's catalog and what its other jobs taught.

        Asked again, the same. A job that is none of the shop's has no id.
        """
        return plan(job, self.catalog, self.taught.but(job_id), date.today())

    def _planned(self, job: Job, job_id: str) -> Plan:
        """The same within a write, by the shop as last read.

        Neither a board's row nor a stop depends on it, and a write that waited for a second
        connection would wait for writers that wait for it.
        """
        return plan(job, self.catalog, self._taught.but(job_id), date.today())

    def _written(self, stored: Stored, before: Job | None = None) -> Stored:
        """After a write is committed, and not before: others may read meanwhile.

        What all the others taught is not read again: a shop has thousands of jobs.
        """
        if before is None:
            self._read_anew()
        else:
            now, was = (self._planned(job, stored.id) for job in (stored.job, before))
            if board.timed(now) != board.timed(was):
                self._times = None
            self._teach(stored, now.of(lessons_taught))
        self.news.tell(stored.id, stored.revision)
        return stored

    def _read_anew(self) -> None:
        """What the shop taught, and how long its work took, is asked for again."""
        with self._lock:
            self._writes += 1
            self._times, self._taught_read = None, False

    def _teach(self, stored: Stored, lessons: tuple[Lesson, ...]) -> None:
        """What a job teaches now, in place of what it taught; never over a later write's."""
        with self._lock:
            self._writes += 1
            told = self._told_of.get(stored.id)
            # By both: a clock may be set back, and a database may be put back beneath a server.
            if told and told[0] > stored.revision and told[1] > stored.updated_at:
                return
            self._told_of[stored.id] = stored.revision, stored.updated_at
            if lessons != self._taught.of(stored.id):
                self._taught = self._taught.with_job(stored.id, lessons)

    def put_front(self, wanted: ShopFront) -> ShopFront:
        """Keep the shop's settings; every plan asked for later reads them.

        Raises:
            InvalidJobError: at the field that can't be.
        """
        with self.writing.begin() as session:
            put_front(session, wanted)
        self._read_anew()
        return self.taught.front

    def create(self, document: dict[str, Any], who: str, key: str | None = None) -> Stored:
        """A new job from a document; the same `key` twice gives the same job."""
        job = valid_job(document)
        with self.writing.begin() as session:
            if key and (known := by_key(session, key)):
                return self._stored(session, known)
            stored = self._made(session, job, who, key or str(uuid.uuid4()))
        return self._written(stored)

    def _made(self, session: Session, job: Job, who: str, key: str) -> Stored:
        """A new job, in the caller's transaction; it holds nothing it did not earn."""
        refused = unearned(job, self._planned(job, ""))
        if refused:
            raise not_earned(refused)
        return self._insert(session, str(uuid.uuid4()), job, who, key)

    def _insert(self, session: Session, job_id: str, job: Job, who: str, key: str) -> Stored:
        at = now()
        full = job.model_dump(mode="json")
        session.add(JobRow(id=job_id, revision=1, document=full, created_at=at, updated_at=at))
        session.flush()
        session.add(
            ChangeRow(
                job_id=job_id,
                revision=1,
                at=at,
                who=who,
                kind="create",
                target=None,
                key=key,
                changes=[],
                inverse=[],
            )
        )
        board.write(session, job_id, self._planned(job, job_id), at)
        session.flush()
        return Stored(job_id, 1, job, at, False, False)

    def get(self, job_id: str) -> Stored:
        """The job as it stands.

        Raises:
            NotFoundError: there is no such job.
        """
        with self.reading.begin() as session:
            return self._stored(session, job_id)

    def _stored(self, session: Session, job_id: str, key: str = "") -> Stored:
        row = _row(session, job_id)
        whole = self._whole(row)
        return self._told(session, row, whole.job, key, whole.document)

    def _told(
        self, session: Session, row: JobRow, job: Job, key: str = "",
        document: Document | None = None,
    ) -> Stored:  # fmt: skip
        """A job as it stands, with what can be undone: by the device of a key, else by any."""
        back: object = False
        on: object = False
        try:
            found, hand = self._stacks(session, row.id), hand_of(key)
            back = found.own("undo", hand) if hand else found.undo
            on = found.own("redo", hand) if hand else found.redo
        except NothingToUndoError:  # a damaged log keeps nobody from the job; `check` names it
            pass
        return Stored(
            row.id, row.revision, job, row.updated_at, bool(back), bool(on), document
        )  # fmt: skip

    def _stacks(self, session: Session, job_id: str) -> Stacks:
        """What can be undone and redone; only what was written since the last look is read."""
        with self._lock:
            known = self._read.get(job_id)
        found = read_on(session, job_id, known)
        if found is not known and found.another:
            self._read_anew()  # another database was put in this one's place
        with self._lock:
            _keep_latest(self._read, job_id, found)
        return found.stacks

    def preview(self, job_id: str, changes: list[Change]) -> Stored:
        """The job as it would be, without saving it."""
        _refuse_computed(changes)
        with self.reading.begin() as session:
            row = _row(session, job_id)
            job, _, _ = self._changed(row, changes)
            return self._told(session, row, job)

    def change(
        self,
        job_id: str,
        changes: list[Change],
        *,
        base: int,
        key: str,
        who: str,
        acting: Acting | None = None,
    ) -> Stored:
        """Apply changes made against revision `base`; merges with others' elsewhere in the job.

        Args:
            job_id: the job's.
            changes: what is changed.
            base: the revision they were made against.
            key: makes the write one, however often it is sent.
            who: whose write it is, for the log.
            acting: who is signed in; None where nobody signs in.

        Raises:
            NotYoursError: it puts down somebody else's name.
            CodeNeededError: it signs, and the code was not given.
            NotFoundError: there is no such job.
            ConflictError: the same place was changed since `base`.
            InvalidJobError: the job would not be valid; nothing is saved.
        """
        with self.writing.begin() as session:
            row, known = _row_and_write(session, job_id, key)
            if known:
                return self._stored(session, job_id)
            refuse_overlap(session, row, changes, base, client_of(key))
            _refuse_computed(changes)
            if acting is not None:
                whole = self._whole(row)
                refuse_hand(acting, whole.job, _applied(whole, changes)[0], changes)
            before = self._whole(row).job
            stored = self._edited(session, row, changes, key, who)
        return self._written(stored, before)

    def _edited(
        self, session: Session, row: JobRow, changes: list[Change], key: str, who: str
    ) -> Stored:
        """A job changed, in the caller's transaction, past every gate."""
        before = self._whole(row)
        job, changes, inverse = self._changed(row, changes)
        self._refuse_past_stops(before.job, job, row.id)
        append(session, row, "edit", None, key, who, changes, inverse)
        return self._save(session, row, job, before, key)

    def _whole(self, row: JobRow) -> Whole:
        """A job with the fields an earlier version lacked, as a model and as a document.

        While somebody types, the same revision is asked for again and again.
        """
        place = (row.id, row.revision, row.updated_at)
        with self._lock:
            known = self._kept.get(place)
        if known is None:
            job = read_job(row)
            known = self._keep(row, Whole(job, Document(job.model_dump(mode="json"))))
        return known

    def _keep(self, row: JobRow, whole: Whole) -> Whole:
        with self._lock:
            _keep_latest(self._kept, (row.id, row.revision, row.updated_at), whole)
        return whole

    def _changed(
        self, row: JobRow, changes: list[Change]
    ) -> tuple[Job, list[Change], list[Change]]:
        """A job changed, with what the change brings with it; what was done, and its inverse."""
        whole = self._whole(row)
        job, inverse = _applied(whole, changes)
        try:
            brought = implied(whole.job, self._planned(job, row.id))
        except UnknownPartError as error:
            raise InvalidJobError([FieldError(error.path, str(error))]) from None
        if brought:
            changes = [*changes, *brought]
            job, inverse = _applied(whole, changes)
        return job, changes, inverse

    def _refuse_past_stops(self, before: Job, after: Job, job_id: str) -> None:
        """Every write passes the gate of every stage, whoever makes it."""
        found = refusals(before, self._planned(after, job_id))
        if found:
            raise InvalidJobError([FieldError(one.path, one.text) for one in found])

    def undo(
        self, job_id: str, *, key: str, who: str, acting: Acting | None = None
    ) -> Stored:  # fmt: skip
        """Append the inverse of the newest change of this device that is not yet undone.

        Raises:
            NothingToUndoError: it has none, or another device wrote at the same place since.
        """
        return self._step(job_id, "undo", key, who, acting)

    def redo(
        self, job_id: str, *, key: str, who: str, acting: Acting | None = None
    ) -> Stored:  # fmt: skip
        """Append again the newest change of this device that was undone."""
        return self._step(job_id, "redo", key, who, acting)

    def _step(
        self, job_id: str, kind: str, key: str, who: str, acting: Acting | None
    ) -> Stored:  # fmt: skip
        with self.writing.begin() as session:
            row, known = _row_and_write(session, job_id, key)
            if known:
                return self._stored(session, job_id)
            found = self._stacks(session, job_id)
            at = found.own(kind, hand_of(key))
            if at is None:
                others = found.undo if kind == "undo" else found.redo
                elsewhere = " Other devices' changes are theirs to take back." if others else ""
                raise NothingToUndoError(f"Nothing of this device's to {kind}.{elsewhere}")
            target = session.scalars(
                select(ChangeRow).where(ChangeRow.job_id == job_id, ChangeRow.revision == at)
            ).one()
            if other := later(session, job_id, target):
                by = other.who or "Somebody"
                raise NothingToUndoError(
                    f"{by} changed the same place since, on another device: nothing was taken back."
                )
            wanted = target.inverse if kind == "undo" else target.changes
            changes = [Change(**entry) for entry in wanted]
            before = self._whole(row)
            job, changes, inverse = self._changed(row, changes)
            if acting is not None:  # what comes back signed is signed by whoever brings it back
                refuse_hand(acting, before.job, job, [])
            self._refuse_past_stops(before.job, job, row.id)
            append(session, row, kind, target.revision, key, who, changes, inverse)
            stored = self._save(session, row, job, before, key)
        return self._written(stored, before.job)

    def _save(
        self, session: Session, row: JobRow, job: Job, before: Whole, key: str = ""
    ) -> Stored:  # fmt: skip
        document, was_at, at = _document(job, before), row.updated_at, now()
        values = {"revision": row.revision, "document": document, "updated_at": at}
        session.connection().execute(_REWRITE, {"job": row.id, **values})
        set_committed_value(row, "updated_at", at)
        set_committed_value(row, "document", document)
        self._keep(row, Whole(job, document))
        with self._lock:
            held = self._rows.get(row.id)
        # Another process may have written since, and a write that was kept here may have failed.
        standing = held if held is not None and held.at == was_at else None
        planned = self._planned(job, row.id)
        written = board.write(session, row.id, planned, row.updated_at, standing)
        with self._lock:
            _keep_latest(self._rows, row.id, written)
        return self._told(session, row, job, key, document)

    def duplicate(self, job_id: str, *, who: str, key: str) -> Stored:
        """A new job with the same set, sites and wishes; nothing done in it yet."""
        source = self.get(job_id).job
        return self.create(copied(source).model_dump(mode="json"), who, key)

    def carry_on(self, job_id: str, *, who: str, key: str, today: date) -> Stored:
        """A new job on the very set of another, whose logbook goes on in it and ends in the other.

        The same `key` twice makes one job.
        """
        with self.writing.begin() as session:
            if known := by_key(session, key):
                return self._stored(session, known)
            row = _row(session, job_id)
            source = self._whole(row).job
            made = self._made(session, next_on_set(source, job_id), who, key)
            if source.logbook.ended_as != "next_job":
                ends = [
                    Change("logbook.ended", today.isoformat()),
                    Change("logbook.ended_as", "next_job"),
                ]
                self._edited(session, row, ends, f"{key}-ends", who)
        self._written(self.get(job_id))
        return self._written(made)

    def adopt(
        self,
        job_id: str,
        revision: int,
        job: Job,
        log: list[dict[str, Any]],
        who: str,
        *,
        take_back: bool = False,
    ) -> Stored:
        """Take in a job with its history from elsewhere; under a new id if this one is taken.

        Signatures and acts pass the same gate as any write.

        Args:
            job_id: as it was.
            revision: as it was.
            job: the job.
            log: its writes.
            who: takes it in.
            take_back: take it in without what does not pass, as a change of its own.

        Raises:
            UnearnedError: something in it would not be allowed here as it stands.
        """
        refused = unearned(job, self._planned(job, job_id))
        if refused and not take_back:
            raise not_earned(refused)
        document = job.model_dump(mode="json")
        entries = [{**entry, "at": datetime.fromisoformat(entry["at"])} for entry in log]
        with self.writing.begin() as session:
            taken = session.get(JobRow, job_id) is not None
            new_id = str(uuid.uuid4()) if taken else job_id
            at = now()
            session.add(
                JobRow(
                    id=new_id, revision=revision, document=document, created_at=at, updated_at=at
                )
            )
            session.flush()
            used = known_keys(session, [entry["key"] for entry in entries])
            for entry in entries:
                fresh = str(uuid.uuid4()) if entry["key"] in used else entry["key"]
                entry |= {"job_id": new_id, "key": fresh}
            if entries:
                session.execute(insert(ChangeRow), entries)
            if refused:
                row = _row(session, new_id)
                self._without(session, row, refused, who)
                job = self._whole(row).job
            board.write(session, new_id, self._planned(job, new_id), at)
            session.flush()
            stored = self._stored(session, new_id)
        return self._written(stored)

    def refuse_unearned(self, job_id: str, job: Job) -> None:
        """Refuse a job from elsewhere that holds what would not be allowed here.

        Raises:
            UnearnedError: with each of it at its place.
        """
        refused = unearned(job, self._planned(job, job_id))
        if refused:
            raise not_earned(refused)

    def _without(
        self, session: Session, row: JobRow, refused: tuple[Unearned, ...], who: str
    ) -> None:
        """Signatures and acts taken back that do not pass; what rested on them follows."""
        for _ in range(LEAST_ROUNDS):
            back = list({one.back.path: one.back for one in refused}.values())
            before = self._whole(row)
            job, changes, inverse = self._changed(row, back)
            append(session, row, "edit", None, f"{uuid.uuid4()}", who, changes, inverse)
            self._save(session, row, job, before)
            refused = unearned(job, self._planned(job, row.id))
            if not refused:
                return
        raise not_earned(refused)

    def log(self, job_id: str) -> list[ChangeRow]:
        """The change log, oldest first."""
        with self.reading.begin() as session:
            _row(session, job_id)
            rows = session.scalars(
                select(ChangeRow).where(ChangeRow.job_id == job_id).order_by(ChangeRow.revision)
            ).all()
            session.expunge_all()
            return list(rows)


def open_jobs(engine: Engine, shipped: Catalog) -> JobStore:
    """The jobs of a database over a shipped catalog, the shop's own parts laid over it."""
    return JobStore(engine, PartStore(engine, shipped))


def read_job(row: JobRow) -> Job:
    """The job of a row.

    Raises:
        UnreadableJobError: a newer version wrote it, or it was damaged.
    """
    try:
        return Job.model_validate(row.document)
    except ValidationError as error:
        first = field_errors(error)[0]
        raise UnreadableJobError(
            f"This version of Gentle Ember can't read this job. {first.path}: {first.message} "
            "It is kept as it is. Update, or bring it back from a backup."
        ) from error


_UNREAD = (defer(JobRow.document),)
"""A row's document is unpacked only where no earlier look at this revision is kept."""


def _row(session: Session, job_id: str) -> JobRow:
    row = session.get(JobRow, job_id, options=_UNREAD)
    if row is None:
        raise NotFoundError("There is no such job.")
    return row


_REWRITE = (
    update(JobRow)
    .where(JobRow.id == bindparam("job"))
    .values(
        revision=bindparam("revision"), document=bindparam("document"),
        updated_at=bindparam("updated_at"),
    )
)  # fmt: skip
_ROW_AND_WRITE = (
    select(JobRow, BY_KEY.scalar_subquery()).where(JobRow.id == bindparam("job")).options(*_UNREAD)
)


def _row_and_write(session: Session, job_id: str, key: str) -> tuple[JobRow, str | None]:
    """A job's row, and the job a write of this key was taken for already: in one question."""
    found = session.execute(_ROW_AND_WRITE, {"job": job_id, "key": key}).one_or_none()
    if found is None:
        raise NotFoundError("There is no such job.")
    return found[0], found[1]


def _refuse_computed(changes: list[Change]) -> None:
    """What the core writes by itself is not typed; a person may only take an entry out."""
    for change in changes:
        for place in COMPUTED:
            depth = place.count(".") + 1
            if change.keys[:depth] != place.split(".")[: len(change.keys)]:
                continue
            if not (change.remove and len(change.keys) == depth + 1):
                message = "This is worked out from the rest of the job, and can't be typed."
                raise InvalidJobError([FieldError(change.path, message)])


def _applied(whole: Whole, changes: list[Change]) -> tuple[Job, list[Change]]:
    try:
        new, inverse = apply(whole.document, changes, ON_DEMAND)
    except ChangeError as error:
        raise InvalidJobError([FieldError(changes[0].path, str(error))]) from None
    return valid_job(new, (whole.job, whole.document)), inverse


def _document(job: Job, before: Whole) -> Document:
    """A job as a document that shares with the one before it whatever did not change."""
    changed = {
        name for name in Job.model_fields if getattr(job, name) is not getattr(before.job, name)
    }
    return Document({**before.document, **job.model_dump(mode="json", include=changed)})

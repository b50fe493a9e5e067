"""Check a data folder: database, jobs that validate, their logs, board rows, files."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import select, text
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

from gentle_ember.catalog import load
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.core.stages.hand_over.seals import faults
from gentle_ember.store import board
from gentle_ember.store.attachments import AttachmentStore, settled
from gentle_ember.store.database import database_path, open_engine
from gentle_ember.store.errors import InvalidJobError, NothingToUndoError
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.log import stacks
from gentle_ember.store.models import ChangeRow, JobRow
from gentle_ember.store.upgrade import bring_up
from gentle_ember.store.validate import valid_job


def check(data: Path, *, repair: bool) -> list[str]:
    """Everything that is not as it should be, a sentence each.

    Args:
        data: the data folder; brought up to this version first.
        repair: put right what can be worked out anew, and clear away files of no job.
    """
    if not database_path(data).exists():
        return [f"{data} holds no shop."]
    try:
        bring_up(data)
        jobs = open_jobs(open_engine(data), load())
        attachments = AttachmentStore(data)
        with (jobs.writing if repair else jobs.reading).begin() as session:
            found = [f"The database is damaged: {one}" for one in _damage(session)]
            wanted: set[str] = set()
            for row in session.scalars(select(JobRow)):
                try:
                    job = valid_job(row.document)
                except InvalidJobError as error:
                    found.append(f"Job {row.id}: {error}")
                    continue
                wanted |= {entry.sha256 for entry in job.attachments.values()}
                found += [f"Job {row.id}: {one}" for one in _files(job, attachments)]
                found += [f"Job {row.id}: {one}" for one in faults(job)]
                found += [f"Job {row.id}: {one}" for one in _log(session, row)]
            for job_id in board.compare(session, jobs.catalog, repair=repair):
                done = "rebuilt" if repair else "differs from the job"
                found.append(f"Job {job_id}: board row {done}")
            found += _left_over(session, attachments, wanted, clear=repair)
    except DatabaseError as error:
        return [f"The database is damaged: {error.orig}. Restore the last backup."]
    return found


def _damage(session: Session) -> list[str]:
    verdicts = list(session.execute(text("PRAGMA integrity_check")).scalars())
    return [] if verdicts == ["ok"] else [str(one) for one in verdicts]


def _files(job: Job, attachments: AttachmentStore) -> Iterator[str]:
    for entry in job.attachments.values():
        path = attachments.path(entry.sha256)
        kept = path.read_bytes() if path.is_file() else b""
        if hashlib.sha256(kept).hexdigest() != entry.sha256:
            yield f"file “{entry.name}” is missing or damaged"


def _log(session: Session, row: JobRow) -> Iterator[str]:
    """What is wrong with a job's log: a write that is gone, or one that can't be read."""
    log = select(ChangeRow).where(ChangeRow.job_id == row.id).order_by(ChangeRow.revision)
    try:
        rows = list(session.scalars(log))
        for one in rows:
            for entry in (*one.changes, *one.inverse):
                Change(**entry)
    except (ValueError, TypeError):
        yield "a write of its log can't be read"
        return
    revisions = [one.revision for one in rows]
    last = revisions[-1] if revisions else 0
    if last != row.revision:
        yield f"its log ends at revision {last}, the job is at {row.revision}"
    if revisions and len(revisions) != last - revisions[0] + 1:
        yield "a write is missing within its log"
    try:
        stacks(session, row.id)
    except NothingToUndoError:
        yield "its log takes back a write that is not there"


def _left_over(
    session: Session, attachments: AttachmentStore, wanted: set[str], *, clear: bool
) -> Iterator[str]:
    """Files that no job names, nor any write that could be undone."""
    kept = {path.name: path for path in attachments.all() if path.name not in wanted}
    if not kept:
        return
    for changes, inverse in session.execute(select(ChangeRow.changes, ChangeRow.inverse)):
        named = str(changes) + str(inverse)
        for digest in [one for one in kept if one in named]:
            del kept[digest]
    for digest, path in sorted(kept.items()):
        # One that came just now may be of a job that is still on its way.
        if not settled(path):
            continue
        if clear:
            path.unlink()
        yield f"File {digest[:12]}… belongs to no job" + (": taken away" if clear else "")

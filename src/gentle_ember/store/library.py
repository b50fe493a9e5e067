"""The shop's library of sets: earlier jobs on sets like the one at hand."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select

from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job, Look
from gentle_ember.core.stages.intake.alike import Likeness, likeness, offered
from gentle_ember.core.stages.intake.walk_round import BY_KEY
from gentle_ember.core.stages.method.registry import SCHOOLS
from gentle_ember.store.board import match_any, matching
from gentle_ember.store.errors import UnreadableJobError
from gentle_ember.store.jobs import JobStore, read_job
from gentle_ember.store.models import BoardRow, JobRow

MOST = 5


@dataclass(frozen=True, slots=True)
class Like:
    """An earlier job on a set like this one: what it would give, and what was learned on it."""

    job_id: str
    job: Job
    likeness: Likeness
    offers: dict[str, Fact]
    learned: tuple[str, ...]


def alike(jobs: JobStore, job_id: str) -> list[Like]:
    """Earlier jobs on sets like this job's, most alike first."""
    job = jobs.get(job_id).job
    words = [job.set.maker, job.set.model, job.set.engine_family]
    query = match_any(words)
    if not query:
        return []
    with jobs.reading.begin() as session:
        statement = (
            select(JobRow)
            .join(BoardRow, BoardRow.job_id == JobRow.id)
            .where(
                BoardRow.number.in_(matching(query)),
                JobRow.id != job_id,
            )
            .order_by(JobRow.updated_at.desc())
            .limit(200)
        )
        rows = list(session.scalars(statement))
        session.expunge_all()
    found = []
    for row in rows:
        try:
            other_id, other = row.id, read_job(row)
        except UnreadableJobError:
            continue  # named by `check`; none of the others is kept away by it
        like = likeness(job.set, other.set)
        if like is not None:
            found.append(Like(other_id, other, like, offered(job, other), _learned(other)))
    found.sort(key=lambda one: (-one.likeness.rank, -len(one.offers)))
    return found[:MOST]


def _learned(job: Job) -> tuple[str, ...]:
    """What an earlier job says in words: method and reason, what was bad, notes on the set."""
    lines = []
    names = [SCHOOLS[key].name for key in job.choice.methods if key in SCHOOLS]
    if names:
        reason = f": {job.choice.reason.strip()}" if job.choice.reason.strip() else ""
        lines.append(f"{' + '.join(names)}{reason}")
    for key, seen in job.findings.items():
        if seen.look is Look.BAD and key in BY_KEY:
            note = seen.note.strip() or BY_KEY[key].bad
            lines.append(f"{BY_KEY[key].title}: {note}")
    if job.set.note.strip():
        lines.append(job.set.note.strip())
    return tuple(lines)

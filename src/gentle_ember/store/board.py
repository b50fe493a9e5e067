"""The board's index: written with each job, searched, counted, rebuilt and compared."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import astuple, dataclass
from datetime import date, datetime
from typing import Any

from pydantic import BaseModel, ConfigDict
from sqlalchemy import Select, func, select, text, update
from sqlalchemy.orm import Session

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.measured import lessons_taught
from gentle_ember.core.job.job import Job, WaitsFor, machine_name
from gentle_ember.core.job.site import gases_here
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions, current_stage, handed_over, questions, waits_for
from gentle_ember.core.shop import Lesson
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fit.times import LearnedTime, learn
from gentle_ember.core.stages.logbook.round import SetInService
from gentle_ember.core.stages.logbook.upkeep import (
    due_on,
    in_service,
    kept,
    read_kept,
    standing_here,
)
from gentle_ember.store.errors import InvalidJobError
from gentle_ember.store.models import BoardRow, JobRow
from gentle_ember.store.validate import valid_job

IN_SERVICE = "in_service"
"""Where a set that was handed over stands on the board: it waits for nothing of the shop's."""


def _served(job: Job) -> bool:
    waits = waits_for(job) is not WaitsFor.NOTHING
    return handed_over(job) and not waits and in_service(job.logbook) is not None


class BoardShown(BaseModel):
    """What the board only shows of a job: one more is a field here and its line in `shown`."""

    model_config = ConfigDict(frozen=True)

    title: str
    owner: str
    set_label: str
    site_label: str
    stage: str
    stops: int
    questions: int
    running_w: float | None
    fuels: list[str]


def shown(planned: Plan) -> BoardShown:
    """The same on whatever day."""
    job, site = planned.job, planned.site
    fuels = [str(FuelKey.GASOLINE)] if site.gasoline else []
    return BoardShown(
        title=job.title,
        owner=job.owner,
        set_label=machine_name(job),
        site_label=site.name,
        stage=current_stage(job),
        stops=sum(c.severity is Severity.STOP and not c.by_date for c in planned.of(cautions)),
        questions=len(planned.of(questions)),
        running_w=job.set.running.value if job.set.running else None,
        fuels=[*fuels, *map(str, gases_here(site))],
    )


def entry(planned: Plan) -> dict[str, Any]:
    """A job's row, except its id and time; the same on whatever day."""
    job = planned.job
    return {
        "waits_for": IN_SERVICE if _served(job) else str(waits_for(job)),
        "archived": job.archived,
        "shown": shown(planned).model_dump(),
        "times": [list(one) for one in timed(planned)],
        "lessons": [list(astuple(one)) for one in planned.of(lessons_taught)],
        "service": kept(planned.of(standing_here)) if in_service(job.logbook) else {},
    }


def timed(planned: Plan) -> list[tuple[str, int]]:
    """Kind and seconds of every step that was done and timed."""
    if not planned.job.fit.steps:
        return []
    return [
        (one.step.kind, one.record.seconds)
        for one in planned.of(fit_sheet).steps
        if one.record.state == "done" and one.record.seconds
    ]


def all_times(session: Session) -> dict[str, LearnedTime]:
    """What the shop took for each kind of step, over all its jobs."""
    rows = session.scalars(select(BoardRow.times).where(func.json_array_length(BoardRow.times) > 0))
    return learn((str(kind), float(seconds)) for row in rows for kind, seconds in row)


def all_lessons(session: Session) -> dict[str, tuple[Lesson, ...]]:
    """What each job of the shop measured against its estimates, by job."""
    rows = session.execute(
        select(BoardRow.job_id, BoardRow.lessons).where(
            func.json_array_length(BoardRow.lessons) > 0
        )
    )
    return {job_id: tuple(Lesson(*one) for one in lessons) for job_id, lessons in rows}


def _searched(job: Job) -> str:
    parts = [job.title, job.owner, job.wish, job.set.maker, job.set.model, job.set.serial]
    parts += [job.set.engine_family]
    parts += [site.name for site in job.sites.values()]
    return " ".join(part for part in parts if part)


def rows_of(session: Session, jobs: Sequence[str]) -> dict[str, BoardRow]:
    """The rows of some jobs, of those that there are, in the order asked for."""
    rows = session.scalars(select(BoardRow).where(BoardRow.job_id.in_(jobs)))
    found = {row.job_id: row for row in rows}
    return {job: found[job] for job in jobs if job in found}


@dataclass(frozen=True, slots=True)
class Written:
    """A job's row as it was last written here: when, its columns, its search text."""

    at: datetime
    columns: dict[str, Any]
    searched: str


def write(
    session: Session, job_id: str, planned: Plan, at: datetime, held: Written | None = None
) -> Written:
    """Bring a job's row and its search text up to date, in the caller's transaction.

    Args:
        session: the caller's.
        job_id: the job's.
        planned: of the job as it is now.
        at: when it was changed.
        held: what its row is known to hold, so that only what differs is written: of a set long
            in service the row is large.
    """
    now = Written(at, entry(planned), _searched(planned.job))
    was = held.columns if held else {}
    values = {key: one for key, one in now.columns.items() if key not in was or was[key] != one}
    session.flush()
    number = session.connection().scalar(
        update(BoardRow).where(BoardRow.job_id == job_id)
        .values(**values, updated_at=at).returning(BoardRow.number)
    )  # fmt: skip
    if number is None:
        row = BoardRow(job_id=job_id, updated_at=at, **now.columns)
        session.add(row)
        session.flush()
        number = row.number
    elif held is not None and held.searched == now.searched:
        return now
    session.execute(text("DELETE FROM board_search WHERE rowid = :n"), {"n": number})
    session.execute(
        text("INSERT INTO board_search (rowid, text) VALUES (:n, :t)"),
        {"n": number, "t": now.searched},
    )
    return now


def in_use(session: Session, today: date) -> list[SetInService]:
    """Every set in service that is not archived, with its upkeep on a day."""
    # Columns and no rows: of a large shop the rest would be unpacked for nothing.
    rows = session.execute(
        select(BoardRow.job_id, BoardRow.shown, BoardRow.service)
        .where(BoardRow.archived.is_(False), func.json_extract(BoardRow.service, "$.since") != "")
    )  # fmt: skip
    return [
        SetInService(job, one.title, one.owner, one.set_label, one.site_label,
                     due_on(read_kept(service), today))
        for job, held, service in rows
        for one in [BoardShown.model_validate(held)]
    ]  # fmt: skip


@dataclass(frozen=True, slots=True)
class BoardGroup:
    """Jobs that wait for the same thing: how many, and the most recent of them."""

    waits_for: str
    count: int
    rows: list[BoardRow]


def groups(
    session: Session, *, query: str = "", archived: bool = False, limit: int = 12
) -> list[BoardGroup]:
    """The board: jobs grouped by what they wait for, newest first within each."""
    found = _matching(query)
    counts = select(BoardRow.waits_for, func.count()).where(BoardRow.archived == archived)
    if found is not None:
        counts = counts.where(BoardRow.number.in_(found))
    numbers = {row[0]: row[1] for row in session.execute(counts.group_by(BoardRow.waits_for))}
    result = []
    for waits in (*WaitsFor, IN_SERVICE):
        if not numbers.get(waits):
            continue
        rows = select(BoardRow).where(BoardRow.archived == archived, BoardRow.waits_for == waits)
        if found is not None:
            rows = rows.where(BoardRow.number.in_(found))
        rows = rows.order_by(BoardRow.updated_at.desc()).limit(limit)
        result.append(BoardGroup(str(waits), numbers[waits], list(session.scalars(rows))))
    return result


def _matching(query: str) -> Select[Any] | None:
    """Row numbers whose words begin with every word of the query; None for an empty one."""
    words = re.findall(r"\w+", query)
    if not words:
        return None
    return matching(" ".join(f'"{word}"*' for word in words[:8]))


def matching(match: str) -> Select[Any]:
    """Row numbers that a full-text expression finds."""
    return (
        select(text("rowid"))
        .select_from(text("board_search"))
        .where(text("board_search MATCH :match").bindparams(match=match))
    )


def match_any(texts: list[str]) -> str:
    """A search for rows with any of these words; empty when there are none."""
    return " OR ".join(f'"{word}"' for one in texts for word in re.findall(r"\w+", one))


SEARCHED = text("SELECT text FROM board_search WHERE rowid = :n")


def compare(session: Session, catalog: Catalog, *, repair: bool) -> list[str]:
    """Ids of valid jobs whose row or search text does not say what the job says."""
    wrong = []
    for job_row in session.scalars(select(JobRow)):
        try:
            job = valid_job(job_row.document)
        except InvalidJobError:
            continue
        row = session.scalars(select(BoardRow).where(BoardRow.job_id == job_row.id)).first()
        planned = plan(job, catalog)
        wanted = entry(planned)
        found = None if row is None else session.scalar(SEARCHED, {"n": row.number})
        if (
            row is None
            or found != _searched(job)
            or any(getattr(row, name) != value for name, value in wanted.items())
        ):
            wrong.append(job_row.id)
            if repair:
                write(session, job_row.id, planned, job_row.updated_at)
    return wrong

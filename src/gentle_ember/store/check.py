"""Check a data folder: database integrity, jobs that validate, board rows, attachments."""

from __future__ import annotations

import hashlib
from pathlib import Path

from sqlalchemy import select, text

from gentle_ember.catalog import load
from gentle_ember.store import board
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import database_path, migrate, open_engine
from gentle_ember.store.errors import InvalidJobError
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import JobRow
from gentle_ember.store.validate import valid_job


def check(data: Path, *, rebuild: bool) -> list[str]:
    """Everything that is not as it should be, a sentence each."""
    if not database_path(data).exists():
        return [f"{data} holds no shop."]
    migrate(data)
    jobs = open_jobs(open_engine(data), load())
    catalog = jobs.catalog
    attachments = AttachmentStore(data)
    found: list[str] = []
    with (jobs.writing if rebuild else jobs.reading).begin() as session:
        verdict = session.execute(text("PRAGMA integrity_check")).scalar_one()
        if verdict != "ok":
            found.append(f"The database is damaged: {verdict}")
        for row in session.scalars(select(JobRow)):
            try:
                job = valid_job(row.document)
            except InvalidJobError as error:
                found.append(f"Job {row.id}: {error}")
                continue
            for entry in job.attachments.values():
                path = attachments.path(entry.sha256)
                kept = path.read_bytes() if path.is_file() else b""
                if hashlib.sha256(kept).hexdigest() != entry.sha256:
                    found.append(f"Job {row.id}: file “{entry.name}” is missing or damaged")
        for job_id in board.compare(session, catalog, rebuild=rebuild):
            done = "rebuilt" if rebuild else "differs from the job"
            found.append(f"Job {job_id}: board row {done}")
    return found

"""The event stream of a job: two devices on one job see each other's ticks."""

from __future__ import annotations

import json
from collections.abc import Iterator
from threading import BoundedSemaphore

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from gentle_ember.store.jobs import JobStore
from gentle_ember.store.news import Word
from gentle_ember.web.problems import Problem, problem
from gentle_ember.web.schemas import JobPath
from gentle_ember.web.services import services

api = APIBlueprint(
    "events",
    __name__,
    url_prefix="/api/jobs",
    abp_tags=[Tag(name="jobs")],
    abp_responses={404: Problem, 503: Problem},
)
STREAMS = 40
"""Streams at most; each holds a thread of the server, which has some more than these."""
BEAT_S = 10.0
_free = BoundedSemaphore(STREAMS)


@api.get("/<job_id>/events")
def events(path: JobPath) -> Response:
    """Revisions of a job as they are written, as server-sent events; a beat between them."""
    jobs = services().jobs
    last = jobs.news.last(path.job_id)
    revision = jobs.get(path.job_id).revision
    if not _free.acquire(blocking=False):
        return problem(503, "busy", "Too many pages open", "Close some; this one still works.")
    response = Response(_told(jobs, path.job_id, revision, last), mimetype="text/event-stream")
    response.headers["Cache-Control"] = "no-store"
    return response


def _told(jobs: JobStore, job_id: str, revision: int, last: Word) -> Iterator[str]:
    try:
        yield _event(revision)
        while True:
            later = jobs.news.wait(job_id, last, BEAT_S)
            if later is None:
                yield ": here\n\n"
            else:
                last = later
                yield _event(later.revision)
    finally:
        _free.release()


def _event(revision: int) -> str:
    return f"data: {json.dumps({'revision': revision})}\n\n"

"""The event stream of a job: two devices on one job see each other's ticks."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Iterator
from threading import BoundedSemaphore, Lock

from flask import Response, request

from gentle_ember.instruments.hall import Hall, Live
from gentle_ember.store.jobs import JobStore
from gentle_ember.store.news import Word
from gentle_ember.web import access
from gentle_ember.web.address import STREAMS, STREAMS_OF_ONE
from gentle_ember.web.blueprint import blueprint
from gentle_ember.web.problems import problem
from gentle_ember.web.services import services
from gentle_ember.web.views.base import JobPath
from gentle_ember.web.views.bench import bench
from gentle_ember.web.views.job import EventsQuery

api = blueprint("events", "jobs", "/api/jobs", 404, 503)
BEAT_S = 10.0
BENCH_S, NO_BENCH_S = 0.1, 1.0
"""How often the simulated bench is read; how often one not set up is looked for."""
_free = BoundedSemaphore(STREAMS)
_of_one: Counter[str] = Counter()
_counting = Lock()


@api.get("/<job_id>/events")
def events(path: JobPath, query: EventsQuery) -> Response:
    """Revisions of a job as they are written, and what its simulated bench shows, as events."""
    jobs = services().jobs
    last = jobs.news.last(path.job_id)
    revision = jobs.get(path.job_id).revision
    if request.method == "HEAD":  # asked for without its body: nothing is told, no place is taken
        return Response(mimetype="text/event-stream")
    place = _place(request.remote_addr or "")
    if place is None:
        return problem(503, "busy", "Too many pages open", "Close some; this one still works.")
    response = Response(
        _told(jobs, services().hall, path.job_id, revision, last, query.bench, access.standing()),
        mimetype="text/event-stream",
    )
    # A stream that is closed before its first word never comes to an end of its own.
    response.call_on_close(place)
    response.headers["Cache-Control"] = "no-store"
    return response


def _place(who: str) -> Callable[[], None] | None:
    """A place among the streams, given back by calling it; None where there is none."""
    with _counting:
        if who not in access.LOOPBACK and _of_one[who] >= STREAMS_OF_ONE:
            return None
        if not _free.acquire(blocking=False):
            return None
        _of_one[who] += 1

    def leave() -> None:
        _free.release()
        with _counting:
            _of_one[who] -= 1
            if not _of_one[who]:
                del _of_one[who]

    return leave


def _told(
    jobs: JobStore, hall: Hall, job_id: str, revision: int, last: Word, fuel: str,
    stands: Callable[[], bool],
) -> Iterator[str]:  # fmt: skip
    yield _event(revision)
    asked = hall.clock()
    while True:
        # Whoever is signed out hears nothing more, on a page left open too.
        if hall.clock() - asked >= BEAT_S:
            asked = hall.clock()
            if not stands():
                return
        live = hall.of(job_id, fuel) if fuel else None
        beat = BENCH_S if live else NO_BENCH_S if fuel else BEAT_S
        later = jobs.news.wait(job_id, last, beat)
        if later is None:
            yield _bench(live, hall.clock()) if live else ": here\n\n"
        else:
            last = later
            yield _event(later.revision)


def _bench(live: Live, now_s: float) -> str:
    shown = bench(live, live.read(now_s))
    return f"event: bench\ndata: {shown.model_dump_json()}\n\n"


def _event(revision: int) -> str:
    return f"data: {json.dumps({'revision': revision})}\n\n"

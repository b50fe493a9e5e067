"""Load on a shop of many jobs: a server it starts itself, on this machine alone, and stops.

`make load` makes a shop of 10,000 jobs from the demo's, then measures: how quick board,
search and a change are beside a shop of 100; how 50 people at once are answered; a change while
200 pages hold event streams open; what a change costs in a job with a long log; and memory over a
simulated week. Bounded in requests and time; figures as in `docs/load.md`.
"""

from __future__ import annotations

import argparse
import http.client
import itertools
import json
import socket
import statistics
import sys
import tempfile
import threading
import time
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

from sqlalchemy import insert, select, text

from gentle_ember.catalog import load
from gentle_ember.demo import seed
from gentle_ember.store.database import open_engine
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import BoardRow, ChangeRow, JobRow
from tests.helpers.serving import Server

PEOPLE, STREAMS, THINK_S, LASTS_S = 50, 200, 1.0, 30.0
WEEK = 5 * 40
"""Changes somebody makes in a week of work."""


def grown(data: Path, jobs: int) -> None:
    """The demo's jobs over and over, each with its log's first write and its row on the board."""
    seed(data)
    engine = open_engine(data)
    store = open_jobs(engine, load())
    with store.writing.begin() as session:
        sources = [
            (row.document, board)
            for row, board in session.execute(
                select(JobRow, BoardRow).join(BoardRow, BoardRow.job_id == JobRow.id)
            )
        ]
        columns = [
            one.name for one in BoardRow.__table__.columns if one.name not in ("number", "job_id")
        ]
        rows: dict[Any, list[dict[str, Any]]] = {JobRow: [], BoardRow: [], ChangeRow: []}
        found = []
        at, first = sources[0][1].updated_at, session.scalar(text("SELECT max(number) FROM board"))
        for n, (document, board) in zip(
            range(jobs - len(sources)), itertools.cycle(sources), strict=False
        ):
            key, title, number = str(uuid.uuid4()), f"{board.shown['title']} {n:05d}", first + 1 + n
            shown = {name: getattr(board, name) for name in columns}
            shown["shown"] = {**board.shown, "title": title}
            rows[JobRow].append(
                {"id": key, "revision": 1, "document": {**document, "title": title},
                 "created_at": at, "updated_at": at}
            )  # fmt: skip
            rows[BoardRow].append({"number": number, "job_id": key, **shown})
            rows[ChangeRow].append(
                {"job_id": key, "revision": 1, "at": at, "who": "", "kind": "create",
                 "target": None, "key": f"load-{key}", "changes": [], "inverse": []}
            )  # fmt: skip
            found.append({"n": number, "t": title})
        for table, held in rows.items():
            for some in range(0, len(held), 500):
                session.execute(insert(table), held[some : some + 500])
        session.execute(text("INSERT INTO board_search (rowid, text) VALUES (:n, :t)"), found)
    engine.dispose()


class Caller:
    """One page's line to the server."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.line = http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def ask(self, method: str, path: str, body: dict[str, Any] | None = None) -> Any:
        """What it answers; a fault of the server is counted by who asks."""
        content = None if body is None else json.dumps(body)
        self.line.request(method, path, content, {"Content-Type": "application/json"})
        answer = self.line.getresponse()
        read = answer.read()
        if answer.status != 200:
            raise RuntimeError(f"{method} {path}: {answer.status} {read[:200]!r}")
        return json.loads(read)

    def change(self, job: str) -> None:
        """One write of a job."""
        wanted = [{"path": "set.model", "value": uuid.uuid4().hex[:12]}]
        body = {"changes": wanted, "base": 10**6, "key": f"{uuid.uuid4().hex}-1", "views": ""}
        self.ask("PATCH", f"/api/jobs/{job}", body)


def median_ms(work: Callable[[], object], times: int = 25) -> float:
    """The middle one of so many runs [ms]."""
    return statistics.median(_took(work) for _ in range(times)) * 1e3


def _took(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def jobs_of(caller: Caller) -> list[str]:
    """Some jobs of the board."""
    groups = caller.ask("GET", "/api/board?limit=50")["groups"]
    return [row["id"] for group in groups for row in group["rows"]]


def size(port: int) -> dict[str, float]:
    """Board, search and a change, one after another [ms]."""
    caller = Caller(port)
    (job, *_) = jobs_of(caller)
    return {
        "board": median_ms(lambda: caller.ask("GET", "/api/board")),
        "search": median_ms(lambda: caller.ask("GET", "/api/board?query=ferry+hut")),
        "change": median_ms(lambda: caller.change(job)),
    }


def crowd(port: int) -> tuple[list[float], float, list[str]]:
    """Fifty people for half a minute: each looks, opens, searches, changes, thinks.

    Returns:
        How long answers took [s], how long they take one person alone (p95) [s], what went wrong.
    """
    jobs = jobs_of(Caller(port))
    took: list[float] = []
    wrong: list[str] = []

    def person(n: int, until: float) -> None:
        caller, job = Caller(port), jobs[n % len(jobs)]
        acts = itertools.cycle(
            (
                lambda: caller.ask("GET", "/api/board"),
                lambda: caller.ask("GET", f"/api/jobs/{job}?views=output"),
                lambda: caller.ask("GET", "/api/board?query=trailer"),
                lambda: caller.change(job),
            )
        )
        while time.monotonic() < until:
            try:
                took.append(_took(next(acts)))
            except (OSError, RuntimeError, http.client.HTTPException) as error:
                wrong.append(str(error))
                caller = Caller(port)
            time.sleep(THINK_S * (1 + (n % 5)))

    def run(people: int, lasts: float) -> list[float]:
        took.clear()
        until = time.monotonic() + lasts
        crew = [threading.Thread(target=person, args=(n, until)) for n in range(people)]
        for one in crew:
            one.start()
        for one in crew:
            one.join()
        return sorted(took)

    alone = run(1, 12.0)
    return run(PEOPLE, LASTS_S), alone[int(0.95 * (len(alone) - 1))], wrong


def streamed(port: int) -> tuple[float, float, int]:
    """A change with no stream open, and with as many as the server gives of 200 [ms]; how many."""
    caller = Caller(port)
    (job, *_) = jobs_of(caller)
    before = median_ms(lambda: caller.change(job))
    held = []
    for _ in range(STREAMS):
        line = socket.create_connection(("127.0.0.1", port))
        line.sendall(f"GET /api/jobs/{job}/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode())
        held.append(line)
    time.sleep(2.0)
    open_now = sum(b"200 OK" in line.recv(4096) for line in held)
    during = median_ms(lambda: caller.change(job))
    for line in held:
        line.close()
    return before, during, open_now


def long_log(port: int, writes: int = 1000) -> tuple[float, float]:
    """A change of a job whose log is short, and after a thousand more [ms]."""
    caller = Caller(port)
    job = jobs_of(caller)[-1]
    short = median_ms(lambda: caller.change(job))
    for _ in range(writes):
        caller.change(job)
    return short, median_ms(lambda: caller.change(job))


def memory(server: Server) -> float:
    """What the server's processes hold [MB]."""
    held = 0.0
    for status in Path("/proc").glob("[0-9]*/status"):
        try:
            lines = dict(line.split(":", 1) for line in status.read_text().splitlines() if line)
        except (OSError, ValueError):
            continue
        mine = status.parent.name == str(server.process.pid)
        if mine or lines.get("PPid", "").strip() == str(server.process.pid):
            held += float(lines.get("VmRSS", "0 kB").split()[0]) / 1024
    return held


def week(server: Server) -> tuple[float, float, float]:
    """A week of looking, changing, benches and files; memory at its begin, middle and end [MB]."""
    caller = Caller(server.port)
    jobs = jobs_of(caller)
    begun = half = 0.0
    for n in range(2 * WEEK):
        job = jobs[n % len(jobs)]
        if n == WEEK // 4:
            begun = memory(server)
        elif n == WEEK:
            half = memory(server)
        caller.ask("GET", f"/api/jobs/{job}?views=output,runs,path,fit,metering")
        caller.change(job)
        raw = http.client.HTTPConnection("127.0.0.1", server.port, timeout=60)
        raw.request("GET", f"/api/jobs/{job}/{('cards.pdf', 'parts.csv', 'export')[n % 3]}")
        raw.getresponse().read()
        raw.close()
    return begun, half, memory(server)


def main() -> int:
    """Measure and print; 1 where a limit was not held."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--jobs", type=int, default=10_000, help="jobs of the large shop")
    wanted = parser.parse_args()
    held = True

    def say(what: str, value: float, limit: float, unit: str = "×") -> None:
        nonlocal held
        held = held and value <= limit
        print(f"{what:58} {value:8.1f} {unit} (limit {limit:g})", flush=True)

    with tempfile.TemporaryDirectory() as folder:
        sizes = {}
        for jobs in (100, wanted.jobs):
            data = Path(folder) / str(jobs)
            grown(data, jobs)
            server = Server(data)
            try:
                sizes[jobs] = size(server.port)
                print(f"{jobs:,} jobs: " + ", ".join(f"{k} {v:.0f} ms" for k, v in
                                                     sizes[jobs].items()), flush=True)  # fmt: skip
                if jobs == 100:
                    continue
                for name in ("board", "search", "change"):
                    say(f"{name}, {jobs:,} jobs against 100", sizes[jobs][name] / sizes[100][name],
                        3.0)  # fmt: skip
                took, alone, wrong = crowd(server.port)
                print(f"{PEOPLE} people: {len(took)} answers, {wrong[:3]}")
                say("errors", float(len(wrong)), 0, "")
                say("p95 of fifty people against one", took[int(0.95 * len(took))] / alone, 10)
                before, during, there = streamed(server.port)
                say(f"a change with {there} streams open against none", during / before, 2)
                short, long = long_log(server.port)
                say("a change after a thousand more against before", long / short, 1.5)
                begun, half, end = week(server)
                print(f"memory over two weeks: {begun:.0f}, {half:.0f}, {end:.0f} MB")
                say("memory at the end against the middle", end / half, 1.1)
            finally:
                server.kill()
    return 0 if held else 1


if __name__ == "__main__":
    sys.exit(main())

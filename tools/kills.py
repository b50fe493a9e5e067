"""Kill the server again and again while people write, and look for what was acknowledged.

`make kills` does it two hundred times. Four writers change a job they share and jobs of their own,
send photos and make jobs; the server is killed as by a power cut, started again, and every write
that was acknowledged must be in its log once, every photo whole, and `check` must find nothing.
Writes that got no answer are sent again by their key and must be written once.
"""

from __future__ import annotations

import argparse
import hashlib
import http.client
import io
import json
import random
import sys
import tempfile
import threading
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from PIL import Image
from sqlalchemy import func, select

from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.check import check
from gentle_ember.store.database import open_engine
from gentle_ember.store.models import ChangeRow
from tests.helpers.serving import Server

WRITERS = 4


@dataclass(slots=True)
class Told:
    """What the server acknowledged, and what it was sent last without an answer."""

    keys: dict[str, str] = field(default_factory=dict)
    """Job of each acknowledged write, by the write's key."""
    files: set[str] = field(default_factory=set)
    pending: list[tuple[str, str, bytes, dict[str, str], str]] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)


def send(
    port: int, method: str, path: str, body: bytes, head: dict[str, str]
) -> tuple[int, dict[str, Any]]:
    """One request on a line of its own."""
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
    try:
        line.request(method, path, body, head)
        answer = line.getresponse()
        return answer.status, json.loads(answer.read())
    finally:
        line.close()


def picture(shade: int) -> bytes:
    """A small photo no other one is like."""
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (shade % 256, shade // 256 % 256, 90)).save(out, "JPEG")
    return out.getvalue()


def write(port: int, told: Told, shared: str, own: str, rolls: random.Random) -> None:
    """One write: the shared job's, the own one's, a photo, or another job."""
    key, kind = f"{uuid.uuid4().hex}-1", rolls.choice(("shared", "own", "own", "photo", "new"))
    job = shared if kind == "shared" else own
    if kind == "new":
        method, path = "POST", "/api/jobs"
        body = json.dumps({"title": f"Set {key[:6]}", "key": key}).encode()
        head = {"Content-Type": "application/json"}
    elif kind == "photo":
        method, path = "POST", f"/api/jobs/{job}/attachments?name=plate.jpg&subject=set"
        body = picture(rolls.randrange(65_536))
        head = {"Content-Type": "image/jpeg", "Idempotency-Key": key}
    else:
        method, path = "PATCH", f"/api/jobs/{job}"
        wanted = [{"path": "owner", "value": key}]
        body = json.dumps({"changes": wanted, "base": 10**6, "key": key}).encode()
        head = {"Content-Type": "application/json"}
    whole = (method, path, body, head, key)
    try:
        status, answer = send(port, method, path, body, head)
    except (OSError, http.client.HTTPException, ValueError):
        with told.lock:
            told.pending.append(whole)
        raise
    if status not in (200, 201):
        raise AssertionError(f"{method} {path}: {status} {answer}")
    note(told, key, answer)


def note(told: Told, key: str, answer: dict[str, Any]) -> None:
    """An acknowledged write, with the files its job names."""
    with told.lock:
        told.keys[key] = answer["id"]
        told.files |= {one["sha256"] for one in answer["job"]["attachments"].values()}


def round_of(server: Server, told: Told, shared: str, owns: list[str], seed: int) -> None:
    """Writers at work until the server is killed under them."""
    rolls = random.Random(seed)  # noqa: S311
    faults: list[BaseException] = []

    def writer(n: int) -> None:
        mine = random.Random(seed * WRITERS + n)  # noqa: S311
        try:
            while True:
                write(server.port, told, shared, owns[n], mine)
        except AssertionError as fault:
            faults.append(fault)
        except (OSError, http.client.HTTPException, ValueError):
            return  # the server is gone

    crew = [threading.Thread(target=writer, args=(n,)) for n in range(WRITERS)]
    for one in crew:
        one.start()
    time.sleep(rolls.uniform(0.1, 1.4))
    server.kill()
    for one in crew:
        one.join()
    if faults:
        raise faults[0]


def lost(data: Path, told: Told) -> list[str]:
    """What was acknowledged and is not there once and whole."""
    engine, files = open_engine(data), AttachmentStore(data)
    try:
        with engine.connect() as connection:
            counted = select(ChangeRow.key, func.count()).group_by(ChangeRow.key)
            there = {key: count for key, count in connection.execute(counted)}  # noqa: C416
    finally:
        engine.dispose()
    wrong = [f"{key}: {there.get(key, 0)} times" for key in told.keys if there.get(key) != 1]
    for digest in told.files:
        path = files.path(digest)
        if not path.is_file() or hashlib.sha256(path.read_bytes()).hexdigest() != digest:
            wrong.append(f"file {digest[:12]}")
    return wrong


def killed(folder: Path, times: int, seed: int = 1) -> tuple[Told, list[str]]:
    """Kill so many times; what was acknowledged, and everything that was wrong."""
    data, told, wrong = folder / "shop", Told(), []
    server = Server(data)
    try:
        jobs = []
        for n in range(WRITERS + 1):
            body = json.dumps({"title": f"Job {n}", "key": f"{uuid.uuid4().hex}-1"}).encode()
            head = {"Content-Type": "application/json"}
            jobs.append(send(server.port, "POST", "/api/jobs", body, head)[1]["id"])
        for n in range(times):
            round_of(server, told, jobs[0], jobs[1:], seed + n)
            wrong += lost(data, told)
            wrong += check(data, repair=False)
            server.start()
            again, told.pending = told.pending, []
            for method, path, body, head, key in again:
                status, answer = send(server.port, method, path, body, head)
                if status not in (200, 201):
                    wrong.append(f"sent again: {status} {answer}")
                    continue
                note(told, key, answer)
            wrong += lost(data, told)
    finally:
        server.kill()
    return told, wrong


def main() -> int:
    """Kill, and say what came of it; 1 where anything was lost."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--times", type=int, default=200)
    wanted = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        told, wrong = killed(Path(folder), wanted.times)
    print(
        f"{wanted.times} kills, {len(told.keys)} writes acknowledged, "
        f"{len(told.files)} photos, {len(wrong)} wrong"
    )
    for one in wrong[:20]:
        print(one)
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())

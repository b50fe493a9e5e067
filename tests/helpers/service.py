"""What a test does through the store and the service, as a page would."""

from __future__ import annotations

import io
import itertools

from PIL import Image

from gentle_ember.core.job.change import Change

_numbers = itertools.count()


def key() -> str:
    """A write key no other write of the run has."""
    return f"test{next(_numbers):06d}-1"


FIRST = {"sites": {"s1": {"name": ""}}, "title": "a set"}


def edit(jobs, stored, path, value, *, base=None, who="RK", write=None):
    """One plain change of a job in the store."""
    change = [Change(path, value)]
    at = stored.revision if base is None else base
    return jobs.change(stored.id, change, base=at, key=write or key(), who=who)


def ids(client):
    board = client.get("/api/board?limit=50").json
    return {row["title"].split()[0]: row["id"] for g in board["groups"] for row in g["rows"]}


def show(client, job, views="path"):
    return client.get(f"/api/jobs/{job}?views={views}").json


def write(client, job, *changes):
    body = {"changes": list(changes), "base": 10**6, "key": key()}
    return client.patch(f"/api/jobs/{job}?", json={**body, "views": "path"})


def change(client, job, path, value):
    return write(client, job, {"path": path, "value": value})


def tick(client, job, step, **more):
    record = {"state": "done", "by": "RK", "of": step["subject"], "what": step["what"]["us"]}
    return change(client, job, f"fit.steps.{step['key']}", {**record, **more})


def proof_of(client, job, fuel="propane"):
    found = show(client, job, "proofs")["proofs"]
    return next(one for one in found if one["fuel"] == fuel)


def joints_of(gas):
    return [one for zone in gas["zones"] for one in zone["joints"]]


def soap(client, job, joint, found="holds"):
    """One look at a joint; whether it passes is the service's to say."""
    number = next(_numbers)
    return change(
        client, job, f"proof.soaped.l{number}", {"joint": joint["key"], "found": found, "by": "RK"}
    )


def prove(client, job, fuel="propane"):
    """Fit everything, soap every joint, look at the lock-up: the gas may run."""
    for step in show(client, job, "fit")["fit"]["steps"]:
        assert tick(client, job, step).status_code == 200
    for joint in joints_of(proof_of(client, job, fuel)):
        if joint["state"] not in ("fitter", "tight"):
            assert soap(client, job, joint).status_code == 200
    still = {"state": "still", "by": "RK"}
    assert change(client, job, f"proof.lock_up.{fuel}", still).status_code == 200
    assert proof_of(client, job, fuel)["tight"]


def picture(kind="JPEG", size=(3000, 2000), **how) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (10, 120, 200)).save(out, kind, **how)
    return out.getvalue()

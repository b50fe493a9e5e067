"""Jobs: read, change, undo, copy, look at their log and their cylinders."""

from __future__ import annotations

import json
import re
from datetime import date
from typing import Any

from flask import Response

from gentle_ember.core.estimates.cylinder import answer, helps
from gentle_ember.core.estimates.run_times import (
    OVERFULL,
    cylinder_question,
    cylinders_regulator,
    overfull,
)
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import machine_name
from gentle_ember.core.job.site import CylindersAtHand
from gentle_ember.core.people import Permission
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.store.library import alike
from gentle_ember.store.wanted import Wanted, read_changes
from gentle_ember.web import access
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.fields import job_fields
from gentle_ember.web.problems import problem
from gentle_ember.web.services import services
from gentle_ember.web.views import base
from gentle_ember.web.views import cylinder as cylinder_view
from gentle_ember.web.views.base import JobPath
from gentle_ember.web.views.cylinder import CylinderOut, CylinderQuery
from gentle_ember.web.views.job import (
    ChangesIn,
    CopyIn,
    JobQuery,
    LibraryOut,
    LikeOut,
    LogEntryOut,
    LogOut,
    NewJobIn,
    OfferOut,
    SnapshotOut,
    StepIn,
    snapshot_json,
)

api = blueprint("jobs", "jobs", "/api/jobs", 404, 409, 422)
EMPTY: dict[str, Any] = {"sites": {"s1": {"name": ""}}}
_HASH = re.compile(r"\b[0-9a-f]{64}\b")


def _views(text: str) -> set[str]:
    return set(filter(None, text.split(",")))


@api.post("", responses={201: SnapshotOut})
def create(body: NewJobIn) -> Response:
    """A new job."""
    who = access.hand(body.who)
    stored = services().jobs.create({**EMPTY, "title": body.title}, who, body.key)
    planned = services().plan(stored)
    return sent(snapshot_json(stored, planned, set()), 201)


@api.get("/<job_id>", responses={200: SnapshotOut})
def show(path: JobPath, query: JobQuery) -> Response:
    """A job as it stands."""
    stored = services().jobs.get(path.job_id)
    planned = services().plan(stored)
    return sent(snapshot_json(stored, planned, _views(query.views)))


@api.patch("/<job_id>", responses={200: SnapshotOut})
def change(path: JobPath, body: ChangesIn) -> Response:
    """Change a job, or with `preview` see what the change would do without saving it."""
    jobs = services().jobs
    changes = read_changes([Wanted(**entry.model_dump()) for entry in body.changes], body.system)
    refuse_unsent(changes)
    if body.preview:
        stored = jobs.preview(path.job_id, changes)
    else:
        access.need(Permission.WORK)
        stored = jobs.change(
            path.job_id, changes, base=body.base, key=body.key, who=access.hand(body.who),
            acting=access.acting(),
        )  # fmt: skip
        access.signed_with_code(changes)
    planned = services().plan(stored)
    views = _views(body.views)
    return sent(snapshot_json(stored, planned, views, preview=body.preview))


def refuse_unsent(changes: list[Change]) -> None:
    """Refuse a change that names a file which never arrived.

    Raises:
        InvalidJobError: at the change's path.
    """
    for one in changes:
        if one.remove or one.keys[0] != "attachments":
            continue
        for digest in set(_HASH.findall(json.dumps(one.value))):
            if not services().attachments.holds(digest):
                text = "This file has not arrived here: send it first."
                raise InvalidJobError([FieldError(one.path, text)])


@api.post("/<job_id>/undo", responses={200: SnapshotOut})
def undo(path: JobPath, body: StepIn) -> Response:
    """Append the inverse of the newest change."""
    stored = services().jobs.undo(
        path.job_id, key=body.key, who=access.hand(body.who), acting=access.acting()
    )
    return sent(snapshot_json(stored, services().plan(stored), _views(body.views)))


@api.post("/<job_id>/redo", responses={200: SnapshotOut})
def redo(path: JobPath, body: StepIn) -> Response:
    """Append again what was undone last."""
    stored = services().jobs.redo(
        path.job_id, key=body.key, who=access.hand(body.who), acting=access.acting()
    )
    return sent(snapshot_json(stored, services().plan(stored), _views(body.views)))


@api.post("/<job_id>/copy", responses={201: SnapshotOut})
def copy(path: JobPath, body: CopyIn) -> Response:
    """A new job with the same set, sites and wishes; or the next job on the same set."""
    jobs = services().jobs
    who = access.hand(body.who)
    stored = (
        jobs.carry_on(path.job_id, who=who, key=body.key, today=date.today())
        if body.same_set
        else jobs.duplicate(path.job_id, who=who, key=body.key)
    )
    return sent(snapshot_json(stored, services().plan(stored), set()), 201)


@api.get("/<job_id>/log", responses={200: LogOut})
def log(path: JobPath) -> Response:
    """The change log, newest first."""
    rows = services().jobs.log(path.job_id)
    return sent(
        LogOut(
            [
                LogEntryOut(
                    revision=row.revision,
                    at=row.at.isoformat(timespec="seconds") + "Z",
                    who=row.who,
                    kind=row.kind,
                    paths=[entry["path"] for entry in row.changes],
                )
                for row in reversed(rows)
            ]
        )
    )


@api.get("/<job_id>/library", responses={200: LibraryOut})
def library(path: JobPath) -> Response:
    """Earlier jobs on sets like this one, and what they would give it."""
    labels = job_fields()

    def offer(at: str, fact: Fact) -> OfferOut:
        field = labels[at]
        shown = base.both(fact.value, field["kind"])
        return OfferOut(
            path=at, label=field["label"], **dict(shown),
            origin=str(fact.origin), value=fact.value, typed=fact.typed,
        )  # fmt: skip

    return sent(
        LibraryOut(
            [
                LikeOut(
                    job=one.job_id,
                    title=one.job.title,
                    set_label=machine_name(one.job),
                    why=one.likeness.why,
                    offers=[offer(at, fact) for at, fact in one.offers.items()],
                    learned=list(one.learned),
                )
                for one in alike(services().jobs, path.job_id)
            ]
        )
    )


@api.get("/<job_id>/cylinder", responses={200: CylinderOut})
def cylinder(path: JobPath, query: CylinderQuery) -> Response:
    """A cylinder of the job's site, with what-ifs that are not saved."""
    job = services().jobs.get(path.job_id).job
    site = job.sites[job.site]
    if job.set.running is None:
        detail = "Give the running rating first: the load's fuel is worked out from it."
        return problem(422, "invalid", "Not yet", detail, [FieldError("set.running", detail)])
    at_hand = site.cylinders.get(query.cylinder) or next(
        (entry for _, entry in sorted(site.cylinders.items())), CylindersAtHand()
    )
    if query.size:
        at_hand = CylindersAtHand(size=query.size, shelter=at_hand.shelter)
    update: dict[str, Any] = {}
    if query.count is not None:
        update["count"] = query.count
    if query.shelter is not None:
        update["shelter"] = query.shelter
    load = job.load
    if query.load_w is not None:
        load = load.model_copy(update={"planned": Fact(value=query.load_w)})
    case = cylinder_question(
        job.set,
        site,
        job.site,
        at_hand.model_copy(update=update),
        load,
        job.set.running.value,
        services().catalog,
        ambient_k=query.temperature_k,
        regulator=cylinders_regulator(job),
    )
    if case is None:
        raise NotFoundError("The catalog has no such cylinder.")
    if overfull(at_hand, case.size):
        path_ = f"sites.{job.site}.cylinders.{query.cylinder or 'c1'}.weighed"
        detail = f"No run time: {OVERFULL}."
        return problem(422, "invalid", "Not answered", detail, [FieldError(path_, detail)])
    humidity = site.humidity.value if site.humidity else None
    found = helps(case, services().catalog.cylinders)
    return sent(cylinder_view.cylinder(answer(case, humidity), found))

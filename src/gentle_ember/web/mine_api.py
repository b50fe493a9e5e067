"""What an owner sees: the cards and the logbook of their own sets, and nothing else."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.job.job import machine_name
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.store.board import BoardShown, rows_of
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.jobs import Stored
from gentle_ember.store.wanted import Wanted, read_changes
from gentle_ember.web import access
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.base import JobPath
from gentle_ember.web.views.hand_over import owner_cards
from gentle_ember.web.views.logbook import logbook
from gentle_ember.web.views.people import MineOut, OwnRunIn, OwnSetOut, OwnSetsOut

api = blueprint("mine", "logbook", "/api/mine", 401, 403, 404, 409, 422)


def _sets() -> tuple[str, ...]:
    signed = access.signed_in()
    return signed.sets if signed else ()


def _own(job_id: str) -> Stored:
    """A job of an own set.

    Raises:
        NotFoundError: it is somebody else's; whether there is one at all is not said.
    """
    if job_id not in _sets():
        raise NotFoundError("There is no such set of yours.")
    return services().jobs.get(job_id)


def _shown(stored: Stored) -> MineOut:
    planned, front = services().plan(stored), services().front
    return MineOut(
        job=stored.id, title=stored.job.title, set_label=machine_name(stored.job),
        shop=front.name, phone=front.contact, cards=owner_cards(planned),
        logbook=logbook(planned),
    )  # fmt: skip


@api.get("", responses={200: OwnSetsOut})
def sets() -> Response:
    """The sets of whoever is signed in."""
    with services().jobs.reading.begin() as session:
        found = [
            OwnSetOut(
                job=key, title=one.title, set_label=one.set_label, site_label=one.site_label
            )
            for key, row in rows_of(session, _sets()).items()
            for one in [BoardShown.model_validate(row.shown)]
        ]  # fmt: skip
    return sent(OwnSetsOut(sets=found))


@api.get("/<job_id>", responses={200: MineOut})
def show(path: JobPath) -> Response:
    """The cards and the logbook of an own set."""
    return sent(_shown(_own(path.job_id)))


@api.get("/<job_id>/cards.html")
def cards_page(path: JobPath) -> Response:
    """Every card as one file for a phone, which opens without a network."""
    from gentle_ember.documents.cards import cards_html

    stored = _own(path.job_id)
    title = machine_name(stored.job) or stored.job.title
    content = cards_html(title, services().plan(stored).of(cards), services().front)
    return download(content, f"{slug(stored.job.title)}-cards.html", "text/html")


@api.post("/<job_id>/runs", responses={200: MineOut})
def log_run(path: JobPath, body: OwnRunIn) -> Response:
    """Log a run of an own set, as its owner typed it."""
    stored, at = _own(path.job_id), f"logbook.runs.{body.run}"
    run = {
        "on": body.on, "fuel": body.fuel, "remark": body.remark, "new_meter": body.new_meter,
        "by": access.hand(""),
    }  # fmt: skip
    typed = {"hours": body.hours, "meter": body.meter, "load": body.load, "used": body.used}
    wanted = [Wanted(at, value=run)]
    wanted += [Wanted(f"{at}.{name}", typed=text) for name, text in typed.items() if text.strip()]
    changes = read_changes(wanted, body.system)
    services().jobs.change(
        path.job_id, changes, base=stored.revision, key=body.key, who=access.hand(""),
        acting=access.acting(),
    )  # fmt: skip
    return sent(_shown(_own(path.job_id)))

"""What goes to the owner: cards, to print and for a phone, and the record of work."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.job.job import machine_name
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.hand_over.invoice import invoice
from gentle_ember.core.stages.hand_over.moving import moves
from gentle_ember.core.stages.hand_over.record import record
from gentle_ember.core.stages.hand_over.seals import in_order, unsealed, work_here
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.web.blueprint import blueprint
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.base import JobPath
from gentle_ember.web.views.hand_over import CardsQuery, MoveQuery, PaperQuery, RecordQuery

api = blueprint("hand_over", "hand over", "/api/jobs/<job_id>", 404, 422)


@api.get("/cards.html")
def cards_page(path: JobPath) -> Response:
    """Every card as one HTML file that works from a phone with no network."""
    from gentle_ember.documents.cards import cards_html

    stored = services().jobs.get(path.job_id)
    content = cards_html(
        machine_name(stored.job) or stored.job.title,
        services().plan(stored).of(cards),
        services().front,
    )
    return download(content, f"{slug(stored.job.title)}-cards.html", "text/html")


@api.get("/cards.pdf")
def cards_sheet(path: JobPath, query: CardsQuery) -> Response:
    """Every card as PDF, Letter or A6."""
    from gentle_ember.documents.cards import cards_pdf

    stored = services().jobs.get(path.job_id)
    content = cards_pdf(
        machine_name(stored.job) or stored.job.title,
        services().plan(stored).of(cards),
        query.size,
        services().front,
    )
    return download(content, f"{slug(stored.job.title)}-cards-{query.size}.pdf", "application/pdf")


@api.get("/record.pdf")
def record_sheet(path: JobPath, query: RecordQuery) -> Response:
    """The record of work as PDF, Letter or A4 by the system of units.

    A sealed revision as it was signed, with its signatures and what differs from the one before;
    without a revision the record as it stands, said to be a draft.
    """
    from gentle_ember.documents.record_pdf import record_pdf

    stored = services().jobs.get(path.job_id)
    planned = services().plan(stored)
    seals = {one.number: one for one in in_order(stored.job.hand_over)}
    if query.revision and query.revision not in seals:
        raise InvalidJobError([FieldError("revision", "No such revision was sealed.")])
    seal = seals.get(query.revision)
    before = seals.get(query.revision - 1)
    content = record_pdf(
        stored.job.title, planned.of(record) if seal is None else unsealed(seal.sections),
        query.system or planned.shop.front.units, planned.shop.front, seal=seal,
        work=planned.of(work_here),
        before=unsealed(before.sections) if before else (),
    )  # fmt: skip
    number = f"-r{query.revision}" if seal else "-draft"
    return download(content, f"{slug(stored.job.title)}-record{number}.pdf", "application/pdf")


@api.get("/invoice.pdf")
def invoice_sheet(path: JobPath, query: PaperQuery) -> Response:
    """The invoice as PDF, Letter or A4, with the shop's name, terms and logo."""
    from gentle_ember.documents.invoice_pdf import invoice_pdf

    stored = services().jobs.get(path.job_id)
    planned = services().plan(stored)
    content = invoice_pdf(
        stored.job, planned.of(invoice), planned.shop.front,
        query.system or planned.shop.front.units,
    )  # fmt: skip
    return download(content, f"{slug(stored.job.title)}-invoice.pdf", "application/pdf")


@api.get("/invoice.csv")
def invoice_table(path: JobPath) -> Response:
    """The invoice as CSV, a row a line, with tax and total."""
    from gentle_ember.documents.invoice_csv import invoice_csv

    stored = services().jobs.get(path.job_id)
    planned = services().plan(stored)
    text = invoice_csv(stored.job, planned.of(invoice), planned.shop.front)
    return download(text, f"{slug(stored.job.title)}-invoice.csv", "text/csv")


@api.get("/move.pdf")
def move_sheet(path: JobPath, query: MoveQuery) -> Response:
    """The move sheet of one way between two places of the job, Letter or A4, or a card of A6."""
    from gentle_ember.documents.move_pdf import move_pdf

    stored = services().jobs.get(path.job_id)
    found = next(
        (one for one in services().plan(stored).of(moves)
         if (one.start.key, one.goal.key) == (query.start, query.goal)), None,
    )  # fmt: skip
    if found is None:
        raise InvalidJobError([FieldError("goal", "There is no such way between two places.")])
    names = tuple(stored.job.sites[one.site].name or "the site"
                  for one in (found.start, found.goal))  # fmt: skip
    content = move_pdf(stored.job.title, (names[0], names[1]), found, query.system, query.size)
    return download(content, f"{slug(stored.job.title)}-move.pdf", "application/pdf")

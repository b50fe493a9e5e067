"""What goes to the owner: cards, to print and for a phone, and the record of work."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.job.job import machine_name
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.hand_over.record import fingerprint, record
from gentle_ember.web.blueprint import blueprint
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.base import CsvQuery, JobPath
from gentle_ember.web.views.hand_over import CardsQuery

api = blueprint("hand_over", "hand over", "/api/jobs/<job_id>", 404, 422)


@api.get("/cards.html")
def cards_page(path: JobPath) -> Response:
    """Every card as one HTML file that works from a phone with no network."""
    from gentle_ember.documents.cards import cards_html

    stored = services().jobs.get(path.job_id)
    content = cards_html(
        machine_name(stored.job) or stored.job.title, services().plan(stored).of(cards)
    )
    return download(content, f"{slug(stored.job.title)}-cards.html", "text/html")


@api.get("/cards.pdf")
def cards_sheet(path: JobPath, query: CardsQuery) -> Response:
    """Every card as PDF, Letter or A6."""
    from gentle_ember.documents.cards import cards_pdf

    stored = services().jobs.get(path.job_id)
    content = cards_pdf(
        machine_name(stored.job) or stored.job.title, services().plan(stored).of(cards), query.size
    )
    return download(content, f"{slug(stored.job.title)}-cards-{query.size}.pdf", "application/pdf")


@api.get("/record.pdf")
def record_sheet(path: JobPath, query: CsvQuery) -> Response:
    """The record of work as PDF, Letter or A4 by the system of units, with its fingerprint."""
    from gentle_ember.documents.record_pdf import record_pdf

    stored = services().jobs.get(path.job_id)
    sections = services().plan(stored).of(record)
    content = record_pdf(
        stored.job.title, sections, fingerprint(stored.job), stored.revision, query.system
    )
    return download(content, f"{slug(stored.job.title)}-record.pdf", "application/pdf")

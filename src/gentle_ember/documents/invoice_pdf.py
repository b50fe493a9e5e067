"""The invoice as PDF."""

from __future__ import annotations

import io
from decimal import Decimal
from typing import Any

from gentle_ember.core.job.job import Job, machine_name
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.hand_over.invoice import InvoiceHere, money
from gentle_ember.units.registry import System


def invoice_pdf(job: Job, found: InvoiceHere, front: ShopFront, system: System) -> bytes:
    """The invoice on Letter (US) or A4 (metric): what is charged, tax, what is due, terms."""
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, Spacer

    from gentle_ember.documents.paper import (
        BOLD,
        HEAD,
        RIGHT,
        RIGHT_BOLD,
        TEXT,
        escape,
        letterhead,
        lines,
        ruled,
        sheet,
    )  # fmt: skip

    def asked(amount: Decimal) -> str:
        return escape(money(amount, front.currency))

    told = job.hand_over.invoice
    buffer = io.BytesIO()
    page = sheet(buffer, f"Invoice, {job.title}", system)
    number = escape(told.number) if told.number else "draft, no number yet"
    story: list[Any] = [
        *letterhead(front, page.width),
        Paragraph(f"Invoice {number}", HEAD),
        Paragraph(f"{escape(told.on) or 'no date yet'}", TEXT),
        Spacer(0, 3 * mm),
        Paragraph(f"<b>{escape(job.owner)}</b>", TEXT),
        Paragraph(escape(f"{job.title}: {machine_name(job)}".rstrip(": ")), TEXT),
        Spacer(0, 4 * mm),
    ]
    rows: list[list[Any]] = [
        [Paragraph(text, style) for text, style in
         (("What", BOLD), ("How many", RIGHT_BOLD), ("Each", RIGHT_BOLD), ("Amount", RIGHT_BOLD))]
    ]  # fmt: skip
    for one in found.lines:
        if not one.charged:
            continue
        untaxed = "" if one.taxed or not found.tax_share else " (not taxed)"
        rows.append([
            Paragraph(escape(one.what) + untaxed, TEXT),
            Paragraph(f"{one.count.normalize():f} {one.unit}".strip(), RIGHT),
            Paragraph(asked(one.each), RIGHT),
            Paragraph(asked(one.amount), RIGHT),
        ])  # fmt: skip
    share = f"{(found.tax_share * 100).normalize():f} %"
    sums = [("Together", found.net), (f"Tax, {share}", found.tax), ("Total", found.total)]
    if found.paid:
        sums += [("Paid already", -found.paid), ("Due", found.due)]
    rows += [
        [Paragraph(text, RIGHT_BOLD), "", "", Paragraph(asked(amount), RIGHT_BOLD)]
        for text, amount in sums
    ]
    spans = [("SPAN", (0, at), (2, at)) for at in range(len(rows) - len(sums), len(rows))]
    widths = [page.width * share for share in (0.55, 0.13, 0.15, 0.17)]
    story.append(ruled(rows, widths, *spans))
    if front.terms:
        story += [Spacer(0, 5 * mm), Paragraph(lines(front.terms), TEXT)]
    page.build(story)
    return buffer.getvalue()

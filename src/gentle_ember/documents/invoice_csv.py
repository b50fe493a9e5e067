"""The invoice as CSV, for whatever keeps the books."""

from __future__ import annotations

import csv
import io

from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.hand_over.invoice import InvoiceHere, cents
from gentle_ember.documents.output_csv import text_cell

HEADER = (
    "invoice", "date", "customer", "kind", "what", "count", "unit", "each", "amount", "taxed",
    "currency",
)  # fmt: skip


def invoice_csv(job: Job, found: InvoiceHere, front: ShopFront) -> str:
    """A row a line that is charged, then tax, what is paid, and what is due."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(HEADER)
    told = job.hand_over.invoice
    head = [text_cell(told.number), told.on, text_cell(job.owner)]
    for one in found.lines:
        if one.charged:
            writer.writerow([
                *head, one.kind, text_cell(one.what), f"{one.count.normalize():f}", one.unit,
                str(cents(one.each)), str(one.amount), "yes" if one.taxed else "no",
                text_cell(front.currency),
            ])  # fmt: skip
    for kind, amount in (("tax", found.tax), ("total", found.total), ("paid", -found.paid),
                         ("due", found.due)):  # fmt: skip
        writer.writerow([*head, kind, kind, "", "", "", str(amount), "", text_cell(front.currency)])
    return buffer.getvalue()

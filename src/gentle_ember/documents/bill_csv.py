"""The bill of materials as CSV: one row a line, as an order can be written from."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping

from gentle_ember.core.catalog import Supplier
from gentle_ember.core.stages.fuel_path.parts_list import Bill, PartLine
from gentle_ember.documents.output_csv import text_cell

HEADER = (
    "number", "part", "maker", "count", "unit", "source", "days", "price each", "price",
    "core deposit", "for", "supplier", "supplier phone",
)  # fmt: skip


def bill_csv(bill: Bill, suppliers: Mapping[str, Supplier]) -> str:
    """Every line of a bill with whom to call for it."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(HEADER)
    for line in bill.lines:
        writer.writerow(_row(line, suppliers.get(line.part.maker)))
    for text in bill.missing:
        blank = [""] * (len(HEADER) - 2)
        writer.writerow(["", text_cell(f"not in the catalog: {text}"), *blank])
    return buffer.getvalue()


def _row(line: PartLine, supplier: Supplier | None) -> list[str]:
    part = line.part
    return [
        text_cell(part.number),
        text_cell(part.name),
        text_cell(part.maker),
        f"{line.count:g}",
        "m" if part.by_length else "",
        str(line.source),
        str(part.days) if line.source == "order" else "",
        f"{part.price:.2f}",
        f"{line.price:.2f}",
        f"{line.core:.2f}" if line.core else "",
        text_cell(", ".join(line.uses)),
        text_cell(supplier.name) if supplier else "",
        text_cell(supplier.phone) if supplier else "",
    ]

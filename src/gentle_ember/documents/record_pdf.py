"""The record of work as PDF."""

from __future__ import annotations

import io
from collections.abc import Sequence
from html import escape
from typing import Any

from gentle_ember.core.stages.hand_over.record import RecordSection, Row
from gentle_ember.units.display import show_value
from gentle_ember.units.registry import System


def shown(row: Row, system: System) -> str:
    """What stands in a row, in the reader's units."""
    if row.value is None:
        return row.text
    return " ".join(show_value(row.value, row.kind, system, 4)).strip()


def record_pdf(
    title: str, sections: Sequence[RecordSection], fingerprint: str, revision: int, system: System
) -> bytes:
    """The record on Letter (US) or A4 (metric), its fingerprint at the foot of each page."""
    from reportlab.lib.colors import HexColor
    from reportlab.lib.pagesizes import A4, letter
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, SimpleDocTemplate, Table, TableStyle

    text = ParagraphStyle("text", fontName="Helvetica", fontSize=8.5, leading=10.5)
    bold = ParagraphStyle("bold", parent=text, fontName="Helvetica-Bold")
    head = ParagraphStyle("head", parent=bold, fontSize=16, leading=20)
    group = ParagraphStyle("group", parent=bold, fontSize=11, leading=14, spaceBefore=9)
    buffer = io.BytesIO()
    page = SimpleDocTemplate(
        buffer, pagesize=letter if system == "us" else A4, leftMargin=16 * mm,
        rightMargin=16 * mm, topMargin=14 * mm, bottomMargin=18 * mm,
        title=f"Record of work, {title}", author="Gentle Ember",
    )  # fmt: skip

    def foot(canvas: Any, _: Any) -> None:
        canvas.setFont("Helvetica", 7)
        told = f"Revision {revision} · SHA-256 {fingerprint} · page {canvas.getPageNumber()}"
        canvas.drawString(16 * mm, 10 * mm, told)

    story: list[Any] = [Paragraph(f"Record of work: {escape(title)}", head)]
    widths = [page.width * share for share in (0.42, 0.38, 0.20)]
    for section in sections:
        story.append(Paragraph(escape(section.title), group))
        table = Table(
            [
                [
                    Paragraph(escape(row.label), text),
                    Paragraph(escape(shown(row, system)), bold),
                    Paragraph(escape(row.by), text),
                ]
                for row in section.rows
            ],
            colWidths=widths,
        )
        rule = HexColor("#d8d2c6")
        table.setStyle(
            TableStyle([
                ("LINEABOVE", (0, 0), (-1, -1), 0.4, rule), ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), 2), ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
            ])
        )  # fmt: skip
        story.append(table)
    page.build(story, onFirstPage=foot, onLaterPages=foot)
    return buffer.getvalue()

"""The bill of materials as PDF, to take to the counter and to tick off."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, letter
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from gentle_ember.core.catalog import Supplier
from gentle_ember.core.stages.fuel_path.parts_list import Bill, PartLine, Source
from gentle_ember.core.stages.hand_over.invoice import exact, money
from gentle_ember.units.registry import System

INK, RULE, EMBER = HexColor("#26221e"), HexColor("#d8d2c6"), HexColor("#b83a0b")
CAUTION = (
    "Prices and stock as the shop's catalog had them. Gas lines and house connection: a licensed "
    "person, local code and permit. Makers' instructions go first."
)
_TEXT = ParagraphStyle("text", fontName="Helvetica", fontSize=8.5, leading=10.5, textColor=INK)
_SMALL = ParagraphStyle("small", parent=_TEXT, fontSize=7.2, leading=9)
_HEAD = ParagraphStyle("head", parent=_TEXT, fontName="Helvetica-Bold", fontSize=15, leading=19)
_GROUP = ParagraphStyle("group", parent=_TEXT, fontName="Helvetica-Bold", textColor=EMBER)
_RIGHT = ParagraphStyle("right", parent=_TEXT, alignment=2)


def bill_pdf(
    title: str,
    owner: str,
    bill: Bill,
    suppliers: Mapping[str, Supplier],
    system: System,
    currency: str = "$",
) -> bytes:
    """A bill on Letter (US) or A4 (metric)."""

    def asked(price: float) -> str:
        return escape(money(exact(price), currency))

    buffer = io.BytesIO()
    page = SimpleDocTemplate(
        buffer,
        pagesize=letter if system == "us" else A4,
        leftMargin=16 * mm,
        rightMargin=16 * mm,
        topMargin=14 * mm,
        bottomMargin=14 * mm,
        title=f"Parts list, {title}",
        author="Gentle Ember",
    )
    story: list[Any] = [
        Paragraph(f"Parts list: {escape(title)}", _HEAD),
        Paragraph(escape(owner), _TEXT),
        Spacer(0, 4 * mm),
        _table(bill, page.width, asked),
        Spacer(0, 4 * mm),
        Paragraph(
            f"<b>{asked(bill.price)}</b>"
            + (f", of it {asked(bill.core)} deposit" if bill.core else "")
            + (f"; last ordered part in {bill.days} days" if bill.days else ""),
            _TEXT,
        ),
    ]
    story += [Paragraph(f"Not in the catalog: {escape(text)}", _TEXT) for text in bill.missing]
    story += [
        Paragraph(f"Not exact before this is measured: {escape(text)}", _TEXT)
        for text, _ in bill.open_questions
    ]
    story.append(Spacer(0, 3 * mm))
    makers = {line.part.maker for line in bill.lines if line.source is Source.ORDER}
    story += [
        Paragraph(escape(f"{one.name}: {one.phone}, {one.mail}; {one.terms}"), _TEXT)
        for maker, one in suppliers.items()
        if maker in makers
    ]
    story += [Spacer(0, 4 * mm), Paragraph(CAUTION, _SMALL)]
    page.build(story)
    return buffer.getvalue()


def _table(bill: Bill, width: float, asked: Callable[[float], str]) -> Table:
    rows: list[list[Any]] = []
    groups: list[int] = []
    for group in bill.groups():
        groups.append(len(rows))
        rows.append([Paragraph(group.title, _GROUP), "", "", "", ""])
        rows += [_row(line, asked) for line in group.lines]
    if not rows:
        rows.append([Paragraph("Nothing yet.", _TEXT), "", "", "", ""])
    shares = (0.06, 0.1, 0.54, 0.15, 0.15)
    table = Table(rows, colWidths=[width * share for share in shares], repeatRows=0)
    style = [
        ("LINEABOVE", (0, 0), (-1, -1), 0.4, RULE),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("TOPPADDING", (0, 0), (-1, -1), 2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
    ]
    style += [("SPAN", (0, row), (-1, row)) for row in groups]
    table.setStyle(TableStyle(style))
    return table


def _row(line: PartLine, asked: Callable[[float], str]) -> list[Any]:
    count = f"{line.count:g} m" if line.part.by_length else f"{line.count:g}"
    uses = escape(", ".join(line.uses))
    shown = "" if line.source is Source.SITE else asked(line.price)
    return [
        Paragraph("[  ]", _TEXT),
        Paragraph(count, _RIGHT),
        Paragraph(f"{escape(line.part.name)}<br/><font size=7>{uses}</font>", _TEXT),
        Paragraph(escape("" if line.part.site else line.part.number), _TEXT),
        Paragraph(shown, _RIGHT),
    ]

"""What the shop's papers share: sheet, styles, its own head with name, address and logo."""

from __future__ import annotations

import base64
import io
from collections.abc import Sequence
from html import escape as escaped
from typing import Any

from reportlab.graphics.shapes import Drawing, PolyLine
from reportlab.lib.colors import HexColor, black
from reportlab.lib.pagesizes import A4, letter
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Image, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from gentle_ember.core.shop import ShopFront
from gentle_ember.units.registry import System

RULE = HexColor("#d8d2c6")
TEXT = ParagraphStyle("text", fontName="Helvetica", fontSize=8.5, leading=10.5)
BOLD = ParagraphStyle("bold", parent=TEXT, fontName="Helvetica-Bold")
RIGHT = ParagraphStyle("right", parent=TEXT, alignment=2)
RIGHT_BOLD = ParagraphStyle("right_bold", parent=BOLD, alignment=2)
HEAD = ParagraphStyle("head", parent=BOLD, fontSize=16, leading=20)
GROUP = ParagraphStyle("group", parent=BOLD, fontSize=11, leading=14, spaceBefore=9, keepWithNext=1)
LOGO_MM = 18.0


def sheet(buffer: io.BytesIO, title: str, system: System) -> SimpleDocTemplate:
    """A paper on Letter (US) or A4 (metric)."""
    return SimpleDocTemplate(
        buffer, pagesize=letter if system == "us" else A4, leftMargin=16 * mm,
        rightMargin=16 * mm, topMargin=14 * mm, bottomMargin=18 * mm, title=title,
        author="Gentle Ember",
    )  # fmt: skip


PLAIN = str.maketrans({"λ": "lambda", "−": "-", "′": "'", "″": '"', "≤": "<=", "≥": ">="})
"""What the standard fonts of a PDF have no sign for."""


def escape(text: str) -> str:
    """Text as it may stand in a paragraph of a paper."""
    return escaped(text.translate(PLAIN))


def lines(text: str) -> str:
    """Text of several lines, as a paragraph takes it."""
    return "<br/>".join(escape(one) for one in text.strip().splitlines())


def letterhead(front: ShopFront, width: float) -> list[Any]:
    """Name, address, licenses and logo of the shop; nothing where none were told."""
    told = "<br/>".join(filter(None, (
        f"<b>{escape(front.name)}</b>" if front.name else "", lines(front.address),
        lines(front.contact), f"License {escape(front.license)}" if front.license else "",
    )))  # fmt: skip
    if not told and not front.logo:
        return []
    logo: Any = ""
    if front.logo:
        logo = Image(io.BytesIO(base64.b64decode(front.logo)))
        scale = min(LOGO_MM * mm / logo.imageHeight, 0.3 * width / logo.imageWidth)
        logo.drawHeight, logo.drawWidth = logo.imageHeight * scale, logo.imageWidth * scale
        logo.hAlign = "RIGHT"
    head = Table([[Paragraph(told, TEXT), logo]], colWidths=[0.68 * width, 0.32 * width])
    head.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP")]))
    return [head, Spacer(0, 4 * mm)]


def ruled(
    rows: list[list[Any]], widths: list[float], *more: tuple[Any, ...],
    heights: list[float | None] | None = None,
) -> Table:  # fmt: skip
    """A table with a rule above each row, each as high as it must be unless told."""
    table = Table(rows, colWidths=widths, rowHeights=heights)
    table.setStyle(TableStyle([
        ("LINEABOVE", (0, 0), (-1, -1), 0.4, RULE), ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("TOPPADDING", (0, 0), (-1, -1), 2), ("BOTTOMPADDING", (0, 0), (-1, -1), 2), *more,
    ]))  # fmt: skip
    return table


def drawn(
    strokes: Sequence[Sequence[int]], across: int, wide: float, weight: float, high: int = 0
) -> Drawing:
    """Strokes of x and y by turns, from the upper left, as lines.

    Args:
        strokes: in steps.
        across: steps the width takes.
        wide: width on paper [pt].
        weight: of a line [pt].
        high: steps the height takes; as many as the strokes need where none are told.
    """
    step = wide / across
    deep = high or max((y for stroke in strokes for y in stroke[1::2]), default=0)
    found = Drawing(wide, deep * step + weight)
    for stroke in strokes:
        places = [
            at
            for x, y in zip(stroke[::2], stroke[1::2], strict=True)
            for at in (x * step, (deep - y) * step + weight / 2)
        ]
        if len(places) == 2:
            places += [places[0] + weight / 2, places[1]]
        found.add(PolyLine(places, strokeColor=black, strokeWidth=weight, strokeLineCap=1,
                           strokeLineJoin=1))  # fmt: skip
    return found

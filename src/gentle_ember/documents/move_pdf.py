"""The move sheet as PDF: one way from a place to another, to take along."""

from __future__ import annotations

import io
from typing import Any, Literal

from gentle_ember.core.base.figure import Figure
from gentle_ember.core.physics.fuels import NAMES
from gentle_ember.core.stages.hand_over.moving import MoveSheet
from gentle_ember.units import show
from gentle_ember.units.registry import System


def shown(one: Figure, system: System) -> str:
    """A figure with its unit and its band, as it stands on the page."""
    found = show(one, system)
    band = "" if found.low == found.high else f" ({found.low} to {found.high})"
    return f"{found.text} {found.unit}".strip() + band


def move_pdf(
    title: str, names: tuple[str, str], move: MoveSheet, system: System,
    size: Literal["sheet", "card"] = "sheet",
) -> bytes:  # fmt: skip
    """The sheet on Letter (US) or A4 (metric), or a card of A6 for a pocket.

    Args:
        title: of the job.
        names: of the two sites.
        move: the way between them.
        system: the reader's units.
        size: a sheet or a card.
    """
    from reportlab.lib.colors import HexColor
    from reportlab.lib.pagesizes import A4, A6, letter
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, SimpleDocTemplate, Table, TableStyle

    from gentle_ember.documents.paper import escape

    card = size == "card"
    small = 0.72 if card else 1.0

    def style(name: str, points: float, lead: float, **more: Any) -> ParagraphStyle:
        return ParagraphStyle(name, fontSize=points * small, leading=lead * small,
                              **{"fontName": "Helvetica-Bold", **more})  # fmt: skip

    text = style("text", 10, 13, fontName="Helvetica")
    bold = style("bold", 10, 13)
    head = style("head", 16, 20)
    group = style("group", 12, 16, spaceBefore=9 * small, keepWithNext=1)
    large = style("large", 14, 18, spaceBefore=6 * small)
    edge = 7 * mm if card else 16 * mm
    buffer = io.BytesIO()
    page = SimpleDocTemplate(
        buffer, pagesize=A6 if card else letter if system == "us" else A4, leftMargin=edge,
        rightMargin=edge, topMargin=min(edge, 14 * mm), bottomMargin=min(edge, 14 * mm),
        title=f"Move sheet, {title}", author="Gentle Ember",
    )  # fmt: skip
    fuels = [NAMES[one.fuel] for one in (move.start, move.goal)]
    ways = [f"{name}, on {fuel}" for name, fuel in zip(names, fuels, strict=True)]
    story: list[Any] = [
        Paragraph(f"Move sheet: {escape(title)}", head),
        Paragraph(f"From {escape(ways[0])} to {escape(ways[1])}", bold),
    ]
    story += [Paragraph(f"Stop: {escape(one)}", large) for one in move.stops]
    if move.says:
        story.append(Paragraph(escape(move.says), large))
    for one in (move.lam, move.screw):
        if one is not None:
            story.append(Paragraph(f"{escape(one.label)}: {escape(shown(one, system))}", text))
    if move.rows:
        rows = [["", *(Paragraph(escape(name), bold) for name in names)]] + [
            [Paragraph(escape(row.label), text),
             Paragraph(escape(shown(row.here, system)), text),
             Paragraph(escape(shown(row.there, system)), bold)]
            for row in move.rows
        ]  # fmt: skip
        table = Table(rows, colWidths=[page.width * share for share in (0.36, 0.32, 0.32)])
        table.setStyle(
            TableStyle([
                ("LINEABOVE", (0, 1), (-1, -1), 0.4, HexColor("#d8d2c6")),
                ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (0, -1), 0),
            ])
        )  # fmt: skip
        story += [Paragraph("Here and there", group), table]
    story.append(Paragraph("Proven there, in this order, before it is left running", group))
    story += [
        Paragraph(f"{number}. {escape(one.text)}  ______", text)
        for number, one in enumerate(move.again, 1)
    ]
    page.build(story)
    return buffer.getvalue()

"""Owner's cards as PDF, Letter or A6, and as one HTML file that needs nothing else."""

from __future__ import annotations

import io
from html import escape
from typing import Any, Literal

from gentle_ember.core.stages.hand_over.cards import Block, Card, Cards

Size = Literal["letter", "a6"]
_CSS = """
body{font:20px/1.35 system-ui,sans-serif;color:#000;background:#fff;margin:0 auto;padding:16px;
max-width:42rem}
article{border:3px solid #000;border-radius:10px;padding:14px 18px;margin:0 0 28px;
break-after:page}
h1{font-size:30px;margin:0 0 6px;display:flex;gap:12px;align-items:center}
h1 b{border:3px solid #000;border-radius:8px;min-width:1.5em;text-align:center}
h2{font-size:22px;margin:16px 0 4px;border-bottom:2px solid #000}
ol,ul{margin:4px 0 0;padding-left:1.5em}li{padding:3px 0}
ol li::marker{font-weight:700}
.draft{border:3px dashed #000;padding:8px 12px;font-weight:700}
nav a{display:inline-block;padding:8px 12px;border:2px solid #000;border-radius:8px;margin:0 6px
6px 0;color:#000}
@media print{nav{display:none}}
"""


def cards_html(title: str, found: Cards) -> str:
    """All cards as one file for a phone without a network: no script, nothing loaded."""
    parts = [
        "<!doctype html><html lang='en'><meta charset='utf-8'>"
        "<meta name='viewport' content='width=device-width,initial-scale=1'>"
        f"<title>{escape(title)}: cards</title><style>{_CSS}</style>",
        "<nav>",
        *(f"<a href='#{one.key}'>{escape(one.title)}</a>" for one in found.cards),
        "</nav>",
    ]
    if found.draft:
        parts.append(f"<p class='draft'>{escape(found.draft)}</p>")
    parts += [f"<p class='draft'>{escape(text)}</p>" for text in found.withheld]
    parts += [_html(title, one) for one in found.cards]
    return "".join(parts)


def _html(title: str, one: Card) -> str:
    blocks = "".join(_block(block) for block in one.blocks)
    return (
        f"<article id='{one.key}'><h1><b>{escape(one.letter)}</b>{escape(one.title)}</h1>"
        f"<div>{escape(title)}</div>{blocks}</article>"
    )


def _block(one: Block) -> str:
    tag = "ol" if one.numbered else "ul"
    lines = "".join(f"<li>{escape(line)}</li>" for line in one.lines)
    return f"<h2>{escape(one.title)}</h2><{tag}>{lines}</{tag}>"


def cards_pdf(title: str, found: Cards, size: Size) -> bytes:
    """Each card from a page of its own, large enough to be read at arm's length."""
    from reportlab.lib.pagesizes import A6, letter
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import KeepTogether, PageBreak, Paragraph, SimpleDocTemplate, Spacer

    scale = 1.0 if size == "letter" else 0.55
    edge = (14 if size == "letter" else 6) * mm
    text = ParagraphStyle("text", fontName="Helvetica", fontSize=15 * scale, leading=19 * scale)
    line = ParagraphStyle(
        "line", parent=text, leftIndent=22 * scale, bulletIndent=0,
        bulletFontName="Helvetica-Bold", bulletFontSize=15 * scale,
    )  # fmt: skip
    head = ParagraphStyle(
        "head", parent=text, fontName="Helvetica-Bold", fontSize=26 * scale, leading=32 * scale
    )
    group = ParagraphStyle(
        "group", parent=text, fontName="Helvetica-Bold", fontSize=18 * scale, leading=24 * scale,
        spaceBefore=8 * scale,
    )  # fmt: skip
    buffer = io.BytesIO()
    page = SimpleDocTemplate(
        buffer, pagesize=letter if size == "letter" else A6, leftMargin=edge, rightMargin=edge,
        topMargin=edge, bottomMargin=edge, title=f"Cards, {title}", author="Gentle Ember",
    )  # fmt: skip
    story: list[Any] = []
    for at, one in enumerate(found.cards):
        if at:
            story.append(PageBreak())
        story.append(Paragraph(f"[{escape(one.letter)}] {escape(one.title)}", head))
        story.append(Paragraph(escape(title), text))
        if found.draft:
            story.append(Paragraph(f"<b>{escape(found.draft)}</b>", text))
        for block in one.blocks:
            lines = [
                Paragraph(
                    escape(said), line,
                    bulletText=f"{number}" if block.numbered else "•",
                )
                for number, said in enumerate(block.lines, 1)
            ]  # fmt: skip
            first = [Paragraph(escape(block.title), group), *lines[:1]]
            # An order is never torn across two pages.
            whole = [*first, *lines[1:]]
            story += [KeepTogether(whole)] if block.numbered else [KeepTogether(first), *lines[1:]]
    for said in found.withheld:
        story += [Spacer(0, 3 * mm), Paragraph(f"<b>{escape(said)}</b>", text)]
    if not story:
        story.append(Paragraph("No card yet: choose a method first.", text))
    page.build(story)
    return buffer.getvalue()

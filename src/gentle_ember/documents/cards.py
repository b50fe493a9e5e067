"""Owner's cards as PDF, Letter or A6, and as one HTML file that needs nothing else."""

from __future__ import annotations

import io
from html import escape
from typing import Any, Literal

from gentle_ember.core.job.handling import HANDLING, Hatch
from gentle_ember.core.physics.fuels import KEYS, FuelKey
from gentle_ember.core.shop import UNNAMED, ShopFront
from gentle_ember.core.stages.hand_over.cards import Block, Card, Cards
from gentle_ember.core.stages.hand_over.signs import FIELD, SIGNS

Size = Literal["letter", "a6"]
_CSS = """
body{font:20px/1.35 system-ui,sans-serif;color:#000;background:#fff;margin:0 auto;padding:16px;
max-width:42rem}
article{border:3px solid #000;border-radius:10px;padding:0 18px 14px;margin:0 0 28px;
break-after:page;overflow:hidden}
header{background:#000;color:#fff;margin:0 -18px;padding:10px 18px}
h1{font-size:30px;margin:0;display:flex;gap:12px;align-items:center}
.mark{border:3px solid #fff;border-radius:8px;background:#fff;color:#000;padding:3px;
min-width:1.4em;text-align:center}
.mark b{display:block;background:#fff;margin:0 5px;line-height:1.2}
.propane .mark{background:repeating-linear-gradient(135deg,#000 0 3px,#fff 3px 7px)}
.natural_gas .mark{background:repeating-linear-gradient(0deg,#000 0 3px,#fff 3px 7px)}
.biogas .mark{background:radial-gradient(circle,#000 2px,#fff 2.4px) 0 0/7px 7px}
h2{font-size:22px;margin:16px 0 4px;border-bottom:2px solid #000;display:flex;gap:8px;
align-items:center}
h2 svg{width:26px;height:26px;flex:none;fill:none;stroke:#000;stroke-width:2.2;
stroke-linecap:round;stroke-linejoin:round}
ol,ul{margin:4px 0 0;padding-left:1.5em}li{padding:3px 0}
ol li::marker{font-weight:700}
.draft{border:3px dashed #000;padding:8px 12px;font-weight:700}
nav a{display:inline-block;padding:8px 12px;border:2px solid #000;border-radius:8px;margin:0 6px
6px 0;color:#000}
footer{margin-top:14px;border-top:2px solid #000;padding-top:6px}
@media print{nav{display:none}}
"""


def cards_html(title: str, found: Cards, front: ShopFront = UNNAMED) -> str:
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
    parts += [_html(title, one, front) for one in found.cards]
    return "".join(parts)


def _html(title: str, one: Card, front: ShopFront) -> str:
    blocks = "".join(_block(block) for block in one.blocks)
    return (
        f"<article id='{one.key}' class='{one.fuel}'><header><h1><span class='mark'>"
        f"<b>{escape(one.letter)}</b></span>{escape(one.title)}</h1>{escape(title)}</header>"
        f"{blocks}{_made_by(front)}</article>"
    )


def _made_by(front: ShopFront) -> str:
    told = ", ".join(_shop(front))
    return f"<footer>{escape(told)}</footer>" if told else ""


def _shop(front: ShopFront) -> list[str]:
    return [one for one in (front.name, *front.contact.splitlines()) if one.strip()]


def _block(one: Block) -> str:
    tag = "ol" if one.numbered else "ul"
    lines = "".join(f"<li>{escape(line)}</li>" for line in one.lines)
    return f"<h2>{_svg(one.sign)}{escape(one.title)}</h2><{tag}>{lines}</{tag}>"


def _svg(sign: str) -> str:
    strokes = "".join(
        f"<polyline points='{' '.join(map(str, one))}'/>" for one in SIGNS.get(sign, ())
    )
    return f"<svg viewBox='0 0 {FIELD} {FIELD}' aria-hidden='true'>{strokes}</svg>"


def cards_pdf(title: str, found: Cards, size: Size, front: ShopFront = UNNAMED) -> bytes:
    """Each card from a page of its own, large enough to be read at arm's length, black alone."""
    from reportlab.lib.colors import white
    from reportlab.lib.pagesizes import A6, letter
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import (
        KeepTogether,
        PageBreak,
        Paragraph,
        SimpleDocTemplate,
        Spacer,
        Table,
        TableStyle,
    )

    from gentle_ember.documents.paper import drawn, escape

    scale = 1.2 if size == "letter" else 0.72
    edge = (14 if size == "letter" else 6) * mm
    text = ParagraphStyle("text", fontName="Helvetica", fontSize=15 * scale, leading=18.5 * scale)
    line = ParagraphStyle(
        "line", parent=text, leftIndent=22 * scale, bulletIndent=2 * scale,
        bulletFontName="Helvetica-Bold", bulletFontSize=15 * scale,
    )  # fmt: skip
    head = ParagraphStyle(
        "head", parent=text, fontName="Helvetica-Bold", fontSize=25 * scale, leading=28 * scale,
        textColor=white,
    )  # fmt: skip
    under = ParagraphStyle("under", parent=text, textColor=white, fontSize=12 * scale)
    group = ParagraphStyle(
        "group", parent=text, fontName="Helvetica-Bold", fontSize=17 * scale, leading=21 * scale
    )
    buffer = io.BytesIO()
    page = SimpleDocTemplate(
        buffer, pagesize=letter if size == "letter" else A6, leftMargin=edge, rightMargin=edge,
        topMargin=edge, bottomMargin=edge + 12 * scale, title=f"Cards, {title}",
        author="Gentle Ember",
    )  # fmt: skip
    told = " · ".join((title, *_shop(front)))

    def foot(canvas: Any, _: Any) -> None:
        canvas.setFont("Helvetica", 9 * scale)
        canvas.drawString(edge, edge * 0.7, told)
        canvas.drawRightString(page.pagesize[0] - edge, edge * 0.7, str(canvas.getPageNumber()))

    def band(one: Card) -> Any:
        row = Table(
            [[_mark(one, 40 * scale), [Paragraph(escape(one.title), head),
                                      Paragraph(escape(title), under)]]],
            colWidths=[52 * scale, page.width - 52 * scale],
        )  # fmt: skip
        row.setStyle(TableStyle([
            ("BACKGROUND", (0, 0), (-1, -1), "black"), ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ]))  # fmt: skip
        return row

    def heading(block: Block) -> Any:
        row = Table(
            [[drawn(SIGNS.get(block.sign, ()), FIELD, 20 * scale, 1.8 * scale, FIELD),
              Paragraph(escape(block.title), group)]],
            colWidths=[28 * scale, page.width - 28 * scale], spaceBefore=9 * scale,
        )  # fmt: skip
        row.setStyle(TableStyle([
            ("LINEBELOW", (0, 0), (-1, -1), 1.2 * scale, "black"),
            ("VALIGN", (0, 0), (-1, -1), "MIDDLE"), ("LEFTPADDING", (0, 0), (0, 0), 0),
            ("TOPPADDING", (0, 0), (-1, -1), 1), ("BOTTOMPADDING", (0, 0), (-1, -1), 3 * scale),
        ]))  # fmt: skip
        return row

    story: list[Any] = []
    for at, one in enumerate(found.cards):
        if at:
            story.append(PageBreak())
        story.append(band(one))
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
            # An order is never torn across two pages.
            first = [heading(block), *(lines if block.numbered else lines[:1])]
            story += [KeepTogether(first), *([] if block.numbered else lines[1:])]
    for said in found.withheld:
        story += [Spacer(0, 3 * mm), Paragraph(f"<b>{escape(said)}</b>", text)]
    if not story:
        story.append(Paragraph("No card yet: choose a method first.", text))
    page.build(story, onFirstPage=foot, onLaterPages=foot)
    return buffer.getvalue()


def _mark(one: Card, wide: float) -> Any:
    """A fuel's letter on its hatching, as every page shows it: known without its color."""
    from reportlab.graphics.shapes import Circle, Drawing, Line, Rect, String
    from reportlab.lib.colors import black, white

    found = Drawing(wide, wide)
    found.add(Rect(0, 0, wide, wide, rx=wide / 8, fillColor=white, strokeColor=white))
    step, edge = wide / 8, wide / 16
    hatch = HANDLING[FuelKey(one.fuel)].hatch if one.fuel in KEYS else None
    if hatch is Hatch.SLANTED:
        for n in range(-7, 8):
            low, high = max(0.0, n * step), min(wide, wide + n * step)
            found.add(Line(low, low - n * step, high, high - n * step,
                           strokeColor=black, strokeWidth=step / 3))  # fmt: skip
    elif hatch is Hatch.LEVEL:
        for n in range(8):
            found.add(Line(edge, (n + 0.5) * step, wide - edge, (n + 0.5) * step,
                           strokeColor=black, strokeWidth=step / 3))  # fmt: skip
    elif hatch is Hatch.DOTTED:
        for n in range(64):
            found.add(Circle((n % 8 + 0.5) * step, (n // 8 + 0.5) * step, step / 5,
                             fillColor=black, strokeColor=None))  # fmt: skip
    found.add(Rect(wide * 0.24, wide * 0.16, wide * 0.52, wide * 0.68, rx=edge, fillColor=white,
                   strokeColor=None))  # fmt: skip
    found.add(String(wide / 2, wide * 0.27, one.letter, textAnchor="middle",
                     fontName="Helvetica-Bold", fontSize=wide * 0.64))  # fmt: skip
    return found

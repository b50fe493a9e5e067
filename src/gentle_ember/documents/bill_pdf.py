"""The bill of materials as PDF, to take to the counter and to tick off."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer, Table

from gentle_ember.core.catalog import Supplier
from gentle_ember.core.shop import UNNAMED, ShopFront
from gentle_ember.core.stages.fuel_path.parts_list import Bill, PartLine, Source
from gentle_ember.core.stages.hand_over.invoice import exact, money
from gentle_ember.documents.paper import BOLD, HEAD, RIGHT, TEXT, escape, ruled, sheet
from gentle_ember.units.display import counted
from gentle_ember.units.registry import System

CAUTION = (
    "Prices and stock as the shop's catalog had them. Gas lines and house connection: a licensed "
    "person, local code and permit. Makers' instructions go first."
)
_SMALL = ParagraphStyle("small", parent=TEXT, fontSize=7.2, leading=9)
_GROUP = ParagraphStyle("bill_group", parent=BOLD, textColor=HexColor("#b83a0b"))


def bill_pdf(
    title: str,
    owner: str,
    bill: Bill,
    suppliers: Mapping[str, Supplier],
    system: System,
    front: ShopFront = UNNAMED,
) -> bytes:
    """A bill on Letter (US) or A4 (metric)."""

    def asked(price: float) -> str:
        return escape(money(exact(price), front.currency))

    buffer = io.BytesIO()
    page = sheet(buffer, f"Parts list, {title}", system)
    story: list[Any] = [
        Paragraph(f"Parts list: {escape(title)}", HEAD),
        Paragraph(escape(owner), TEXT),
        Spacer(0, 4 * mm),
        _table(bill, page.width, asked, system),
        Spacer(0, 4 * mm),
        Paragraph(
            f"<b>{asked(bill.price)}</b>"
            + (f", of it {asked(bill.core)} deposit" if bill.core else "")
            + (f"; last ordered part in {bill.days} days" if bill.days else ""),
            TEXT,
        ),
    ]
    story += [Paragraph(f"Not in the catalog: {escape(text)}", TEXT) for text in bill.missing]
    story += [
        Paragraph(f"Not exact before this is measured: {escape(text)}", TEXT)
        for text, _ in bill.open_questions
    ]
    story.append(Spacer(0, 3 * mm))
    makers = {line.part.maker for line in bill.lines if line.source is Source.ORDER}
    story += [
        Paragraph(escape(f"{one.name}: {one.phone}, {one.mail}; {one.terms}"), TEXT)
        for maker, one in suppliers.items()
        if maker in makers
    ]
    story += [Spacer(0, 4 * mm), Paragraph(CAUTION, _SMALL)]
    page.build(story)
    return buffer.getvalue()


def _table(bill: Bill, width: float, asked: Callable[[float], str], system: System) -> Table:
    rows: list[list[Any]] = []
    groups: list[int] = []
    for group in bill.groups():
        groups.append(len(rows))
        rows.append([Paragraph(group.title, _GROUP), "", "", "", ""])
        rows += [_row(line, asked, system) for line in group.lines]
    if not rows:
        rows.append([Paragraph("Nothing yet.", TEXT), "", "", "", ""])
    shares = (0.06, 0.1, 0.54, 0.15, 0.15)
    spans = [("SPAN", (0, row), (-1, row)) for row in groups]
    return ruled(rows, [width * share for share in shares], *spans)


def _row(line: PartLine, asked: Callable[[float], str], system: System) -> list[Any]:
    count = counted(line.count, system, by_length=line.part.by_length)
    uses = escape(", ".join(line.uses))
    shown = "" if line.source is Source.SITE else asked(line.price)
    return [
        Paragraph("[  ]", TEXT),
        Paragraph(count, RIGHT),
        Paragraph(f"{escape(line.part.name)}<br/><font size=7>{uses}</font>", TEXT),
        Paragraph(escape("" if line.part.site else line.part.number), TEXT),
        Paragraph(shown, RIGHT),
    ]

"""The record of work as PDF: a sealed revision as it was signed, or the draft as it stands."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

from gentle_ember.core.job.hand_over import PAD, SealedRecord
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.hand_over.record import RecordSection, Row
from gentle_ember.core.stages.hand_over.seals import differences
from gentle_ember.units.display import show_value
from gentle_ember.units.registry import System


def shown(row: Row, system: System) -> str:
    """What stands in a row, in the reader's units."""
    if row.value is None:
        return row.text
    return " ".join(show_value(row.value, row.kind, system, 4)).strip()


def record_pdf(
    title: str, sections: Sequence[RecordSection], system: System, front: ShopFront, *,
    seal: SealedRecord | None, work: str, before: Sequence[RecordSection] = (),
) -> bytes:  # fmt: skip
    """The record on Letter (US) or A4 (metric), what it is sealed with at the foot of each page.

    Args:
        title: of the job.
        sections: the record.
        system: the reader's units.
        front: the shop, for its head.
        seal: the revision it is; None for a draft.
        work: SHA-256 of the work, for a draft.
        before: the revision before it, to say what differs.
    """
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, Spacer

    from gentle_ember.documents.paper import (
        BOLD,
        GROUP,
        HEAD,
        TEXT,
        drawn,
        escape,
        letterhead,
        ruled,
        sheet,
    )  # fmt: skip

    buffer = io.BytesIO()
    page = sheet(buffer, f"Record of work, {title}", system)
    name = "DRAFT, not signed" if seal is None else f"Revision {seal.number}"
    told = f"work {work}" if seal is None else seal.digest

    def foot(canvas: Any, _: Any) -> None:
        canvas.setFont("Helvetica", 7)
        said = f"{name} · SHA-256 {told} · page {canvas.getPageNumber()}"
        canvas.drawString(16 * mm, 10 * mm, said)

    story: list[Any] = [
        *letterhead(front, page.width),
        Paragraph(f"Record of work: {escape(title)}", HEAD),
        Paragraph(name, BOLD),
    ]
    widths = [page.width * share for share in (0.42, 0.38, 0.20)]
    changed = differences(before, sections) if before else ()
    if changed:
        story.append(Paragraph("What differs from the revision before", GROUP))
        story.append(ruled([
            [Paragraph(escape(f"{one.section}: {(one.now or one.was or Row('')).label}"), TEXT),
             Paragraph(escape(f"now {_text(one.now, system)}"), BOLD),
             Paragraph(escape(f"was {_text(one.was, system)}"), TEXT)]
            for one in changed
        ], widths))  # fmt: skip
    for section in sections:
        story.append(Paragraph(escape(section.title), GROUP))
        story.append(ruled([
            [Paragraph(escape(row.label), TEXT), Paragraph(escape(shown(row, system)), BOLD),
             Paragraph(escape(row.by), TEXT)]
            for row in section.rows
        ], widths))  # fmt: skip
    story.append(Paragraph("Signatures", GROUP))
    if seal is None:
        story.append(Paragraph("Not signed: this record is a draft.", TEXT))
    else:
        for who, one in (("Technician", seal.technician), ("Owner", seal.owner)):
            story += [
                Paragraph(f"{who}: {escape(one.name)}, {escape(one.on[:10])}", TEXT),
                drawn(one.strokes, PAD, 60 * mm, 1.1), Spacer(0, 2 * mm),
            ]  # fmt: skip
    page.build(story, onFirstPage=foot, onLaterPages=foot)
    return buffer.getvalue()


def _text(row: Row | None, system: System) -> str:
    return "nothing" if row is None else shown(row, system) or "nothing"

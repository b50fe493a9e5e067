"""A sheet to write runs on by hand, hung beside the set: its columns are those of the page."""

from __future__ import annotations

import io
from typing import Any

from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import GASES, LETTERS, NAMES, FuelKey
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.logbook.upkeep import EXERCISE
from gentle_ember.units.registry import System

LINES = 24
COLUMNS = (("Day", 0.12), ("Fuel", 0.08), ("Hours", 0.09), ("Hour meter after", 0.13),
           ("About what load", 0.13), ("Fuel used, weighed", 0.14), ("Remark", 0.31))  # fmt: skip


def runs_form_pdf(title: str, job: Job, system: System, front: ShopFront) -> bytes:
    """One sheet on Letter (US) or A4 (metric) with room for 24 runs."""
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, Spacer

    from gentle_ember.documents.paper import BOLD, HEAD, TEXT, escape, letterhead, ruled, sheet

    wanted = [FuelKey.GASOLINE] if job.wants.keep_gasoline else []
    wanted += [one for one in GASES if getattr(job.wants, one)]
    letters = ", ".join(f"{LETTERS[one]} {NAMES[one]}" for one in wanted)
    watts, weight = "W", "lb" if system == "us" else "kg"
    buffer = io.BytesIO()
    page = sheet(buffer, f"Runs, {title}", system)
    heads = [
        Paragraph(f"{name}, {unit}" if unit else name, BOLD)
        for name, unit in (
            (name, {"About what load": watts, "Fuel used, weighed": weight}.get(name, ""))
            for name, _ in COLUMNS
        )
    ]
    rows: list[list[Any]] = [heads, *([""] * len(COLUMNS) for _ in range(LINES))]
    table = ruled(rows, [page.width * share for _, share in COLUMNS],
                  ("INNERGRID", (0, 0), (-1, -1), 0.4, "#999999"),
                  ("BOX", (0, 0), (-1, -1), 0.8, "black"),
                  heights=[None, *([7.4 * mm] * LINES)])  # fmt: skip
    page.build([
        *letterhead(front, page.width),
        Paragraph(f"Runs of {escape(title)}", HEAD),
        Paragraph(escape(job.owner), TEXT),
        Paragraph(f"Fuel by its letter: {escape(letters)}. Hours or the hour meter, one is enough.",
                  TEXT),
        Paragraph(f"{EXERCISE.name}: once a month if it did not run. Smell of gas, hunting, or it "
                  "uses more than it did: stop, and call.", TEXT),
        Spacer(0, 3 * mm), table,
    ])  # fmt: skip
    return buffer.getvalue()

"""The output table as CSV: one row a fuel, then one a container."""

from __future__ import annotations

import csv
import io

from gentle_ember.core.base.figure import Figure
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import every_run_time
from gentle_ember.core.stage import Plan
from gentle_ember.units.display import show
from gentle_ember.units.registry import System

HEADER = (
    "what", "value", "unit", "low", "high", "estimated", "limited by", "method", "source",
)  # fmt: skip


def text_cell(text: str) -> str:
    """Text that a spreadsheet won't take for a formula.

    >>> text_cell("=1+1"), text_cell("plain")
    ("'=1+1", 'plain')
    """
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def output_csv(plan: Plan, system: System) -> str:
    """Output, starting output, flow and run times of a plan, each with band and method."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(HEADER)

    def row(name: str, figure: Figure, limited: str = "") -> None:
        shown = show(figure, system)
        plain = [t.replace(",", "").replace("−", "-") for t in (shown.text, shown.low, shown.high)]
        writer.writerow(
            [
                text_cell(name),
                plain[0],
                shown.unit,
                plain[1],
                plain[2],
                "yes" if figure.estimated else "no",
                limited,
                text_cell(figure.method.name),
                text_cell(figure.method.source),
            ]
        )

    output, runs = plan.of(output_here), plan.of(every_run_time)
    if output is not None and runs is not None:
        row("rating", output.rating)
        for entry in output.fuels:
            row(f"{entry.fuel.name}, steady", entry.running, entry.limited_by)
            row(f"{entry.fuel.name}, starting", entry.starting)
        for full in runs.full_load:
            row(full.flow.label, full.flow)
            row(full.heat.label, full.heat)
        for run in runs.runs:
            if run.figure is not None:
                row(f"run time, {run.label}", run.figure)
    return buffer.getvalue()

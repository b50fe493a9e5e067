"""Runs of a logbook as CSV: out as they stand, in with every bad cell named and why."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from gentle_ember.catalog.rows import unreadable
from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.job.facts import Fact, quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import LoggedRun
from gentle_ember.core.physics.fuels import NAMES
from gentle_ember.documents.output_csv import text_cell
from gentle_ember.documents.readings_csv import BadCell
from gentle_ember.units import ReadingError, read
from gentle_ember.units.display import show_value
from gentle_ember.units.registry import System

QUANTITIES = {"hours": "duration", "meter": "duration", "load": "power", "used": "mass"}
COLUMNS = ("day", "hours", "meter", "fuel", "load", "used", "remark", "by")
FUELS = {name: str(key) for key, name in NAMES.items()} | {str(key): str(key) for key in NAMES}
MOST_ROWS = 3000
BARE_HOURS = ("hours", "meter")
"""Columns in which a bare number is hours, as an hour meter shows it."""


@dataclass(frozen=True, slots=True)
class RunsRead:
    """Runs of a file in its order, and every cell that is wrong."""

    runs: tuple[LoggedRun, ...]
    bad: tuple[BadCell, ...]


def runs_csv(runs: Iterable[LoggedRun], system: System) -> str:
    """Every run as a row, in the form `read_runs` takes."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for run in sorted(runs, key=lambda one: one.on):
        row = []
        for name in COLUMNS:
            if name in QUANTITIES:
                fact = getattr(run, name)
                kind = QUANTITIES[name]
                row.append(
                    "" if fact is None else " ".join(show_value(fact.value, kind, system, 5))
                )
            else:
                row.append(text_cell(run.on if name == "day" else getattr(run, name)))
        writer.writerow(row)
    return buffer.getvalue()


def read_runs(content: bytes, system: System) -> RunsRead:
    """Read a CSV of runs; columns in any order, those that are missing left empty.

    Args:
        content: the file, UTF-8, with or without a byte-order mark.
        system: units of bare numbers; a bare number of hours is hours.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return RunsRead((), (BadCell(1, "", "It is not text in UTF-8."),))
    if "\0" in text:
        return RunsRead((), (BadCell(1, "", "It is no table of text."),))
    if fault := unreadable(text):
        return RunsRead((), (BadCell(1, "", f"It {fault}."),))
    rows = list(csv.reader(io.StringIO(text)))
    if not rows:
        return RunsRead((), (BadCell(1, "", "It is empty."),))
    header = [name.strip().casefold().replace("date", "day") for name in rows[0]]
    if "day" not in header or not {"hours", "meter"} & set(header):
        why = "This is no logbook of runs: a column day is wanted, and hours or meter."
        return RunsRead((), (BadCell(1, "", why),))
    if len(rows) - 1 > MOST_ROWS:
        return RunsRead((), (BadCell(1, "", f"More than {MOST_ROWS:,} runs."),))
    runs, bad = [], []
    for line, cells in enumerate(rows[1:], start=2):
        if not any(cell.strip() for cell in cells):
            continue
        found, wrong = _row(line, dict(zip(header, cells, strict=False)), system)
        bad += wrong
        if found is not None:
            runs.append(found)
    return RunsRead(tuple(runs), tuple(bad))


def _row(
    line: int, cells: dict[str, str], system: System
) -> tuple[LoggedRun | None, list[BadCell]]:
    bad: list[BadCell] = []
    values: dict[str, Any] = {
        "on": cells.get("day", "").strip(), "remark": cells.get("remark", "").strip(),
        "by": cells.get("by", "").strip(),
    }  # fmt: skip
    fuel = cells.get("fuel", "").strip().casefold()
    if fuel and fuel not in FUELS:
        bad.append(BadCell(line, "fuel", f"“{fuel[:40]}” is none of: {', '.join(NAMES.values())}."))
    values["fuel"] = FUELS.get(fuel, "")
    for name, kind in QUANTITIES.items():
        typed = cells.get(name, "").strip()
        if not typed:
            continue
        said = f"{typed} h" if name in BARE_HOURS and typed.replace(".", "", 1).isdigit() else typed
        spec = quantity_at(Job, ["logbook", "runs", "r", name])
        try:
            fact = Fact(value=read(said, kind, system), typed=typed[:80])
            values[name] = fact if spec is None else spec.accept(fact)
        except (ReadingError, QuantityError) as error:
            why = str(error) if isinstance(error, ReadingError) else "That is out of range."
            bad.append(BadCell(line, name, why))
    if not values["on"]:
        bad.append(BadCell(line, "day", "A run wants its day."))
    if bad:
        return None, bad
    try:
        return LoggedRun.model_validate(values), []
    except ValidationError as error:
        return None, [
            BadCell(
                line,
                "day" if fault["loc"][0] == "on" else str(fault["loc"][0]),
                fault["msg"].removeprefix("Value error, "),
            )
            for fault in error.errors()
        ]

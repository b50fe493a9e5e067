"""Readings of a sweep as CSV: out with their units and origin, in with every bad cell named."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.facts import Fact
from gentle_ember.core.figure import Origin
from gentle_ember.core.metering.reading import Ran
from gentle_ember.core.metering.records import Metering
from gentle_ember.documents.output_csv import text_cell
from gentle_ember.units import ReadingError, read
from gentle_ember.units.display import show_value
from gentle_ember.units.registry import System

QUANTITIES = {
    "turns": "turns", "output": "power", "speed": "speed", "throttle": "share", "lambda": "ratio",
}  # fmt: skip
"""Columns that hold quantities, and their kinds."""
COLUMNS = (*QUANTITIES, "ran", "origin", "by", "on")
MOST_ROWS = 60
LOADED = {str(Origin.SIMULATED): Origin.SIMULATED}
"""What a file says was simulated stays so; all else counts as measured."""


@dataclass(frozen=True, slots=True)
class BadCell:
    """A cell that could not be read: its line, its column, why."""

    line: int
    column: str
    why: str


def readings_csv(record: Metering, system: System) -> str:
    """Every reading as a row; quantities with their unit, in the form `read_readings` takes."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for one in record.readings.values():
        facts = (one.turns, one.output, one.speed, one.throttle, one.lam)
        cells = [_cell(fact, kind, system) for fact, kind in
                 zip(facts, QUANTITIES.values(), strict=True)]  # fmt: skip
        origin = next((str(fact.origin) for fact in facts if fact is not None), "")
        simulated = any(fact and fact.origin is Origin.SIMULATED for fact in facts)
        shown = str(Origin.SIMULATED) if simulated else origin
        writer.writerow([*cells, str(one.ran), shown, text_cell(one.by), one.on])
    return buffer.getvalue()


def _cell(fact: Fact | None, kind: str, system: System) -> str:
    if fact is None:
        return ""
    text, unit = show_value(fact.value, kind, system, 6)
    return f"{text.replace(',', '').replace('−', '-')} {unit}".strip()


def read_readings(content: bytes, system: System) -> tuple[list[dict[str, Any]], list[BadCell]]:
    """Readings of a file, each as the job keeps it; and every cell that could not be read.

    Args:
        content: the file, UTF-8, with or without a byte-order mark; a header row, `turns` and one
            of output, speed or throttle at least.
        system: units of bare numbers.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return [], [BadCell(1, "", "not a text file in UTF-8")]
    rows = csv.DictReader(io.StringIO(text))
    names = {name.strip().lower() for name in rows.fieldnames or [] if name}
    if "turns" not in names or not names & {"output", "speed", "throttle"}:
        return [], [BadCell(1, "", "a header is wanted: turns, and output, speed or throttle")]
    found: list[dict[str, Any]] = []
    bad: list[BadCell] = []
    for row in rows:
        cells = {(name or "").strip().lower(): (cell or "").strip()
                 for name, cell in row.items() if isinstance(cell, str)}  # fmt: skip
        if any(cells.values()):
            found.append(_reading(cells, rows.line_num, system, bad))
    if len(found) > MOST_ROWS:
        bad.append(BadCell(MOST_ROWS + 2, "", f"more than {MOST_ROWS} readings"))
    return found, bad


def _reading(
    cells: dict[str, str], line: int, system: System, bad: list[BadCell]
) -> dict[str, Any]:
    origin = LOADED.get(cells.get("origin", ""), Origin.MEASURED)
    found: dict[str, Any] = {"by": cells.get("by", "")[:120].lstrip("'")}
    for column, kind in QUANTITIES.items():
        typed = cells.get(column, "")
        if not typed:
            continue
        try:
            value = read(typed, kind, system)
        except ReadingError as error:
            bad.append(BadCell(line, column, str(error)))
            continue
        name = "lam" if column == "lambda" else column
        found[name] = {"value": value, "origin": str(origin), "typed": typed[:80]}
    ran = cells.get("ran", "") or str(Ran.SMOOTH)
    if ran not in set(Ran):
        bad.append(BadCell(line, "ran", f"“{ran}” is none of {', '.join(Ran)}"))
    found["ran"] = ran
    if "turns" not in found and not any(one.line == line and one.column == "turns" for one in bad):
        bad.append(BadCell(line, "turns", "the turns from the seat are missing"))
    return found

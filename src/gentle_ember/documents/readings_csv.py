"""Readings of a sweep or a load test as CSV: out with unit and origin, in with bad cells named."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from gentle_ember.catalog.rows import unreadable
from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.metering import Ran
from gentle_ember.documents.output_csv import text_cell
from gentle_ember.units import ReadingError, read
from gentle_ember.units.display import show_value
from gentle_ember.units.registry import System


@dataclass(frozen=True, slots=True)
class Form:
    """A table of readings: its columns with the fact they hold and its kind, what a row needs."""

    columns: dict[str, tuple[str, str]]
    needed: str
    one_of: tuple[str, ...]
    words: str
    """What a header must have, in words."""
    most: int

    @property
    def header(self) -> tuple[str, ...]:
        """Every column in order."""
        return (*self.columns, "ran", "origin", "by", "on")


SWEEP = Form(
    {"turns": ("turns", "turns"), "output": ("output", "power"), "speed": ("speed", "speed"),
     "throttle": ("throttle", "share"), "lambda": ("lam", "ratio")},
    "turns", ("output", "speed", "throttle"), "turns, and output, speed or throttle", 60,
)  # fmt: skip
LOAD = Form(
    {"after": ("after", "minutes"), "output": ("output", "power"),
     "volts_a": ("volts_a", "voltage"), "amps_a": ("amps_a", "current"),
     "volts_b": ("volts_b", "voltage"), "amps_b": ("amps_b", "current"),
     "volts_c": ("volts_c", "voltage"), "amps_c": ("amps_c", "current"),
     "hertz": ("hertz", "frequency"), "speed": ("speed", "speed"),
     "throttle": ("throttle", "share"), "lambda": ("lam", "ratio"),
     "exhaust": ("exhaust", "temperature"), "co": ("co", "share"), "air_co": ("air_co", "ppm")},
    "after", ("output", "volts_a"), "after, and output or volts_a", 200,
)  # fmt: skip
LOADED = {str(Origin.SIMULATED): Origin.SIMULATED}
"""What a file says was simulated stays so; all else counts as measured."""


@dataclass(frozen=True, slots=True)
class BadCell:
    """A cell that could not be read: its line, its column, why."""

    line: int
    column: str
    why: str


def readings_csv(readings: Iterable[Any], form: Form, system: System) -> str:
    """Every reading as a row; quantities with their unit, in the form `read_readings` takes."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(form.header)
    for one in readings:
        facts = [getattr(one, name) for name, _ in form.columns.values()]
        cells = [_cell(fact, kind, system) for fact, (_, kind) in
                 zip(facts, form.columns.values(), strict=True)]  # fmt: skip
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


def read_readings(
    content: bytes, form: Form, system: System
) -> tuple[list[dict[str, Any]], list[BadCell]]:
    """Readings of a file, each as the job keeps it; and every cell that could not be read.

    Args:
        content: the file, UTF-8, with or without a byte-order mark, with a header row.
        form: its columns, and which of them a row needs.
        system: units of bare numbers.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return [], [BadCell(1, "", "not a text file in UTF-8")]
    if fault := unreadable(text):
        return [], [BadCell(1, "", fault)]
    rows = csv.DictReader(io.StringIO(text))
    names = {name.strip().lower() for name in rows.fieldnames or [] if name}
    if form.needed not in names or not names & set(form.one_of):
        return [], [BadCell(1, "", f"a header is wanted: {form.words}")]
    found: list[dict[str, Any]] = []
    bad: list[BadCell] = []
    for row in rows:
        cells = {(name or "").strip().lower(): (cell or "").strip()
                 for name, cell in row.items() if isinstance(cell, str)}  # fmt: skip
        if any(cells.values()):
            found.append(_reading(cells, rows.line_num, form, system, bad))
    if len(found) > form.most:
        bad.append(BadCell(form.most + 2, "", f"more than {form.most} readings"))
    return found, bad


def _reading(
    cells: dict[str, str], line: int, form: Form, system: System, bad: list[BadCell]
) -> dict[str, Any]:
    origin = LOADED.get(cells.get("origin", ""), Origin.MEASURED)
    found: dict[str, Any] = {"by": cells.get("by", "")[:120].lstrip("'")}
    for column, (name, kind) in form.columns.items():
        typed = cells.get(column, "")
        if not typed:
            continue
        try:
            value = read(typed, kind, system)
        except ReadingError as error:
            bad.append(BadCell(line, column, str(error)))
            continue
        found[name] = {"value": value, "origin": str(origin), "typed": typed[:80]}
    ran = cells.get("ran", "") or str(Ran.SMOOTH)
    if ran not in set(Ran):
        bad.append(BadCell(line, "ran", f"“{ran}” is none of {', '.join(Ran)}"))
    found["ran"] = ran
    named = any(one.line == line and one.column == form.needed for one in bad)
    if form.needed not in found and not named:
        bad.append(BadCell(line, form.needed, f"{form.needed} is missing in this row"))
    return found

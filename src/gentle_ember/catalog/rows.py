"""Parts as rows of a CSV: the shipped catalog, a shop's import and its export, one form for all.

Column names carry their units; a pressure says its own. Yes/no cells take yes, no or nothing.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from gentle_ember.core.base.quantities import INCH_WC_PA, PSI_PA
from gentle_ember.core.job.part import Part, PartClass

BTU_H_W = 1055.05585 / 3600.0
_PRESSURE = re.compile(r"(-?\d+(?:\.\d+)?) ?(inwc|in w\.c\.|psi|mbar|kpa|pa)", re.IGNORECASE)
_PASCAL = {"inwc": INCH_WC_PA, "in w.c.": INCH_WC_PA, "psi": PSI_PA, "mbar": 100.0, "kpa": 1e3,
           "pa": 1.0}  # fmt: skip
FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""A cell that begins so is read as a formula by spreadsheets."""


class CellError(ValueError):
    """A cell that can't be read; says what was expected."""


@dataclass(frozen=True, slots=True)
class Column:
    """One column: its field of a part, how to read a cell and how to write one."""

    field: str
    read: Callable[[str], Any]
    write: Callable[[Any], str]


def _number(scale: float, offset: float = 0.0) -> tuple[Callable[[str], Any], Callable[[Any], str]]:
    def read(text: str) -> float:
        try:
            return float(text) * scale + offset
        except ValueError:
            raise CellError(f"“{text}” is not a number") from None

    def write(value: Any) -> str:
        return f"{round((value - offset) / scale, 9):.10g}"

    return read, write


def _whole(text: str) -> int:
    if not re.fullmatch(r"\d{1,9}", text):
        raise CellError(f"“{text}” is not a whole number")
    return int(text)


def _pressure(text: str) -> float:
    found = _PRESSURE.fullmatch(text)
    if found is None:
        raise CellError(f"“{text}” is no pressure: write 11 inwc, 10 psi, 75 mbar or 2 kPa")
    return float(found[1]) * _PASCAL[found[2].lower()]


def _pressure_text(value: float) -> str:
    for unit in ("psi", "inwc"):
        scaled = value / _PASCAL[unit]
        if abs(scaled - round(scaled, 2)) < 1e-6:
            return f"{round(scaled, 2):g} {unit}"
    return f"{value:.10g} Pa"


def _yes(text: str) -> bool:
    if text.lower() not in ("yes", "no"):
        raise CellError(f"“{text}”: write yes or no")
    return text.lower() == "yes"


_TEXT = (str, str)
_WORDS = (lambda text: tuple(text.split()), lambda value: " ".join(str(one) for one in value))
_LIST = (
    lambda text: tuple(one.strip() for one in text.split(";") if one.strip()),
    "; ".join,
)
_PORTS = (lambda text: tuple(text.split()), " ".join)
_YES = (_yes, lambda value: "yes" if value else "no")
_PA = (_pressure, _pressure_text)
_MM, _M, _KBTU, _PERCENT = _number(1e-3), _number(1.0), _number(1e3 * BTU_H_W), _number(0.01)
_CC, _CELSIUS, _PLAIN = _number(1e-6), _number(1.0, 273.15), _number(1.0)
_INT = (_whole, str)

COLUMNS: dict[str, Column] = {
    name: Column(field, *how)
    for name, field, how in (
        ("number", "number", _TEXT), ("name", "name", _TEXT), ("maker", "maker", _TEXT),
        ("class", "kind", _TEXT), ("inlet", "inlet", _TEXT), ("outlet", "outlet", _TEXT),
        ("ports", "ports", _PORTS), ("gases", "gases", _WORDS), ("bore_mm", "bore_m", _MM),
        ("length_m", "length_m", _M), ("by_length", "by_length", _YES), ("k", "k", _PLAIN),
        ("least", "least_pa", _PA), ("most", "most_pa", _PA), ("rating", "rating_pa", _PA),
        ("set", "set_pa", _PA), ("droop_pct", "droop", _PERCENT),
        ("lock_up_pct", "lock_up", _PERCENT), ("rated_kbtu_h", "rated_w", _KBTU),
        ("rated_at", "rated_at_pa", _PA),
        ("opening_inwc", "opening_pa", _number(INCH_WC_PA)), ("throat_mm", "throat_m", _MM),
        ("thickness_mm", "thickness_m", _MM), ("gaskets", "gaskets", _INT),
        ("branches", "branches", _INT), ("closes", "closes", _YES),
        ("full_bore", "full_bore", _YES), ("crimped", "crimped", _YES),
        ("upright", "upright", _YES), ("powered", "powered", _YES), ("stalls", "stalls", _YES),
        ("anti_siphon", "anti_siphon", _YES), ("check", "check", _YES),
        ("brass", "brass", _YES), ("bend_mm", "bend_m", _MM),
        ("vent", "vent", _TEXT), ("coldest_c", "coldest_k", _CELSIUS),
        ("hottest_c", "hottest_k", _CELSIUS), ("lift_m", "lift_m", _M),
        ("volume_l", "volume_m3", _number(1e-3)),
        ("pump_l_h", "pump_m3_s", _number(1e-3 / 3600.0)), ("thread_mm", "thread_m", _MM),
        ("pitch_mm", "pitch_m", _MM), ("engine_least_cc", "engine_least_m3", _CC),
        ("engine_most_cc", "engine_most_m3", _CC), ("jet", "jet", _INT),
        ("families", "families", _LIST), ("models", "models", _LIST), ("trims", "trims", _LIST),
        ("first_year", "first_year", _INT), ("last_year", "last_year", _INT),
        ("orifice_mm", "orifice_m", _MM),
        ("body_across_mm", "body_across_m", _MM), ("body_up_mm", "body_up_m", _MM),
        ("body_out_mm", "body_out_m", _MM), ("bolts_across_mm", "bolts_across_m", _MM),
        ("bolts_up_mm", "bolts_up_m", _MM), ("bolt_mm", "bolt_m", _MM),
        ("hole_mm", "hole_m", _MM), ("behind_mm", "behind_m", _MM), ("draw_w", "draw_w", _PLAIN),
        ("price_usd", "price", _PLAIN), ("core_usd", "core", _PLAIN), ("stock", "stock", _INT),
        ("days", "days", _INT), ("weight_kg", "weight_kg", _PLAIN),
        ("use_instead", "use_instead", _TEXT), ("site", "site", _YES),
        ("for_task", "for_task", _TEXT),
    )
}  # fmt: skip
CHOSEN: dict[str, tuple[str, ...]] = {
    "class": tuple(str(kind) for kind in PartClass),
    "vent": ("", "open", "screened", "limiter", "lever"),
    **{name: ("", "yes", "no") for name, column in COLUMNS.items() if column.read is _yes},
}
"""Columns whose cells are one of a few."""
_UNITS = {"mm": "mm", "m": "m", "c": "°C", "pct": "%", "h": "", "inwc": "in w.c.", "cc": "cc",
          "w": "W", "kg": "kg", "usd": ""}  # fmt: skip
_OWN_LABELS = {
    "rated_kbtu_h": "rated, kBTU/h", "pump_l_h": "pump, L/h",
    "volume_l": "holds, L", "k": "loss coefficient k",
    "draw_w": "draws, W", "days": "days to deliver", "check": "one way only",
}  # fmt: skip


def label_of(column: str) -> str:
    """A column's name in words, its unit after a comma.

    >>> label_of("bore_mm"), label_of("use_instead"), label_of("rated_kbtu_h")
    ('bore, mm', 'use instead', 'rated, kBTU/h')
    """
    if column in _OWN_LABELS:
        return _OWN_LABELS[column]
    name, _, unit = column.rpartition("_")
    if name and _UNITS.get(unit):
        return f"{name.replace('_', ' ')}, {_UNITS[unit]}"
    return (name if name and unit in _UNITS else column).replace("_", " ")


_OF_FIELD = {column.field: name for name, column in COLUMNS.items()}


@dataclass(frozen=True, slots=True)
class RowFault:
    """What is wrong in a row: its line in the file, the column and why."""

    line: int
    column: str
    why: str


def key_of(number: str) -> str:
    """A part's key in a job: its number in small letters.

    >>> key_of("LF-H 101/2")
    'lf-h-101-2'
    """
    return re.sub(r"[^a-z0-9_-]+", "-", number.lower()).strip("-")[:40]


def unreadable(text: str) -> str:
    """Why a text is no CSV; empty where it is one.

    >>> unreadable("a,b")
    ''
    """
    try:
        for _ in csv.reader(io.StringIO(text)):
            pass
    except csv.Error as error:
        return f"is no CSV: {error}"
    return ""


def read_rows(lines: Iterable[str]) -> Iterator[tuple[int, Part | list[RowFault]]]:
    """Each row of a CSV as a part, or what is wrong with it.

    Yields:
        Line in the file, and the part or its faults. A bad header is one fault at line 1.
    """
    reader = csv.DictReader(lines)
    header = [name.strip() for name in reader.fieldnames or []]
    unknown = [name for name in header if name not in COLUMNS]
    missing = [name for name in ("number", "name", "class") if name not in header]
    if unknown or missing:
        faults = [RowFault(1, name, "no such column") for name in unknown]
        yield 1, faults + [RowFault(1, name, "this column is needed") for name in missing]
        return
    reader.fieldnames = header
    for row in reader:
        yield reader.line_num, read_row(row, reader.line_num)


def read_row(row: dict[str, str | None], line: int) -> Part | list[RowFault]:
    """One row as a part, or its faults."""
    given: dict[str, Any] = {}
    faults: list[RowFault] = []
    if None in row or any(value is None for value in row.values()):
        return [RowFault(line, "", "more or fewer cells than the header")]
    for name, cell in row.items():
        text = (cell or "").strip()
        if text.startswith("'") and text[1:2] in FORMULA:
            text = text[1:]
        if not text:
            continue
        column = COLUMNS[name]
        try:
            given[column.field] = column.read(text)
        except CellError as error:
            faults.append(RowFault(line, name, str(error)))
    given["key"] = key_of(str(given.get("number", "")))
    if faults:
        return faults
    try:
        return Part.model_validate(given)
    except ValidationError as error:
        return [_fault(line, one) for one in error.errors()]


def _fault(line: int, error: Any) -> RowFault:
    field = str(error["loc"][0]) if error["loc"] else ""
    column = _OF_FIELD.get(field, "number" if field == "key" else field)
    said = str(error["msg"]).removeprefix("Value error, ")
    if error["type"] == "missing":
        said = "this cell is needed"
    return RowFault(line, column, said[0].lower() + said[1:])


def write_row(part: Part) -> dict[str, str]:
    """A part as a row; a text that a spreadsheet would take for a formula gets a quote before it.

    >>> write_row(Part(key="x", number="=1+1", name="n", maker="m", kind="cap"))["number"]
    "'=1+1"
    """
    found: dict[str, str] = {}
    for name, column in COLUMNS.items():
        value = getattr(part, column.field)
        if value in (None, "", ()):
            found[name] = ""
            continue
        text = column.write(value)
        risky = column.write is str and text.startswith(FORMULA)
        found[name] = f"'{text}" if risky else text
    return found

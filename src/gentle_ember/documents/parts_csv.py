"""Parts and stock as CSV: out as they stand, in with every bad row named and why."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from gentle_ember.catalog.rows import COLUMNS, RowFault, key_of, read_rows, unreadable, write_row
from gentle_ember.core.job.part import Part

STOCK_COLUMNS = frozenset(("number", "stock", "price_usd", "days", "use_instead"))
"""A file of these columns alone changes parts that are there."""


@dataclass(frozen=True, slots=True)
class Read:
    """What a file holds: its good parts, every fault, how many rows."""

    parts: tuple[Part, ...]
    faults: tuple[RowFault, ...]
    rows: int


def parts_csv(parts: Iterable[Part]) -> str:
    """Every part as a row, in the form `read_parts` takes."""
    buffer = io.StringIO()
    writer = csv.DictWriter(buffer, list(COLUMNS), lineterminator="\r\n")
    writer.writeheader()
    for part in parts:
        writer.writerow(write_row(part))
    return buffer.getvalue()


def read_parts(content: bytes, held: Mapping[str, Part]) -> Read:
    """Read a CSV of parts, or of stock and prices of parts already held.

    Args:
        content: the file, UTF-8, with or without a byte-order mark.
        held: the catalog, for files of stock alone.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return Read((), (RowFault(1, "", "not a text file in UTF-8"),), 0)
    if fault := unreadable(text):
        return Read((), (RowFault(1, "", fault),), 0)
    lines = io.StringIO(text)
    header = next(csv.reader([text.partition("\n")[0].rstrip("\r")]), [])
    names = {name.strip() for name in header}
    if "number" in names and names <= STOCK_COLUMNS:
        return _read_stock(lines, held)
    parts: list[Part] = []
    faults: list[RowFault] = []
    seen: dict[str, int] = {}
    rows = 0
    for line, found in read_rows(lines):
        rows += 1
        if isinstance(found, list):
            faults.extend(found)
        elif found.key in seen:
            faults.append(RowFault(line, "number", f"is already at line {seen[found.key]}"))
        else:
            seen[found.key] = line
            parts.append(found)
    return Read(tuple(parts), tuple(faults), rows)


def _read_stock(lines: io.StringIO, held: Mapping[str, Part]) -> Read:
    """Rows that change stock, price or delivery of parts the catalog has."""
    parts: dict[str, Part] = {}
    faults: list[RowFault] = []
    rows = 0
    reader = csv.DictReader(lines)
    for row in reader:
        rows += 1
        line = reader.line_num
        number = (row.get("number") or "").strip()
        part = held.get(key_of(number))
        if part is None:
            faults.append(RowFault(line, "number", f"the catalog has no part “{number}”"))
            continue
        whole = write_row(part)
        for name, cell in row.items():
            if name and cell is not None and cell.strip():
                whole[name.strip()] = cell.strip()
        _, found = next(iter(read_rows(_one_row(whole))))
        if isinstance(found, list):
            faults.extend(RowFault(line, fault.column, fault.why) for fault in found)
        else:
            parts[found.key] = found
    return Read(tuple(parts.values()), tuple(faults), rows)


def _one_row(row: Mapping[str, str]) -> Iterable[str]:
    buffer = io.StringIO()
    writer = csv.DictWriter(buffer, list(row))
    writer.writeheader()
    writer.writerow(row)
    return buffer.getvalue().splitlines()

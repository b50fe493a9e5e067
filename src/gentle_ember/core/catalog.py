"""What the core needs of the catalog; the `catalog` package fills it from data files."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.cylinder import CylinderSize


@dataclass(frozen=True, slots=True, eq=False)
class Catalog:
    """Shipped data the plan reads; one a process, so it is itself its key in memos."""

    cylinders: dict[str, CylinderSize]

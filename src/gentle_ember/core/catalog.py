"""What the core needs of the catalog; the `catalog` package fills it from data files."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from gentle_ember.core.cylinder import CylinderSize
from gentle_ember.core.kit import Kit
from gentle_ember.core.part import Part, PartClass
from gentle_ember.core.train.shelf import Shelf


@dataclass(frozen=True, slots=True)
class Supplier:
    """Whom to call for a maker's parts."""

    name: str
    phone: str
    mail: str
    terms: str


@dataclass(frozen=True, eq=False)
class Catalog:
    """Cylinders and parts the plan reads, the shop's own laid over what ships.

    One a process until the shop changes its parts, so it is itself its key in memos.
    """

    cylinders: dict[str, CylinderSize]
    parts: dict[str, Part] = field(default_factory=dict)
    kits: dict[str, Kit] = field(default_factory=dict)
    suppliers: dict[str, Supplier] = field(default_factory=dict)
    """By the maker's name."""

    @cached_property
    def shelf(self) -> Shelf:
        """The parts indexed for searching trains."""
        return Shelf(self.parts.values())

    @cached_property
    def patterns(self) -> dict[str, tuple[float, float]]:
        """Every stud pattern some part fits, with its spacing and diameter [m]."""
        found = {}
        for kind in (PartClass.ADAPTER, PartClass.CARBURETOR):
            for part in self.shelf.by_class[kind]:
                name = part.outlet.split(":")[1]
                spacing, diameter = name.removeprefix("2x").split("x")
                found[name] = (float(spacing) * 1e-3, float(diameter) * 1e-3)
        return found

    def over(self, rows: dict[str, Part], kits: dict[str, Kit]) -> Catalog:
        """This catalog with a shop's parts and kits laid over it."""
        return Catalog(
            self.cylinders, {**self.parts, **rows}, {**self.kits, **kits}, self.suppliers
        )

"""Counting parts while a bill is made: how many of which, what for, what is missing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from gentle_ember.core.part import Part, PartClass


@dataclass
class Count:
    """Counts by part while they are gathered."""

    parts: Mapping[str, Part]
    counts: dict[str, float] = field(default_factory=dict)
    uses: dict[str, list[str]] = field(default_factory=dict)
    missing: list[str] = field(default_factory=list)
    open_questions: list[tuple[str, str]] = field(default_factory=list)
    by_class: dict[PartClass, list[Part]] = field(default_factory=dict)

    def add(self, part: Part, count: float, use: str) -> None:
        """So many more of a part, for a use."""
        self.counts[part.key] = self.counts.get(part.key, 0.0) + count
        if use not in self.uses.setdefault(part.key, []):
            self.uses[part.key].append(use)

    def of(self, kind: PartClass) -> list[Part]:
        """The parts of a class."""
        if not self.by_class:
            for part in self.parts.values():
                self.by_class.setdefault(part.kind, []).append(part)
        return self.by_class.get(kind, [])

    def first(self, kind: PartClass, **wanted: object) -> Part | None:
        """The cheapest part of a class with these fields."""
        found = [
            part
            for part in self.of(kind)
            if not part.use_instead
            and all(getattr(part, name) == value for name, value in wanted.items())
        ]
        return min(found, key=lambda part: part.price, default=None)

    def smallest(
        self, kind: PartClass, measure: str, least: float, **wanted: object
    ) -> Part | None:
        """The part of a class whose measure [m] is the smallest that is enough."""
        found = [
            part
            for part in self.of(kind)
            if not part.use_instead
            and (getattr(part, measure) or 0.0) >= least - 1e-9
            and all(getattr(part, name) == value for name, value in wanted.items())
        ]
        return min(found, key=lambda part: (getattr(part, measure), part.price), default=None)

    def want(self, kind: PartClass, count: float, use: str, **wanted: object) -> None:
        """So many of the cheapest part that fits, or a note that there is none."""
        part = self.first(kind, **wanted)
        if part is None:
            self.missing.append(use)
        else:
            self.add(part, count, use)

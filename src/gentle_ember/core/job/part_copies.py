"""A job's own copies of the parts its trains use, so that the catalog can move on without it."""

from __future__ import annotations

from collections.abc import Mapping

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part


class UnknownPartError(ValueError):
    """A train names a part neither the job nor the catalog has; `path` leads to it."""

    def __init__(self, path: str, key: str) -> None:
        self.path = path
        super().__init__(f"The catalog has no part “{key}”; choose another, or import it first.")


def pin_changes(job: Job, catalog: Mapping[str, Part]) -> list[Change]:
    """What brings a job's copies in step with its trains: new ones in, unused ones out.

    Raises:
        UnknownPartError: a slot names a part nobody has.
    """
    used: dict[str, str] = {}
    for name, train in job.trains.items():
        for key, slot in train.slots.items():
            if slot.part:
                used.setdefault(slot.part, f"trains.{name}.slots.{key}.part")
    found = []
    for key, path in used.items():
        if key in job.parts:
            continue
        if key not in catalog:
            raise UnknownPartError(path, key)
        found.append(Change(f"parts.{key}", catalog[key].model_dump(mode="json")))
    found.extend(Change(f"parts.{key}", remove=True) for key in job.parts if key not in used)
    return found


def outdated(job: Job, catalog: Mapping[str, Part]) -> dict[str, tuple[str, ...]]:
    """Copies that differ from the catalog by now, with the fields that do, stock left out."""
    found: dict[str, tuple[str, ...]] = {}
    for key, part in job.parts.items():
        now = catalog.get(key)
        if now is None:
            found[key] = ("no longer in the catalog",)
            continue
        fields = [
            name
            for name in type(part).model_fields
            if name != "stock" and getattr(part, name) != getattr(now, name)
        ]
        if fields:
            found[key] = tuple(fields)
    return found

"""Changes as people give them: a quantity as typed, a plain value, or a removal."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.units import ReadingError, read
from gentle_ember.units.registry import System


@dataclass(frozen=True, slots=True)
class Wanted:
    """One wanted change; `typed` is read as its field's kind of quantity."""

    path: str
    typed: str | None = None
    origin: Origin | None = None
    value: Any = None
    remove: bool = False


def read_changes(entries: list[Wanted], system: System) -> list[Change]:
    """Wanted changes in SI.

    Raises:
        InvalidJobError: with a message at every field that can't be read.
    """
    changes: list[Change] = []
    errors: list[FieldError] = []
    for entry in entries:
        if entry.typed is None:
            changes.append(Change(entry.path, entry.value, entry.remove))
            continue
        spec = quantity_at(Job, entry.path.split("."))
        if spec is None:
            errors.append(FieldError(entry.path, "This field does not take a quantity."))
        elif not entry.typed.strip():
            changes.append(Change(entry.path, None))
        else:
            try:
                value = read(entry.typed, spec.kind, system)
            except ReadingError as error:
                errors.append(FieldError(entry.path, str(error)))
                continue
            origin = entry.origin or Origin.OWNER
            fact = {"value": value, "origin": str(origin), "typed": entry.typed[:80]}
            changes.append(Change(entry.path, fact))
    if errors:
        raise InvalidJobError(errors)
    return changes

"""How the demo writes a job: steps of typed quantities and plain values, in order."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Step = tuple[str, str] | dict[str, Any] | str | int | bool | None
"""A quantity as typed with its origin, or a plain value."""

StepsOf = dict[str, tuple[dict[str, Any], ...]]
"""Further steps of jobs, by the job's key."""


@dataclass(frozen=True, slots=True)
class DemoJob:
    """One job: steps are written one after another, each a change of its own in the log."""

    key: str
    title: str
    who: str
    steps: tuple[dict[str, Step], ...]


def data_sheet(text: str) -> tuple[str, str]:
    """Read off the data plate or its sheet."""
    return text, "data_sheet"


def owner(text: str) -> tuple[str, str]:
    """As the owner says."""
    return text, "owner"


def measured(text: str) -> tuple[str, str]:
    """Measured at the bench or in the yard."""
    return text, "measured"


def done(by: str, on: str, note: str = "") -> dict[str, Any]:
    """A stage that was closed."""
    return {"state": "done", "by": by, "on": on, "note": note}


def signed(by: str, **days: str) -> dict[str, Step]:
    """Stages closed by one person, each on its day."""
    return {f"stages.{name}": done(by, day) for name, day in days.items()}


def agreed(by: str, *keys: str) -> dict[str, Step]:
    """What a person confirmed, without a number."""
    return {f"confirmed.{key}": {"done": True, "by": by} for key in keys}


def waiting(what: str, note: str = "") -> dict[str, Any]:
    """A stage that waits for something."""
    return {"state": "waiting", "waits_for": what, "note": note}

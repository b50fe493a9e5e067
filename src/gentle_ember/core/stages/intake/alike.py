"""The shop's own library of sets: what an earlier job measured, offered for a set like it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact, Model
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Job

OFFERED = (Origin.MEASURED, Origin.DATA_SHEET)
"""Origins worth taking over; what was simulated or assumed never is."""
OWN = ("set.hours", "set.idle", "set.last_oil")
"""Facts of one machine's life, not of its kind."""


@dataclass(frozen=True, slots=True)
class Likeness:
    """How alike two sets are: higher is more, with the reason in words."""

    rank: int
    why: str


def _same(one: str, other: str) -> bool:
    return bool(one.strip()) and one.strip().casefold() == other.strip().casefold()


def likeness(one: GeneratorSet, other: GeneratorSet) -> Likeness | None:
    """Whether two sets are of one kind; None when nothing says so.

    The same maker and model count most, more so with the same generation, trim and year;
    an engine family shared by differently badged sets counts too.

    >>> a = GeneratorSet(maker="Drovane", model="Linnet", engine_family="D171")
    >>> likeness(a, GeneratorSet(maker="Wexlet", model="Duo", engine_family="d171")).why
    'same engine family'
    """
    rank, words = 0, []
    if _same(one.maker, other.maker) and _same(one.model, other.model):
        rank, words = 4, ["same model"]
        for name in ("generation", "trim"):
            mine, theirs = getattr(one, name), getattr(other, name)
            if _same(mine, theirs):
                rank += 1
                words.append(f"same {name}")
            elif mine.strip() and theirs.strip():
                rank -= 1
                words.append(f"other {name}")
        if one.year is not None and other.year is not None:
            alike = abs(one.year - other.year) <= 1
            rank += 1 if alike else -1
            words.append("same years" if alike else "other year")
    if _same(one.engine_family, other.engine_family):
        rank += 2
        words.append("same engine family")
    return Likeness(rank, ", ".join(words)) if words else None


def known_facts(job: Job) -> dict[str, Fact]:
    """Measured and data-sheet facts of a job's set by path, fit to be taken over."""
    found: dict[str, Fact] = {}

    def walk(value: Any, path: str) -> None:
        if isinstance(value, Fact):
            if value.origin in OFFERED and path not in OWN:
                found[path] = value
        elif isinstance(value, Model):
            for name in type(value).model_fields:
                walk(getattr(value, name), f"{path}.{name}")

    walk(job.set, "set")
    return found


def fact_at(job: Job, path: str) -> Fact | None:
    """The fact at a path of the job's set."""
    here: Any = job
    for key in path.split("."):
        here = getattr(here, key, None)
    return here if isinstance(here, Fact) else None


def offered(job: Job, source: Job) -> dict[str, Fact]:
    """What another job knows of this kind of set and this one does not."""
    return {path: fact for path, fact in known_facts(source).items() if fact_at(job, path) is None}

"""A day's round: what is due on the sets of a shop, by place, and what to take along."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from gentle_ember.core.stages.logbook.upkeep import Due, DueState


@dataclass(frozen=True, slots=True)
class SetInService:
    """A set of the shop: its job, where it stands, and its upkeep, what is due first on top."""

    job: str
    title: str
    owner: str
    set_label: str
    place: str
    due: tuple[Due, ...]

    @property
    def overdue(self) -> int:
        """How many of its tasks are overdue."""
        return sum(one.state is DueState.OVER for one in self.due)


@dataclass(frozen=True, slots=True)
class Round:
    """Sets with something due until a day, by place, those with the most overdue first."""

    until: date
    places: tuple[tuple[str, tuple[SetInService, ...]], ...]
    parts: tuple[tuple[str, int], ...]
    """Each part to take, and for how many tasks."""
    overdue: int
    in_service: int


def round_of(sets: Iterable[SetInService], today: date, days: int) -> Round:
    """The round of the next days; sets with nothing due in them are in none."""
    until = today + timedelta(days=days)
    places: dict[str, list[SetInService]] = {}
    count = 0
    for one in sets:
        count += 1
        now = tuple(due for due in one.due if due.day is not None and due.day <= until)
        if now:
            places.setdefault(one.place, []).append(replace(one, due=now))
    found = [one for there in places.values() for one in there]
    parts = Counter(due.task.parts for one in found for due in one.due if due.task.parts)
    order = sorted(places.items(), key=lambda item: (-sum(one.overdue for one in item[1]), item[0]))
    return Round(
        until, tuple((place, tuple(there)) for place, there in order),
        tuple(sorted(parts.items())), sum(one.overdue for one in found), count,
    )  # fmt: skip

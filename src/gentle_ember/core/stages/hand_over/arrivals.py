"""A set that arrived at another place: what the move sheet asks for there, as tasks."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.job.hand_over import MovedSet
from gentle_ember.core.physics.fuels import NAMES
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.hand_over.moving import moves


@dataclass(frozen=True, slots=True)
class AskedThere:
    """One thing that is proven there, and who did."""

    key: str
    text: str
    by: str


@dataclass(frozen=True, slots=True)
class ArrivedHere:
    """The last arrival: where, since when, and what is proven there so far."""

    key: str
    record: MovedSet
    place: str
    asked: tuple[AskedThere, ...]

    @property
    def left(self) -> int:
        """How much is not proven yet."""
        return sum(not one.by for one in self.asked)


def mark_of(text: str) -> str:
    """A mark of a line of the sheet: another line, another mark."""
    return f"p{hashlib.sha256(text.encode()).hexdigest()[:10]}"


def arrived(plan: Plan) -> ArrivedHere | None:
    """The last arrival; None where there was none, or its way is there no more."""
    held = plan.job.hand_over.arrivals
    if not held:
        return None
    key, record = max(held.items(), key=lambda item: (item[1].on, len(item[0]), item[0]))
    way = next((one for one in plan.of(moves)
                if (one.start.key, one.goal.key) == (record.start, record.goal)), None)  # fmt: skip
    if way is None:
        return None
    site = plan.job.sites[way.goal.site].name or "the site"
    asked = tuple(
        AskedThere(mark, text, record.proven.get(mark, ""))
        for text in way.again
        for mark in (mark_of(text),)
    )
    return ArrivedHere(key, record, f"{site}, on {NAMES[way.goal.fuel]}", asked)


def arrival_cautions(plan: Plan) -> Iterator[Caution]:
    """What is not proven yet where the set is now."""
    if not plan.job.hand_over.arrivals:
        return
    found = plan.of(arrived)
    if found is not None and found.left:
        yield Caution(
            "hand_over.arrival", Severity.CAUTION, "hand_over",
            f"Moved to {found.place}: {found.left} of {len(found.asked)} are not proven there yet. "
            "It is not left running before they are.",
            "hand_over.arrivals",
        )  # fmt: skip

"""A set that arrived at another place: what the move sheet asks for there, as tasks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.hand_over import MovedSet
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import NAMES
from gentle_ember.core.stage import Caution, Plan, Refusal, Severity
from gentle_ember.core.stages.hand_over.moving import MoveSheet, one_move


@dataclass(frozen=True, slots=True)
class AskedThere:
    """One thing that is proven there, and who did."""

    key: str
    text: str
    by: str


@dataclass(frozen=True, slots=True)
class ArrivedHere:
    """The last arrival: its key and record, the way, and what is proven there so far."""

    key: str
    record: MovedSet
    move: MoveSheet
    place: str
    asked: tuple[AskedThere, ...]

    @property
    def left(self) -> int:
        """How much is not proven yet."""
        return sum(not one.by for one in self.asked)


def last_arrival(job: Job) -> str:
    """The key of the last arrival, of one day the one noted later; empty before the first."""
    held = job.hand_over.arrivals
    return max(held, key=lambda key: (held[key].on, list(held).index(key)), default="")


def arrived(plan: Plan) -> ArrivedHere | None:
    """The last arrival; None where there was none, or its way is there no more."""
    key = last_arrival(plan.job)
    if not key:
        return None
    record = plan.job.hand_over.arrivals[key]
    move = one_move(plan, record.start, record.goal)
    if move is None:
        return None
    site = plan.job.sites[move.goal.site].name or "the site"
    asked = tuple(
        AskedThere(one.key, one.text, record.proven.get(one.key, "")) for one in move.again
    )
    return ArrivedHere(key, record, move, f"{site}, on {NAMES[move.goal.fuel]}", asked)


def arrivals_follow(before: Job, plan: Plan) -> Iterator[Change]:
    """The site a set arrived at is the one looked at from then on."""
    key = last_arrival(plan.job)
    fresh = bool(key) and key not in before.hand_over.arrivals
    here = plan.of(arrived) if fresh else None
    if here is not None and plan.job.site != here.move.goal.site:
        yield Change("site", here.move.goal.site)


def arrival_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """An arrival by a way that is none, or on a day that has not come."""
    for key, one in plan.job.hand_over.arrivals.items():
        if before.hand_over.arrivals.get(key) == one:
            continue
        path = f"hand_over.arrivals.{key}"
        if key not in before.hand_over.arrivals and one_move(plan, one.start, one.goal) is None:
            yield Refusal(f"{path}.goal", "There is no such way between two places of this job.")
        if plan.today and one.on and date.fromisoformat(one.on) > plan.today + timedelta(days=1):
            yield Refusal(f"{path}.on", f"{one.on} has not come yet.")


def arrival_cautions(plan: Plan) -> Iterator[Caution]:
    """What is not proven yet where the set is now."""
    found = plan.of(arrived)
    if found is not None and found.left:
        yield Caution(
            "hand_over.arrival", Severity.CAUTION, "hand_over",
            f"Moved to {found.place}: {found.left} of {len(found.asked)} are not proven there yet. "
            "It is not left running before they are.",
            "hand_over.arrivals",
        )  # fmt: skip

"""The order of the steps: by what depends on what, then by place, so that covers come off once."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from graphlib import CycleError, TopologicalSorter

from gentle_ember.core.fit.step import GATES, Step


class OrderError(ValueError):
    """Steps that wait for each other in a circle."""


def ordered(steps: Iterable[Step]) -> tuple[Step, ...]:
    """Steps in an order in which each comes after what it waits for.

    Among those that could be done next, one at the place worked at is taken, then the one that
    was listed first. What a step waits for that is not in the list is dropped.

    Raises:
        OrderError: steps that wait for each other.
    """
    listed = _gated(list(steps))
    by_key = {step.key: step for step in listed}
    rank = {step.key: at for at, step in enumerate(listed)}
    sorter = TopologicalSorter({step.key: step.after for step in listed})
    try:
        sorter.prepare()
    except CycleError as error:
        raise OrderError(f"steps wait for each other: {' → '.join(error.args[1])}") from None
    found: list[Step] = []
    ready: set[str] = set()
    while sorter.is_active():
        ready |= set(sorter.get_ready())
        here = found[-1].place if found else None
        key = min(ready, key=lambda one: (by_key[one].place is not here, rank[one]))
        ready.remove(key)
        sorter.done(key)
        found.append(by_key[key])
    return tuple(found)


def _gated(steps: Sequence[Step]) -> list[Step]:
    """Known predecessors only, and everything after the gates: nothing is opened before."""
    keys = {step.key for step in steps}
    before: list[str] = []
    found = []
    for phase in (*GATES, None):
        mine = [
            step for step in steps
            if (step.phase is phase if phase else step.phase not in GATES)
        ]  # fmt: skip
        for step in mine:
            waits = [key for key in step.after if key in keys and key != step.key]
            found.append(replace(step, after=tuple(dict.fromkeys((*before, *waits)))))
        before = [*before, *(step.key for step in mine)] if mine else before
    rank = {step.key: at for at, step in enumerate(steps)}
    return sorted(found, key=lambda step: rank[step.key])

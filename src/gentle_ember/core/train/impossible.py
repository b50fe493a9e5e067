"""Why there is no train: which role nothing can fill, for what reason, and what comes nearest."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from gentle_ember.core.part import end
from gentle_ember.core.train.limits import refuses
from gentle_ember.core.train.search import Placed, State, Table, Wanted, allowed, reach
from gentle_ember.core.train.shelf import Shelf
from gentle_ember.core.train.templates import Role


@dataclass(frozen=True, slots=True)
class Impossible:
    """No train: the role at which it ends, why, and the nearest thing that would work."""

    role: Role
    why: str
    nearest: tuple[Placed, ...] = ()
    relaxed: str = ""
    """What was let go of for the nearest; empty when it only goes part of the way."""


def explain(shelf: Shelf, wanted: Wanted) -> Impossible:
    """Why a template can't be filled: no part fits, no end joins, or pressure is not enough."""
    roles = wanted.template.roles
    for role in roles:
        ways = shelf.ways(role.kinds)
        if not any(allowed(wanted, role, part) for part, _, _, _ in ways):
            return Impossible(role, _none_fits(wanted, role, shelf))
    joined, before = reach(Table(shelf, replace(wanted, ignore_pressure=True)))
    if joined < len(roles):
        role = roles[joined]
        ends = " or ".join(sorted({end(state.open_end).text for state in before})[:3])
        why = f"Nothing in the catalog leads from {ends or 'there'} to a {role.title}."
        return Impossible(role, why, _furthest(before))
    reached, before = reach(Table(shelf, wanted))
    role = roles[min(reached, len(roles) - 1)]
    _, relaxed = reach(Table(shelf, replace(wanted, ignore_pressure=True)))
    return Impossible(
        role,
        f"Parts would join, but not at the {role.title}: {_refused(wanted, role, before, shelf)}.",
        _furthest(relaxed),
        "pressure, flow and rating",
    )


def _furthest(states: list[State]) -> tuple[Placed, ...]:
    best = max(states, key=lambda state: state.full_pa, default=None)
    return () if best is None else best.trail()


def _none_fits(wanted: Wanted, role: Role, shelf: Shelf) -> str:
    """The commonest reason why no part of a role's classes is for this set and site."""
    count: Counter[str] = Counter()
    for part, _, _, turned in shelf.ways(role.kinds):
        if turned:
            continue
        if part.key in wanted.without:
            count["it was ruled out"] += 1
        elif part.takes(wanted.demand.fuel.key):
            count[wanted.limits.why_unfit(role, part) or "another one was asked for"] += 1
    if not count:
        return f"The catalog has no {role.title} for {wanted.demand.fuel.name}."
    return f"No {role.title} in the catalog is for this set: {count.most_common(1)[0][0]}."


def _refused(wanted: Wanted, role: Role, states: list[State], shelf: Shelf) -> str:
    """The commonest reason why nothing fills a role from the states that reach it."""
    count: Counter[str] = Counter()
    for state in states:
        for part, _, _, _ in shelf.ways(role.kinds):
            if not allowed(wanted, role, part):
                continue
            why = refuses(
                part,
                state.zone,
                state.full_pa,
                state.none_pa,
                state.mass_kg_s,
                wanted.demand,
            )
            if why:
                count[why] += 1
    if not count:
        return "too little comes through at full load"
    return count.most_common(1)[0][0]

"""Search for trains: fill a template, repair what stands, bridge two ends.

Flow drops add up along a train and regulators droop, so a shortest path filtered afterwards is
wrong. The search goes role by role over states that carry what later parts depend on: the open
end, the pressure at full flow and at none, the flow. Of two ways to one state the one that costs
no less and delivers no more is dropped, which is exact because every part delivers more when more
arrives.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from heapq import heappop, heappush
from math import inf

from gentle_ember.core.train.impossible import Impossible, explain
from gentle_ember.core.train.search import Cost, Placed, State, Table, Wanted, plus, reach
from gentle_ember.core.train.shelf import Shelf

PATIENCE = 300
"""States followed before it is asked, apart from cost, whether any train passes at all."""


@dataclass(frozen=True, slots=True)
class Solution:
    """A train that passes: its parts in order and what it costs."""

    parts: tuple[Placed, ...]
    cost: Cost


def solve(shelf: Shelf, wanted: Wanted) -> Solution | Impossible:
    """The best train of a template: fewest changes, then joints, then price, then stock.

    Best-first (A*): what is left costs at least what it would without pressure limits, which is
    exact where they don't bind. Of states at one open end only one that delivers more than all
    cheaper ones is followed.
    """
    table = Table(shelf, wanted)
    best_pa: dict[tuple[int, str, float, float], float] = {}
    heap: list[tuple[Cost, int, int, State]] = []
    count, followed = 0, 0
    for state in table.sources():
        count += 1
        ahead = table.ahead(1, state.open_end)
        if ahead is not None:
            heappush(heap, (plus(state.cost, ahead), count, 1, state))
    while heap:
        _, _, depth, state = heappop(heap)
        if depth == len(wanted.template.roles):
            return Solution(state.trail(), state.cost)
        place = (depth, state.open_end, state.none_pa, state.mass_kg_s)
        if best_pa.get(place, -inf) >= state.full_pa:
            continue
        best_pa[place] = state.full_pa
        followed += 1
        if followed == PATIENCE and reach(table)[0] < len(wanted.template.roles):
            break
        for after in table.onward(depth, state):
            ahead = table.ahead(depth + 1, after.open_end)
            if ahead is not None:
                count += 1
                heappush(heap, (plus(after.cost, ahead), count, depth + 1, after))
    return explain(shelf, wanted)


def alternatives(shelf: Shelf, wanted: Wanted, best: Solution, most: int = 3) -> list[Solution]:
    """The next best trains that differ from the best in a part that matters."""
    found: list[Solution] = []
    seen = {_main(best)}
    for one in best.parts:
        if not one.role or one.role in wanted.only or one.part.site:
            continue
        other = replace(wanted, without=wanted.without | {one.part.key})
        answer = solve(shelf, other)
        if isinstance(answer, Solution) and _main(answer) not in seen:
            seen.add(_main(answer))
            found.append(answer)
    return sorted(found, key=lambda one: one.cost)[:most]


def _main(solution: Solution) -> tuple[str, ...]:
    return tuple(one.part.key for one in solution.parts if one.role)

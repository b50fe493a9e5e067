"""The train solver: fewest joints, then the cheapest, or what makes it impossible."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from heapq import heappop, heappush
from math import inf
from operator import le

from gentle_ember.core.catalog import Bridge, Shelf, Way, open_ends
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.demand import Demand
from gentle_ember.core.stages.fuel_path.ladder import (
    Supply,
    Zone,
    first_zone,
    past,
    step,
    throat_signal,
    zone_after,
)
from gentle_ember.core.stages.fuel_path.limits import FIELD_CLAMP_MOST_PA, Limits, refuses
from gentle_ember.core.stages.fuel_path.templates import Role, Template

Cost = tuple[int, int, float, int]
"""Parts changed from what stands, joints, price, parts not in stock."""
FREE: Cost = (0, 0, 0.0, 0)


@dataclass(frozen=True, slots=True)
class Placed:
    """A part at its place: the role it fills (empty for a fitting), length, which way round."""

    part: Part
    role: str
    length_m: float
    turned: bool = False


@dataclass(frozen=True, slots=True)
class SearchState:
    """A train so far: its open end, gauge pressures at full flow and at none, what it costs."""

    cost: Cost
    open_end: str
    full_pa: float
    none_pa: float
    zone: Zone
    mass_kg_s: float
    placed: Placed | None
    before: SearchState | None

    def trail(self) -> tuple[Placed, ...]:
        """The parts placed, from the source."""
        found: list[Placed] = []
        here: SearchState | None = self
        while here is not None and here.placed is not None:
            found.append(here.placed)
            here = here.before
        return tuple(reversed(found))


@dataclass(frozen=True, slots=True)
class WantedPlace:
    """What is asked: template, supply, demand, limits, what stands already.

    `keep` says for a role which part stands there (kept when it can be); `only` forces parts.
    """

    template: Template
    supply: Supply
    demand: Demand
    limits: Limits
    keep: Mapping[str, str]
    only: Mapping[str, frozenset[str]]
    without: frozenset[str] = frozenset()
    ignore_pressure: bool = False


def plus(one: Cost, other: Cost) -> Cost:
    """Two costs together."""
    return (
        one[0] + other[0],
        one[1] + other[1],
        round(one[2] + other[2], 2),
        one[3] + other[3],
    )


class SearchTable:
    """For each role, the parts that can fill it by the end they take, and the cost still ahead."""

    def __init__(self, shelf: Shelf, wanted: WantedPlace) -> None:
        self.shelf, self.wanted = shelf, wanted
        self.bridges = shelf.bridges(wanted.demand.fuel.key)
        roles = wanted.template.roles
        self.ways: list[dict[str, list[Way]]] = []
        for role in roles:
            found: dict[str, list[Way]] = defaultdict(list)
            for way in shelf.ways(role.kinds):
                if allowed(wanted, role, way[0]):
                    found[way[1]].append(way)
            self.ways.append({inlet: self._worth_trying(role, w) for inlet, w in found.items()})
        self._ahead: list[dict[str, Cost]] = [{} for _ in roles]
        # Past the last part nothing is left, whatever end it has.
        for depth in range(len(roles) - 1, 0, -1):
            self._ahead[depth] = self._costs(depth)

    def _worth_trying(self, role: Role, ways: list[Way]) -> list[Way]:
        """Ways of which none costs no less and does no more than another with the same ends."""
        if len(ways) < 3:
            return ways
        ranked = sorted(
            ((self._cost(role, way[0]), _does(way[0], self.wanted.limits.length(role, way[0])), way)
             for way in ways),
            key=lambda one: one[0],
        )  # fmt: skip
        kept: dict[tuple[str, tuple[object, ...]], list[tuple[float, ...]]] = defaultdict(list)
        found = []
        for _, (alike, measures), way in ranked:
            held = kept[way[2], alike]
            if any(all(map(le, other, measures)) for other in held):
                continue
            held.append(measures)
            found.append(way)
        return found

    def ahead(self, depth: int, open_end: str) -> Cost | None:
        """Least cost from an open end through the roles from `depth` on; None for no way."""
        if depth == len(self.ways):
            return FREE
        return self._ahead[depth].get(open_end)

    def _costs(self, depth: int) -> dict[str, Cost]:
        role = self.wanted.template.roles[depth]
        by_inlet: dict[str, Cost] = {}
        for inlet, ways in self.ways[depth].items():
            for part, _, outlet, _ in ways:
                rest = self.ahead(depth + 1, outlet)
                if rest is not None:
                    cost = plus(self._cost(role, part), rest)
                    if inlet not in by_inlet or cost < by_inlet[inlet]:
                        by_inlet[inlet] = cost
        found: dict[str, Cost] = {}
        for inlet, cost in by_inlet.items():
            for takes in open_ends(inlet):
                if takes not in found or cost < found[takes]:
                    found[takes] = cost
        direct = dict(found)
        for (opened, leaves), bridges in self.bridges.items():
            if leaves in direct:
                joints, price, short = bridges[0].rank
                cost = plus((0, joints, price, short), direct[leaves])
                if opened not in found or cost < found[opened]:
                    found[opened] = cost
        return found

    def _cost(self, role: Role, part: Part) -> Cost:
        """What a part adds at a role."""
        wanted = self.wanted
        length, count = wanted.limits.length(role, part), wanted.limits.count(role)
        price = part.price * (length if part.by_length else 1.0) * count
        changed = wanted.keep and wanted.keep.get(role.key, "") != part.key
        return (
            1 if changed else 0,
            1 if part.inlet else 0,
            0.0 if part.site else round(price, 2),
            0 if part.site or part.stock >= count else 1,
        )

    def sources(self) -> list[SearchState]:
        """Every part the train can begin with."""
        wanted, role = self.wanted, self.wanted.template.roles[0]
        full, none = (wanted.supply.at(wanted.demand, load) for load in ("full", "none"))
        start = SearchState(
            FREE,
            "",
            full,
            none,
            first_zone(wanted.supply),
            wanted.demand.mass("full") * wanted.limits.flow_factor,
            None,
            None,
        )
        return [self._put(start, way, role) for way in self.ways[0].get("", ())]

    def onward(self, depth: int, state: SearchState) -> Iterator[SearchState]:
        """States past the next role, through up to two fittings and one part that fills it."""
        role = self.wanted.template.roles[depth]
        for inlet, ways in self.ways[depth].items():
            if not inlet:
                continue
            for opened in open_ends(inlet):
                if state.open_end == opened:
                    yield from self._through(state, ways, role)
                for one in self.bridges.get((state.open_end, opened), ()):
                    crossed = _cross(self.wanted, state, one)
                    if crossed is not None:
                        yield from self._through(crossed, ways, role)

    def _through(self, state: SearchState, ways: list[Way], role: Role) -> Iterator[SearchState]:
        wanted = self.wanted
        strict = not wanted.ignore_pressure
        for way in ways:
            part = way[0]
            if refuses(
                part,
                state.zone,
                state.full_pa,
                state.none_pa,
                state.mass_kg_s,
                wanted.demand,
                pressure=strict,
            ):
                continue
            after = self._put(state, way, role)
            if strict and after.full_pa <= -wanted.demand.ambient_pa + 1:
                continue
            if strict and state.zone is Zone.SUCTION:
                signal = throat_signal(part, wanted.demand, "full")
                if signal is not None and signal + after.full_pa < 0:
                    continue
            yield after

    def _put(self, state: SearchState, way: Way, role: Role) -> SearchState:
        part, _, outlet, turned = way
        demand = self.wanted.demand
        length = self.wanted.limits.length(role, part)
        tee = part.kind is PartClass.TEE
        return SearchState(
            plus(state.cost, self._cost(role, part)),
            outlet,
            step(part, length, state.full_pa, state.mass_kg_s, demand),
            step(part, length, state.none_pa, 0.0, demand),
            zone_after(part, state.zone),
            state.mass_kg_s / part.branches if tee else state.mass_kg_s,
            Placed(part, role.key, length, turned),
            state if state.placed is not None else None,
        )


def _cross(wanted: WantedPlace, state: SearchState, between: Bridge) -> SearchState | None:
    """The state past fittings; None where they can't stand."""
    if between.rating_pa < state.none_pa or any(
        part.key in wanted.without for part, _ in between.fittings
    ):
        return None
    if (
        state.none_pa > FIELD_CLAMP_MOST_PA
        and state.zone is not Zone.SUCTION
        and wanted.demand.fuel.key is not FuelKey.GASOLINE
        and any("barb" in part.inlet + part.outlet for part, _ in between.fittings)
    ):
        return None
    demand = wanted.demand
    full = past(
        demand.fuel,
        state.full_pa,
        state.mass_kg_s,
        between.resistance,
        demand.ambient_pa,
        demand.hottest_k,
    )
    joints, price, short = between.rank
    cost = (
        state.cost[0],
        state.cost[1] + joints,
        round(state.cost[2] + price, 2),
        state.cost[3] + short,
    )
    here = state
    for part, turned in between.fittings:
        outlet = part.inlet if turned else part.outlet
        here = SearchState(
            cost,
            outlet,
            full,
            state.none_pa,
            state.zone,
            state.mass_kg_s,
            Placed(part, "", part.length_m or 0.0, turned),
            here,
        )
    return here


def _does(part: Part, length_m: float) -> tuple[tuple[object, ...], tuple[float, ...]]:
    """What parts must have alike to stand in for each other, and measures of which less is better.

    Everything `refuses`, `step` and `throat_signal` read is in the one or the other.
    """
    alike = (
        part.kind, part.set_pa, part.lock_up, part.throat_m, part.branches, part.crimped,
        part.full_bore, part.closes, part.site,
    )  # fmt: skip
    return alike, (
        -(part.bore_m if part.bore_m is not None else inf),
        part.k,
        length_m,
        -(part.rating_pa if part.rating_pa is not None else inf),
        part.least_pa if part.least_pa is not None else -inf,
        -(part.most_pa if part.most_pa is not None else inf),
        -(part.rated_w if part.rated_w is not None else inf),
        -(part.pump_m3_s if part.pump_m3_s is not None else inf),
        part.droop * (1.0 / part.rated_w if part.rated_w else 1.0),
        part.opening_pa or 0.0,
    )


def allowed(wanted: WantedPlace, role: Role, part: Part) -> bool:
    """Whether a part can fill a role here, whatever stands before it."""
    if part.key in wanted.without or not part.takes(wanted.demand.fuel.key):
        return False
    forced = wanted.only.get(role.key)
    if part.kind is PartClass.GAS_JET and forced is None and wanted.keep.get(role.key) != part.key:
        # A fixed jet goes in only where it is in already, or in the kit: a screw can be set.
        return False
    source = wanted.limits.source
    if source and role is wanted.template.roles[0] and part.key != source:
        return False
    if forced is not None and part.key not in forced:
        return False
    return wanted.limits.fits(role, part)


def reach(table: SearchTable) -> tuple[int, list[SearchState]]:
    """How far any train gets: by role the states that deliver most, whatever they cost.

    Every part delivers more when more arrives, so this is exact.

    Returns:
        The first role nothing can fill, or the number of roles when the train can be finished,
        and the states before it.
    """
    states = table.sources()
    for depth in range(1, len(table.ways)):
        best: dict[tuple[str, float, float], SearchState] = {}
        for state in states:
            for after in table.onward(depth, state):
                place = (after.open_end, after.none_pa, after.mass_kg_s)
                held = best.get(place)
                if held is None or after.full_pa > held.full_pa:
                    best[place] = after
        if not best:
            return depth, states
        states = list(best.values())
    return len(table.ways), states


@dataclass(frozen=True, slots=True)
class Impossible:
    """No train: the role at which it ends, why, and the nearest thing that would work."""

    role: Role
    why: str
    nearest: tuple[Placed, ...] = ()
    relaxed: str = ""
    """What was let go of for the nearest; empty when it only goes part of the way."""


def explain(shelf: Shelf, wanted: WantedPlace) -> Impossible:
    """Why a template can't be filled: no part fits, no end joins, or pressure is not enough."""
    roles = wanted.template.roles
    for role in roles:
        ways = shelf.ways(role.kinds)
        if not any(allowed(wanted, role, part) for part, _, _, _ in ways):
            return Impossible(role, _none_fits(wanted, role, shelf))
    joined, before = reach(SearchTable(shelf, replace(wanted, ignore_pressure=True)))
    if joined < len(roles):
        role = roles[joined]
        ends = " or ".join(sorted({end(state.open_end).text for state in before})[:3])
        why = f"Nothing in the catalog leads from {ends or 'there'} to a {role.title}."
        return Impossible(role, why, _furthest(before))
    reached, before = reach(SearchTable(shelf, wanted))
    role = roles[min(reached, len(roles) - 1)]
    _, relaxed = reach(SearchTable(shelf, replace(wanted, ignore_pressure=True)))
    return Impossible(
        role,
        f"Parts would join, but not at the {role.title}: {_refused(wanted, role, before, shelf)}.",
        _furthest(relaxed),
        "pressure, flow and rating",
    )


def _furthest(states: list[SearchState]) -> tuple[Placed, ...]:
    best = max(states, key=lambda state: state.full_pa, default=None)
    return () if best is None else best.trail()


def _none_fits(wanted: WantedPlace, role: Role, shelf: Shelf) -> str:
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


def _refused(wanted: WantedPlace, role: Role, states: list[SearchState], shelf: Shelf) -> str:
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


PATIENCE = 300
"""States followed before it is asked, apart from cost, whether any train passes at all."""


@dataclass(frozen=True, slots=True)
class Solution:
    """A train that passes: its parts in order and what it costs."""

    parts: tuple[Placed, ...]
    cost: Cost


def solve(shelf: Shelf, wanted: WantedPlace) -> Solution | Impossible:
    """The best train of a template: fewest changes, then joints, then price, then stock.

    Best-first (A*): what is left costs at least what it would without pressure limits, which is
    exact where they don't bind. Of states at one open end only one that delivers more than all
    cheaper ones is followed.
    """
    table = SearchTable(shelf, wanted)
    best_pa: dict[tuple[int, str, float, float], float] = {}
    heap: list[tuple[Cost, int, int, SearchState]] = []
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


def alternatives(
    shelf: Shelf, wanted: WantedPlace, best: Solution, most: int = 3
) -> list[Solution]:
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

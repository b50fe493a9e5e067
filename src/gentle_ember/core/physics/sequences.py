"""Safe sequences: the order handles are moved in from one state of a fuel system to another.

A sequence is a shortest path over the positions of every control on which no position, neither
the last nor one on the way, lets happen what must never be. It is what is printed, spoken and
checked: nothing else lists handles in an order.
"""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from itertools import count

from gentle_ember.core.physics.fuel_states import (
    BOWL,
    ENGINE,
    INTAKE,
    OWN_TANK,
    PLUG,
    REMOTE_TANK,
    RUNNING,
    STOPPED,
    Network,
    Positions,
    State,
    faults,
    sparks,
)

MOVE, EXPOSED, WHILE_RUNNING = 100, 1000, 10
"""Cost of a move, of standing where only the demand regulator holds a gas back, of hoses, caps and
switches handled while the engine runs."""
SHUT_FIRST, OPEN_LAST = -1, 1000
"""Turn of a valve among moves that cost the same."""
TRANSIENT = frozenset(("no_fuel", "demand_only", "no_spark"))
"""What may be on the way: an engine that runs out or is switched off, and gas at the demand
regulator at a start."""
BOWL_DRY, BOWL_FULL = "run dry", "filled"


@dataclass(frozen=True, slots=True)
class Move:
    """One control moved: to which position, what a person does, and what follows by itself."""

    control: str
    position: str
    text: str
    stops: bool = False
    """Whether the engine runs out and stops by it."""


@dataclass(frozen=True, slots=True)
class Sequence:
    """The moves from one state to another; `between` are the positions after each move."""

    key: str
    name: str
    moves: tuple[Move, ...]
    between: tuple[Positions, ...]
    why_not: str = ""
    """Why there is no safe order; empty when there is."""

    @property
    def lines(self) -> tuple[str, ...]:
        """What is done, one line a move; the switch where the engine ran out and stays at rest."""
        last = max((at for at, one in enumerate(self.moves) if one.stops), default=None)
        found = []
        for at, one in enumerate(self.moves):
            found.append(one.text)
            if at == last and self.ends_at_rest:
                found.append("Switch off.")
        return tuple(found)

    @property
    def ends_at_rest(self) -> bool:
        """Whether the engine stands at its end."""
        return bool(self.between) and self.between[-1][ENGINE] == STOPPED


def dangers(network: Network, positions: Positions) -> frozenset[str]:
    """What must never be, of what these positions let happen, not even on the way."""
    running = positions[ENGINE] == RUNNING and network.reach(positions)(OWN_TANK, INTAKE)
    on = network.sources.get(OWN_TANK, "") if running else ""
    return frozenset(
        one.key
        for one in faults(network, State("", "", positions, on))
        if one.never and one.key not in TRANSIENT
    )


def exposed(network: Network, positions: Positions) -> bool:
    """Whether only the demand regulator holds a gas back."""
    return any(one.key == "demand_only" for one in faults(network, State("", "", positions)))


def settle(network: Network, positions: Positions) -> dict[str, str]:
    """What positions come to by themselves: a bowl under an open tank fills, an engine runs out."""
    found = dict(positions)
    reach = network.reach(found)
    if "bowl" in found and _under_a_tank(reach):
        found["bowl"] = BOWL_FULL
    if found[ENGINE] == RUNNING and not (fed(network, found) and sparks(network, found)):
        found[ENGINE] = STOPPED
    return found


def _under_a_tank(reach: Callable[[str, str], bool]) -> bool:
    """Whether a tank stands open over the float bowl."""
    return reach(BOWL, OWN_TANK) or reach(BOWL, REMOTE_TANK)


def fed(network: Network, positions: Positions) -> bool:
    """Whether any fuel reaches the intake, a tank that can't breathe left out."""
    reach = network.reach(positions)
    return any(reach(place, INTAKE) for place in network.sources)


def can_move(network: Network, positions: Positions, key: str, to: str) -> bool:
    """Whether a hand can make this move, and may: hoses are joined and parted with valves shut."""
    if key == ENGINE:
        if to == STOPPED:
            # Where a switch of the table cuts the ignition, that switch is what stops it.
            return PLUG not in network.places
        return sparks(network, positions) and fed(network, {**positions, ENGINE: RUNNING})
    if key == "bowl":
        reach = network.reach(positions)
        fills = _under_a_tank(reach)
        if to == BOWL_FULL:
            return fills
        if network.bowl == "drained":
            return positions[ENGINE] == STOPPED and not fills
        return positions[ENGINE] == RUNNING and reach(BOWL, INTAKE) and not fills
    for hose, valve in network.valve_of.items():
        if key == hose and positions[valve] != "shut":
            return False
        if key == valve and to == "open" and positions[hose] != "joined":
            return False
    for cap, hoses in network.hoses_at.items():
        joined = [hose for hose in hoses if positions[hose] == "joined"]
        if key == cap and to == "on" and joined:
            return False
        if key in hoses and to == "joined" and (positions[cap] != "off" or joined):
            return False
    return True


@dataclass(frozen=True, slots=True)
class Onward:
    """A move that may be made somewhere: what the positions settle to, its cost, its turn."""

    control: str
    position: str
    after: Positions
    cost: int
    rank: int
    says: str = ""
    """What a person does, where it is more than that control."""


class Space:
    """Every position of a fuel system that is ever asked for, with the moves that lead on."""

    def __init__(self, network: Network) -> None:
        self.network = network
        self._onward: dict[tuple[str, ...], tuple[Onward, ...]] = {}
        self._rank = {one.key: at for at, one in enumerate(network.controls)}

    def place(self, positions: Positions) -> tuple[str, ...]:
        """Positions as a key."""
        return tuple(positions[one.key] for one in self.network.controls)

    def onward(self, positions: Positions) -> tuple[Onward, ...]:
        """Every move that may be made here, none dangerous."""
        place = self.place(positions)
        if place not in self._onward:
            self._onward[place] = tuple(self._steps(positions))
        return self._onward[place]

    def _steps(self, positions: Positions) -> Iterator[Onward]:
        network, running = self.network, positions[ENGINE] == RUNNING
        for one in network.controls:
            for to in one.positions:
                if to == positions[one.key] or not can_move(network, positions, one.key, to):
                    continue
                moved = {**positions, one.key: to}
                if dangers(network, moved):
                    continue
                after = settle(network, moved)
                if after == positions or dangers(network, after):
                    continue
                valve = one.is_valve
                cost = MOVE + EXPOSED * exposed(network, after)
                if running and not valve and one.key not in (ENGINE, "bowl"):
                    cost += WHILE_RUNNING
                rank = self._rank[one.key]
                if valve:
                    rank = SHUT_FIRST if to == "shut" else OPEN_LAST
                yield Onward(one.key, to, after, cost, rank)
        if network.bowl == "on_the_fly" and running:
            yield from self._on_the_fly(positions)

    def _on_the_fly(self, positions: Positions) -> Iterator[Onward]:
        """Over to gas without a stop: the gas is opened as the last of the bowl burns."""
        network = self.network
        reach = network.reach(positions)
        if positions.get("bowl") != BOWL_FULL or _under_a_tank(reach) or not reach(BOWL, INTAKE):
            return
        (dry,) = (to for one in network.controls if one.key == "bowl"
                  for to in one.positions if to != BOWL_FULL)  # fmt: skip
        for one in network.controls:
            if not one.is_valve or positions[one.key] != "shut":
                continue
            if not can_move(network, positions, one.key, "open"):
                continue
            moved = {**positions, "bowl": dry, one.key: "open"}
            after = settle(network, moved)
            if after != moved or dangers(network, moved):
                continue
            opens = network.words(one.key, "open")
            says = f"As it begins to stumble, {opens[0].lower()}{opens[1:]}."
            yield Onward(one.key, "open", after, MOVE, OPEN_LAST, says)

    def sequence(
        self, start: Positions, goal: Mapping[str, str], key: str = "", name: str = ""
    ) -> Sequence:
        """The cheapest safe order of moves from where everything stands to a goal.

        Among orders of the same length the one that leaves a gas behind the demand regulator
        alone for the fewest moves is taken, then the one with the fewest hands on a running
        machine; then sources are shut first and opened last, and the rest goes round the machine
        as the controls are listed.

        Args:
            start: where every control stands.
            goal: where those controls must stand that it names.
            key: of the sequence.
            name: as people read it.
        """
        number = count()

        def left(positions: Positions) -> int:
            return MOVE * sum(positions[one] != to for one, to in goal.items() if one != "bowl")

        first = dict(start)
        best: dict[tuple[str, ...], tuple[int, tuple[int, ...]]] = {self.place(first): (0, ())}
        came: dict[tuple[str, ...], tuple[tuple[str, ...], Onward]] = {}
        heap: list[tuple[int, tuple[int, ...], int, Positions]] = [(0, (), next(number), first)]
        while heap:
            _, path, _, here = heapq.heappop(heap)
            at = self.place(here)
            if path != best[at][1]:
                continue
            if all(here[one] == to for one, to in goal.items()):
                return _told(self.network, key, name, at, came)
            for step in self.onward(here):
                cost = best[at][0] + step.cost
                there, walked = self.place(step.after), (*path, step.rank)
                if there not in best or (cost, walked) < best[there]:
                    best[there] = cost, walked
                    came[there] = at, step
                    # Two things may settle by themselves in one move: the bound stays under.
                    bound = cost + left(step.after) // 3
                    heapq.heappush(heap, (bound, walked, next(number), step.after))
        return Sequence(key, name, (), (), _why_not(self.network, start, goal))


def _told(
    network: Network,
    key: str,
    name: str,
    at: tuple[str, ...],
    came: Mapping[tuple[str, ...], tuple[tuple[str, ...], Onward]],
) -> Sequence:
    moves: list[Move] = []
    between: list[Positions] = []
    order = [one.key for one in network.controls]
    while at in came:
        before, step = came[at]
        was = before[order.index(ENGINE)]
        rests = was == RUNNING and step.after[ENGINE] == STOPPED and step.control != ENGINE
        ran_out = rests and sparks(network, step.after)
        text = network.words(step.control, step.position)
        text += "; it runs out and stops." if ran_out else "; it stops." if rests else "."
        text = step.says or text
        # Where a switch of the table cuts the ignition, switching off is a move of its own.
        moves.append(
            Move(step.control, step.position, text, ran_out and PLUG not in network.places)
        )
        between.append(step.after)
        at = before
    return Sequence(key, name, tuple(reversed(moves)), tuple(reversed(between)))


def _why_not(network: Network, start: Positions, goal: Mapping[str, str]) -> str:
    """The two moves that can't be ordered: each of them, made first, is a danger or impossible."""
    wanted = [
        (one.key, goal[one.key])
        for one in network.controls
        if one.key in goal and goal[one.key] != start[one.key]
    ]
    stuck: list[str] = []
    for key, to in wanted:
        moved = {**start, key: to}
        if not can_move(network, start, key, to) or dangers(network, moved):
            stuck.append(network.words(key, to))
    named = (stuck or [network.words(*one) for one in wanted])[:2]
    words = " and ".join(f"“{one}”" for one in named)
    return f"No safe order: {words} can't be ordered without a danger on the way."

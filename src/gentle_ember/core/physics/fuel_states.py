"""Fuel states: what is connected to what in each state, and what that lets happen.

A network is a small graph: places joined by links, each passing only while certain controls stand
in certain positions. Every verdict is found by asking what can be reached from where.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import networkx as nx

Positions = Mapping[str, str]

INTAKE, OWN_TANK, REMOTE_TANK, TANK_AIR = "intake", "own tank", "remote tank", "tank air"
BOWL, BOWL_FILL, OUTSIDE, DEMAND_INLET, GAS_PORT = (
    "bowl",
    "bowl's filling",
    "outside air",
    "demand regulator inlet",
    "gas port",
)
ENGINE, RUNNING, STOPPED = "engine", "running", "stopped"


@dataclass(frozen=True, slots=True)
class Control:
    """Something with positions: a valve, vent, selector, cap, coupler or switch."""

    key: str
    name: str
    positions: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Link:
    """Two places joined while every control named stands in one of its positions."""

    a: str
    b: str
    while_: tuple[tuple[str, tuple[str, ...]], ...] = ()

    def passes(self, positions: Positions) -> bool:
        """Whether it is open with the controls so."""
        return all(positions[key] in wanted for key, wanted in self.while_)


@dataclass(frozen=True, slots=True)
class Network:
    """A set's fuel system: controls, links, and which places are sources of which fuel."""

    controls: tuple[Control, ...]
    links: tuple[Link, ...]
    sources: Mapping[str, str]
    """Place → fuel; the bowl's own filling is gasoline."""
    pressed: frozenset[str]
    """Sources under pressure: these must be shut by hand when the set stands."""

    def graph(self, positions: Positions) -> nx.Graph[str]:
        """What is connected with the controls so."""
        import networkx as nx

        graph: nx.Graph[str] = nx.Graph()
        graph.add_nodes_from(place for link in self.links for place in (link.a, link.b))
        graph.add_edges_from((link.a, link.b) for link in self.links if link.passes(positions))
        return graph


@dataclass(frozen=True, slots=True)
class State:
    """A state a person puts the set in: its positions, and the source it should run on."""

    key: str
    name: str
    positions: Positions
    runs_on: str = ""
    """Fuel it should run on; empty when stopped."""

    @property
    def running(self) -> bool:
        """Whether the engine runs in it."""
        return self.positions[ENGINE] == RUNNING


@dataclass(frozen=True, slots=True)
class Fault:
    """What a state lets happen, and whether it must never be."""

    key: str
    text: str
    never: bool = True


def faults(network: Network, state: State) -> tuple[Fault, ...]:
    """What is wrong in a state, found by reachability."""
    import networkx as nx

    graph = network.graph(state.positions)
    parts = {
        place: number
        for number, part in enumerate(nx.connected_components(graph))
        for place in part
    }

    def joined(a: str, b: str) -> bool:
        return a in parts and parts[a] == parts.get(b)

    found: list[Fault] = []
    feeding = {
        fuel for place, fuel in network.sources.items() if state.running and joined(place, INTAKE)
    }
    tanks = [place for place in (OWN_TANK, REMOTE_TANK) if state.running and joined(place, INTAKE)]
    if len(feeding) > 1:
        names = " and ".join(sorted(feeding))
        found.append(Fault("two_fuels", f"{names} both reach the intake"))
    if len(tanks) > 1:
        found.append(Fault("two_tanks", "both tanks feed"))
    if joined(OWN_TANK, REMOTE_TANK):
        found.append(Fault("tanks_joined", "the remote tank can overfill the own one"))
    if state.running and joined(OUTSIDE, INTAKE):
        found.append(Fault("open_inlet", "the open gas inlet draws air: lean"))
    for place in sorted(network.pressed):
        fuel = network.sources[place]
        if joined(place, OUTSIDE):
            found.append(Fault("escapes", f"{fuel} escapes at an open connection"))
        elif joined(place, DEMAND_INLET) and not state.running:
            found.append(Fault("demand_only", f"{fuel} is held back only by the demand regulator"))
        elif not state.running and joined(place, INTAKE):
            found.append(Fault("gas_at_rest", f"{fuel} reaches the standing engine"))
    if state.runs_on and state.runs_on not in feeding:
        found.append(Fault("no_fuel", f"{state.runs_on} does not reach the intake"))
    breathes = TANK_AIR not in graph or joined(OWN_TANK, TANK_AIR)
    if state.runs_on == feeds(network, OWN_TANK) and OWN_TANK in tanks and not breathes:
        found.append(Fault("shut_vent", "the own tank's vent is shut: it stalls"))
    if not state.running and any(joined(place, BOWL) for place in (OWN_TANK, REMOTE_TANK)):
        found.append(
            Fault("needle_only", "gasoline is held back only by the float needle", never=False)
        )
    return tuple(found)


def feeds(network: Network, place: str) -> str:
    """The fuel a place is a source of."""
    return network.sources.get(place, "")


@dataclass(frozen=True, slots=True)
class Slip:
    """One control out of place in a state, and what that newly lets happen."""

    control: str
    position: str
    faults: tuple[Fault, ...]


def slips(network: Network, state: State) -> tuple[Slip, ...]:
    """Every single control that may not stand otherwise in this state, and why."""
    known = {fault.key for fault in faults(network, state)}
    found: list[Slip] = []
    for control in network.controls:
        if control.key == ENGINE:
            continue
        for position in control.positions:
            if position == state.positions[control.key]:
                continue
            other = State(
                state.key,
                state.name,
                {**state.positions, control.key: position},
                state.runs_on,
            )
            new = tuple(
                fault for fault in faults(network, other) if fault.key not in known and fault.never
            )
            if new:
                found.append(Slip(control.key, position, new))
    return tuple(found)


def control(key: str, name: str, *positions: str) -> Control:
    """A control by its positions."""
    return Control(key, name, positions)


def link(a: str, b: str, **while_: str | Iterable[str]) -> Link:
    """A link that passes while the named controls stand so.

    >>> link("a", "b", valve="open").passes({"valve": "shut"})
    False
    """
    wanted = tuple(
        (key, (value,) if isinstance(value, str) else tuple(value)) for key, value in while_.items()
    )
    return Link(a, b, wanted)

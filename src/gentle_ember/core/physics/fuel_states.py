"""Fuel states: what is connected to what in each state, and what that lets happen.

A network is a small graph: places joined by links, each passing only while certain controls stand
in certain positions. Every verdict is found by asking what can be reached from where.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations

Positions = Mapping[str, str]

INTAKE, OWN_TANK, REMOTE_TANK, TANK_AIR = "intake", "own tank", "remote tank", "tank air"
REMOTE_AIR = "remote tank's air"
BOWL, BOWL_FILL, OUTSIDE, DEMAND_INLET, GAS_PORT = (
    "bowl",
    "bowl's filling",
    "outside air",
    "demand regulator inlet",
    "gas port",
)
ENGINE, RUNNING, STOPPED = "engine", "running", "stopped"
SPARK, PLUG = "ignition", "spark plug"
"""Joined while every switch that cuts the ignition lets it run."""


@dataclass(frozen=True, slots=True)
class Control:
    """Something with positions: a valve, vent, selector, cap, coupler or switch."""

    key: str
    name: str
    positions: tuple[str, ...]
    say: tuple[str, ...] = ()
    """What a person does to bring it to each position, in the same order."""

    @property
    def is_valve(self) -> bool:
        """Whether it opens and shuts a source: shut first, opened last."""
        return self.key.endswith("_valve")

    @property
    def is_switch(self) -> bool:
        """Whether it is a switch told by its positions."""
        return self.key.startswith("switch_")


@dataclass(frozen=True, slots=True)
class Link:
    """Two places joined while every control named stands in one of its positions."""

    a: str
    b: str
    while_: tuple[tuple[str, tuple[str, ...]], ...] = ()

    def passes(self, positions: Positions) -> bool:
        """Whether it is open with the controls so."""
        for key, wanted in self.while_:  # noqa: SIM110 - asked millions of times: a plain loop
            if positions[key] not in wanted:
                return False
        return True


@dataclass(frozen=True)
class Network:
    """A set's fuel system: controls, links, and which places are sources of which fuel."""

    controls: tuple[Control, ...]
    links: tuple[Link, ...]
    sources: Mapping[str, str]
    """Place → fuel; the bowl's own filling is gasoline."""
    pressed: frozenset[str]
    """Sources under pressure: these must be shut by hand when the set stands."""
    valve_of: Mapping[str, str] = field(default_factory=dict)
    """Hose → the valve behind it, which is shut whenever the hose is joined or parted."""
    hoses_at: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    """Cap of an inlet → the hoses that go on it, one at a time."""
    inlets: tuple[str, ...] = (DEMAND_INLET,)
    """Inlets of the demand regulators."""
    set_for: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    """Fuel → the control that meters it, and how that stands for it."""
    bowl: str = "run_dry"
    """How the float bowl is emptied: run dry, drained at rest, or over to gas as it stumbles."""

    def words(self, key: str, position: str) -> str:
        """What a person does to bring a control to a position, without a full stop."""
        one = next(one for one in self.controls if one.key == key)
        if one.say:
            return one.say[one.positions.index(position)]
        return f"{one.name}: {position}"

    def reach(
        self, positions: Positions, *, through_air: bool = True
    ) -> Callable[[str, str], bool]:
        """Whether two places are connected with the controls so, as a question to ask."""
        asked: tuple[bool | str, ...] = (
            through_air,
            *(positions[one.key] for one in self.controls),
        )
        group = self._groups.get(asked)
        if group is None:
            group = self._groups[asked] = self._joined(positions, through_air=through_air)
        return lambda a, b: group.get(a, a) == group.get(b, b)

    def _joined(self, positions: Positions, *, through_air: bool) -> Mapping[str, str]:
        """Place → one place of those it is connected with."""
        group = {place: place for place in self.places}
        for one in self.links:
            if one.passes(positions) and (through_air or OUTSIDE not in (one.a, one.b)):
                gone, stays = group[one.a], group[one.b]
                if gone != stays:
                    for place, at in group.items():
                        if at == gone:
                            group[place] = stays
        return group

    @cached_property
    def places(self) -> frozenset[str]:
        """Every place a link ends at."""
        return frozenset(place for one in self.links for place in (one.a, one.b))

    @cached_property
    def _groups(self) -> dict[tuple[bool | str, ...], Mapping[str, str]]:
        """What was asked of `reach` before: a search asks for the same positions many times."""
        return {}


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
    places, reach = network.places, network.reach(state.positions)

    def joined(a: str, b: str) -> bool:
        return a in places and b in places and reach(a, b)

    found: list[Fault] = []
    if state.running and not sparks(network, state.positions):
        found.append(Fault("no_spark", "a switch cuts the ignition there"))
    feeding = {
        fuel for place, fuel in network.sources.items() if state.running and joined(place, INTAKE)
    }
    for fuel in sorted(feeding):
        key, position = network.set_for.get(fuel, ("", ""))
        if key and state.positions[key] != position:
            found.append(Fault("wrong_setting", f"metered for another gas than {fuel}: lean or "
                                                "rich"))  # fmt: skip
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
    found += _pressed(network, state.running, joined)
    inside = network.reach(state.positions, through_air=False)
    for place, other in combinations(sorted(network.pressed), 2):
        if inside(place, other):
            names = f"{network.sources[place]} and {network.sources[other]}"
            found.append(Fault("gases_joined", f"{names} are joined: one feeds into the other"))
    if state.runs_on and state.runs_on not in feeding:
        found.append(Fault("no_fuel", f"{state.runs_on} does not reach the intake"))
    found += _vents(network, state, tanks, joined)
    if not state.running and any(joined(place, BOWL) for place in (OWN_TANK, REMOTE_TANK)):
        found.append(
            Fault("needle_only", "gasoline is held back only by the float needle", never=False)
        )
    return tuple(found)


def _vents(
    network: Network, state: State, tanks: list[str], joined: Callable[[str, str], bool]
) -> Iterator[Fault]:
    """Tanks that feed and can't breathe."""
    places = network.places
    breathes = TANK_AIR not in places or joined(OWN_TANK, TANK_AIR)
    if state.runs_on == feeds(network, OWN_TANK) and OWN_TANK in tanks and not breathes:
        yield Fault("shut_vent", "the own tank's vent is shut: it stalls")
    if REMOTE_TANK in tanks and REMOTE_AIR in places and not joined(REMOTE_TANK, REMOTE_AIR):
        yield Fault("remote_vent", "the remote tank's vent is shut: it stalls")


def sparks(network: Network, positions: Positions) -> bool:
    """Whether no switch cuts the ignition with the controls so."""
    return PLUG not in network.places or network.reach(positions)(SPARK, PLUG)


def _pressed(
    network: Network, running: bool, joined: Callable[[str, str], bool]
) -> Iterator[Fault]:
    """What the sources under pressure let happen."""
    for place in sorted(network.pressed):
        fuel = network.sources[place]
        if joined(place, OUTSIDE):
            yield Fault("escapes", f"{fuel} escapes at an open connection")
        elif any(joined(place, inlet) for inlet in network.inlets) and not running:
            yield Fault("demand_only", f"{fuel} is held back only by the demand regulator")
        elif not running and joined(place, INTAKE):
            yield Fault("gas_at_rest", f"{fuel} reaches the standing engine")


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


def slips_to_both(network: Network, state: State, most: int = 4) -> tuple[tuple[str, str], ...]:
    """The fewest controls out of place that let two gases in at once, or join them; none found: ().

    Hands can do anything but put two hoses on one inlet, or one on a cap.

    Args:
        network: the fuel system.
        state: where everything should stand.
        most: how many slips are looked for.
    """
    others = [
        (one.key, to)
        for one in network.controls
        if one.key != ENGINE
        for to in one.positions
        if to != state.positions[one.key]
    ]
    for slips_made in range(1, most + 1):
        for chosen in combinations(others, slips_made):
            keys = {key for key, _ in chosen}
            at = {**state.positions, **dict(chosen)}
            on = {
                cap: sum(at[hose] == "joined" for hose in hoses)
                for cap, hoses in network.hoses_at.items()
            }
            fits = all(count < 2 and not (count and at[cap] == "on") for cap, count in on.items())
            if len(keys) == len(chosen) and fits and _both(network, at):
                return chosen
    return ()


def _both(network: Network, at: Positions) -> bool:
    """Whether two gases feed or are joined, other than by both escaping into the air."""
    reach = network.reach(at, through_air=False)
    fed = [place for place in network.pressed if reach(place, INTAKE)]
    joined = any(reach(a, b) for a, b in combinations(sorted(network.pressed), 2))
    return len(fed) > 1 or joined


def control(key: str, name: str, *positions: str, say: tuple[str, ...] = ()) -> Control:
    """A control by its positions, and what a person does to bring it to each."""
    return Control(key, name, positions, say)


def link(a: str, b: str, **while_: str | Iterable[str]) -> Link:
    """A link that passes while the named controls stand so.

    >>> link("a", "b", valve="open").passes({"valve": "shut"})
    False
    """
    wanted = tuple(
        (key, (value,) if isinstance(value, str) else tuple(value)) for key, value in while_.items()
    )
    return Link(a, b, wanted)

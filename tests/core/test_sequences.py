"""Safe sequences against brute force: every position of every control, found another way."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Any

import networkx as nx
import pytest

from gentle_ember.core.physics.fuel_states import INTAKE, OWN_TANK, REMOTE_TANK, Network
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.networks import (
    PASSING,
    StatesSection,
    fuel_states,
    orders,
    states_section,
)
from tests.core.test_states import SYSTEMS, closure, dead
from tests.helpers.fits import CASES, fitted
from tests.helpers.jobs import known
from tests.helpers.sets import CATALOG

SAFE = [name for name in SYSTEMS if "no shut-off" not in name]


def section_of(name: str) -> StatesSection:
    job, methods = SYSTEMS[name]
    return states_section(Case(job), methods)


def forbidden(network: Network, at: dict[str, str]) -> bool:
    """What must never be, worked out from the adjacency matrix and the words of the notes."""
    joined = closure(network, at)
    running = at["engine"] == "running"
    feeding = {fuel for place, fuel in network.sources.items() if joined(place, INTAKE)}
    tanks = [place for place in (OWN_TANK, REMOTE_TANK) if joined(place, INTAKE)]
    gas_out = any(joined(place, "outside air") for place in network.pressed)
    at_rest = any(joined(place, INTAKE) for place in network.pressed) and not any(
        joined(place, inlet) for place in network.pressed for inlet in network.inlets
    )
    mixed = any(joined(a, b) for a, b in itertools.combinations(network.pressed, 2))
    starves = running and OWN_TANK in tanks and not joined(OWN_TANK, "tank air")
    return bool(
        (running and (len(feeding) > 1 or len(tanks) > 1 or joined("outside air", INTAKE)))
        or joined(OWN_TANK, REMOTE_TANK)
        or gas_out
        or (not running and at_rest)
        or mixed
        or ("tank air" in {p for link in network.links for p in (link.a, link.b)} and starves)
    )


def follows(network: Network, at: dict[str, str]) -> dict[str, str]:
    """A bowl under an open tank fills; an engine that nothing feeds or sparks stops."""
    joined, after = closure(network, at), dict(at)
    if "bowl" in at and any(joined("bowl", tank) for tank in (OWN_TANK, REMOTE_TANK)):
        after["bowl"] = "filled"
    fed = closure(network, after)
    if at["engine"] == "running" and (
        dead(network, fed) or not any(fed(place, INTAKE) for place in network.sources)
    ):
        after["engine"] = "stopped"
    return after


def by_hand(network: Network, at: dict[str, str], key: str, to: str) -> bool:
    """Whether a hand can do it: the rules as one tells them to somebody."""
    joined = closure(network, at)
    if key == "engine":
        started = closure(network, {**at, "engine": "running"})
        told = any("spark plug" in (link.a, link.b) for link in network.links)
        if to == "stopped":
            return not told
        return not dead(network, started) and any(
            started(place, INTAKE) for place in network.sources
        )
    if key == "bowl":
        full = any(joined("bowl", tank) for tank in (OWN_TANK, REMOTE_TANK))
        drawn = at["engine"] == "running" and joined("bowl", INTAKE)
        return full if to == "filled" else drawn and not full
    if key in network.valve_of:
        if at[network.valve_of[key]] == "open":
            return False
        for cap, hoses in network.hoses_at.items():
            if key in hoses and to == "joined":
                return at[cap] == "off" and all(at[one] == "parted" for one in hoses)
        return True
    if key in network.valve_of.values():
        hose = next(one for one, valve in network.valve_of.items() if valve == key)
        return to == "shut" or at[hose] == "joined"
    if key in network.hoses_at:
        return to == "off" or all(at[one] == "parted" for one in network.hoses_at[key])
    return True


def moves(network: Network, at: dict[str, str]) -> Iterator[tuple[str, str, dict[str, str]]]:
    for control in network.controls:
        for to in control.positions:
            if to == at[control.key] or not by_hand(network, at, control.key, to):
                continue
            moved = {**at, control.key: to}
            after = follows(network, moved)
            if after != at and not forbidden(network, moved) and not forbidden(network, after):
                yield control.key, to, after


def whole_space(network: Network) -> nx.DiGraph[tuple[str, ...]]:
    """Every position that is safe, with the moves between them and whether gas waits there."""
    keys = [control.key for control in network.controls]
    graph: nx.DiGraph[tuple[str, ...]] = nx.DiGraph()
    for place in itertools.product(*(control.positions for control in network.controls)):
        at = dict(zip(keys, place, strict=True))
        if forbidden(network, at):
            continue
        for _, _, after in moves(network, at):
            joined = closure(network, after)
            waits = after["engine"] == "stopped" and any(
                joined(source, inlet) for source in network.pressed for inlet in network.inlets
            )
            graph.add_edge(place, tuple(after[key] for key in keys), cost=1 + 10 * waits)
    return graph


def ends(section: StatesSection, key: str) -> tuple[dict[str, str], dict[str, str]]:
    """Where an order begins and what it must come to."""
    columns = {one.state.key: dict(one.state.positions) for one in section.columns}
    kind, name, *other = key.split(".")
    if kind == "start":
        return columns["stored"], columns[name]
    if kind == "stop":
        valves = {one.key for one in section.controls if one.key.endswith("_valve")}
        told = {one.key: columns["stopped"][one.key] for one in section.controls
                if one.key.startswith("switch_")}  # fmt: skip
        return columns[name], {"engine": "stopped", **told, **dict.fromkeys(valves, "shut")}
    return columns[name], columns["stored"] if kind == "store" else columns[other[0]]


@pytest.mark.parametrize("name", [one for one in SAFE if one != "tank and gas"])
def test_no_order_is_longer_than_trying_everything_finds_and_none_is_dangerous(name):
    section = section_of(name)
    network = section.columns[0].network
    keys = [control.key for control in network.controls]
    graph = whole_space(network)
    for one in orders(section):
        start, goal = ends(section, one.key)
        place = tuple(start[key] for key in keys)
        reached = nx.single_source_dijkstra_path_length(graph, place, weight="cost")
        best = min(cost for at, cost in reached.items()
                   if all(at[keys.index(key)] == to for key, to in goal.items()))  # fmt: skip
        assert not one.why_not, one.name
        walked = [place, *(tuple(at[key] for key in keys) for at in one.between)]
        cost = sum(graph.edges[a, b]["cost"] for a, b in itertools.pairwise(walked))
        assert cost == best, (one.name, one.lines)
        assert all(one.between[-1][key] == to for key, to in goal.items())


@pytest.mark.parametrize("name", CASES)
def test_every_method_and_source_has_its_orders_and_none_passes_a_danger(name):
    plan = Plan(fitted(*CASES[name]), CATALOG)
    section = plan.of(fuel_states)
    network = section.columns[0].network
    found = {one.key: one for one in orders(section)}
    running = [c.state.key for c in section.columns
               if c.state.running and c.state.key not in PASSING]  # fmt: skip
    for state in running:
        assert {f"start.{state}", f"stop.{state}", f"store.{state}"} <= set(found)
        for other in running:
            assert other == state or f"over.{state}.{other}" in found
    for one in found.values():
        assert not one.why_not, one.name
        assert all(not forbidden(network, dict(at)) for at in one.between), one.name
        assert all(line.endswith(".") for line in one.lines)


def steps(name: str, key: str) -> list[str]:
    return list(next(one for one in orders(section_of(name)) if one.key == key).lines)


def test_the_source_is_opened_last_and_shut_first():
    for name, section in ((name, section_of(name)) for name in SAFE):
        for one in orders(section):
            moved = [(move.control, move.position) for move in one.moves]
            for gas in section.columns[0].network.pressed:
                valve = f"{gas.replace(' ', '_')}_valve"
                if (valve, "open") in moved:
                    assert moved.index((valve, "open")) == len(moved) - 2, (name, one.lines)
                    assert moved[-1] == ("engine", "running")
                if (valve, "shut") in moved:
                    assert moved.index((valve, "shut")) == 0, (name, one.lines)


def test_what_a_technician_would_say():
    assert steps("spacer", "start.propane") == [
        "Take the cap off the gas inlet.", "Join the hose for propane, and tug it.",
        "Open the cylinder valve, slowly.", "Start the engine.",
    ]  # fmt: skip
    assert steps("spacer", "stop.propane") == [
        "Shut the cylinder valve; it runs out and stops.", "Switch off.",
    ]  # fmt: skip
    assert steps("spacer", "over.gasoline.propane")[:2] == [
        "Shut the gasoline shut-off.",
        "Let it run until the bowl is dry; it runs out and stops.",
    ]  # fmt: skip
    assert steps("two gases", "start.natural_gas")[2] == "Lock-off on, by the switch."


def test_where_nothing_can_be_shut_it_says_what_can_not_be_ordered():
    section = section_of("no shut-off")
    found = {one.key: one for one in orders(section)}
    over = found["over.gasoline.propane"]
    assert over.moves == ()
    assert over.why_not.startswith("No safe order: “")
    assert found["start.gasoline"].why_not == ""


@pytest.mark.parametrize(("facts", "done"), [
    ({"set__shut_off": False}, "shut_off_fit"),
    ({"set__shut_off": False, "wants__keep_gasoline": False}, "gasoline_off"),
])  # fmt: skip
def test_what_was_fitted_clears_the_stop_it_was_fitted_for(facts: dict[str, Any], done: str):
    methods = ("spacer_adapter",)
    before = known(**facts)
    dangerous = states_section(Case(before), methods)
    assert any(not column.safe for column in dangerous.columns)
    document = before.model_dump(mode="json")
    document["fit"]["steps"] = {done: {"state": "done", "by": "RK"}}
    after = type(before).model_validate(document)
    assert all(column.safe for column in states_section(Case(after), methods).columns)
    made = orders(states_section(Case(after), methods))
    assert made
    assert all(not one.why_not for one in made)

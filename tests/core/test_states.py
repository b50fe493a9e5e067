"""Fuel states: the matrix against brute force, and what must be found in it."""

import itertools

import numpy as np
import pytest

from gentle_ember.core.physics.fuel_states import (
    INTAKE,
    OUTSIDE,
    OWN_TANK,
    REMOTE_TANK,
    Network,
    State,
    faults,
)
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.networks import (
    as_before,
    both_on,
    fuel_system,
    orders,
    states_section,
)
from tests.helpers.jobs import fact, known
from tests.helpers.sets import CATALOG

GASES = {"g1": {"kind": "natural_gas", "pressure": fact(1744.0)}}
DIALS = {
    "d": {"name": "fuel dial", "positions": {
        "a": {"name": "OFF", "sparks": False}, "b": {"name": "ON", "own": True},
        "c": {"name": "GAS"}}},
    "k": {"name": "kill button", "positions": {
        "a": {"name": "KILL", "sparks": False}, "b": {"name": "RUN"}}},
}  # fmt: skip
SYSTEMS = {
    "plain": (known(), ()),
    "spacer": (known(), ("spacer_adapter",)),
    "no shut-off": (known(set__shut_off=False), ("spacer_adapter",)),
    "two gases": (
        known(sites__s1__gases=GASES, wants__natural_gas=True, set__cylinders=2,
              set__carburetor__type="two_barrel", set__carburetor__fuel_solenoid=True),
        ("two_barrel_adapter",),
    ),
    "factory": (
        known(sites__s1__gases=GASES, wants__natural_gas=True, set__set_class="dual_fuel"),
        ("second_gas",),
    ),
    "tank and gas": (known(), ("spacer_adapter", "remote_tank_gravity")),
    "tank, no shut-off": (known(set__shut_off=None), ("remote_tank_pump",)),
    "multi": (known(set__shut_off=False), ("multi_fuel_carburetor",)),
    "dial": (known(set__shut_off=None, set__switches=DIALS), ("spacer_adapter",)),
}  # fmt: skip


def closure(network, positions):
    """What reaches what, by powers of the adjacency matrix: no graph library."""
    places = sorted({place for link in network.links for place in (link.a, link.b)})
    at = {place: number for number, place in enumerate(places)}
    matrix = np.eye(len(places), dtype=bool)
    for link in network.links:
        if all(positions[key] in wanted for key, wanted in link.while_):
            matrix[at[link.a], at[link.b]] = matrix[at[link.b], at[link.a]] = True
    for _ in places:
        matrix = matrix @ matrix
    return lambda a, b: a in at and b in at and bool(matrix[at[a], at[b]])


def dead(network, joined):
    """Whether a switch that is told cuts the ignition."""
    told = any("spark plug" in (link.a, link.b) for link in network.links)
    return told and not joined("ignition", "spark plug")


def expected(network, state):
    joined = closure(network, state.positions)
    running = state.positions["engine"] == "running"
    found = set()
    feeding = {f for place, f in network.sources.items() if running and joined(place, INTAKE)}
    tanks = [place for place in (OWN_TANK, REMOTE_TANK) if running and joined(place, INTAKE)]
    if len(feeding) > 1:
        found.add("two_fuels")
    if running and joined(OUTSIDE, INTAKE):
        found.add("open_inlet")
    for place in network.pressed:
        if joined(place, OUTSIDE):
            found.add("escapes")
        elif not running and any(joined(place, inlet) for inlet in network.inlets):
            found.add("demand_only")
        elif not running and joined(place, INTAKE):
            found.add("gas_at_rest")
    inside = closure(Network(network.controls, tuple(
        one for one in network.links if OUTSIDE not in (one.a, one.b)), network.sources,
        network.pressed), state.positions)  # fmt: skip
    if any(inside(a, b) for a, b in itertools.combinations(network.pressed, 2)):
        found.add("gases_joined")
    if state.runs_on and state.runs_on not in feeding:
        found.add("no_fuel")
    if state.runs_on == "gasoline" and OWN_TANK in tanks and not joined(OWN_TANK, "tank air"):
        found.add("shut_vent")
    if not running and (joined(OWN_TANK, "bowl") or joined(REMOTE_TANK, "bowl")):
        found.add("needle_only")
    breathes = {place for link in network.links for place in (link.a, link.b)}
    if REMOTE_TANK in tanks and "remote tank's air" in breathes and not joined(
        REMOTE_TANK, "remote tank's air"
    ):  # fmt: skip
        found.add("remote_vent")
    selected = state.positions.get("gas_selector")
    wants = {"propane": "LP", "natural gas": "NG"}
    if selected and any(wants.get(fuel, selected) != selected for fuel in feeding):
        found.add("wrong_setting")
    return found | of_tanks(network, state, joined)


def of_tanks(network, state, joined):
    """What tanks and switches let happen by themselves."""
    running = state.positions["engine"] == "running"
    tanks = [place for place in (OWN_TANK, REMOTE_TANK) if running and joined(place, INTAKE)]
    found = {"two_tanks"} if len(tanks) > 1 else set()
    if joined(OWN_TANK, REMOTE_TANK):
        found.add("tanks_joined")
    if running and dead(network, joined):
        found.add("no_spark")
    return found


def test_a_gas_selector_is_turned_at_rest_and_never_left_on_the_other_gas():
    job = known(sites__s1__gases=GASES, wants__natural_gas=True, set__shut_off=False)
    section = states_section(Case(job), ("multi_fuel_carburetor",))
    names = {one.key: one.name for one in section.controls}
    assert names["gas_selector"] == "Gas selector"
    assert names["tank_valve"] == "Carburetor's gasoline valve"
    columns = {one.state.key: one for one in section.columns}
    assert columns["propane"].state.positions["gas_selector"] == "LP"
    assert columns["natural_gas"].state.positions["gas_selector"] == "NG"
    for gas, wrong in (("propane", "NG"), ("natural_gas", "LP")):
        slip = next(one for one in columns[gas].slips if one.control == "gas_selector")
        assert (slip.position, [one.key for one in slip.faults]) == (wrong, ["wrong_setting"])
    over = next(one for one in orders(section) if one.key == "over.propane.natural_gas")
    moves = [(one.control, one.position) for one in over.moves]
    assert moves.index(("propane_valve", "shut")) < moves.index(("gas_selector", "NG"))
    assert moves.index(("gas_selector", "NG")) < moves.index(("natural_gas_valve", "open"))


def test_no_other_method_has_a_gas_selector():
    for methods in (("spacer_adapter",), ("exchanged_carburetor",), ()):
        section = states_section(Case(known()), methods)
        assert "gas_selector" not in {one.key for one in section.controls}


@pytest.mark.parametrize("name", SYSTEMS)
def test_every_position_of_every_control_against_brute_force(name):
    job, methods = SYSTEMS[name]
    network = fuel_system(Case(job), methods).network
    every = [[(c.key, position) for position in c.positions] for c in network.controls]
    checked = 0
    # Every combination of the small systems, every seventh of the rest of the large ones.
    for number, combination in enumerate(itertools.product(*every)):
        if number % 7 and number > 600:
            continue
        for runs_on in ("", "gasoline", "propane"):
            positions = dict(combination)
            if runs_on and positions["engine"] == "stopped":
                continue
            state = State("s", "s", positions, runs_on)
            assert {fault.key for fault in faults(network, state)} == expected(network, state)
            checked += 1
    assert checked >= 8


@pytest.mark.parametrize("name", [n for n in SYSTEMS if "no shut-off" not in n])
def test_the_states_asked_for_are_safe_where_the_set_has_what_it_needs(name):
    job, methods = SYSTEMS[name]
    section = states_section(Case(job), methods)
    assert [column.state.key for column in section.columns if not column.safe] == []
    assert {"gasoline", "stopped", "stored"} <= {column.state.key for column in section.columns}


def test_what_is_missing_or_out_of_place_is_found():
    def column(name, key):
        section = states_section(Case(SYSTEMS[name][0]), SYSTEMS[name][1])
        return next(one for one in section.columns if one.state.key == key)

    def slip(of, control):
        return {f.key for s in of.slips if s.control == control for f in s.faults}

    assert {f.key for f in column("no shut-off", "propane").faults} == {"two_fuels"}
    assert "tanks_joined" in slip(column("tank, no shut-off", "remote"), "selector")
    assert slip(column("spacer", "stopped"), "propane_valve") == {"demand_only"}
    assert "open_inlet" in slip(column("spacer", "gasoline"), "cap")
    assert slip(column("spacer", "stored"), "propane_valve") == {"escapes"}
    assert "two_fuels" in slip(column("spacer", "propane"), "tank_valve")
    assert slip(column("two gases", "propane"), "lock_off") == {"no_fuel"}
    needle = column("no shut-off", "stopped").faults
    assert [(f.key, f.never) for f in needle] == [("needle_only", False)]


def test_the_owners_first_question_is_answered():
    job, methods = SYSTEMS["spacer"]
    assert as_before(Case(job), (), 0).answer == "yes"
    assert as_before(Case(job), methods, 0).answer == "yes, but"
    assert as_before(Case(known(wants__keep_gasoline=False)), methods, 0).answer == "no"
    assert as_before(Case(job), ("snorkel",), 1).answer == "not as it is"


def test_two_gases_at_once_takes_more_than_a_slip_or_two():
    """Tried against every combination of positions, not only those with few changes."""
    for name in ("two gases", "factory"):
        section = states_section(Case(SYSTEMS[name][0]), SYSTEMS[name][1])
        network = section.columns[0].network
        every = [[(c.key, position) for position in c.positions] for c in network.controls]
        bare = Network(network.controls, tuple(
            one for one in network.links if OUTSIDE not in (one.a, one.b)), network.sources,
            network.pressed)  # fmt: skip
        fewest = None
        for combination in itertools.product(*every):
            at = dict(combination)
            for cap, hoses in network.hoses_at.items():
                joined = [hose for hose in hoses if at[hose] == "joined"]
                if len(joined) > 1 or (joined and at[cap] == "on"):
                    break
            else:
                inside = closure(bare, at)
                fed = [place for place in network.pressed if inside(place, INTAKE)]
                if len(fed) < 2:
                    continue
                for column in section.columns:
                    if column.state.key in ("to_gas", "to_gasoline"):
                        continue
                    if column.state.positions["engine"] == at["engine"]:
                        far = sum(at[key] != to for key, to in column.state.positions.items())
                        fewest = far if fewest is None else min(far, fewest)
        found = both_on(section)
        assert (None if found is None else len(found.slips)) == fewest
        assert fewest is None or fewest > 2


def test_a_hose_that_is_always_on_is_one_slip_from_two_gases():
    job, methods = SYSTEMS["two gases"]
    document = job.model_dump(mode="json")
    parts = [one for one in CATALOG.parts.values() if one.kind in ("stub", "shut_off", "demand")]
    kinds = {str(one.kind): one for one in parts if one.takes(FuelKey.NATURAL_GAS)}
    document["trains"] = {"natural_gas": {"template": "two_barrel_adapter-utility", "slots": {
        key: {"part": kinds[key].key} for key in ("stub", "shut_off", "demand")}}}  # fmt: skip
    document["parts"] = {one.key: one.model_dump(mode="json") for one in kinds.values()}
    hard = type(job).model_validate(document)
    found = both_on(states_section(Case(hard), methods))
    assert found is not None
    assert len(found.slips) == 1
    assert "Shut-off at the stub open" in found.text

"""Switches and dials by their positions: what states, orders, gate and label make of them."""

import pytest

from gentle_ember.core.job.generator import RunSwitch, Switch
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.method.networks import fuel_states, safe_orders
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put, sound

OFF, ON = {"name": "OFF", "sparks": False}, {"name": "ON", "own": True}
GAS = {"name": "FUEL OFF", "becomes": "GAS"}
DIAL = {"name": "fuel dial", "positions": {"a": OFF, "b": ON, "c": GAS}}
RUN_STOP = {"name": "run switch", "positions": {"a": OFF, "b": ON}}
LEVER = {"name": "tank lever", "positions": {
    "a": {"name": "OWN", "own": True}, "b": {"name": "REMOTE", "remote": True, "short": True},
}}  # fmt: skip
FOUR = {"name": "selector", "positions": {
    "a": OFF, "b": {"name": "OWN", "own": True},
    "c": {"name": "CHOKE", "own": True, "choked": True},
    "d": {"name": "REMOTE", "remote": True, "short": True},
}}  # fmt: skip
BUTTON = {"name": "kill button", "positions": {"a": {"name": "KILL", "sparks": False},
                                               "b": {"name": "RUN"}}}  # fmt: skip


def on_set(name, *switches, shut_off: bool | None = False) -> Job:
    told = {f"w{n}": one for n, one in enumerate(switches)}
    return put(put(sound(name), "set.switches", told), "set.shut_off", shut_off)


def columns(job):
    return {one.state.key: one for one in Plan(job, CATALOG).of(fuel_states).columns}


def never(column):
    return [one.key for one in column.faults if one.never]


def order(job, key):
    return next(one for one in Plan(job, CATALOG).of(safe_orders) if one.key == key)


def test_a_dial_whose_fuel_off_becomes_gas_needs_no_valve_and_is_read_everywhere():
    job = on_set("spacer", DIAL)
    found = columns(job)
    assert {key: one.state.positions["switch_w0"] for key, one in found.items()} == {
        "gasoline": "ON", "propane": "GAS", "to_gas": "GAS", "to_gasoline": "ON",
        "stopped": "OFF", "stored": "OFF",
    }  # fmt: skip
    assert not any(never(one) for one in found.values())
    over = order(job, "over.gasoline.propane").lines
    assert over[0] == "Turn the fuel dial to GAS."
    assert over[1] == "Let it run until the bowl is dry; it runs out and stops."
    assert over.index("Open the cylinder valve, slowly.") == len(over) - 2
    # The dial is the switch: no order ends with another one.
    assert order(job, "stop.gasoline").lines == ("Turn the fuel dial to OFF; it stops.",)
    for one in Plan(job, CATALOG).of(safe_orders):
        assert not one.why_not
        assert "Switch off." not in one.lines
        assert not any("by its switch" in line for line in one.lines)


def test_a_dial_left_on_fuel_while_gas_feeds_is_a_slip_that_is_named():
    gas = columns(on_set("spacer", DIAL))["propane"]
    slips = {(one.control, one.position): {f.key for f in one.faults} for one in gas.slips}
    assert "two_fuels" in slips["switch_w0", "ON"]
    assert "no_spark" in slips["switch_w0", "OFF"]


def test_a_switch_that_stops_both_at_once_has_no_safe_order_to_gas():
    """Run or stop, the tank open with the ignition: nothing shuts gasoline while gas burns."""
    job = on_set("spacer", RUN_STOP)
    assert "two_fuels" in never(columns(job)["propane"])
    assert "can't be ordered" in order(job, "start.propane").why_not
    assert not order(job, "start.gasoline").why_not
    with_valve = on_set("spacer", RUN_STOP, shut_off=True)
    assert not never(columns(with_valve)["propane"])
    assert not order(with_valve, "start.propane").why_not


@pytest.mark.parametrize("switch", [LEVER, FOUR])
def test_a_selector_with_a_micro_switch_is_crept_to(switch):
    job = on_set("pump", switch, shut_off=True)
    found = columns(job)
    assert found["remote"].state.positions["switch_w0"] == "REMOTE"
    assert found["gasoline"].state.positions["switch_w0"] == "OWN"
    assert not any(never(one) for one in found.values())
    lines = " ".join(order(job, "over.gasoline.remote").lines)
    assert "slowly, and stop just short of its end: a switch there kills the engine" in lines
    # One thing feeds: the selector of the table stands for the train's own.
    assert "selector" not in {one.key for one in found["remote"].network.controls}


def test_a_choke_position_is_never_where_a_state_stands():
    for one in columns(on_set("pump", FOUR, shut_off=True)).values():
        assert one.state.positions["switch_w0"] != "CHOKE"


def test_a_kill_button_beside_a_dial_must_both_let_it_run():
    job = on_set("spacer", DIAL, BUTTON)
    found = columns(job)
    assert found["propane"].state.positions["switch_w1"] == "RUN"
    assert found["stopped"].state.positions["switch_w1"] == "KILL"
    slips = {(one.control, one.position) for one in found["gasoline"].slips}
    assert ("switch_w1", "KILL") in slips
    start = order(job, "start.gasoline").lines
    assert start.index("Start the engine.") == len(start) - 1
    assert "Turn the kill button to RUN." in start


@pytest.mark.parametrize(
    ("switches", "stops_by", "shuts"),
    [
        ([], RunSwitch.UNKNOWN, False),
        ([RUN_STOP], RunSwitch.IGNITION_AND_FUEL, False),
        ([DIAL], RunSwitch.IGNITION_AND_FUEL, True),
        ([LEVER], RunSwitch.FUEL, True),
        ([BUTTON], RunSwitch.IGNITION, False),
        ([LEVER, BUTTON], RunSwitch.IGNITION_AND_FUEL, True),
    ],
)
def test_what_stops_it_and_what_shuts_the_tank_follow_from_the_table(switches, stops_by, shuts):
    job = put(on_set("spacer", *switches), "set.run_switch", "unknown")
    assert job.set.stops_by is stops_by
    assert job.set.own_shut is shuts


def test_the_run_switch_said_to_cut_fuel_only_is_overruled_by_the_table():
    job = put(on_set("spacer", DIAL), "set.run_switch", "fuel")
    keys = {one.key for one in Plan(job, CATALOG).of(cautions)}
    assert "switch.gas" not in keys
    bare = put(put(job, "set.switches", {}), "set.run_switch", "fuel")
    assert "switch.gas" in {one.key for one in Plan(bare, CATALOG).of(cautions)}


def test_the_sheet_labels_what_means_another_thing_now():
    def titles(job):
        sheet = Plan(job, CATALOG).of(fit_sheet)
        return [one.step.what for one in sheet.steps]

    assert "Label the fuel dial: FUEL OFF becomes GAS." in titles(on_set("spacer", DIAL))
    assert not any("Label the" in one for one in titles(on_set("spacer", RUN_STOP)))


@pytest.mark.parametrize(
    ("switch", "key"),
    [
        ({"name": "dial", "positions": {}}, "switch.w0"),
        ({"name": "dial", "positions": {"a": ON, "b": {**ON, "name": "TOO"}}}, "switch.w0"),
        ({"name": "dial", "positions": {"a": OFF, "b": {"own": True}}}, "switch.w0.names"),
        ({"name": "dial", "positions": {"a": OFF, "b": {**ON, "name": "OFF"}}}, "switch.w0.names"),
    ],
)
def test_a_switch_half_told_is_said_and_counts_for_no_more_than_it_says(switch, key):
    job = on_set("spacer", switch, shut_off=True)
    assert key in {one.key for one in Plan(job, CATALOG).of(cautions)}
    # Two positions of one name are still two: nothing is lost of the orders.
    assert all(not one.why_not for one in Plan(job, CATALOG).of(safe_orders))


def test_sides_are_told_by_differing_positions_only():
    assert not Switch.model_validate({"positions": {"a": ON, "b": ON}}).cuts_ignition
    assert Switch.model_validate({"positions": {"a": OFF, "b": ON}}).shuts_own
    assert not Switch.model_validate({"positions": {"a": OFF, "b": ON}}).shuts_remote

"""Ways of working: each is offered where it fits, and everything downstream follows it."""

import pytest

from gentle_ember.core.job.first_start import Attempt
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuel_states import ENGINE, RUNNING, STOPPED
from gentle_ember.core.physics.sequences import dangers
from gentle_ember.core.route import cautions, contradictions, copied, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.gate import choke_stays_open
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.hand_over.record import record
from gentle_ember.core.stages.method.networks import fuel_states, safe_orders
from gentle_ember.core.stages.method.ways import DISPUTES, taken, ways
from gentle_ember.core.stages.prove_tight.proof import how_items, tightness
from tests.helpers.fits import CASES, fitted
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put

CONVERTED = [name for name, case in CASES.items() if case[2]]


def going_by(case: str, **chosen: str) -> Job:
    job = fitted(*CASES[case])
    for key, way in chosen.items():
        job = put(job, f"ways.{key}", way)
    return job


def offered(job: Job, key: str) -> dict[str, str]:
    """Each way of a dispute with why it does not fit; empty where the dispute does not come up."""
    found = next((one for one in Plan(job, CATALOG).of(ways) if one.dispute.key == key), None)
    return {option.key: against for option, against in found.options} if found else {}


def order(job: Job, key: str):
    return next(one for one in Plan(job, CATALOG).of(safe_orders) if one.key == key)


def refused(before: Job, now: Job) -> list[str]:
    return [one.text for one in refusals(before, Plan(now, CATALOG)) if one.path[:5] == "ways."]


@pytest.mark.parametrize("case", CONVERTED)
def test_the_default_fits_and_what_does_not_fit_is_refused_at_its_field(case):
    job = fitted(*CASES[case])
    assert contradictions(job) == ()
    for one in Plan(job, CATALOG).of(ways):
        assert one.taken == one.default
        for option, against in one.options:
            path = f"ways.{one.dispute.key}"
            told = refused(job, put(job, path, option.key))
            assert bool(told) is bool(against), (path, option.key)
            assert all(against in text for text in told)


def test_a_way_that_fits_no_longer_is_a_stop_and_keeps_no_other_fact_from_being_told():
    job = going_by("gravity", own_vent="close")
    told = put(job, "set.tank_vent", "cap_open")
    assert contradictions(told) == ()
    assert refused(job, told) == []
    stops = {one.key: one for one in Plan(told, CATALOG).of(cautions)}
    assert stops["ways.own_vent"].severity == "stop"
    settled = put(told, "ways.own_vent", "leave")
    assert refused(told, settled) == []
    assert "ways.own_vent" not in {one.key for one in Plan(settled, CATALOG).of(cautions)}


def test_every_dispute_comes_up_somewhere_and_says_what_follows():
    seen = {
        one.dispute.key
        for case in CONVERTED
        for one in Plan(fitted(*CASES[case]), CATALOG).of(ways)
    }
    assert seen == {one.key for one in DISPUTES}
    assert all(option.follows.endswith(".") for one in DISPUTES for option in one.options)


@pytest.mark.parametrize("case", CONVERTED)
def test_no_way_leads_through_a_danger(case):
    job = fitted(*CASES[case])
    for one in Plan(job, CATALOG).of(ways):
        for option, against in one.options:
            if against:
                continue
            planned = Plan(put(job, f"ways.{one.dispute.key}", option.key), CATALOG)
            network = planned.of(fuel_states).columns[0].network
            for found in planned.of(safe_orders):
                assert not any(dangers(network, at) for at in found.between), (option.key, found)


def test_switch_first_stops_it_by_its_switch_and_shuts_the_source_next():
    by_source = order(going_by("spacer"), "stop.propane")
    by_switch = order(going_by("spacer", stopping="switch"), "stop.propane")
    assert by_source.moves[0].control == "propane_valve"
    assert by_switch.moves[0].control == ENGINE
    assert by_switch.between[0][ENGINE] == STOPPED
    assert by_switch.moves[1].control == "propane_valve"
    assert by_switch.between[-1] == by_source.between[-1]


def test_the_bowl_is_emptied_the_way_it_was_settled():
    dry = order(going_by("spacer"), "over.gasoline.propane")
    assert any("run" in one.text and "dry" in one.text for one in dry.moves)
    drained = order(going_by("spacer", bowl="drained"), "over.gasoline.propane")
    at = next(n for n, one in enumerate(drained.moves) if "Drain the bowl" in one.text)
    assert drained.between[at][ENGINE] == STOPPED
    flying = order(going_by("spacer", bowl="on_the_fly"), "over.gasoline.propane")
    # The hose goes on at rest, for an open inlet draws air; from there it never stops.
    assert [one[ENGINE] for one in flying.between[-2:]] == [RUNNING, RUNNING]
    assert flying.moves[-1].text == "As it begins to stumble, open the cylinder valve, slowly."
    # Its own tank is shut before the gas is opened, whatever the way.
    shut = next(n for n, one in enumerate(flying.moves) if one.control == "tank_valve")
    assert shut < len(flying.moves) - 1


def test_without_a_way_to_shut_the_own_tank_no_bowl_is_emptied():
    against = offered(put(fitted(*CASES["spacer"]), "set.shut_off", value=False), "bowl")
    assert all("own tank" in why for why in against.values())


def test_the_choke_stands_at_the_gate_in_the_advice_and_on_the_card():
    def look(job):
        (one,) = [one for one in Plan(job, CATALOG).of(first_starts) if one.trained]
        return next(look.text for look, _ in one.looks if look.key == "choke")

    def card(job):
        blocks = Plan(job, CATALOG).of(cards).cards
        gas = next(one for one in blocks if one.fuel == "propane")
        return gas.blocks[0].lines[-1]

    never, cold = going_by("spacer"), going_by("spacer", choke="cold")
    assert look(never) == "Choke open."
    assert "first two pulls" in look(cold)
    assert card(never) == "Choke open: never shut it on gas."
    assert card(cold).startswith("Cold: choke half shut")
    assert choke_stays_open(never)
    assert not choke_stays_open(cold)
    assert choke_stays_open(cold, pulls=3)
    half = Attempt(choke="half", result="nothing", presses=1, seconds=1).model_dump(mode="json")

    def told(job, tries):
        job = put(job, "starts.propane.attempts", {f"a{n}": half for n in range(tries)})
        (one,) = [one for one in Plan(job, CATALOG).of(first_starts) if one.trained]
        return one.advice.check

    assert "Open the choke" in told(never, 1)
    assert "Open the choke" not in told(cold, 2)
    assert "Open the choke" in told(cold, 3)
    assert offered(fitted(*CASES["snorkel"]), "choke")["cold"]
    assert not offered(fitted(*CASES["multi"]), "choke")["as_before"]
    assert offered(never, "choke")["as_before"]


def test_gaskets_once_more_are_on_the_sheet_and_off_the_bill():
    def gaskets(job):
        lines = Plan(job, CATALOG).of(parts_list).lines
        return sum(one.count for one in lines if one.part.kind == "gasket")

    def plate(job):
        steps = Plan(job, CATALOG).of(fit_sheet).steps
        return next(one.step for one in steps if one.step.key == "plate")

    new, old = going_by("spacer"), going_by("spacer", gaskets="as_lay")
    assert gaskets(old) == gaskets(new) - 1
    assert "with the side to the engine" in plate(old).good
    # A step ticked with new ones is another step than one with the old.
    assert plate(old).subject != plate(new).subject


def test_a_leak_test_by_both_is_not_settled_by_one():
    def asked(job, by):
        job = put(job, "proof.how", {"propane": {"by": by}})
        found = how_items(Plan(job, CATALOG).of(tightness), taken(job, "leaks"))
        return {one.key for one in found}

    both = going_by("spacer", leaks="both")
    at = "proof.how.propane.by"
    assert at in asked(both, "leak_fluid")
    assert at not in asked(both, "both")
    assert at not in asked(going_by("spacer"), "leak_fluid")
    assert "proof.how.propane.detector" in asked(both, "both")
    assert offered(put(put(both, "wants.biogas", value=True), "ways", {}), "leaks")["detector"]


@pytest.mark.parametrize(("way", "says"), [
    ("close", "own tank's closed"), ("leave", "left as it is"), ("crack", "cracked until"),
])  # fmt: skip
def test_the_own_tanks_vent_is_the_one_settled_on_everywhere(way, says):
    job = put(fitted(*CASES["gravity"]), "set.tank_vent", "cap_lever")
    job = put(job, "ways.own_vent", way)
    planned = Plan(job, CATALOG)
    steps = {one.step.key: one.step for one in planned.of(fit_sheet).steps}
    assert says in steps["vents"].what
    state = next(one.state for one in planned.of(fuel_states).columns if one.state.key == "remote")
    assert state.positions["vent"] == ("open" if way == "leave" else "shut")
    assert (state.positions.get("own_cap") == "cracked") is (way == "crack")
    gate = {look.key: look.text for one in planned.of(first_starts) for look, _ in one.looks}
    assert {"close": "shut", "leave": "left as it is", "crack": "cracked"}[way] in gate["own_vent"]


def test_a_cap_without_a_lever_is_left_as_it_is():
    job = put(fitted(*CASES["gravity"]), "set.tank_vent", "cap_open")
    assert taken(job, "own_vent") == "leave"
    assert offered(job, "own_vent")["close"]


def test_what_was_settled_stands_in_the_record_and_in_no_copy():
    job = put(going_by("spacer", choke="cold"), "ways.by", "Runa Kestle")
    rows = [row for one in Plan(job, CATALOG).of(record) for row in one.rows]
    (row,) = [row for row in rows if row.label == "choke on gas"]
    assert row.text == "half shut for the first two pulls, only cold"
    assert row.by == "Runa Kestle"
    assert copied(job).ways.choke == ""

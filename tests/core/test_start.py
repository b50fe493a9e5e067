"""The first start: what the gate asks by method and set, and what is checked when it won't."""

import pytest

from gentle_ember.core.job.first_start import Attempt
from gentle_ember.core.route import cautions, holds_signing, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.advice import advice
from gentle_ember.core.stages.first_start.starts import first_starts, start_cautions, start_items
from tests.helpers.fits import CASES, GRAVITY, MULTI, PUMP, SPACER, TWIN, fitted
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, signed, sound


def trained(planned):
    """The first start of the one fuel that has a train."""
    (one,) = [one for one in planned.of(first_starts) if one.trained]
    return one


def keys(case, **more):
    one = trained(Plan(fitted(*case, **more), CATALOG))
    return {look.key: look for look, _ in one.looks}


@pytest.mark.parametrize("name", [name for name, case in CASES.items() if case[2]])
def test_every_fuel_has_a_gate_and_a_proof_that_says_why(name):
    found = keys(CASES[name])
    assert {"outdoors", "oil", "boot", "switch", "cleaner"} <= set(found)
    assert {look.when for look in found.values()} == {"before", "after"}
    assert all(look.text.endswith(".") and look.why.endswith((".", "?")) for look in found.values())
    gas = name not in ("gravity", "pump")
    assert ("proof" in found) is gas
    assert ("own_level" in found) is not gas


def test_particulars_stand_only_where_they_apply():
    assert keys(SPACER)["choke"].text == "Choke open."
    assert keys(MULTI)["choke"].text == "Choke as the maker of this carburetor says for gas."
    assert "lock_off" in keys(TWIN)
    assert "lock_off" not in keys(SPACER)
    assert "eco" not in keys(SPACER)
    assert "eco" in keys(GRAVITY)
    assert {"arrow", "bulb"} <= set(keys(PUMP))
    assert "cylinder" in keys(SPACER)
    assert "line" in keys(TWIN)
    assert "gasoline_off" in keys(SPACER, set__brand_new=True)
    assert "bowl" not in keys(SPACER, set__brand_new=True)
    assert "shut_off" in keys(SPACER, set__shut_off=False)
    assert "screw" not in keys(MULTI)


def tried(*made: dict, choke_open: bool = True):
    return advice([Attempt(**one) for one in made], choke_open=choke_open)


def test_a_shut_choke_comes_first_where_the_choke_stays_open():
    assert "Open the choke" in tried({"choke": "shut", "presses": 9, "seconds": 5}).check
    assert "Open the choke" not in tried({"choke": "shut", "presses": 1, "seconds": 2},
                                         choke_open=False).check  # fmt: skip


def test_too_much_primer_is_waited_out_for_half_an_hour():
    found = tried(
        {"presses": 2, "seconds": 3, "hiss": "heard"},
        {"presses": 2, "seconds": 4, "hiss": "heard", "on": "2026-11-25T10:00:00.250Z"},
    )
    assert "Over-primed" in found.check
    assert found.wait_until == "2026-11-25T10:30:00Z"
    runs = {"presses": 2, "seconds": 4, "hiss": "heard", "result": "runs"}
    after = tried(runs, {"presses": 1, "seconds": 2, "hiss": "heard", "result": "coughs"})
    assert "Over-primed" not in after.check


def test_each_way_of_not_starting_has_its_next_check():
    heard = {"presses": 1, "seconds": 2, "hiss": "heard"}
    assert tried() is None
    assert tried({**heard, "result": "runs"}) is None
    assert "no switch" in tried({**heard, "result": "smells"}).check
    assert "open it slowly" in tried({"presses": 1, "seconds": 2, "hiss": "not_heard"}).check
    assert "quarter turn" in tried({**heard, "result": "dies"}).check
    assert "Prime it" in tried({"result": "nothing"}).check
    assert "Once more" in tried(heard).check
    spark = tried(heard, heard, heard)
    assert spark.check.startswith("Spark: shut the source")
    assert "away from its open hole" in spark.check
    gasoline = advice([Attempt(result="dies")], choke_open=False, gas=False)
    assert "Vent" in gasoline.check


def test_gasoline_that_holds_less_since_the_work_is_a_figure_and_a_caution():
    job = fitted(*SPACER)
    kept = {"load_before": fact(3000.0), "load_after": fact(2750.0), "change_over": fact(40.0)}
    with_figures = type(job).model_validate(
        {**job.model_dump(mode="json"), "starts": {"propane": kept}}
    )
    planned = Plan(with_figures, CATALOG)
    one = trained(planned)
    assert one.lost.value == pytest.approx(-0.0833, abs=1e-3)
    assert any("8 % less than before the work" in c.text for c in planned.of(cautions))
    assert trained(Plan(job, CATALOG)).lost is None


@pytest.mark.parametrize(("plate", "hz", "severity"), [
    (60.0, 61.8, None), (60.0, 60.8, None), (60.0, 62.7, None), (60.0, 60.0, "caution"),
    (60.0, 63.5, "caution"), (60.0, 64.7, "caution"), (60.0, 65.0, "stop"), (50.0, 51.5, None),
    (50.0, 54.1, "stop"), (None, 61.8, None), (None, 58.0, "caution"),
])  # fmt: skip
def test_the_governor_is_looked_at_without_load_on_each_gas(plate, hz, severity):
    job = put(sound("spacer"), "set.hertz", None if plate is None else fact(plate))
    read = put(job, "starts.propane.no_load", fact(hz))
    path = "starts.propane.no_load"
    told = {one.key: one for one in Plan(read, CATALOG).of(cautions)}
    assert (path in told) is (severity is not None)
    if severity is None:
        return
    assert told[path].severity == severity
    assert told[path].fuel == "propane"
    held = [one.text for one in Plan(signed(read, but="load_test"), CATALOG).of(holds_signing)[
        "load_test"]]  # fmt: skip
    assert any("without load" in text for text in held) is (severity == "stop")


def test_the_governors_range_is_in_the_look_and_an_inverter_has_none():
    assert "61 to 62.5 Hz" in keys(SPACER)["governor"].text
    assert "51 to 52.1 Hz" in keys(SPACER, set__hertz=fact(50.0))["governor"].text
    assert "governor" not in keys(SPACER, set__set_class="inverter")


def test_no_reading_without_load_before_it_may_run():
    job = put(sound("spacer"), "fit.smelled.g1", {"by": "RK"})
    after = put(job, "starts.propane.no_load", fact(61.5))
    found = [one.text for one in refusals(job, Plan(after, CATALOG))]
    assert found
    assert all(text.startswith("No reading on propane") for text in found)


def own_gasoline(job):
    """Gasoline's start from the set's own tank; None where it has none."""
    found = Plan(job, CATALOG).of(first_starts)
    return next((one for one in found if one.own_tank), None)


@pytest.mark.parametrize(("case", "holds"), [("spacer", False), ("rejet", True)])
def test_gasoline_is_logged_on_every_job_and_waited_for_where_its_jet_changed(case, holds):
    job = fitted(*CASES[case])
    one = own_gasoline(job)
    assert one.holds is holds
    looked = {look.key for look, _ in one.looks}
    assert {"bowl_filled", "no_drip", "warm_dry", "takes_load", "stop_switch"} <= looked
    assert ("panel_off" in looked) is (case == "rejet")
    open_ = {item.path for item in start_items(Plan(job, CATALOG).of(first_starts))}
    assert ("starts.gasoline" in open_) is holds
    assert own_gasoline(put(job, "wants.keep_gasoline", value=False)) is None or holds
    assert own_gasoline(fitted(*GRAVITY)) is None


def test_gasoline_is_not_pulled_before_the_bowl_was_waited_for():
    before = fitted(*CASES["rejet"])
    tried_ = put(before, "starts.gasoline.attempts", {"a1": {"result": "runs", "by": "Runa"}})
    texts = [one.text for one in refusals(before, Plan(tried_, CATALOG))]
    assert any("start gate open" in text for text in texts)
    gate = {
        look.key: {"state": "good", "by": "Runa"}
        for look, _ in own_gasoline(before).looks
        if look.when == "before"
    }
    looked = put(before, "starts.gasoline.looked", gate)
    tried_ = put(looked, "starts.gasoline.attempts", {"a1": {"result": "runs", "by": "Runa"}})
    assert not any("start gate" in one.text for one in refusals(looked, Plan(tried_, CATALOG)))


@pytest.mark.parametrize(("right", "asks"), [(2.0, False), (2.4, False), (2.6, True), (1.5, True)])
def test_screws_of_two_barrels_set_far_apart_are_asked_about(right: float, asks: bool) -> None:
    job = put(fitted(*TWIN), "metering", {
        "s1-natural_gas": {"left": fact(2.0), "right": fact(right)}})  # fmt: skip
    said = [one for one in start_cautions(job, ()) if one.key == "metering.s1-natural_gas.right"]
    assert bool(said) is asks
    assert all("natural gas" in one.text for one in said)

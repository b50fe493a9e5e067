"""Whatever a technician may enter: no valid job breaks the plan, and the rules hold on all."""

import re

import pytest

from gentle_ember.catalog import load
from gentle_ember.core.estimates.measured import lessons_taught, output_here
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, contradictions, open_items, route
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import gas_metering
from gentle_ember.core.stages.load_test.tests import load_tests_here
from gentle_ember.core.stages.method.base import NAMES, Verdict, verdict_of
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.registry import SCHOOLS, clashes
from gentle_ember.web.views import first_start as first_start_view
from gentle_ember.web.views import fit as fit_view
from gentle_ember.web.views import hand_over as hand_over_view
from gentle_ember.web.views import intake as intake_view
from gentle_ember.web.views import job as job_view
from gentle_ember.web.views import ledger as ledger_view
from gentle_ember.web.views import load_test as load_test_view
from gentle_ember.web.views import method as method_view
from gentle_ember.web.views import prove_tight as prove_tight_view
from tests.helpers.facts import variants
from tests.helpers.fits import SPACER, fitted
from tests.helpers.jobs import fact, known, paths

CATALOG = load()
BIOGAS = {"g1": {"kind": "biogas", "pressure": fact(600.0), "methane": fact(0.58)}}
MOUNT = {
    "part": "pv-d-101", "wide": fact(0.4), "high": fact(0.3), "room": fact(0.05),
    "layers": {"l1": {"material": "steel", "thickness": fact(1.5e-3)}},
    "obstacles": {"o1": {"kind": "tank", "left": fact(0.0), "up": fact(0.0), "wide": fact(0.2),
                         "high": fact(0.2), "away": fact(0.01)}},
}  # fmt: skip


def proven() -> Job:
    """A job proven, started, swept and loaded: gas by its screw, gasoline by its jet."""
    sweep = {
        f"r{n}": {"turns": fact(turns), "output": fact(watts), "lam": fact(1.2 - 0.05 * n)}
        for n, (turns, watts) in enumerate(
            ((1.0, 2300.0), (1.3, 2800.0), (1.6, 2950.0), (2.0, 2940.0), (2.6, 2700.0))
        )
    }
    reading = {
        "output": fact(2900.0), "volts_a": fact(119.0), "amps_a": fact(24.4), "hertz": fact(60.2),
        "throttle": fact(0.92), "lam": fact(0.93), "exhaust": fact(820.0), "co": fact(0.03),
        "air_co": fact(4e-6), "smell": "none",
    }  # fmt: skip
    loaded = {
        "turns": fact(1.8), "outside": fact(290.0), "held": fact(3000.0), "opened": "yes",
        "readings": {f"m{n}": {**reading, "after": fact(400.0 * n)} for n in range(4)},
        "plug": {"before": "new", "after": "gray"}, "decided": {"what": "keep"},
    }  # fmt: skip
    jetted = {**loaded, "turns": None, "jet": fact(88.0)}
    tight = {
        "volume": fact(8e-4), "before": fact(2739.0), "after": fact(2700.0), "seconds": fact(600.0),
        "before_k": fact(290.0), "after_k": fact(290.2), "barometer": fact(10.0),
    }  # fmt: skip
    job = fitted(
        *SPACER, set__carburetor={"jets": {"stamped": {"number": fact(90.0)}, "step": fact(2.5)}}
    )
    return Job.model_validate(
        {
            **job.model_dump(mode="json"),
            "proof": {
                "soaped": {"a": {"joint": "source", "found": "foam"}},
                "zones": {"propane-low": tight},
                "lock_up": {"propane": {"state": "still"}},
            },
            "starts": {
                "propane": {
                    "looked": {"oil": {"state": "good"}},
                    "attempts": {"a1": {"presses": 2, "seconds": 3, "result": "coughs"}},
                    "load_before": fact(3100.0), "load_after": fact(3000.0),
                }
            },
            "metering": {
                "s1-propane": {
                    "readings": sweep, "locked": fact(1.8), "preset": fact(1.5), "most": fact(6.0),
                    "checks": {"no_load": {"state": "good", "at": 1.8}},
                }
            },
            "load_tests": {
                "s1-propane": {
                    "runs": {"t1": loaded},
                    "loads": {"l1": {"name": "urn", "watts": fact(1800.0)}},
                },
                "s1-gasoline": {"runs": {"t1": jetted}},
            },
        }
    )  # fmt: skip


JOBS = {
    "bare": Job(title="bare"),
    "known": known(),
    "chosen": known(
        choice={"methods": ("spacer_adapter", "remote_tank_gravity", "rejet"), "by": "RK"},
        sites__s1__gases=BIOGAS,
        wants__biogas=True,
        wants__remote_tank=True,
        marks={"m1": MOUNT},
        fit={
            "steps": {"gear": {"state": "done", "of": "x"}, "gone": {"state": "done"}},
            "finds": {"f1": {"what": "a crack"}},
            "added": {"a1": {"what": "look twice", "after": "gear"}},
            "fasteners": {"cover": {"count": 4}},
        },
    ),
    "factory": known(
        set__set_class="dual_fuel",
        set__carburetor__type="multi_fuel",
        sites__s1__gases={"g1": {"kind": "natural_gas", "pressure": fact(1744.0)}},
        wants__natural_gas=True,
        choice={"methods": ("second_gas",)},
    ),
}


def whole(job: Job) -> Plan:
    """Everything the page could ask of a job, worked out and rendered."""
    planned = Plan(job, CATALOG)
    ledger_view.ledger(planned)
    for view in (intake_view.walk, intake_view.inspection, method_view.methods):
        view(planned)
    method_view.states(planned)
    intake_view.motors(planned)
    job_view.ready(planned)
    method_view.chosen(planned)
    fit_view.fit(planned, {})
    fit_view.marks(planned)
    assert planned.of(route)
    return planned


def after_fitting(job: Job) -> Plan:
    """What the pages from the leak test to the load test ask of a job, worked out and rendered."""
    planned = Plan(job, CATALOG)
    ledger_view.ledger(planned)
    prove_tight_view.proofs(planned)
    first_start_view.starts(planned)
    first_start_view.metering(planned)
    load_test_view.load_tests(planned)
    load_test_view.jets(planned)
    load_test_view.joint(planned)
    hand_over_view.moving(planned)
    assert all(one.measured > 0 and one.estimate > 0 for one in planned.of(lessons_taught))
    assert planned.of(route)
    return planned


@pytest.mark.parametrize("name", JOBS)
def test_no_valid_job_breaks_the_plan_and_the_rules_hold(name):
    job = JOBS[name]
    tried = 0
    for path in paths(Job, job):
        for other in list(variants(job, path))[:4]:
            if contradictions(other):
                continue
            planned = whole(other)
            tried += 1
            methods = planned.of(judged_methods)
            assert clashes(methods.recommended) == [], path
            assert set(methods.recommended) <= set(SCHOOLS), path
            for one in methods.judged:
                assert one.verdict is verdict_of(one.reasons), path
                assert one.verdict in NAMES
                assert all(reason.text.endswith((".", "?")) for reason in one.reasons), path
                assert one.verdict is Verdict.FITS or one.reasons, path
            for caution in planned.of(cautions):
                assert not caution.text[0].islower(), path
                assert caution.severity == "standing" or caution.path, (path, caution.key)
            keys = [item.key for item in planned.of(open_items)]
            assert len(keys) == len(set(keys)), path
            if planned.of(output_here):
                for entry in planned.of(output_here).fuels:
                    band = entry.running.band
                    assert 0 <= band.low <= entry.running.value <= band.high, path
    assert tried > 100


PROVING = ("proof.", "starts.", "metering.", "load_tests.", "set.carburetor.", "sites.s1.coldest")


@pytest.mark.parametrize("part", PROVING)
def test_nothing_typed_while_proving_and_loading_breaks_the_plan(part):
    job = proven()
    tried = 0
    for path in paths(Job, job):
        # The readings between the first and the last are of the same make.
        if not path.startswith(part) or re.search(r"\.(m1|m2|r1|r2|r3)\.", path):
            continue
        for other in list(variants(job, path))[:3]:
            if contradictions(other):
                continue
            planned = after_fitting(other)
            tried += 1
            for one in planned.of(load_tests_here):
                for run in one.runs:
                    assert 0 <= run.seconds <= run.span_s + 1e-9, path
                    if run.settled:
                        assert run.counts, path
                        assert not run.simulated, path
                        assert not run.advice.stop, path
                        assert run.advice.what == "keep" or run.record.decided.reason, path
            for gas in planned.of(gas_metering):
                setting = gas.setting
                if setting is not None:
                    assert gas.lean.value <= setting.value <= gas.rich.value, path
    assert tried >= 3

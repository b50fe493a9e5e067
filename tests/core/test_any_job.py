"""Whatever a technician may enter: no valid job breaks the plan, and the rules hold on all."""

from typing import Any, get_args, get_origin

import pytest
from pydantic import BaseModel

from gentle_ember.catalog import load
from gentle_ember.core.contradictions import contradictions
from gentle_ember.core.facts import Fact
from gentle_ember.core.job import Job
from gentle_ember.core.method.base import NAMES, Verdict, verdict_of
from gentle_ember.core.method.registry import SCHOOLS, clashes
from gentle_ember.core.plan import Plan
from gentle_ember.web import present, present_fit, present_method
from tests.core.facts_of_jobs import variants
from tests.core.test_job import fact
from tests.core.test_method import known

CATALOG = load()
BIOGAS = {"g1": {"kind": "biogas", "pressure": fact(600.0), "methane": fact(0.58)}}
MOUNT = {
    "part": "pv-d-101", "wide": fact(0.4), "high": fact(0.3), "room": fact(0.05),
    "layers": {"l1": {"material": "steel", "thickness": fact(1.5e-3)}},
    "obstacles": {"o1": {"kind": "tank", "left": fact(0.0), "up": fact(0.0), "wide": fact(0.2),
                         "high": fact(0.2), "away": fact(0.01)}},
}  # fmt: skip
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


def paths(model: type[BaseModel], job: Any, prefix: str = "") -> list[str]:
    """Every place of a job a person can change, its dictionaries' entries among them."""
    found: list[str] = []
    for name, info in model.model_fields.items():
        here, value, kind = f"{prefix}{name}", getattr(job, name), info.annotation
        if get_origin(kind) is dict:
            inner = get_args(kind)[1]
            for key, one in value.items():
                found += paths(inner, one, f"{here}.{key}.")
        elif isinstance(kind, type) and issubclass(kind, BaseModel) and kind is not Fact:
            found += paths(kind, value, f"{here}.")
        else:
            found.append(here)
    return found


def whole(job: Job) -> Plan:
    """Everything the page could ask of a job, worked out and rendered."""
    planned = Plan(job, CATALOG)
    present.ledger(planned)
    for view in (present_method.walk, present_method.inspection, present_method.methods):
        view(planned)
    present_method.states(planned.states)
    present_method.ready(planned)
    present_method.chosen(planned)
    present_fit.fit(planned, {})
    present_fit.marks(planned)
    assert planned.route
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
            methods = planned.methods
            assert clashes(methods.recommended) == [], path
            assert set(methods.recommended) <= set(SCHOOLS), path
            for one in methods.judged:
                assert one.verdict is verdict_of(one.reasons), path
                assert one.verdict in NAMES
                assert all(reason.text.endswith((".", "?")) for reason in one.reasons), path
                assert one.verdict is Verdict.FITS or one.reasons, path
            for caution in planned.cautions:
                assert not caution.text[0].islower(), path
                assert caution.severity == "standing" or caution.path, (path, caution.key)
            keys = [item.key for item in planned.readiness]
            assert len(keys) == len(set(keys)), path
            if planned.output:
                for entry in planned.output.fuels:
                    band = entry.running.band
                    assert 0 <= band.low <= entry.running.value <= band.high, path
    assert tried > 100

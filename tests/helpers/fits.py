"""Jobs with a method chosen and a train built, and their fit sheets."""

from typing import Any

from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import Sheet, fit_sheet, joint_key
from gentle_ember.core.stages.fit.step import Step
from tests.helpers.sets import CATALOG, fact, job_of
from tests.helpers.trains import built

MEASURED: dict[str, Any] = {
    "pitch": fact(1e-3), "stick_out": fact(30e-3), "nut_height": fact(5e-3),
    "thread_depth": fact(14e-3), "metal": "aluminum",
}  # fmt: skip


def fitted(size: str, methods: list[str], trains: dict[str, str], **more: Any) -> Job:
    """A job with methods chosen and trains built; `set__…` sets facts of the set, `fit` its fit."""
    plain = {name: more.pop(name) for name in list(more) if name.startswith("set__")}
    fit, marks = more.pop("fit", {}), more.pop("marks", {})
    job = job_of(size, **more)
    document = job.model_dump(mode="json")
    document["choice"]["methods"] = methods
    document["fit"], document["marks"] = fit, marks
    made = {fuel: built(job, template) for fuel, template in trains.items()}
    document["trains"] = {fuel: train.model_dump(mode="json") for fuel, train in made.items()}
    document["parts"] = {
        slot.part: CATALOG.parts[slot.part].model_dump(mode="json")
        for train in made.values()
        for slot in train.slots.values()
    }
    for path, value in plain.items():
        here = document
        *parents, last = path.split("__")
        for key in parents:
            here = here[key]
        if isinstance(value, dict) and isinstance(here.get(last), dict):
            here[last] = {**here[last], **value}
        else:
            here[last] = value
    return Job.model_validate(document)


def sheet(job: Job) -> Sheet:
    return Plan(job, CATALOG).of(fit_sheet)


def steps(job: Job) -> dict[str, Step]:
    return {one.step.key: one.step for one in sheet(job).steps}


SPACER = ("frame", ["spacer_adapter"], {"propane": "spacer_adapter-cylinder"})
TWIN = ("twin", ["two_barrel_adapter"], {"natural_gas": "two_barrel_adapter-utility"})
MULTI = ("frame", ["multi_fuel_carburetor"], {"propane": "multi_fuel_carburetor-cylinder"})
GRAVITY = ("small", ["remote_tank_gravity"], {"gasoline": "remote_tank_gravity"})
PUMP = ("small", ["remote_tank_pump"], {"gasoline": "remote_tank_pump"})
SECOND = ("dual", ["second_gas"], {"natural_gas": "second_gas-utility"})
EXCHANGED = ("frame", ["exchanged_carburetor"], {"propane": "exchanged_carburetor-cylinder"})
SNORKEL = ("frame", ["snorkel"], {"propane": "snorkel-cylinder"})
CASES: dict[str, tuple[Any, ...]] = {
    "spacer": SPACER, "twin": TWIN, "multi": MULTI, "gravity": GRAVITY, "pump": PUMP,
    "second": SECOND, "exchanged": EXCHANGED, "snorkel": SNORKEL,
    "rejet": ("small", ["rejet"], {}),
}  # fmt: skip


def records(job: Job, *, up_to: str = "", on: str = "2026-11-25T10:00:00Z") -> dict[str, Any]:
    found = {}
    for one in sheet(job).steps:
        if one.step.key == up_to:
            break
        found[one.step.key] = {
            "state": "done", "by": "RK", "on": on, "seconds": 120, "of": one.step.subject,
            "what": one.step.what[:200],
        }  # fmt: skip
    return found


def with_(job: Job, **parts: dict) -> Job:
    document = job.model_dump(mode="json")
    for name, value in parts.items():
        document[name] = {**document[name], **value}
    return Job.model_validate(document)


def soaped(job: Job) -> Job:
    """Everything fitted and looked at, every joint passed."""
    seen = job.model_dump(mode="json")["trains"]
    for train in seen.values():
        for slot in train["slots"].values():
            slot |= {"upright": True, "capped": True}
    closed = {"steps": records(job), "gaskets": "new", "nuts": "full"}
    permit = {"done": True, "by": "PM", "number": "PM-118, permit 26-0417"}
    heard = {"fitter": permit, "utility": permit}
    made = with_(job, fit=closed, trains=seen, confirmed=heard)
    passes = {
        joint_key(one.joint.key): {"passed": True, "of": one.subject, "by": "RK"}
        for one in Plan(made, CATALOG).of(fit_sheet).joints
    }
    looks = {
        f"s{number}": {"joint": one.joint.key, "found": "holds"}
        for number, one in enumerate(Plan(made, CATALOG).of(fit_sheet).joints)
    }
    return with_(made, fit={"tight": passes}, proof={"soaped": looks})


def locked(job: Job, state: str = "still") -> Job:
    fuel = next(iter(job.trains))
    return with_(job, proof={"lock_up": {fuel: {"state": state, "by": "RK"}}})

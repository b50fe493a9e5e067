"""Plain jobs as tests begin with them; keyword names are paths with __ for dots."""

from __future__ import annotations

from typing import Any, get_args, get_origin

from pydantic import BaseModel

from gentle_ember.core.job.change import Change, apply
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job


def fact(value):
    return {"value": value, "origin": "owner"}


def job(**changes):
    """A plain job; keyword names are paths with __ for dots."""
    document = Job(title="a set").model_dump(mode="json")
    wanted = [Change(path.replace("__", "."), value) for path, value in changes.items()]
    return Job.model_validate(apply(document, wanted)[0])


def whole(**changes):
    known = {
        "set__running": fact(3000.0),
        "set__starting": fact(3600.0),
        "set__tank": fact(0.012),
        "sites__s1__elevation": fact(600.0),
        "sites__s1__coldest": fact(262.0),
        "sites__s1__hottest": fact(300.0),
        "sites__s1__cylinders": {"c1": {"size": "20"}},
        "load__planned": fact(1200.0),
    }
    return job(**{**known, **changes})


def known(**changes):
    """A set of which everything is known, propane at hand and asked for."""
    facts = {
        "set__running": fact(5000.0),
        "set__starting": fact(6000.0),
        "set__displacement": fact(389e-6),
        "set__carburetor__type": "float",
        "set__carburetor__fuel_solenoid": False,
        "set__carburetor__choke": "manual",
        "set__carburetor__jetted_at": fact(0.0),
        "set__carburetor__jets": {
            "stamped": {"number": fact(90.0)}, "marking": "hundredths", "made_on": "e10",
        },
        "set__shut_off": True,
        "set__run_switch": "ignition",
        "set__tank_vent": "cap_lever",
        "set__electric_start": True,
        "set__studs": {
            "diameter": fact(0.006),
            "pitch": fact(0.001),
            "stick_out": fact(0.042),
            "nut_height": fact(0.005),
            "thread_depth": fact(0.016),
            "metal": "aluminum",
        },
        "set__stack": {
            "air_cleaner": "two_studs",
            "flange": fact(0.018),
            "breather_slack": fact(0.03),
            "bracket_room": fact(0.03),
            "cover_room": fact(0.06),
        },
        "set__faces": {"f1": {"name": "panel", "room": fact(0.1), "behind": "nothing"}},
        "findings": {"carburetor": {"look": "good"}},
        "sites__s1__elevation": fact(1500.0),
        "sites__s1__cylinders": {"c1": {"size": "20"}},
        "sites__s1__remote_tank": {
            "volume": fact(0.02), "rise": fact(0.3), "distance": fact(1.0),
        },
        "load__planned": fact(2000.0),
        "load__largest_start": fact(3000.0),
        "wants__propane": True,
    }  # fmt: skip
    return job(**{**facts, **changes})


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

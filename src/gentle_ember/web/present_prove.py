"""The leak test as JSON."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.job.ends import SEALING
from gentle_ember.core.physics.fuels import LETTERS, FuelKey
from gentle_ember.core.route import forbids
from gentle_ember.core.stage import Doing, Plan
from gentle_ember.core.stages.fit.sheet import joint_key
from gentle_ember.core.stages.prove_tight.pressures import inlet_pressures
from gentle_ember.core.stages.prove_tight.proof import (
    GasProof,
    JointProof,
    ZoneProof,
    position_items,
    tightness,
)
from gentle_ember.web.present import figure, holds, plain

Json = dict[str, Any]


def proofs(planned: Plan) -> list[Json]:
    """Every train, as far as it is proven tight."""
    return [_gas(planned, one) for one in planned.of(tightness)]


def _gas(planned: Plan, one: GasProof) -> Json:
    before = [item for item in position_items(planned) if item.fuel == one.fuel]
    seen = {item.path for item in before}
    inlet = planned.of(inlet_pressures).get(one.fuel)
    return {
        "fuel": one.fuel, "name": one.name, "letter": LETTERS[FuelKey(one.fuel)],
        "tight": one.tight, "left": list(one.left),
        "forbidden": [
            hold for hold in holds(forbids(planned, one.fuel, Doing.LET_IN))
            if hold["path"] not in seen
        ],
        "zones": [_zone(zone) for zone in one.zones],
        "how": one.fuel != "gasoline",
        "pressures": [figure(found) for found in inlet.figures] if inlet else [],
        "meters": inlet.part.name.split(",")[0] if inlet else "",
        "locks": one.locks, "lock_up_how": one.lock_up_how,
        "before": [{"path": item.path, "text": item.text} for item in before],
        "lock_up": one.lock_up.state, "lock_up_by": one.lock_up.by,
    }  # fmt: skip


def _zone(one: ZoneProof) -> Json:
    found = one.decay
    return {
        "key": one.key, "name": one.name, "how": one.how,
        "joints": [_joint(joint) for joint in one.joints],
        "can_decay": one.can_decay, "begun": one.begun,
        "drop": figure(found.drop) if found else None,
        "leak": figure(found.leak) if found else None,
        "least": plain(found.least_s, "minutes") if found else None,
        "tells": str(found.tells) if found else "", "why": found.why if found else "",
    }  # fmt: skip


def _joint(one: JointProof) -> Json:
    state = one.state
    at, seal = state.joint, SEALING[state.joint.seal]
    return {
        "key": at.key, "record": joint_key(at.key), "title": at.title, "letter": seal.letter,
        "seal": seal.name, "made": state.made, "fitter": at.fitter, "on_day": at.on_day,
        "state": one.stands, "void": state.void, "by": state.tight.by, "subject": state.subject,
        "looks": [
            {"key": key, "found": look.found, "repair": look.repair, "by": look.by, "on": look.on}
            for key, look in one.looks
        ],
    }  # fmt: skip

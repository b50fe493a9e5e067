"""The leak test."""

from __future__ import annotations

from typing import Literal

from gentle_ember.core.job.ends import SEALING
from gentle_ember.core.physics.decay import Tells
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
from gentle_ember.web.views.base import FigureOut, HoldOut, PlainOut, View, figure, holds, plain


class SoapedOut(View):
    """A look at a joint."""

    key: str
    found: Literal["holds", "bubbles", "foam"]
    repair: str
    by: str
    on: str


class JointProofOut(View):
    """A joint with every look at it."""

    key: str
    record: str
    """Its key where a pass is kept."""
    title: str
    letter: str
    seal: str
    made: bool
    fitter: bool
    on_day: bool
    state: Literal["open", "leaks", "tight", "void", "fitter", "awaits_fitter"]
    void: str
    by: str
    subject: str
    looks: list[SoapedOut]


class ZoneProofOut(View):
    """A zone of a train."""

    key: str
    name: str
    how: str
    joints: list[JointProofOut]
    can_decay: bool
    begun: bool
    """Whether a decay is kept for it."""
    drop: FigureOut | None
    leak: FigureOut | None
    least: PlainOut | None
    """Least time for this gauge and volume."""
    tells: Tells | Literal[""]
    why: str


class BeforeOut(View):
    """Something to be seen before gas is let in, and where it is said."""

    path: str
    text: str


class GasProofOut(View):
    """One fuel's train, as far as it is proven tight."""

    fuel: str
    name: str
    letter: str
    tight: bool
    left: list[str]
    zones: list[ZoneProofOut]
    forbidden: list[HoldOut]
    before: list[BeforeOut]
    how: bool
    """Whether it is told with what its joints are looked at."""
    pressures: list[FigureOut]
    """What was read at the inlet of what meters the gas."""
    meters: str
    """What meters it; empty where nothing does."""
    locks: bool
    lock_up_how: str
    lock_up: Literal["", "still", "grows"]
    lock_up_by: str


def proofs(planned: Plan) -> list[GasProofOut]:
    """Every train, as far as it is proven tight."""
    return [_gas(planned, one) for one in planned.of(tightness)]


def _gas(planned: Plan, one: GasProof) -> GasProofOut:
    before = [item for item in position_items(planned) if item.fuel == one.fuel]
    seen = {item.path for item in before}
    inlet = planned.of(inlet_pressures).get(one.fuel)
    return GasProofOut(
        fuel=one.fuel, name=one.name, letter=LETTERS[FuelKey(one.fuel)],
        tight=one.tight, left=list(one.left),
        forbidden=[
            hold for hold in holds(forbids(planned, one.fuel, Doing.LET_IN))
            if hold.path not in seen
        ],
        zones=[_zone(zone) for zone in one.zones],
        how=one.fuel != "gasoline",
        pressures=[figure(found) for found in inlet.figures] if inlet else [],
        meters=inlet.part.name.split(",")[0] if inlet else "",
        locks=one.locks, lock_up_how=one.lock_up_how,
        before=[BeforeOut(path=item.path, text=item.text) for item in before],
        lock_up=one.lock_up.state, lock_up_by=one.lock_up.by,
    )  # fmt: skip


def _zone(one: ZoneProof) -> ZoneProofOut:
    found = one.decay
    return ZoneProofOut(
        key=one.key, name=one.name, how=one.how,
        joints=[_joint(joint) for joint in one.joints],
        can_decay=one.can_decay, begun=one.begun,
        drop=figure(found.drop) if found else None,
        leak=figure(found.leak) if found else None,
        least=plain(found.least_s, "minutes") if found else None,
        tells=found.tells if found else "", why=found.why if found else "",
    )  # fmt: skip


def _joint(one: JointProof) -> JointProofOut:
    state = one.state
    at, seal = state.joint, SEALING[state.joint.seal]
    return JointProofOut(
        key=at.key, record=joint_key(at.key), title=at.title, letter=seal.letter,
        seal=seal.name, made=state.made, fitter=at.fitter, on_day=at.on_day,
        state=one.stands, void=state.void, by=state.tight.by, subject=state.subject,
        looks=[
            SoapedOut(key=key, found=look.found, repair=look.repair, by=look.by, on=look.on)
            for key, look in one.looks
        ],
    )  # fmt: skip

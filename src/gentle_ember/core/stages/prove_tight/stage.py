"""Prove tight as a stage of the job: what is open, what leaks, and what a look at a joint means."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.fit import Tight
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.prove_tight import LockUp, ZoneTest
from gentle_ember.core.physics.fuels import FuelKey, fuel_name
from gentle_ember.core.stage import (
    RECORD,
    TO_DO,
    Act,
    Caution,
    Doing,
    Item,
    Page,
    Plan,
    Refusal,
    Stage,
    anew,
    confirm_item,
)
from gentle_ember.core.stages.fit.sheet import fit_sheet, joint_key
from gentle_ember.core.stages.method.ways import taken
from gentle_ember.core.stages.prove_tight.pressures import inlet_pressures
from gentle_ember.core.stages.prove_tight.proof import (
    factory_items,
    how_items,
    position_items,
    proof_cautions,
    proof_items,
    tightness,
)


def passes(before: Job, plan: Plan) -> Iterator[Change]:
    """The leak pass a new look at a joint gives it or takes from it.

    A film that holds passes the joint as it was made then: other parts there, or the same made
    anew, void it. Anything else takes the pass away.
    """
    if plan.job.proof.soaped == before.proof.soaped:
        return
    joints = {one.joint.key: one for one in plan.of(fit_sheet).joints}
    looks = {
        look.joint: look
        for key, look in plan.job.proof.soaped.items()
        if before.proof.soaped.get(key) != look and look.joint in joints
    }
    for joint, look in looks.items():
        state, holds = joints[joint], look.found == "holds"
        given = Tight(
            passed=holds,
            how="drip" if state.joint.fuel == "gasoline" else "soap",
            by=look.by,
            on=look.on,
            of=state.subject if holds else "",
        )
        if given != plan.job.fit.tight.get(joint_key(joint)):
            yield Change(f"fit.tight.{joint_key(joint)}", given.model_dump(mode="json"))


def refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """No look at a joint that is not there, or not made yet."""
    if plan.job.proof.soaped == before.proof.soaped:
        return
    joints = {one.joint.key: one for one in plan.of(fit_sheet).joints}
    for key, look in plan.job.proof.soaped.items():
        if key in before.proof.soaped:
            continue
        state = joints.get(look.joint)
        if state is None:
            yield Refusal(f"proof.soaped.{key}", "There is no such joint on this job's trains.")
        elif not (state.made or state.joint.on_day):
            text = f"{state.joint.title} is not made yet: the fit sheet shows when."
            yield Refusal(f"proof.soaped.{key}", text)


def items(plan: Plan) -> Iterator[Item]:
    """What must be seen before gas is let in, and what is left to be proven."""
    yield from position_items(plan)
    yield from factory_items(plan.job)
    yield from proof_items(plan.of(tightness))
    yield from how_items(plan.of(tightness), taken(plan.job, "leaks"))
    for one in plan.of(inlet_pressures).values():
        yield from one.items()
    if any(proof.fuel != FuelKey.GASOLINE for proof in plan.of(tightness)):
        text = "joints soaped again and nuts checked after the first ten hours"
        yield confirm_item(plan.job, "ten_hours", TO_DO, text, "logbook")


def cautions(plan: Plan) -> Iterator[Caution]:
    """What leaks, what creeps, what the manometer says otherwise than the ladder."""
    yield from proof_cautions(plan.of(tightness))
    for one in plan.of(inlet_pressures).values():
        yield from one.cautions()


def acts(before: Job, plan: Plan) -> Iterator[Act]:
    """What was done with the source open: films that held, decays read, lock-ups seen still.

    A leak that was found is no act: it is taken down whatever stands.
    """
    for key, look in plan.job.proof.soaped.items():
        if look.found == "holds" and before.proof.soaped.get(key) != look:
            yield _let_in(f"proof.soaped.{key}", look.joint.partition(".")[0])
    for zone, record in plan.job.proof.zones.items():
        was = before.proof.zones.get(zone, blank(ZoneTest))
        if record.after is not None and record.after != was.after:
            at = f"proof.zones.{zone}.after"
            yield _let_in(at, zone.rpartition("-")[0], Change(at, None))
    for fuel, lock in plan.job.proof.lock_up.items():
        if lock.state == "still" and before.proof.lock_up.get(fuel, blank(LockUp)).state != "still":
            yield _let_in(f"proof.lock_up.{fuel}", fuel)


def _let_in(path: str, fuel: str, emptied: Change | None = None) -> Act:
    return Act(path, f"No {fuel_name(fuel)} let in", fuel, Doing.LET_IN, emptied=emptied)


STAGE = Stage(
    "prove_tight",
    "Prove tight",
    owns={"proof": anew},
    pages=(Page("leaks", "Leak test", ("proofs",), ("proof", "fit.tight")), RECORD),
    on_demand=frozenset(("proof.zones", "proof.how", "proof.pressures")),
    items=items,
    cautions=cautions,
    acts=acts,
    refusals=refusals,
    follows=passes,
)

"""Prove tight as a stage of the job: what is open, what leaks, and what a look at a joint means."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.fit import Tight
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Page, Plan, Refusal, Stage, anew
from gentle_ember.core.stages.fit.sheet import fit_sheet, joint_key
from gentle_ember.core.stages.prove_tight.proof import proof_cautions, proof_items, tightness


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


STAGE = Stage(
    "prove_tight",
    "Prove tight",
    owns={"proof": anew},
    pages=(Page("leaks", "Leak test", ("proofs",), ("proof", "fit.tight")), RECORD),
    on_demand=frozenset(("proof.zones",)),
    items=lambda plan: proof_items(plan.of(tightness)),
    cautions=lambda plan: proof_cautions(plan.of(tightness)),
    refusals=refusals,
    follows=passes,
)

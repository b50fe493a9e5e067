"""Stops of the sheet: what keeps a step from being ticked or skipped, whoever asks."""

from __future__ import annotations

from collections.abc import Callable

from gentle_ember.core.fit.case import FitCase, key_of
from gentle_ember.core.fit.step import Step

SMELLED = (
    "Gas was smelled and is not cleared: source shut, everybody out of it, ventilate; find it "
    "before anything goes on."
)


PULLS_OUT = (
    "Backed out so far the stud may pull its thread out of the casting: measure the thread in it, "
    "or choose longer studs."
)


def holding(case: FitCase) -> Callable[[Step], str]:
    """Why a step must not be done now, as a function of the step; empty when it may.

    Gas not cleared, or a find that stops the job, holds every step; a stop of a train holds its
    joints; a place that must not be drilled holds its mount; a stud that would pull out its own.
    """
    everything = ""
    if any(not smell.cleared for smell in case.job.fit.smelled.values()):
        everything = SMELLED
    for find in case.job.fit.finds.values():
        if find.decision == "stop":
            everything = everything or f"Stopped: {find.what}"
    trains = {
        fuel: next((trouble.text for trouble in one.troubles if trouble.stops), "")
        for fuel, one in case.trains.items()
    }
    pulls_out = case.stud_work is not None and case.stud_work.pulls_out
    places = {key_of("place", one.key): one.stops[0][0] for one in case.mounts if one.stops}

    def held(step: Step) -> str:
        if step.kind == "stud" and pulls_out:
            return everything or PULLS_OUT
        train = trains.get(step.fuel, "") if step.joint else ""
        return (
            everything or places.get(step.key, "") or (train and f"The train has a stop: {train}")
        )

    return held

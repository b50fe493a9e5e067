"""Studs, nuts, spacer and breather that a plate in the stack takes."""

from __future__ import annotations

from gentle_ember.core import studs
from gentle_ember.core.job import Job
from gentle_ember.core.marks.fastening import thread_of
from gentle_ember.core.method.base import Case
from gentle_ember.core.method.stack import joint_of, outward_m, stud_count
from gentle_ember.core.part import PartClass
from gentle_ember.core.stud_work import stud_work
from gentle_ember.core.train.count import Count


def stack_parts(count: Count, job: Job) -> None:
    """Studs, nuts, spacer and breather, once a plate goes in between."""
    plate = Case(job, None).plate_m
    if plate is None:
        return
    each = stud_count(job.set)
    bolt, stack = job.set.studs, job.set.stack
    found = joint_of(job.set, plate)
    if found is None:
        count.open_questions.append(("studs and flange, to know whether they reach", "set.studs"))
    else:
        _studs(count, job, found, each)
        count.want(
            PartClass.HARDWARE, each, "stack nuts", thread_m=thread_of(found.diameter_m).diameter_m
        )
    out = outward_m(stack, plate)
    if stack.air_cleaner == "third_bolt":
        fit = count.smallest(PartClass.SPACER, "thickness_m", out - 0.5e-3)
        if fit is None:
            count.missing.append(f"spacer of {out * 1e3:.1f} mm for the third bolt")
        else:
            count.add(fit, 1, "third bolt")
    if stack.breather_slack is not None and stack.breather_slack.value < out:
        short = out - stack.breather_slack.value
        best = count.smallest(PartClass.BREATHER, "length_m", short)
        if best is None:
            count.missing.append(f"breather extension of {short * 1e3:.0f} mm")
        else:
            count.add(best, 1, "breather extension")
    if bolt.spacing is None:
        count.open_questions.append(
            ("distance between the studs, for adapter and gaskets", "set.studs.spacing")
        )


def _studs(count: Count, job: Job, found: studs.Joint, each: int) -> None:
    work = stud_work(job, found, count.parts.values())
    if work is None:
        return
    if not work.measured:
        count.open_questions.append(
            ("thread in the casting, for longer studs", "set.studs.thread_depth")
        )
    use = {"longer": "longer studs", "extend": "stud extensions", "back_out": ""}[work.way]
    if work.part is not None:
        count.add(work.part, each, use)
    elif use:
        count.missing.append(use)

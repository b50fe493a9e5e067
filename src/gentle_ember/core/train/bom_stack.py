"""Studs, nuts, spacer and breather that a plate in the stack takes."""

from __future__ import annotations

import math

from gentle_ember.core import studs
from gentle_ember.core.errors import QuantityError
from gentle_ember.core.generator import CarburetorType
from gentle_ember.core.job import Job
from gentle_ember.core.method.base import Case
from gentle_ember.core.method.stack import joint_of
from gentle_ember.core.part import PartClass
from gentle_ember.core.train.count import Count


def stack_parts(count: Count, job: Job) -> None:
    """Studs, nuts, spacer and breather, once a plate goes in between."""
    plate = Case(job, None).plate_m
    if plate is None:
        return
    each = 4 if job.set.carburetor.type is CarburetorType.TWO_BARREL else 2
    bolt, stack = job.set.studs, job.set.stack
    found = joint_of(job.set, plate)
    if found is None:
        count.open_questions.append(("studs and flange, to know whether they reach", "set.studs"))
    else:
        _studs(count, job, found, each)
        count.want(PartClass.HARDWARE, each, "stack nuts", thread_m=_near(found.diameter_m))
    out = plate + 0.5 * (stack.gaskets.value if stack.gaskets else studs.GASKETS_M)
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
    if studs.full_nut(found) or job.fit.studs == "back_out":
        return
    depth = job.set.studs.thread_depth
    if depth is None:
        count.open_questions.append(
            ("thread in the casting, for longer studs", "set.studs.thread_depth")
        )
    try:
        wanted = studs.longer_stud(found, depth.value if depth else 2 * found.diameter_m)
    except QuantityError:
        wanted = math.inf
    thread = _near(found.diameter_m)
    part = count.smallest(PartClass.STUD, "length_m", wanted, thread_m=thread)
    if part is not None and job.fit.studs != "extend":
        count.add(part, each, "longer studs")
        return
    count.want(PartClass.STUD_EXTENSION, each, "stud extensions", thread_m=thread)


def _near(diameter_m: float) -> float:
    """The thread a diameter measured with a calliper belongs to [m]."""
    return min((0.005, 0.006, 0.008), key=lambda one: abs(one - diameter_m))

"""How loud the set is where the neighbors are, against what is asked there."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Rounding
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.stage import Plan

REFERENCE_M = 7.0
"""Where sound levels of sets are stated."""
BAND_DB = 3.0
"""A wall behind the set adds up to this, soft ground takes it away."""

SPREADING = Method(
    "noise-distance", "Sound level over open ground", "L = L₇ − 20·log₁₀(d / 7 m)",
    "spherical spreading over hard ground, as ISO 9613-2 takes it; no screen, no absorption",
    "noise",
)  # fmt: skip


def level_at(stated_db: float, meters: float) -> float:
    """Sound level at a distance from one stated at 7 m [dB(A)].

    >>> round(level_at(68.0, 7.0), 1), round(level_at(68.0, 14.0), 1), round(level_at(68.0, 70.0))
    (68.0, 62.0, 48)
    """
    return stated_db - 20.0 * math.log10(meters / REFERENCE_M)


def distance_for(stated_db: float, most_db: float) -> float:
    """Distance at which a sound level has fallen to another [m].

    >>> round(distance_for(68.0, 48.0), 1)
    70.0
    """
    return REFERENCE_M * float(10.0 ** ((stated_db - most_db) / 20.0))


def noise(job: Job, site: str) -> tuple[Figure, ...]:
    """What arrives at the neighbors of a site, and how far off it would be as quiet as asked.

    Empty until the set's sound level and the distance, or the limit, are told.
    """
    stated, here = job.set.sound_level, job.sites[site]
    if stated is None:
        return ()
    rows = (Input("sound level at 7 m", stated.value, "sound_level", stated.origin,
                  "set.sound_level"),)  # fmt: skip
    warnings = (
        (
            "The plate's figure of an inverter set is usually at a quarter load: at full "
            "load it is louder, up to 10 dB.",
        )
        if job.set.set_class in INVERTERS
        else ()
    )
    narrows = ("a sound meter at the neighbor's, at the load it will carry",)
    found = []
    if here.neighbor is not None:
        value = level_at(stated.value, here.neighbor.value)
        away = Input("distance to the neighbor", here.neighbor.value, "length",
                     here.neighbor.origin, f"sites.{site}.neighbor")  # fmt: skip
        found.append(
            Figure("noise.level", "sound at the neighbor's", value, "sound_level", SPREADING,
                   Band(value - BAND_DB, value + BAND_DB), (*rows, away), rounding=Rounding.UP,
                   estimated=True, warnings=warnings, narrows=narrows)
        )  # fmt: skip
    if here.quiet_limit is not None:
        value = distance_for(stated.value, here.quiet_limit.value)
        asked = Input("most sound at the neighbor", here.quiet_limit.value, "sound_level",
                      here.quiet_limit.origin, f"sites.{site}.quiet_limit")  # fmt: skip
        ends = [distance_for(stated.value + way * BAND_DB, here.quiet_limit.value)
                for way in (-1, 1)]  # fmt: skip
        found.append(
            Figure("noise.distance", "distance at which it is as quiet as asked", value, "length",
                   SPREADING, Band(*ends), (*rows, asked), rounding=Rounding.UP, estimated=True,
                   warnings=warnings, narrows=narrows)
        )  # fmt: skip
    return tuple(found)


def too_loud(job: Job, site: str) -> bool:
    """Whether what arrives at the neighbor's, at the loud end of its band, is over the limit."""
    here = job.sites[site]
    if job.set.sound_level is None or here.neighbor is None or here.quiet_limit is None:
        return False
    level = level_at(job.set.sound_level.value, here.neighbor.value)
    return level + BAND_DB > here.quiet_limit.value


def noise_here(plan: Plan) -> tuple[Figure, ...]:
    """What arrives at the neighbors of the site looked at."""
    return noise(plan.job, plan.job.site)

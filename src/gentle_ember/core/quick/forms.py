"""Quick answers: a job made of a few figures, so that quick and full answers are one code."""

from __future__ import annotations

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import Carburetor, GeneratorSet
from gentle_ember.core.job.job import Job, Load, Schools
from gentle_ember.core.job.site import CylindersAtHand, Gas, Site
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.output import School


def _fact(value: float | None) -> Fact | None:
    return None if value is None else Fact(value=value, origin=Origin.OWNER)


def derate_job(
    running_w: float,
    starting_w: float | None,
    shaft_power_w: float | None,
    alternator_efficiency: float | None,
    elevation_m: float,
    temperature_k: float,
    relative_humidity: float | None,
    jetted_at_m: float | None,
    methane_share: float | None,
    hhv_j_m3: float | None,
    fuel_school: School,
    air_school: School,
) -> Job:
    """A job that holds what a derate needs; every fuel at hand."""
    generator = GeneratorSet(
        running=_fact(running_w),
        starting=_fact(starting_w),
        shaft_power=_fact(shaft_power_w),
        alternator_efficiency=_fact(alternator_efficiency),
        carburetor=Carburetor(jetted_at=_fact(jetted_at_m)),
    )
    site = Site(
        elevation=_fact(elevation_m),
        hottest=_fact(temperature_k),
        humidity=_fact(relative_humidity),
        gases={
            "ng": Gas(kind="natural_gas", hhv=_fact(hhv_j_m3)),
            "bg": Gas(kind="biogas", methane=_fact(methane_share)),
        },
        cylinders={"c1": CylindersAtHand()},
    )
    schools = Schools(fuel=fuel_school, air=air_school)
    return Job(title="quick derate", set=generator, sites={"s1": site}, schools=schools)


def run_job(
    running_w: float,
    load_w: float,
    set_class: SetClass,
    tank_m3: float | None,
    elevation_m: float,
    coldest_k: float,
    hottest_k: float,
    humidity: float | None = None,
    cylinder: CylindersAtHand | None = None,
) -> Job:
    """A job that holds what run times and cylinders need."""
    generator = GeneratorSet(set_class=set_class, running=_fact(running_w), tank=_fact(tank_m3))
    site = Site(
        elevation=_fact(elevation_m),
        coldest=_fact(coldest_k),
        hottest=_fact(hottest_k),
        humidity=_fact(humidity),
        cylinders={} if cylinder is None else {"c1": cylinder},
    )
    load = Load(planned=_fact(load_w))
    return Job(title="quick run time", set=generator, sites={"s1": site}, load=load)


def cylinders(
    size: str,
    count: int,
    contents_kg: float | None,
    weighed_kg: float | None,
    tare_kg: float | None,
    shelter: str,
) -> CylindersAtHand:
    """Cylinders at hand from plain figures [kg]."""
    return CylindersAtHand.model_validate(
        {
            "size": size,
            "count": count,
            "fill": _fact(contents_kg),
            "weighed": _fact(weighed_kg),
            "tare": _fact(tare_kg),
            "shelter": shelter,
        }
    )

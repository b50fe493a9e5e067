"""Sets of every size with every fuel at hand, for tests that work out trains."""

from functools import cache

from gentle_ember.catalog import load
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fuel_path.case import Asked, ask
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES

CATALOG = load()
# name: class, displacement [m³], rating [W], stud spacing and diameter [m], barrels
SIZES: dict[str, tuple[str, float, float, float, float, str]] = {
    "tiny": ("inverter_small", 62e-6, 900.0, 0.032, 0.005, "float"),
    "small": ("inverter_small", 79e-6, 1600.0, 0.034, 0.005, "float"),
    "mini": ("open_frame", 105e-6, 1900.0, 0.032, 0.005, "float"),
    "handy": ("open_frame", 125e-6, 2000.0, 0.038, 0.006, "float"),
    "middle": ("open_frame", 149e-6, 2500.0, 0.040, 0.006, "float"),
    "inverter": ("inverter", 171e-6, 3200.0, 0.042, 0.006, "float"),
    "frame": ("open_frame", 212e-6, 3600.0, 0.044, 0.006, "float"),
    "wide": ("open_frame", 250e-6, 4000.0, 0.048, 0.006, "float"),
    "dual": ("dual_fuel", 274e-6, 4500.0, 0.050, 0.006, "multi_fuel"),
    "strong": ("open_frame", 389e-6, 5000.0, 0.050, 0.006, "float"),
    "large": ("open_frame", 420e-6, 6500.0, 0.054, 0.008, "float"),
    "larger": ("open_frame", 457e-6, 8000.0, 0.058, 0.008, "float"),
    "twin": ("v_twin", 680e-6, 11000.0, 0.060, 0.006, "two_barrel"),
    "great": ("v_twin", 900e-6, 15000.0, 0.064, 0.008, "two_barrel"),
}


def fact(value: float) -> dict[str, object]:
    return {"value": value, "origin": "measured"}


@cache
def job_of(
    size: str,
    *,
    distance: float = 2.0,
    cylinder: str = "20",
    two: bool = False,
    stub: str = "unknown",
    pressure: float | None = None,
    rise: float | None = None,
) -> Job:
    """A set of a size on a site with cylinders, house gas, a digester and a remote tank."""
    kind, displacement, rating, spacing, diameter, carburetor = SIZES[size]
    gas = {"distance": fact(distance), "stub": stub}
    if pressure is not None:
        gas["pressure"] = fact(pressure)
    return Job.model_validate(
        {
            "title": size,
            "set": {
                "set_class": kind,
                "displacement": fact(displacement),
                "running": fact(rating),
                "cylinders": 2 if kind == "v_twin" else 1,
                "carburetor": {"type": carburetor},
                "studs": {"spacing": fact(spacing), "diameter": fact(diameter)},
                "shut_off": True,
                "electric_start": True,
            },
            "sites": {
                "s1": {
                    "elevation": fact(200.0),
                    "coldest": fact(266.15),
                    "hottest": fact(303.15),
                    "cylinders": {
                        "c1": {
                            "size": cylinder,
                            "count": 2 if two else 1,
                            "distance": fact(distance),
                        }
                    },
                    "gases": {
                        "g1": {"kind": "natural_gas", **gas},
                        "g2": {"kind": "biogas", "cleaned": True, **gas, "stub": "unknown"},
                    },
                    "remote_tank": {
                        "rise": fact(rise if rise is not None else 0.3),
                        "distance": fact(min(distance, 3.0)),
                    },
                }
            },
        }
    )


def output_of(job: Job) -> OutputSection:
    found = plan(job, CATALOG).of(output_here)
    assert found is not None
    return found


def asked(job: Job, template: str) -> Asked:
    return ask(job, output_of(job), CATALOG, TEMPLATES[template])


GASES = (FuelKey.PROPANE, FuelKey.NATURAL_GAS, FuelKey.BIOGAS)

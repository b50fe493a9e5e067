"""A train as it is judged: its parts, their ends and joints, and what it is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.defaults import site_air
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.generator import CarburetorType, GeneratorSet
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.house import House
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.job.site import Gas, RemoteTank, Site
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.physics.fuels import GASOLINE_E10, FuelKey
from gentle_ember.core.physics.hose import GRAVITY
from gentle_ember.core.stages.fuel_path.demand import Demand, demand, with_suction
from gentle_ember.core.stages.fuel_path.house import house_loss
from gentle_ember.core.stages.fuel_path.ladder import DIGESTER_PA, STUB_PA, TWO_PSI_PA, Supply
from gentle_ember.core.stages.fuel_path.limits import Limits
from gentle_ember.core.stages.fuel_path.search import WantedPlace
from gentle_ember.core.stages.fuel_path.templates import BULKHEAD, Role, Template, templates_of
from gentle_ember.core.stages.method.gas import SMALL_CYLINDERS, WINDOW_PA

CYLINDER_DISTANCE_M, STUB_DISTANCE_M, TANK_DISTANCE_M = 2.0, 10.0, 1.5
TANK_DEPTH_M = 0.25
SAME_TANK = 0.15
"""Share by which a tank's stated size may differ from what is typed."""
GRAVITY_FACTOR = 2.0
"""Gravity must drive twice the full-load flow."""
LEAST_PLAIN_PA = 6 * INCH_WC_PA
"""Digester pressure that does without a blower."""
_USUAL = ((100e-6, "34x5"), (135e-6, "40x6"), (240e-6, "42x6"), (310e-6, "44x6"), (400e-6, "50x6"))
USUAL_LARGE, USUAL_TWIN = "54x8", "2x60x6"
"""Stand-ins by displacement until the studs are measured."""
WATTS_BY_M3 = 16e6
"""Rating by displacement [W/m³], where the displacement isn't known."""
_HORNS = ((110e-6, "35"), (240e-6, "42"), (400e-6, "50"))


@dataclass(frozen=True, slots=True)
class Asked:
    """A template with everything the job says about it; `assumed` names what it does not say."""

    template: Template
    supply: Supply
    demand: Demand
    limits: Limits
    assumed: tuple[tuple[str, str], ...]
    """What was taken, and the path at which to say better."""
    sources: tuple[str, ...] = ()
    """Parts the site offers as a source, by key; empty where it does not say."""

    def wanted(
        self,
        keep: Mapping[str, str] | None = None,
        only: Mapping[str, frozenset[str]] | None = None,
        without: frozenset[str] = frozenset(),
    ) -> WantedPlace:
        """The question for the solver."""
        return WantedPlace(
            self.template, self.supply, self.demand, self.limits, keep or {}, only or {}, without
        )


def pattern_of(generator: GeneratorSet, patterns: Mapping[str, tuple[float, float]]) -> str:
    """The stud pattern that matches spacing and diameter; empty when not measured or none does.

    Args:
        generator: the set.
        patterns: spacing and diameter [m] by name.
    """
    spacing, diameter = generator.studs.spacing, generator.studs.diameter
    if spacing is None:
        return ""
    two = generator.carburetor.type is CarburetorType.TWO_BARREL
    for name, (apart, thick) in patterns.items():
        if name.startswith("2x") is not two or abs(apart - spacing.value) > 0.8e-3:
            continue
        if diameter is None or abs(thick - diameter.value) < 0.4e-3:
            return name
    return ""


def intake_end(job: Job, method: str, catalog: Catalog) -> tuple[str, tuple[tuple[str, str], ...]]:
    """The set's own end a method's last part must take, and what was assumed to say so."""
    horn_m = job.set.carburetor.air_horn
    if method == "snorkel" and horn_m is not None:
        return f"horn:{horn_m.value * 1e3:.0f}:f", ()
    if method == "snorkel":
        size = displacement_of(job.set)
        horn = next((name for most, name in _HORNS if size <= most), "58")
        return f"horn:{horn}:f", (
            (f"air horn {horn} mm, by displacement", "set.carburetor.air_horn"),
        )
    if method == "second_gas":
        if job.set.gas_port != "unknown":
            return f"npt:{job.set.gas_port}:f", ()
        return "npt:3/8:f", (("factory gas port ⅜ in NPT", "set.gas_port"),)
    if method.startswith("remote_tank"):
        return "", ()
    found = pattern_of(job.set, catalog.patterns)
    if found:
        return f"studs:{found}:f", ()
    if job.set.studs.spacing is not None:
        two = "2x" if job.set.carburetor.type is CarburetorType.TWO_BARREL else ""
        thick = job.set.studs.diameter.value * 1e3 if job.set.studs.diameter else 6
        return f"studs:{two}{job.set.studs.spacing.value * 1e3:.0f}x{thick:.0f}:f", ()
    usual = USUAL_TWIN
    if job.set.carburetor.type is not CarburetorType.TWO_BARREL:
        size = displacement_of(job.set)
        usual = next((name for most, name in _USUAL if size <= most), USUAL_LARGE)
    said = f"stud pattern {usual}, usual for the size"
    return f"studs:{usual}:f", ((said, "set.studs.spacing"),)


def displacement_of(generator: GeneratorSet) -> float:
    """Displacement, or what the rating lets expect [m³]."""
    if generator.displacement is not None:
        return generator.displacement.value
    return (generator.running.value if generator.running else 3000.0) / WATTS_BY_M3


def default_template(job: Job, method: str, fuel: FuelKey) -> Template | None:
    """The template that suits what the site has; None where the method can't burn the fuel."""
    found = {one.source: one for one in templates_of(method, fuel)}
    site = job.sites[job.site]
    if not found:
        return None
    if comes_from(fuel, FuelSource.CYLINDER):
        two = any(one.count > 1 for one in site.cylinders.values())
        return found["check_pigtails" if two else "cylinder"]
    gas = gas_of(site, fuel)
    pressure = gas.pressure.value if gas and gas.pressure else None
    if comes_from(fuel, FuelSource.HOUSE):
        if pressure is not None and pressure > WINDOW_PA[1]:
            return found["utility_2psi"]
        return found["utility_outlet" if gas and gas.take_off == "outlet" else "utility"]
    if comes_from(fuel, FuelSource.DIGESTER):
        low = pressure is None or pressure < LEAST_PLAIN_PA
        return found["digester" if low else "digester_plain"]
    return next(iter(found.values()))


def gas_at(site: Site, fuel: FuelKey) -> tuple[str, Gas | None]:
    """The site's gas of a kind and where it stands on the site: `gases` alone without one."""
    for key, gas in sorted(site.gases.items()):
        if gas.kind == fuel:
            return f"gases.{key}", gas
    return "gases", None


def gas_of(site: Site, fuel: FuelKey) -> Gas | None:
    """The site's gas of a kind."""
    return gas_at(site, fuel)[1]


def ask(job: Job, output: OutputSection, catalog: Catalog, template: Template) -> Asked:
    """Everything a job says about a template; through a cover it gets a bulkhead."""
    if through_cover(job, template):
        template = replace(template, roles=_with_bulkhead(template))
    site, at = job.sites[job.site], f"sites.{job.site}"
    needed = with_suction(job, output, demand(job.set, site, job.site, output, template.fuel))
    intake, assumed = intake_end(job, template.method, catalog)
    here = site_air(site, job.site)
    supply, distance, source, more = _supply(job, site, at, template, needed)
    if template.fuel is FuelKey.GASOLINE:
        source = tank_for(site.remote_tank, catalog)
    two = template.source in ("check_pigtails", "changeover")
    counts = {"pigtail": 2} if two else {}
    if template.role("tee"):
        counts |= {"load_screw": 2, "vapor_hose": 2}
    limits = Limits(
        intake,
        distance,
        job.set.displacement.value if job.set.displacement else None,
        here.coldest.value,
        here.hottest.value,
        source,
        counts,
        None,
        GRAVITY_FACTOR if template.method == "remote_tank_gravity" else 1.0,
        "" if job.set.fuel_line == "unknown" else job.set.fuel_line,
        job.set,
    )
    offered = _offered(site, template, source)
    return Asked(template, supply, needed, limits, (*assumed, *more), offered)


def tank_for(told: RemoteTank, catalog: Catalog) -> str:
    """The tank of the catalog that holds what the site tells, else the next larger; empty where the
    site does not say, or none is large enough."""
    if told.volume is None:
        return ""
    tanks = [(part.volume_m3, part.key) for part in catalog.shelf.by_class[PartClass.TANK]
             if part.volume_m3 is not None and not part.use_instead]  # fmt: skip
    wanted = told.volume.value
    near = [one for one in tanks if abs(one[0] / wanted - 1) <= SAME_TANK]
    if near:
        return min(near, key=lambda one: abs(one[0] / wanted - 1))[1]
    return min((one for one in tanks if one[0] > wanted), default=(0.0, ""))[1]


def _offered(site: Site, template: Template, source: str) -> tuple[str, ...]:
    """What the site has to begin a train with, by the keys of its parts."""
    if comes_from(template.fuel, FuelSource.CYLINDER):
        return tuple(sorted({_cylinder(one.size) for one in site.cylinders.values()}))
    return (source,) if source else ()


def _cylinder(size: str) -> str:
    return "site-cyl-s" if size in SMALL_CYLINDERS else "site-cyl-t"


def through_cover(job: Job, template: Template) -> bool:
    """Whether a gas hose passes through a cover: by the set's class, where nobody said."""
    if template.fuel is FuelKey.GASOLINE:
        return False
    said = next(
        (one.through_cover for one in job.trains.values() if one.template == template.key), None
    )
    return job.set.set_class in INVERTERS if said is None else said


def _with_bulkhead(template: Template) -> tuple[Role, ...]:
    found: list[Role] = []
    for role in template.roles:
        found.append(role)
        if role.key == "hose":
            found.append(BULKHEAD)
    return tuple(found)


def _supply(
    job: Job, site: Site, at: str, template: Template, needed: Demand
) -> tuple[Supply, float, str, tuple[tuple[str, str], ...]]:
    if template.fuel is FuelKey.GASOLINE:
        return _tank(site, at)
    if comes_from(template.fuel, FuelSource.CYLINDER):
        for key, one in sorted(site.cylinders.items()):
            source = _cylinder(one.size)
            if one.distance is not None:
                return Supply(None), one.distance.value, source, ()
            said = (
                f"{CYLINDER_DISTANCE_M:g} m from cylinder to set",
                f"{at}.cylinders.{key}.distance",
            )
            return Supply(None), CYLINDER_DISTANCE_M, source, (said,)
        said = ("a cylinder of 5 to 40 lb", f"{at}.cylinders")
        return Supply(None), CYLINDER_DISTANCE_M, "site-cyl-s", (said,)
    return _line(site, at, template, needed)


def _line(
    site: Site, at: str, template: Template, needed: Demand
) -> tuple[Supply, float, str, tuple[tuple[str, str], ...]]:
    key, gas = gas_at(site, template.fuel)
    house = {"utility": STUB_PA, "utility_outlet": STUB_PA, "utility_2psi": TWO_PSI_PA}
    usual = house.get(template.source, DIGESTER_PA)
    assumed: list[tuple[str, str]] = []
    pressure = gas.pressure.value if gas and gas.pressure else None
    if pressure is None:
        assumed.append((f"{usual / INCH_WC_PA:.3g} in w.c. at the source", f"{at}.{key}.pressure"))
    distance = gas.distance.value if gas and gas.distance else None
    if distance is None:
        assumed.append((f"{STUB_DISTANCE_M:g} m from source to set", f"{at}.{key}.distance"))
    source = ""
    if gas is None or gas.stub == "unknown":
        assumed.append(("the source's pipe thread", f"{at}.{key}.stub"))
    else:
        kind = "stub" if comes_from(template.fuel, FuelSource.HOUSE) else "dig"
        source = f"site-{kind}-{gas.stub.replace('/', '-')}"
    still = usual if pressure is None else pressure
    lost, told = 0.0, True
    if template.source in ("utility", "utility_outlet"):
        lost, told = house_loss(gas.house if gas else House(), needed)
    supply = Supply(still - lost, still if lost else None, pressure is None, lost, told)
    return supply, STUB_DISTANCE_M if distance is None else distance, source, tuple(assumed)


def _tank(site: Site, at: str) -> tuple[Supply, float, str, tuple[tuple[str, str], ...]]:
    tank, assumed = site.remote_tank, []
    weight = GASOLINE_E10.density_kg_m3 * GRAVITY
    rise = tank.rise.value if tank.rise else 0.3
    if tank.rise is None:
        assumed.append(("outlet 0.3 m above the carburetor", f"{at}.remote_tank.rise"))
    depth = tank.depth.value if tank.depth else TANK_DEPTH_M
    if tank.depth is None:
        assumed.append((f"{TANK_DEPTH_M:g} m of fuel when full", f"{at}.remote_tank.depth"))
    distance = tank.distance.value if tank.distance else TANK_DISTANCE_M
    if tank.distance is None:
        assumed.append((f"{TANK_DISTANCE_M:g} m from tank to set", f"{at}.remote_tank.distance"))
    supply = Supply(weight * rise, weight * (rise + depth), tank.rise is None)
    return supply, distance, "", tuple(assumed)

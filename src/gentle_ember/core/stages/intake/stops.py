"""Stops and cautions that come of the set's facts, the walk-round, the site and its sketch."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.defaults import machine as rated
from gentle_ember.core.estimates.filling import USUAL_FILLING, filling_at_rating
from gentle_ember.core.estimates.legs import leg_loads, outlet_loads
from gentle_ember.core.estimates.measured import fuels_asked
from gentle_ember.core.estimates.run_times import overfull, run_times
from gentle_ember.core.estimates.starts import in_turn, motor_starts
from gentle_ember.core.job.dates import CYLINDER_YEARS, dated
from gentle_ember.core.job.generator import CarburetorType, RunSwitch
from gentle_ember.core.job.handling import FACTORY_GAS
from gentle_ember.core.job.job import Decision, Job, Look, gasoline_given_up
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Caution, Plan, Severity, dated_caution
from gentle_ember.core.stages.intake.noise import too_loud
from gentle_ember.core.stages.intake.sketch import Distance, least_distances, measures
from gentle_ember.core.stages.intake.walk_round import Task, finding, walk_tasks, worn

_STOP, _CAUTION = Severity.STOP, Severity.CAUTION


GASOLINE_WORDS = {
    "e85": (
        _STOP,
        "E85 is in it: with this jet it runs far too lean, and it eats rubber and aluminum. Drain "
        "tank and bowl, fill with at most 10 % ethanol.",
    ),
    "e15": (
        _CAUTION,
        "E15 is in it: sold for cars, not for small engines, unless the maker of this one says so. "
        "Fill with at most 10 % ethanol.",
    ),
}


def intake_cautions(plan: Plan) -> Iterator[Caution]:
    """Everything of intake that stops or warns and can't be refused at one field."""
    yield from _of_machine(plan.job)
    yield from _of_findings(plan.job, plan.of(walk_tasks))
    yield from _of_site(plan)
    yield from _of_gasoline(plan.job)
    yield from _of_cylinders(plan.job, plan.catalog)
    yield from _of_dates(plan)
    yield from _of_noise(plan.job)
    yield from _of_legs(plan.job)
    yield from _of_outlets(plan.job)
    yield from _of_motors(plan)
    for key, site in plan.job.sites.items():
        yield from _of_sketch(key, measures(site, f"sites.{key}"))


def _of_legs(job: Job) -> Iterator[Caution]:
    """A leg of the output that would carry more than it can."""
    for one in leg_loads(job.set, job.load):
        leg = one.name.upper()
        if one.over:
            yield Caution(
                f"legs.{one.name}", _CAUTION, "intake",
                f"Leg {leg} would carry {one.carries.value:,.0f} W and gives "
                f"{one.limit_w:,.0f} W: its breaker trips or its winding burns. Put a load on the "
                "other leg, or let one wait.", "load.appliances",
            )  # fmt: skip


def _of_motors(plan: Plan) -> Iterator[Caution]:
    """A motor that does not start with all else running, on a fuel that is at hand or wanted."""
    resolved = rated(plan.job.set)
    if resolved is None:
        return
    motors = motor_starts(plan.job.set, plan.job.load, resolved)
    turns = {one.key: one for one in in_turn(motors, plan.job.load)}
    for one in motors:
        said: dict[str, list[str]] = {}
        for on in fuels_asked(plan):
            if not one.starts(on.starting.value):
                says = one.says(on.starting.value, turns[one.key])
                said.setdefault(says, []).append(on.fuel.name)
        for says, fuels in said.items():
            name = one.name[:1].upper() + one.name[1:]
            yield Caution(
                f"motors.{one.key}.{fuels[0]}", _CAUTION, "intake",
                f"{name} on {', '.join(fuels)}: {says.rstrip('.')}.", "load.appliances",
            )  # fmt: skip


def _of_outlets(job: Job) -> Iterator[Caution]:
    """A receptacle whose breaker would trip, and a load in a receptacle that is gone."""
    for one in outlet_loads(job.set, job.load):
        amps, name = f"{one.draws.value:.1f} A", one.name[:1].upper() + one.name[1:]
        if one.over:
            yield Caution(
                f"outlets.{one.key}", _CAUTION, "intake",
                f"{name} would carry {amps} and its breaker trips at {one.breaker_a:.0f} A: put a "
                "load in another receptacle, or let one wait.", "load.appliances",
            )  # fmt: skip
        elif one.long_over:
            yield Caution(
                f"outlets.{one.key}.long", _CAUTION, "intake",
                f"{name} would carry {amps}, more than four fifths of its {one.breaker_a:.0f} A: "
                "a warm breaker trips after hours.", "load.appliances",
            )  # fmt: skip


def _of_machine(job: Job) -> Iterator[Caution]:
    machine = job.set
    two = machine.carburetor.type is CarburetorType.TWO_BARREL
    if machine.cylinders == 1 and (two or machine.set_class is SetClass.V_TWIN):
        what = "A two-barrel carburetor" if two else "A V-twin"
        yield Caution(
            "one_cylinder", _CAUTION, "intake",
            f"{what} on an engine with one cylinder? Correct one of the two.", "set.cylinders",
        )  # fmt: skip
    yield from _of_filling(job)
    yield from _of_switches(job)
    solenoid = machine.carburetor.fuel_solenoid
    if solenoid is False and machine.stops_by in (RunSwitch.FUEL, RunSwitch.IGNITION_AND_FUEL):
        yield Caution(
            "switch", _CAUTION, "intake",
            "The run switch is said to cut fuel, but there is no fuel solenoid: look again.",
            "set.run_switch",
        )  # fmt: skip
    jets = machine.carburetor.jets
    told = {"believed": jets.believed, "published": jets.published, "stamped": jets.stamped}
    known = {name: one for name, one in told.items() if one.number is not None}
    if len({one.number.value for one in known.values() if one.number}) > 1:
        said = ", ".join(
            f"{name} {one.number.value:g}" + (f" ({one.source.strip()})" if one.source else "")
            for name, one in known.items()
            if one.number
        )
        yield Caution(
            "jets", _CAUTION, "intake",
            f"Jet numbers differ: {said}. Only the stamped one counts.",
            "set.carburetor.jets.stamped.number",
        )  # fmt: skip


def _of_switches(job: Job) -> Iterator[Caution]:
    """Switches that are begun and do not say yet what their positions do."""
    for key, one in job.set.switches.items():
        path, name = f"set.switches.{key}", one.name or "A switch"
        does = one.cuts_ignition or one.shuts_own or one.shuts_remote
        if len(one.positions) < 2 or not does:
            yield Caution(
                f"switch.{key}", _CAUTION, "intake",
                f"{name}: its positions differ in nothing yet. Say what each cuts or connects, "
                "else it counts for nothing.", f"{path}.positions",
            )  # fmt: skip
        names = [position.name or position.becomes for position in one.positions.values()]
        if len({*names}) < len(names) or not all(names):
            yield Caution(
                f"switch.{key}.names", _CAUTION, "intake",
                f"{name}: each position needs a name of its own, as it is printed there.",
                f"{path}.positions",
            )  # fmt: skip


def _of_filling(job: Job) -> Iterator[Caution]:
    """Cylinders that would have to draw more, or far less, than such an engine does."""
    resolved = rated(job.set)
    found = filling_at_rating(job.set, resolved) if resolved else None
    if found is None:
        return
    low, high = USUAL_FILLING
    if found.band.low > high or found.band.high < low:
        way = "more than they hold" if found.value > high else "far less than they hold"
        yield Caution(
            "filling", _CAUTION, "intake",
            f"At its rating the cylinders would have to draw {found.value:.2f} of their size, "
            f"{way}: the rating, the displacement or the class is not right.", "set.displacement",
        )  # fmt: skip


def _of_gasoline(job: Job) -> Iterator[Caution]:
    """More ethanol than the engine is made for, while gasoline is to be burnt in it."""
    if job.set.gasoline in GASOLINE_WORDS and not gasoline_given_up(job):
        severity, text = GASOLINE_WORDS[job.set.gasoline]
        yield Caution(
            "ethanol", severity, "first_start", text, "set.gasoline", fuel=FuelKey.GASOLINE
        )


def _of_noise(job: Job) -> Iterator[Caution]:
    for key, site in job.sites.items():
        if too_loud(job, key):
            yield Caution(
                f"loud.{key}", _CAUTION, "method",
                f"At {site.name or 'the site'} it may be louder at the neighbor's than is asked: "
                "farther off, behind a wall that is no box, or not in quiet hours.",
                f"sites.{key}.quiet_limit", key,
            )  # fmt: skip


def _of_dates(plan: Plan) -> Iterator[Caution]:
    """Cylinders whose stamp ran out, is about to, or can't be right."""
    for key, site in plan.job.sites.items():
        for name, cylinder in site.cylinders.items():
            years = CYLINDER_YEARS.get(cylinder.stamp)
            if plan.today is None or not cylinder.stamped or years is None:
                continue
            found = dated_caution(
                f"dated.{key}.{name}",
                f"The {cylinder.size} lb cylinder at {site.name or 'the site'}",
                dated(cylinder.stamped, years, plan.today),
                "it is not connected. Have it requalified, or exchange it.",
                f"sites.{key}.cylinders.{name}.stamped", "first_start", FACTORY_GAS, key,
            )  # fmt: skip
            if found is not None:
                yield found


def _of_findings(job: Job, tasks: tuple[Task, ...]) -> Iterator[Caution]:
    for task in tasks:
        if task.decision is Decision.STOP and not task.done:
            yield Caution(
                f"stopped.{task.key}", _STOP, "method",
                f"Stopped at the walk-round: {task.title.lower()}.", task.path,
            )  # fmt: skip
    oil, runs = finding(job, "oil"), finding(job, "runs")
    if oil.look is Look.BAD and not oil.done and runs.look is not Look.BAD:
        yield Caution(
            "oil", _CAUTION, "intake", "Don't start it before the oil is put right.", "findings.oil"
        )
    if worn(job) and finding(job, "compression").look is Look.NOT_LOOKED:
        yield Caution(
            "worn", _CAUTION, "method",
            "Compression or leak-down is measured before a worn engine is converted.",
            "findings.compression",
        )  # fmt: skip
    smell = finding(job, "oil_smell")
    if smell.look is Look.BAD and not smell.done:
        yield Caution(
            "crankcase", _STOP, "first_start",
            "Gasoline in the crankcase: no start before leak and oil are put right.",
            "findings.oil_smell",
        )  # fmt: skip


def _of_site(plan: Plan) -> Iterator[Caution]:
    for key, site in plan.job.sites.items():
        if site.storage == "indoors" and site.cylinders:
            yield Caution(
                f"storage.{key}", _STOP, "hand_over",
                "Propane cylinders are never stored indoors.", f"sites.{key}.storage",
            )  # fmt: skip
        least = least_distances(site)["cylinder"]
        for name, cylinder in site.cylinders.items():
            if cylinder.distance is not None and cylinder.distance.value < least:
                yield Caution(
                    f"near.{key}.{name}", _STOP, "first_start",
                    f"A cylinder is nearer to the set than {least:g} m: move it away.",
                    f"sites.{key}.cylinders.{name}.distance", key,
                )  # fmt: skip
        for name, gas in site.gases.items():
            runs = plan.at(key).of(run_times) if gas.meter else None
            if gas.meter is None or runs is None:
                continue
            demand = next(
                (one.heat.value for one in runs.full_load if one.fuel is FuelKey(gas.kind)), 0.0
            )
            others = gas.appliances.value if gas.appliances else 0.0
            if others + demand > gas.meter.value:
                yield Caution(
                    f"meter.{key}.{name}", _STOP, "fuel_path",
                    "Appliances and the set together draw more than the meter is rated for: "
                    "the utility must change it.", f"sites.{key}.gases.{name}.meter", key,
                )  # fmt: skip


def _of_sketch(site: str, found: tuple[Distance, ...]) -> Iterator[Caution]:
    for one in found:
        if not one.good:
            label = one.figure.label
            yield Caution(
                f"sketch.{site}.{one.key}", _STOP, "first_start",
                f"On the sketch, {label}: {one.trouble}. Move it, or the set.", one.path, site,
            )  # fmt: skip


def _of_cylinders(job: Job, catalog: Catalog) -> Iterator[Caution]:
    for site_key, site in job.sites.items():
        for key, at_hand in site.cylinders.items():
            size = catalog.cylinders.get(at_hand.size)
            path = f"sites.{site_key}.cylinders.{key}"
            if size is None:
                yield Caution(
                    f"{path}.size",
                    Severity.CAUTION,
                    "intake",
                    f"The catalog has no cylinder “{at_hand.size}”; choose a size it has.",
                    f"{path}.size",
                )
                continue
            if overfull(at_hand, size):
                yield Caution(
                    f"{path}.overfull",
                    Severity.STOP,
                    "intake",
                    f"The {size.name} cylinder holds more than its nominal mass: overfilled, "
                    "or the tare is wrong. Don't connect it; have it checked by a filler.",
                    f"{path}.weighed" if at_hand.weighed else f"{path}.fill",
                )
            if at_hand.shelter == "closed_locker":
                yield Caution(
                    f"{path}.locker",
                    Severity.CAUTION,
                    "intake",
                    "Cylinders belong outdoors and upright; a locker needs vents low down and "
                    "warms the cylinder only half as well.",
                    f"{path}.shelter",
                )

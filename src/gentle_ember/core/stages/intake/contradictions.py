"""Facts of a job that cannot both be true, each with the field to mend and a plain sentence.

These are refused when they are entered. What may come to clash by entering things in another
order, and must be looked at rather than refused, is a stop of `conflicts` instead.
"""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.base.quantities import INCH_WC_PA, PSI_PA
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.job import Decision, Job, Load, Look
from gentle_ember.core.job.site import Gas, Site
from gentle_ember.core.physics.fuels import GASOLINE_E10
from gentle_ember.core.stage import Refusal
from gentle_ember.core.stages.intake.sketch import (
    FLOOR_CYLINDER_M,
    FLOOR_OPENING_M,
    LEAST_CYLINDER_M,
    LEAST_OPENING_M,
)
from gentle_ember.core.stages.intake.walk_round import BY_KEY

HOUSE_PA = ((3.0 * INCH_WC_PA, 14.0 * INCH_WC_PA), (0.9 * PSI_PA, 5.5 * PSI_PA))
SPECIFIC_POWER_W_M3 = 75e6
"""75 kW per liter is past any small four-stroke at generator speed."""
WOBBE_J_M3 = (38e6, 58e6)
DELIVERED_J_L, BEST_EFFICIENCY = GASOLINE_E10.lhv_j_kg * GASOLINE_E10.density_kg_m3, 0.40

Found = Iterator[Refusal]


def contradictions(job: Job) -> list[Refusal]:
    """Facts of set, site, load and walk-round that do not go together."""
    found = [
        *_of_set(job.set),
        *_of_studs(job.set),
        *_of_runs(job.set),
        *_of_load(job.load, job.set),
        *_of_findings(job),
        *_in_the_way(job.set),
    ]
    for key, site in job.sites.items():
        found.extend(_of_site(site, f"sites.{key}"))
    if job.site not in job.sites:
        found.append(Refusal("site", "This site is not one of the job's sites."))
    return found


NEVER_CUT = {
    "canister": "A canister is moved, never cut off: the tank breathes through it.",
    "exhaust": "An exhaust is not cut: heat and carbon monoxide come out at the cut.",
}


def _in_the_way(machine: GeneratorSet) -> Found:
    for key, one in machine.in_the_way.items():
        if one.remedy == "cut" and one.what in NEVER_CUT:
            yield Refusal(f"set.in_the_way.{key}.remedy", NEVER_CUT[one.what])


def _more(a: Fact | None, b: Fact | None) -> bool:
    """Whether both are known and the first is greater."""
    return a is not None and b is not None and a.value > b.value


def _of_set(machine: GeneratorSet) -> Found:
    running, shaft, efficiency = (
        machine.running,
        machine.shaft_power,
        machine.alternator_efficiency,
    )
    if _more(running, machine.starting):
        yield Refusal("set.starting", "The starting rating can't be below the running rating.")
    if _more(running, shaft):
        yield Refusal("set.shaft_power", "The running rating is more than the shaft power gives.")
    elif running and shaft and efficiency and shaft.value * efficiency.value < 0.8 * running.value:
        yield Refusal(
            "set.alternator_efficiency",
            "Shaft power times this efficiency stays far below the running rating.",
        )
    size = machine.displacement
    for fact, path in ((shaft, "set.shaft_power"), (running, "set.running")):
        if fact and size and fact.value > SPECIFIC_POWER_W_M3 * size.value:
            yield Refusal(path, "That is more power than an engine of this displacement can give.")
            break
    if machine.bare:
        for told, path in (
            (machine.volts, "set.volts"), (machine.hertz, "set.hertz"),
            (machine.apparent, "set.apparent"), (machine.outlets, "set.outlets"),
            (machine.alternator_efficiency, "set.alternator_efficiency"),
        ):  # fmt: skip
            if told:
                yield Refusal(path, "A bare engine has no alternator: clear this, or its class.")
    if machine.phases == 3 and machine.volts and machine.volts.value < 180.0:
        yield Refusal("set.volts", "A three-phase set gives 180 V or more.")
    if machine.brand_new and machine.hours and machine.hours.value > 20 * 3600.0:
        yield Refusal("set.hours", "A brand-new set hasn't run over 20 hours.")
    if machine.brand_new and machine.idle and machine.idle.value > 2 * 365.25 * 86400:
        yield Refusal("set.idle", "A brand-new set hasn't stood for years.")


def _of_studs(machine: GeneratorSet) -> Found:
    bolt, stack = machine.studs, machine.stack
    if bolt.pitch and bolt.diameter and bolt.pitch.value >= 0.25 * bolt.diameter.value:
        yield Refusal("set.studs.pitch", "No stud of this diameter has so coarse a pitch.")
    if _more(stack.flange, bolt.stick_out):
        yield Refusal(
            "set.studs.stick_out",
            "The air-cleaner flange alone is thicker than the studs stick out.",
        )
    if bolt.nut_height and bolt.diameter and bolt.nut_height.value > 1.6 * bolt.diameter.value:
        yield Refusal("set.studs.nut_height", "No nut for this stud is so high.")


def _of_runs(machine: GeneratorSet) -> Found:
    running = machine.running
    for key, run in machine.run_times.items():
        if run.load and running and run.load.value > 1.1 * running.value:
            yield Refusal(
                f"set.run_times.{key}.load", "The load of this run is over the running rating."
            )
        volume = run.volume or machine.tank
        if run.load and run.duration and volume:
            delivered = run.load.value * run.duration.value
            if delivered > BEST_EFFICIENCY * DELIVERED_J_L * volume.value:
                yield Refusal(
                    f"set.run_times.{key}.duration",
                    "No engine runs this long at that load on so little gasoline.",
                )
    for key, weighing in machine.weigh_ins.items():
        if weighing.before and weighing.after and not _more(weighing.before, weighing.after):
            yield Refusal(
                f"set.weigh_ins.{key}.after", "The weight after is not below the weight before."
            )


def _of_load(load: Load, machine: GeneratorSet) -> Found:
    for key, one in load.appliances.items():
        if _more(one.running, one.starting):
            yield Refusal(
                f"load.appliances.{key}.starting", "It can't start on less than it runs on."
            )
        yield from _of_leg(machine, one.leg, f"load.appliances.{key}.leg")
    for key, outlet in machine.outlets.items():
        yield from _of_leg(machine, outlet.leg, f"set.outlets.{key}.leg")


def _of_leg(machine: GeneratorSet, leg: str, path: str) -> Found:
    """A leg the set is known not to have."""
    told = machine.volts is not None and machine.volts.value < 180.0 and machine.phases == 1
    if told and leg not in ("", "a"):
        yield Refusal(path, "This set has one leg only; put it on leg A.")
    elif leg == "c" and machine.phases == 1:
        yield Refusal(path, "Only a three-phase set has a leg C.")


def _of_site(site: Site, path: str) -> Found:
    if _more(site.coldest, site.hottest):
        yield Refusal(f"{path}.hottest", "The hottest is below the coldest.")
    for name, at_hand in site.cylinders.items():
        if _more(at_hand.tare, at_hand.weighed):
            yield Refusal(
                f"{path}.cylinders.{name}.weighed", "It weighs less than its stamped tare."
            )
    for name, gas in site.gases.items():
        yield from _of_gas(gas, f"{path}.gases.{name}")
    yield from _standoff(
        path, "least_opening", "an opening", site.least_opening, LEAST_OPENING_M, FLOOR_OPENING_M,
        site.least_opening_why, site.least_opening_by,
    )  # fmt: skip
    yield from _standoff(
        path, "least_cylinder", "a cylinder", site.least_cylinder, LEAST_CYLINDER_M,
        FLOOR_CYLINDER_M, site.least_cylinder_why, site.least_cylinder_by,
    )  # fmt: skip
    if sum(item.kind == "set" for item in site.sketch.items.values()) > 1:
        yield Refusal(f"{path}.sketch.items", "The sketch has the set twice.")


def _standoff(
    path: str,
    name: str,
    what: str,
    fact: Fact | None,
    least: float,
    floor: float,
    why: str,
    by: str,
) -> Found:
    """A distance below the usual one has its own reason and a name, and is never under a floor."""
    if fact is None or fact.value >= least:
        return
    if fact.value < floor:
        yield Refusal(
            f"{path}.{name}", f"Never nearer to {what} than {floor:g} m, whatever the reason."
        )
    elif not why.strip():
        yield Refusal(
            f"{path}.{name}",
            f"Nearer to {what} than {least:g} m only with the reason beside it: give that first.",
        )
    elif not by.strip():
        yield Refusal(
            f"{path}.{name}",
            f"Nearer to {what} than {least:g} m only with the name of who says so.",
        )


def _of_gas(gas: Gas, path: str) -> Found:
    if comes_from(gas.kind, FuelSource.HOUSE) and gas.pressure:
        pressure = gas.pressure.value
        if not any(low <= pressure <= high for low, high in HOUSE_PA):
            yield Refusal(
                f"{path}.pressure",
                "No house line has this pressure: 3 to 14 in w.c., or 1 to 5 psi at a 2 psi site.",
            )
    digested = comes_from(gas.kind, FuelSource.DIGESTER)
    if digested and gas.pressure and gas.pressure.value > 2 * PSI_PA:
        yield Refusal(f"{path}.pressure", "No farm digester is at over 2 psi.")
    if gas.hhv and gas.specific_gravity:
        wobbe = gas.hhv.value / gas.specific_gravity.value**0.5
        if not WOBBE_J_M3[0] <= wobbe <= WOBBE_J_M3[1]:
            yield Refusal(
                f"{path}.specific_gravity",
                "No utility's gas has this heating value and gravity together.",
            )
    if gas.cleaned and gas.sulfide and gas.sulfide.value > 1000e-6:
        yield Refusal(f"{path}.cleaned", "Over 1,000 ppm of hydrogen sulfide is not scrubbed gas.")


def _of_findings(job: Job) -> Found:
    for key, seen in job.findings.items():
        path = f"findings.{key}"
        if key not in BY_KEY:
            yield Refusal(path, "The walk-round has no such place.")
        elif seen.look is Look.GOOD and seen.decision is not Decision.OPEN:
            yield Refusal(f"{path}.decision", "A good finding needs no decision.")
        elif seen.done and not seen.by.strip():
            yield Refusal(f"{path}.done", "Say who did it.")
        elif seen.done and seen.decision is Decision.STOP:
            yield Refusal(f"{path}.decision", "Stopped and done don't go together.")
    runs, oil = job.findings.get("runs"), job.findings.get("oil")
    missing = oil is not None and oil.look is Look.BAD and "no oil" in oil.note.casefold()
    if runs is not None and runs.look is Look.GOOD and missing:
        yield Refusal("findings.oil", "It can't run well without oil.")

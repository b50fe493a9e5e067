"""Gas smelled: what to do at once, in order, for the gases of a job, and what comes next."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.fit import Smell
from gentle_ember.core.job.handling import HANDLING, FuelSource, Lies, comes_from
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.site import gases_here
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.fuels import (
    AIR_DENSITY_15C,
    FACTS,
    GASES,
    NAMES,
    USUAL_METHANE,
    FuelKey,
    biogas,
)
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES

AT_ONCE: tuple[tuple[str, str], ...] = (
    ("stop", "Stop work. Touch no switches, pull no plugs, no flame, no phone near it."),
    ("shut", "Shut the gas: {source}."),
    ("away", "Get everyone away, upwind and uphill. Nobody goes back for a tool."),
    ("air", "Open doors and covers to the wind. {sinks}"),
    ("call", "If you still smell gas after the source is closed, call the {call} from outside."),
)
NEXT: tuple[str, ...] = (
    "Nothing is smelled, low and high, and the wind has been through for 15 minutes. With biogas "
    "or gas without odor the nose proves nothing: a gas detector, low and high, and for hydrogen "
    "sulfide its own meter.",
    "Source still shut: soap on every joint opened today, then the one before it.",
    "Open the source a crack. Soap again, from the source on. Fix what leaks, then test every "
    "joint again.",
    "Write down what it was. Until then this job can't be signed off.",
)
LIGHT, HEAVY = 0.95, 1.02
"""Specific gravities below and above which a gas surely rises or sinks in still air."""
SOURCES: dict[str, str] = {
    fuel: HANDLING[fuel].shut for fuel in (*GASES, FuelKey.GASOLINE)
}  # fmt: skip


def at_once(fuels: Iterable[str], biogas_gravity: float = 1.0) -> tuple[tuple[str, str], ...]:
    """What to do at once, in order.

    Args:
        fuels: fuels of the job, or at hand while none is chosen; every source when empty.
        biogas_gravity: specific gravity of the site's biogas [1].

    >>> at_once(["propane"])[1][1]
    'Shut the gas: the cylinder valve, clockwise.'
    >>> "sinks" in at_once(["biogas"], 1.04)[3][1]
    True
    """
    held = [fuel for fuel in SOURCES if fuel in set(fuels)] or list(SOURCES)
    source = "; ".join(SOURCES[fuel] for fuel in held)
    sinks = []
    if any(HANDLING[FuelKey(fuel)].lies is Lies.LOW for fuel in held):
        low = ", ".join(NAMES[gas] for gas in GASES if HANDLING[gas].lies is Lies.LOW)
        sinks.append(f"{low.capitalize()} and vapor lie low: air the floor, pits and drains.")
    sinks += [f"{NAMES[FuelKey(fuel)].capitalize()} rises: ventilate high up."
              for fuel in held if HANDLING[FuelKey(fuel)].lies is Lies.HIGH]  # fmt: skip
    if any(HANDLING[FuelKey(fuel)].lies is Lies.BY_WEIGHT for fuel in held):
        way = "rises" if biogas_gravity < LIGHT else "sinks" if biogas_gravity > HEAVY else (
            "neither rises nor sinks for sure"
        )  # fmt: skip
        sinks.append(
            f"This biogas {way}, and raw biogas carries hydrogen sulfide, which lies low: air high "
            "and low, and stay out of pits."
        )
    call = "fire department"
    if any(comes_from(fuel, FuelSource.HOUSE) for fuel in held):
        call = f"gas utility or the {call}"
    words = {"source": source, "sinks": " ".join(sinks), "call": call}
    return tuple((key, text.format(**words)) for key, text in AT_ONCE)


def taken_down(job: Job, at: str, by: str, on: str) -> Iterator[Change]:
    """A smell noted elsewhere in the job, as a smell of its own; nothing where it is one already.

    Args:
        job: the job.
        at: where it was noted, as the smell's key; what is too long is cut at the front.
        by: who smelled it.
        on: when.
    """
    key = at.replace("_", "-")[-40:].strip("-")
    if key not in job.fit.smelled:
        yield Change(f"fit.smelled.{key}", Smell(by=by, on=on).model_dump(mode="json"))


@dataclass(frozen=True, slots=True)
class Drill:
    """What to do at once when gas is smelled at a job, and what comes next."""

    at_once: tuple[tuple[str, str], ...]
    next: tuple[str, ...]


def drill(plan: Plan) -> Drill:
    """The drill for the gases of a job: of its trains, of somebody else's, of what is at hand."""
    job = plan.job
    fuels = {name for name in job.trains if name != AS_FOUND}
    found = job.trains.get(AS_FOUND)
    if found is not None and found.template in TEMPLATES:
        fuels.add(str(TEMPLATES[found.template].fuel))
    for site in job.sites.values():
        fuels |= set(map(str, gases_here(site)))
    lightest = min(
        (gas.methane.value if gas.methane else USUAL_METHANE
         for site in job.sites.values() for gas in site.gases.values()
         if FACTS[gas.kind].by_methane),
        default=USUAL_METHANE,
    )  # fmt: skip
    gravity = biogas(lightest).density_kg_m3 / AIR_DENSITY_15C
    return Drill(at_once(fuels, gravity), NEXT)


SMELLED = (
    "Gas was smelled, and nobody has cleared it. Shut off the gas. Get everyone out. Ventilate. "
    "Find the leak before anything goes on."
)

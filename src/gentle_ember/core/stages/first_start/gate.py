"""The start gate of each fuel: what is looked at before the first pull, and proven after it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.job.generator import Vent
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.stages.fuel_path.trains import TrainSection

NEVER_CHOKE = (
    "spacer_adapter",
    "snorkel",
    "two_barrel_adapter",
    "second_gas",
    "exchanged_carburetor",
)


class When(StrEnum):
    """When something is looked at."""

    BEFORE = "before"
    AFTER = "after"


@dataclass(frozen=True, slots=True)
class Look:
    """Something to look at, and why."""

    key: str
    when: When
    text: str
    why: str


def looks(job: Job, fuel: str, section: TrainSection) -> tuple[Look, ...]:
    """Everything looked at for a fuel, before and after its first start, by method and set."""
    if fuel == "gasoline":
        return (*_machine(job), *_tank(job, section))
    return (*_machine(job), *_gas(job, fuel, section), *_proof(job, fuel))


def choke_stays_open(job: Job) -> bool:
    """Whether gas is started with the choke open: a demand valve wants its depression."""
    return any(method in NEVER_CHOKE for method in job.choice.methods)


def _machine(job: Job) -> Iterator[Look]:
    before = When.BEFORE
    yield Look(
        "outdoors",
        before,
        "Outdoors, 6 m (20 ft) from any opening, exhaust away.",
        "Carbon monoxide kills; a CO alarm is inside.",
    )
    yield Look(
        "oil",
        before,
        "Oil at the mark, and smelling of oil.",
        "Oil that smells of gasoline came past a stuck float.",
    )
    yield Look(
        "boot",
        before,
        "Plug boot and battery back on, tools off the machine."
        if job.set.electric_start
        else "Plug boot back on, tools off the machine.",
        "They came off before the work.",
    )
    yield Look("switch", before, "Stop switch at run.", "The first thing forgotten.")
    yield Look(
        "cleaner",
        before,
        "Air cleaner closed, all clips home.",
        "A demand valve opens on the depression behind it.",
    )
    if job.set.set_class in INVERTERS:
        yield Look("eco", before, "Eco off.", "It starts and is set at full speed first.")


def _gas(job: Job, fuel: str, section: TrainSection) -> Iterator[Look]:
    before = When.BEFORE
    kinds = {one.part.kind for one in section.case.parts if one.part is not None}
    if choke_stays_open(job):
        yield Look(
            "choke",
            before,
            "Choke open.",
            "Shut, it keeps the air from the throat: no depression, no gas.",
        )
    else:
        yield Look(
            "choke",
            before,
            "Choke as on gasoline.",
            "This carburetor has its gas valve behind the choke.",
        )
    if job.set.brand_new:
        yield Look(
            "gasoline_off",
            before,
            "Gasoline shut, bowl never filled.",
            "A new set may go onto gas before it sees gasoline.",
        )
    elif job.wants.keep_gasoline:
        yield Look(
            "baseline",
            before,
            "Ran on gasoline just now, at the load noted.",
            "Proof that nothing was upset, and the oil is warm.",
        )
        yield Look(
            "bowl",
            before,
            "Gasoline shut and the bowl run dry.",
            "Two fuels at once are far too rich.",
        )
    if job.set.shut_off is False:
        yield Look(
            "shut_off",
            before,
            "The shut-off fitted for gasoline is closed.",
            "A set without one feeds both fuels.",
        )
    if PartClass.LOCK_OFF in kinds:
        yield Look(
            "lock_off",
            before,
            "Lock-off powered, grounded, and clicking with the key.",
            "Without the click there is no gas, or no way to stop it.",
        )
    if fuel == "propane":
        yield Look(
            "cylinder",
            before,
            "Cylinder upright, 1.5 m (5 ft) off, opened slowly.",
            "Opened fast, its excess-flow valve shuts: close, wait, open slowly.",
        )
    else:
        yield Look(
            "line",
            before,
            "Coupler home and tugged, then the shut-off opened slowly.",
            "The valve is this side's shut-off, not the coupler.",
        )
    yield Look(
        "purged",
        before,
        "Air out of the hose: primer held a second, outdoors, no spark.",
        "A hose full of air starts nothing.",
    )
    yield Look(
        "plug",
        before,
        "Plug gap at the gas figure, plug dry.",
        "Gas needs a stronger spark to fire.",
    )
    if PartClass.LOAD_SCREW in kinds:
        yield Look(
            "screw",
            before,
            "Load screw at its starting turns from the seat.",
            "See Metering for where.",
        )


def _proof(job: Job, fuel: str) -> Iterator[Look]:
    after = When.AFTER
    yield Look(
        "proof",
        after,
        "Its valve closed, it dies; and how long that took.",
        "Only then is it known what it ran on.",
    )
    yield Look(
        "restart",
        after,
        "Starts again warm, the way the card will say.",
        "The owner will do it alone.",
    )
    if job.wants.keep_gasoline:
        yield Look(
            "change_over",
            after,
            "Changed over to gasoline and back; seconds noted.",
            "The owner's first question: does it still run as before?",
        )
        yield Look(
            "gasoline_after",
            after,
            "On gasoline again, at the same load as before.",
            "What the adapter costs is a number, not a feeling.",
        )
    yield Look(
        "labels",
        after,
        "Each dial and valve position proven against its label.",
        "A label that lies is worse than none.",
    )


def _tank(job: Job, section: TrainSection) -> Iterator[Look]:
    before, after = When.BEFORE, When.AFTER
    kinds = {one.part.kind for one in section.case.parts if one.part is not None}
    yield Look(
        "vent",
        before,
        "The remote tank's vent is open and lets air in.",
        "If this vent is blocked, fuel stops flowing almost at once.",
    )
    if job.set.tank_vent in (Vent.CAP_LEVER, Vent.CAP_OPEN):
        yield Look(
            "own_vent",
            before,
            "The set's own cap: vent as shown for this state.",
            "An open vent lets a full tank out onto the engine.",
        )
    yield Look(
        "tank_valve",
        before,
        "Shut-off at the tank turns and shuts.",
        "If the hose comes off, only this valve stops the fuel.",
    )
    if PartClass.BULB in kinds:
        yield Look(
            "arrow", before, "Arrow on the bulb toward the set.", "Backward it pumps nothing."
        )
        yield Look(
            "bulb",
            before,
            "Bulb firm after a few squeezes, and stays so.",
            "Soft again: air drawn somewhere, or a valve inside that leaks.",
        )
    if PartClass.FUEL_HALF in kinds:
        yield Look(
            "spray",
            before,
            "No spray when the coupler goes on.",
            "A closed tank in the sun builds up pressure: vent it first.",
        )
    yield Look(
        "own_shut", after, "Runs with its own tank shut.", "It runs on the remote tank, then."
    )
    yield Look(
        "own_level",
        after,
        "Its own tank's level does not rise while it runs.",
        "Both open overfill the small tank through its vent, onto a hot engine.",
    )
    if PartClass.SELECTOR in kinds:
        yield Look(
            "selector",
            after,
            "Try every position of the selector: each does what its label shows. Where there is a "
            "micro-switch, creep toward it and stop short of it.",
            "Past the switch it stops; before it both may be open.",
        )
    yield Look("died", after, "The tank's valve shut, it dies.", "Proof of fuel.")

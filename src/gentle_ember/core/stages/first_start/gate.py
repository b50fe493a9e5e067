"""The start gate of each fuel: what is looked at before the first pull, and proven after it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.job.generator import Vent
from gentle_ember.core.job.handling import HANDLING, FuelSource, comes_from
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.physics.fuels import FuelKey, fuel_name
from gentle_ember.core.stages.fuel_path.templates import same_half
from gentle_ember.core.stages.fuel_path.trains import TrainSection
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.ways import taken


class When(StrEnum):
    """When something is looked at."""

    BEFORE = "before"
    AFTER = "after"


@dataclass(frozen=True, slots=True)
class StartLook:
    """Something to look at, and why."""

    key: str
    when: When
    text: str
    why: str


def looks(job: Job, fuel: str, section: TrainSection | None) -> tuple[StartLook, ...]:
    """Everything looked at for a fuel, before and after its first start, by method and set.

    Without a train of its own gasoline comes from the set's own tank, as it always did.
    """
    if section is None and fuel != "gasoline":
        return (*_machine(job), *_factory_gas(job))
    if section is None:
        return (*_machine(job), *_own_gasoline(job))
    if fuel == "gasoline":
        return (*_machine(job), *_tank(job, section))
    return (*_machine(job), *_gas(job, fuel, section), *_proof(job, fuel, section))


COLD_PULLS = 2
"""Pulls with the choke half shut, where a job goes by that when it is cold."""


def choke_stays_open(job: Job, pulls: int = 0) -> bool:
    """Whether gas is started with the choke open after so many pulls, by the way gone by."""
    way = taken(job, "choke")
    return way == "never" or (way == "cold" and pulls > COLD_PULLS)


def _machine(job: Job) -> Iterator[StartLook]:
    before = When.BEFORE
    yield StartLook(
        "outdoors",
        before,
        "Outdoors, 6 m (20 ft) from any opening, exhaust away; no exhaust pipe added, no box or "
        "cover it was not made for.",
        "Carbon monoxide kills; a CO alarm is inside. A pipe or a box chokes and overheats it.",
    )
    yield StartLook(
        "oil",
        before,
        "Oil at the mark, and smelling of oil.",
        "Oil that smells of gasoline came past a stuck float.",
    )
    yield StartLook(
        "boot",
        before,
        "Proven tight: only now plug boot and battery back on, tools off the machine."
        if job.set.electric_start
        else "Proven tight: only now the plug boot back on, tools off the machine.",
        "They stay off while gas is let in and soaped: no spark before it is tight.",
    )
    yield StartLook("switch", before, "Stop switch at run.", "The first thing forgotten.")
    yield StartLook(
        "unloaded",
        before,
        "Clutch out or belt off: it drives nothing; guard on."
        if job.set.bare
        else "Breaker off, nothing plugged in.",
        "It starts without load, and cools down without load before it is stopped.",
    )
    yield StartLook(
        "cleaner",
        before,
        "Air cleaner closed, all clips home.",
        "A demand valve opens on the depression behind it, and a backfire goes out through it.",
    )
    if job.set.set_class in INVERTERS:
        yield StartLook("eco", before, "Eco off.", "It starts and is set at full speed first.")


CYLINDER_STANDS = StartLook(
    "cylinder",
    When.BEFORE,
    "Cylinder upright and tied against tipping, 1.5 m (5 ft) from the set; 3 ft from any "
    "opening lower than it and 5 ft from what can ignite.",
    "What its relief valve lets out sinks and runs to the lowest opening.",
)
CHOKE = {
    "never": (
        "Choke open.",
        "The demand regulator opens on the suction at the throat, and a shut choke takes the air "
        "that makes it.",
    ),
    "cold": (
        "Choke half shut for the first two pulls of a cold engine, then open.",
        "A little more suction wakes the demand regulator; shut for longer it drowns in gas.",
    ),
    "as_before": (
        "Choke as the maker of this carburetor says for gas.",
        "Its gas valve sits behind the choke.",
    ),
}
BOWL = {
    "run_dry": "Gasoline shut and the bowl run dry.",
    "drained": "Gasoline shut and the bowl drained at its screw, the jar away.",
    "on_the_fly": "Gasoline shut and the bowl empty: the first start on gas is made at rest, "
    "changing over while it runs comes after it.",
}


def _gas(job: Job, fuel: str, section: TrainSection) -> Iterator[StartLook]:
    before = When.BEFORE
    has = section.case.of
    text, why = CHOKE[taken(job, "choke")]
    yield StartLook("choke", before, text, why)
    if job.set.brand_new:
        yield StartLook(
            "gasoline_off",
            before,
            "Gasoline shut, bowl never filled.",
            "A new set may go onto gas before it sees gasoline.",
        )
    elif job.wants.keep_gasoline:
        yield StartLook(
            "baseline",
            before,
            "Ran on gasoline just now, at the load noted.",
            "Proof that nothing was upset, and the oil is warm.",
        )
        yield StartLook(
            "bowl", before, BOWL[taken(job, "bowl")], "Two fuels at once are far too rich."
        )
    if job.set.own_shut is False and job.wants.keep_gasoline:
        yield StartLook(
            "shut_off",
            before,
            "The carburetor's own gasoline valve is shut."
            if "multi_fuel_carburetor" in job.choice.methods
            else "The shut-off fitted for gasoline is closed.",
            "Open, both fuels feed at once.",
        )
    selects = HANDLING[FuelKey(fuel)].selects
    if selects and Case(job).has_gas_selector(job.choice.methods):
        yield StartLook(
            "gas_selector",
            before,
            f"The carburetor's gas selector on {selects}, up to its stop.",
            "For the other gas, or between, it meters lean or far too rich.",
        )
    if has(PartClass.LOCK_OFF):
        yield StartLook(
            "lock_off",
            before,
            "Lock-off grounded; it clicks with the switch on, and again with it off.",
            "Without the click there is no gas, or no way to shut it.",
        )
    if comes_from(fuel, FuelSource.CYLINDER):
        yield CYLINDER_STANDS
        yield StartLook(
            "cylinder_sound",
            before,
            "Cylinder in date (stamped), with its overfill stop where it is 40 lb or less; no "
            "dents, deep rust or bent foot ring; a new one purged by its filler.",
            "One out of date or damaged is not connected. Air and water left in a new one freeze "
            "the regulator and take the smell from the gas.",
        )
        yield StartLook(
            "opened",
            before,
            "Opened slowly.",
            "Opened fast, its excess-flow valve shuts: close, wait, open slowly.",
        )
    else:
        yield StartLook(
            "line",
            before,
            "Coupler home and tugged, then the shut-off opened slowly.",
            "The valve is this side's shut-off, not the coupler.",
        )
    if comes_from(fuel, FuelSource.DIGESTER):
        yield StartLook(
            "sulfide",
            before,
            "Hydrogen sulfide measured at the set; a personal meter is worn.",
            "It deadens the sense of smell before it harms: the nose warns of nothing.",
        )
    if same_half(job, fuel):
        yield StartLook(
            "hose_on",
            before,
            f"The hose that is on is the one for {fuel_name(fuel)}, by its tag; the other is shut "
            "at its source, capped and away.",
            "The coupler takes both gases, and each is metered otherwise.",
        )
    yield StartLook(
        "hoses",
        before,
        "Hoses and pigtails in date, not cracked, kinked or flattened.",
        "Rubber ages from the day it was made: past the maker's date it is replaced.",
    )
    yield StartLook(
        "vents",
        before,
        "Regulator vents point down or lead away, screens whole; 3 ft from openings, 5 ft from "
        "air intakes and what can ignite.",
        "A torn diaphragm lets gas out there, and ice or a nest in it raises the outlet pressure.",
    )
    yield StartLook(
        "purged",
        before,
        "Air out of the hose: primer held a second, outdoors, no spark.",
        "A hose full of air starts nothing.",
    )
    yield StartLook(
        "plug",
        before,
        "Plug gap at the gas figure, plug dry; same or colder heat range, resistor type as fitted.",
        "Gas needs more voltage to fire than gasoline does.",
    )
    if not has(PartClass.DEMAND):
        yield StartLook(
            "built_in",
            before,
            "The carburetor's own gas valve held back the gas while its joints were soaped: the "
            "film over its air horn stayed still.",
            "It is the only thing that shuts at a stall.",
        )
    if has(PartClass.LOAD_SCREW):
        yield StartLook(
            "screw",
            before,
            "Load screw at its starting turns from the seat.",
            "See Metering for where.",
        )
    if has(PartClass.GAS_JET):
        yield StartLook(
            "gas_jet",
            before,
            "The gas jet that is in is the one of this gas: its size read off it.",
            "The other gas's jet runs it too lean for its valves, or too rich for the room.",
        )


NO_LOAD = (1.0167, 1.0417)
"""Frequency at no load over the plate's: a governor gives way by so much up to full load."""
RACES = 1.08
"""Past this what is plugged in is harmed, and the engine turns faster than it was made to."""


def plate_hz(job: Job) -> float:
    """Frequency of the plate [Hz]; 60 where none says."""
    return job.set.hertz.value if job.set.hertz else 60.0


def no_load_hz(job: Job) -> tuple[float, float]:
    """Frequency a set is left at without load [Hz], low and high; 60 Hz where no plate says.

    >>> from gentle_ember.core.job.job import Job
    >>> [round(one, 1) for one in no_load_hz(Job(title="a"))]
    [61.0, 62.5]
    """
    return plate_hz(job) * NO_LOAD[0], plate_hz(job) * NO_LOAD[1]


def _proof(job: Job, fuel: str, section: TrainSection) -> Iterator[StartLook]:
    after = When.AFTER
    yield StartLook(
        "proof",
        after,
        "Its valve closed, it dies; and how long that took.",
        "Only then is it known what it ran on.",
    )
    yield StartLook(
        "stop_switch",
        after,
        "Stop switch off while it runs on this gas: it stops.",
        "A switch that cuts gasoline only stops nothing on gas.",
    )
    yield StartLook(
        "stall",
        after,
        "Stalled with the source open, no gas comes: nothing hisses, nothing smells, a film over "
        "the air cleaner's mouth stays still.",
        "At a stall nobody is there to shut the valve: the demand regulator must.",
    )
    if section.case.of(PartClass.LOCK_OFF):
        yield StartLook(
            "key_off",
            after,
            "Key off with the source open: the lock-off clicks shut, and nothing hisses after it.",
            "It shuts with the switch; at a stall the demand regulator does.",
        )
    yield StartLook(
        "low_oil",
        after,
        "Low-oil switch tried, where it has one: it stops on this gas.",
        "Wired to a fuel solenoid alone it would not.",
    )
    if comes_from(fuel, FuelSource.HOUSE):
        yield StartLook(
            "outlet_capped",
            after,
            "Hose off: the house outlet is shut, and its cap is on gas-tight.",
            "A coupler half is no cap, and somebody opens the valve by mistake.",
        )
    yield StartLook(
        "warm_soap",
        after,
        "Joints on and near the engine soaped again, warm, source open.",
        "What is tight cold can open when it shakes and warms.",
    )
    if job.set.bare:
        yield StartLook(
            "governor",
            after,
            "No load, warm: at its working speed by a tachometer, set at the governor where it is "
            "not; the value noted.",
            "Another fuel, another linkage: too fast it throws what it drives apart.",
        )
    elif job.set.set_class not in INVERTERS:
        low, high = no_load_hz(job)
        yield StartLook(
            "governor",
            after,
            f"No load, warm: {low:.0f} to {high:.1f} Hz, set at the governor where it is not; "
            "the value noted.",
            "Another fuel, another linkage: hertz and volts at no load decide them under load.",
        )
    yield StartLook(
        "restart",
        after,
        "Starts again warm, the way the card will say.",
        "The owner will do it alone.",
    )
    if job.wants.keep_gasoline:
        yield StartLook(
            "change_over",
            after,
            "Changed over to gasoline and back; seconds noted.",
            "The owner's first question: does it still run as before?",
        )
        yield StartLook(
            "gasoline_after",
            after,
            "On gasoline again, at the same load as before.",
            "What the adapter costs is a number, not a feeling.",
        )
    yield StartLook(
        "labels",
        after,
        "Each dial and valve position proven against its label.",
        "A label that lies is worse than none.",
    )


def _factory_gas(job: Job) -> Iterator[StartLook]:
    """On propane as its maker made it, beside what this job added."""
    before, after = When.BEFORE, When.AFTER
    yield CYLINDER_STANDS
    yield StartLook(
        "selector",
        before,
        "Its own selector on propane, gasoline shut, as its maker says.",
        "Between two fuels it gets both, or neither.",
    )
    yield StartLook(
        "other_capped",
        before,
        "The inlet this job added is capped, its hose off.",
        "An open inlet draws air, and a second hose brings a second gas.",
    )
    yield StartLook("opened", before, "Opened slowly.", "Opened fast, its excess-flow valve shuts.")
    yield StartLook(
        "proof", after, "Its valve closed, it dies.", "Only then is it known what it ran on."
    )
    yield StartLook(
        "stop_switch",
        after,
        "Stop switch off while it runs on propane: it stops.",
        "It is the owner's way to stop it.",
    )
    yield StartLook(
        "locks_up", after, "Stopped, valve open: its regulator is silent, nothing smells.",
        "A regulator that creeps is replaced by its maker's own before it is run again.",
    )  # fmt: skip


def _own_gasoline(job: Job) -> Iterator[StartLook]:
    """From its own tank, after something was done at the carburetor or on the air side."""
    before, after = When.BEFORE, When.AFTER
    if job.set.tank_vent is Vent.CAP_LEVER:
        yield StartLook(
            "own_vent", before, "Tank vent open.", "A shut vent starves it after some minutes."
        )
    yield StartLook(
        "bowl_filled",
        before,
        "Gasoline on, the bowl filled, then ten minutes waited.",
        "A needle that does not seat shows while nothing turns yet.",
    )
    yield StartLook(
        "no_drip",
        before,
        "No drip at the bowl, its drain screw and the fuel line; the intake is dry.",
        "What drips in ten minutes runs onto a hot engine.",
    )
    if job.set.set_class in INVERTERS:
        yield StartLook(
            "panel_off",
            before,
            "Service cover still off, its leads clear of what turns.",
            "The first minutes are watched at the carburetor; the cover goes on when it is dry.",
        )
    yield StartLook(
        "warm_dry",
        after,
        "Warm, and still dry at bowl, drain screw and line.",
        "A gasket that seals cold can let go when it warms.",
    )
    yield StartLook(
        "takes_load",
        after,
        "Choke off, it takes a load at once without hunting or coughing.",
        "The jet, the link and the springs are where they belong.",
    )
    yield StartLook(
        "stop_switch", after, "Stop switch off: it stops.", "It is the owner's way to stop it."
    )


OWN_VENT = {
    "close": "The set's own cap: vent shut, as shown for this state.",
    "leave": "The set's own cap left as it is; its level noted.",
    "crack": "The set's own cap cracked until it breathes, its tank not full.",
}


def _tank(job: Job, section: TrainSection) -> Iterator[StartLook]:
    before, after = When.BEFORE, When.AFTER
    has = section.case.of
    yield StartLook(
        "filled",
        before,
        "Filled cool and outdoors, nozzle touching the tank, nothing spilled, cap on.",
        "A spark of static lights vapor; so does a hot muffler.",
    )
    yield StartLook(
        "vent",
        before,
        "The remote tank's vent is open and lets air in.",
        "If this vent is blocked, fuel stops flowing almost at once.",
    )
    if job.set.tank_vent in (Vent.CAP_LEVER, Vent.CAP_OPEN):
        yield StartLook(
            "own_vent",
            before,
            OWN_VENT[taken(job, "own_vent")],
            "An open vent lets a full tank out onto the engine.",
        )
    yield StartLook(
        "tank_valve",
        before,
        "Shut-off at the tank turns and shuts.",
        "If the hose comes off, only this valve stops the fuel.",
    )
    if has(PartClass.BULB):
        yield StartLook(
            "arrow", before, "Arrow on the bulb toward the set.", "Backward it pumps nothing."
        )
        yield StartLook(
            "bulb",
            before,
            "Bulb firm after a few squeezes, and stays so.",
            "Soft again: air drawn somewhere, or a valve inside that leaks.",
        )
    if has(PartClass.FUEL_HALF):
        yield StartLook(
            "spray",
            before,
            "No spray when the coupler goes on.",
            "A closed tank in the sun builds up pressure: vent it first.",
        )
    yield StartLook(
        "own_shut", after, "Runs with its own tank shut.", "It runs on the remote tank, then."
    )
    yield StartLook(
        "own_level",
        after,
        "Its own tank's level does not rise while it runs.",
        "Both open overfill the small tank through its vent, onto a hot engine.",
    )
    if has(PartClass.SELECTOR):
        yield StartLook(
            "selector",
            after,
            "Try every position of the selector: each does what its label shows. Where there is a "
            "micro-switch, creep toward it and stop short of it.",
            "Past the switch it stops; before it both may be open.",
        )
    yield StartLook(
        "stop_switch", after, "Stop switch off: it stops.", "It is the owner's way to stop it."
    )
    yield StartLook("died", after, "The tank's valve shut, it dies.", "Proof of fuel.")

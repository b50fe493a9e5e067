"""Judges of the schools that put gas into the engine."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import CarburetorType, Choke, RunSwitch
from gentle_ember.core.job.handling import FACTORY_GAS, SELECTED, FuelSource, comes_from, of_source
from gentle_ember.core.job.job import Look
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.job.site import Gas
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.method.base import Case, Reason, fits, no, unknown, work
from gentle_ember.core.stages.method.stack import mm, reach, stack_room

WINDOW_PA = (4 * INCH_WC_PA, 14 * INCH_WC_PA)
SULFIDE_LIMIT = 200e-6
REGULATOR_ROOM_M, CONTROL_VALVE_ROOM_M = 0.060, 0.045
LISTED_M3 = (150e-6, 460e-6)
SMALL_CYLINDERS = ("5", "10", "11", "20", "30", "40")


def one_barrel(case: Case) -> Iterator[Reason]:
    """A single-barrel float carburetor is what a plain mixer feeds."""
    path, kind = "set.carburetor.type", case.set.carburetor.type
    if kind is CarburetorType.UNKNOWN:
        yield unknown("Look at the carburetor: one barrel, two, or multi-fuel?", path)
    elif kind is CarburetorType.TWO_BARREL:
        yield no("Two barrels: one mixer would feed one side only.", path)
    elif kind is CarburetorType.MULTI_FUEL and case.set.dual_fuel:
        yield fits("One barrel; its own gas inlet is its maker's.", path)
    elif kind is CarburetorType.MULTI_FUEL:
        yield no("The carburetor has a gas inlet already: give that one the second gas.", path)
    else:
        yield fits("One barrel with a float bowl.", path)


def gas_here(case: Case) -> Iterator[Reason]:
    """There must be a gas, at a pressure a demand regulator takes, and clean."""
    if not case.gases:
        yield no("No gas on this site yet: add cylinders or a gas.", f"{case.at}.cylinders")
        return
    if case.site.cylinders and set(of_source(FuelSource.CYLINDER)) & set(case.for_gas):
        yield fits("Propane cylinders at hand.", f"{case.at}.cylinders")
    for key, gas in sorted(case.site.gases.items()):
        if FuelKey(gas.kind) not in case.for_gas:
            continue
        path = f"{case.at}.gases.{key}"
        built = {part.kind for part in case.train(FuelKey(gas.kind)) or ()}
        yield from _pressure(gas, built, f"{path}.pressure")
        raw = comes_from(gas.kind, FuelSource.DIGESTER)
        if raw and {PartClass.SCRUBBER, PartClass.DRIP_LEG} <= built:
            yield fits("Its train scrubs the gas and drains its water.", f"{path}.cleaned")
        elif raw:
            yield from _clean(gas.sulfide, cleaned=gas.cleaned, path=path)


def _pressure(gas: Gas, built: set[PartClass], path: str) -> Iterator[Reason]:
    """Whether what the supply gives is in a demand regulator's window, or its train sees to it."""
    if gas.pressure is None:
        if comes_from(gas.kind, FuelSource.DIGESTER):
            yield unknown("Measure the digester's pressure.", path)
    elif gas.pressure.value < WINDOW_PA[0] and PartClass.BOOSTER in built:
        yield fits("Supply is under 4 in w.c.; its train has a blower.", path)
    elif gas.pressure.value > WINDOW_PA[1] and PartClass.LINE_REGULATOR in built:
        yield fits("Supply is over 14 in w.c.; its train has a line regulator.", path)
    elif gas.pressure.value < WINDOW_PA[0]:
        yield work(
            "Supply is under 4 in w.c., below a demand regulator's window: a blower, or a "
            "zero-pressure path.",
            path,
        )
    elif gas.pressure.value > WINDOW_PA[1]:
        yield work(
            "Supply is over 14 in w.c.: a line regulator before the demand regulator.",
            path,
        )
    else:
        yield fits("Supply pressure lies in a demand regulator's window.", path)


def _clean(sulfide: Fact | None, *, cleaned: bool | None, path: str) -> Iterator[Reason]:
    if sulfide is None:
        yield unknown(
            "Have the hydrogen sulfide measured: it is toxic and eats copper and brass.",
            f"{path}.sulfide",
        )
    elif sulfide.value > SULFIDE_LIMIT and cleaned is not True:
        yield work("Hydrogen sulfide over 200 ppm: scrub and dry the gas first.", f"{path}.sulfide")
    else:
        yield fits("Hydrogen sulfide is low enough, or scrubbed.", f"{path}.sulfide")
    if cleaned is None:
        yield unknown("Is the gas scrubbed and dried?", f"{path}.cleaned")
    elif not cleaned:
        yield work("Biogas is wet: a drip leg and drying before the regulator.", f"{path}.cleaned")


def gasoline_held(case: Case) -> Iterator[Reason]:
    """Where gasoline is kept, something must shut it while gas feeds."""
    if not case.job.wants.keep_gasoline:
        yield fits(
            "Gasoline is given up: tank and bowl are drained for good.", "wants.keep_gasoline"
        )
        return
    path, there = "set.shut_off", case.set.own_shut
    if there is None:
        yield unknown("Is there a gasoline shut-off between tank and bowl?", path)
    elif there:
        yield fits("A gasoline shut-off is there: the bowl can be run dry.", path)
    else:
        yield work("No gasoline shut-off: both fuels would feed. Add one in the line.", path)


def stops(case: Case) -> Iterator[Reason]:
    """The run switch must stop the engine on gas too."""
    path, switch = "set.run_switch", case.set.stops_by
    if switch is RunSwitch.UNKNOWN:
        yield unknown("What does the run switch cut: ignition, fuel, or both?", path)
    elif switch is RunSwitch.FUEL:
        yield work("The switch cuts gasoline only: on gas it would run on. Cut ignition too.", path)
    else:
        yield fits("The run switch cuts the ignition, so it stops on gas too.", path)


def regulator_place(case: Case) -> Iterator[Reason]:
    """A face for the demand regulator, with room behind."""
    if not case.set.faces:
        yield unknown("Find and measure a face for the demand regulator.", "set.faces")
        return
    good = False
    found: list[Reason] = []
    for key, face in sorted(case.set.faces.items()):
        name, path = face.name or "this face", f"set.faces.{key}"
        if face.behind in ("tank", "exhaust"):
            what = "the tank" if face.behind == "tank" else "the exhaust"
            found.append(work(f"Behind {name} is {what}: no hole there.", f"{path}.behind"))
        elif face.room is None:
            found.append(unknown(f"Measure the room behind {name}.", f"{path}.room"))
        elif face.room.value < REGULATOR_ROOM_M:
            found.append(
                work(
                    f"{mm(face.room.value)} behind {name}: a demand regulator needs "
                    f"{mm(REGULATOR_ROOM_M)}. Stand-offs, or another face.",
                    f"{path}.room",
                )
            )
        elif face.behind == "unknown":
            found.append(unknown(f"Look behind {name} before drilling.", f"{path}.behind"))
        elif face.stands and face.remedy == "none":
            found.append(
                work(f"{face.stands} is at {name}: move, replace or cut?", f"{path}.remedy")
            )
        else:
            good = True
            found.append(fits(f"{name[0].upper()}{name[1:]} has room for it.", f"{path}.room"))
    # One good face is enough: the others are then no reason.
    yield from [one for one in found if not good or one.verdict == "fits"]


def spacer_adapter(case: Case) -> list[Reason]:
    """Venturi plate between air cleaner and carburetor."""
    return [
        *one_barrel(case),
        *_beside_factory_gas(case),
        *gas_here(case),
        *reach(case),
        *stack_room(case),
        *_choke_on_gas(case),
        *gasoline_held(case),
        *stops(case),
        *regulator_place(case),
    ]


def _not_factory_gas(case: Case) -> Iterator[Reason]:
    if case.set.dual_fuel:
        yield no("Factory dual-fuel: it has its own gas inlet.", "set.set_class")


def _beside_factory_gas(case: Case) -> Iterator[Reason]:
    """A plate on a factory dual-fuel set takes the other gas; its own inlet stays its maker's."""
    if not case.set.dual_fuel:
        return
    other = [gas for gas in case.for_gas if gas is not FACTORY_GAS]
    if not other:
        yield no("Factory dual-fuel: it has its own inlet for propane.", "set.set_class")
    else:
        yield work(
            "Factory dual-fuel: the plate takes the other gas, its own inlet stays for propane; "
            "one hose on at a time, another coupler family for each.", "set.set_class",
        )  # fmt: skip


def _choke_on_gas(case: Case) -> Iterator[Reason]:
    path, choke = "set.carburetor.choke", case.set.carburetor.choke
    if choke is Choke.UNKNOWN:
        yield unknown("How is the choke worked: by hand, by itself, none?", path)
    elif choke is Choke.AUTOMATIC:
        yield work("An automatic choke must be held open on gas.", path)
    else:
        yield fits("The choke stays, and stays open on gas.", path)


def snorkel(case: Case) -> list[Reason]:
    """Mixer tube in front of the choke."""
    found = [*one_barrel(case), *_not_factory_gas(case), *gas_here(case)]
    path, choke = "set.carburetor.choke", case.set.carburetor.choke
    if choke is Choke.UNKNOWN:
        found.append(unknown("How is the choke worked: by hand, by itself, none?", path))
    elif choke is Choke.AUTOMATIC:
        found.append(no("It blocks the automatic choke: no cold start on gasoline.", path))
    elif choke is Choke.MANUAL:
        found.append(work("It blocks or loses the choke: cold starts on gasoline suffer.", path))
    else:
        found.append(fits("There is no choke to lose.", path))
    if case.inverter:
        found.append(no("No room in a closed air box.", "set.set_class"))
    return [*found, *gasoline_held(case), *stops(case), *regulator_place(case)]


def multi_fuel_carburetor(case: Case) -> list[Reason]:
    """Replacement carburetor with a built-in control valve and a gas selector."""
    found = list(one_barrel(case))
    if case.inverter:
        found.append(
            no("Not for inverter sets: its throttle can't follow theirs.", "set.set_class")
        )
    found += [*_not_factory_gas(case), *gas_here(case), *_listed(case)]
    room, path = case.set.stack.cover_room, "set.stack.cover_room"
    if room is None:
        found.append(unknown("Measure the room behind the air box for its control valve.", path))
    elif room.value < CONTROL_VALVE_ROOM_M:
        found.append(
            no(
                f"Its control valve needs {mm(CONTROL_VALVE_ROOM_M)}; {mm(room.value)} is there.",
                path,
            )
        )
    else:
        found.append(fits("Room for its control valve.", path))
    if set(case.for_gas) - set(SELECTED):
        found.append(no("Its fixed metering can't be opened to biogas.", f"{case.at}.gases"))
    for key, cylinder in sorted(case.site.cylinders.items()):
        if cylinder.size not in SMALL_CYLINDERS and FACTORY_GAS in case.for_gas:
            found.append(
                work(
                    "Its own regulator is for small cylinders: a separate one for this size.",
                    f"{case.at}.cylinders.{key}.size",
                )
            )
    return [*found, *stops(case)]


def _listed(case: Case) -> Iterator[Reason]:
    path, size = "set.displacement", case.set.displacement
    if size is None:
        yield unknown("Displacement decides whether one is made for it.", path)
    elif not LISTED_M3[0] <= size.value <= LISTED_M3[1]:
        yield no("Made for engines of 150 to 460 cc only.", path)
    else:
        yield fits("Made for engines of this size.", path)


def exchanged_carburetor(case: Case) -> list[Reason]:
    """Exchanged or drilled carburetor with a gas port."""
    found = [*one_barrel(case), *_not_factory_gas(case), *gas_here(case)]
    seen = case.job.findings.get("carburetor")
    path = "findings.carburetor"
    if seen is None or seen.look is Look.NOT_LOOKED:
        found.append(unknown("Look at the old carburetor: complete and clean?", path))
    elif seen.look is Look.BAD:
        found.append(work("The old one is not clean or complete: its deposit may be lost.", path))
    else:
        found.append(fits("The old one is fit to go back for its deposit.", path))
    return [
        *found,
        *_choke_on_gas(case),
        *gasoline_held(case),
        *stops(case),
        *regulator_place(case),
    ]


def two_barrel_adapter(case: Case) -> list[Reason]:
    """Two-barrel block with tee and electric lock-off, for V-twins."""
    path, kind = "set.carburetor.type", case.set.carburetor.type
    found: list[Reason] = []
    if kind is CarburetorType.UNKNOWN:
        found.append(unknown("Look at the carburetor: one barrel or two?", path))
    elif kind is CarburetorType.TWO_BARREL:
        found.append(fits("Two barrels: each gets its own branch of the tee.", path))
    else:
        found.append(no("Only for two-barrel carburetors.", path))
    found += gas_here(case)
    path = "set.electric_start"
    if case.set.electric_start is None:
        found.append(unknown("Is there a battery to power the lock-off?", path))
    elif case.set.electric_start:
        found.append(fits("A battery is there for the lock-off.", path))
    else:
        found.append(work("No battery: the lock-off needs a 12 V supply of its own.", path))
    path = "set.carburetor.fuel_solenoid"
    if case.set.carburetor.fuel_solenoid is None:
        found.append(unknown("Is there a fuel solenoid on the bowl?", path))
    elif case.set.carburetor.fuel_solenoid and case.job.wants.keep_gasoline:
        found.append(
            work(
                "The lock-off takes the solenoid's lead: a change-over switch keeps gasoline.", path
            )
        )
    else:
        found.append(fits("The solenoid's lead is free for the lock-off.", path))
    return [*found, *reach(case), *gasoline_held(case), *stops(case), *regulator_place(case)]


def second_gas(case: Case) -> list[Reason]:
    """A second gas on a factory dual-fuel set."""
    if not case.set.dual_fuel:
        return [no("Only for factory dual-fuel sets.", "set.set_class")]
    found = [fits("Factory dual-fuel: its port for the other gas is capped.", "set.set_class")]
    second = [gas for gas in case.gases if gas is not FACTORY_GAS]
    if not second:
        found.append(no("No second gas on this site.", f"{case.at}.gases"))
    return [*found, *gas_here(case), *_choke_on_gas(case), *stops(case), *regulator_place(case)]

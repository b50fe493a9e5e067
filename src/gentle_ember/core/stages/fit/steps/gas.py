"""What gas trains need besides their joints: caps, hose runs, lock-off, the second gas."""

from __future__ import annotations

import math
from collections.abc import Iterator

from gentle_ember.core.job.part import PartClass, end
from gentle_ember.core.physics.fuels import fuel_name
from gentle_ember.core.stages.fit.case import SHORT, FitCase, key_of, length
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, StepMeasure
from gentle_ember.core.stages.fuel_path.ladder import Fitted
from gentle_ember.core.stages.fuel_path.templates import SET_SIDE, same_half
from gentle_ember.core.stages.fuel_path.trains import TrainSection

HEAT_M = 0.150
TIE_M = 0.25


def gas(case: FitCase) -> Iterator[Step]:
    """Steps of every gas train; what two share on the set comes once."""
    seen: set[str] = set()
    for fuel, one in case.gases.items():
        yield from _caps(case, fuel, one)
        for at, place, part in one.case.of(PartClass.VAPOR_HOSE, PartClass.GAS_HOSE):
            if part.key in case.there:
                continue
            if place.slot.role in SET_SIDE and part.key not in seen:
                seen.add(part.key)
                yield _run(case, fuel, one, at, place)
        for _, place, part in one.case.of(PartClass.LOCK_OFF):
            if part.key not in seen and part.key not in case.there:
                seen.add(part.key)
                yield from _lock_off(case, fuel, place)
    shared = [fuel for fuel in case.gases if same_half(case.job, fuel)]
    if shared:
        names = " and ".join(fuel_name(fuel) for fuel in shared)
        yield Step(
            "hose_tags", "pack", Phase.WORK, Place.FRAME,
            f"Tag each hose at its end, and the coupler half on the set: {names}, each with "
            "its setting.",
            "The coupler takes both: the tag alone says which gas is on.", 5,
            takes=("bag and tag",),
            good="Tags wired on, readable by a lamp.",
            bad="A hose without a tag: it stays off.", photo="both hose ends with their tags",
        )  # fmt: skip
    if case.has("second_gas"):
        yield Step(
            "port_cap", "cap", Phase.WORK, Place.FRAME,
            "Cap on the factory's gas port, its chain fixed beside it.",
            "An open port leaks air on every other fuel, and gas with a valve left open.", 3,
            tools=("wrench to hold",), good="Cap seats by hand, then snug; chain reaches.",
            bad="No cap fits: the port stays shut off and nothing else is connected.",
            photo="the cap on its port",
        )  # fmt: skip


def _caps(case: FitCase, fuel: str, one: TrainSection) -> Iterator[Step]:
    for place, part in one.case.known():
        if part.ports and part.key not in case.there and part.kind is not PartClass.PUMP:
            names = ", ".join(end(port).text for port in part.ports)
            yield Step(
                key_of("cap", SHORT[fuel], place.key), "cap", Phase.WORK,
                Place.FRAME if place.slot.role in SET_SIDE else Place.SOURCE,
                f"Cap the open port of the {part.name.split(',')[0]} ({names}).",
                "An open side port leaks.", 3, parts=(part.key,), fuel=fuel,
                tools=("wrench to hold",), takes=("gas-rated tape or compound",),
                good="Cap or plug in, snug.",
            )  # fmt: skip


def _run(case: FitCase, fuel: str, one: TrainSection, at: int, place: Fitted) -> Step:
    part = place.part
    bend = part.bend_m if part and part.bend_m else 0.05
    near = one.case.parts[at - 1 : at] + one.case.parts[at + 1 : at + 2]
    bulkhead = any(other.part and other.part.kind is PartClass.BULKHEAD for other in near)
    loop = math.pi * bend
    kind = "vapor hose" if part and part.kind is PartClass.VAPOR_HOSE else "hose"
    measures = [StepMeasure("bend, at least", bend, "small_length", "loop")]
    if bulkhead:
        measures.append(StepMeasure("loop at the bulkhead, at least", loop, "small_length", "loop"))
    relief = f" A loop of {length(loop)} or more behind the bulkhead." if bulkhead else ""
    return Step(
        key_of("run", SHORT[fuel], place.key), "run", Phase.WORK, Place.FRAME,
        f"Lay the {kind}: no kink, tied every {length(TIE_M)}, tails trimmed.{relief}",
        "It shakes for years; a sag holds water, a kink starves, an edge cuts.", 6,
        tools=("side cutters",), takes=("cable ties",), parts=(part.key,) if part else (),
        measures=tuple(measures), fuel=fuel, secured=Secured.NONE,
        of=(f"{place.length_m:g} m",),
        caution=f"{length(HEAT_M)} off the exhaust, or a shield; none of it touches a moving part."
        + (" One hose of this train passes the exhaust: shield it." if one.case.train.past_exhaust
           else ""),
        good="Slack at both ends, no pull when the set rocks; tie tails flush.",
        bad="Flat or shiny where it bends: longer, or an elbow.",
        photo="the whole run",
        after=(key_of("j", SHORT[fuel], place.key),) if at else (),
    )  # fmt: skip


def _lock_off(case: FitCase, fuel: str, place: Fitted) -> Iterator[Step]:
    part = place.part
    solenoid = case.set.carburetor.fuel_solenoid
    lead = (
        "from the change-over switch beside the fuel-solenoid lead" if solenoid
        else "from a lead that the run switch feeds for starting and running"
    )  # fmt: skip
    yield Step(
        "lock_off_lead", "electric", Phase.WORK, Place.FRAME,
        f"Lock-off lead: 12 V {lead}, fused, sleeved.",
        "It shuts with the switch, not at a stall: there the demand regulator holds the gas back. "
        "Taken from the solenoid's own lead it costs running on gasoline.", 12,
        tools=("crimp pliers", "test lamp"), takes=("crimp connectors", "sleeve", "fuse"),
        parts=(part.key,) if part else (), fuel=fuel,
        good="Crimped, sleeved and fused; that it clicks with the switch is tried at the start.",
        photo="where the lead is taken from", caution="Battery off while it is made.",
    )  # fmt: skip
    yield Step(
        "lock_off_ground", "electric", Phase.WORK, Place.FRAME,
        "Lock-off ground: to the engine block, bare metal, star washer.",
        "Without ground it stays shut, or drops out when it is hot.", 5,
        tools=("10 mm wrench", "file"), takes=("ring terminal",), fuel=fuel,
        secured=Secured.TORQUE, good="Under half an ohm to the block.",
        bad="Painted bracket: file it bare.", after=("lock_off_lead",),
    )  # fmt: skip

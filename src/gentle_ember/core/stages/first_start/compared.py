"""What was read at a start against what is expected: how long it runs on, and changes over."""

from __future__ import annotations

import math
from collections.abc import Iterator

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin
from gentle_ember.core.estimates.defaults import fuel_line, machine
from gentle_ember.core.job.first_start import StartLog
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import LINES, PartClass
from gentle_ember.core.physics.fuels import GASOLINES, FuelKey, fuel_name
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.fuel_path.case import displacement_of
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build
from gentle_ember.core.stages.method.networks import safe_orders
from gentle_ember.core.stages.method.ways import taken

BOWL_SHARE = (0.12, 0.25, 0.45)
"""What a float bowl holds over the displacement: least, usual, most [1]."""
HAND_S, MOVE_S = 3.0, (5.0, 15.0, 40.0)
"""What a hand and a governor add to a run-out; a move of a change-over: quick, usual, slow [s]."""
RUN_ON = Method(
    "run-on",
    "Runs on after its valve is shut",
    "t = gas between valve and demand regulator above the air's pressure / flow without load",
    "volume of hose and pipe × gauge pressure / pressure of the air; three times as long and 3 s "
    "more at the band's upper end",
    "run-on",
)
CHANGE = Method(
    "change-over",
    "Change-over",
    "t = bowl / gasoline burnt + moves × 15 s; the bowl counted where it is run dry",
    "bowl 0.25 of the displacement (0.12 to 0.45), burnt between no load and half load; a move 5 "
    "to 40 s",
    "run-on",
)


def run_on(section: TrainSection) -> Figure | None:
    """How long a set runs on gas once its source is shut; None where no gas is held back."""
    case = section.case
    demand = case.asked.demand
    idle = demand.mass("idle", upper=False)
    if demand.fuel.key is FuelKey.GASOLINE or idle <= 0:
        return None
    held = 0.0
    for one, part in case.known():
        rung = case.ladder.of(one.key)
        if part.kind not in (*LINES, PartClass.PIGTAIL) or rung.zone_in is Zone.SUCTION:
            continue
        volume = math.pi / 4 * (part.bore_m or 0.0) ** 2 * one.length_m
        held += volume * max(0.0, rung.inlet["idle"]) / demand.ambient_pa
    seconds = held * demand.gas_density / idle
    return Figure(
        f"start.{demand.fuel.key}.run_on", "expected to run on", seconds, "seconds", RUN_ON,
        Band(0.0, 3 * seconds + HAND_S),
        (
            Input("gas held, at the air's pressure", held, "volume"),
            Input("density of the gas here", demand.gas_density, "density"),
            Input("flow without load", idle, "mass_flow"),
        ),
        estimated=True, narrows=("length and bore of what is really there",),
    )  # fmt: skip


def change_over(job: Job, orders: tuple[Sequence, ...], fuel: str) -> Figure | None:
    """How long going over from gasoline to a gas takes; None where there is no such order."""
    order = next((one for one in orders if one.key == f"over.gasoline.{fuel}"), None)
    resolved = machine(job.set)
    if order is None or order.why_not or resolved is None:
        return None
    quick, usual, slow = (len(order.moves) * one for one in MOVE_S)
    dry = taken(job, "bowl") == "run_dry"
    size, gasoline = displacement_of(job.set), GASOLINES[job.set.gasoline]
    line = fuel_line(job.set, resolved.rated.value)
    idle, half = (line.fuel_w(watts) / gasoline.lhv_j_kg
                  for watts in (0.0, resolved.rated.value / 2))  # fmt: skip
    least, most = idle, half
    bowl = [share * size * gasoline.density_kg_m3 for share in BOWL_SHARE]
    runs = (bowl[0] / most, bowl[1] / least, bowl[2] / least) if dry else (0.0, 0.0, 0.0)
    return Figure(
        f"start.{fuel}.change_over", "expected change-over", runs[1] + usual, "seconds", CHANGE,
        Band(runs[0] + quick, runs[2] + slow),
        (
            Input("moves", float(len(order.moves)), "count"),
            Input("float bowl", BOWL_SHARE[1] * size, "volume", Origin.ASSUMED),
            Input("gasoline without load", idle, "mass_flow"),
            Input("gasoline at half load", half, "mass_flow"),
        ),
        estimated=True, narrows=("the load it runs dry at", "what the bowl holds, from a jar"),
    )  # fmt: skip


def expected(plan: Plan, fuel: str) -> tuple[Figure | None, Figure | None]:
    """What is expected of a fuel's start: how long it runs on, how long the change-over takes."""
    section = plan.of(trains_to_build).get(fuel)
    on = run_on(section) if section is not None else None
    return on, change_over(plan.job, plan.of(safe_orders), fuel)


def compared(plan: Plan) -> Iterator[Caution]:
    """What was read and is not what it should be, with what is likely behind it."""
    for fuel, log in plan.job.starts.items():
        if fuel == FuelKey.GASOLINE:
            continue
        if log.died_after is not None or log.change_over is not None:
            on, over = expected(plan, fuel)
            yield from _ran_on(fuel, log, on)
            yield from _changed(fuel, log, over)


def _ran_on(fuel: str, log: StartLog, on: Figure | None) -> Iterator[Caution]:
    read = log.died_after
    if read is None or on is None or read.value <= on.band.high:
        return
    path = f"starts.{fuel}.died_after"
    text = (
        f"{fuel_name(fuel)}: it ran on {read.value:.0f} s after its valve was shut, where "
        f"{on.band.high:.0f} s at most is expected: the valve passes, or another source was open. "
        "Find it before it is left standing."
    )
    yield Caution(path, Severity.CAUTION, "first_start", text[:1].upper() + text[1:], path,
                  fuel=fuel)  # fmt: skip


def _changed(fuel: str, log: StartLog, over: Figure | None) -> Iterator[Caution]:
    read = log.change_over
    if read is None or over is None or over.band.low <= read.value <= over.band.high:
        return
    path = f"starts.{fuel}.change_over"
    if read.value < over.band.low:
        why = (
            f"{over.band.low:.0f} s is the least it takes to empty the bowl and move every handle: "
            "gasoline was still in it, or a move was left out."
        )
    else:
        why = (
            f"{over.band.high:.0f} s is the most expected: gasoline still comes past its shut-off, "
            "or an order was not at hand. Say in a note why."
        )
    text = f"{fuel_name(fuel).capitalize()}: changed over in {read.value:.0f} s. {why}"
    yield Caution(path, Severity.CAUTION, "first_start", text, path, fuel=fuel)

"""Remote tank and shut-off: valves, selector, pulse line, levels, vents, canister."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.generator import RunSwitch, Vent
from gentle_ember.core.job.job import GASOLINE_OFF, IGNITION_CUT, SHUT_OFF_FIT
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.stages.fit.case import FitCase, length
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, StepMeasure
from gentle_ember.core.stages.fuel_path.gasoline_rules import profile
from gentle_ember.core.stages.method.ways import taken

MOST_SURFACE_M = 0.6


OWN_VENT = {
    "close": "the own tank's closed, both marked open and closed,",
    "leave": "the own tank's left as it is",
    "crack": "the own tank's cap cracked until it breathes, and marked so,",
}


def tank(case: FitCase) -> Iterator[Step]:
    """Steps on the gasoline side."""
    if case.gases and case.set.own_shut is False and case.job.wants.keep_gasoline and not case.has(
        "multi_fuel_carburetor", "remote_tank_gravity", "remote_tank_pump"
    ):  # fmt: skip
        yield Step(
            SHUT_OFF_FIT, "tank", Phase.WORK, Place.TANK,
            "Fit a shut-off into the gasoline line, where a hand finds it.",
            "Without one both fuels are fed at once.", 15,
            tools=("hose cutter", "5/16 in nut driver"), takes=("hose clamps",),
            secured=Secured.CLAMP, photo="valve with its handle shut", must=True,
            caution="Fuel-rated valve and hose; drained first; no spark.",
            good="Shut, the line stays dry; handle clear of the frame.",
            bad="Weeps at a clamp: cut the hose back.",
        )  # fmt: skip
    if case.gases and not case.job.wants.keep_gasoline and not case.set.brand_new:
        yield Step(
            GASOLINE_OFF, "tank", Phase.WORK, Place.TANK,
            "Gasoline given up: tank drained and dry, its line off and plugged at both ends, "
            "float bowl drained.",
            "A set for gas alone has nothing left that could feed a second fuel.", 20,
            tools=("siphon", "approved container", "pliers"), takes=("plugs for hose", "rags"),
            caution="Into an approved container outdoors, engine cold; no spark while it is wet.",
            good="Nothing drips at tank, line or bowl; the filler cap is tagged: gas only.",
            bad="Fuel left in a low spot of the line: take the line off the set.",
            photo="both plugs and the tagged cap", must=True,
        )  # fmt: skip
    if case.gases and case.set.stops_by is RunSwitch.FUEL:
        yield Step(
            IGNITION_CUT, "electric", Phase.WORK, Place.CONTROLS,
            "Fit a switch that cuts the ignition, beside the run switch.",
            "The run switch cuts gasoline only: on gas the engine would run on.", 25,
            tools=("crimp pliers", "test lamp"), takes=("crimp connectors", "sleeve"),
            caution="By the wiring diagram of this engine; boot off the plug meanwhile.",
            good="Its position is marked; that it stops the engine is tried at the first start.",
            bad="No lead to cut that is safe to reach: the set is not converted.",
            photo="the switch and its lead", must=True,
        )  # fmt: skip
    for key, one in case.set.switches.items():
        renamed = [at for at in one.positions.values() if at.becomes and at.becomes != at.name]
        if renamed and case.gases:
            words = ", ".join(f"{at.name or 'its position'} becomes {at.becomes}" for at in renamed)
            yield Step(
                f"relabel_{key}", "label", Phase.WORK, Place.CONTROLS,
                f"Label the {one.name or 'switch'}: {words}.",
                "A position that shut the gasoline now means gas: what is printed there is wrong.",
                5, tools=("label tape",),
                good="The old word can't be read; the new one outlasts gasoline and sun.",
                bad="Both words can be read: cover the old one.",
                photo="the switch with its labels",
            )  # fmt: skip
    remote = case.trains.get("gasoline")
    if remote is None or not case.has("remote_tank_gravity", "remote_tank_pump"):
        return
    told = any(one.what == "canister" for one in case.set.in_the_way.values())
    if case.set.tank_vent is Vent.CANISTER and not told:
        yield Step(
            "canister", "tank", Phase.WORK, Place.TANK,
            "Move the vapor canister; its hose stays connected and uphill.",
            "It is where the selector goes, and must keep breathing.", 10,
            tools=("10 mm socket",), photo="canister and hose where they are now",
            good="Hose whole, no low spot, bracket tight.", bad="Hose short: new, not stretched.",
        )  # fmt: skip
    if remote.case.of(PartClass.SELECTOR):
        yield Step(
            "selector_clock", "clock", Phase.WORK, Place.PANEL,
            "Clock the selector: handle to the left own tank, up off, to the right remote tank.",
            "Positions are read from outside by somebody who was not here.", 5,
            tools=("wrench to hold",), photo="handle in each position",
            good="Blow through it: each position feeds one tank and shuts the other. A switch at "
            "its stop: creep to just short of it.",
            bad="Both tanks pass in one position: it is the wrong valve, or turned.",
        )  # fmt: skip
    if remote.case.of(PartClass.PUMP):
        yield Step(
            "pulse_line", "tank", Phase.WORK, Place.ENGINE,
            "Pulse line from crankcase to pump: short, stiff, rising to the pump.",
            "Soft or long it takes up the pulse, and the pump stops.", 8,
            tools=("hose cutter", "5/16 in nut driver"), takes=("hose clamps",),
            secured=Secured.CLAMP, good="Under 300 mm; no dip that fills with oil.",
            bad="Pulls flat when warm: stiffer hose.",
        )  # fmt: skip
    if remote.case.of(PartClass.BULB):
        yield Step(
            "bulb_arrow", "tank", Phase.WORK, Place.TANK,
            "Priming bulb: arrow toward the set, arrow upward when it is pumped.",
            "Turned round it holds the fuel back.", 1, good="Goes firm, and stays firm.",
            bad="Stays soft: air on the suction side.",
        )  # fmt: skip
    found = profile(remote.case)
    if found.gravity:
        top = min(found.most_m, MOST_SURFACE_M)
        yield Step(
            "levels", "measure", Phase.WORK, Place.TANK,
            f"Set the tank: full surface no more than {length(top)} over the float bowl, line "
            "falling all the way.",
            "Higher the needle floods; a hump holds air, a low loop holds water.", 10,
            tools=("water level or laser", "tape measure"),
            measures=(
                StepMeasure("full surface over the bowl, at most", top, "small_length", "level"),
                StepMeasure("outlet over the bowl, at least", max(0.0, found.lowest_m),
                            "small_length", "level"),
            ),
            good="Measured with the tank full and the set on its ground.",
            bad="Too high: lower shelf, never a throttled line.", photo="tank and bowl in one",
        )  # fmt: skip
    yield Step(
        "vents", "tank", Phase.WORK, Place.TANK,
        f"Vents: the remote tank's open; {OWN_VENT[taken(case.job, 'own_vent')]} while the remote "
        "tank feeds.",
        "A tank that can't breathe starves in minutes; shut in the sun it sprays.", 3,
        good="Air is heard when a warm cap is opened; arrow of the valve is right.",
        bad="Vent shut by its transport screw.",
        caution="Own tank shut, or one overfills the other through its vent onto a hot engine.",
    )  # fmt: skip

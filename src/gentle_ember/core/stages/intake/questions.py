"""Intake's questions at the machine: only those that matter for this set, in walking order."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from gentle_ember.core.job.generator import CarburetorType
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuel_use import INVERTERS, SetClass
from gentle_ember.core.physics.studs import ADAPTER_M, GASKETS_M, WASHERS_M
from gentle_ember.core.stages.intake.walk_round import used

Options = tuple[tuple[str | bool | int | None, str], ...]
VENTS = (
    ("unknown", "not looked at"), ("cap_lever", "lever on the cap"),
    ("cap_open", "cap, always open"), ("canister", "canister"),
)  # fmt: skip
YES_NO: Options = ((None, "not looked at"), (True, "yes"), (False, "no"))

PLACES: dict[str, str] = {
    "plate": "At the plate",
    "history": "What the owner tells",
    "controls": "At the controls",
    "tank": "At the tank",
    "carburetor": "At the carburetor",
    "studs": "Studs, with the air cleaner off",
    "room": "Room round the stack",
}


@dataclass(frozen=True, slots=True)
class Ask:
    """One question: the path it fills, its label, how it is answered, and what it is for."""

    path: str
    place: str
    label: str
    why: str
    kind: Literal["quantity", "text", "long", "number", "choice"] = "quantity"
    options: Options = ()
    assumed: str | float = ""
    applies: Callable[[Job], bool] = lambda job: True


def _gas_or_unknown(job: Job) -> bool:
    """Whether gas is at hand or asked for, or nothing is said yet."""
    site, wants = job.sites[job.site], job.wants
    asked = wants.propane or wants.natural_gas or wants.biogas
    return bool(asked or site.cylinders or site.gases) or not (wants.remote_tank or wants.elevation)


def _plate_mixer(job: Job) -> bool:
    """Whether a plate on the studs is in question."""
    plate = {"spacer_adapter", "two_barrel_adapter"} & set(job.choice.methods)
    return bool(plate) or (_gas_or_unknown(job) and not job.set.dual_fuel)


def _jets(job: Job) -> bool:
    return job.wants.elevation or job.set.carburetor.jets.believed.number is not None


def _enclosed(job: Job) -> bool:
    return job.set.set_class in INVERTERS or job.set.carburetor.type is CarburetorType.FLOAT


ASKS: tuple[Ask, ...] = (
    Ask("set.frame_number", "plate", "Frame number", "identity where the plate is gone", "text"),
    Ask("set.engine_number", "plate", "Engine number", "identity where the plate is gone", "text"),
    Ask("set.engine_family", "plate", "Engine family", "finds sets badged differently", "text"),
    Ask("set.generation", "plate", "Generation", "a model changes under one name", "text"),
    Ask("set.trim", "plate", "Trim", "trims differ in panel and choke", "text"),
    Ask("set.year", "plate", "Year", "parts change by year", "number"),
    Ask("set.factory_gas", "plate", "Made for propane too", "its own inlet stays its maker's",
        "choice", YES_NO, applies=lambda job: job.set.set_class is not SetClass.DUAL_FUEL),
    Ask("set.brand_new", "history", "Brand-new", "may go onto gas first", "choice", YES_NO),
    Ask("set.hours", "history", "Hours run", "plug and valve lash are judged by it"),
    Ask("set.idle", "history", "Stood for", "age of fuel, rubber and carburetor", applies=used),
    Ask("set.last_oil", "history", "Since the last oil change", "oil task"),
    Ask("set.faults", "history", "Known faults", "to be cleared before quoting", "long"),
    Ask(
        "set.run_switch", "controls", "What the run switch cuts", "it must stop on gas too",
        "choice",
        (("unknown", "not looked at"), ("ignition", "ignition"),
         ("ignition_and_fuel", "ignition and fuel"), ("fuel", "fuel only")),
    ),
    Ask("set.rated_speed", "plate", "Working speed", "what its governor holds",
        applies=lambda job: job.set.bare),
    Ask("set.drives", "plate", "What it drives", "it is loaded by it", "text",
        applies=lambda job: job.set.bare),
    Ask("set.electric_start", "controls", "Battery on the set", "powers a lock-off", "choice",
        YES_NO),
    Ask("set.shut_off", "tank", "Gasoline shut-off", "one fuel at a time", "choice", YES_NO),
    Ask("set.fuel_line", "tank", "Fuel line, inside", "which shut-off and hose fit", "choice",
        (("unknown", "not looked at"), ("1/4", "1/4 in"), ("5/16", "5/16 in"))),
    Ask(
        "set.tank_vent", "tank", "Tank vent", "a shut vent stalls it", "choice",
        VENTS,
    ),
    Ask(
        "set.carburetor.type", "carburetor", "Carburetor", "decides the method", "choice",
        (("unknown", "not looked at"), ("float", "one barrel, float bowl"),
         ("two_barrel", "two barrels"), ("multi_fuel", "multi-fuel")),
    ),
    Ask("set.carburetor.gasket", "carburetor", "Between it and the engine",
        "an insulator keeps the bowl cool", "choice",
        (("unknown", "not looked at"), ("paper", "paper gasket"),
         ("insulator", "insulator block"), ("both", "insulator, gaskets each side"))),
    Ask("set.carburetor.connectors", "carburetor", "What plugs into it",
        "another carburetor must take the same", "text"),
    Ask("set.stack.case_vents", "room", "Openings of the case", "gas that leaks must get out",
        "choice", (("unknown", "not looked at"), ("none", "none"), ("low", "low down"),
                   ("high", "high up"), ("both", "low and high")),
        applies=lambda job: job.set.set_class in INVERTERS),
    Ask(
        "set.carburetor.fuel_solenoid", "carburetor", "Fuel solenoid on the bowl",
        "its lead may be wanted", "choice", YES_NO,
    ),
    Ask(
        "set.carburetor.choke", "carburetor", "Choke", "must be open on gas", "choice",
        (("unknown", "not looked at"), ("manual", "by hand"), ("automatic", "by itself"),
         ("none", "none")),
    ),
    Ask("set.plug.type", "carburetor", "Spark plug, type", "another must be like it", "text"),
    Ask("set.plug.heat", "carburetor", "Plug's heat range", "same or colder on gas", "text",
        applies=_gas_or_unknown),
    Ask("set.plug.resistor", "carburetor", "Plug with a resistor", "without one it disturbs what "
        "is electronic", "choice", YES_NO),
    Ask("set.plug.gap_gasoline", "carburetor", "Plug gap by the maker, gasoline",
        "whether the one found is wide"),
    Ask("set.plug.gap_gas", "carburetor", "Plug gap by the maker, on gas", "set for gas",
        assumed="0.020 to 0.025 in, usual", applies=_gas_or_unknown),
    Ask("set.carburetor.air_horn", "carburetor", "Air horn, outside diameter",
        "which mixer tube fits", applies=lambda job: "snorkel" in job.choice.methods),
    Ask(
        "set.gas_port", "carburetor", "Thread of the factory's gas port",
        "what joins it", "choice",
        (("unknown", "not looked at"), ("1/4", "1/4 in NPT"), ("3/8", "3/8 in NPT"),
         ("1/2", "1/2 in NPT")),
        applies=lambda job: job.set.dual_fuel,
    ),
    Ask("set.carburetor.jets.believed.number", "carburetor", "Jet, as believed",
        "one of three facts", applies=_jets),
    Ask("set.carburetor.jets.believed.source", "carburetor", "Believed by", "its source", "text",
        applies=_jets),
    Ask("set.carburetor.jets.published.number", "carburetor", "Jet, as published",
        "one of three facts", applies=_jets),
    Ask("set.carburetor.jets.published.source", "carburetor", "Published in", "its source",
        "text", applies=_jets),
    Ask("set.carburetor.jets.stamped.number", "carburetor", "Jet, as stamped",
        "the one to work from", applies=_jets),
    Ask(
        "set.carburetor.jets.marking", "carburetor", "What the number means", "bore or flow",
        "choice",
        (("unknown", "not known"), ("hundredths", "bore in 1/100 mm"), ("flow", "flow number")),
        applies=_jets,
    ),
    Ask("set.studs.spacing", "studs", "Between stud centers", "which adapter and gaskets fit",
        applies=_plate_mixer),
    Ask("set.studs.diameter", "studs", "Stud diameter", "thread left for the nut",
        applies=_plate_mixer),
    Ask("set.studs.pitch", "studs", "Stud pitch", "turns and pitches showing",
        applies=_plate_mixer),
    Ask("set.studs.stick_out", "studs", "Stick-out past the carburetor",
        "whether they reach through an adapter", applies=_plate_mixer),
    Ask("set.studs.nut_height", "studs", "Nut height", "a full nut", assumed="0.85 d, assumed",
        applies=_plate_mixer),
    Ask("set.studs.thread_depth", "studs", "Thread in the casting", "turns it may back out",
        applies=_plate_mixer),
    Ask(
        "set.studs.metal", "studs", "Studs are screwed into",
        "least thread that must stay", "choice",
        (("unknown", "not looked at"), ("aluminum", "aluminum"), ("iron", "iron")),
        applies=_plate_mixer,
    ),
    Ask(
        "set.stack.air_cleaner", "studs", "Air cleaner held by", "a third bolt needs a spacer",
        "choice",
        (("unknown", "not looked at"), ("two_studs", "the two studs"),
         ("third_bolt", "studs and a third bolt"), ("other", "another way")),
        applies=_plate_mixer,
    ),
    Ask("set.stack.flange", "studs", "Air-cleaner flange", "takes stud length",
        applies=_plate_mixer),
    Ask("set.stack.washers", "studs", "Washers", "take stud length", assumed=WASHERS_M,
        applies=_plate_mixer),
    Ask("set.stack.gaskets", "studs", "Gaskets, compressed", "take stud length",
        assumed=GASKETS_M, applies=_plate_mixer),
    Ask("set.stack.adapter", "studs", "Adapter thickness", "takes stud length",
        assumed=ADAPTER_M, applies=_plate_mixer),
    Ask("set.stack.breather_slack", "room", "Breather hose slack", "it moves outward too",
        applies=_plate_mixer),
    Ask("set.stack.bracket_room", "room", "Room at choke lever and bracket",
        "they move outward too", applies=_plate_mixer),
    Ask("set.stack.cover_room", "room", "Room outside the air cleaner",
        "cover, or a control valve", applies=lambda job: _gas_or_unknown(job) and _enclosed(job)),
)  # fmt: skip


def asked(job: Job) -> tuple[Ask, ...]:
    """The questions that matter for this set, in walking order."""
    return tuple(ask for ask in ASKS if ask.applies(job))


def value_at(job: Job, path: str) -> Any:
    """What the job holds at a question's path."""
    here: Any = job
    for key in path.split("."):
        here = getattr(here, key)
    return here


def answered(job: Job, ask: Ask) -> bool:
    """Whether a question has an answer: a fact, a text, or a choice other than not known."""
    return value_at(job, ask.path) not in (None, "", "unknown")

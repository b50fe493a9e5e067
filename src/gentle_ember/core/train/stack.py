"""The stack: what lies between air cleaner and engine, in the order of the air flow."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core import studs
from gentle_ember.core.facts import Fact
from gentle_ember.core.figure import Figure, Origin
from gentle_ember.core.job import Job
from gentle_ember.core.method.base import Case
from gentle_ember.core.method.stack import adapter_m, joint_of, outward_m, stud_count
from gentle_ember.core.part import PartClass
from gentle_ember.core.sections.method import stud_figures

INSULATOR_M = 5e-3


@dataclass(frozen=True, slots=True)
class Layer:
    """One layer: what it is, how thick [m], whether that was measured, what to mind."""

    key: str
    name: str
    kind: str
    thickness_m: float | None
    origin: Origin
    path: str
    mind: str = ""
    new: bool = False
    """Whether the conversion adds it."""


@dataclass(frozen=True, slots=True)
class StackView:
    """Layers from the air cleaner inward, the stud through them, what is beside them."""

    layers: tuple[Layer, ...]
    joint: studs.Joint | None
    beside: tuple[tuple[str, str], ...]
    """Spacer, breather, bracket, cover: what and what to do."""
    figures: tuple[Figure, ...]
    missing: tuple[tuple[str, str], ...]
    """What must be measured for the studs, and its path."""
    count: int
    """Studs."""


def _layer(
    key: str,
    name: str,
    kind: str,
    fact: Fact | None,
    usual: float | None,
    path: str,
    mind: str = "",
    *,
    new: bool = False,
) -> Layer:
    if fact is not None:
        return Layer(key, name, kind, fact.value, fact.origin, path, mind, new)
    return Layer(key, name, kind, usual, Origin.ASSUMED, path, mind, new)


def stack_view(job: Job) -> StackView:
    """The stack of the set as it will be, with the part its train has."""
    case = Case(job)
    machine, stack = job.set, job.set.stack
    mixer = case.mixer
    plate = mixer is not None and mixer.kind is PartClass.ADAPTER
    asks_plate = plate or (
        mixer is None
        and any(key in job.choice.methods for key in ("spacer_adapter", "two_barrel_adapter"))
    )
    each = (stack.gaskets.value if stack.gaskets else studs.GASKETS_M) / 2
    origin = stack.gaskets.origin if stack.gaskets else Origin.ASSUMED
    flat = "One, not doubled; its hole pattern to the plate, its orientation photographed."

    def gasket(key: str, *, new: bool) -> Layer:
        return Layer(key, "gasket", "gasket", each, origin, "set.stack.gaskets", flat, new)

    layers = [
        _layer(
            "flange",
            "air cleaner flange",
            "cleaner",
            stack.flange,
            None,
            "set.stack.flange",
            "Closed and sealed: a demand regulator needs its suction.",
        ),
        gasket("gasket_out", new=False),
    ]
    if asks_plate:
        name = mixer.name if mixer is not None else "adapter"
        thickness = adapter_m(stack, case.plate_m)
        layers += [
            Layer(
                "adapter",
                name,
                "adapter",
                thickness,
                Origin.DATA_SHEET if mixer is not None else Origin.ASSUMED,
                "trains" if mixer is not None else "set.stack.adapter",
                "Arrow with the air, toward the engine; never between carburetor and engine.",
                new=True,
            ),
            gasket("gasket_in", new=True),
        ]
    carburetor = mixer.name if mixer is not None and not plate else "carburetor"
    layers += [
        Layer(
            "carburetor",
            carburetor,
            "carburetor",
            None,
            Origin.ASSUMED,
            "set.carburetor.type",
            "Choke lever and links move freely; links and spring remembered by photo.",
            new=mixer is not None and not plate,
        ),
        gasket("gasket_carburetor", new=mixer is not None and not plate),
        Layer(
            "insulator",
            "insulator",
            "insulator",
            INSULATOR_M,
            Origin.ASSUMED,
            "set.stack",
            "Its slot lines up with the pulse or vacuum hole.",
        ),
        gasket("gasket_engine", new=False),
        Layer("engine", "engine", "engine", None, Origin.ASSUMED, "set.studs.metal"),
    ]
    plate_m = case.plate_m if plate else (None if asks_plate else 0.0)
    joint = joint_of(machine, max(plate_m, 1e-6) if plate_m is not None else None)
    if not asks_plate:
        joint = None
    missing = [
        (text, path)
        for fact, text, path in (
            (machine.studs.spacing, "distance between the studs", "set.studs.spacing"),
            (machine.studs.diameter, "stud diameter", "set.studs.diameter"),
            (machine.studs.pitch, "stud pitch", "set.studs.pitch"),
            (machine.studs.stick_out, "how far the studs stick out", "set.studs.stick_out"),
            (stack.flange, "air-cleaner flange", "set.stack.flange"),
        )
        if fact is None
    ]
    figures = stud_figures(case, "stack") if joint is not None else ()
    return StackView(
        tuple(layers),
        joint,
        tuple(_beside(job, asks_plate, case)),
        figures,
        tuple(missing),
        stud_count(machine),
    )


def _beside(job: Job, plate: bool, case: Case) -> list[tuple[str, str]]:
    if not plate:
        return []
    stack = job.set.stack
    out = outward_m(stack, case.plate_m)
    found = []
    if stack.air_cleaner == "third_bolt":
        found.append(("third bolt", f"spacer of {out * 1e3:.1f} mm behind it"))
    rooms = (
        (stack.breather_slack, "breather", "reaches", "extend it by {} mm"),
        (stack.bracket_room, "choke lever and bracket", "clear", "relieve or space by {} mm"),
        (stack.cover_room, "cover", "closes", "relief or spacers of {} mm"),
    )
    for fact, name, good, short in rooms:
        if fact is None:
            found.append((name, "not measured"))
        elif fact.value < out:
            found.append((name, short.format(f"{(out - fact.value) * 1e3:.1f}")))
        else:
            found.append((name, good))
    return found

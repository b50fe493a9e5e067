"""The air side: air cleaner off, studs one at a time, the plate with its gaskets, what clears."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.part import MIXERS, Part
from gentle_ember.core.physics.fasteners import thread_of
from gentle_ember.core.stages.fit.case import FitCase, key_of, length
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, StepMeasure
from gentle_ember.core.stages.fit.tools import socket
from gentle_ember.core.stages.fuel_path.stack import StudWork
from gentle_ember.core.stages.method.ways import taken

ORDER = ("first", "second", "third", "fourth")
OPENS = (
    "spacer_adapter",
    "two_barrel_adapter",
    "snorkel",
    "exchanged_carburetor",
    "multi_fuel_carburetor",
)


def air(case: FitCase) -> Iterator[Step]:
    """Steps of the air side, for the methods that touch it."""
    if case.mixer_there or not case.has(*OPENS):
        return
    yield from _opened(case)
    if case.plate_m is not None:
        yield from _studs(case)
        yield _plate(case)
        yield from _clear(case)
    if case.has("two_barrel_adapter"):
        yield _branches(case)
    if case.has("snorkel"):
        yield from _snorkel(case)


def _behind(case: FitCase) -> tuple[str, ...]:
    return ("cover",) if case.enclosed else ()


def _opened(case: FitCase) -> Iterator[Step]:
    yield Step(
        "breather_off", "open", Phase.OPEN, Place.AIR,
        "Breather hose off at the air cleaner.", "It holds the air cleaner back.", 1,
        good="Supple, not cracked.", bad="Cracked or hard: new, it is a find.",
        after=_behind(case), back="Breather hose on, at both ends.",
        mind_back="With a little slack; it was measured where the air cleaner moved outward.",
    )  # fmt: skip
    third, choke = case.set.stack.air_cleaner == "third_bolt", case.set.carburetor.choke
    mind = "All nuts started by hand, then tightened in turns, a half turn each."
    if third and case.plate_m is not None:
        mind += f" A spacer of {length(case.outward_m)} behind the third bolt."
    if case.plate_m is not None and choke != "none":
        mind += " Then the choke from stop to stop once more: the air cleaner can block its lever."
    yield Step(
        "air_cleaner_off", "open", Phase.OPEN, Place.AIR,
        "Air cleaner off" + (", the third bolt first." if third else "."),
        "Everything on the air side sits behind it.", 5,
        tools=(socket(case.stud_m), "screwdrivers"),
        photo="each gasket as it lay, which side faces the engine; link and springs beside it",
        good="Gasket comes off whole, its orientation photographed.",
        bad="Torn: new ones go in, the orientation from the photo.",
        torque=case.nut_torque, secured=Secured.TORQUE,
        after=("breather_off", *_behind(case)), back="Air cleaner on.", mind_back=mind,
    )  # fmt: skip
    yield Step(
        "port_rag", "open", Phase.OPEN, Place.AIR,
        "Plug the intake with a clean rag, a tail hanging out.",
        "A washer in the intake ends an engine.", 1, takes=("rags",),
        good="You can see the tail of the rag from where you work.",
        after=("air_cleaner_off",), back="Rag out of the intake. See it in your hand.",
    )  # fmt: skip


def _studs(case: FitCase) -> Iterator[Step]:
    if case.stud_joint is None:
        yield Step(
            "studs_measure", "look", Phase.WORK, Place.AIR,
            "Measure the studs: diameter, pitch, stick-out. Measure the air-cleaner flange.",
            "Whether they reach through the plate is not known yet.", 5,
            tools=("caliper", "thread gauge"), after=("port_rag",), must=True,
            good="Enter it under Intake, Machine: the sheet then shows how they are made to reach.",
        )  # fmt: skip
        return
    work = case.stud_work
    if work is None:
        return
    if work.way == "pull":
        # The nuts draw the stack together once the plate is on.
        yield _stud(work, 0, "plate")
        return
    before = "port_rag"
    for at in range(case.stud_count):
        step = _stud(work, at, before)
        yield step
        before = step.key


STUCK = "Stuck: soak, wait, grip the shank, never the thread; break it loose to and fro."


def _stud(work: StudWork, at: int, before: str) -> Step:
    which, thread = ORDER[at], thread_of(work.joint.diameter_m).name
    common: dict[str, Any] = {
        "caution": "One at a time: the other holds the carburetor, and its seal is not broken.",
        "after": (before,), "parts": (work.part.key,) if work.part else (),
        "secured": Secured.LOCKER, "must": True,
    }  # fmt: skip
    key = key_of("stud", str(at + 1))
    if work.way == "pull":
        return Step(
            key, "stud", Phase.WORK, Place.AIR,
            "Draw the stack together by its nuts: each on by hand, then an eighth of a turn in "
            "turn, until the gaskets are squeezed.",
            f"Loose it is {length(work.short_m)} short of a full nut with a pitch showing; "
            "squeezed it has one. One nut alone tilts the plate and cracks its ears.", 6,
            tools=(socket(work.joint.diameter_m), "feeler gauge"), of=(work.way,),
            measures=(StepMeasure("to be drawn", work.short_m, "small_length", "stud"),),
            good="A full nut and a pitch showing on every stud; the gap the same all round.",
            bad="A pitch does not show: longer studs, never a thinner nut.", must=True,
            after=(before,), secured=Secured.LOCKER,
        )  # fmt: skip
    if work.way == "back_out":
        return Step(
            key, "stud", Phase.WORK, Place.AIR,
            f"Back the {which} stud out {work.turns:g} turns; leave the others tight.",
            f"It is {length(work.short_m)} short of a full nut with a pitch showing; "
            f"{length(work.left_m)} stays in the casting, {length(work.least_m)} must.", 8,
            tools=(f"two {thread} nuts", socket(work.joint.diameter_m), "pen to mark the turns"),
            takes=("penetrating oil", "medium thread-locker"),
            measures=(StepMeasure("turns out", work.turns, "turns", "stud"),
                      StepMeasure("stands out", work.out_m, "small_length", "stud", "± 0.5 mm")),
            of=(work.way, f"{work.turns:g}"),
            good="Stick-out as drawn; carburetor does not rock.", bad=STUCK, **common,
        )  # fmt: skip
    if work.way == "extend":
        return Step(
            key, "stud", Phase.WORK, Place.AIR,
            f"Screw the extension onto the {which} stud; leave the others tight.",
            f"The stud is {length(work.short_m)} short.", 5,
            tools=(socket(work.joint.diameter_m), "wrench to hold"),
            takes=("medium thread-locker",),
            measures=(StepMeasure("sticks out at least", work.out_m, "small_length", "stud"),),
            of=(work.way,),
            good="Bottomed on the stud; nut takes a full thread with a pitch showing.",
            bad="It turns the stud with it: hold the shank.", **common,
        )  # fmt: skip
    size = f"{thread} × {work.part.length_m * 1e3:g}" if work.part and work.part.length_m else (
        f"a longer {thread} stud, not in the catalog"
    )  # fmt: skip
    return Step(
        key, "stud", Phase.WORK, Place.AIR,
        f"Swap the {which} stud for {size}; leave the others tight.",
        "Longer, so that a full nut goes on behind the plate.", 10,
        tools=(f"two {thread} nuts", socket(work.joint.diameter_m)),
        takes=("penetrating oil", "medium thread-locker"),
        measures=(StepMeasure("stands out", work.out_m, "small_length", "stud", "± 0.5 mm"),),
        of=(work.way, f"{work.out_m:.4f}"),
        good=f"{length(work.out_m)} sticks out, carburetor does not rock.",
        bad=f"The nut turns but the stud stays. {STUCK}", **common,
    )  # fmt: skip


def mixer(case: FitCase) -> Part | None:
    """The part of the gas trains that mixes: plate, tube, carburetor or inlet."""
    found = [part for one in case.gases.values() for _, _, part in one.case.of(*MIXERS)]
    return found[0] if found else None


def _plate(case: FitCase) -> Step:
    part = mixer(case)
    gaskets = part.gaskets if part else 2
    name = "two-barrel block" if case.has("two_barrel_adapter") else "adapter"
    last, way = f"stud-{case.stud_count}", taken(case.job, "gaskets")
    old = {
        "new": "",
        "reuse": ", the old one whole, not hard and not cracked",
        "as_lay": ", the old one whole and with the side to the engine that its photo shows",
    }[way]
    return Step(
        "plate", "plate", Phase.WORK, Place.AIR,
        f"Gasket, {name} with its arrow along the air flow, gasket: onto the studs.",
        "Turned round it meters wrong; a gasket missing or doubled leaks or chokes.", 8,
        tools=("gasket scraper", "lamp"), takes=("rags",),
        parts=(part.key,) if part else (),
        measures=(StepMeasure("plate", case.plate_m or 0.0, "small_length", "stack"),),
        photo="arrow, hose side and both gaskets, from the side",
        caution="No sealant on the gaskets: it squeezes into the intake.",
        good=f"Faces clean and dry; {gaskets} gaskets, one each side{old}; holes line up all "
        "round; arrow points to the engine.",
        bad="A gasket covers part of the bore, or the plate rocks on a burr.",
        after=("port_rag", *((last,) if case.stud_work and case.stud_work.way != "pull" else ())),
        of=() if way == "new" else (way,),
    )  # fmt: skip


def _clear(case: FitCase) -> Iterator[Step]:
    stack, out = case.set.stack, case.outward_m
    choke = case.set.carburetor.choke
    if choke != "none":
        short = _short(stack.bracket_room, out)
        relieve = (
            f" It needs {length(short)} more: relieve bracket or choke sleeve." if short else ""
        )
        yield Step(
            "choke_clear", "clear", Phase.WORK, Place.AIR,
            f"Work the choke from stop to stop with the plate in.{relieve}",
            "The air cleaner now sits farther out and may block its lever.", 8 if short else 2,
            tools=("half-round file",) if short else (),
            caution="Filed with the intake plugged; note what was cut." if short else "",
            good="Opens and shuts fully by its own lever.",
            bad="It catches: relieve what it touches, never bend the link.",
            photo="where it was relieved" if short else "", after=("plate",),
            of=(length(short),) if short else (),
        )  # fmt: skip
    slack = _short(stack.breather_slack, out)
    if slack:
        yield Step(
            "breather_longer", "clear", Phase.WORK, Place.AIR,
            f"Extend the breather hose by {length(slack)} or more.",
            "It no longer reaches, and off it the crankcase breathes dust.", 4,
            tools=("hose cutter", "screwdrivers"), measures=(
                StepMeasure("longer by at least", slack, "small_length", "stack"),),
            good="Reaches with slack, no kink, both ends clamped.", after=("plate",),
            of=(length(slack),),
        )  # fmt: skip
    room = _short(stack.cover_room, out) if case.enclosed else 0.0
    if room:
        yield Step(
            "cover_relief", "clear", Phase.WORK, Place.COVERS,
            f"The cover needs {length(room)} more room: stand-offs at its screws, or a relief cut.",
            "The air cleaner sits farther out than the cover allows.", 20,
            tools=("step drill", "file"), photo="the relief, from inside",
            measures=(StepMeasure("room wanted", room, "small_length", "stack"),),
            caution=f"Eye protection. A cut can't be undone: stand-offs of {length(room)} can.",
            good="Cover closes without touching; edge lined.", after=("plate", "cover"),
            of=(length(room),),
        )  # fmt: skip


def _short(fact: Fact | None, wanted: float) -> float:
    """How much a measured room is short of what is wanted [m]; zero when it was not measured."""
    return max(0.0, wanted - fact.value) if fact is not None else 0.0


def _branches(case: FitCase) -> Step:
    return Step(
        "tee_branch", "plate", Phase.WORK, Place.AIR,
        "Tee with its stem toward the regulator, both branch hoses of one length to the block.",
        "A shorter or straighter branch feeds its barrel more: the engine rocks.", 6,
        tools=("hose cutter", "5/16 in nut driver"),
        good="Both hoses cut against each other; same bend, no sag that holds water.",
        bad="One branch enters straight, the other at an angle: turn the tee.",
        photo="both branches in one picture", after=("plate",),
    )  # fmt: skip


def _snorkel(case: FitCase) -> Iterator[Step]:
    part = mixer(case)
    yield Step(
        "mixer_on", "plate", Phase.WORK, Place.AIR,
        "Mixer tube onto the air horn, clamped; air filter sealed to it all round.",
        "Air that passes beside it is unfiltered and unmetered.", 8,
        tools=("flat screwdriver",), parts=(part.key,) if part else (),
        good="Does not turn by hand; a strip of paper is held all round the filter.",
        bad="Out of round: a sleeve, not more clamp.", after=("port_rag",),
        photo="the tube from the side",
    )  # fmt: skip
    yield Step(
        "choke_clear", "clear", Phase.WORK, Place.AIR,
        "Work the choke from stop to stop behind the tube.",
        "The tube is in front of the choke and may block it. Cold starts on gasoline are "
        "hard then.", 3,
        good="Opens fully; how far it shuts is noted for the owner.",
        bad="Held half shut: turn or shorten the tube.", after=("mixer_on",),
    )  # fmt: skip

"""Reasons from studs and spacing: whether a plate fits between air cleaner and carburetor."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import CarburetorType, GeneratorSet, Stack
from gentle_ember.core.physics import studs
from gentle_ember.core.stages.method.base import Case, Reason, fits, unknown, work


def mm(value_m: float) -> str:
    """Millimeters for a sentence, one decimal at the most.

    >>> mm(0.0125), mm(0.012)
    ('12.5 mm', '12 mm')
    """
    return f"{round(value_m * 1e3, 1):g} mm"


def joint(case: Case) -> studs.StudJoint | None:
    """The stack on this set's studs, with the adapter of its train once one is chosen."""
    return joint_of(case.set, case.plate_m)


def joint_of(machine: GeneratorSet, plate_m: float | None) -> studs.StudJoint | None:
    """The stack on a set's studs; None until diameter, pitch, stick-out and flange are known.

    Args:
        machine: the set.
        plate_m: the adapter's thickness; as the set's own facts say, else usual, when None [m].
    """
    bolt, stack = machine.studs, machine.stack
    if not (bolt.diameter and bolt.pitch and bolt.stick_out and stack.flange):
        return None
    nut = bolt.nut_height.value if bolt.nut_height else 0.85 * bolt.diameter.value
    try:
        return studs.StudJoint(
            bolt.diameter.value,
            bolt.pitch.value,
            bolt.stick_out.value,
            nut,
            stack.flange.value,
            stack.washers.value if stack.washers else studs.WASHERS_M,
            adapter_m(stack, plate_m),
            stack.gaskets.value if stack.gaskets else studs.GASKETS_M,
        )
    except QuantityError:
        return None


def adapter_m(stack: Stack, plate_m: float | None) -> float:
    """Thickness of the adapter [m]: of the part chosen, as measured, or usual."""
    if plate_m is not None:
        return plate_m
    return stack.adapter.value if stack.adapter else studs.ADAPTER_M


def outward_m(stack: Stack, plate_m: float | None) -> float:
    """How far the air cleaner moves outward: the plate and one more compressed gasket [m]."""
    gaskets = stack.gaskets.value if stack.gaskets else studs.GASKETS_M
    return adapter_m(stack, plate_m) + 0.5 * gaskets


def stud_count(machine: GeneratorSet) -> int:
    """Studs that carry the air cleaner: a pair for each barrel."""
    return 4 if machine.carburetor.type is CarburetorType.TWO_BARREL else 2


def reach(case: Case) -> Iterator[Reason]:
    """Whether the studs reach through the adapter, and what makes them."""
    bolt = case.set.studs
    wanted = (
        (bolt.diameter, "set.studs.diameter", "Measure the stud's diameter."),
        (bolt.pitch, "set.studs.pitch", "Gauge the stud's pitch."),
        (bolt.stick_out, "set.studs.stick_out", "Measure how far the studs stick out."),
        (case.set.stack.flange, "set.stack.flange", "Measure the air-cleaner flange."),
    )
    missing = [unknown(text, path) for fact, path, text in wanted if fact is None]
    yield from missing
    found = joint(case)
    if found is None or bolt.stick_out is None:
        return
    path = "set.studs.stick_out"
    if studs.full_nut(found):
        yield fits(
            f"Studs stick out {mm(found.stick_out_m)}: a full nut with a pitch showing.", path
        )
        return
    if studs.cautioned(found):
        yield work(
            f"Nut only {mm(studs.engagement(found))} on (0.8 d is {mm(0.8 * found.diameter_m)}): "
            "caution. Longer studs are better; thread-locker is no substitute.",
            path,
        )
    short = studs.shortfall(found)
    yield work(
        f"Studs are {mm(short)} short of a full nut with a pitch showing: {_remedy(case, found)}",
        path,
    )


def _remedy(case: Case, found: studs.StudJoint) -> str:
    bolt = case.set.studs
    turns = studs.turns_out(studs.shortfall(found), found.pitch_m)
    if bolt.thread_depth is None:
        return f"longer studs, or back out {turns:g} turns (measure the thread in the casting)."
    left = studs.thread_left(bolt.thread_depth.value, turns, found.pitch_m)
    least = studs.least_in_casting(found.diameter_m, bolt.metal)
    try:
        length = f"longer studs, {mm(studs.longer_stud(found, bolt.thread_depth.value))}"
    except QuantityError:
        length = "stud extensions"
    if left >= least:
        return f"back out {turns:g} turns ({mm(left)} stays, {mm(least)} needed), or {length}."
    return f"{length}. Backing out {turns:g} turns would leave {mm(left)} of {mm(least)}."


def stack_room(case: Case) -> Iterator[Reason]:
    """Breather reach, bracket, cover and third bolt once the air cleaner moves outward."""
    stack = case.set.stack
    out = outward_m(stack, case.plate_m)
    rooms: tuple[tuple[Fact | None, str, str, str, str], ...] = (
        (stack.breather_slack, "breather_slack", "Measure the breather hose's slack.",
         "Breather hose is {} short: extend it.", "Breather hose reaches."),
        (stack.bracket_room, "bracket_room", "Measure the room at choke lever and bracket.",
         "Choke lever or bracket needs {} more room: relieve it or space it.", "Bracket clears."),
    )  # fmt: skip
    if case.inverter:
        rooms += (
            (stack.cover_room, "cover_room", "Measure the room inside the cover.",
             "The cover needs {} more: relief or spacers.", "The cover closes."),
        )  # fmt: skip
    for fact, name, measure, short, good in rooms:
        path = f"set.stack.{name}"
        if fact is None:
            yield unknown(measure, path)
        elif fact.value < out:
            yield work(short.format(mm(out - fact.value)), path)
        else:
            yield fits(good, path)
    path = "set.stack.air_cleaner"
    if stack.air_cleaner == "unknown":
        yield unknown("Look how the air cleaner is held: two studs, a third bolt?", path)
    elif stack.air_cleaner == "third_bolt":
        yield work(f"A spacer of {mm(out)} behind the third bolt.", path)
    elif stack.air_cleaner == "other":
        yield work("Air cleaner held in its own way: the adapter must suit it.", path)
    else:
        yield fits("Air cleaner on the two studs alone.", path)

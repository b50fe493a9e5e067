"""Marking, drilling and fixing what is mounted on the set, from the mounts worked out."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.physics.fasteners import Thread
from gentle_ember.core.stages.fit.case import FitCase, key_of, length
from gentle_ember.core.stages.fit.marks.mount import MOUNTED, MountPlan, mountable
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, StepMeasure, Torque

CHIPS = "Eye protection on; tape round the drill, rag behind against chips."
EDGE = {"left": "left edge", "right": "right edge", "top": "upper edge", "bottom": "lower edge"}


def mounts(case: FitCase) -> Iterator[Step]:
    """Steps of every mount, of what stands in the way before it."""
    yield from in_the_way(case)
    for one in case.mounts:
        if one.part is not None and one.part.key not in case.there:
            yield from _mount(case, one)
    placed = {one.part.key for one in case.mounts if one.part is not None}
    for train in case.trains.values():
        for _, _, part in train.case.of(*MOUNTED):
            if part.key in placed or part.key in case.there or not mountable(part):
                continue
            placed.add(part.key)
            yield Step(
                key_of("place", part.key), "mark", Phase.WORK, Place.PANEL,
                f"Find the place for the {part.name.split(',')[0]}: measure the face under Marks.",
                "Nothing is drilled before its place is worked out.", 10,
                tools=("tape measure", "caliper"), parts=(part.key,),
                good="The sheet of marks is ready.",
                bad="It goes on cylinder or cart instead: skip this with that reason.",
            )  # fmt: skip


CALLED = {str(key): text for key, text in CHOICES["in_the_way"]}
MOVED = {
    "canister": "its hose stays on, whole and uphill: the tank breathes through it",
    "cover": "on stand-offs or to another place; nothing that turns is left open",
    "breather": "supple, no kink, uphill to the air cleaner",
    "air_box": "sealed to the carburetor all round as before",
    "exhaust": "cold, with a new gasket; nothing of fuel within reach of its heat after",
    "wiring": "slack kept, tied off edges and heat",
    "other": "fixed again where it can't work loose",
}


REMEDIES = {
    "move": ("Move the {name}: {moved}.", 12.0, "Firm by hand; does what it did.",
             "It does not reach: longer, not stretched."),
    "replace": ("Replace the {name} by one that clears.", 15.0, "Firm by hand; does what it did.",
                "The new one clears no better: another place for the part."),
    "cut": ("Cut the {name} clear, no more than it must be.", 20.0,
            "Edge deburred and lined; a hand passes without a scratch.",
            "More must go than was agreed to: ask the owner first."),
}  # fmt: skip
"""What is done with what stands in the way: the work, minutes, good and bad."""


def way_step(key: str) -> str:
    """Key of the step that does away with something in the way."""
    return key_of("way", key)


def in_the_way(case: FitCase) -> Iterator[Step]:
    """What stands in the way: moved, replaced or cut, before anything is mounted there."""
    after = ("cover",) if case.enclosed else ()
    rows = [
        (way_step(key), one.what, one.name or CALLED[one.what], one.remedy, one.undo)
        for key, one in case.set.in_the_way.items()
    ]
    rows += [
        (way_step(f"face-{key}"), "other", face.stands, face.remedy, "unknown")
        for key, face in case.set.faces.items()
        if face.stands.strip()
    ]
    for key, what, name, remedy, undo in rows:
        if remedy not in REMEDIES:
            continue
        do, minutes, good, bad = REMEDIES[remedy]
        caution = ""
        if remedy == "cut":
            back = "" if undo == "yes" else " It can't be undone: note it as left behind."
            caution = f"Eye protection; nothing live, nothing wet with fuel near.{back}"
        yield Step(
            key, "clear", Phase.WORK, Place.FRAME, do.format(name=name, moved=MOVED[what]),
            "Something must go where it stands.", minutes,
            tools=("screwdrivers", "8 and 10 mm sockets with extension"), of=(remedy, name),
            photo=f"{name} before, and after", after=after, caution=caution, good=good, bad=bad,
        )  # fmt: skip


def fixed_by(one: MountPlan) -> str:
    """Key of the step that fixes a mount's part."""
    return key_of("fix", one.key)


def drill_size(diameter_m: float) -> str:
    """A drill as it is stamped.

    >>> drill_size(0.0066)
    '6.6 mm'
    """
    return f"{round(diameter_m * 1e3, 1):g} mm"


def _mount(case: FitCase, one: MountPlan) -> Iterator[Step]:
    part = one.part
    if part is None:
        return
    name = part.name.split(",")[0]
    opened = ("cover", f"panel-{one.key}") if case.enclosed else ()
    if not one.ready:
        way = tuple((f"{blocker.what} is in the way", blocker.path) for blocker in one.blockers)
        text = (one.missing or one.stops or way)[0][0]
        yield Step(
            key_of("place", one.key), "mark", Phase.WORK, Place.PANEL,
            f"Find the place for the {name}.",
            "Nothing is drilled before its place is worked out.", 10,
            tools=("tape measure", "caliper"), parts=(part.key,),
            caution=f"Not drilled yet: {text}.",
            good="The sheet of marks is ready.", after=opened,
        )  # fmt: skip
        return
    before = key_of("place", one.key)
    place = f"{one.center}" if one.center else ""
    if one.drilled:
        yield Step(
            key_of("behind", one.key), "look", Phase.WORK, Place.PANEL,
            f"Look behind where the {name} goes: tank, leads, sub-structure, room for the nut.",
            "A hole can't be taken back.", 4, tools=("lamp", "mirror"),
            parts=(part.key,), of=(place,),
            photo="what is behind the marks",
            good="Nothing within a wrench's sweep; leads tied out of the way.",
            bad=f"{one.behind.capitalize() or 'Something'} nearer than on the sheet: measure "
            "again, and the place is worked out again.",
            caution="Leads behind the holes are moved and tied first." if one.behind == "wiring"
            else "", after=opened,
        )  # fmt: skip
        yield from _marks(one, name, place)
        yield from _drill(one, name, place)
        before = key_of("gauge", one.key)
    yield _fix(one, name, before if one.drilled else "", opened, place)


def _marks(one: MountPlan, name: str, place: str) -> Iterator[Step]:
    through = one.mount.holes == "transferred"
    measures = tuple(
        StepMeasure(f"{hole.name} from the {EDGE[found[0]]}", found[1], "small_length", "offset",
                "± 0.5 mm")
        for hole in one.holes
        for found in (hole.across, hole.upright)
        if found is not None
    )  # fmt: skip
    yield Step(
        key_of("mark", one.key), "mark", Phase.WORK, Place.PANEL,
        f"Mark the holes for the {name}, from the edges named." if not through else
        f"Hold the {name} at its place, level, and mark through its own holes.",
        "A tape hooks on an edge; measuring between holes adds up errors." if not through else
        "The part itself is the template; the distances only find its place.", 6,
        tools=("tape measure", "square", "center punch"), takes=("masking tape",),
        parts=(one.part.key,) if one.part else (), of=(place,), measures=measures,
        good="Both rulers of the printed sheet measure true, and the part itself covers the "
        "marks.",
        bad="Tape and template differ: measure again, don't take the middle.",
        photo="marks with the tape on them",
        after=(key_of("behind", one.key),),
    )  # fmt: skip


def _drill(one: MountPlan, name: str, place: str) -> Iterator[Step]:
    cuts = ", then ".join(f"{cut.bit} {drill_size(cut.diameter_m)}" for cut in one.passes)
    stop = f" Depth stop at {length(one.depth.stop_m)}." if one.depth.stop_m else ""
    yield Step(
        key_of("drill", one.key), "drill", Phase.WORK, Place.PANEL,
        f"Drill for the {name}: punch, {cuts}.{stop}",
        " ".join(cut.do for cut in one.passes), 4 + 3 * len(one.holes),
        tools=("drill", *(f"{cut.bit} {drill_size(cut.diameter_m)}" for cut in one.passes), "file",
               *(("depth stop",) if one.depth.stop_m else ())),
        takes=("masking tape", "rags"),
        parts=(one.part.key,) if one.part else (), of=(place,),
        caution=CHIPS + (f" {one.behind.capitalize()} behind: the stop is on." if one.depth.stop_m
                         else ""),
        good="Clean edges, no chip left behind, nothing touched behind.",
        bad="A hole in the wrong place: note it as left behind, close it, don't widen it.",
        after=(key_of("mark", one.key),),
    )  # fmt: skip
    if one.thread is not None:
        play = length(one.thread.play_m)
        good = f"The bolt's shank slides through; it moves {play} at most."
    else:
        good = "The thread goes through by hand; it moves half a millimeter at most."
    yield Step(
        key_of("gauge", one.key), "drill", Phase.WORK, Place.PANEL,
        "Deburr, wipe, touch up the paint; gauge each hole.",
        "A burr cuts a hose, a bare edge rusts, a wide hole lets the part work loose.", 4,
        tools=("file",), takes=("touch-up paint", "rags"),
        parts=(one.part.key,) if one.part else (), of=(place,), good=good,
        bad="More play: a large washer on both sides, or a backing plate.",
        after=(key_of("drill", one.key),),
    )  # fmt: skip


def _torque(thread: Thread) -> Torque:
    return Torque(
        round(0.8 * thread.torque_nm, 1), thread.torque_nm,
        "about a third of proof for class 8.8 on thin metal; less on plastic",
    )  # fmt: skip


def _fix(one: MountPlan, name: str, after: str, opened: tuple[str, ...], place: str) -> Step:
    part = one.part
    key = part.key if part else ""
    upright = " Upright, as its arrow or cover shows." if part and part.upright else ""
    if one.thread is None:
        how = "nut from behind, by hand, then a wrench; its shoulder flat on the panel"
        tools: tuple[str, ...] = ("large adjustable wrench", "wrench to hold")
    elif one.drilled and one.bolt is not None:
        how = (
            f"{one.thread.name} × {one.bolt.value * 1e3:g} mm bolts, a washer each side, "
            "all hand-started"
        )
        tools = (one.thread.wrench, one.thread.wrench.replace("wrench", "socket"))
    else:
        how = "clamps round the tube, rubber between, all hand-started"
        tools = (one.thread.wrench,)
    return Step(
        fixed_by(one), "mount", Phase.WORK, Place.PANEL,
        f"Fix the {name}: {how}.{upright}",
        "Upright its diaphragm hangs free; loose it works its hoses off."
        if upright else "What is loose rubs through.", 8,
        tools=tools, parts=(key,), of=(place,),
        torque=_torque(one.thread) if one.thread else None,
        secured=Secured.TORQUE if one.thread else Secured.NONE,
        good="Does not move by hand; primer and load screw can be reached with a glove."
        if upright else "Does not turn when its fitting is tightened.",
        bad="It rocks: a burr or a bent panel under its foot.",
        photo="as mounted, with what is round it",
        after=(after,) if after else opened,
    )  # fmt: skip

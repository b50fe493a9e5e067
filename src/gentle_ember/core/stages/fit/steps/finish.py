"""Work from the walk-round, and the end: closed up in reverse, counted, labeled, photographed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.fit import Fastener
from gentle_ember.core.job.job import Decision
from gentle_ember.core.stages.fit.case import FitCase, key_of
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step
from gentle_ember.core.stages.intake.walk_round import BY_KEY

PLACES = {
    "controls": Place.CONTROLS,
    "tank": Place.TANK,
    "intake": Place.CARBURETOR,
    "engine": Place.ENGINE,
    "around": Place.FRAME,
}


def found_work(case: FitCase) -> Iterator[Step]:
    """What the walk-round found and somebody decided to mend."""
    for task in case.tasks:
        if task.decision is Decision.STOP or (task.done and key_of("task", task.key) not in
                                              case.job.fit.steps):  # fmt: skip
            continue
        check = BY_KEY[task.key]
        yield Step(
            key_of("task", task.key), "task", Phase.WORK, PLACES[check.place],
            f"{task.title}.", task.why, task.minutes, takes=task.parts,
            good=check.good, bad=check.bad,
            after=("bowl_drain",) if task.key in ("carburetor", "gaskets") and case.has(
                "exchanged_carburetor", "multi_fuel_carburetor", "rejet") else (),
        )  # fmt: skip


def added(case: FitCase) -> Iterator[Step]:
    """Steps somebody added."""
    for key, one in case.job.fit.added.items():
        yield Step(
            key_of("own", key), "own", Phase.WORK, Place.BENCH, _sentence(one.what), one.why,
            one.minutes, after=(one.after,) if one.after else (),
        )  # fmt: skip


def _sentence(text: str) -> str:
    return text if text.endswith((".", "!", "?")) else f"{text}."


def closing(case: FitCase, done: Sequence[Step]) -> Iterator[Step]:
    """What was opened, put back in the exact reverse order, after all other work."""
    before = tuple(step.key for step in done if not step.back)
    for step in reversed([one for one in done if one.back]):
        held = case.job.fit.fasteners.get(step.key, blank(Fastener))
        key = key_of("back", step.key)
        yield Step(
            key, "close", Phase.CLOSE, step.place, step.back,
            "In the reverse of how it came off." + _screws(held),
            max(1.0, step.minutes), tools=step.tools, torque=step.torque,
            secured=step.secured or _secured(held), caution=step.mind_back,
            good=f"{held.count} of {held.count} screws in, none over." if held.count
            else "Nothing left in the tray.",
            bad="A screw left over: find its hole before going on.",
            after=before, of=(step.key,),
        )  # fmt: skip
        before = (key,)


def _screws(held: Fastener) -> str:
    text = ""
    if held.count:
        text += f" {held.count} × {held.size or 'screws'}."
    if held.first:
        text += f" First: {held.first}."
    if held.hidden:
        text += f" Hidden: {held.hidden}."
    return text


def _secured(held: Fastener) -> Secured | None:
    return {"torque": Secured.TORQUE, "locker": Secured.LOCKER}.get(held.secured)


def finish(case: FitCase, last: str) -> Iterator[Step]:
    """After closing up: ties, count, label, photos."""
    yield Step(
        "ties", "finish", Phase.FINISH, Place.FRAME,
        "Trim every tie flush; look along each hose and lead once more.",
        "A tail cuts a hand, an edge a hose.", 3, tools=("side cutters",), after=(last,),
        good="Nothing touches exhaust, pull rope or fan.",
    )  # fmt: skip
    yield Step(
        "count", "finish", Phase.FINISH, Place.BENCH,
        "Count tools, rags and screws against the tray.", "What is missing is in the machine.", 3,
        good="Every rag out, tray empty, screws as on the map.",
        bad="One short: find it before the engine turns.", after=("ties",),
    )  # fmt: skip
    if case.gases or "gasoline" in case.trains:
        yield Step(
            "label_on", "finish", Phase.FINISH, Place.PANEL,
            "Panel label on: positions and order, beside the valve it describes.",
            "Whoever runs it next was not here.", 4, takes=("panel label", "alcohol wipe"),
            photo="label with the valve", after=("count",),
            good="Each position on it matches the handle.",
            bad="Handle and label differ: clock the handle, don't cross out the label.",
        )  # fmt: skip
    yield Step(
        "photos_after", "photo", Phase.FINISH, Place.FRAME,
        "Photograph it as it leaves, all four sides.", "Before and after, for owner and shop.", 3,
        photo="all sides", after=("count",),
    )  # fmt: skip

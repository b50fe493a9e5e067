"""A step of the fit sheet, and the order steps come in."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from graphlib import CycleError, TopologicalSorter


class Place(StrEnum):
    """Where on or about the machine it is done: steps of one place are done together."""

    BENCH = "bench"
    CONTROLS = "controls"
    TANK = "tank"
    COVERS = "covers"
    PANEL = "panel"
    AIR = "air side"
    CARBURETOR = "carburetor"
    ENGINE = "engine"
    FRAME = "frame"
    SOURCE = "source"


class Phase(StrEnum):
    """Rough order of the work; whole phases wait for each other only where `GATES` says so."""

    PREPARE = "prepare"
    DRAIN = "drain"
    OPEN = "open"
    WORK = "work"
    CLOSE = "close"
    FINISH = "finish"


GATES = (Phase.PREPARE, Phase.DRAIN)
"""Nothing else is begun before all of these are done."""


class Secured(StrEnum):
    """What keeps a fastener where it is."""

    TORQUE = "torque"
    LOCKER = "thread-locker"
    NONE = "none"
    CLAMP = "clamp"


@dataclass(frozen=True, slots=True)
class Torque:
    """How tight [N·m], where that comes from, and how it is done."""

    low_nm: float
    high_nm: float
    source: str

    @property
    def text(self) -> str:
        """As it is said at the bench.

        >>> Torque(8, 10, "").text
        '8–10 N·m'
        """
        if self.low_nm == self.high_nm:
            return f"{self.low_nm:g} N·m"
        return f"{self.low_nm:g}–{self.high_nm:g} N·m"


@dataclass(frozen=True, slots=True)
class StepMeasure:
    """A length (or turns) the step is about, and which drawing shows it."""

    label: str
    value: float
    kind: str
    draw: str
    """Which drawing: stud, offset, loop, gap, stack, level, turns."""
    tolerance: str = ""


@dataclass(frozen=True, slots=True)
class Step:
    """One step. `after` are keys of steps that must be done before it."""

    key: str
    kind: str
    """What sort of work it is; the shop's own times are learned by it."""
    phase: Phase
    place: Place
    what: str
    why: str
    minutes: float
    tools: tuple[str, ...] = ()
    takes: tuple[str, ...] = ()
    """Consumables."""
    parts: tuple[str, ...] = ()
    """Parts of the catalog it handles, by key."""
    joint: str = ""
    """Joint of a train it makes, as train.slot."""
    fuel: str = ""
    measures: tuple[StepMeasure, ...] = ()
    torque: Torque | None = None
    secured: Secured | None = None
    caution: str = ""
    good: str = ""
    bad: str = ""
    photo: str = ""
    """What the photo must show; empty where none is asked for."""
    after: tuple[str, ...] = ()
    back: str = ""
    """How it is put back, where it must be: closing up is the reverse of what was opened."""
    mind_back: str = ""
    """What to mind when putting it back."""
    must: bool = False
    """Whether it can't be skipped, whatever the reason."""
    of: tuple[str, ...] = field(default=())
    """What it is about, besides its parts: a length, a place. A change makes it stale."""

    @property
    def subject(self) -> str:
        """What it is about, as kept with the record that it was done."""
        return " ".join((*self.parts, *self.of))[:200]


class OrderError(ValueError):
    """Steps that wait for each other in a circle."""


def ordered(steps: Iterable[Step]) -> tuple[Step, ...]:
    """Steps in an order in which each comes after what it waits for.

    Among those that could be done next, one at the place worked at is taken, then the one that
    was listed first. What a step waits for that is not in the list is dropped.

    Raises:
        OrderError: steps that wait for each other.
    """
    listed = _gated(list(steps))
    by_key = {step.key: step for step in listed}
    rank = {step.key: at for at, step in enumerate(listed)}
    sorter = TopologicalSorter({step.key: step.after for step in listed})
    try:
        sorter.prepare()
    except CycleError as error:
        raise OrderError(f"steps wait for each other: {' → '.join(error.args[1])}") from None
    found: list[Step] = []
    ready: set[str] = set()
    while sorter.is_active():
        ready |= set(sorter.get_ready())
        here = found[-1].place if found else None
        key = min(ready, key=lambda one: (by_key[one].place is not here, rank[one]))
        ready.remove(key)
        sorter.done(key)
        found.append(by_key[key])
    return tuple(found)


def _gated(steps: Sequence[Step]) -> list[Step]:
    """Known predecessors only, and everything after the gates: nothing is opened before."""
    keys = {step.key for step in steps}
    gated = {phase: [step.key for step in steps if step.phase is phase] for phase in GATES}
    before: dict[Phase, tuple[str, ...]] = {}
    passed: tuple[str, ...] = ()
    for phase in GATES:
        before[phase] = passed
        passed = (*passed, *gated[phase])
    found = []
    for step in steps:
        waits = (key for key in step.after if key in keys and key != step.key)
        after = tuple(dict.fromkeys((*before.get(step.phase, passed), *waits)))
        found.append(step if after == step.after else replace(step, after=after))
    return found

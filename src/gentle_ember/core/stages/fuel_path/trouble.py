"""What a rule finds wrong with a train: how hard it holds, where, why, and what would help."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.job.site import Site
from gentle_ember.core.job.train import Train
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.stage import Severity
from gentle_ember.core.stages.fuel_path.case import Asked
from gentle_ember.core.stages.fuel_path.ladder import Fitted, Ladder


@dataclass(frozen=True, slots=True)
class Amount:
    """A number that belongs to a trouble: what it is, its value [SI] and kind."""

    label: str
    value: float
    kind: str = "pressure"


@dataclass(frozen=True, slots=True)
class Trouble:
    """One fault of a train. It sits at a slot, or with `joint` at the joint before it."""

    rule: str
    severity: Severity
    slot: str
    text: str
    why: str
    joint: bool = False
    amounts: tuple[Amount, ...] = ()
    mend: str = ""
    """What would help, in words."""
    path: str = ""
    """Where the question is answered, for what is not known; the train itself when empty."""

    @property
    def holds(self) -> bool:
        """Whether the train can't be judged before it is answered."""
        return self.severity is Severity.NOT_KNOWN

    @property
    def stops(self) -> bool:
        """Whether it blocks sign-off."""
        return self.severity is Severity.STOP


@dataclass(frozen=True, slots=True)
class TrainCase:
    """A train with everything the rules read."""

    job: Job
    name: str
    """The train's key in the job."""
    train: Train
    parts: tuple[Fitted, ...]
    asked: Asked
    ladder: Ladder
    catalog: Mapping[str, Part]

    @property
    def site(self) -> Site:
        """The site looked at."""
        return self.job.sites[self.job.site]

    @property
    def in_case(self) -> bool:
        """Whether its hoses pass into a case: as told, else by the set's class."""
        told = self.train.through_cover
        return self.job.set.set_class in INVERTERS if told is None else told

    def known(self) -> Iterator[tuple[Fitted, Part]]:
        """The slots whose part is known."""
        return ((one, one.part) for one in self.parts if one.part is not None)

    def of(self, *kinds: PartClass) -> list[tuple[int, Fitted, Part]]:
        """Slots with a part of these classes, and where they stand."""
        return [
            (at, one, one.part)
            for at, one in enumerate(self.parts)
            if one.part is not None and one.part.kind in kinds
        ]

    def length_between(self, first: int, last: int) -> float:
        """Length of hose and pipe between two places [m]."""
        return sum(one.length_m for one in self.parts[first + 1 : last])


def grade(troubles: Sequence[Trouble]) -> str:
    """What somebody else's conversion comes to, in a sentence."""
    stops = sum(one.stops for one in troubles)
    if stops:
        return f"Not fit to run: {stops} {'stop' if stops == 1 else 'stops'}."
    open_ = sum(one.holds for one in troubles)
    if open_:
        return f"Not known whether it is fit to run: {open_} to be answered first."
    if troubles:
        return "Fit to run with what is said below put right."
    return "Nothing found wrong with it, on paper."


def stop(
    rule: str, slot: str, text: str, why: str, *amounts: Amount, mend: str = "", joint: bool = False
) -> Trouble:
    """A fault that blocks sign-off."""
    return Trouble(rule, Severity.STOP, slot, text, why, joint, amounts, mend)


def mind(
    rule: str, slot: str, text: str, why: str, *amounts: Amount, mend: str = "", joint: bool = False
) -> Trouble:
    """A fault to mind."""
    return Trouble(rule, Severity.CAUTION, slot, text, why, joint, amounts, mend)


def not_known(rule: str, slot: str, text: str, why: str, *, path: str = "") -> Trouble:
    """Something the verdict rests on and nobody has said: held until it is."""
    return Trouble(rule, Severity.NOT_KNOWN, slot, text, why, path=path)

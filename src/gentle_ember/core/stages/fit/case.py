"""What the sheet is made from: the job with its trains, work found, mounts and methods."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.estimates.jets import JetDecision
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import HANDLING
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import MIXERS, Part
from gentle_ember.core.physics import studs
from gentle_ember.core.physics.fasteners import thread_of
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.stages.fit.marks.mount import MountPlan
from gentle_ember.core.stages.fit.step import Torque
from gentle_ember.core.stages.fuel_path.stack import StudWork, stud_work
from gentle_ember.core.stages.fuel_path.trains import TrainSection
from gentle_ember.core.stages.intake.walk_round import Task
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.stack import adapter_m, joint_of, outward_m, stud_count

SHORT: dict[str, str] = {fuel: one.short for fuel, one in HANDLING.items()}
MAKERS_FIRST = "usual for the thread into a gasketed flange; the maker's figure goes first"


@dataclass(frozen=True)
class FitCase:
    """A job to be fitted."""

    job: Job
    trains: Mapping[str, TrainSection]
    """By fuel; what was found on the set is left out."""
    parts: Mapping[str, Part]
    tasks: tuple[Task, ...]
    mounts: tuple[MountPlan, ...]
    methods: tuple[str, ...]
    jet: JetDecision
    """The one jet that is to run here."""

    @property
    def set(self) -> GeneratorSet:
        """The set."""
        return self.job.set

    @property
    def enclosed(self) -> bool:
        """Whether covers must come off to reach anything."""
        return self.set.set_class in INVERTERS

    def has(self, *methods: str) -> bool:
        """Whether one of these schools is chosen."""
        return any(method in self.methods for method in methods)

    @property
    def gases(self) -> dict[str, TrainSection]:
        """Trains of gas."""
        return {name: one for name, one in self.trains.items() if name != "gasoline"}

    @property
    def stud_count(self) -> int:
        """Studs that carry the air cleaner."""
        return stud_count(self.set)

    @property
    def stud_m(self) -> float:
        """Diameter of the studs [m]; M6 where it was not measured."""
        return self.set.studs.diameter.value if self.set.studs.diameter else 6e-3

    @cached_property
    def there(self) -> frozenset[str]:
        """Parts of which every place on the trains is on the set already, by their keys."""
        places = [found for one in self.trains.values() for found in one.case.known()]
        new = {part.key for place, part in places if not place.slot.there}
        return frozenset(part.key for _, part in places) - new

    @cached_property
    def mixer_there(self) -> bool:
        """Whether what mixes the gas is on the set already: nothing of the intake is opened."""
        found = [place for one in self.gases.values() for _, place, _ in one.case.of(*MIXERS)]
        return bool(found) and all(place.slot.there for place in found)

    @cached_property
    def plate_m(self) -> float | None:
        """Thickness of the adapter [m]; None where no plate goes in."""
        if self.mixer_there or not self.has("spacer_adapter", "two_barrel_adapter"):
            return None
        return adapter_m(self.set.stack, Case(self.job).plate_m)

    @cached_property
    def stud_joint(self) -> studs.StudJoint | None:
        """The stack on the studs with the plate in it."""
        return None if self.plate_m is None else joint_of(self.set, self.plate_m)

    @cached_property
    def stud_work(self) -> StudWork | None:
        """What makes the studs reach; None where they do, or are not measured."""
        if self.stud_joint is None:
            return None
        return stud_work(self.job, self.stud_joint, self.parts.values())

    @property
    def outward_m(self) -> float:
        """How far the air cleaner moves outward [m]."""
        return 0.0 if self.plate_m is None else outward_m(self.set.stack, self.plate_m)

    @property
    def nut_torque(self) -> Torque:
        """How tight the nuts of the stack are."""
        thread = thread_of(self.stud_m)
        return Torque(round(0.9 * thread.torque_nm), round(1.3 * thread.torque_nm), MAKERS_FIRST)


def key_of(*words: str) -> str:
    """A step's key from words.

    >>> key_of("j", "n", "near_shut_off")
    'j-n-near_shut_off'
    """
    return re.sub(r"[^a-z0-9_-]+", "_", "-".join(words).lower())[:40]


def length(value_m: float) -> str:
    """A length within a sentence, to be said in the reader's own units.

    >>> length(0.0385)
    '⟨0.0385 small_length⟩'
    """
    return f"⟨{value_m:.6g} small_length⟩"

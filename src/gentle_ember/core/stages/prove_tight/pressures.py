"""Pressures measured at the inlet of what meters the gas, held against the ladder and its limits.

A manometer there, at no flow, some minutes later and at full load, tells what no soap shows: a
regulator that creeps, a pipe that starves, a stage missing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Figure, Input, Method, Rival, exact
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.job.prove_tight import InletPressures
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.stage import NOTED, Caution, Item, Plan, Severity
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build

CREEP_PA, CREEP_SHARE = 25.0, 0.05
"""A rise at no flow within five minutes beyond both is no reading error: the seat passes gas."""
DIFFERS, DIFFERS_PA = 0.2, 60.0
"""How far a reading may lie from the ladder before one of the two is looked into."""
INLET = Method(
    "inlet-pressure", "Pressure at the inlet", "as read on a manometer at the inlet",
    "U-tube or manometer at a test port; the ladder is its rival", "ladder",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class InletProof:
    """One gas's readings at the inlet of what meters it, beside what the ladder expects there."""

    fuel: str
    part: Part
    read: InletPressures
    still_pa: float
    full_pa: float
    """What the ladder expects at no flow and at full load [Pa]."""

    @property
    def path(self) -> str:
        """Where the readings are kept."""
        return f"proof.pressures.{self.fuel}"

    @property
    def figures(self) -> tuple[Figure, ...]:
        """Each reading as a figure, the ladder as its second opinion."""
        told = (
            ("static", "at no flow", self.read.static, self.still_pa),
            ("later", "at no flow, five minutes later", self.read.later, self.still_pa),
            ("full", "at full load", self.read.full, self.full_pa),
        )
        return tuple(
            Figure(
                f"{self.path}.{name}", label, fact.value, "pressure", INLET, exact(fact.value),
                (Input("read", fact.value, "pressure", fact.origin),),
                (Rival("the ladder", expected),),
            )
            for name, label, fact, expected in told
            if fact is not None
        )  # fmt: skip

    def cautions(self) -> Iterator[Caution]:
        """What the readings stop or warn of."""
        name, read, part = NAMES[FuelKey(self.fuel)], self.read, self.part.name.split(",")[0]
        still = [one.value for one in (read.static, read.later) if one is not None]
        if still and self.part.most_pa is not None and max(still) > self.part.most_pa:
            yield self._stop(
                "over", "prove_tight",
                f"{name}: more pressure at the {part} than it takes, measured at no flow. Shut the "
                "source: a stage before it is missing, set wrong or passes gas.",
            )  # fmt: skip
        if read.static is not None and read.later is not None:
            rose = read.later.value - read.static.value
            if rose > max(CREEP_PA, CREEP_SHARE * read.static.value):
                yield self._stop(
                    "creep", "prove_tight",
                    f"{name}: the pressure at the {part} creeps up at no flow. A regulator before "
                    "it does not shut: dirt on its seat, or it is done. Replace it.",
                )  # fmt: skip
        least = self.part.least_pa
        if read.full is not None and least is not None and read.full.value < least:
            yield self._stop(
                "starved", "load_test",
                f"{name}: less pressure at the {part} at full load than it needs, measured. "
                "Wider or shorter pipe or hose, full-bore coupler, or a larger regulator.",
            )  # fmt: skip
        for field, fact, expected, when, stage in (
            ("static", read.static, self.still_pa, "at no flow", "prove_tight"),
            ("full", read.full, self.full_pa, "at full load", "load_test"),
        ):
            if fact is not None and abs(fact.value - expected) > max(
                DIFFERS_PA, DIFFERS * abs(expected)
            ):
                text = (
                    f"{name}: the pressure measured {when} is not what the ladder expects: a part, "
                    "a length or the supply differs from what the job says."
                )
                key = f"{self.path}.differs.{field}"
                yield Caution(key, Severity.CAUTION, stage, text, self.path)

    def _stop(self, key: str, stage: str, text: str) -> Caution:
        at = f"{self.path}.{key}"
        return Caution(at, Severity.STOP, stage, text, self.path, proving_settles=True)

    def items(self) -> Iterator[Item]:
        """What is still to be read."""
        name = NAMES[FuelKey(self.fuel)]
        for field, fact, when, stage in (
            ("static", self.read.static, "at no flow", "prove_tight"),
            ("later", self.read.later, "at no flow, five minutes later", "prove_tight"),
            ("full", self.read.full, "at full load", "load_test"),
        ):
            if fact is None:
                text = f"{name}: pressure at the {self.part.name.split(',')[0]} {when}, to be read"
                path = f"{self.path}.{field}"
                yield Item(path, NOTED, text, stage, path, holds=True)


def inlet_proof(job: Job, fuel: str, section: TrainSection) -> InletProof | None:
    """The readings of a gas; None for a train with nothing that meters it by suction."""
    for one, part in section.case.known():
        if part.kind is PartClass.DEMAND or part.holds_at_stall:
            rung = section.case.ladder.of(one.key)
            read = job.proof.pressures.get(fuel, blank(InletPressures))
            return InletProof(fuel, part, read, rung.inlet["none"], rung.inlet["full"])
    return None


def inlet_pressures(plan: Plan) -> dict[str, InletProof]:
    """The readings of every gas, by fuel."""
    found = {
        fuel: inlet_proof(plan.job, fuel, section)
        for fuel, section in plan.of(trains_to_build).items()
        if fuel != FuelKey.GASOLINE
    }
    return {fuel: one for fuel, one in found.items() if one is not None}

"""Whether each gas is proven tight: its zones, their joints, decay and lock-up, what is left."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.estimates.defaults import site_air
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.job.prove_tight import LockUp, Soaped, ZoneTest
from gentle_ember.core.physics import air
from gentle_ember.core.physics.decay import ALLOWED_PA, Decay, Tells, decay
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.stage import TO_DO, Caution, Item, Plan, Severity
from gentle_ember.core.stages.fit.sheet import JointState, Sheet, fit_sheet
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.trains import TrainSection

_GAS_HOW = "Source open, everything after it shut. Soap each joint in order, from the source."
ZONES: dict[str, tuple[str, str]] = {
    "cylinder": ("Supply side, at the cylinder's pressure", _GAS_HOW),
    "middle": ("Supply side, between the regulators", _GAS_HOW),
    "low": (
        "Low-pressure side",
        "Under its own pressure, ½ psi at most on a demand regulator. Soap, then decay where a "
        "gauge is fitted.",
    ),
    "suction": (
        "After the demand regulator",
        "It is under suction when it runs. Use a hand pump or vacuum, or soap it with the primer "
        "held and the far end plugged.",
    ),
    "gasoline": (
        "Gasoline side",
        "Wipe dry, fill, prime by hand, and look again after ten minutes. Cool engine, no "
        "flame, rags away.",
    ),
}


@dataclass(frozen=True, slots=True)
class JointProof:
    """A joint with every look at it."""

    state: JointState
    looks: tuple[tuple[str, Soaped], ...]

    @property
    def leaks(self) -> bool:
        """Whether the last look found a leak."""
        return bool(self.looks) and self.looks[-1][1].found != "holds"

    @property
    def tight(self) -> bool:
        """Whether it counts as tight now."""
        return not self.leaks and ((self.state.passed and bool(self.looks)) or self.fitter)

    @property
    def fitter(self) -> bool:
        """Whether the fitter's own test and permit stand for it."""
        return self.state.joint.fitter

    @property
    def stands(self) -> str:
        """How it stands: leaks, fitter, tight, void, or open."""
        if self.leaks:
            return "leaks"
        if self.fitter:
            return "fitter"
        if self.tight:
            return "tight"
        return "void" if self.state.void else "open"


@dataclass(frozen=True, slots=True)
class ZoneProof:
    """A zone: its joints in train order, its decay."""

    key: str
    name: str
    how: str
    joints: tuple[JointProof, ...]
    record: ZoneTest
    begun: bool
    """Whether a decay was begun."""
    decay: Decay | None

    @property
    def can_decay(self) -> bool:
        """Whether a decay tells anything here."""
        return self.key.endswith("-low")


@dataclass(frozen=True, slots=True)
class GasProof:
    """One fuel's train: tight or what is left."""

    fuel: str
    name: str
    zones: tuple[ZoneProof, ...]
    locks: bool
    """Whether it has a demand regulator, whose lock-up is looked at."""
    lock_up: LockUp

    @property
    def left(self) -> tuple[str, ...]:
        """What is still to be proven, in words."""
        return tuple(self._left())

    def _left(self) -> Iterator[str]:
        joints = [one for zone in self.zones for one in zone.joints]
        leaking = [one.state.joint.title for one in joints if one.leaks]
        open_ = sum(not one.tight and not one.leaks for one in joints)
        if leaking:
            yield f"leaks: {'; '.join(leaking)}"
        if open_:
            yield f"{open_} of {len(joints)} joints not proven tight"
        for zone in self.zones:
            # Half erased, a decay that leaked must not count as one never made.
            tells = zone.decay.tells if zone.decay else Tells.INCONCLUSIVE
            if zone.begun and tells is Tells.LEAKS:
                yield f"{zone.name.lower()}: the pressure falls more than is allowed"
            elif zone.begun and tells is Tells.INCONCLUSIVE:
                yield f"{zone.name.lower()}: pressure test inconclusive: read it again or delete it"
        if self.locks and self.lock_up.state == "grows":
            yield "the demand regulator passes gas at rest: its lock-up fails"
        elif self.locks and self.lock_up.state != "still":
            yield "lock-up of the demand regulator not checked"

    @property
    def tight(self) -> bool:
        """Whether everything is proven."""
        return not self.left


def proofs(job: Job, sheet: Sheet) -> tuple[GasProof, ...]:
    """Every train of a job, as far as it is proven tight."""
    looks: dict[str, list[tuple[str, Soaped]]] = {}
    for key, one in job.proof.soaped.items():
        looks.setdefault(one.joint, []).append((key, one))
    return tuple(_of(job, sheet, fuel, section, looks) for fuel, section in
                 sheet.case.trains.items())  # fmt: skip


def _of(
    job: Job,
    sheet: Sheet,
    fuel: str,
    section: TrainSection,
    looks: dict[str, list[tuple[str, Soaped]]],
) -> GasProof:
    zones: dict[str, list[JointProof]] = {}
    for state in sheet.joints:
        if state.joint.fuel == fuel:
            name = "gasoline" if fuel == "gasoline" else str(_zone(section, state))
            proof = JointProof(state, tuple(looks.get(state.joint.key, ())))
            zones.setdefault(name, []).append(proof)
    found = tuple(
        ZoneProof(
            key, *ZONES[name], tuple(joints), record, key in job.proof.zones, _decay(job, record)
        )
        for name, joints in zones.items()
        for key in (f"{fuel}-{name}",)
        for record in (job.proof.zones.get(key, ZoneTest()),)
    )
    locks = any(
        one.part is not None and one.part.kind is PartClass.DEMAND for one in section.case.parts
    )
    lock_up = job.proof.lock_up.get(fuel, LockUp())
    return GasProof(fuel, NAMES[FuelKey(fuel)], found, locks, lock_up)


def _zone(section: TrainSection, state: JointState) -> Zone:
    """The zone a joint stands in: that of what flows into the part after it."""
    return section.case.ladder.of(state.joint.after.key).zone_in


def _decay(job: Job, record: ZoneTest) -> Decay | None:
    """The decay of a zone; None until everything it takes is there."""
    read = (record.volume, record.before, record.after, record.seconds)
    if any(one is None for one in read):
        return None
    volume, before, after, seconds = (one.value for one in read if one is not None)
    first = record.before_k.value if record.before_k else None
    last = record.after_k.value if record.after_k else None
    here = site_air(job.sites[job.site], job.site)
    return decay(
        volume, before, after, first, last, seconds,
        ambient_pa=air.pressure(here.elevation.value),
        allowed_pa=record.allowed.value if record.allowed else ALLOWED_PA,
        barometer_pa=record.barometer.value if record.barometer else 0.0,
    )  # fmt: skip


def proof_cautions(found: tuple[GasProof, ...]) -> Iterator[Caution]:
    """A joint that leaks, or a regulator that passes gas at rest, stops the job."""
    for one in found:
        for zone in one.zones:
            for joint in zone.joints:
                if joint.leaks:
                    title = joint.state.joint.title
                    text = (
                        f"{one.name} leaks at {title}. Close the source. Remake the joint. "
                        "Soap it again."
                    )
                    key = f"proof.leak.{joint.state.joint.key}"
                    yield Caution(key, Severity.STOP, "prove_tight", text, f"proof.{one.fuel}")
        if one.locks and one.lock_up.state == "grows":
            text = (
                f"{one.name}: the demand regulator passes gas at rest. Close the source. It is "
                "not a storage shut-off, and this one must not be run."
            )
            path = f"proof.lock_up.{one.fuel}"
            yield Caution(path, Severity.STOP, "prove_tight", text, path)


def proof_items(found: tuple[GasProof, ...]) -> Iterator[Item]:
    """What keeps the leak test from being signed off, and every start on a gas."""
    for one in found:
        path = f"proof.{one.fuel}"
        for number, text in enumerate(one.left):
            yield Item(f"{path}.{number}", TO_DO, f"{one.name}: {text}", "prove_tight", path,
                       holds=True)  # fmt: skip
        if one.left and one.fuel != "gasoline":
            text = f"{one.name}: not proven tight, so no start on it"
            yield Item(f"{path}.start", TO_DO, text, "first_start", path, holds=True)


def tightness(plan: Plan) -> tuple[GasProof, ...]:
    """Every train, as far as it is proven tight."""
    return proofs(plan.job, plan.of(fit_sheet))


def left_to_prove(plan: Plan) -> dict[str, tuple[str, ...]]:
    """What is left to be proven tight, by fuel; empty where nothing is."""
    return {one.fuel: one.left for one in plan.of(tightness)}

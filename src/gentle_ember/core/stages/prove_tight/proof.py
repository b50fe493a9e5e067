"""Whether each gas is proven tight: its zones, their joints, decay and lock-up, what is left."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Literal

from gentle_ember.core.base.quantities import STANDARD_PRESSURE_PA
from gentle_ember.core.estimates.defaults import site_air
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.handling import FACTORY_GAS, FuelSource, comes_from
from gentle_ember.core.job.job import Job, permitted, step_done
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.job.prove_tight import How, LockUp, Soaped, ZoneTest
from gentle_ember.core.physics import air
from gentle_ember.core.physics.decay import (
    LIMIT_M3_S,
    READ_PA,
    USUAL_K,
    Decay,
    Tells,
    decay,
)
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.physics.propane import saturation_pressure
from gentle_ember.core.stage import NOTED, TO_DO, Caution, Item, Plan, Severity, confirm_item
from gentle_ember.core.stages.fit.case import SHORT, key_of
from gentle_ember.core.stages.fit.sheet import JointState, Sheet, fit_sheet
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build

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


FREEZES = {"leak_fluid": 273.15, "soap": 273.15, "winter_fluid": 248.15, "both": 273.15}
"""Least air temperature at which a film still shows a leak, by fluid [K]."""
LOCK_UP = (
    "Inlet live, engine stopped: a soap film over the far end of the vapor hose, before it goes on "
    "the engine, must not grow. One that grows passes gas into a standing engine. Was a joint "
    "opened for it, that joint is soaped again."
)
LOCK_UP_BUILT_IN = (
    "Inlet live, engine stopped, air cleaner off: a soap film over the carburetor's air horn must "
    "not grow. Its built-in valve is the only thing that shuts at a stall."
)


Stands = Literal["open", "leaks", "tight", "void", "fitter", "awaits_fitter"]


@dataclass(frozen=True, slots=True)
class JointProof:
    """A joint with every look at it."""

    state: JointState
    looks: tuple[tuple[str, Soaped], ...]
    tested: bool = False
    """Whether the fitter's own test of it is confirmed."""

    @property
    def leaks(self) -> bool:
        """Whether the last look found a leak."""
        return bool(self.looks) and self.looks[-1][1].found != "holds"

    @property
    def tight(self) -> bool:
        """Whether it counts as tight now."""
        proven = self.tested if self.fitter else self.state.passed and bool(self.looks)
        return not self.leaks and proven

    @property
    def fitter(self) -> bool:
        """Whether the fitter's own test and permit stand for it."""
        return self.state.joint.fitter

    @property
    def stands(self) -> Stands:
        """How it stands: leaks, fitter (his test confirmed, or awaited), tight, void, or open."""
        if self.leaks:
            return "leaks"
        if self.fitter:
            return "fitter" if self.tested else "awaits_fitter"
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
    lock_up_how: str = ""
    """How it is looked at; empty where nothing locks up."""
    how: How = field(default_factory=How)

    @property
    def frozen(self) -> bool:
        """Whether the air was too cold for the fluid: a frozen film shows nothing."""
        least = FREEZES.get(self.how.by)
        return bool(least and self.how.air and self.how.air.value < least)

    @property
    def left(self) -> tuple[str, ...]:
        """What is still to be proven, in words."""
        return tuple(self._left())

    def _left(self) -> Iterator[str]:
        joints = [one for zone in self.zones for one in zone.joints]
        leaking = [one.state.joint.title for one in joints if one.leaks]
        waiting = sum(one.fitter and not one.tight and not one.leaks for one in joints)
        open_ = sum(not one.fitter and not one.tight and not one.leaks for one in joints)
        if waiting:
            yield f"the fitter's test and permit for {waiting} of his joints are not confirmed"
        if self.frozen:
            yield "soaped in air too cold for the fluid: a frozen film shows nothing"
        if leaking:
            yield f"leaks: {'; '.join(leaking)}"
        if open_:
            yield f"{open_} of {len(joints)} joints not proven tight"
        for zone in self.zones:
            # Half erased, a decay that leaked must not count as one never made.
            tells = zone.decay.tells if zone.decay else Tells.INCONCLUSIVE
            if zone.begun and tells is Tells.LEAKS:
                yield f"{zone.name.lower()}: the pressure falls, it leaks"
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
            tested = permitted(job) if comes_from(fuel, FuelSource.HOUSE) else step_done(
                job, key_of("fitter", fuel)
            )  # fmt: skip
            proof = JointProof(state, tuple(looks.get(state.joint.key, ())), tested)
            zones.setdefault(name, []).append(proof)
    found = tuple(
        ZoneProof(
            key,
            *ZONES[name],
            tuple(joints),
            record,
            key in job.proof.zones,
            _decay(job, record, comes_from(fuel, FuelSource.CYLINDER)),
        )
        for name, joints in zones.items()
        for key in (f"{fuel}-{name}",)
        for record in (job.proof.zones.get(key, blank(ZoneTest)),)
    )
    how = ""
    if section.case.of(PartClass.DEMAND):
        how = LOCK_UP
    elif any(part.holds_at_stall for _, part in section.case.known()):
        how = LOCK_UP_BUILT_IN
    lock_up = job.proof.lock_up.get(fuel, blank(LockUp))
    told = job.proof.how.get(fuel, blank(How))
    return GasProof(fuel, NAMES[FuelKey(fuel)], found, bool(how), lock_up, how, told)


def _zone(section: TrainSection, state: JointState) -> Zone:
    """The zone a joint stands in: that of what flows into the part after it."""
    return section.case.ladder.of(state.joint.after.key).zone_in


def near_saturation(gauge_pa: float, temperature_k: float) -> bool:
    """Whether propane at this pressure is so near its own vapor pressure that liquid can hide a
    leak: within a tenth of it."""
    return gauge_pa + STANDARD_PRESSURE_PA > 0.9 * saturation_pressure(temperature_k)


def _decay(job: Job, record: ZoneTest, propane: bool) -> Decay | None:
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
        limit_m3_s=record.limit.value if record.limit else LIMIT_M3_S,
        read_pa=record.gauge.value if record.gauge else READ_PA,
        barometer_pa=record.barometer.value if record.barometer else 0.0,
        saturated=propane and near_saturation(before, min(first or USUAL_K, last or USUAL_K)),
    )  # fmt: skip


def how_items(found: tuple[GasProof, ...], way: str) -> Iterator[Item]:
    """With what the joints of a gas were looked at, and in which air.

    Args:
        found: every gas.
        way: of looking at joints that the job goes by: fluid, detector or both.
    """
    for one in found:
        if one.fuel == FuelKey.GASOLINE:
            continue
        path, told = f"proof.how.{one.fuel}", one.how
        wanted: list[tuple[str, object, str]] = [
            ("by", told.by, "fluid or detector the joints are checked with"),
            ("air", told.air, "air temperature at the leak test"),
        ]
        if told.by and way == "both" and told.by != "both":
            wanted[0] = ("by", "", "this job goes by both: detector first, then fluid")
        if told.by in ("detector", "both"):
            wanted.append(("detector", told.detector, "which detector, and when it was calibrated"))
        if any(zone.begun for zone in one.zones):
            wanted.append(("gauge", told.gauge, "which gauge the decay was read on"))
        for name, value, text in wanted:
            if not value:
                yield Item(f"{path}.{name}", NOTED, f"{one.name}: {text}", "prove_tight",
                           f"{path}.{name}", holds=True)  # fmt: skip


def proof_cautions(found: tuple[GasProof, ...]) -> Iterator[Caution]:
    """A joint that leaks, or a regulator that passes gas at rest, stops the job."""
    for one in found:
        if one.how.by == "soap":
            text = (
                f"{one.name}: household soap left on brass eats it, and hides under salts. Leak "
                "fluid next time; wipe each joint dry now."
            )
            path = f"proof.how.{one.fuel}.by"
            yield Caution(path, Severity.CAUTION, "prove_tight", text, path)
        for zone in one.zones:
            for joint in zone.joints:
                if joint.leaks:
                    title = joint.state.joint.title
                    text = (
                        f"{one.name} leaks at {title}. Close the source. Remake the joint. "
                        "Soap it again."
                    )
                    key = f"proof.leak.{joint.state.joint.key}"
                    yield Caution(
                        key, Severity.STOP, "prove_tight", text, f"proof.{one.fuel}",
                        fuel=str(one.fuel), proving_settles=True,
                    )  # fmt: skip
        if one.locks and one.lock_up.state == "grows":
            text = (
                f"{one.name}: the demand regulator passes gas at rest. Close the source. It is "
                "not a storage shut-off, and this one must not be run."
            )
            path = f"proof.lock_up.{one.fuel}"
            yield Caution(path, Severity.STOP, "prove_tight", text, path, proving_settles=True)


def factory_gas(job: Job, fuel: str) -> bool:
    """Whether a fuel is the maker's own on a factory dual-fuel set: no train of this job's."""
    return job.set.dual_fuel and fuel == FACTORY_GAS and fuel not in job.trains


def factory_items(job: Job) -> Iterator[Item]:
    """The maker's own gas side is soaped by somebody before it is run here."""
    at_hand = any(site.cylinders for site in job.sites.values())
    if factory_gas(job, FACTORY_GAS) and at_hand and job.choice.methods:
        text = "propane as the factory made it: hose, regulator and inlet soaped, nothing leaks"
        yield confirm_item(
            job, "factory_gas", NOTED, text, "prove_tight", holds=False, acts=True,
            fuel=FACTORY_GAS,
        )  # fmt: skip


def position_items(plan: Plan) -> Iterator[Item]:
    """What stands upright and what is capped, seen by somebody before gas is let in.

    A fit step that says so counts, where there is one.
    """
    places = {mount.part.key: mount.key for mount in plan.of(fit_sheet).case.mounts if mount.part}
    for fuel, section in plan.of(trains_to_build).items():
        words = NAMES[FuelKey(fuel)]
        for one, part in section.case.known():
            at, name = f"trains.{fuel}.slots.{one.key}", part.name.split(",")[0]
            fixed = key_of("fix", places.get(part.key, one.key))
            if part.upright and one.slot.upright is None and not step_done(plan.job, fixed):
                yield _seen(f"{words}: {name} is upright", f"{at}.upright", fuel)
            capped = key_of("cap", SHORT[fuel], one.key)
            open_ = part.side_openings and one.slot.capped is None
            if open_ and not step_done(plan.job, capped):
                text = f"{words}: side opening of {name} is capped, or joined"
                yield _seen(text, f"{at}.capped", fuel)


def _seen(text: str, path: str, fuel: str) -> Item:
    return Item(path, NOTED, text, "prove_tight", path, holds=True, acts=True, fuel=fuel)


def proof_items(found: tuple[GasProof, ...]) -> Iterator[Item]:
    """What keeps the leak test from being signed off, and every start on a gas."""
    for one in found:
        path = f"proof.{one.fuel}"
        for number, text in enumerate(one.left):
            yield Item(f"{path}.{number}", TO_DO, f"{one.name}: {text}", "prove_tight", path,
                       holds=True)  # fmt: skip
        if one.left:
            text = f"{one.name}: not proven tight, so no start on it"
            yield Item(f"{path}.start", TO_DO, text, "first_start", path, holds=True)


def tightness(plan: Plan) -> tuple[GasProof, ...]:
    """Every train, as far as it is proven tight."""
    return proofs(plan.job, plan.of(fit_sheet))


def left_to_prove(plan: Plan) -> dict[str, tuple[str, ...]]:
    """What is left to be proven tight, by fuel; empty where nothing is."""
    return {one.fuel: one.left for one in plan.of(tightness)}

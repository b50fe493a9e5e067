"""The joints of the trains as steps: what is joined to what, how sealed, how tight, what never."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise

from gentle_ember.core.job.ends import SEALING, Seal, join
from gentle_ember.core.job.part import METERS, MIXERS, SOURCES, PartClass, end
from gentle_ember.core.stages.fit.case import SHORT, FitCase, key_of
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, Torque
from gentle_ember.core.stages.fit.tools import joint_tools
from gentle_ember.core.stages.fuel_path.gasoline_rules import OWN_SIDES, own_branch
from gentle_ember.core.stages.fuel_path.ladder import Fitted
from gentle_ember.core.stages.fuel_path.templates import SET_SIDE
from gentle_ember.core.stages.fuel_path.trains import TrainSection

MINUTES = {
    Seal.TAPE: 4, Seal.DRY: 3, Seal.CLAMP: 3, Seal.CLICK: 1, Seal.GASKET: 2, Seal.HAND: 1,
    Seal.WRENCH: 2, Seal.FOUND: 5, Seal.PLUMBERS_TAPE: 6,
}  # fmt: skip
TAKES = {Seal.TAPE: ("gas-rated tape or compound",), Seal.CLAMP: ("hose clamps",)}
GOOD = {
    Seal.TAPE: "First two threads bare, tape in the sense of the thread; snug, two threads "
    "showing, never backed off.",
    Seal.DRY: "Cone and seat bright; turns by hand to the stop, then the wrench.",
    Seal.CLAMP: "Hose past the last barb, clamp behind it, square; does not turn.",
    Seal.CLICK: "Click heard, tugged, does not come.",
    Seal.GASKET: "Gasket seen all round.",
    Seal.HAND: "Turned to the stop by hand, and no further.",
    Seal.WRENCH: "Seats metal to metal, turning left.",
    Seal.FOUND: "What joins it is known now.",
    Seal.PLUMBERS_TAPE: "Both threads bright, nothing of the old tape left.",
}
BAD = {
    Seal.TAPE: "Tape over the end of the thread: it comes off into a regulator.",
    Seal.DRY: "Scratched cone: a new fitting, no compound.",
    Seal.CLAMP: "Hose split or turning: cut it back, start again.",
    Seal.CLICK: "Clicks but comes when tugged: another family, or dirt.",
}
FITTERS = frozenset((PartClass.STUB, PartClass.PIPE, PartClass.DIGESTER))


@dataclass(frozen=True, slots=True)
class JointAt:
    """A joint of a train: between which two parts, and who makes it."""

    key: str
    """Train and slot of the part after it."""
    fuel: str
    before: Fitted
    after: Fitted
    seal: Seal
    title: str
    fitter: bool
    """Whether a licensed fitter makes it."""
    on_day: bool
    """Made where the set runs, not at the bench: cylinder and coupler."""
    there: bool = False
    """Whether both its parts are on the set already, joined as they stand."""

    @property
    def subject(self) -> str:
        """What it is made of."""
        cut = [f"{one.length_m:g}" for one in (self.before, self.after)
               if one.part is not None and one.part.by_length]  # fmt: skip
        return " ".join((self.before.slot.part, self.after.slot.part, *cut))[:160]


def joints(trains: Mapping[str, TrainSection]) -> Iterator[JointAt]:
    """Every joint of every train, each gas's once where two share parts on the set."""
    seen: set[tuple[str, str]] = set()
    for fuel, one in trains.items():
        parts = one.case.parts
        # Where local code lets the owner tap the line, its joints are proven like the rest.
        owner = any(gas.kind == fuel and gas.tapped == "owner"
                    for gas in one.case.site.gases.values())  # fmt: skip
        # The hose's plug in a wall's outlet is anybody's to push in.
        walls = {at - 1 for at, held in enumerate(parts) if held.slot.role == "outlet_half"}
        fitters = -1 if owner else max(
            (at for at, held in enumerate(parts) if held.slot.role == "shut_off" or at in walls
             or (held.part is not None and held.part.kind in FITTERS)),
            default=-1,
        )  # fmt: skip
        for at, (before, after) in enumerate(pairwise(parts)):
            pair = (before.slot.part, after.slot.part)
            shared = before.slot.role in SET_SIDE and after.slot.role in SET_SIDE
            if shared and pair in seen:
                continue
            if shared:
                seen.add(pair)
            yield _joint(one, fuel, before, after, fitter=at <= fitters)
        if fuel == "gasoline":
            for before, after in pairwise(own_branch(one.case)):
                yield _joint(one, fuel, before, after, fitter=False)


def _joint(one: TrainSection, fuel: str, before: Fitted, after: Fitted, *, fitter: bool) -> JointAt:
    seal = after.slot.seal or Seal.FOUND
    first, second = before.part, after.part
    if first and second and first.outlet and second.inlet and after.slot.seal is None:
        seal = join(end(first.outlet), end(second.inlet)).seal
    kinds = {part.kind for part in (first, second) if part is not None}
    return JointAt(
        f"{fuel}.{after.key}",
        fuel,
        before,
        after,
        seal,
        f"{_name(one, before)} to {_name(one, after)}",
        fitter,
        seal is Seal.CLICK or bool(kinds & SOURCES - {PartClass.STUB, PartClass.DIGESTER}),
        before.slot.there and after.slot.there and not after.slot.remade,
    )


def _name(one: TrainSection, at: Fitted) -> str:
    if at.part is None:
        return at.slot.unknown or "what nobody knows"
    if at.slot.role in OWN_SIDES:
        return OWN_SIDES[at.slot.role]
    role = one.case.asked.template.role(at.slot.role)
    if role is None or at.part.kind is PartClass.FITTING:
        return at.part.name.split(",")[0]
    return role.called(at.part).replace("coupler, ", "")


def steps(case: FitCase) -> Iterator[Step]:
    """A step for every joint made at the bench; the fitter's as one to confirm."""
    fitted: set[str] = set()
    before: dict[str, str] = {}
    for one in joints(case.trains):
        if one.fitter:
            if one.fuel not in fitted:
                fitted.add(one.fuel)
                yield _fitters(one)
            continue
        if one.on_day or one.there:
            continue
        step = _step(case, one, before.get(one.fuel, ""))
        before[one.fuel] = step.key
        yield step


def _fitters(one: JointAt) -> Step:
    return Step(
        key_of("fitter", one.fuel), "confirm", Phase.WORK, Place.SOURCE,
        "Licensed fitter: shut at the meter, tee and shut-off set, pipe tested, permit signed.",
        "House piping is a licensed person's work, by local code.", 5, fuel=one.fuel, must=True,
        caution="Not ours to open. No gas until his test is signed.",
        good="Permit number and his name are noted under Readiness.",
        bad="No permit: nothing is connected.", photo="tag of the test",
    )  # fmt: skip


def _where(one: JointAt) -> Place:
    if one.fuel == "gasoline":
        roles = (one.before.slot.role, one.after.slot.role)
        return Place.TANK if {"tank_valve", "fuel_hose", *OWN_SIDES} & set(roles) else (
            Place.CARBURETOR)  # fmt: skip
    if one.after.part is not None and one.after.part.kind in MIXERS:
        return Place.AIR
    on_set = one.after.slot.role in SET_SIDE or one.before.slot.role in SET_SIDE
    return Place.FRAME if on_set else Place.SOURCE


def _step(case: FitCase, one: JointAt, before: str) -> Step:
    how = SEALING[one.seal]
    first, second = one.before.part, one.after.part
    known = first is not None and second is not None
    torque: Torque | None = None
    tools: tuple[str, ...] = ()
    if known and first and second and first.outlet and second.inlet:
        ends = end(first.outlet), end(second.inlet)
        found = join(*ends)
        tools = joint_tools(*ends)
        if found.torque_nm:
            torque = Torque(
                round(0.8 * found.torque_nm), found.torque_nm, "usual for a flare nut on brass; "
                "the maker's figure goes first",
            )  # fmt: skip
    place = _where(one)
    waits = [key for key in (before, *_needs(case, one)) if key]
    secured = Secured.CLAMP if one.seal is Seal.CLAMP else (
        Secured.TORQUE if torque else Secured.NONE
    )  # fmt: skip
    return Step(
        key_of("j", SHORT[one.fuel], one.after.key), f"joint_{one.seal}", Phase.WORK, place,
        f"Join {one.title}{_both(case, one)}.", how.do, MINUTES[one.seal], tools=tools,
        takes=TAKES.get(one.seal, ()),
        parts=tuple(part.key for part in (first, second) if part is not None),
        of=tuple(f"{at.length_m:g} m" for at in (one.before, one.after)
                 if at.part is not None and at.part.by_length),
        joint=one.key, fuel=one.fuel, torque=torque, secured=secured,
        caution=how.never, must=True, good=GOOD[one.seal], bad=BAD.get(one.seal, ""),
        after=tuple(dict.fromkeys(waits)),
    )  # fmt: skip


def _both(case: FitCase, one: JointAt) -> str:
    """A two-barrel set has a screw, or a jet, and a hose for each barrel."""
    doubled = {*METERS, PartClass.VAPOR_HOSE}
    kinds = {at.part.kind for at in (one.before, one.after) if at.part is not None}
    return ", one for each barrel" if case.has("two_barrel_adapter") and kinds & doubled else ""


def _needs(case: FitCase, one: JointAt) -> Iterator[str]:
    """What must be there before: a part that is mounted, the plate on its studs."""
    for at in (one.before, one.after):
        yield key_of("place", at.slot.part)
        for mount in case.mounts:
            if mount.part is not None and mount.part.key == at.slot.part:
                yield key_of("fix", mount.key) if mount.ready else key_of("place", mount.key)
    if _where(one) is Place.AIR:
        if case.plate_m is not None:
            yield "plate"
        elif case.has("snorkel"):
            yield "mixer_on"
        elif case.has("exchanged_carburetor", "multi_fuel_carburetor"):
            yield "carburetor_on"

"""Joints: whether two ends mate and why not, how they seal, with what tool and how tight."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.job.part import End, System


class Seal(StrEnum):
    """How a joint is sealed."""

    HAND = "hand"
    WRENCH = "wrench"
    TAPE = "tape"
    PLUMBERS_TAPE = "plumbers_tape"
    """What is found on a gas thread and does not belong there."""
    DRY = "dry"
    CLAMP = "clamp"
    CLICK = "click"
    GASKET = "gasket"
    FOUND = "found"


@dataclass(frozen=True, slots=True)
class Sealing:
    """A way of sealing: its letter on the drawing, what to do, what never to use and why."""

    letter: str
    name: str
    do: str
    never: str
    tool: str


SEALING: dict[Seal, Sealing] = {
    Seal.HAND: Sealing(
        "H", "hand tight", "Turn the hand wheel until it stops, by hand.",
        "No wrench and no tape: it seals on its own washer, and a wrench cuts it.", "none",
    ),
    Seal.WRENCH: Sealing(
        "W", "wrench, left-hand thread", "Turn counterclockwise with a wrench until it seats.",
        "No tape: it seals metal to metal.", "7/8 in wrench",
    ),
    Seal.TAPE: Sealing(
        "T", "gas tape", "Gas-rated tape or compound on the male thread, first two threads bare.",
        "Not dry, and no plumber's water tape: a tapered thread seals only filled.",
        "two pipe wrenches",
    ),
    Seal.PLUMBERS_TAPE: Sealing(
        "P", "plumber's tape", "Take the joint apart, clean both threads, gas-rated tape or "
        "compound.", "It is made for water: gas works through it, and shreds block a regulator.",
        "two pipe wrenches",
    ),
    Seal.DRY: Sealing(
        "F", "flare, dry", "Dry and clean, both wrenches, snug and a sixth of a turn.",
        "No tape or compound: it keeps the cone from seating.", "two flare-nut wrenches",
    ),
    Seal.CLAMP: Sealing(
        "C", "clamp", "Hose made for this fuel over every barb, clamp behind the last one.",
        "Gas: never above ½ psi, use factory-crimped hose there. Gasoline: no hose that is not "
        "marked for fuel.", "5/16 in nut driver",
    ),
    Seal.CLICK: Sealing(
        "K", "click and tug", "Push until it clicks, then tug.",
        "No grease or tape: its own ring seals.", "none",
    ),
    Seal.GASKET: Sealing(
        "G", "gasket each side", "A gasket each side, its orientation marked; nuts in turns.",
        "No sealant: it squeezes into the intake.", "10 mm socket",
    ),
    Seal.FOUND: Sealing(
        "?", "as found", "Find out how this joint is made.", "Don't run it until you know.", "none",
    ),
}  # fmt: skip
_OF_SYSTEM = {
    System.NPT: Seal.TAPE,
    System.FLARE: Seal.DRY,
    System.BARB: Seal.CLAMP,
    System.GAS_COUPLER: Seal.CLICK,
    System.FUEL_COUPLER: Seal.CLICK,
    System.STUDS: Seal.GASKET,
    System.HORN: Seal.CLAMP,
    System.PULSE: Seal.CLAMP,
}
FLARE_TORQUE_NM = {"1/4": 12.0, "5/16": 16.0, "3/8": 24.0, "1/2": 40.0, "5/8": 60.0}
"""Usual snug torque of a 45° flare nut on brass [N·m]; the maker's figure goes first."""


@dataclass(frozen=True, slots=True)
class Joint:
    """Two ends put together: whether they mate, why not, and how it is sealed."""

    mates: bool
    why: str
    seal: Seal
    torque_nm: float | None = None

    @property
    def sealing(self) -> Sealing:
        """How it is done."""
        return SEALING[self.seal]


def mates(upstream: End, downstream: End) -> bool:
    """Whether two ends go together: one system, one size, male into female.

    >>> from gentle_ember.core.job.part import end
    >>> mates(end("cyl:both:f"), end("cyl:lh:m")), mates(end("cyl:lh:f"), end("cyl:hand:m"))
    (True, False)
    """
    if upstream.system is not downstream.system or upstream.male is downstream.male:
        return False
    if upstream.size == downstream.size:
        return True
    return upstream.system is System.CYLINDER and "both" in (upstream.size, downstream.size)


def join(upstream: End, downstream: End) -> Joint:
    """The joint of two ends, or why there is none.

    >>> from gentle_ember.core.job.part import end
    >>> join(end("npt:1/2:f"), end("npt:3/8:m")).why
    '1/2 in NPT female does not take 3/8 in NPT male: another size.'
    """
    seal = _seal(upstream, downstream)
    if mates(upstream, downstream):
        torque = FLARE_TORQUE_NM.get(upstream.size) if seal is Seal.DRY else None
        return Joint(True, "", seal, torque)
    return Joint(False, _why_not(upstream, downstream), seal)


def _seal(upstream: End, downstream: End) -> Seal:
    if upstream.system is System.CYLINDER:
        connector = downstream if downstream.male else upstream
        return Seal.WRENCH if connector.size == "lh" else Seal.HAND
    return _OF_SYSTEM[upstream.system]


def _why_not(upstream: End, downstream: End) -> str:
    pair = f"{upstream.text} does not take {downstream.text}"
    if upstream.system is not downstream.system:
        return f"{pair}: two systems."
    if upstream.system in (System.GAS_COUPLER, System.FUEL_COUPLER):
        one, other = upstream.size.split(" "), downstream.size.split(" ")
        if one[0] != other[0]:
            return f"{pair}: they look alike, but the families don't mate."
    if upstream.size != downstream.size:
        if upstream.system is System.CYLINDER:
            return f"{pair}: a tall cylinder's valve has another thread."
        return f"{pair}: another {'pattern' if upstream.system is System.STUDS else 'size'}."
    return f"{pair}: both are {'male' if upstream.male else 'female'}."

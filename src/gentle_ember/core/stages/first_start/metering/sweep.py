"""A sweep of the load screw judged: its ends, the setting, the next reading, or why not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.stages.first_start.metering.curve import Curves, fit

CLOSE_ENOUGH = 0.018
"""Standard error of an end at which no further reading is asked for [turns]."""
FAR_OUT = 2.5
"""Turns from which on the mixture changes so little with a part of one that less will do."""
PATIENCE = 6
"""Readings after which each further one makes less do."""
LEAST = 5
"""Readings without which nothing is settled."""
MOST = 12
"""Readings after which a sweep that does not settle is called so."""
STEP = 1.7
"""A next reading goes no further than this factor beyond what was tried."""
APART = 0.03
"""Two readings closer than this share of each other say nothing new."""
WIDE = 2.2
"""A sweep this wide should have met both ends."""
SAME = 0.012
LEAST_FALL = 0.03
"""A curve that nowhere falls by this share of the best has no ends to be found."""
RICH_SHARE = 1 / 3
"""How far from the middle toward the rich end a setting goes that must start motors."""


class Why(StrEnum):
    """Why there is no setting."""

    STARVED = "starved"
    NO_PLATEAU = "no_plateau"
    HUNTING = "hunting"
    SCREW_OPEN = "screw_open"
    SCREW_SHUT = "screw_shut"
    NOT_RUNNING = "not_running"
    SCATTER = "scatter"


@dataclass(frozen=True, slots=True)
class Span:
    """An end or a setting: its place and its standard error [turns]; None where it was not seen."""

    turns: float
    sigma: float
    seen: bool = True


@dataclass(frozen=True, slots=True)
class Next:
    """The next reading: where [turns], and what it is for."""

    turns: float
    about: str


@dataclass(frozen=True, slots=True)
class SweepVerdict:
    """A sweep as it stands: exactly one of a setting, a next reading, or why there is none."""

    lean: Span | None = None
    rich: Span | None = None
    setting: Span | None = None
    next: Next | None = None
    why: Why | None = None
    curves: Curves | None = None


def judge(
    readings: Sequence[Taken],
    signal: Signal,
    start: float,
    most: float,
    *,
    motors: bool = False,
    least: float = 0.1,
) -> SweepVerdict:
    """Judge a sweep.

    Args:
        readings: in the order they were taken.
        signal: what they are read by.
        start: where the screw is expected to be right [turns].
        most: turns from the seat to the screw's last useful turn.
        motors: whether it must start motors: then the setting leans toward rich.
        least: the least opening worth trying [turns].
    """
    start = min(max(start, 1.2 * least), most)
    if not readings:
        return SweepVerdict(next=Next(start, "start"))
    ran = [one for one in readings if one.ran is not Ran.DIED and one.value > 0]
    if not ran:
        return _never_ran(readings, start, least, most)
    span = (least, most)
    turned = _as_more_is_better(readings, signal)
    curves = fit(turned, start, span)
    lean, rich = _span(curves.lean, curves, at_end=0), _span(curves.rich, curves, at_end=-1)
    why = _cannot(turned, lean, rich, span)
    if why is not None:
        return SweepVerdict(lean, rich, why=why, curves=curves)
    setting = _setting(curves, motors=motors)
    enough = CLOSE_ENOUGH * (1 + max(0, len(readings) - PATIENCE) ** 2 / 3)
    settled = (
        all(
            one.seen and one.sigma <= enough * max(1.0, one.turns / FAR_OUT) for one in (lean, rich)
        )
        and len(readings) >= LEAST
    )
    if settled:
        return SweepVerdict(lean, rich, setting, curves=curves)
    if len(readings) >= MOST:
        return SweepVerdict(lean, rich, why=Why.SCATTER, curves=curves)
    return SweepVerdict(lean, rich, None, _next(readings, curves, lean, rich), curves=curves)


def _as_more_is_better(readings: Sequence[Taken], signal: Signal) -> list[Taken]:
    """Readings turned so that more is better: where it died nought, a throttle by its inverse."""
    found = []
    for one in readings:
        if one.ran is Ran.DIED or one.value <= 0:
            found.append(Taken(one.turns, 0.0, 0.0, Ran.DIED))
        elif signal is Signal.THROTTLE:
            sigma = one.sigma / one.value**2
            found.append(Taken(one.turns, 1 / one.value, sigma, one.ran, one.lam))
        else:
            found.append(one)
    return found


def _span(ends: np.ndarray, curves: Curves, *, at_end: int) -> Span:
    edge = curves.turns[at_end]
    unseen = float(np.mean(np.isclose(ends, edge)))
    return Span(float(np.median(ends)), float(ends.std()), seen=unseen < 0.2)


def _setting(curves: Curves, *, motors: bool) -> Span:
    middle = (curves.lean + curves.rich) / 2
    places = middle + (RICH_SHARE * (curves.rich - middle) if motors else 0.0)
    return Span(float(np.median(places)), float(places.std()))


def _next(readings: Sequence[Taken], curves: Curves, lean: Span, rich: Span) -> Next:
    """The place whose reading tells most of the ends, not far beyond what was tried."""
    tried = [one.turns for one in readings]
    low, high = min(tried) / STEP, max(tried) * STEP
    gain = curves.gain()
    allowed = (curves.turns >= low) & (curves.turns <= high)
    for one in tried:
        allowed &= np.abs(curves.turns / one - 1) > APART
    if not allowed.any():
        allowed = np.ones_like(allowed)
    at = int(np.where(allowed, gain, -1.0).argmax())
    turns = float(curves.turns[at])
    about = "lean" if abs(turns - lean.turns) < abs(turns - rich.turns) else "rich"
    if lean.turns + 2 * lean.sigma < turns < rich.turns - 2 * rich.sigma:
        about = "top"
    return Next(turns, about)


def _never_ran(readings: Sequence[Taken], start: float, least: float, most: float) -> SweepVerdict:
    """It did not run yet: try richer, then leaner, then say so."""
    tried = sorted(one.turns for one in readings)
    richer, leaner = tried[-1] * 1.5, tried[0] / 1.5
    if len(readings) >= 5 or (richer > most and leaner < least):
        return SweepVerdict(why=Why.NOT_RUNNING)
    if richer <= most and (len(readings) % 2 or leaner < least):
        return SweepVerdict(next=Next(richer, "run"))
    return SweepVerdict(next=Next(max(leaner, least), "run"))


def _cannot(
    readings: Sequence[Taken], lean: Span, rich: Span, span: tuple[float, float]
) -> Why | None:
    """Why no setting exists, as soon as the readings say so; more is better."""
    ran = [one for one in readings if one.ran is not Ran.DIED]
    count = len(ran)
    turns = [one.turns for one in ran]
    if count >= 4 and all(one.ran is Ran.HUNTING for one in ran):
        return Why.HUNTING
    if len(readings) >= 5 and _valley(readings):
        return Why.SCATTER
    best = max(one.value for one in ran)
    at_stop = max(turns) >= 0.98 * span[1]
    level = min(one.value for one in ran) > (1 - LEAST_FALL) * best
    if count >= 5 and level and max(turns) > WIDE * min(turns):
        return Why.NO_PLATEAU
    if count >= 4 and (at_stop or not rich.seen) and _saturated(ran, best):
        return Why.STARVED
    if count >= 4 and at_stop and not rich.seen:
        return Why.SCREW_OPEN
    if count >= 4 and min(turns) <= 1.05 * span[0] and not lean.seen:
        return Why.SCREW_SHUT
    return None


def _valley(readings: Sequence[Taken]) -> bool:
    """Whether a reading lies clearly below others to both sides: no screw does that."""
    values = [0.0 if one.ran is Ran.DIED else one.value for one in _by_turns(readings)]
    clearly = LEAST_FALL * max(values)
    return any(
        values[at] < min(max(values[:at]), max(values[at + 1 :])) - clearly
        for at in range(1, len(values) - 1)
    )


def _saturated(ran: Sequence[Taken], best: float) -> bool:
    """Whether opening the screw wide changed next to nothing: the gas is held up elsewhere."""
    last = _by_turns(ran)[-1]
    held = any(
        one.turns * 1.5 <= last.turns and abs(one.value / last.value - 1) < SAME for one in ran
    )
    far = any(one.turns * WIDE <= last.turns and one.value > (1 - LEAST_FALL) * best for one in ran)
    return held or (far and last.value > (1 - LEAST_FALL) * best)


def _by_turns(readings: Sequence[Taken]) -> list[Taken]:
    return sorted(readings, key=lambda one: one.turns)


NEXT: dict[str, str] = {
    "start": "Where it is expected to be right: from here the sweep finds its way.",
    "lean": "It tells most about the lean end.",
    "rich": "It tells most about the rich end.",
    "top": "It shows how high the middle is, and with it where both ends are.",
    "run": "It did not run there: this is the next place worth trying.",
}
HOW: dict[Signal, str] = {
    Signal.OUTPUT: "Wait 20 s, add load until the throttle is just fully open, read the output.",
    Signal.SPEED: "With the full load on, wait 20 s, read the engine's speed.",
    Signal.THROTTLE: "At the steady load, wait 20 s, read how far the throttle is open.",
}
CANNOT: dict[Why, tuple[str, tuple[str, ...]]] = {
    Why.STARVED: (
        "Opening the screw further no longer makes it richer: the gas is held up elsewhere.",
        ("a kinked or thin hose", "a coupler not home, or a stemmed one on natural gas",
         "the cylinder too cold or empty", "pressure before the demand regulator, at full load",
         "the demand regulator's vent and position"),
    ),
    Why.SCREW_OPEN: (
        "Too lean even with the screw at its last turn.",
        ("pressure before the demand regulator, at full load", "a hose or coupler too small",
         "the wrong gas for this screw", "the throat: too wide for this engine",
         "air that gets in past the throat: gaskets, breather, an open gas inlet"),
    ),
    Why.SCREW_SHUT: (
        "Too rich even with the screw almost shut.",
        ("the demand regulator passing gas by itself: its lock-up", "the choke",
         "a clogged air cleaner", "gasoline still feeding", "the wrong gas for this screw"),
    ),
    Why.HUNTING: (
        "It hunts at every setting, so no reading can be trusted.",
        ("the governor's spring and links, free and as photographed",
         "the vapor hose: too long, or a low loop with water",
         "air that gets in past the throat", "the spark plug and its gap"),
    ),
    Why.NO_PLATEAU: (
        "The screw makes no difference: what is turned does not meter.",
        ("whether this is the load screw and not the idle screw",
         "whether it still runs on gasoline: shut it and let the bowl run dry",
         "a second path for gas around the screw", "whether the load is near what it can carry"),
    ),
    Why.NOT_RUNNING: (
        "It did not run at any setting tried.",
        ("the start gate: choke, lock-off, stop switch, gas open",
         "over-primed: ventilate and wait half an hour", "a spark at the plug",
         "gas at the adapter: the primer hisses?"),
    ),
    Why.SCATTER: (
        "The readings contradict each other.",
        ("the same load each time, throttle just fully open",
         "warm before the first reading, and 20 s after each turn of the screw",
         "turns counted from the seat, not from the last place",
         "what changed meanwhile: cylinder chilled, another appliance on the gas"),
    ),
}  # fmt: skip
CHECKS: dict[str, str] = {
    "no_load": "Runs evenly at no load",
    "eco": "Takes eco mode and comes out of it",
    "load_step": "Takes a load step without dying",
    "idle": "Idle screw set: neither hunts nor stumbles",
    "balance": "Both barrels alike: same turns, same plug",
    "lock": "Locked with its nut, and the turns counted once more",
}
"""What is looked at after the setting."""

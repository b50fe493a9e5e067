"""A sweep of the load screw judged: its ends, the setting, the next reading, or why not."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.stages.first_start.metering.curve import Curves, fit

LOSS = 0.003
"""Output a setting may as likely as not lose for not being known better, as a share of it."""
EIGHTH, FINE = 0.125, 0.0625
"""A slotted screw is set to an eighth of a turn; below one turn, to half of that."""
HIDES = 0.08
"""Steps of the load past this share of the best are as wide as the whole plateau."""
ENOUGH_TO_TELL = 3
"""Readings by which the best of them is about what it gives."""
PATIENCE = 7
"""Readings after which each further one makes less do."""
LEAST = 4
"""Readings at places of their own without which nothing is settled."""
MOST = 12
"""Readings after which a sweep that does not settle is called so."""
STEP = 1.35
"""A next reading goes no further than this factor beyond what was tried: where it dies, it tells
little."""
APART = 0.03
"""Two readings closer than this share of each other say nothing new."""
NEAR_STOP = 0.9
"""Share of the screw's last turn from which that turn itself is read."""
WIDE = 2.2
"""A sweep this wide should have met both ends."""
SAME = 0.012
LEAST_FALL = 0.03
"""A curve that nowhere falls by this share of the best has no ends to be found."""
AT_LIMIT = 0.98
"""Share of what the alternator can give from which it, not the engine, is read."""
BY_LAMBDA, RICHER = 0.95, 0.92
"""λ a setting by a probe aims at; the second where motors must be started."""
LAM_APART, LAM_AGREES = 1.08, 0.10
"""Turns of two readings with a probe this far apart, and turns · λ as alike, place the screw."""
LAM_SIGMA, LAM_SLOPE = 0.02, 0.2
"""Error of λ read; how far turns · λ may go with ln λ: both σ [1]."""
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
    AT_LIMIT = "at_limit"
    STEPS = "steps"


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
    loss: float | None = None
    """Output the setting is expected to lose for what is not known, as a share of it [1]."""
    by_lambda: bool = False
    """Whether a probe in the exhaust placed the setting, not the curve."""

    @property
    def plateau(self) -> float:
        """How wide it is [turns]; wide where its ends were not seen."""
        seen = self.lean and self.rich and self.lean.seen and self.rich.seen
        return self.rich.turns - self.lean.turns if seen and self.rich and self.lean else 1.0

    @property
    def mark(self) -> float | None:
        """The setting as a hand makes it [turns]."""
        return None if self.setting is None else on_screw(
            self.setting.turns, plateau=self.plateau
        )  # fmt: skip


def judge(
    readings: Sequence[Taken],
    signal: Signal,
    start: float,
    most: float,
    *,
    motors: bool = False,
    least: float = 0.1,
    limit: float | None = None,
    step: float = 0.0,
    again: bool = True,
) -> SweepVerdict:
    """Judge a sweep.

    Args:
        readings: in the order they were taken.
        signal: what they are read by.
        start: where the screw is expected to be right [turns].
        most: turns from the seat to the screw's last useful turn.
        motors: whether it must start motors: then the setting leans toward rich.
        least: the least opening worth trying [turns].
        limit: what alternator or inverter can give [W]; None where it is not known.
        step: steps the load goes in, where output is read [W]; nought where it has none.
        again: whether the first place is asked for once more; not once the screw is locked.
    """
    start = on_screw(min(max(start, 1.2 * least), most), least, most)
    if not readings:
        return SweepVerdict(next=Next(start, "start"))
    ran = [one for one in readings if one.ran is not Ran.DIED and one.value > 0]
    if not ran:
        return _never_ran(readings, start, least, most)
    span = (least, most)
    turned = _as_more_is_better(readings, signal)
    curves = fit(turned, start, span)
    lean, rich = _span(curves.lean, curves, at_end=0), _span(curves.rich, curves, at_end=-1)
    probed = _by_lambda(readings, motors=motors)
    if probed is not None and least <= probed.turns <= most:
        return _verified(readings, probed, lean, rich, curves)
    best = max(one.value for one in ran)
    hidden = signal is Signal.OUTPUT and len(ran) >= ENOUGH_TO_TELL and step > HIDES * best
    why = Why.STEPS if hidden else (
        _cut_off(ran, signal, limit) or _cannot(turned, lean, rich, span)
    )  # fmt: skip
    if why is not None:
        return SweepVerdict(lean, rich, why=why, curves=curves)
    setting, loss = _setting(curves, motors=motors)
    enough = LOSS * (1 + max(0, len(readings) - PATIENCE) ** 2 / 2)
    settled = lean.seen and rich.seen and loss <= enough and len(readings) >= LEAST
    if settled and again and not _repeated(readings):
        first = next(one for one in readings if one.ran is not Ran.DIED and one.value > 0)
        return SweepVerdict(lean, rich, None, Next(first.turns, "again"), curves=curves, loss=loss)
    if settled:
        return SweepVerdict(lean, rich, setting, curves=curves, loss=loss)
    if len(readings) >= MOST:
        return SweepVerdict(lean, rich, why=Why.SCATTER, curves=curves)
    ahead = _next(readings, curves, lean, rich)
    return SweepVerdict(lean, rich, None, ahead, curves=curves, loss=loss)


def on_screw(turns: float, least: float = 0.0, most: float = 100.0, plateau: float = 1.0) -> float:
    """The nearest place a hand can set a slotted screw to and count again [turns].

    Args:
        turns: where it would be.
        least: the least opening.
        most: the last useful turn.
        plateau: how wide the plateau is; a narrow one is worth the trouble of a sixteenth.

    >>> on_screw(1.41), on_screw(0.58), on_screw(0.02, least=0.1), on_screw(1.57, plateau=0.2)
    (1.375, 0.5625, 0.125, 1.5625)
    """
    part = EIGHTH if turns >= 1.0 and plateau >= 4 * EIGHTH else FINE
    low, high = math.ceil(least / part - 1e-9), math.floor(most / part + 1e-6)
    return part * max(1, low, min(high, round(turns / part)))


def _repeated(readings: Sequence[Taken]) -> bool:
    """Whether a place was read a second time, others between: what drifts shows there."""
    return any(
        abs(later.turns / one.turns - 1) <= APART
        for at, one in enumerate(readings)
        for later in readings[at + 2 :]
    )


def _by_lambda(readings: Sequence[Taken], *, motors: bool) -> Span | None:
    """Where the screw belongs by a probe: turns · λ hardly changes with where it stands.

    The two readings nearest the λ that is wanted will do, if they are apart and agree; between
    them the product is taken as straight over ln λ. None with fewer, or where they don't.
    """
    wanted = RICHER if motors else BY_LAMBDA
    read = sorted(
        ((abs(math.log(one.lam / wanted)), one.turns, one.lam) for one in readings
         if one.lam and one.ran is not Ran.DIED),
    )  # fmt: skip
    if not read:
        return None
    _, turns, lam = read[0]
    others = (one for one in read[1:] if abs(math.log(one[1] / turns)) >= math.log(LAM_APART))
    _, other_turns, other_lam = next(others, (0.0, 0.0, 0.0))
    if not other_turns:
        return None
    first, second = turns * lam, other_turns * other_lam
    leaner_when_shut = (other_lam - lam) * (other_turns - turns) < 0
    if not leaner_when_shut or abs(math.log(second / first)) > LAM_AGREES:
        return None
    # Straight over ln λ, as far as readings so near each other can tell a slope at all.
    apart = math.log(other_lam / lam)
    told = LAM_SLOPE**2 / (LAM_SLOPE**2 + 2 * (LAM_SIGMA / apart) ** 2)
    slope = told * math.log(second / first) / apart
    ways = [
        (math.log(product) + slope * math.log(wanted / at),
         1 / (LAM_SIGMA**2 + (LAM_SLOPE * math.log(wanted / at)) ** 2))
        for product, at in ((first, lam), (second, other_lam))
    ]  # fmt: skip
    weight = sum(one for _, one in ways)
    place = math.exp(sum(value * one for value, one in ways) / weight) / wanted
    return Span(place, place / math.sqrt(weight))


def _verified(
    readings: Sequence[Taken], probed: Span, lean: Span, rich: Span, curves: Curves
) -> SweepVerdict:
    """A setting by λ, once it was read there."""
    mark = on_screw(probed.turns, plateau=0.0)
    there = any(one.turns == mark for one in readings if one.lam)
    if not there:
        ahead = Next(mark, "lambda")
        return SweepVerdict(lean, rich, None, ahead, curves=curves, by_lambda=True)
    return SweepVerdict(lean, rich, probed, curves=curves, by_lambda=True)


def _cut_off(ran: Sequence[Taken], signal: Signal, limit: float | None) -> Why | None:
    """Whether the top is the alternator's and not the engine's: no mixture shows there."""
    if signal is not Signal.OUTPUT or limit is None:
        return None
    return Why.AT_LIMIT if sum(one.value >= AT_LIMIT * limit for one in ran) >= 2 else None


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


def _setting(curves: Curves, *, motors: bool) -> tuple[Span, float]:
    """Where it belongs, and the output it is expected to lose there for what is not known."""
    middle = (curves.lean + curves.rich) / 2
    places = middle + (RICH_SHARE * (curves.rich - middle) if motors else 0.0)
    at = float(np.median(places))
    return Span(at, float(places.std())), float(np.median(curves.lost(places, at)))


def _next(readings: Sequence[Taken], curves: Curves, lean: Span, rich: Span) -> Next:
    """The place whose reading tells most of the ends, not far beyond what was tried."""
    tried = [one.turns for one in readings]
    low, high = min(tried) / STEP, max(tried) * STEP
    gain, least, most = curves.gain(), float(curves.turns[0]), float(curves.turns[-1])
    best, told = 0.0, -1.0
    for place, much in zip(curves.turns, gain, strict=True):
        at = on_screw(float(place), least, most)
        new = all(abs(at / one - 1) > APART for one in tried)
        # The screw's marks may lie too wide apart for what is left to tell: then between them.
        wanted = at if new else float(place)
        new = new or all(abs(place / one - 1) > APART for one in tried)
        if new and low <= wanted <= high * 1.001 and much > told:
            best, told = wanted, float(much)
    turns = best or float(curves.turns[int(gain.argmax())])
    if not rich.seen and turns > NEAR_STOP * most and most not in tried:
        # So near its last turn, that one tells whether there is anything beyond.
        turns = most
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
        return SweepVerdict(next=Next(on_screw(richer, least, most), "run"))
    return SweepVerdict(next=Next(on_screw(leaner, least, most), "run"))


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
    """Whether a reading lies clearly below others to both sides: no screw does that.

    What was read twice at one place counts as the better of the two: the other may have drifted.
    """
    values: list[float] = []
    last = 0.0
    for one in _by_turns(readings):
        value = 0.0 if one.ran is Ran.DIED else one.value
        if values and one.turns <= (1 + APART) * last:
            values[-1] = max(values[-1], value)
        else:
            values.append(value)
        last = one.turns
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
    "again": "The first place once more: it shows what drifted meanwhile.",
    "lambda": "Where the probe says it belongs: read it once there.",
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
    Why.AT_LIMIT: (
        "It gives all the alternator can, so the readings say nothing of the engine.",
        ("read by the throttle instead, at a steady load of about 60 %",
         "or by a probe in the exhaust: two turns of the screw suffice",
         "never load it past its rating to find the engine's end"),
    ),
    Why.STEPS: (
        "The load goes in steps as wide as the whole plateau: the step is read, not the engine.",
        ("smaller loads beside the large one: lamps, a heater's low setting",
         "read by speed, with a load on that opens the throttle fully",
         "read by the throttle at a steady load, or by a probe in the exhaust"),
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

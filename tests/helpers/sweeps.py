"""Benches of every class, started and swept by following the judge and nothing else."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.first_start.metering.sweep import SweepVerdict, judge
from gentle_ember.instruments.bench import Bench, Setup
from gentle_ember.instruments.setup import setup_of
from tests.helpers.sets import CATALOG, job_of

START, MOST = 1.3, 6.0


@cache
def setup(size: str, fuel: str, seed: int) -> Setup:
    found = setup_of(plan(job_of(size), CATALOG), FuelKey(fuel), seed)
    assert found is not None
    return found


def bench(size: str = "inverter", fuel: str = "propane", seed: int = 1, **spec: float) -> Bench:
    built = setup(size, fuel, seed)
    return Bench(replace(built, engine=replace(built.engine, **spec)), seed)


def started(one: Bench, turns: float) -> bool:
    """Gas on, screw at its start, primed and pulled as often as it takes."""
    one.hands.gas_open, one.hands.turns, one.hands.load_w = True, turns, 0.0
    one.step()
    for seconds in (2.0, 2.0, 3.0, 4.0, 5.0, 6.0):
        one.engine.press_primer(seconds)
        if one.pull():
            one.go(15)
            return one.engine.running
    return False


def swept(
    one: Bench,
    start: float,
    signal: Signal = Signal.OUTPUT,
    load: float = 0.6,
    *,
    probe: bool = False,
) -> tuple[SweepVerdict, list[Taken]]:
    """Follow what is asked for until there is a setting or a reason why not."""
    load_w = load * one.setup.engine.limit_w
    readings: list[Taken] = []
    started(one, start)
    while True:
        verdict = judge(readings, signal, start, MOST)
        if verdict.next is None:
            return verdict, readings
        if not one.engine.running or one.engine.tripped:
            best = max(readings, key=lambda r: (r.ran is not Ran.DIED, r.value), default=None)
            tried = [best.turns] if best and best.value else []
            # The richer first: what is primed in vain floods.
            any(started(one, turns) for turns in sorted((*tried, verdict.next.turns))[::-1])
        one.hands.turns = verdict.next.turns
        taken = one.take(signal, load_w)
        readings.append(taken if probe else replace(taken, lam=None))


def published_torque(lam: float) -> float:
    """Output over λ as engines are published: most at φ 1.10, flat to the rich side.

    2.5 % less at λ 1, 10 % at λ 1.05, hardly anything at λ 0.85.
    """
    rich = 1 / lam
    if rich >= 1.10:
        return max(0.0, 1 - 0.25 * ((rich - 1.10) / 0.4) ** 2)
    off = 1.10 - rich
    return max(0.0, 1 - 2.5 * off**2 - 20 * max(0.0, off - 0.1) ** 2)


@dataclass
class Set:
    """A set read by eye: where its λ is 1, and what comes between the engine and the number."""

    right: float
    seed: int = 0
    noise: float = 0.0015
    drift: float = 0.0
    """Share it gains or loses from one reading to the next."""
    step: float = 0.0
    """Steps the load goes in [W]."""
    hand: float = 0.0
    """How far off a hand sets the screw: σ [turns]."""
    probe: bool = False
    watts: float = 2500.0
    torque: Callable[[float], float] = published_torque
    limit: float = math.inf
    """What the alternator gives at most [W]."""

    def __post_init__(self) -> None:
        self.drawn = random.Random(self.seed)
        self.taken: list[Taken] = []

    def read(self, turns: float) -> Taken:
        """A reading at what is meant to be so many turns."""
        real = max(0.05, turns + self.drawn.gauss(0, self.hand))
        lam = self.right / real
        watts = self.watts * self.torque(lam) * (1 + self.drift * len(self.taken))
        watts = min(self.limit, watts) * (1 + self.drawn.gauss(0, self.noise))
        if self.step:
            watts = math.floor(watts / self.step) * self.step
        if watts < 0.12 * self.watts:
            return Taken(turns, 0.0, 0.0, Ran.DIED)
        sigma = math.hypot(0.005 * watts, self.step / math.sqrt(12))
        read = lam * (1 + self.drawn.gauss(0, 0.015)) if self.probe else None
        return Taken(turns, watts, sigma, Ran.SMOOTH, read)

    def sweep(self, start: float, **how: Any) -> SweepVerdict:
        """Follow what is asked for until there is a setting or a reason why not."""
        while True:
            verdict = judge(self.taken, Signal.OUTPUT, start, MOST, step=self.step, **how)
            if verdict.next is None:
                return verdict
            self.taken.append(self.read(verdict.next.turns))

    def lost(self, verdict: SweepVerdict) -> float:
        """Output a setting really gives up against the most there is [1]."""
        assert verdict.mark is not None
        return 1 - self.torque(self.right / verdict.mark)


def sets(count: int, **more: Any) -> Iterator[tuple[Set, float]]:
    """Sets of every size of screw, each with where its sweep is begun, a quarter off."""
    for seed in range(count):
        drawn = random.Random(1000 + seed)
        right = math.exp(drawn.uniform(math.log(0.5), math.log(2.6)))
        yield Set(right, seed, **more), min(right * math.exp(drawn.gauss(0, 0.25)), MOST)

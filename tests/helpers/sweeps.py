"""Benches of every class, started and swept by following the judge and nothing else."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import cache

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
    one: Bench, start: float, signal: Signal = Signal.OUTPUT, load: float = 0.6
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
            started(one, best.turns if best and best.value else verdict.next.turns)
        one.hands.turns = verdict.next.turns
        readings.append(one.take(signal, load_w))


def read_from(
    curve: Callable[[float], float], start: float, noise: Callable[[], float]
) -> tuple[SweepVerdict, int]:
    """The same with readings straight from a curve of shares, 1 W a share of 2,500."""
    readings: list[Taken] = []
    while True:
        verdict = judge(readings, Signal.OUTPUT, start, MOST)
        if verdict.next is None:
            return verdict, len(readings)
        turns = verdict.next.turns
        watts = 2500 * curve(turns)
        alive = watts > 300
        readings.append(
            Taken(turns, watts + 2500 * noise() if alive else 0.0, 4.0,
                  Ran.SMOOTH if alive else Ran.DIED)
        )  # fmt: skip

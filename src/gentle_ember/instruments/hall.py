"""Simulated benches that are open, one a job and gas, each moved on by a clock handed in."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from threading import Lock
from typing import Literal

from gentle_ember.core.job.metering import Signal, Taken
from gentle_ember.instruments.bench import STEP_S, Bench, Film, Setup
from gentle_ember.instruments.protocol import Reading

MOST_BENCHES = 12
STOPS_S = 6.0
LONGEST_S = 3.0
"""Nobody looked for longer: the bench stood still meanwhile."""


GONE_S = 1800.0
"""A bench goes so long after the last page that looked at it; a reload finds it as it stood [s]."""


@dataclass
class Live:
    """A bench with the clock it was last moved on by, and what happened on it."""

    bench: Bench
    seen_s: float
    pace: float = 1.0
    said: str = ""
    plug: str = ""
    film: Film | Literal[""] = ""
    lock: Lock = field(default_factory=Lock)

    def move(self, now_s: float) -> None:
        """Move on to now, in whole steps; what is left over waits."""
        passed = min(LONGEST_S, max(0.0, now_s - self.seen_s)) * self.pace
        steps = math.floor(passed / STEP_S)
        for _ in range(steps):
            self.bench.step()
        if steps or now_s - self.seen_s > LONGEST_S:
            self.seen_s = max(self.seen_s + steps * STEP_S / self.pace, now_s - LONGEST_S)

    @contextmanager
    def now(self, now_s: float) -> Iterator[Bench]:
        """The bench moved on to now, nobody else's hands on it."""
        with self.lock:
            self.move(now_s)
            yield self.bench

    def read(self, now_s: float) -> list[Reading]:
        """What every instrument shows now."""
        with self.now(now_s) as bench:
            return list(bench.read())

    def pull(self, now_s: float) -> bool:
        """Pull the rope or press the starter."""
        with self.now(now_s) as bench:
            before = bench.engine.running
            runs = bench.pull()
            self.said = "It runs already." if before else _started(bench, runs=runs)
            return runs

    def prime(self, now_s: float, seconds: float) -> bool:
        """Press the primer; whether a hiss is heard."""
        with self.now(now_s) as bench:
            hands = bench.hands
            hiss = hands.gas_open and hands.supply_pa > 200
            bench.engine.press_primer(seconds)
            self.said = "A hiss." if hiss else "No hiss: no gas reaches the demand regulator."
            return hiss

    def run(self, now_s: float, seconds: float) -> None:
        """Let it run on for so long at once."""
        with self.now(now_s) as bench:
            bench.go(seconds)
            stands = not bench.engine.running
            self.said = "It stopped meanwhile." if stands else f"Ran on for {seconds / 60:.0f} min."

    def take_out_plug(self, now_s: float) -> None:
        """Shut it off under load and look at the plug."""
        with self.now(now_s) as bench:
            hands = bench.hands
            hands.switch_on = False
            bench.go(STOPS_S)
            self.plug = bench.plug()
            bench.engine.speed_hz = 0.0
            hands.switch_on, hands.load_w = True, 0.0
            self.said = "Shut off under load; the plug is out, a new one goes in."

    def soap(self, now_s: float, joint: str) -> None:
        """What a film does at a joint."""
        with self.now(now_s) as bench:
            self.film = bench.film(joint) if bench.hands.gas_open else ""
            self.said = "" if self.film else "No gas on it: open the source first."

    def mend(self, now_s: float, joint: str) -> None:
        """Shut the source and make a joint anew."""
        with self.now(now_s) as bench:
            bench.hands.gas_open = False
            bench.mend(joint)
            self.film, self.said = (
                "",
                "Source closed, joint remade. Open the source and soap again.",
            )

    def lock_up(self, now_s: float) -> None:
        """A film over the demand regulator's outlet, inlet live, engine stopped."""
        with self.now(now_s) as bench:
            if bench.engine.running or not bench.hands.gas_open:
                self.said = "Inlet live and engine stopped, or it tells nothing."
            elif bench.setup.weeps:
                self.said = "The film over the outlet grows: it weeps."
            else:
                self.said = "The film over the outlet does not grow."

    def reset(self, now_s: float) -> None:
        """Reset the inverter after an overload."""
        with self.now(now_s) as bench:
            bench.engine.tripped, self.said = False, ""

    def hear(self, now_s: float, seconds: float, rate_hz: int) -> list[float]:
        """What a microphone near the exhaust hears."""
        with self.now(now_s) as bench:
            return bench.sound(seconds, rate_hz)

    def take(self, now_s: float, signal: Signal, load_w: float) -> Taken:
        """Take a reading of a sweep."""
        with self.now(now_s) as bench:
            return bench.take(signal, load_w)


def _started(bench: Bench, *, runs: bool) -> str:
    if runs:
        return "It starts and keeps running."
    if bench.engine.prime_kg * 8 > bench.engine.spec.displacement_m3 * 12:
        return "It coughs black and stops: it smells of gas."
    return "It turns over and does not catch."


class Hall:
    """The benches that are open; the one used longest ago goes when there are too many."""

    def __init__(self, clock: Callable[[], float]) -> None:
        self.clock = clock
        self._open: OrderedDict[tuple[str, str], Live] = OrderedDict()
        self._lock = Lock()

    def open(self, job: str, fuel: str, setup: Setup, seed: int) -> Live:
        """A fresh bench in place of the one before."""
        with self._lock:
            self._leave()
            live = Live(Bench(setup, seed), self.clock())
            self._open[(job, fuel)] = live
            self._open.move_to_end((job, fuel))
            while len(self._open) > MOST_BENCHES:
                self._open.popitem(last=False)
            return live

    def of(self, job: str, fuel: str) -> Live | None:
        """The bench of a job and gas, if one is open."""
        with self._lock:
            self._leave()
            live = self._open.get((job, fuel))
            if live is not None:
                self._open.move_to_end((job, fuel))
            return live

    def _leave(self) -> None:
        """Put away what nobody looks at any more."""
        now = self.clock()
        for key in [key for key, live in self._open.items() if now - live.seen_s > GONE_S]:
            del self._open[key]

    def close(self, job: str, fuel: str) -> None:
        """Put a bench away."""
        with self._lock:
            self._open.pop((job, fuel), None)

    @contextmanager
    def held(self, job: str, fuel: str) -> Iterator[Live | None]:
        """The bench with its lock held, moved on to now."""
        live = self.of(job, fuel)
        if live is None:
            yield None
            return
        with live.lock:
            live.move(self.clock())
            yield live

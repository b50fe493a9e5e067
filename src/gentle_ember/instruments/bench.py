"""The simulated bench: an engine with hands on it, every instrument, leaks, and seeded noise."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.physics.propane import latent_heat, liquid_heat_capacity, saturation_pressure
from gentle_ember.instruments.engine import Engine, EngineSpec
from gentle_ember.instruments.protocol import Reading

STEP_S = 0.1
RECOVERS_S = 6.0
RAMP_STEPS = 40
"""Unloaded for as long again as it takes to put the load on."""
SETTLE_S, AVERAGE_S = 4.0, 8.0
OPEN_THROTTLE = 0.92
"""Where load is added no further: the throttle is open, and there is still a hand's breadth."""
ADD_LOAD = 0.10
"""How fast load is added or taken, per step and share of throttle missing."""
STARVES_PA = 69e3
PLUG_COLORS_S = 300.0
TANK_TARE_KG = 2.0
PLUG_GASOLINE = (
    (0.79, "soot"), (0.955, "tan"), (1.0, "gray"), (1.06, "white"), (math.inf, "blistered"),
)  # fmt: skip
PLUG_GAS = ((1.09, "gray"), (1.25, "white"), (math.inf, "blistered"))
"""λ under which a plug takes a color; gas leaves no soot."""
NOISE = {
    "volts_a": 0.002, "volts_b": 0.002, "volts_c": 0.002,
    "amps_a": 0.004, "amps_b": 0.004, "amps_c": 0.004, "output": 0.004,
    "hertz": 0.0005, "speed": 0.002, "throttle": 0.006, "lambda": 0.008, "oxygen": 0.03,
    "co": 0.05, "exhaust": 0.004, "exhaust_b": 0.004, "manometer": 0.006,
    "inlet": 0.006, "mass": 0.0004, "dial": 0.0, "gas_near": 0.05,
}  # fmt: skip
"""Standard error of one reading as a share of what is read."""

Film = Literal["holds", "bubbles", "foam"]


@dataclass(frozen=True, slots=True)
class Gauge:
    """Somewhere a manometer can be put: before a part, with its pressures by load [Pa]."""

    key: str
    title: str
    pressures: tuple[float, float, float, float]
    """At no flow, idle, half and full load."""


@dataclass(frozen=True, slots=True)
class Setup:
    """A bench as it is built up: engine, electrics, cylinder, which joints leak [m³/s]."""

    engine: EngineSpec
    leg_volts: float
    hertz: float
    legs: int
    ambient_k: float
    ambient_pa: float
    inlet_pa: float
    least_inlet_pa: float
    cylinder_kg: float = 0.0
    """Propane at the start; nought on a utility."""
    tare_kg: float = 8.0
    wetted_w_k: float = 4.0
    """Heat a cylinder takes from the air [W/K]."""
    leaks: Mapping[str, float] = field(default_factory=dict)
    electric_start: bool = False
    cylinders: int = 1
    tank_kg: float = 0.0
    """Gasoline in a tank on the scale; nought where a cylinder stands on it."""
    gauges: tuple[Gauge, ...] = ()
    flows: tuple[float, float, float, float] = (0.0, 1e-5, 2e-5, 4e-5)
    """Gas at no flow, idle, half and full load [kg/s]."""
    weeps: bool = False
    """Whether the demand regulator lets gas past while it is shut."""


class Bench:
    """An engine bench; the same seed and the same hands give the same readings."""

    def __init__(self, setup: Setup, seed: int) -> None:
        self.setup, self.engine = setup, Engine(setup.engine)
        self.hands = self.engine.hands
        self.noise = random.Random(seed)  # noqa: S311 - the same noise for the same seed
        self.leaks = dict(setup.leaks)
        self.cylinder_kg = setup.cylinder_kg
        self.cylinder_k = setup.ambient_k
        self.passed_m3, self.tank_kg = 0.0, setup.tank_kg
        self.loaded_lambda = math.nan
        """λ under load, averaged as a plug remembers it."""
        self.loaded_gas = False
        self.loaded_s = 0.0
        self._supply()

    @property
    def now_s(self) -> float:
        """The bench's own clock [s]."""
        return self.engine.now_s

    def step(self, seconds: float = STEP_S) -> None:
        """Move on."""
        self._supply()
        self.engine.step(seconds)
        burnt = self.engine.gas_kg_s * seconds
        self.passed_m3 += burnt / self.setup.engine.gas.density_kg_m3
        self.tank_kg = max(0.0, self.tank_kg - self.engine.gasoline_kg_s * seconds)
        if self.setup.cylinder_kg:
            self._chill(burnt, seconds)
        engine = self.engine
        if engine.running and engine.output_w > 0.4 * self.setup.engine.limit_w:
            share = 1.0 if math.isnan(self.loaded_lambda) else seconds / 120
            before = engine.lam if math.isnan(self.loaded_lambda) else self.loaded_lambda
            self.loaded_lambda = before + share * (engine.lam - before)
            self.loaded_gas = engine.gas_kg_s > engine.gasoline_kg_s
            self.loaded_s += seconds

    def go(self, seconds: float) -> None:
        """Move on for longer."""
        for _ in range(round(seconds / STEP_S)):
            self.step()

    def pull(self) -> bool:
        """Pull the rope, or press the starter, and see whether it runs."""
        hz, seconds = (5.0, 3.0) if self.setup.electric_start else (8.0, 1.2)
        self.engine.crank(hz, seconds)
        self.go(seconds + 2.5)
        return self.engine.running

    def _supply(self) -> None:
        hands, setup = self.hands, self.setup
        if not hands.gas_open:
            hands.supply_pa = 0.0
            return
        hands.supply_least_pa = setup.least_inlet_pa
        hands.supply_pa = setup.inlet_pa
        if setup.cylinder_kg:
            inside = saturation_pressure(max(self.cylinder_k, 200.0)) - setup.ambient_pa
            share = 0.0 if self.cylinder_kg <= 0 else min(1.0, max(0.0, inside / STARVES_PA))
            hands.supply_pa = setup.inlet_pa * share

    def _chill(self, burnt_kg: float, seconds: float) -> None:
        left = max(0.0, self.cylinder_kg - burnt_kg)
        stored = (
            max(left, 0.05) * liquid_heat_capacity(self.cylinder_k) + 0.4 * self.setup.tare_kg * 470
        )
        wet = self.setup.wetted_w_k * max(0.15, left / self.setup.cylinder_kg)
        gained = wet * (self.setup.ambient_k - self.cylinder_k) * seconds
        self.cylinder_k += (gained - burnt_kg * latent_heat(self.cylinder_k)) / stored
        self.cylinder_kg = left

    def exact(self) -> dict[str, float]:
        """What every instrument would show without its noise [SI]."""
        engine, setup = self.engine, self.setup
        spec, out = setup.engine, engine.output_w
        live = engine.running and not engine.tripped
        pace = engine.speed_hz / spec.speed_hz
        hertz = setup.hertz * (1.0 if spec.inverter else pace) if live else 0.0
        sag = 1 - 0.03 * out / spec.limit_w
        volts = setup.leg_volts * sag * (1.0 if spec.inverter else min(1.05, pace)) * live
        amps = out / setup.legs / volts if volts else 0.0
        lam = engine.lam if engine.running and math.isfinite(engine.lam) else math.nan
        found = {
            "output": out, "hertz": hertz, "speed": 2 * math.pi * engine.speed_hz,
            "throttle": engine.throttle if engine.running else 0.0,
            "volts_a": volts, "amps_a": amps, "inlet": self.hands.supply_pa,
            "dial": self.passed_m3,
            "gas_near": sum(self.leaks.values()) * 40 if self.hands.gas_open else 0.0,
        }  # fmt: skip
        for leg in ("b", "c")[: setup.legs - 1]:
            found |= {f"volts_{leg}": volts, f"amps_{leg}": amps}
        gauge = next((one for one in setup.gauges if one.key == self.hands.gauge), None)
        if gauge is not None:
            found["manometer"] = self._at(gauge)
        if setup.cylinder_kg:
            found["mass"] = setup.tare_kg + self.cylinder_kg
        elif setup.tank_kg:
            found["mass"] = TANK_TARE_KG + self.tank_kg
        if not math.isnan(lam):
            found["lambda"] = lam
            found["oxygen"] = max(0.003, 0.209 * (lam - 1) / lam) if lam > 1 else 0.003
            found["co"] = min(0.10, 0.002 + 0.35 * max(0.0, 1 - lam))
            late = _late(lam)
            found["exhaust"] = setup.ambient_k + 330 * min(1.2, 0.25 + out / spec.limit_w) + late
            if spec.barrels > 1:
                other = engine.lam / (2 - engine.split) if engine.gas_kg_s > 0 else lam
                mine = engine.lam / engine.split if engine.gas_kg_s > 0 else lam
                base = found["exhaust"] - late
                found["exhaust"], found["exhaust_b"] = base + _late(mine), base + _late(other)
        return found

    def _at(self, gauge: Gauge) -> float:
        """What a manometer shows before a part, at the gas drawn now [Pa]."""
        if not self.hands.gas_open:
            return 0.0
        full = self.setup.inlet_pa or 1.0
        share = min(1.0, self.hands.supply_pa / full)
        return share * float(np.interp(self.engine.gas_kg_s, self.setup.flows, gauge.pressures))

    def read(self) -> Iterator[Reading]:
        """What the instruments show now, noise and all."""
        for channel, value in self.exact().items():
            shown = value * (1 + self.noise.gauss(0.0, NOISE[channel]))
            yield Reading(channel, shown, self.now_s, Origin.SIMULATED)

    def _shown(self, channel: str) -> float:
        return self.exact().get(channel, 0.0) * (1 + self.noise.gauss(0.0, NOISE[channel]))

    def take(self, signal: Signal, load_w: float) -> Taken:
        """Take one reading of a sweep as a patient person would: settle, then average.

        Args:
            signal: what is read.
            load_w: the steady load [W]; where the output is read, where adding load begins.
        """
        self.engine.tripped = False
        for step in range(RAMP_STEPS):
            self.hands.load_w = load_w * max(0.0, 2 * step / RAMP_STEPS - 1)
            self.step()
        values, speeds, lams = [], [], []
        for step in range(round((SETTLE_S + AVERAGE_S) / STEP_S)):
            if signal is Signal.OUTPUT:
                off = OPEN_THROTTLE - self.engine.throttle
                limit = 1.15 * self.setup.engine.limit_w
                self.hands.load_w = min(limit, max(0.0, self.hands.load_w * (1 + ADD_LOAD * off)))
            self.step()
            if not self.engine.running or self.engine.tripped:
                return self._died()
            if step * STEP_S >= SETTLE_S:
                values.append(self._shown(str(signal)))
                speeds.append(self.engine.speed_hz)
                lams.append(self._shown("lambda"))
        mean = sum(values) / len(values)
        scatter = math.sqrt(sum((one - mean) ** 2 for one in values) / (len(values) - 1))
        return Taken(
            self.hands.turns, mean, scatter / math.sqrt(len(values) / 4), _ran(speeds),
            sum(lams) / len(lams),
        )  # fmt: skip

    def _died(self) -> Taken:
        """The load is off; it stops altogether or comes back by itself."""
        self.hands.load_w = 0.0
        self.go(RECOVERS_S)
        return Taken(self.hands.turns, 0.0, 0.0, Ran.DIED)

    def plateau(self, share: float, throttle: float = OPEN_THROTTLE) -> tuple[float, float]:
        """The true plateau: between which turns the set gives this share of its best or more."""
        most = self.setup.engine.screw_turns
        turns = [0.05 * (most / 0.05) ** (i / 2000) for i in range(2001)]
        held = [self.engine.held_w(one, throttle) for one in turns]
        good = [one for one, w in zip(turns, held, strict=True) if w >= share * max(held)]
        return good[0], good[-1]

    def plug(self) -> str:
        """What the plug looks like, by the picture chart; a new one goes in after."""
        lam, seconds = self.loaded_lambda, self.loaded_s
        self.loaded_lambda, self.loaded_s = math.nan, 0.0
        if math.isnan(lam) or seconds < PLUG_COLORS_S:
            return "unchanged"
        bands = PLUG_GAS if self.loaded_gas else PLUG_GASOLINE
        return next(name for most, name in bands if lam < most)

    def film(self, joint: str) -> Film:
        """What a soap film does at a joint: holds, small bubbles, or foam."""
        leak = self.leaks.get(joint, 0.0) if self.hands.gas_open else 0.0
        if leak <= 0:
            return "holds"
        return "bubbles" if leak < 5e-8 else "foam"

    def mend(self, joint: str) -> None:
        """Make a joint anew."""
        self.leaks.pop(joint, None)

    def sound(self, seconds: float, rate_hz: int) -> list[float]:
        """What a microphone near the exhaust hears, from -1 to 1.

        A twin is a V-twin: it fires at 0° and 270° of its 720°, so that the sound repeats once in
        two turns with its fourth harmonic missing.
        """
        twin = self.setup.cylinders == 2
        base = self.engine.speed_hz / 2 * (1 if twin else self.setup.cylinders)
        fires = [abs(math.cos(math.pi * k * 270 / 720)) if twin else 1.0 for k in range(1, 12)]
        strengths = [
            (k, fire * self.noise.uniform(0.2, 1.0) / k) for k, fire in enumerate(fires, start=1)
        ]
        found = []
        for i in range(round(seconds * rate_hz)):
            t = i / rate_hz
            tone = sum(a * math.sin(2 * math.pi * base * k * t) for k, a in strengths)
            found.append(0.12 * tone + self.noise.gauss(0.0, 0.05))
        return found


def _late(lam: float) -> float:
    """What slow burning adds to the exhaust [K]: most a little lean."""
    return 180 * math.exp(-(((lam - 1.06) / 0.16) ** 2))


def _ran(speeds: list[float]) -> Ran:
    mean = sum(speeds) / len(speeds)
    swing = (max(speeds) - min(speeds)) / mean
    return Ran.HUNTING if swing > 0.03 else Ran.SMOOTH

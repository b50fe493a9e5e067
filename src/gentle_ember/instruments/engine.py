"""The engine of the simulated bench: air, gas, gasoline, combustion, governor, second by second.

A model, not a table. Energy is kept: what the fuel brings is shaft work, friction, heat or
unburnt. Formulas and their sources stand in docs/engineering/engine-bench.md.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from gentle_ember.core.physics.fuels import Fuel
from gentle_ember.core.physics.venturi import signal

BREATHING = 0.85
"""Volumetric efficiency at full throttle [1]."""
FRICTION = 0.18
"""Friction as a share of the indicated power at the rated speed, as the derating sums take it."""
INERTIA_S = 1.2
"""Kinetic energy of what turns over the rated shaft power [s]."""
PORT_CD = 0.80
INTAKE = 12.0
"""Room of air box and duct, where primed gas waits, in displacements."""
PRIMER_KG_M3_S = 0.6
"""Gas a pressed primer lets past, by the engine's displacement."""
PRIME_GONE_S = 400.0
DROOP = 0.05
LAG_S = 0.15
WARM_S = 150.0
STALL = 0.12
"""Share of the rated speed under which it no longer keeps itself turning."""
SUBSTEP_S = 0.02
MIXED = ((-1.5, 0.12), (-0.75, 0.23), (0.0, 0.30), (0.75, 0.23), (1.5, 0.12))
MIX_SPREAD = 0.045
"""Cycles differ: spread of the mixture from one to the next [1], and the weights of five."""


@dataclass(frozen=True, slots=True)
class EngineSpec:
    """The engine, its mixer and its gas path. SI throughout; speeds in turns a second.

    `passage_m2` is the least free area of the gas path apart from the screw, `opening_pa` the
    depression the demand regulator wants, `idle_m2` the idle screw's bypass.
    """

    displacement_m3: float
    shaft_w: float
    speed_hz: float
    low_hz: float
    inverter: bool
    alternator: float
    limit_w: float
    air_density: float
    gas: Fuel
    gasoline: Fuel
    gasoline_lambda: float
    throat_m: float
    barrels: int
    screw_m2: float
    screw_turns: float
    passage_m2: float
    opening_pa: float
    idle_m2: float
    skew: float = 1.0
    """Opening of the right barrel's screw over the left one's at the same turns [1]."""

    @property
    def gas_density(self) -> float:
        """Density of the gas as it is drawn, as thin as the air is [kg/m³]."""
        return self.gas.density_kg_m3 * self.air_density / 1.225

    @property
    def indicated(self) -> float:
        """Indicated efficiency that gives the rated shaft power on gasoline at sea level [1]."""
        air = BREATHING * 1.225 * self.displacement_m3 * self.speed_hz / 2
        burnt = air / self.gasoline.air_fuel_ratio * self.gasoline.lhv_j_kg * burns(0.9)
        return self.shaft_w / (1 - FRICTION) / burnt

    @property
    def friction_w(self) -> float:
        """Friction at the rated speed [W]."""
        return self.shaft_w * FRICTION / (1 - FRICTION)


@dataclass(frozen=True, slots=True)
class Balance:
    """Where the fuel's power goes [W]."""

    fuel_w: float
    shaft_w: float
    friction_w: float
    heat_w: float
    unburnt_w: float


def _burns_evenly(lam: float) -> float:
    """Share of the best work an evenly mixed charge gives for the air it has, at λ [1]."""
    late = 1 - 0.9 * max(0.0, lam - 1.05) ** 2
    slow = 1 - 1.1 * max(0.0, 0.90 - lam) ** 2
    lean = 1 / (1 + math.exp((lam - 1.34) / 0.045))
    rich = 1 / (1 + math.exp((0.55 - lam) / 0.04))
    return max(0.0, late * slow * lean * rich) * min(1.0, 1 / lam)


_STEP, _FIRST, _LAST = 0.005, 0.2, 2.2
_BURNS = [
    sum(
        weight * _burns_evenly(max(0.05, (_FIRST + i * _STEP) * (1 + MIX_SPREAD * off)))
        for off, weight in MIXED
    )
    for i in range(round((_LAST - _FIRST) / _STEP) + 1)
]


def burns(lam: float) -> float:
    """Share of the air's stoichiometric energy that does work at λ, cycles mixed unevenly [1].

    >>> burns(0.95) > burns(0.7) > burns(0.5), burns(0.95) > burns(1.2) > burns(1.6)
    (True, True)
    """
    if not _FIRST <= lam < _LAST:
        return 0.0
    at = (lam - _FIRST) / _STEP
    low = min(int(at), len(_BURNS) - 2)
    return _BURNS[low] + (at - low) * (_BURNS[low + 1] - _BURNS[low])


def fill(throttle: float, pace: float) -> float:
    """Share of a full charge at a throttle opening and a share of the rated speed [1].

    >>> round(fill(1.0, 1.0), 2), fill(0.3, 0.7) > fill(0.3, 1.0)
    (1.0, True)
    """
    return min(1.15, math.tanh(2.0 * throttle / max(pace, 0.1)) / math.tanh(2.0))


@dataclass(slots=True)
class Hands:
    """What the person and the yard do: valves, screw, load, choke, faults."""

    turns: float = 0.0
    right_turns: float | None = None
    """The right barrel's screw; with the left one while it is left alone."""
    gauge: str = ""
    """Part of the train the manometer sits before."""
    idle_turns: float = 1.0
    load_w: float = 0.0
    choke: float = 0.0
    jet: float = 1.0
    """Number of the gasoline jet in it over the one it was built with, by bore [1]."""
    gas_open: bool = False
    gasoline_open: bool = False
    switch_on: bool = True
    eco: bool = False
    kinked: float = 0.0
    """Share of the gas path's free area a kink or a half-open coupler takes [1]."""
    supply_pa: float = 2740.0
    """Gauge pressure before the demand regulator [Pa]."""
    supply_least_pa: float = 1000.0
    """Below this the regulator starves."""


class Engine:
    """The engine as it runs; `step` moves it on."""

    def __init__(self, spec: EngineSpec) -> None:
        self.spec, self.hands = spec, Hands()
        self.speed_hz = 0.0
        self.throttle = 1.0
        self.bowl_kg = 0.0
        self.prime_kg = 0.0
        self.warm = 0.0
        self.now_s = 0.0
        self.tripped = False
        self.cranking_s = 0.0
        self.crank_hz = 0.0
        self.gas_kg_s = 0.0
        self.gasoline_kg_s = 0.0
        self.air_kg_s = 0.0
        self.lam = math.inf
        self.split = 1.0
        """Gas of the left barrel over the mean of both [1]."""
        self.balance = Balance(0.0, 0.0, 0.0, 0.0, 0.0)
        self._held = 0.0
        # Worked out once: they stand in every step.
        self._indicated, self._friction_w = spec.indicated, spec.friction_w

    @property
    def running(self) -> bool:
        """Whether it keeps itself turning."""
        return self.speed_hz > STALL * self.spec.speed_hz and self.cranking_s <= 0

    @property
    def output_w(self) -> float:
        """Electrical output [W]."""
        if not self.running or self.tripped or self.speed_hz < 0.5 * self.spec.low_hz:
            return 0.0
        # A heater draws by the square of its volts, and those of a governed set sink with it.
        sunk = 1.0 if self.spec.inverter else min(1.0, self.speed_hz / self.spec.speed_hz) ** 2
        return min(self.hands.load_w * sunk, self.spec.limit_w * 1.15)

    def crank(self, hz: float, seconds: float) -> None:
        """Pull the rope or press the starter."""
        self.crank_hz, self.cranking_s = hz, seconds
        self.tripped = False

    def press_primer(self, seconds: float) -> None:
        """Let gas past the demand valve by hand for so long."""
        if self.hands.gas_open and self.hands.supply_pa > 200:
            self.prime_kg += PRIMER_KG_M3_S * self.spec.displacement_m3 * seconds

    def step(self, seconds: float) -> None:
        """Move on by so long, in equal parts of 20 ms or less."""
        parts = max(1, math.ceil(seconds / SUBSTEP_S - 1e-9))
        for _ in range(parts):
            self._move(seconds / parts)

    def _wanted_hz(self) -> float:
        spec, hands = self.spec, self.hands
        if not spec.inverter:
            return spec.speed_hz * (1 + DROOP / 2)
        share = min(1.0, self.hands.load_w / spec.limit_w)
        return spec.low_hz + (spec.speed_hz - spec.low_hz) * (share if hands.eco else 1.0)

    def _move(self, dt: float) -> None:
        spec = self.spec
        wanted = self._wanted_hz()
        off = (wanted - self.speed_hz) / wanted
        if spec.inverter:
            self._held = min(1.0, max(0.0, self._held + 4.0 * off * dt))
            asked = self._held + 14.0 * off
        else:
            asked = off / DROOP
        asked = min(1.0, max(0.03, asked))
        self.throttle += (asked - self.throttle) * min(1.0, dt / LAG_S)
        self._breathe(dt)
        brake = self._burn()
        drawn = self.output_w / spec.alternator
        turning = max(self.speed_hz, 1.0)
        store = INERTIA_S * spec.shaft_w * turning / spec.speed_hz**2
        self.speed_hz = max(0.0, self.speed_hz + (brake - drawn) / store * dt)
        if self.cranking_s > 0:
            self.cranking_s -= dt
            self.speed_hz = max(self.speed_hz, self.crank_hz)
        elif self.speed_hz < STALL * spec.speed_hz:
            self.speed_hz = max(0.0, self.speed_hz - 12 * dt)
        if spec.inverter and self.running and self.speed_hz < 0.55 * wanted and self.output_w > 0:
            self.tripped = True
        aim = 1.0 if self.running else 0.0
        self.warm += (aim - self.warm) * dt / (WARM_S if aim else 8 * WARM_S)
        self.prime_kg *= math.exp(-dt / PRIME_GONE_S)
        self.now_s += dt

    def _breathe(self, dt: float) -> None:
        """Air and fuel drawn now [kg/s]."""
        spec, hands = self.spec, self.hands
        pace = self.speed_hz / spec.speed_hz
        full = BREATHING * spec.air_density * spec.displacement_m3 * self.speed_hz / 2
        throttle = 1.0 if self.cranking_s > 0 else self.throttle
        air = full * fill(throttle, pace) * (1 - 0.72 * hands.choke)
        self.gas_kg_s = self.gas_flow(air)
        if self.prime_kg > 0 and self.speed_hz > 1:
            held = INTAKE * spec.displacement_m3 * spec.air_density
            drawn = air * self.prime_kg / held
            self.prime_kg = max(0.0, self.prime_kg - drawn * dt)
            self.gas_kg_s += drawn
        self.gasoline_kg_s = 0.0
        if hands.gasoline_open:
            self.bowl_kg = 0.012
        if self.bowl_kg > 0 and self.speed_hz > 1:
            cold = 1 + 0.7 * (1 - self.warm) * (1 - hands.choke) - 0.35 * hands.choke
            lam = spec.gasoline_lambda / hands.jet**2 * max(0.45, cold)
            self.gasoline_kg_s = min(air / (lam * spec.gasoline.air_fuel_ratio), self.bowl_kg / dt)
            if not hands.gasoline_open:
                self.bowl_kg = max(0.0, self.bowl_kg - self.gasoline_kg_s * dt)
        # Gas takes room the air would have had.
        self.air_kg_s = max(0.0, air - self.gas_kg_s * spec.air_density / spec.gas_density)
        need = (
            self.gas_kg_s * spec.gas.air_fuel_ratio
            + self.gasoline_kg_s * spec.gasoline.air_fuel_ratio
        )
        self.lam = self.air_kg_s / need if need > 1e-9 else math.inf

    def held_w(self, turns: float, throttle: float) -> float:
        """Electrical output held at a screw and throttle, warm and steady: no noise [W]."""
        twin = Engine(self.spec)
        supply = self.hands.supply_least_pa
        twin.hands = replace(
            self.hands, turns=turns, gas_open=True, gasoline_open=False, supply_pa=supply, choke=0.0
        )
        twin.warm, twin.throttle = 1.0, throttle
        twin.speed_hz = self.spec.speed_hz * (
            1 if self.spec.inverter else 1 + DROOP * (0.5 - throttle)
        )
        twin._breathe(0.01)
        work = twin._burn()
        return max(0.0, work * self.spec.alternator)

    def gas_flow(self, air_kg_s: float) -> float:
        """Gas drawn by an air flow [kg/s]: the throat's signal through screw and path."""
        spec, hands = self.spec, self.hands
        if not hands.gas_open or air_kg_s <= 0:
            return 0.0
        pull = signal(air_kg_s / spec.barrels, spec.throat_m, spec.air_density)
        # The idle screw passes the demand valve: it is fed by the throat's whole signal.
        idle = spec.idle_m2 * hands.idle_turns * spec.barrels
        beside = PORT_CD * idle * math.sqrt(2 * spec.gas_density * pull)
        head = pull - spec.opening_pa
        if head <= 0:
            return beside * min(1.0, max(0.0, hands.supply_pa / hands.supply_least_pa))
        area = self._area(hands.turns)
        total = area
        if spec.barrels > 1:
            right = hands.turns if hands.right_turns is None else hands.right_turns
            total = area + self._area(right * spec.skew)
            self.split = 2 * area / total if total else 1.0
        flow = PORT_CD * total * math.sqrt(2 * spec.gas_density * head) + beside
        if hands.supply_pa < hands.supply_least_pa:
            flow *= max(0.0, hands.supply_pa / hands.supply_least_pa)
        return flow

    def _area(self, turns: float) -> float:
        """Free area of one barrel's gas path [m²]: screw and path in series."""
        spec, hands = self.spec, self.hands
        open_m2 = spec.screw_m2 * min(turns, spec.screw_turns)
        path_m2 = spec.passage_m2 * (1 - hands.kinked)
        return 1 / math.sqrt(1 / max(open_m2, 1e-12) ** 2 + 1 / max(path_m2, 1e-12) ** 2)

    def _burns(self) -> float:
        """Share of the air's energy that does work: of two barrels, each at its own mixture."""
        if self.spec.barrels == 1 or self.gas_kg_s <= 0 or abs(self.split - 1) < 1e-3:
            return burns(self.lam)
        left, right = self.lam / self.split, self.lam / (2 - self.split)
        return (burns(left) + burns(right)) / 2

    def _burn(self) -> float:
        """Brake power now [W]; the balance is kept."""
        spec = self.spec
        pace = self.speed_hz / spec.speed_hz
        friction = self._friction_w * max(pace, 0.05) * (0.5 + 0.5 * pace)
        gas_w = self.gas_kg_s * spec.gas.lhv_j_kg
        fuel_w = gas_w + self.gasoline_kg_s * spec.gasoline.lhv_j_kg
        if fuel_w <= 0 or not self.hands.switch_on:
            self.balance = Balance(fuel_w, -friction, friction, 0.0, fuel_w)
            return -friction
        # Stoichiometric energy of the air, by the fuel it meets.
        energy_kg = fuel_w / (
            self.gas_kg_s * spec.gas.air_fuel_ratio
            + self.gasoline_kg_s * spec.gasoline.air_fuel_ratio
        )
        burning = min(fuel_w, self.air_kg_s * energy_kg * self._burns() * self._steady())
        work = burning * self._indicated
        if self.speed_hz < STALL * spec.speed_hz and self.cranking_s <= 0:
            work = 0.0
        self.balance = Balance(fuel_w, work - friction, friction, burning - work, fuel_w - burning)
        return work - friction

    def _steady(self) -> float:
        """A lean engine surges, a rich one stumbles."""
        if self.lam > 1.10:
            swing = min(0.22, 1.6 * (self.lam - 1.10))
            return 1 + swing * math.sin(2 * math.pi * 1.1 * self.now_s)
        if self.lam < 0.72:
            beat = math.sin(2 * math.pi * 4.3 * self.now_s) * math.sin(
                2 * math.pi * 0.7 * self.now_s
            )
            return 1 + min(0.15, 0.9 * (0.72 - self.lam)) * beat
        return 1.0

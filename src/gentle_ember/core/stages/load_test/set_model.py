"""A set by its unknowns: what they foretell of anything that could be read of it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from gentle_ember.core.base.cached import remember
from gentle_ember.core.estimates.defaults import (
    EFFICIENCY,
    Machine,
    SiteAir,
)
from gentle_ember.core.estimates.filling import swept_m3_s
from gentle_ember.core.estimates.first_settings import POWER_BAND
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuel_use import (
    CLASS_DEFAULTS,
    class_line,
)
from gentle_ember.core.physics.fuels import FACTS, Fuel, FuelKey
from gentle_ember.core.physics.mixture import (
    INTAKE_SHARE,
    SET_TO,
    Metered,
    over_load,
    pulsed,
)
from gentle_ember.core.physics.together import (
    Array,
    Unknown,
    gradient,
)
from gentle_ember.core.stages.fuel_path.mixture import NO_GAS

WORN = 0.05
"""How far an engine may be from a new one of its kind: σ of the log."""
LINE, IDLE_SHARE = 0.10, 0.20
"""What a class tells of the fuel at full load, and of its share without load: σ of the log."""
FILLING, FILLING_SIGMA = 0.75, 0.10
"""A small four-stroke's volumetric efficiency, throttle open: 0.61 to 0.92 within two σ."""
MIX_SIGMA, SPEED_SIGMA = 0.04, 0.01
THROAT_SIGMA, PULSES_SIGMA = 0.15, 1.2
"""Coefficient of the throat: σ of the log. Whether gas follows the pulses: σ of the log odds."""
FULL = 0.9
"""Share of the engine's own limit from which a reading counts as full load."""
GRID = 121
HALF = 0.5


@dataclass(frozen=True, slots=True)
class SetReading:
    """One reading as the estimate takes it: of what, at which electrical load, how well it is read.

    `value` and `sigma` are of the logarithm [1].
    """

    of: str
    fuel: FuelKey
    watts: float
    value: float
    sigma: float
    label: str
    path: str
    turns: float = 0.0
    """Where the load screw was; nought where nobody said."""
    day_w: float = 0.0
    """The engine's limit on that day's air, as estimated [W]."""


@dataclass(frozen=True, slots=True)
class Candidate:
    """A reading that could be taken next: how, minutes it costs, how well it is read."""

    of: str
    fuel: FuelKey
    watts: float
    sigma: float
    text: str
    minutes: float


@dataclass(frozen=True, slots=True)
class OnFuel:
    """A fuel of the set as the model needs it."""

    fuel: Fuel
    limit_w: float
    """The engine's own limit on the hottest day, as estimated [W]."""
    lam: float
    throat: Metered | None
    """Throat as a steady flow draws on it; None where nothing is metered by one."""
    reckoned_kg_s: float
    """Air at full load that flow was reckoned with [kg/s]."""
    turns: float
    """Where the load screw is expected to give λ = 1 at full load; nought without a screw."""
    locked: float


@dataclass
class SetModel:
    """A set by its unknowns: what they foretell of any reading, in logarithms."""

    job: Job
    resolved: Machine
    here: SiteAir
    fuels: dict[FuelKey, OnFuel]
    unknowns: list[Unknown] = field(default_factory=list)
    at: dict[str, int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for one in self._unknowns():
            self.at[one.key] = len(self.unknowns)
            self.unknowns.append(one)

    def _unknowns(self) -> Iterator[Unknown]:
        yield Unknown("line", 0.0, LINE)
        yield Unknown("idle", 0.0, IDLE_SHARE)
        low, high = self.resolved.engine_low_w, self.resolved.engine_high_w
        engine = self.resolved.engine_w
        yield Unknown(
            "engine",
            math.log(low * high / engine**2) / 2,
            math.hypot(math.log(high / low) / 4, WORN),
        )
        yield Unknown("speed", 0.0, SPEED_SIGMA)
        if swept_m3_s(self.job.set) is not None:
            yield Unknown("filling", math.log(FILLING), FILLING_SIGMA)
        if any(one.throat for one in self.fuels.values()):
            yield Unknown("throat", 0.0, THROAT_SIGMA)
            yield Unknown("pulses", 0.0, PULSES_SIGMA)
        for key, one in self.fuels.items():
            yield Unknown(f"mix.{key}", math.log(one.lam), MIX_SIGMA)
            if key is not FuelKey.GASOLINE:
                yield Unknown(f"gas.{key}", 0.0, FACTS[key].sigma)
            if one.turns:
                width = (math.log(1 + POWER_BAND) - math.log(1 - POWER_BAND)) / 4
                yield Unknown(f"turns.{key}", math.log(one.turns), width)

    def of(self, unknowns: Array, key: str) -> float:
        """One of the unknowns; nought where this set has none such."""
        return float(unknowns[self.at[key]]) if key in self.at else 0.0

    def fuel_w(self, unknowns: Array, fuel: FuelKey, watts: float) -> float:
        """Fuel used at an electrical load [W, LHV]."""
        rated = self.resolved.rated.value
        full = self._class_full_w * math.exp(self.of(unknowns, "line"))
        of_class = CLASS_DEFAULTS[self.job.set.set_class][1]
        idle = min(0.9, of_class * math.exp(self.of(unknowns, "idle")))
        ratio = 1.0
        if fuel is not FuelKey.GASOLINE and self.job.set.gas_efficiency is not None:
            ratio = self.job.set.gas_efficiency.value
        return full * (idle + (1 - idle) * watts / rated) / ratio

    @cached_property
    def _class_full_w(self) -> float:
        """Fuel its class uses at the rating [W, LHV]."""
        rated = self.resolved.rated.value
        return class_line(self.job.set.set_class, rated).fuel_w(rated)

    def limit_w(self, unknowns: Array, fuel: FuelKey, day_w: float = 0.0) -> float:
        """The engine's own limit, throttle open [W]: on the hottest day, or on a day's own."""
        share = math.exp(self.of(unknowns, "engine") + self.of(unknowns, f"gas.{fuel}"))
        return (day_w or self.fuels[fuel].limit_w) * share

    def lam_full(self, unknowns: Array, fuel: FuelKey, turns: float = 0.0) -> float:
        """λ at full load, as the screw stands, or at other turns of it [1]."""
        if turns and self.fuels[fuel].turns:
            return math.exp(self.of(unknowns, f"turns.{fuel}")) / turns
        return math.exp(self.of(unknowns, f"mix.{fuel}"))

    def drawn(self, unknowns: Array, fuel: FuelKey, watts: float, lam: float) -> float:
        """Air drawn at a load [kg/s]."""
        burnt = self.fuels[fuel].fuel
        return self.fuel_w(unknowns, fuel, watts) / burnt.lhv_j_kg * burnt.air_fuel_ratio * lam

    def filling(self, unknowns: Array, fuel: FuelKey) -> float:
        """Volumetric efficiency that the air and gas of full load come to [1]."""
        swept, burnt = swept_m3_s(self.job.set), self.fuels[fuel].fuel
        assert swept is not None  # noqa: S101 - asked where it is known
        lam, limit = self.lam_full(unknowns, fuel), self.limit_w(unknowns, fuel)
        drawn = self.drawn(unknowns, fuel, limit, lam)
        density = air.density(air.pressure(self.here.elevation.value), self.here.hottest.value, 0.0)
        volume = drawn / density
        if fuel is not FuelKey.GASOLINE:
            thin = density / air.STANDARD_DENSITY_KG_M3
            volume += drawn / lam / burnt.air_fuel_ratio / (burnt.density_kg_m3 * thin)
        return volume / (swept * math.exp(self.of(unknowns, "speed")))

    def suction(self, unknowns: Array, fuel: FuelKey, watts: float) -> float:
        """What a U-tube at the throat would show at a load [Pa]."""
        throat = self.fuels[fuel].throat
        assert throat is not None  # noqa: S101 - asked where there is one
        lam = self.lam_full(unknowns, fuel) if watts >= FULL * self.limit_w(unknowns, fuel) else 1.0
        return self._steady(unknowns, fuel, watts, lam) * self._beats(unknowns, throat)

    def _steady(self, unknowns: Array, fuel: FuelKey, watts: float, lam: float) -> float:
        one = self.fuels[fuel]
        assert one.throat is not None  # noqa: S101 - asked where there is one
        over = self.drawn(unknowns, fuel, watts, lam) / one.reckoned_kg_s
        return one.throat.signal_pa * over**2 * math.exp(self.of(unknowns, "throat"))

    def _beats(self, unknowns: Array, throat: Metered) -> float:
        most = pulsed(INTAKE_SHARE * throat.cylinders)
        return 1 + _share(self.of(unknowns, "pulses")) * (most - 1)

    def lam(self, unknowns: Array, fuel: FuelKey, share: float, turns: float = 0.0) -> float:
        """λ at a share of full load [1]: on gasoline as at full load, on a gas by its throat."""
        full, throat = self.lam_full(unknowns, fuel, turns), self.fuels[fuel].throat
        if throat is None or share >= FULL:
            return full
        signal = self._steady(unknowns, fuel, self.limit_w(unknowns, fuel), 1.0)
        smooth, followed = _ends(replace(throat, set_to=full, signal_pa=signal), share)
        part = _share(self.of(unknowns, "pulses"))
        return smooth * (1 - part) + followed * part

    def foretold(self, unknowns: Array, one: SetReading | Candidate) -> float:
        """Logarithm of what a reading would give."""
        turns = one.turns if isinstance(one, SetReading) else 0.0
        day_w = one.day_w if isinstance(one, SetReading) else 0.0
        match one.of:
            case "fuel":
                return math.log(self.fuel_w(unknowns, one.fuel, one.watts))
            case "held":
                return math.log(self.limit_w(unknowns, one.fuel, day_w))
            case "lam":
                share = one.watts / self.limit_w(unknowns, one.fuel) if one.watts else 1.0
                return math.log(self.lam(unknowns, one.fuel, share, turns))
            case "suction":
                return math.log(self.suction(unknowns, one.fuel, one.watts))
            case "locked":
                return self.of(unknowns, f"turns.{one.fuel}") - self.of(unknowns, f"mix.{one.fuel}")
            case "filling":
                return math.log(self.filling(unknowns, one.fuel)) - self.of(unknowns, "filling")
        return self.of(unknowns, "speed")

    def slope(self, unknowns: Array, one: Candidate) -> Array:
        """Slopes of a reading's logarithm by each unknown, shape (n,)."""
        return gradient(lambda at: self.foretold(at, one), unknowns)

    def asked(self, unknowns: Array, key: str, fuel: FuelKey | None) -> float:
        """Logarithm of a figure that is asked for."""
        if fuel is None:
            if key == "filling":
                return self.of(unknowns, "filling")
            if key == "throat":
                throat = next(one.throat for one in self.fuels.values() if one.throat)
                assert throat is not None  # noqa: S101 - there is one
                return self.of(unknowns, "throat") + math.log(self._beats(unknowns, throat))
            told = self.job.set.alternator_efficiency
            return self.of(unknowns, "engine") + math.log(
                self.resolved.engine_w / (told.value if told else EFFICIENCY)
            )
        limit = self.limit_w(unknowns, fuel)
        match key:
            case "limit":
                return math.log(limit)
            case "full":
                return math.log(self.fuel_w(unknowns, fuel, limit))
            case "half":
                return math.log(self.fuel_w(unknowns, fuel, HALF * limit))
            case "suction":
                return math.log(self.suction(unknowns, fuel, limit))
            case "lam_half":
                return math.log(self.lam(unknowns, fuel, HALF))
        return self.of(unknowns, f"turns.{fuel}") - math.log(SET_TO)


@remember(256)
def _ends(throat: Metered, share: float) -> tuple[float, float]:
    """λ at a share of full load with the pulses smoothed, and followed by the gas [1]."""
    at = np.array([share])
    found = [float(over_load(throat, at, smooth=one, grid=GRID)[0]) for one in (True, False)]
    return min(NO_GAS, found[0]), min(NO_GAS, found[1])


def _share(odds: float) -> float:
    return 1 / (1 + math.exp(-odds))

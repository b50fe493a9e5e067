"""The mixture over load of a demand regulator behind a throat, set once at full load.

The throat's signal falls with the square of the air, the regulator's opening depression does not:
at part load less of the signal is left to draw gas, and the mixture leans. How much depends on the
pulses of the intake, between two ends that are both derived here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gentle_ember.core.base.figure import Method

Array = NDArray[np.float64]

INTAKE_SHARE = 0.28
"""Share of a four-stroke's cycle in which one cylinder draws [1]."""
HUNTS, HOT = 1.10, 1.20
"""λ on gas past which a governed engine hunts, and past which it misses and runs hot."""
SET_TO = 0.95
"""λ at full load a sweep under load leaves it at, where no probe was read."""
RIGHT = (0.85, 1.08)
"""λ at load on gas between which a metering is left, air-cooled."""
IDLE_TO = 1.0
"""λ without load the idle screw is set to, by its smoothest running."""
MOST_AIR, GRID = 4.0, 801

MIXTURE = Method(
    "mixture-over-load",
    "Mixture over load",
    "λ(load) = air / (gas · AFR); gas ∝ mean √(signal − opening); signal ∝ air²; set at full load",
    "Bernoulli at the throat and through screw and hose; pulses by a half sine over 28 % of the "
    "cycle a cylinder, quasi-steady, or smoothed out: the two ends of the band",
    "mixture",
)


@dataclass(frozen=True, slots=True)
class Metered:
    """A throat with what feeds it. Air and gas are shares of those of full load at λ = 1 [1].

    Attributes:
        signal_pa: throat's suction at that air, steady [Pa].
        opening_pa: depression that opens the demand regulator [Pa].
        path_pa: what hose and inlet take of it at that gas flow, the screw apart [Pa].
        idle: fuel burnt without load over that at full load [1].
        cylinders: that draw through one throat, one after the other.
        set_to: λ at full load it was set to [1].
        bleed: gas past the demand valve whatever the signal, as the idle screw lets it [1].
        as_read: whether the signal is a U-tube's: what it shows is the mean over the pulses, and
            where gas follows each of them the steady share of it is less.
    """

    signal_pa: float
    opening_pa: float
    path_pa: float
    idle: float
    cylinders: int = 1
    set_to: float = SET_TO
    bleed: float = 0.0
    as_read: bool = False

    def steady_pa(self, duty: float) -> float:
        """Suction a steady flow would give, whose pulses `drawing` then adds [Pa]."""
        return self.signal_pa / pulsed(duty) if self.as_read else self.signal_pa


HALF_PULSE: Array = np.sin((np.arange(90) + 0.5) * math.pi / 180)[None, :] ** 2
"""Suction over a pulse's peak, degree by degree of its rise; it falls the same way."""


def pulsed(duty: float) -> float:
    """Mean suction of a flow in half sines over that of the same flow, steady [1].

    >>> [round(pulsed(duty), 2) for duty in (0.28, 0.56, 1.0)]
    [4.41, 2.2, 1.0]
    """
    return math.pi**2 / (8 * duty) if duty < 1.0 else 1.0


def drawing(signal_pa: Array, opening_pa: float, duty: float) -> Array:
    """Mean of √(signal − opening) over a cycle [√Pa].

    Args:
        signal_pa: steady suction at the mean air flow, shape (n,) [Pa].
        opening_pa: depression that must be passed first [Pa].
        duty: share of the cycle the air flows in, as a half sine; 1 and more for a smooth flow.

    Where nothing opens first, pulses change nothing: mean √Δp goes with mean flow.

    >>> steady = np.array([100.0])
    >>> [round(float(drawing(steady, 0.0, duty)[0]), 2) for duty in (0.28, 0.56, 1.0)]
    [10.0, 10.0, 10.0]
    >>> float(drawing(steady, 120.0, 1.0)[0]), float(drawing(steady, 120.0, 0.28)[0]) > 6
    (0.0, True)
    """
    if duty >= 1.0:
        return np.sqrt(np.maximum(0.0, signal_pa - opening_pa))
    peak = signal_pa[:, None] * (math.pi / (2 * duty)) ** 2
    left = np.maximum(0.0, peak * HALF_PULSE - opening_pa)
    mean: Array = duty * np.sqrt(left).mean(axis=1)
    return mean


def over_load(of: Metered, loads: Array, *, smooth: bool, grid: int = GRID) -> Array:
    """λ at shares of full load, shape (n,); infinite where no gas is drawn.

    Args:
        of: the throat with what feeds it, set at full load.
        loads: shares of full load, shape (n,) [1].
        smooth: whether hose and air box even the pulses out, or the gas follows each.
        grid: places of air looked at; fewer are quicker.
    """
    duty = 1.0 if smooth else INTAKE_SHARE * of.cylinders
    air = np.linspace(1e-3, MOST_AIR, grid)
    gas = _gas(of, air, duty) + of.bleed
    burnt = of.idle + (1 - of.idle) * loads
    at_lambda_one = np.interp(burnt, air, gas)
    # Rich, air limits what burns; lean, gas does and air is opened for until it suffices.
    needed = np.interp(burnt, gas, air, right=math.inf)
    with np.errstate(divide="ignore", invalid="ignore"):
        found: Array = np.where(
            at_lambda_one >= burnt, burnt / np.maximum(at_lambda_one, 1e-12), needed / burnt
        )
    return found


def _gas(of: Metered, air: Array, duty: float) -> Array:
    """Gas drawn through screw and path, by air; the screw opened until full load has its λ."""
    at_full = max(1.0, of.set_to)
    wanted = at_full / of.set_to - of.bleed
    steady = of.steady_pa(duty)
    full = float(drawing(np.array([steady * at_full**2]), of.opening_pa, duty)[0])
    if full <= 0 or wanted <= 0:
        return np.zeros_like(air)
    most = full / math.sqrt(of.path_pa) if of.path_pa > 0 else math.inf
    gain = min(wanted, most) / full
    return gain * drawing(steady * air**2, of.opening_pa, duty)


def drawn(of: Metered, *, smooth: bool) -> float:
    """Root of the suction that draws gas at full load, over the opening, as a mean [√Pa]."""
    duty = 1.0 if smooth else INTAKE_SHARE * of.cylinders
    return float(drawing(np.array([of.steady_pa(duty)]), of.opening_pa, duty)[0])


def through_jet(of: Metered, jet_pa: float, *, smooth: bool) -> float:
    """λ at full load through a fixed jet [1]; infinite where no gas is drawn.

    Args:
        of: the throat with what feeds it.
        jet_pa: what the jet takes at the gas of full load at λ = 1 [Pa].
        smooth: whether hose and air box even the pulses out.

    >>> throat = Metered(600.0, 100.0, 150.0, 0.2)
    >>> round(through_jet(throat, 350.0, smooth=True), 6)
    1.0
    """
    pull = drawn(of, smooth=smooth)
    return math.sqrt(of.path_pa + jet_pa) / pull if pull > 0 else math.inf


def jet_takes(of: Metered, lam: float, *, smooth: bool) -> float:
    """What a jet may take at the gas of full load at λ = 1 to give a λ [Pa]; nought or less where
    hose and inlet alone take more.

    >>> round(jet_takes(Metered(600.0, 100.0, 150.0, 0.2), 1.0, smooth=True))
    350
    """
    return (drawn(of, smooth=smooth) * lam) ** 2 - of.path_pa


def with_idle(of: Metered, *, smooth: bool, to: float = IDLE_TO) -> Metered:
    """The same with its idle screw opened until it runs at a λ without load; the load screw is
    set again for what that adds at full load."""
    duty = 1.0 if smooth else INTAKE_SHARE * of.cylinders
    now = of
    for _ in range(12):
        air = np.array([of.idle * max(1.0, to)])
        wanted = float(air[0]) / to
        bleed = max(0.0, wanted - float(_gas(now, air, duty)[0]))
        if abs(bleed - now.bleed) < 1e-6:
            break
        now = replace(now, bleed=bleed)
    return now

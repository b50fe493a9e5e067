"""Usual loads with their watts, to begin a list with: assumed until somebody measures them."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.job.job import ApplianceKind


@dataclass(frozen=True, slots=True)
class UsualLoad:
    """A load as such things usually draw: running and starting [W or VA], power factor [1]."""

    name: str
    kind: ApplianceKind
    running_w: float
    starting_w: float | None = None
    power_factor: float | None = None
    both_legs: bool = False


_R, _E, _F = ApplianceKind.RESISTIVE, ApplianceKind.ELECTRONIC, ApplianceKind.FRIDGE
_P, _W, _T = ApplianceKind.PUMP, ApplianceKind.WINDOW_AC, ApplianceKind.MOTOR_TOOL
USUAL_LOADS: tuple[UsualLoad, ...] = (
    UsualLoad("refrigerator", _F, 180.0, 1200.0, 0.80),
    UsualLoad("chest freezer", _F, 150.0, 1200.0, 0.80),
    UsualLoad("sump pump, 1/3 hp", _P, 700.0, 2200.0, 0.80),
    UsualLoad("sump pump, 1/2 hp", _P, 1050.0, 3300.0, 0.80),
    UsualLoad("well pump, 1/2 hp", _P, 1000.0, 3300.0, 0.80),
    UsualLoad("well pump, 1 hp, 240 V", _P, 2000.0, 6600.0, 0.80, both_legs=True),
    UsualLoad("furnace blower, 1/2 hp", _T, 700.0, 2100.0, 0.80),
    UsualLoad("window air conditioner, 8,000 BTU/h", _W, 900.0, 3000.0, 0.90),
    UsualLoad("garage door opener", _T, 550.0, 1400.0, 0.75),
    UsualLoad("microwave oven", _E, 1500.0, None, 0.95),
    UsualLoad("coffee maker", _R, 1000.0),
    UsualLoad("kettle", _R, 1500.0),
    UsualLoad("space heater", _R, 1500.0),
    UsualLoad("water heater, 240 V", _R, 4500.0, both_legs=True),
    UsualLoad("heat lamp", _R, 250.0),
    UsualLoad("lights, ten LED bulbs", _E, 100.0, None, 0.70),
    UsualLoad("television", _E, 150.0, None, 0.90),
    UsualLoad("router and laptop", _E, 120.0, None, 0.65),
    UsualLoad("breathing aid", _E, 60.0, None, 0.65),
    UsualLoad("battery charger, 12 V, 15 A", _E, 380.0, None, 0.65),
    UsualLoad("circular saw, 7-1/4 in", _T, 1400.0, 3500.0, 0.90),
    UsualLoad("air compressor, 1 hp", _T, 1600.0, 5000.0, 0.80),
    UsualLoad("pressure washer", _T, 1500.0, 4000.0, 0.85),
)
"""Round figures of the trade, starting to the upper end; a meter on the real one replaces them."""

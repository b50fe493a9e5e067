"""The signal of a mixer's throat: the suction an air flow makes, for ladder, screw and bench."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check

DISCHARGE = 0.90
"""Discharge coefficient of a short rounded plate in a duct; 0.85 to 0.95 by edge and length."""
SIGNAL_BAND = 0.30
"""Share either way: edge, port and pulsation of a single cylinder are not known."""

SIGNAL = Method(
    "venturi-signal",
    "Venturi signal",
    "Δp = ½·ρ·(Q / (Cd·A))², Q the air flow, A the throat's area",
    "Bernoulli in a short venturi with its discharge coefficient (0.90; 0.85–0.95)",
    "ladder",
)


def signal(air_kg_s: float, throat_m: float, air_density: float, throttle: float = 1.0) -> float:
    """Suction at the throat below the air around [Pa].

    Args:
        air_kg_s: air drawn with the throttle fully open [kg/s].
        throat_m: throat diameter [m].
        air_density: [kg/m³].
        throttle: share of that air drawn now [1].

    >>> round(signal(0.0062, 0.020, 1.2))
    200
    """
    check("throat", "small_length", throat_m, 4e-3, 0.08)
    area = math.pi * throat_m**2 / 4
    flow = air_kg_s * throttle / air_density
    return 0.5 * air_density * (flow / (DISCHARGE * area)) ** 2

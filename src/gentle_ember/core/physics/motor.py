"""A motor's start: what it draws, how far the voltage dips, what the engine must give meanwhile.

A motor at rest draws many times its running current, but little power with it: the current is the
alternator's or the inverter's affair, the power the engine's. Fuel and elevation take from the
second only.
"""

from __future__ import annotations

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check

REACTANCE = 0.25
"""Transient reactance of a small set's alternator with its regulator; 0.20 to 0.35 [1]."""
MOST_DIP = 0.30
"""Voltage dip past which contactors drop out and motors stall [1]."""
LOCKED_POWER_FACTOR = 0.40
"""Of a motor at rest; 0.3 to 0.6 for those of a household [1]."""
RUNNING_POWER_FACTOR = 0.80
"""Of loads with a motor while they run, where nobody says [1]."""

START = Method(
    "motor-start", "Start of a motor",
    "dip = x′·s / (1 + x′·s), s = start VA / rated VA; engine: 0.4 · VA · (1 − dip)² + the rest",
    "transient reactance 0.25, locked-rotor power factor 0.4; an inverter gives its surge rating "
    "and no more", "motor-start",
)  # fmt: skip


def dip(start_va: float, rated_va: float, reactance: float = REACTANCE) -> float:
    """Share of the voltage lost as a motor is switched on [1].

    Args:
        start_va: what it would draw at full voltage [VA].
        rated_va: rating of the winding it hangs on [VA].
        reactance: transient reactance of that winding, of its own rating [1].

    >>> round(dip(6_000.0, 5_000.0), 3), round(dip(12_000.0, 5_000.0), 3)
    (0.231, 0.375)
    """
    check("start", "apparent_power", start_va, 0.0, 1e6)
    check("rating", "apparent_power", rated_va, 1.0, 1e6)
    loading = reactance * start_va / rated_va
    return loading / (1 + loading)


def engine_w(start_va: float, dipped: float, power_factor: float = LOCKED_POWER_FACTOR) -> float:
    """Power the engine gives a motor that starts at a dipped voltage [W].

    >>> round(engine_w(6_000.0, 0.231))
    1419
    """
    return power_factor * start_va * (1 - dipped) ** 2

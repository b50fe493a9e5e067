"""The load screw: where it is started, and how one gas's metering area compares with another's."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Method
from gentle_ember.core.physics.fuels import Fuel

HORSEPOWER_W = 745.69987


SCREW_START = Method(
    "load-screw-start",
    "Quarter turn per shaft horsepower",
    "turns from the seat = ¼ × shaft hp (propane); other gases × the area ratio",
    "the trade's starting point; a start, not a setting",
    "load-screw",
)


def area_ratio(before: Fuel, after: Fuel) -> float:
    """Metering area one gas wants over another's at equal λ and signal [1].

    >>> from gentle_ember.core.physics.fuels import PROPANE, biogas, natural_gas
    >>> round(area_ratio(PROPANE, natural_gas()), 2), round(area_ratio(PROPANE, biogas(0.6)), 1)
    (1.56, 3.3)
    """
    return (before.air_fuel_ratio / after.air_fuel_ratio) * math.sqrt(
        before.density_kg_m3 / after.density_kg_m3
    )

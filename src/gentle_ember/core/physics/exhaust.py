"""What a mixture leaves in the exhaust: carbon monoxide by the water–gas balance."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics.fuels import FACTS, FuelKey

WATER_GAS = 3.5
"""CO·H₂O / (CO₂·H₂) as the exhaust of engines freezes it in; 3.5 to 3.8 by its sources."""
NITROGEN = 79.05 / 20.95
"""Of air, by volume over oxygen."""
UNEVEN = 0.003
"""CO that cylinders and cycles unlike each other leave even where the mean is lean, dry [1]."""

MONOXIDE = Method(
    "exhaust-monoxide", "Carbon monoxide of a mixture",
    "C, H, O balanced; CO·H₂O / (CO₂·H₂) = 3.5; dry",
    "water–gas balance frozen in the exhaust; no oxygen left when rich", "metering",
)  # fmt: skip


def monoxide(fuel: FuelKey, lam: float) -> float:
    """Carbon monoxide in the dry exhaust of an even mixture, by volume [1].

    Args:
        fuel: what burns.
        lam: air over stoichiometric air [1].

    >>> [round(100 * monoxide(FuelKey.PROPANE, lam), 1) for lam in (0.85, 0.90, 0.95, 1.05)]
    [5.1, 3.4, 1.7, 0.0]
    """
    check("λ", "ratio", lam, 0.6, 2.0)
    if lam >= 1.0:
        return 0.0
    one = FACTS[fuel]
    carbon, hydrogen, inert = one.carbon, one.hydrogen, one.inert
    stoichiometric = carbon + hydrogen / 4
    oxygen = 2 * lam * stoichiometric
    # CO = x: CO2 = C − x, H2O = O − x − 2(C − x) = O − 2C + x, H2 = H/2 − H2O.
    water = oxygen - 2 * carbon
    half = hydrogen / 2
    # x·(water + x) = K·(C + inert − x)·(half − water − x), solved for the root between 0 and C.
    a = 1 - WATER_GAS
    b = water + WATER_GAS * (carbon + inert + half - water)
    c = -WATER_GAS * (carbon + inert) * (half - water)
    root = math.sqrt(b * b - 4 * a * c)
    x = (-b + root) / (2 * a)
    dry = carbon + inert + (half - water - x) + lam * stoichiometric * NITROGEN
    return x / dry

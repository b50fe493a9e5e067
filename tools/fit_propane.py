"""Print `core/propane.py`'s coefficients, fitted to CoolProp: `python tools/fit_propane.py`."""

from __future__ import annotations

import numpy as np
from CoolProp.CoolProp import PropsSI

from gentle_ember.core.physics.propane import RANGE_K

DEGREES = {
    "LIQUID_DENSITY": 5,
    "LATENT_HEAT": 5,
    "LIQUID_HEAT_CAPACITY": 5,
    "LOG_PRESSURE": 6,
}


def samples() -> tuple[np.ndarray, dict[str, np.ndarray]]:
    """Temperatures [K], and what CoolProp gives for saturated propane there."""
    kelvin = np.linspace(*RANGE_K, 121)

    def saturated(name: str, quality: int) -> np.ndarray:
        return np.array([PropsSI(name, "T", t, "Q", quality, "Propane") for t in kelvin])

    return kelvin, {
        "LIQUID_DENSITY": saturated("D", 0),
        "LATENT_HEAT": saturated("H", 1) - saturated("H", 0),
        "LIQUID_HEAT_CAPACITY": saturated("C", 0),
        "LOG_PRESSURE": np.log(saturated("P", 0)),
    }


def main() -> None:
    """Fit and print."""
    kelvin, values = samples()
    for name, value in values.items():
        fitted = np.polyfit(kelvin - 273.15, value, DEGREES[name])
        worst = np.max(np.abs(np.polyval(fitted, kelvin - 273.15) / value - 1))
        print(f"{name} = ({', '.join(f'{c:.12e}' for c in fitted)})  # within {worst:.1e}")


if __name__ == "__main__":
    main()

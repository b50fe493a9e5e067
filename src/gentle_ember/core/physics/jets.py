"""Main jets: by elevation in three schools, by a measured λ, and what a mixture asks for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from gentle_ember.core.base.figure import Method
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import Fuel

STEP_M = 609.6
"""Elevation per size of the step school: 2,000 ft."""
BEST, CAUTION, STOP = (0.86, 0.95), 0.97, 1.02
"""λ at load of an air-cooled engine on gasoline: where it belongs, too lean, much too lean."""

DENSITY = Method(
    "jet-density", "Jet by air density",
    "bore ∝ σ^¼ from the air the jet was made for, and ∝ √ of what its ethanol leans it",
    "float carburetor: air flow ∝ √ρ, fuel flow ∝ bore² at the same signal", "jets",
)  # fmt: skip
STEP = Method(
    "jet-step", "One size per 2,000 ft", "number − step × elevation gained / 2,000 ft",
    "the trade's rule; the step is the spacing of the jets at hand", "jets",
)  # fmt: skip
PERCENT_PER_STEP = 0.02
PERCENT = Method(
    "jet-percent", "2 % of the number per 2,000 ft",
    "number × (1 − 0.02 × elevation gained / 2,000 ft)",
    "the trade's other rule, which goes with the size of the jet", "jets",
)  # fmt: skip
MEASURED = Method(
    "jet-measured", "From a measured λ", "d = d₀·√(λ measured / λ wanted)",
    "fuel flow ∝ bore² at the same air flow", "jets",
)  # fmt: skip


MixtureState = Literal["good", "rich", "caution", "stop"]


@dataclass(frozen=True, slots=True)
class Reads:
    """What a λ at load says of a jet: where it stands, and what is done about it."""

    state: MixtureState
    text: str


def jet_ratio(jetted_at_m: float, elevation_m: float) -> float:
    """Bore wanted at an elevation over the bore made for another [1], standard days.

    >>> round(jet_ratio(0.0, 2450.0), 3)
    0.941
    """
    return by_density(1.0, density_ratio(jetted_at_m), density_ratio(elevation_m))


def by_density(number: float, made_ratio: float, here_ratio: float, *, bore: bool = True) -> float:
    """Number wanted at another air density.

    Args:
        number: of the jet.
        made_ratio: density ratio σ of the air it was made for [1].
        here_ratio: density ratio of the air here [1].
        bore: whether numbers are bores; else they are flows, which go with the bore squared.

    >>> round(by_density(90, 1.0, 0.7852), 1), round(by_density(90, 1.0, 0.7852, bore=False), 1)
    (84.7, 79.8)
    """
    return number * float((here_ratio / made_ratio) ** (0.25 if bore else 0.5))


def by_step(number: float, made_m: float, here_m: float, step: float) -> float:
    """Number wanted by one size per 2,000 ft.

    >>> by_step(90, 0.0, 2438.4, 2.5)
    80.0
    """
    return number - step * (here_m - made_m) / STEP_M


def by_percent(number: float, made_m: float, here_m: float) -> float:
    """Number wanted by 2 % of it per 2,000 ft.

    >>> round(by_percent(90, 0.0, 2000.0), 1)
    84.1
    """
    return number * (1 - PERCENT_PER_STEP * (here_m - made_m) / STEP_M)


def by_measure(number: float, measured: float, wanted: float, *, bore: bool = True) -> float:
    """Number wanted from a λ measured at load.

    >>> round(by_measure(85, 0.80, 0.90), 1)
    80.1
    """
    return number * float((measured / wanted) ** (0.5 if bore else 1.0))


def lambda_with(lam: float, number: float, other: float, *, bore: bool = True) -> float:
    """λ expected with another jet in the same air [1].

    >>> round(lambda_with(0.80, 90.0, 85.0), 2)
    0.9
    """
    return lam * bore_ratio(number, other, bore=bore) ** 2


def bore_ratio(number: float, other: float, *, bore: bool = True) -> float:
    """Bore of a jet over that of another [1]; flows go with the bore squared.

    >>> round(bore_ratio(85, 90), 3), round(bore_ratio(80, 90, bore=False), 3)
    (0.944, 0.943)
    """
    return float((number / other) ** (1.0 if bore else 0.5))


def not_lean(wanted: float, at_hand: Iterable[float]) -> float | None:
    """The smallest number at hand that is not below what is wanted; None when there is none.

    >>> not_lean(84.7, [80, 82, 85, 88])
    85
    """
    return min((one for one in at_hand if one >= wanted - 1e-9), default=None)


def lambda_here(lam: float, made_ratio: float, here_ratio: float) -> float:
    """λ at another air density with the same jet [1]: it goes with √σ.

    >>> round(lambda_here(0.90, 1.0, 0.7852), 2)
    0.8
    """
    return lam * float((here_ratio / made_ratio) ** 0.5)


def density_ratio(elevation_m: float, kelvin: float | None = None) -> float:
    """Density ratio of an elevation, with the day's temperature where it is told [1]."""
    if kelvin is None:
        return air.standard_density_ratio(elevation_m)
    return air.density(air.pressure(elevation_m), kelvin, 0.0) / 1.225


def lean_by_fuel(made_on: Fuel, burns: Fuel) -> float:
    """How much leaner λ is on another gasoline with the same jet [1].

    The same signal drives fuel volume ∝ 1/√ρ, so fuel mass ∝ √ρ, and ethanol wants less air.

    >>> from gentle_ember.core.physics.fuels import GASOLINE_E0, GASOLINE_E10, GASOLINE_E85
    >>> round(lean_by_fuel(GASOLINE_E0, GASOLINE_E10), 2)
    1.04
    >>> round(lean_by_fuel(GASOLINE_E10, GASOLINE_E85), 2)
    1.41
    """
    return (made_on.air_fuel_ratio / burns.air_fuel_ratio) * float(
        (made_on.density_kg_m3 / burns.density_kg_m3) ** 0.5
    )


def for_fuel(number: float, leaner: float, *, bore: bool = True) -> float:
    """Number that gives the same λ on a gasoline that leans it by a factor.

    >>> round(for_fuel(90, 1.04), 1), round(for_fuel(90, 1.04, bore=False), 1)
    (91.8, 93.6)
    """
    return number * float(leaner ** (0.5 if bore else 1.0))


def told(lam: float) -> tuple[str, ...]:
    """What is wrong with a school's number, by the λ it leads to; refused where that is a stop.

    >>> told(0.90)
    ()
    >>> told(1.06)[0].startswith("Refused: much too lean")
    True
    """
    found = reads(lam)
    if found.state == "good":
        return ()
    if found.state == "stop":
        return (f"Refused: {found.text[0].lower()}{found.text[1:]}",)
    return (found.text,)


def reads(lam: float) -> Reads:
    """What a λ at load, on gasoline, says.

    >>> reads(0.90).state, reads(0.98).state, reads(1.05).state, reads(0.75).state
    ('good', 'caution', 'stop', 'rich')
    """
    if lam > STOP:
        return Reads("stop", "Much too lean: no more load on it. The next larger jet, at once.")
    if lam > CAUTION:
        return Reads("caution", "Lean: a larger jet, before it is loaded long.")
    if lam < BEST[0]:
        return Reads(
            "rich",
            "Rich: carbon monoxide, washed cylinder walls, diluted oil, a clogged spark "
            "arrester. Fit a smaller jet.",
        )
    return Reads("good", "Where it belongs: keep it, and tag the old one.")

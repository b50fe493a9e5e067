"""What a set puts out on each fuel at a site: from rating to what is left, step by step."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics import air, jets
from gentle_ember.core.physics.fuels import FACTS, GASOLINE_E0, Fuel, FuelKey, usual

CHARGE_COOLING = 1.05
CHARGE_COOLING_ENDS = (1.03, 1.08)
FRICTION_SHARE = 0.18
FRICTION_SHARE_ENDS = (0.10, 0.25)
LAMBDA_AS_JETTED = 0.90
GASOLINE_EXPANDS = 9.5e-4
"""Cubic expansion of gasoline [1/K]."""
RICH_LOSS = 2.7
RICH_LOSS_ENDS = (1.5, 4.0)
FIELD_PER_305_M, FIELD_PER_305_M_ENDS = 0.035, (0.030, 0.040)
FIELD_PER_5_6_K = 0.01
SLOW_BURN, SLOW_BURN_ENDS = 0.175, (0.25, 0.10)
"""Output lost per share of carbon dioxide in the gas: it burns slowly, and the spark stays [1]."""
RATING_VAPOR_PA = 1000.0
"""SAE J1349's reference day: 100 kPa of which 1 kPa is water vapor."""


class OutputSchool(StrEnum):
    """The two ways of estimating a derate; fuel and air each choose one."""

    FIELD_RULE = "field_rule"
    PHYSICS = "physics"


class OutputCase(StrEnum):
    """Which end of every assumption to take: the worst, the stated, the best."""

    LOW = "low"
    STATED = "stated"
    HIGH = "high"


METHODS: dict[tuple[str, OutputSchool], Method] = {
    ("fuel", OutputSchool.FIELD_RULE): Method(
        "output-fuel-field",
        "Field rule for the fuel",
        "propane × 0.90, natural gas × 0.80; biogas × 0.80 × its physics over natural gas's",
        "trade practice for a first quote; natural gas 0.75–0.85",
        "output",
    ),
    ("fuel", OutputSchool.PHYSICS): Method(
        "output-fuel-physics",
        "Mixture energy with constant friction",
        "factor = 1/(1.18/r − 0.18); r = mixture energy over gasoline's × 1.05 charge cooling",
        "SAE J1349 with its constant friction share; beyond a few percent extrapolated",
        "output",
    ),
    ("air", OutputSchool.FIELD_RULE): Method(
        "output-air-field",
        "Field rule for the air",
        "−3.5 % per 305 m (1,000 ft), −1 % per 5.6 K (10 °F) above the rating's temperature",
        "trade practice, linear; it knows no humidity, so one that was told takes what it takes "
        "of the air",
        "output",
    ),
    ("air", OutputSchool.PHYSICS): Method(
        "output-air-physics",
        "Dry-air density with constant friction",
        "r = (p dry / rating's p dry) · √(T rating / T); factor = 1/(1.18/r − 0.18)",
        "SAE J1349 with its constant friction share; beyond a few percent extrapolated",
        "output",
    ),
}
MIXTURE_METHOD = Method(
    "output-mixture",
    "Mixture as jetted",
    "λ = 0.90·√(ρ site / ρ where jetted); loss = 2.7·(0.90 − λ)² when richer",
    "carburetor meters by √density; torque curve near best power, estimated",
    "output",
)
OUTPUT_METHOD = Method(
    "output",
    "Output from rating to what is left",
    "min(engine at rating × fuel × air × mixture, alternator or inverter rating)",
    "the steps shown, each with its own method",
    "output",
)


@dataclass(frozen=True, slots=True)
class EngineRating:
    """What the engine could feed the terminals with at the rating's own conditions, on gasoline.

    `engine_w` is the engine-limited electrical power [W]; `limit_w` the alternator's or
    inverter's rating [W]; elevation [m] and temperature [K] are the rating's conditions.
    """

    engine_w: float
    limit_w: float
    elevation_m: float = 0.0
    temperature_k: float = 298.15

    def __post_init__(self) -> None:
        check("engine-limited power", "power", self.engine_w, 1.0, 1e6)
        check("rating", "power", self.limit_w, 1.0, 1e6)


@dataclass(frozen=True, slots=True)
class Conditions:
    """Air where the set runs; `jetted_at_m` is the elevation its gasoline jet was chosen for [m].

    `relative_humidity` None means: the rating's own vapor pressure, so no humidity step.
    """

    elevation_m: float
    temperature_k: float
    relative_humidity: float | None = None
    jetted_at_m: float = 0.0
    leaner: float = 1.0
    """How much leaner the gasoline is than the one its jet was chosen on [1]."""


@dataclass(frozen=True, slots=True)
class DerateStep:
    """One step of the waterfall: its name and what it adds or takes [W]."""

    key: str
    label: str
    change_w: float
    factor: float


@dataclass(frozen=True, slots=True)
class Waterfall:
    """From the rating to the output; `start_w` plus every step's change is `output_w` [W]."""

    start_w: float
    steps: tuple[DerateStep, ...]
    output_w: float
    limited_by: str
    mixture_lambda: float | None

    @property
    def factor(self) -> float:
        """Output over rating [1]."""
        return self.output_w / self.start_w


def friction_factor(r: float, friction: float = FRICTION_SHARE) -> float:
    """Brake power factor when indicated power scales with r and friction stays.

    SAE J1349 form 1/((1 + f)/r − f); valid for corrections of a few percent, used further out
    with a wider band. Zero where the engine no longer overcomes its own friction.

    Args:
        r: indicated power ratio [1].
        friction: friction over brake power at the rating [1].

    >>> round(friction_factor(3.475 / (3.62 * 1.05)), 3)
    0.9
    """
    if r <= 0:
        return 0.0
    denominator = (1.0 + friction) / r - friction
    return 0.0 if denominator <= 0 else 1.0 / denominator


def mixture_ratio(fuel: Fuel, charge_cooling: float = CHARGE_COOLING) -> float:
    """Energy an engine draws per stroke on this fuel over gasoline [1]."""
    if fuel.key is FuelKey.GASOLINE:
        return 1.0
    return fuel.mixture_j_m3 / (GASOLINE_E0.mixture_j_m3 * charge_cooling)


def fuel_field_factor(fuel: Fuel, case: OutputCase = OutputCase.STATED) -> float:
    """Field rule's factor for a fuel [1].

    Biogas has no field rule of its own: natural gas's is scaled by the physics of the two gases.

    >>> from gentle_ember.core.physics.fuels import biogas, natural_gas
    >>> fuel_field_factor(natural_gas()), round(fuel_field_factor(biogas(0.6)), 2)
    (0.8, 0.74)
    """
    index = {OutputCase.LOW: 0, OutputCase.STATED: 1, OutputCase.HIGH: 2}[case]
    own = FACTS[fuel.key].field
    if own is not None:
        return own[index]
    like = usual(FuelKey.NATURAL_GAS)
    scale = friction_factor(mixture_ratio(fuel)) / friction_factor(mixture_ratio(like))
    widen = {OutputCase.LOW: 0.95, OutputCase.STATED: 1.0, OutputCase.HIGH: 1.03}[case]
    return fuel_field_factor(like, case) * scale * widen


def slow_burn(fuel: Fuel, case: OutputCase = OutputCase.STATED) -> float:
    """What is left of the output where carbon dioxide slows the flame at the set's own spark [1].

    >>> from gentle_ember.core.physics.fuels import PROPANE, biogas
    >>> slow_burn(PROPANE), round(slow_burn(biogas(0.60)), 2)
    (1.0, 0.93)
    """
    if fuel.methane_share is None:
        return 1.0
    each = {
        OutputCase.LOW: SLOW_BURN_ENDS[0], OutputCase.STATED: SLOW_BURN,
        OutputCase.HIGH: SLOW_BURN_ENDS[1],
    }[case]  # fmt: skip
    return 1 - each * (1 - fuel.methane_share)


def lambda_as_jetted(at: Conditions, jetted_k: float = 298.15) -> float:
    """Air ratio λ at load of a gasoline carburetor away from where it was jetted [1].

    Air flow goes with √ρ of the air, fuel with √ρ of the gasoline, which is denser when cold: a
    cold night is lean.

    Args:
        at: the air here, and the elevation it was jetted for.
        jetted_k: temperature its jet was chosen at, that of the rating [K].

    >>> round(lambda_as_jetted(Conditions(0.0, 298.15)), 3)
    0.9
    >>> round(lambda_as_jetted(Conditions(0.0, 248.15, jetted_at_m=600.0)), 2)
    1.0
    """
    here = air.density(air.pressure(at.elevation_m), at.temperature_k)
    there = air.density(air.pressure(at.jetted_at_m), jetted_k)
    denser = 1.0 - GASOLINE_EXPANDS * (at.temperature_k - jetted_k)
    return jets.lambda_here(LAMBDA_AS_JETTED, there, here) * at.leaner / math.sqrt(denser)


def _air_physics(rating: EngineRating, at: Conditions) -> tuple[float, float, float]:
    """Indicated power ratios of elevation, temperature and humidity [1], each on its own."""
    p_rating = air.pressure(rating.elevation_m) - RATING_VAPOR_PA
    p_here = air.pressure(at.elevation_m)
    vapor = RATING_VAPOR_PA
    if at.relative_humidity is not None:
        vapor = at.relative_humidity * air.saturation_pressure(at.temperature_k)
    of_elevation = (p_here - RATING_VAPOR_PA) / p_rating
    of_humidity = (p_here - vapor) / (p_here - RATING_VAPOR_PA)
    return of_elevation, math.sqrt(rating.temperature_k / at.temperature_k), of_humidity


def _air_field(
    rating: EngineRating, at: Conditions, per_305_m: float
) -> tuple[float, float, float]:
    climb = max(0.0, at.elevation_m - rating.elevation_m)
    warmer = max(0.0, at.temperature_k - rating.temperature_k)
    of_elevation = 1.0 - per_305_m * climb / 305.0
    of_humidity = min(1.0, _air_physics(rating, at)[2])
    return max(0.0, of_elevation), max(0.0, 1.0 - FIELD_PER_5_6_K * warmer / 5.6), of_humidity


def derate(
    rating: EngineRating,
    fuel: Fuel,
    at: Conditions,
    fuel_school: OutputSchool = OutputSchool.FIELD_RULE,
    air_school: OutputSchool = OutputSchool.FIELD_RULE,
    case: OutputCase = OutputCase.STATED,
) -> Waterfall:
    """Walk from the rating to the output on one fuel at one site.

    Args:
        rating: engine-limited power and the machine's limit [W] with their conditions.
        fuel: the fuel.
        at: the site's air and where the gasoline jet was chosen.
        fuel_school, air_school: field rule or physics, chosen apart.
        case: the stated assumptions or either worst-case end of them.

    Returns:
        A waterfall whose steps add up exactly, and which limit binds.

    Raises:
        QuantityError: elevation, temperature or humidity outside the method's range.

    >>> from gentle_ember.core.physics.fuels import PROPANE
    >>> at_rating = Conditions(0.0, 298.15)
    >>> rating = EngineRating(3200.0, 3200.0)
    >>> physics = OutputSchool.PHYSICS
    >>> round(derate(rating, PROPANE, at_rating, physics, physics).factor, 2)
    0.9
    >>> high = Conditions(2450.0, 298.15, jetted_at_m=2450.0)
    >>> round(derate(rating, GASOLINE_E0, high, air_school=OutputSchool.PHYSICS).factor, 2)
    0.71
    >>> round(derate(rating, GASOLINE_E0, high).factor, 3)
    0.719
    """
    check("temperature", "temperature", at.temperature_k, *air.TEMPERATURE_RANGE_K)
    check("elevation", "elevation", at.elevation_m, *air.ELEVATION_RANGE_M)
    if at.relative_humidity is not None:
        check("relative humidity", "share", at.relative_humidity, 0.0, 1.0)
    worst = case is OutputCase.LOW
    cooling = CHARGE_COOLING if case is OutputCase.STATED else CHARGE_COOLING_ENDS[worst]
    # More friction costs a starved engine and favors one that gains: each end takes its own.
    shares = (FRICTION_SHARE,) if case is OutputCase.STATED else FRICTION_SHARE_ENDS
    end = min if worst else max
    per_305_m = FIELD_PER_305_M if case is OutputCase.STATED else FIELD_PER_305_M_ENDS[worst]
    rich_loss = RICH_LOSS if case is OutputCase.STATED else RICH_LOSS_ENDS[worst]

    fuel_is_physics = fuel_school is OutputSchool.PHYSICS
    air_is_physics = air_school is OutputSchool.PHYSICS
    r_fuel = mixture_ratio(fuel, cooling)
    of_air = _air_physics(rating, at) if air_is_physics else _air_field(rating, at, per_305_m)

    # Friction stays while the charge shrinks, so physics steps act on the indicated ratio r;
    # field-rule steps act on the brake power directly.
    r, direct = 1.0, 1.0

    def remaining() -> float:
        return direct * end(friction_factor(r, share) for share in shares)

    if fuel_is_physics:
        r *= r_fuel
    else:
        direct *= fuel_field_factor(fuel, case)
    factors: list[tuple[str, str, float]] = [("fuel", "fuel", remaining())]
    if fuel.methane_share is not None:
        direct *= slow_burn(fuel, case)
        factors.append(("burning", "slow burning", remaining()))
    names = (
        ("elevation", "elevation"),
        ("temperature", "temperature"),
        ("humidity", "humidity"),
    )
    for (key, label), share in zip(names, of_air, strict=True):
        if air_is_physics:
            r *= share
        else:
            direct *= share
        factors.append((key, label, remaining()))

    lam: float | None = None
    if fuel.key is FuelKey.GASOLINE:
        lam = lambda_as_jetted(at, rating.temperature_k)
        # Only the rich side costs output: thin air must never seem to win back a lean mixture's
        # loss. A lean mixture is a caution or a stop of its own.
        richer = max(0.0, LAMBDA_AS_JETTED - lam)
        direct *= max(0.5, 1.0 - rich_loss * richer**2)
        factors.append(("mixture", "mixture as jetted", remaining()))

    if case is not OutputCase.STATED and (fuel_is_physics or air_is_physics):
        direct *= 0.98 if worst else 1.02
        factors.append(("method", "method's own band", remaining()))
    return _fall(rating, factors, lam)


def _fall(
    rating: EngineRating, factors: list[tuple[str, str, float]], lam: float | None
) -> Waterfall:
    """Turn running factors into steps that start at the rating and end at the output."""
    steps: list[DerateStep] = []
    now = rating.limit_w
    reserve = rating.engine_w - rating.limit_w
    if reserve:
        label = "engine reserve" if reserve > 0 else "engine below rating"
        steps.append(DerateStep("reserve", label, reserve, rating.engine_w / rating.limit_w))
        now = rating.engine_w
    for key, label, running in factors:
        after = rating.engine_w * running
        steps.append(DerateStep(key, label, after - now, after / now if now else 0.0))
        now = after
    output = min(now, rating.limit_w)
    steps.append(
        DerateStep("limit", "alternator limit", output - now, output / now if now else 1.0)
    )
    by = "alternator" if now > rating.limit_w else "engine"
    return Waterfall(rating.limit_w, tuple(steps), output, by, lam)


def ends(make: Callable[[OutputCase], Waterfall]) -> tuple[Waterfall, float, float]:
    """The stated waterfall with its worst and best output [W]."""
    stated = make(OutputCase.STATED)
    low, high = make(OutputCase.LOW).output_w, make(OutputCase.HIGH).output_w
    return stated, min(low, stated.output_w), max(high, stated.output_w)

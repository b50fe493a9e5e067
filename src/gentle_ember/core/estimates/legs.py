"""What each leg of the output carries, against what a leg of the alternator can."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.estimates.defaults import legs_of, machine, must_run, starting_w
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Appliance, Load

LEG_NAMES = ("a", "b")
TRIED = 12
"""Loads with no leg said that every way round is tried for; past that, the largest first."""

LEGS = Method(
    "legs", "Load of a leg", "Σ on the leg + ½ Σ on both legs ≤ rating / legs",
    "each winding is wound for its share of the rated current: the alternator's limit, which does "
    "not fall with fuel or elevation; loads with no leg said are put where they balance best",
    "legs",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class LegLoad:
    """One leg: what must run on it, at its hardest start too, and what it can carry [W]."""

    name: str
    carries: Figure
    starts: Figure
    limit_w: float
    start_limit_w: float

    @property
    def over(self) -> bool:
        """Whether what must run on it is more than it carries."""
        return self.carries.value > self.limit_w * (1 + 1e-9)

    @property
    def over_at_start(self) -> bool:
        """Whether its hardest start is more than it gives for a moment."""
        return self.starts.value > self.start_limit_w * (1 + 1e-9)


def leg_loads(generator: GeneratorSet, load: Load) -> tuple[LegLoad, ...]:
    """The legs of a set with two and loads listed one by one; empty otherwise."""
    resolved, listed = machine(generator), must_run(load)
    if resolved is None or legs_of(generator) != len(LEG_NAMES) or not listed:
        return ()
    rated, surge = resolved.rated.value, max(resolved.starting.value, resolved.rated.value)
    placed = _placed(listed)
    guessed = generator.volts is None or any(not one.leg for one in listed)
    found = []
    for name in LEG_NAMES:
        on = [(one, _share(leg, name)) for one, leg in placed if _share(leg, name)]
        running = sum(_watts(one) * share for one, share in on)
        start = max(
            (running + (starting_w(one) - _watts(one)) * share for one, share in on),
            default=0.0,
        )
        rows = tuple(
            Input(one.name or "load", _watts(one) * share, "power",
                  one.running.origin if one.running else Origin.ASSUMED)
            for one, share in on
        )  # fmt: skip
        limits = {"carries": rated / 2, "starts": surge / 2}
        values = {"carries": running, "starts": start}
        texts = {"carries": "what must run", "starts": "at its hardest start"}
        figures = {
            key: Figure(
                f"legs.{name}.{key}", f"leg {name.upper()}, {texts[key]}", value, "power", LEGS,
                Band(value, value), (*rows, Input("a leg gives", limits[key], "power")),
                rounding=Rounding.UP, estimated=guessed,
                narrows=("which leg each load is on", "the set's voltage, from its plate"),
            )
            for key, value in values.items()
        }  # fmt: skip
        found.append(
            LegLoad(name, figures["carries"], figures["starts"], limits["carries"],
                    limits["starts"])
        )  # fmt: skip
    return tuple(found)


def leg_over(generator: GeneratorSet, load: Load) -> bool:
    """Whether a leg would carry more than its share of the rating, however loads are placed."""
    return any(one.over for one in leg_loads(generator, load))


def _watts(one: Appliance) -> float:
    return one.running.value if one.running else 0.0


def _share(leg: str, name: str) -> float:
    return 0.5 if leg == "both" else float(leg == name)


def _placed(listed: Sequence[Appliance]) -> list[tuple[Appliance, str]]:
    """Each load with its leg; those with none said where the fuller leg is least full."""
    said = [(one, str(one.leg)) for one in listed if one.leg]
    free = sorted((one for one in listed if not one.leg), key=_watts, reverse=True)
    base = {name: sum(_watts(one) * _share(leg, name) for one, leg in said) for name in LEG_NAMES}
    tried, rest = free[:TRIED], free[TRIED:]

    def fullest(legs: tuple[str, ...]) -> float:
        return max(
            base[name] + sum(_watts(one) for one, leg in zip(tried, legs, strict=True)
                             if leg == name)
            for name in LEG_NAMES
        )  # fmt: skip

    best = min(product(LEG_NAMES, repeat=len(tried)), key=fullest)
    placed = [*said, *zip(tried, best, strict=True)]
    for one in rest:
        full = {name: sum(_watts(it) * _share(leg, name) for it, leg in placed)
                for name in LEG_NAMES}  # fmt: skip
        placed.append((one, min(LEG_NAMES, key=lambda name: full[name])))
    return placed

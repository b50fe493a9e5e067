"""What legs and receptacles of a set carry, against what a winding and a breaker can."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.estimates.defaults import (
    leg_volts,
    legs_of,
    machine,
    must_run,
    power_factor,
)
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Appliance, Load

LEG_NAMES = ("a", "b", "c")
TRIED = 4096
"""Ways round that loads with no leg said are tried in; past that, the largest first."""
FOR_HOURS = 0.80
"""Share of a breaker that is carried for hours: it is warm by then, and trips below its mark."""

LEGS = Method(
    "legs", "Load of a leg", "Σ on the leg + Σ on all legs / legs ≤ rating / legs",
    "each winding is wound for its share of the rated current: the alternator's limit, which does "
    "not fall with fuel or elevation; loads with no leg said are put where they balance best",
    "legs",
)  # fmt: skip
OUTLET = Method(
    "outlet", "Load of a receptacle", "Σ (watts / power factor) / volts it spans ≤ its breaker",
    "volts of a leg, times the legs it spans; four fifths of the breaker where it goes on for "
    "hours", "legs",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class LegLoad:
    """One leg: what must run on it, and what it can carry [W]; starts are each motor's own."""

    name: str
    carries: Figure
    limit_w: float

    @property
    def over(self) -> bool:
        """Whether what must run on it is more than it carries."""
        return self.carries.value > self.limit_w * (1 + 1e-9)


@dataclass(frozen=True, slots=True)
class OutletLoad:
    """One receptacle: the current of what must run in it, and its breaker [A]."""

    key: str
    name: str
    draws: Figure
    breaker_a: float

    @property
    def over(self) -> bool:
        """Whether its breaker trips."""
        return self.draws.value > self.breaker_a * (1 + 1e-9)

    @property
    def long_over(self) -> bool:
        """Whether it trips after hours."""
        return not self.over and self.draws.value > FOR_HOURS * self.breaker_a * (1 + 1e-9)


def leg_loads(generator: GeneratorSet, load: Load) -> tuple[LegLoad, ...]:
    """The legs of a set with more than one and loads listed singly; empty otherwise."""
    resolved, listed, legs = machine(generator), must_run(load), legs_of(generator)
    if resolved is None or legs == 1 or not listed:
        return ()
    limit = resolved.rated.value / legs
    names = LEG_NAMES[:legs]
    said = [(one, leg_of(generator, one)) for one in listed]
    placed = _placed(said, names)
    guessed = generator.volts is None or any(not leg for _, leg in said)
    found = []
    for name in names:
        on = [(one, _share(leg, name, legs)) for one, leg in placed if _share(leg, name, legs)]
        running = sum(_watts(one) * share for one, share in on)
        rows = tuple(
            Input(one.name or "load", _watts(one) * share, "power",
                  one.running.origin if one.running else Origin.ASSUMED)
            for one, share in on
        )  # fmt: skip
        carries = Figure(
            f"legs.{name}.carries", f"leg {name.upper()}, what must run", running, "power", LEGS,
            Band(running, running), (*rows, Input("a leg gives", limit, "power")),
            rounding=Rounding.UP, estimated=guessed,
            narrows=("which leg each load is on", "the set's voltage, from its plate"),
        )  # fmt: skip
        found.append(LegLoad(name, carries, limit))
    return tuple(found)


def outlet_loads(generator: GeneratorSet, load: Load) -> tuple[OutletLoad, ...]:
    """Every receptacle whose breaker is known and in which something must run, in their order."""
    legs, volts = legs_of(generator), leg_volts(generator)
    found = []
    for key, outlet in generator.outlets.items():
        if outlet.breaker is None:
            continue
        on = [one for one in must_run(load) if one.outlet == key]
        if not on:
            continue
        spans = legs if outlet.leg == "both" else 1
        draws = [_watts(one) / power_factor(one).value / (volts * spans) for one in on]
        value, name = sum(draws), outlet.name or f"the {outlet.breaker.value:.0f} A receptacle"
        rows = (
            *(Input(one.name or "load", amps, "current",
                    one.running.origin if one.running else Origin.ASSUMED)
              for one, amps in zip(on, draws, strict=True)),
            Input("volts of a leg", volts, "voltage",
                  generator.volts.origin if generator.volts else Origin.ASSUMED),
            Input("legs it spans", float(spans), "count"),
            Input("breaker", outlet.breaker.value, "current", outlet.breaker.origin,
                  f"set.outlets.{key}.breaker"),
        )  # fmt: skip
        figure = Figure(
            f"outlet.{key}", f"{name}, what must run", value, "current", OUTLET,
            Band(value, value), rows, rounding=Rounding.UP,
            estimated=generator.volts is None or not outlet.leg,
            narrows=("the currents, by a clamp meter",),
        )  # fmt: skip
        found.append(OutletLoad(key, name, figure, outlet.breaker.value))
    return tuple(found)


def wiring_over(generator: GeneratorSet, load: Load) -> bool:
    """Whether a leg or a breaker would carry more than it can, however loads are placed."""
    return any(one.over for one in leg_loads(generator, load)) or any(
        one.over for one in outlet_loads(generator, load)
    )


def leg_of(generator: GeneratorSet, one: Appliance) -> str:
    """The leg a load is on: that of its receptacle, else as it is said; empty while nobody did."""
    outlet = generator.outlets.get(one.outlet) if one.outlet else None
    return str(outlet.leg if outlet and outlet.leg else one.leg)


def _watts(one: Appliance) -> float:
    return one.running.value if one.running else 0.0


def _share(leg: str, name: str, legs: int) -> float:
    return 1 / legs if leg == "both" else float(leg == name)


def _placed(
    loads: Sequence[tuple[Appliance, str]], names: tuple[str, ...]
) -> list[tuple[Appliance, str]]:
    """Each load with its leg; those with none said where the fullest leg is least full."""
    legs = len(names)
    said = [(one, leg) for one, leg in loads if leg]
    free = sorted((one for one, leg in loads if not leg), key=_watts, reverse=True)
    base = {name: sum(_watts(one) * _share(leg, name, legs) for one, leg in said)
            for name in names}  # fmt: skip
    most = next(n for n in range(TRIED) if legs ** (n + 1) > TRIED)
    tried, rest = free[:most], free[most:]

    def fullest(at: tuple[str, ...]) -> float:
        return max(
            base[name] + sum(_watts(one) for one, leg in zip(tried, at, strict=True)
                             if leg == name)
            for name in names
        )  # fmt: skip

    best = min(product(names, repeat=len(tried)), key=fullest)
    placed = [*said, *zip(tried, best, strict=True)]
    for one in rest:
        full = {name: sum(_watts(it) * _share(leg, name, legs) for it, leg in placed)
                for name in names}  # fmt: skip
        placed.append((one, min(names, key=lambda name: full[name])))
    return placed

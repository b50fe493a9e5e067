"""How each fuel comes to a set and is handled there: its source, its valve, what is said of it.

What a fuel is stands in `physics.fuels`; a fuel is whole with an entry in each, a wish of its own
in `Wants` and, where it comes from a source of another kind, trains that begin there.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Annotated

from pydantic import AfterValidator, WithJsonSchema

from gentle_ember.core.physics.fuels import GASES, KEYS, FuelKey


class FuelSource(StrEnum):
    """What a fuel comes out of; how a set on it is planned, proven and started goes by that."""

    TANK = "tank"
    CYLINDER = "cylinder"
    HOUSE = "house"
    """The house's own gas pipe: a utility's, with a meter and appliances."""
    DIGESTER = "digester"
    """A farm's own raw gas: wet, low, with hydrogen sulfide in it."""


class Lies(StrEnum):
    """Where gas that leaked goes in still air."""

    LOW = "low"
    HIGH = "high"
    BY_WEIGHT = "by_weight"
    """As what it is made of weighs."""


class Hatch(StrEnum):
    """What a fuel's color is told apart by without color."""

    PLAIN = "plain"
    SLANTED = "slanted"
    LEVEL = "level"
    DOTTED = "dotted"


@dataclass(frozen=True, slots=True)
class Handling:
    """A fuel as it is handled.

    Attributes:
        source: what it comes out of.
        short: what keys of steps call it.
        train: its train, as a sentence begins.
        valve: at its source; empty where the set's own tap shuts it.
        shut: how its source is shut when gas is smelled.
        lies: where it goes.
        selects: how a multi-fuel carburetor's selector is marked for it; empty where that can't
            meter it.
        before: what the owner's card says before it runs on this.
        hatch: of its mark.
    """

    source: FuelSource
    short: str
    train: str
    valve: str
    shut: str
    lies: Lies
    selects: str
    before: tuple[str, ...]
    hatch: Hatch


HANDLING: dict[FuelKey, Handling] = {
    FuelKey.GASOLINE: Handling(
        FuelSource.TANK, "g", "Remote tank", "", "the tank valve", Lies.LOW, "",
        ("Tank not over-full; nothing spilled; engine cool.",), Hatch.PLAIN,
    ),
    FuelKey.PROPANE: Handling(
        FuelSource.CYLINDER, "p", "Propane train", "Cylinder valve",
        "the cylinder valve, clockwise", Lies.LOW, "LP",
        ("Cylinder upright, tied, outdoors, 5 ft (1.5 m) from the generator, never behind the "
         "exhaust.",), Hatch.SLANTED,
    ),
    FuelKey.NATURAL_GAS: Handling(
        FuelSource.HOUSE, "n", "Natural gas train", "Shut-off at the stub",
        "the shut-off at the stub, then at the meter", Lies.HIGH, "NG",
        ("Hose whole and dry, its coupler clean.",), Hatch.LEVEL,
    ),
    FuelKey.BIOGAS: Handling(
        FuelSource.DIGESTER, "b", "Biogas train", "Shut-off at the digester",
        "the shut-off at the digester", Lies.BY_WEIGHT, "",
        ("Gas dry and scrubbed; water out of the drip leg.",), Hatch.DOTTED,
    ),
}  # fmt: skip
FACTORY_GAS = FuelKey.PROPANE
"""What every factory dual-fuel set runs on besides gasoline."""


_SOURCES: dict[str, FuelSource] = {key: one.source for key, one in HANDLING.items()}


def comes_from(fuel: str, *sources: FuelSource) -> bool:
    """Whether a fuel comes out of one of these.

    >>> comes_from("propane", FuelSource.CYLINDER), comes_from("steam", FuelSource.CYLINDER)
    (True, False)
    """
    return _SOURCES.get(fuel) in sources


@cache
def of_source(*sources: FuelSource) -> tuple[FuelKey, ...]:
    """Every fuel that comes out of one of these.

    >>> [str(fuel) for fuel in of_source(FuelSource.HOUSE, FuelSource.DIGESTER)]
    ['natural_gas', 'biogas']
    """
    return tuple(key for key, one in HANDLING.items() if one.source in sources)


def _fuel_or_none(told: str) -> str:
    if told and told not in KEYS:
        raise ValueError("That is not one of the choices")
    return told


AnyFuel = Annotated[
    str, AfterValidator(_fuel_or_none),
    WithJsonSchema({"enum": ["", *map(str, FuelKey)], "type": "string"}),
]  # fmt: skip
"""A fuel's key; empty where none is said."""
PIPES = (FuelSource.HOUSE, FuelSource.DIGESTER)
PIPED = of_source(*PIPES)
"""Gases a site has a pipe of."""
WEIGHED = of_source(FuelSource.TANK, FuelSource.CYLINDER)
"""Fuels whose use is weighed; that of the others is clocked by the meter."""
SELECTED = tuple(gas for gas in GASES if HANDLING[gas].selects)
"""Gases a multi-fuel carburetor meters."""

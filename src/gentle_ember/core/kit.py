"""Kits: parts sold together, checked against what a job takes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from gentle_ember.core.facts import Key, Model, Name, Note
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.part import Part

if TYPE_CHECKING:
    from gentle_ember.core.train.bom import Bill


class JetBand(Model):
    """One row of a jet kit's sheet."""

    up_to_m: Annotated[float, Field(gt=0, le=6000)]
    smaller: Annotated[int, Field(ge=0, le=20)]


class Kit(Model):
    """A bundle: what it is for, and how many of each part (metres, for what is cut)."""

    key: Key
    name: Name
    maker: Name = ""
    fits: Note = ""
    gases: tuple[FuelKey, ...] = ()
    price: Annotated[float, Field(ge=0, le=50_000)] = 0.0
    contents: dict[Key, Annotated[float, Field(gt=0, le=1000)]] = {}
    bands: tuple[JetBand, ...] = ()
    """A jet kit's own sheet: how many sizes smaller than the stock jet, up to which elevation."""


@dataclass(frozen=True, slots=True)
class Entry:
    """A part of a kit check: how many, and what for."""

    part: Part
    count: float
    what_for: str


@dataclass(frozen=True, slots=True)
class KitCheck:
    """A kit against a bill: what it covers, what is missing, what is left over and its use."""

    kit: Kit
    covers: tuple[Entry, ...]
    missing: tuple[Entry, ...]
    left_over: tuple[Entry, ...]
    unknown: tuple[str, ...]
    """Numbers of the kit the catalog does not have."""

    @property
    def missing_price(self) -> float:
        """Price of what has to be bought besides."""
        return round(sum(one.part.price * one.count for one in self.missing), 2)


def check_kit(kit: Kit, bill: Bill, parts: Mapping[str, Part]) -> KitCheck:
    """What a kit does for a job.

    Args:
        kit: the kit.
        bill: what the job takes.
        parts: the catalog.
    """
    left = dict(kit.contents)
    covers, missing = [], []
    for line in bill.lines:
        if line.part.site:
            continue
        have = left.get(line.part.key, 0.0)
        used = min(have, line.count)
        what_for = ", ".join(line.uses)
        if used > 0:
            covers.append(Entry(line.part, used, what_for))
            left[line.part.key] = have - used
        if line.count - used > 1e-9:
            missing.append(Entry(line.part, line.count - used, what_for))
    over = [
        Entry(parts[key], count, _purpose(parts[key], bill))
        for key, count in left.items()
        if count > 1e-9 and key in parts
    ]
    unknown = tuple(key for key in kit.contents if key not in parts)
    return KitCheck(kit, tuple(covers), tuple(missing), tuple(over), unknown)


def _purpose(part: Part, bill: Bill) -> str:
    """What a part left over would be for."""
    if any(line.part.key == part.key for line in bill.lines):
        return "more than this job takes"
    if part.outlet.startswith("studs:"):
        return f"for studs {part.outlet.split(':')[1]}"
    same = next((line.part for line in bill.lines if line.part.kind is part.kind), None)
    if part.gases and len(part.gases) == 1:
        return f"for {part.gases[0].replace('_', ' ')}"
    if same is not None:
        return f"in place of {same.name}"
    return part.for_task or "for another set or fuel"

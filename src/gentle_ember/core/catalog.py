"""The catalog as the core reads it: cylinders, parts, kits, and parts indexed for searching."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from functools import cache, cached_property
from itertools import pairwise
from typing import TYPE_CHECKING, Annotated, Any

if TYPE_CHECKING:
    import networkx as nx
from pydantic import Field

from gentle_ember.core.job.ends import mates
from gentle_ember.core.job.facts import Key, Model, Name, Note
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.part import TURNABLE, Part, PartClass, System, end
from gentle_ember.core.physics.cylinder import CylinderSize
from gentle_ember.core.physics.fuels import FuelKey

Way = tuple[Part, str, str, bool]
"""A part as it may be put in: the part, its inlet, its outlet, whether turned."""


@dataclass(frozen=True, slots=True)
class Bridge:
    """Fittings between two ends, with what they cost and resist together.

    `resistance` is ΣK/A² [1/m⁴]: fittings have no length, so it holds at every flow.
    """

    fittings: tuple[tuple[Part, bool], ...]
    price: float
    short: int
    resistance: float
    rating_pa: float

    @property
    def rank(self) -> tuple[int, float, int]:
        """Joints it adds, price, parts not in stock."""
        return len(self.fittings), self.price, self.short


NOTHING = Bridge((), 0.0, 0, 0.0, math.inf)


def resistance(part: Part) -> float:
    """Loss coefficient over the bore's area squared [1/m⁴]; zero without a bore."""
    if part.bore_m is None:
        return 0.0
    return part.k / (math.pi * part.bore_m**2 / 4) ** 2


def opposite(text: str) -> str:
    """The end that mates with an end."""
    one = end(text)
    return f"{one.system}:{one.size}:{'f' if one.male else 'm'}"


@cache
def open_ends(inlet: str) -> tuple[str, ...]:
    """The open ends an inlet takes; a small cylinder's valve has two threads."""
    one = end(inlet)
    if one.system is System.CYLINDER:
        return (f"cyl:{one.size}:f", "cyl:both:f")
    return (opposite(inlet),)


class Shelf:
    """A catalog indexed for the search."""

    def __init__(self, parts: Iterable[Part]) -> None:
        self.parts = {part.key: part for part in parts}
        self.by_class: dict[PartClass, list[Part]] = defaultdict(list)
        for part in self.parts.values():
            self.by_class[part.kind].append(part)
        self._ways: dict[tuple[PartClass, ...], list[Way]] = {}
        self._bridges: dict[FuelKey, dict[tuple[str, str], tuple[Bridge, ...]]] = {}

    def ways(self, kinds: tuple[PartClass, ...]) -> list[Way]:
        """Parts of these classes, each way round they may be put."""
        if kinds not in self._ways:
            self._ways[kinds] = [
                way for kind in kinds for part in self.by_class[kind] for way in ways_of(part)
            ]
        return self._ways[kinds]

    def bridges(self, fuel: FuelKey) -> dict[tuple[str, str], tuple[Bridge, ...]]:
        """Up to two fittings by the open end they start from and the open end they leave."""
        if fuel not in self._bridges:
            self._bridges[fuel] = _bridges(
                [
                    part
                    for part in self.by_class[PartClass.FITTING]
                    if part.takes(fuel) and not part.use_instead
                ]
            )
        return self._bridges[fuel]

    @cached_property
    def graph(self) -> nx.DiGraph[str]:
        """Open ends as nodes; an edge where some fitting leads from one to the other."""
        return _joining(self.by_class[PartClass.FITTING])


def ways_of(part: Part) -> Iterator[Way]:
    """Each way round a part may be put."""
    either = part.kind in TURNABLE and part.inlet != part.outlet
    for turned in (False, True) if either else (False,):
        yield (part, *part.ends(turned=turned), turned)


def _bridges(fittings: list[Part]) -> dict[tuple[str, str], tuple[Bridge, ...]]:
    single: dict[str, dict[str, list[Bridge]]] = defaultdict(lambda: defaultdict(list))
    for fitting in fittings:
        for part, inlet, outlet, turned in ways_of(fitting):
            one = Bridge(
                ((part, turned),),
                part.price,
                int(part.stock < 1),
                resistance(part),
                math.inf if part.rating_pa is None else part.rating_pa,
            )
            single[opposite(inlet)][outlet].append(one)
    edges = {
        opened: {outlet: _undominated(found) for outlet, found in outlets.items()}
        for opened, outlets in single.items()
    }
    found: dict[tuple[str, str], list[Bridge]] = defaultdict(list)
    for opened, outlets in edges.items():
        for middle, firsts in outlets.items():
            found[opened, middle].extend(firsts)
            for last, seconds in edges.get(middle, {}).items():
                if last == opened:
                    continue
                found[opened, last].extend(
                    _after(first, second) for first in firsts for second in seconds
                )
    return {pair: _undominated(bridges) for pair, bridges in found.items()}


def _after(first: Bridge, second: Bridge) -> Bridge:
    return Bridge(
        (*first.fittings, *second.fittings),
        round(first.price + second.price, 2),
        first.short + second.short,
        first.resistance + second.resistance,
        min(first.rating_pa, second.rating_pa),
    )


def _undominated(bridges: list[Bridge]) -> tuple[Bridge, ...]:
    """Bridges none of which is beaten in rank, resistance and rating by another."""
    kept: list[Bridge] = []
    for one in sorted(bridges, key=lambda b: (b.rank, b.resistance, -b.rating_pa)):
        if not any(
            held.resistance <= one.resistance and held.rating_pa >= one.rating_pa for held in kept
        ):
            kept.append(one)
    return tuple(kept)


def _joining(fittings: list[Part]) -> nx.DiGraph[str]:
    import networkx as nx

    graph: nx.DiGraph[str] = nx.DiGraph()
    for fitting in fittings:
        for part, inlet, outlet, _ in ways_of(fitting):
            held = graph.get_edge_data(opposite(inlet), outlet)
            if held is None:
                graph.add_edge(opposite(inlet), outlet, parts=[part])
            else:
                held["parts"].append(part)
    for _, _, data in graph.edges(data=True):
        data["parts"].sort(key=lambda part: part.price)
    return graph


def bridge(
    shelf: Shelf, upstream: str, downstream: str, fuel: FuelKey, *, most: int = 3
) -> list[tuple[Part, ...]]:
    """Fittings that join two ends, fewest first, then cheapest; an empty tuple when they mate.

    Args:
        shelf: the catalog.
        upstream: the open end.
        downstream: the end it must take.
        fuel: what flows through.
        most: how many answers.

    Returns:
        Chains of fittings; an empty list when nothing in the catalog joins the two.
    """
    if mates(end(upstream), end(downstream)):
        return [()]
    if upstream not in shelf.graph:
        return []

    def weight(_: str, __: str, data: dict[str, Any]) -> float | None:
        part = _cheapest(data, fuel)
        return None if part is None else 1.0 + part.price * 1e-5

    found = []
    for goal in shelf.graph:
        if not mates(end(goal), end(downstream)):
            continue
        paths = _paths(shelf.graph, upstream, goal, weight)
        for nodes in paths:
            steps = [_cheapest(shelf.graph.edges[pair], fuel) for pair in pairwise(nodes)]
            found.append(tuple(part for part in steps if part is not None))
    found.sort(key=lambda parts: (len(parts), sum(part.price for part in parts)))
    return found[:most]


def _paths(graph: nx.DiGraph[str], start: str, goal: str, weight: Any) -> list[list[str]]:
    """The three shortest ways without a loop; none when there is no way."""
    import networkx as nx

    usable: nx.DiGraph[str] = nx.DiGraph()
    for one, other, data in graph.edges(data=True):
        cost = weight(one, other, data)
        if cost is not None:
            usable.add_edge(one, other, weight=cost)
    if start not in usable or goal not in usable:
        return []
    found: list[list[str]] = []
    try:
        for path in nx.shortest_simple_paths(usable, start, goal, weight="weight"):
            found.append(path)
            if len(found) == 3:
                break
    except nx.NetworkXNoPath:
        return []
    return found


def _cheapest(data: dict[str, Any], fuel: FuelKey) -> Part | None:
    return next((part for part in data["parts"] if part.takes(fuel)), None)


@dataclass(frozen=True, slots=True)
class Supplier:
    """Whom to call for a maker's parts."""

    name: str
    phone: str
    mail: str
    terms: str


@dataclass(frozen=True, eq=False)
class Catalog:
    """Cylinders and parts the plan reads, the shop's own laid over what ships.

    One a process until the shop changes its parts, so it is itself its key in memos.
    """

    cylinders: dict[str, CylinderSize]
    parts: dict[str, Part] = field(default_factory=dict)
    kits: dict[str, Kit] = field(default_factory=dict)
    suppliers: dict[str, Supplier] = field(default_factory=dict)
    """By the maker's name."""

    @cached_property
    def shelf(self) -> Shelf:
        """The parts indexed for searching trains."""
        return Shelf(self.parts.values())

    @cached_property
    def patterns(self) -> dict[str, tuple[float, float]]:
        """Every stud pattern some part fits, with its spacing and diameter [m]."""
        found = {}
        for kind in (PartClass.ADAPTER, PartClass.CARBURETOR):
            for part in self.shelf.by_class[kind]:
                name = part.outlet.split(":")[1]
                spacing, diameter = name.removeprefix("2x").split("x")
                found[name] = (float(spacing) * 1e-3, float(diameter) * 1e-3)
        return found

    def over(self, rows: dict[str, Part], kits: dict[str, Kit]) -> Catalog:
        """This catalog with a shop's parts and kits laid over it."""
        return Catalog(
            self.cylinders, {**self.parts, **rows}, {**self.kits, **kits}, self.suppliers
        )


class JetBand(Model):
    """One row of a jet kit's sheet."""

    up_to_m: Annotated[float, Field(gt=0, le=6000)]
    smaller: Annotated[int, Field(ge=0, le=20)]


class SetsNamed(Model):
    """Sets as a kit's maker names them; what is empty is left open.

    One engine is sold under several badges: its family says more than the model on the cover.
    """

    families: tuple[Name, ...] = ()
    models: tuple[Name, ...] = ()
    trims: tuple[Name, ...] = ()
    years: tuple[int, int] | None = None
    """First and last year built."""
    why: Note = ""

    def open_on(self, machine: GeneratorSet) -> tuple[str, ...]:
        """Facts of a set, by their paths, that must be told to know whether it is among these."""
        told = {
            "set.engine_family": (self.families, machine.engine_family.strip()),
            "set.model": (self.models, machine.model.strip()),
            "set.trim": (self.trims, machine.trim.strip()),
            "set.year": (self.years, machine.year),
        }
        return tuple(path for path, (wanted, fact) in told.items() if wanted and not fact)

    def names(self, machine: GeneratorSet) -> bool:
        """Whether a set is among these, as far as it is told: what is not told does not decide."""
        for wanted, fact in (
            (self.families, machine.engine_family),
            (self.models, machine.model),
            (self.trims, machine.trim),
        ):
            called = {one.strip().casefold() for one in wanted}
            if wanted and fact.strip() and fact.strip().casefold() not in called:
                return False
        if self.years and machine.year:
            return self.years[0] <= machine.year <= self.years[1]
        return True


@dataclass(frozen=True, slots=True)
class KitVerdict:
    """What a kit's maker says of a set: whether it may go on it, why, and what is not told."""

    fits: bool | None
    """None while something that decides is not told."""
    why: str = ""
    path: str = ""
    """What must be told first."""


class Kit(Model):
    """A bundle: what it is for, and how many of each part (meters, for what is cut)."""

    key: Key
    name: Name
    maker: Name = ""
    fits: Note = ""
    gases: tuple[FuelKey, ...] = ()
    price: Annotated[float, Field(ge=0, le=50_000)] = 0.0
    contents: dict[Key, Annotated[float, Field(gt=0, le=1000)]] = {}
    bands: tuple[JetBand, ...] = ()
    """A jet kit's own sheet: how many sizes smaller than the stock jet, up to which elevation."""
    only_for: tuple[SetsNamed, ...] = ()
    """Sets it was made for, where its maker names them."""
    not_for: tuple[SetsNamed, ...] = ()
    """Sets its maker rules out."""

    def judged(self, machine: GeneratorSet) -> KitVerdict:
        """Whether it may go on a set: a rule-out goes first, and what is not told holds."""
        for one in self.not_for:
            if one.names(machine):
                missing = one.open_on(machine)
                if missing:
                    return KitVerdict(None, one.why, missing[0])
                return KitVerdict(False, one.why or "its maker rules this set out")
        if not self.only_for:
            return KitVerdict(True)
        near = [one for one in self.only_for if one.names(machine)]
        if not near:
            return KitVerdict(False, "its maker names other sets")
        known = [one for one in near if not one.open_on(machine)]
        if known:
            return KitVerdict(True)
        return KitVerdict(None, "its maker names the sets it is for", near[0].open_on(machine)[0])

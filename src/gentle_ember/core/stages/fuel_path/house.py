"""House-side gas piping: a tree of sections sized by the longest-length method."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import networkx as nx

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Input, Method, Rival, Rounding, spread
from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.job.house import House, Section
from gentle_ember.core.physics import pipe
from gentle_ember.core.physics.pipe import PipeGas, pipe_gas
from gentle_ember.core.stages.fuel_path.demand import Demand

ALLOWED_PA = 0.5 * INCH_WC_PA
LONGEST_LENGTH = Method(
    "longest-length",
    "Longest-length method",
    "each section sized for the load beyond it at the length to the farthest outlet",
    "NFPA 54 / IFGC longest-length method with the code formula; for a licensed fitter and the "
    "local code to confirm",
    "gas-pipe",
)


@dataclass(frozen=True, slots=True)
class Sized:
    """A section sized: its load, the size wanted, whether what is there is enough, the drop."""

    key: str
    name: str
    load: Figure
    wanted: str | None
    """Schedule 40 size; None past the table."""
    there: str
    enough: bool | None
    drop: Figure | None
    """Drop at its load in the size that is there, or wanted."""


@dataclass(frozen=True, slots=True)
class HouseAnswer:
    """Every section, the longest length they were sized at, and the meter."""

    sections: tuple[Sized, ...]
    longest_m: float
    total_w: float
    meter_enough: bool | None
    faults: tuple[tuple[str, str], ...]
    """What keeps it from being sized, by section."""


def size_house(
    house: House,
    gas: PipeGas,
    generator_w: float,
    meter_w: float | None,
    elevation_m: float,
    told_w: float = 0.0,
) -> HouseAnswer:
    """Size a house's gas piping with the generator on it.

    Args:
        house: the tree.
        gas: the gas.
        generator_w: the generator's demand at full load, upper end [W, HHV].
        meter_w: the meter's rating [W, HHV]; None when not known.
        elevation_m: of the site [m].
        told_w: appliances on the meter as told; the meter is judged on the larger of these and
            those drawn [W, HHV].
    """
    faults = tuple(_faults(house))
    import networkx as nx

    tree: nx.DiGraph[str] = nx.DiGraph()
    tree.add_node("")
    for key, section in house.sections.items():
        tree.add_edge(section.parent, key)
    own = {
        key: (section.load.value if section.load else 0.0)
        + (generator_w if key == house.stub else 0.0)
        for key, section in house.sections.items()
    }
    drawn = sum(section.load.value for section in house.sections.values() if section.load)
    total = max(drawn, told_w) + generator_w
    enough = None if meter_w is None else total <= meter_w
    if faults:
        return HouseAnswer((), 0.0, total, enough, faults)
    along = _distances(house.sections, tree)
    longest = max(along.values(), default=0.0)
    allowed = house.allowed.value if house.allowed else ALLOWED_PA
    sized = tuple(
        _sized(
            key,
            house.sections[key],
            own[key] + sum(own[below] for below in nx.descendants(tree, key)),
            gas,
            allowed,
            longest,
            elevation_m,
        )
        for key in house.sections
    )
    return HouseAnswer(sized, longest, total, enough, faults)


def house_loss(house: House, demand: Demand) -> tuple[float, bool]:
    """What a house's pipe takes before the stub at full load [Pa], and whether that is told.

    From the tree as drawn, at the upper end of what flows there, other appliances running; else
    what was said to be allowed; else what such piping is sized for.
    """
    gas = pipe_gas(demand.fuel)
    found = size_house(house, gas, demand.heat_hhv(), None, demand.elevation_m)
    drops = {one.key: one.drop for one in found.sections}
    here, lost, whole = house.stub, 0.0, bool(house.sections) and not found.faults
    while whole and here:
        drop = drops.get(here)
        if drop is None:
            whole = False
        else:
            lost, here = lost + drop.band.high, house.sections[here].parent
    if whole:
        return lost, True
    return (house.allowed.value, True) if house.allowed else (ALLOWED_PA, False)


def _faults(house: House) -> Iterator[tuple[str, str]]:
    for key, section in house.sections.items():
        if section.length is None:
            yield key, "Give its length, fittings included."
        seen, here = {key}, section.parent
        while here:
            if here not in house.sections:
                yield key, "It branches from a section that is not there."
                break
            if here in seen:
                yield key, "It branches from itself by a round way."
                break
            seen.add(here)
            here = house.sections[here].parent
    if house.sections and house.stub not in house.sections:
        yield "", "Say at which section's end the generator's stub is."


def _distances(sections: Mapping[str, Section], tree: nx.DiGraph[str]) -> dict[str, float]:
    import networkx as nx

    found: dict[str, float] = {"": 0.0}
    for key in nx.topological_sort(tree):
        if key:
            length = sections[key].length
            found[key] = found[sections[key].parent] + (length.value if length else 0.0)
    return found


def _sized(
    key: str,
    section: Section,
    load_w: float,
    gas: PipeGas,
    allowed_pa: float,
    longest_m: float,
    elevation_m: float,
) -> Sized:
    inputs = (
        Input("load beyond it (HHV)", load_w, "heat_rate"),
        Input("longest length", longest_m, "length"),
        Input("drop allowed", allowed_pa, "pressure"),
    )
    load = Figure(
        f"house.{key}.load",
        f"{section.name or key}, load",
        load_w,
        "heat_rate",
        LONGEST_LENGTH,
        spread(load_w, 0.0),
        inputs,
        rounding=Rounding.UP,
    )
    flow = load_w / gas.hhv_j_m3
    if flow <= 1e-7:
        return Sized(key, section.name, load, "3/8", section.size, True, None)
    try:
        wanted = pipe.next_nominal(pipe.bore(gas, flow, allowed_pa, longest_m, elevation_m))
    except QuantityError:
        wanted = None
    enough = None
    if section.size:
        passes = pipe.capacity(
            gas, pipe.NOMINAL_M[section.size], allowed_pa, longest_m, elevation_m
        )
        enough = passes >= flow
    shown = section.size or wanted
    drop = None
    if shown and section.length:
        lost = pipe.drop(gas, pipe.NOMINAL_M[shown], flow, section.length.value, elevation_m)
        other = _spitzglass_drop(gas, pipe.NOMINAL_M[shown], flow, section.length.value, lost)
        drop = Figure(
            f"house.{key}.drop",
            f"{section.name or key}, drop",
            lost,
            "pressure",
            pipe.CODE_FORMULA,
            spread(lost, 0.05),
            (*inputs, Input("size", f"{shown} in", "text")),
            other,
            Rounding.UP,
        )
    return Sized(key, section.name, load, wanted, section.size, enough, drop)


def _spitzglass_drop(
    gas: PipeGas, bore_m: float, flow: float, length_m: float, lost_pa: float
) -> tuple[Rival, ...]:
    """The second opinion: flow goes with the root of the drop."""
    passes = pipe.second_opinion(gas, bore_m, max(lost_pa, 1.0), length_m)
    if passes <= 0:
        return ()
    return (Rival("Spitzglass, low pressure", lost_pa * (flow / passes) ** 2),)

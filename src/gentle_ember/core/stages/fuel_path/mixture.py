"""The mixture of a train over load: from its ladder, its regulator and its throat."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.physics.mixture import (
    HOT,
    HUNTS,
    MIXTURE,
    SET_TO,
    Array,
    Metered,
    jet_takes,
    over_load,
    through_jet,
    with_idle,
)
from gentle_ember.core.physics.orifice import orifice_for, orifice_pa
from gentle_ember.core.physics.venturi import SIGNAL_BAND
from gentle_ember.core.stages.fuel_path.trouble import Amount, TrainCase, Trouble, mind

LOADS = np.linspace(0.0, 1.0, 41)
SHOWN = ((0.0, "no load"), (0.25, "quarter load"), (0.5, "half load"), (1.0, "full load"))
PROBE_BAND = 0.02
"""Error of λ read by a probe, as a share of it."""
NO_GAS = 3.0
"""λ that stands for no gas at all where a picture needs a number."""


@dataclass(frozen=True, slots=True)
class MixtureOverLoad:
    """λ at shares of full load, set once at full load: expected and between its ends."""

    of: Metered
    expected: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]
    idle_set: tuple[float, ...]
    """As expected, once the idle screw is set by the smoothest running without load."""
    figures: tuple[Figure, ...]


GAS_JET = Method(
    "gas-jet",
    "Fixed gas jet",
    "λ = √(path + jet) / √(signal − opening), at the gas of full load at λ = 1; "
    "jet = (m / (Cd·A))² / 2ρ",
    "orifice flow in row with hose and inlet; Cd 0.80 of a short drilled hole",
    "gas-jet",
)


@dataclass(frozen=True, slots=True)
class FixedJet:
    """A gas jet in place of a load screw: the λ it gives at full load, the hole asked for here."""

    part: Part
    lam: Figure
    wanted: Figure | None
    """None where hose and inlet alone take more than the throat gives."""
    takes_pa: float
    """What it takes at the gas of full load at λ = 1 [Pa]."""


def fixed_jet(case: TrainCase) -> FixedJet | None:
    """A train's gas jet with what it gives; None where a screw, or nothing, meters."""
    found = case.of(PartClass.GAS_JET)
    of = _screwed(case) if found else None
    if of is None or found[0][2].orifice_m is None:
        return None
    part, hole = found[0][2], found[0][2].orifice_m
    demand, jets = case.asked.demand, case.job.set.barrels
    mass = demand.mass("full", upper=False) / jets
    takes = orifice_pa(mass, demand.gas_density, hole)
    read = demand.suction
    band = SIGNAL_BAND if read is None else read.band
    ends = [
        through_jet(replace(of, signal_pa=of.signal_pa * share), takes, smooth=smooth)
        for share in (1.0, 1 - band, 1 + band) for smooth in (True, False)
    ]  # fmt: skip
    lams = [min(NO_GAS, one) for one in ends]
    lam = (lams[0] + lams[1]) / 2
    inputs = (
        Input("the jet's hole", hole, "orifice", Origin.DATA_SHEET),
        Input("gas of full load at λ = 1, of each jet", mass, "mass_flow"),
        Input("density of the gas here", demand.gas_density, "density"),
        Input("throat's signal at full load", of.signal_pa, "pressure",
              Origin.COMPUTED if read is None else Origin.MEASURED, read.path if read else None),
        Input("suction that opens the regulator", of.opening_pa, "pressure", Origin.DATA_SHEET),
        Input("hose and inlet take at full load", of.path_pa, "pressure"),
        Input("the jet takes", takes, "pressure"),
    )  # fmt: skip
    narrows = ("a probe in the exhaust at full load", "a U-tube at the throat, at full load")
    name = demand.fuel.key
    gives = Figure(
        f"jet.{name}.lam", "λ at full load through the jet", lam, "ratio", GAS_JET,
        Band(min(lams), max(lams)), inputs, rounding=Rounding.UP, estimated=True, narrows=narrows,
    )  # fmt: skip
    holes = [
        orifice_for(mass, demand.gas_density, left)
        for share in (1.0, 1 - band, 1 + band) for smooth in (True, False)
        if (left := jet_takes(
            replace(of, signal_pa=of.signal_pa * share), SET_TO, smooth=smooth)) > 0
    ]  # fmt: skip
    wanted = None if len(holes) < 6 else Figure(
        f"jet.{name}.wanted", "hole asked for here", (holes[0] + holes[1]) / 2, "orifice",
        GAS_JET, Band(min(holes), max(holes)),
        (Input("λ it is to give at full load", SET_TO, "ratio", Origin.ASSUMED), *inputs),
        rounding=Rounding.UP, estimated=True, narrows=narrows,
    )  # fmt: skip
    return FixedJet(part, gives, wanted, takes)


def jet_by_probe(case: TrainCase, jet: FixedJet, lam: Fact, path: str) -> Figure | None:
    """The hole asked for by the λ a probe read at full load; None where hose and inlet are it."""
    of, demand = _screwed(case), case.asked.demand
    at_it = jet.part.orifice_m
    if of is None or at_it is None:
        return None
    row = of.path_pa + jet.takes_pa
    if row * (SET_TO / lam.value) ** 2 <= of.path_pa:
        return None

    def hole(read: float) -> float:
        """As the jet is, so its hole is asked for: what is not known of flow cancels [m]."""
        may_take = max(1.0, row * (SET_TO / read) ** 2 - of.path_pa)
        return at_it * math.sqrt(math.sqrt(jet.takes_pa / may_take))

    ends = [hole(lam.value * share) for share in (1 - PROBE_BAND, 1 + PROBE_BAND)]
    return Figure(
        f"jet.{demand.fuel.key}.probe", "hole asked for by the probe", hole(lam.value), "orifice",
        GAS_JET, Band(min(ends), max(ends)),
        (
            Input("λ read at full load", lam.value, "ratio", lam.origin, path),
            Input("λ it is to give at full load", SET_TO, "ratio", Origin.ASSUMED),
            Input("the jet's hole", at_it, "orifice", Origin.DATA_SHEET),
            Input("the jet takes", jet.takes_pa, "pressure"),
            Input("hose and inlet take at full load", of.path_pa, "pressure"),
        ),
        rounding=Rounding.UP, estimated=True, narrows=("the next jet, read under load",),
    )  # fmt: skip


def metered(case: TrainCase) -> Metered | None:
    """A train's throat and what feeds it, set at full load by its screw or as its jet gives;
    None where nothing is metered by a throat's signal."""
    jet, of = fixed_jet(case), _screwed(case)
    return of if of is None or jet is None else replace(of, set_to=jet.lam.value)


def _screwed(case: TrainCase) -> Metered | None:
    """A train's throat as a screw sets it."""
    signals, needs, demand = case.ladder.signals, case.ladder.needs, case.asked.demand
    regulators = case.of(PartClass.DEMAND)
    if signals is None or not regulators or signals["full"] <= 0 or demand.watts["full"] <= 0:
        return None
    opening = regulators[0][2].opening_pa
    if opening is None:
        return None
    # Needs are at the upper end of demand; what the path takes goes with the flow squared.
    path = max(0.0, needs["full"] - opening) / (1 + demand.spread) ** 2
    idle = demand.watts["idle"] / demand.watts["full"]
    machine = case.job.set
    return Metered(
        signals["full"], opening, path, idle, max(1, machine.cylinders // machine.barrels),
        as_read=demand.suction is not None,
    )  # fmt: skip


def _middle(smoothed: Array, followed: Array) -> Array:
    """Between pulses smoothed out and followed by the gas [1]."""
    middle: Array = (np.minimum(smoothed, NO_GAS) + np.minimum(followed, NO_GAS)) / 2
    return middle


@remember(64)
def _expected(of: Metered, *shares: float) -> tuple[float, ...]:
    """λ expected at shares of full load [1]."""
    ends = (over_load(of, np.array(shares), smooth=smooth) for smooth in (True, False))
    return tuple(_middle(*ends).tolist())


def lam_at(of: Metered, share: float) -> float:
    """λ expected at a share of full load [1]."""
    return _expected(of, share)[0]


@remember(64)
def _curves(of: Metered, band: float, ends: Band | None) -> tuple[tuple[float, ...], ...]:
    """Expected λ, its ends, and λ with the idle screw set, over `LOADS`.

    `ends` are those of λ at full load, where no screw sets it.
    """
    lean_at, rich_at = (ends.high, ends.low) if ends else (of.set_to, of.set_to)
    weak = replace(of, signal_pa=of.signal_pa * (1 - band), set_to=lean_at)
    strong = replace(of, signal_pa=of.signal_pa * (1 + band), set_to=rich_at)
    expected = np.array(_expected(of, *LOADS.tolist()))
    # Leanest with little signal, smoothed; richest with much, its pulses followed.
    lean, rich = over_load(weak, LOADS, smooth=True), over_load(strong, LOADS, smooth=False)
    idled = [over_load(with_idle(of, smooth=one), LOADS, smooth=one) for one in (True, False)]
    rows = expected, np.minimum(rich, expected), np.maximum(lean, expected), _middle(*idled)
    return tuple(tuple(np.minimum(row, NO_GAS).tolist()) for row in rows)


def mixture_of(case: TrainCase) -> MixtureOverLoad | None:
    """λ over load of a train; None where nothing is metered by a throat's signal."""
    of = metered(case)
    if of is None:
        return None
    demand = case.asked.demand
    read = demand.suction
    jet = fixed_jet(case)
    expected, low, high, idled = _curves(
        of, SIGNAL_BAND if read is None else read.band, jet.lam.band if jet else None
    )
    inputs = (
        Input(
            "throat's signal at full load",
            of.signal_pa,
            "pressure",
            Origin.COMPUTED if read is None else Origin.MEASURED,
            read.path if read else None,
        ),
        Input("suction that opens the regulator", of.opening_pa, "pressure", Origin.DATA_SHEET),
        Input("hose and inlet take at full load", of.path_pa, "pressure"),
        Input("fuel without load over full load", of.idle, "share"),
        Input("cylinders on one throat", float(of.cylinders), "count", path="set.cylinders"),
        Input(
            "λ at full load", of.set_to, "ratio", Origin.ASSUMED if jet is None else Origin.COMPUTED
        ),
        Input("air density", demand.air_density, "density"),
    )
    narrows = ("a U-tube at the throat, at half load", "a probe in the exhaust, at half load")
    figures = tuple(
        Figure(
            f"mixture.{demand.fuel.key}.{round(share * 100)}", f"λ at {name}",
            expected[at], "ratio", MIXTURE, Band(low[at], high[at]),
            inputs, rounding=Rounding.UP, estimated=True,
            warnings=tuple(_says(expected[at], share)),
            narrows=narrows,
        )
        for at, share, name in ((round(share * (len(LOADS) - 1)), share, name)
                                for share, name in SHOWN)
    )  # fmt: skip
    return MixtureOverLoad(of, expected, low, high, idled, figures)


def _says(lam: float, share: float) -> Iterator[str]:
    idle = "Open the idle screw" if share == 0 else "A larger signal or a lighter spring"
    if lam >= NO_GAS - 1e-6:
        yield f"The signal does not open the regulator there. {idle}, else it dies."
    elif lam > HOT:
        yield f"So lean it misses and runs hot. {idle}."
    elif lam > HUNTS:
        yield f"So lean it hunts. {idle}."


def part_load(case: TrainCase) -> Iterator[Trouble]:
    """Set right at full load, it is lean where a set runs most of its hours."""
    of = metered(case)
    if of is None or not case.parts:
        return
    quarter, half = _expected(of, 0.25, 0.5)
    if half > HUNTS or quarter > HOT:
        lean = f"λ about {half:.2f} at half load" if half > HUNTS else (
            f"λ about {quarter:.2f} at a quarter load")  # fmt: skip
        yield mind(
            "part_load", case.parts[-1].key,
            f"Set right at full load, it is lean below it: {lean}.",
            "The regulator keeps what opens it of the signal at every load. A smaller throat, or a "
            "regulator that opens on less; the idle screw set by the smoothest running.",
            Amount("opens on", of.opening_pa),
            Amount("the throat gives at full load", of.signal_pa),
        )  # fmt: skip

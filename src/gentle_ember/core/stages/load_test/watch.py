"""What a reading under load says: volts, hertz, mixture, heat, carbon monoxide, smell."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from gentle_ember.core.base.quantities import percent
from gentle_ember.core.job.load_test import LoadReading
from gentle_ember.core.job.metering import Ran
from gentle_ember.core.physics import jets
from gentle_ember.core.stage import Severity

VOLTS_OFF, VOLTS_STOP = 0.05, 0.10
"""Share off the nameplate: ANSI C84.1's usual range, and twice it."""
HERTZ_OFF, HERTZ_STOP = 0.05, 0.10
INVERTER_HERTZ_OFF = 0.01
GAS_LEAN, GAS_RICH = 1.15, 0.80
EXHAUST_K = 973.15
"""Exhaust above 700 °C is hot for an air-cooled engine; adjustable by the maker's own figure."""
CO_RICH = 0.05
AIR_CO, AIR_CO_STOP = 35e-6, 100e-6
"""Carbon monoxide where people stand: NIOSH's limit for a shift, and half its ceiling."""
TILTED = 0.20
LONGEST_S = 600.0
"""Nobody looked for longer: only this much of a gap between readings counts."""
OPEN = 0.75
"""Throttle opening at which a pointer shows that it opened [1]."""


@dataclass(frozen=True, slots=True)
class Remark:
    """Something a reading says, and how hard it holds."""

    severity: Severity
    text: str


@dataclass(frozen=True, slots=True)
class Nameplate:
    """What a reading is held against: rating [W], volts a leg [V], frequency [Hz], legs."""

    rating_w: float
    leg_volts: float
    hertz: float
    legs: int
    inverter: bool
    gas: bool
    speed: float | None = None
    """Working speed of a bare engine [rad/s]."""
    gas_jet: bool = False
    """Whether a fixed jet, no screw, meters its gas."""


def at_load(readings: Sequence[LoadReading], least_w: float) -> float:
    """Time at a load that counts [s]: between readings that both show it, ten minutes at most each.

    Args:
        readings: in any order; those without a time or an output don't count.
        least_w: the least load that counts [W].
    """
    timed = sorted(
        (one.after.value, watts, one.ran)
        for one in readings
        if one.after is not None and (watts := one.watts) is not None
    )
    return sum(
        min(LONGEST_S, later[0] - earlier[0])
        for earlier, later in pairwise(timed)
        if earlier[1] >= least_w and later[1] >= least_w
        and Ran.DIED not in (earlier[2], later[2])
    )  # fmt: skip


def remarks(one: LoadReading, plate: Nameplate) -> Iterator[Remark]:
    """Everything a reading says that is not as it should be."""
    yield from _electrics(one, plate)
    yield from _mixture(one, plate)
    yield from _people(one)
    if one.exhaust is not None and one.exhaust.value > EXHAUST_K:
        yield Remark(Severity.CAUTION, "Exhaust over 700 °C: lean, late, or cooling air held up.")
    if one.ran is Ran.HUNTING:
        yield Remark(Severity.CAUTION, "Hunting under load: lean, or the governor's linkage.")
    if one.ran is Ran.DIED:
        yield Remark(Severity.CAUTION, "It died under load: less load, then find out why.")


def _electrics(one: LoadReading, plate: Nameplate) -> Iterator[Remark]:
    legs = [(name, *read) for name, read in zip("ABC", one.legs, strict=True)][: plate.legs]
    for name, volts, _ in legs:
        if volts is None:
            continue
        off = volts.value / plate.leg_volts - 1
        if abs(off) > VOLTS_OFF:
            hard = Severity.STOP if abs(off) > VOLTS_STOP else Severity.CAUTION
            where = f"leg {name}" if plate.legs > 1 else "the output"
            side = "over" if off > 0 else "under"
            yield Remark(hard, f"Volts on {where} {percent(abs(off))} {side} the nameplate.")
    if one.hertz is not None:
        off = one.hertz.value / plate.hertz - 1
        wide = INVERTER_HERTZ_OFF if plate.inverter else HERTZ_OFF
        if abs(off) > wide:
            hard = Severity.STOP if abs(off) > HERTZ_STOP else Severity.CAUTION
            side = "high" if off > 0 else "low"
            why = (
                "the inverter is overloaded" if plate.inverter else "governor or too little engine"
            )
            yield Remark(hard, f"Frequency {abs(off) * 100:.1f} % {side}: {why}.")
    if one.speed is not None and plate.speed is not None:
        off = one.speed.value / plate.speed - 1
        if abs(off) > HERTZ_OFF:
            hard = Severity.STOP if abs(off) > HERTZ_STOP else Severity.CAUTION
            side = "high: the governor" if off > 0 else "low: governor or too little engine"
            yield Remark(hard, f"Speed {abs(off) * 100:.1f} % {side}.")
    watts = one.watts
    if watts is not None and watts > 1.02 * plate.rating_w:
        yield Remark(Severity.CAUTION, "Over the running rating: take something off.")
    amps = [amps.value for _, _, amps in legs if amps is not None]
    if len(amps) > 1:
        share = plate.rating_w / plate.legs / plate.leg_volts
        if max(amps) - min(amps) > TILTED * share:
            yield Remark(Severity.CAUTION, "The legs are not balanced: move a load over.")


def _mixture(one: LoadReading, plate: Nameplate) -> Iterator[Remark]:
    if one.lam is not None:
        lam = one.lam.value
        if plate.gas:
            if lam > GAS_LEAN:
                yield Remark(Severity.CAUTION, f"λ {lam:.2f}: lean on gas, exhaust valve hot.")
            elif lam < GAS_RICH:
                yield Remark(Severity.CAUTION, f"λ {lam:.2f}: rich, carbon monoxide and fuel.")
        else:
            said = jets.reads(lam)
            hard = {"stop": Severity.STOP, "caution": Severity.CAUTION}.get(said.state)
            if hard is not None:
                yield Remark(hard, f"λ {lam:.2f}. {said.text}")
    if one.co is not None and one.co.value > CO_RICH:
        yield Remark(Severity.CAUTION, f"CO {one.co.value * 100:.1f} % in the exhaust: rich.")


def _people(one: LoadReading) -> Iterator[Remark]:
    if one.air_co is not None and one.air_co.value > AIR_CO:
        ppm = one.air_co.value * 1e6
        hard = Severity.STOP if ppm > AIR_CO_STOP * 1e6 else Severity.CAUTION
        yield Remark(
            hard,
            f"CO {ppm:.0f} ppm where people are. Move everyone away. Stop the set, or move it "
            f"downwind.",
        )
    if one.smell == "gas":
        yield Remark(Severity.STOP, "Gas smelled: source shut, engine off, no spark, find it.")
    if one.smell == "hot":
        yield Remark(
            Severity.CAUTION,
            "Smells hot. Take the load off. Stop the engine. Then check alternator, plugs and "
            "cords with a thermometer, not by hand.",
        )

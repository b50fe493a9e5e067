"""What a value measured on the walk-round says: limits of the trade, where no manual is at hand.

The set's own manual comes first; a value past these is no good on any small engine of the trade.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from gentle_ember.core.base.quantities import PSI_PA
from gentle_ember.core.estimates.defaults import fuel_line
from gentle_ember.core.job.job import FoundMeasures, Job
from gentle_ember.core.physics.fuels import GASOLINES

LASH_M = (0.05e-3, 0.30e-3)
"""Lash under which a valve may stay open hot, and over which it clatters and lifts less [m]."""
FOUND_GAP_M = (0.5e-3, 0.9e-3)
"""Plug gap that fires gasoline and gas alike [m]."""
RESTING_V = 12.4
"""A lead battery under it at rest is less than three quarters full [V]."""
COMPRESSION_PA = 60 * PSI_PA
"""Cranked, throttle open; a set with a release reads less, and is judged by leak-down [Pa]."""
LEAK_DOWN = 0.20
BONDED_OHM, FLOATING_OHM = 1.0, 100e3
"""Neutral and frame are one under the first, and apart over the second, set off and unplugged;
between them is a joint that is neither [ohm]."""
OVER_THE_MARK = 1.1
"""Oil over the full mark by more than the dipstick is read to."""
STREAM_TIMES, STREAM_S = 2.0, 15.0
"""A stream at the bowl is to bring twice what full load burns."""

MEASURES: dict[str, tuple[str, ...]] = {
    "ground": ("bond",),
    "oil": ("oil_level",),
    "tank_filter": ("stream",),
    "plug": ("gap",),
    "compression": ("compression", "leak_down"),
    "lash": ("lash_exhaust", "lash_intake"),
    "battery": ("volts",),
}
"""What is measured where, by the fields of `FoundMeasures`."""


@dataclass(frozen=True, slots=True)
class MeasureSays:
    """What a value says: whether it is no good, and in words."""

    bad: bool
    text: str


def measured(job: Job, key: str) -> tuple[MeasureSays, ...]:
    """What the values of a place say; nothing where none was measured."""
    found = job.findings.get(key)
    rule = RULES.get(key)
    return tuple(rule(job, found.measured)) if found is not None and rule is not None else ()


def no_good(job: Job, key: str) -> str:
    """Why the values of a place say it is bad; empty where they don't."""
    return " ".join(one.text for one in measured(job, key) if one.bad)


def _lash(_: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    for fact, valve in ((found.lash_exhaust, "exhaust"), (found.lash_intake, "intake")):
        if fact is None:
            continue
        if fact.value < LASH_M[0]:
            yield MeasureSays(True, f"The {valve} valve is tight: dry gas will burn its seat.")
        elif fact.value > LASH_M[1]:
            yield MeasureSays(
                True, f"The {valve} valve is loose: it lifts less and hammers its seat."
            )
        else:
            yield MeasureSays(
                False, f"The {valve} valve is within what is usual; the manual decides."
            )


GAP_WORN_M = 0.1e-3
"""Past the maker's gap by so much a plug is worn."""


def _gap(job: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.gap is None:
        return
    own = job.set.plug.gap_gasoline
    widest = own.value + GAP_WORN_M if own else FOUND_GAP_M[1]
    if found.gap.value > widest:
        yield MeasureSays(
            True, "A wide gap: gas asks more of the spark, and it misses first under load."
        )
    elif found.gap.value < min(FOUND_GAP_M[0], own.value if own else 1.0):
        yield MeasureSays(True, "A narrow gap: a weak spark, and it fouls.")
    else:
        yield MeasureSays(False, "A gap that fires gasoline and gas.")


def _volts(_: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.volts is not None:
        flat = found.volts.value < RESTING_V
        text = "Less than three quarters full at rest: charge it, then try it again."
        yield MeasureSays(flat, text if flat else "Well charged.")


def _compression(_: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.leak_down is not None:
        worn = found.leak_down.value > LEAK_DOWN
        text = "It leaks more than a fifth of its air: listen where."
        yield MeasureSays(worn, text if worn else "It holds its air.")
    if found.compression is not None:
        low = found.compression.value < COMPRESSION_PA
        if low and found.leak_down is None:
            text = (
                "Low compression: a release that opens as it cranks reads so too; leak-down tells."
            )
            yield MeasureSays(True, text)
        elif not low:
            yield MeasureSays(False, "Compression that lights gas.")


def _stream(job: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.stream is None or job.set.running is None:
        return
    rated = job.set.running.value
    gasoline = GASOLINES[job.set.gasoline]
    burnt = fuel_line(job.set, rated).fuel_w(rated) / gasoline.lhv_j_kg / gasoline.density_kg_m3
    need = STREAM_TIMES * STREAM_S * burnt
    thin = found.stream.value < need
    says = f"Full load asks for {need * 1e6:.0f} mL in 15 seconds, with a spare half."
    yield MeasureSays(thin, ("Too thin a stream. " if thin else "A full stream. ") + says)


def _bond(_: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.bond is None:
        return
    if found.bond.value <= BONDED_OHM:
        yield MeasureSays(
            False,
            "Bonded. A transfer switch that does not switch the neutral wants it floating; the "
            "plate and local code decide.",
        )
    elif found.bond.value >= FLOATING_OHM:
        yield MeasureSays(
            False,
            "Floating. Used alone, a first fault to the frame trips nothing; the plate decides.",
        )
    else:
        yield MeasureSays(
            True,
            "Neither bonded nor floating: a loose or burnt joint, or something is still plugged "
            "in. Unplug all, measure again.",
        )


def _oil(_: Job, found: FoundMeasures) -> Iterator[MeasureSays]:
    if found.oil_level is None:
        return
    if found.oil_level.value <= 0.0:
        yield MeasureSays(True, "At or under the low mark: it is not pulled before it is filled.")
    elif found.oil_level.value > OVER_THE_MARK:
        yield MeasureSays(
            True,
            "Over the mark: it foams and is drawn into the intake. Smell it: a stuck float fills "
            "the crankcase with gasoline.",
        )
    else:
        yield MeasureSays(False, "Between the marks.")


RULES: dict[str, Callable[[Job, FoundMeasures], Iterator[MeasureSays]]] = {
    "ground": _bond,
    "oil": _oil,
    "tank_filter": _stream,
    "plug": _gap,
    "compression": _compression,
    "lash": _lash,
    "battery": _volts,
}

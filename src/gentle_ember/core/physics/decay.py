"""Pressure decay: what a shut-in line leaks, its temperature told, and when it tells nothing."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.base.quantities import STANDARD_PRESSURE_PA, check

LIMIT_M3_S = 10e-6 / 3600.0
"""Leak a test must rule out where the site says nothing: 10 cm³ an hour. Code asks for no
drop at all; this is what “none” means once the gauge's own error is told, and about what a soap
film shows."""
READ_PA = 12.5
"""How well a pressure is read on a U-tube or a dial where nobody says [Pa]."""
SHARE = 0.5
"""Share of the limit the reading's error may take up: the least time follows from it."""
READ_K = 0.1
"""How well a change of the gas's temperature is known, the line in the shade and at rest [K]."""
UNTOLD_K = 1.0
"""How far the gas may have warmed or cooled where nobody measured it [K]: in the open, easily."""
USUAL_K = 288.15
MOST_SHIFT_K = 0.5
"""A line that warmed or cooled by more tells nothing: 1 K is worth a third of a percent."""
MOST_BAROMETER_PA = 50.0

DECAY = Method(
    "leak-decay",
    "Pressure decay",
    "leak = (V/p_std)·(p₁ − p₂·T₁/T₂)/Δt, absolute pressures and kelvin",
    "gas law for a shut-in volume; volumes at the test's first temperature and 101,325 Pa",
    "leak-test",
)


class Tells(StrEnum):
    """What a decay says."""

    TIGHT = "tight"
    LEAKS = "leaks"
    INCONCLUSIVE = "inconclusive"


@dataclass(frozen=True, slots=True)
class Decay:
    """A decay worked out: leak and drop with their bands, what it tells, and why not more."""

    leak: Figure
    drop: Figure
    tells: Tells
    why: str
    least_s: float
    """Time after which this gauge on this volume can rule the limit out [s]."""


def leak_m3_s(
    volume_m3: float,
    before_pa: float,
    after_pa: float,
    before_k: float,
    after_k: float,
    seconds: float,
) -> float:
    """Leak of a shut-in line [m³/s at the first temperature and 101,325 Pa].

    Args:
        volume_m3: gas shut in [m³].
        before_pa: absolute pressure at the start [Pa].
        after_pa: absolute pressure at the end [Pa].
        before_k: gas temperature at the start [K].
        after_k: gas temperature at the end [K].
        seconds: between the two.

    >>> round(leak_m3_s(0.004, 104065.0, 103665.0, 290.0, 290.0, 600.0) * 1e9, 1)
    26.3
    """
    fell = drop_pa(before_pa, after_pa, before_k, after_k)
    return volume_m3 / STANDARD_PRESSURE_PA * fell / seconds


def drop_pa(before_pa: float, after_pa: float, before_k: float, after_k: float) -> float:
    """Fall of an absolute pressure, its change of temperature told [Pa]."""
    return before_pa - after_pa * before_k / after_k


def least_seconds(volume_m3: float, unsure_pa: float, limit_m3_s: float) -> float:
    """Time after which what the reading may be off is small beside the limit [s].

    Args:
        volume_m3: gas shut in [m³].
        unsure_pa: what the drop may be off, by gauge and temperature together [Pa].
        limit_m3_s: leak to rule out [m³/s].

    >>> round(least_seconds(1e-3, 60.0, LIMIT_M3_S) / 60, 1)
    7.1
    """
    return volume_m3 * unsure_pa / STANDARD_PRESSURE_PA / (SHARE * limit_m3_s)


def decay(
    volume_m3: float,
    before_pa: float,
    after_pa: float,
    before_k: float | None,
    after_k: float | None,
    seconds: float,
    *,
    ambient_pa: float,
    limit_m3_s: float = LIMIT_M3_S,
    read_pa: float = READ_PA,
    barometer_pa: float = 0.0,
    saturated: bool = False,
) -> Decay:
    """Judge a decay by the leak it shows, not by its drop: a large volume hides what a small shows.

    Args:
        volume_m3: gas shut in [m³].
        before_pa: gauge pressure at the start [Pa].
        after_pa: gauge pressure at the end [Pa].
        before_k: gas temperature at the start [K]; None where nobody measured it.
        after_k: gas temperature at the end [K]; None likewise, and then a kelvin is allowed for.
        seconds: between the two.
        ambient_pa: air pressure here [Pa].
        limit_m3_s: leak that must be ruled out [m³/s].
        read_pa: how well the gauge is read [Pa].
        barometer_pa: how far the air pressure moved meanwhile [Pa].
        saturated: propane near its own vapor pressure, where liquid makes up for what leaks.

    Raises:
        QuantityError: outside what a test of a generator's train can be.
    """
    check("volume", "volume", volume_m3, 1e-5, 1.0)
    check("time", "duration", seconds, 60.0, 86400.0)
    check("leak to rule out", "leak", limit_m3_s, 1e-11, 1e-6)
    check("gauge reads within", "pressure", read_pa, 0.1, 20e3)
    check("pressure before", "pressure", before_pa, 100.0, 1.8e6)
    check("pressure after", "pressure", after_pa, 0.0, 1.8e6)
    told = before_k is not None and after_k is not None
    before_k = check("temperature before", "temperature", before_k or after_k or USUAL_K,
                     233.15, 333.15)  # fmt: skip
    after_k = check("temperature after", "temperature", after_k if told and after_k else before_k,
                    233.15, 333.15)  # fmt: skip
    first, last = before_pa + ambient_pa, after_pa + ambient_pa
    fell = drop_pa(first, last, before_k, after_k)
    shift_k = READ_K if told else UNTOLD_K
    unsure = 2 * read_pa + last * shift_k / after_k + abs(barometer_pa)
    known = Origin.MEASURED if told else Origin.ASSUMED
    scale = volume_m3 / STANDARD_PRESSURE_PA / seconds
    least = least_seconds(volume_m3, unsure, limit_m3_s)
    inputs = (
        Input("gas shut in", volume_m3, "volume", Origin.OWNER),
        Input("pressure before", before_pa, "pressure", Origin.MEASURED),
        Input("pressure after", after_pa, "pressure", Origin.MEASURED),
        Input("temperature before", before_k, "temperature", known),
        Input("temperature after", after_k, "temperature", known),
        Input("temperature change known within", shift_k, "temperature_difference", Origin.ASSUMED),
        Input("air pressure here", ambient_pa, "pressure"),
        Input("time", seconds, "minutes", Origin.MEASURED),
        Input("gauge reads within", read_pa, "pressure", Origin.ASSUMED),
        Input("leak to rule out", limit_m3_s, "leak"),
        Input("least time for this gauge and volume", least, "minutes"),
    )
    narrows: tuple[str, ...] = (
        "wait longer",
        "let the line come to one temperature first, in the shade",
    )
    if not told:
        narrows = ("measure the gas temperature before and after", *narrows)
    drop = Figure("decay.drop", "pressure drop, temperature-corrected", fell, "pressure", DECAY,
                  Band(fell - unsure, fell + unsure), inputs, narrows=narrows)  # fmt: skip
    lost = leak_m3_s(volume_m3, first, last, before_k, after_k, seconds)
    leak = Figure("decay.leak", "leak", lost, "leak", DECAY,
                  Band(lost - unsure * scale, lost + unsure * scale), inputs,
                  rounding=Rounding.UP, narrows=narrows)  # fmt: skip
    why = ""
    if saturated:
        why = "Propane near its own vapor pressure: liquid makes up for what leaks. Soap it."
    elif abs(after_k - before_k) > MOST_SHIFT_K:
        why = "The gas warmed or cooled too much: wait until it is steady, then test again."
    elif abs(barometer_pa) > MOST_BAROMETER_PA:
        why = "The barometer moved too far: test again in steady weather."
    elif fell < -2 * read_pa:
        why = "The pressure rose: the gas warmed, or something feeds it. Either hides a leak."
    if why:
        return Decay(leak, drop, Tells.INCONCLUSIVE, why, least)
    if lost + unsure * scale <= limit_m3_s:
        return Decay(leak, drop, Tells.TIGHT, "", least)
    if lost - unsure * scale > limit_m3_s:
        return Decay(leak, drop, Tells.LEAKS, "", least)
    why = (
        "The drop lies within what the reading may be off. This gauge on this volume needs "
        f"{math.ceil(least / 60)} min or more."
    )
    if not told:
        why += " Shorter with the gas temperature measured: 2 °F (1 K) hides a leak."
    return Decay(leak, drop, Tells.INCONCLUSIVE, why, least)

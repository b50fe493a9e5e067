"""Engine speed from its sound: the firing frequency found by its comb of harmonics."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin
from gentle_ember.core.base.quantities import check

Array = NDArray[np.float64]

SLOWEST_RPM, FASTEST_RPM = 900.0, 6000.0
HIGHEST_HZ = 900.0
"""Harmonics are listened to up to here; above it valves and fan drown them."""
HARMONICS = 14
LEAST_S, MOST_S = 1.5, 30.0
CLEAR = 5.5
"""How far the best comb must stand above the usual one to be called a note."""
MOST_DRIFT = 0.012
"""How far the speed may move between the thirds of a recording [1]; a load put on moves it more."""
PLATE_WITHIN = 0.08
"""How far a governor lets the speed be from the plate's [1]."""
CLOCK = 2e-4
"""How far a sound card's clock may be off [1]."""

SOUND = Method(
    "rpm-from-sound",
    "Speed by its sound",
    "rpm = 120 × frequency of the beat; / cylinders where they fire evenly; the comb with teeth on "
    "the harmonics, none between",
    "spectrum of a few seconds; a four-stroke fires once every two turns, and a V-twin at uneven "
    "steps, so that its beat is one for both cylinders",
    "sound",
)


def rpm_of(
    samples: Array,
    rate_hz: float,
    cylinders: int = 1,
    *,
    even: bool = False,
    hertz: float | None = None,
) -> Figure:
    """Engine speed of a four-stroke from a recording.

    Args:
        samples: sound pressure in any unit, shape (n,).
        rate_hz: samples a second [Hz].
        cylinders: how many fire.
        even: whether two fire at even steps, side by side; the twins of generators are V-twins,
            which do not. More than two are taken to.
        hertz: of the plate, for a set whose speed makes its frequency; None where it does not.

    Raises:
        QuantityError: too short, too coarse, no steady note in it, or a speed that changes.
    """
    check("sampling rate", "frequency", rate_hz, 2000.0, 200e3)
    check("length of the recording", "duration", len(samples) / rate_hz, LEAST_S, MOST_S)
    spectrum, step = _spectrum(np.asarray(samples, dtype=float), rate_hz)
    beats = cylinders if even or cylinders > 2 else 1
    per_rpm = beats / 120
    lowest, highest = SLOWEST_RPM * per_rpm, FASTEST_RPM * per_rpm
    candidates = np.exp(np.arange(math.log(lowest), math.log(highest), 4e-4))
    scores = np.array([_comb(spectrum, step, one) for one in candidates])
    best = int(scores.argmax())
    clear = (scores[best] - np.median(scores)) / (scores.std() + 1e-12)
    if clear < CLEAR:
        raise QuantityError("steadiness of the note", "ratio", float(clear), CLEAR, 1e3)
    fired = _refined(spectrum, step, float(candidates[best]))
    drift = _drift(samples, rate_hz, fired)
    if drift > MOST_DRIFT:
        raise QuantityError("steadiness of the speed", "share", drift, 0.0, MOST_DRIFT)
    rpm = fired / per_rpm
    off = rpm * max(CLOCK, 0.5 * step / (fired * HARMONICS / 2), drift / 2) + 1.0
    return Figure(
        "sound.rpm", "engine speed", rpm * 2 * math.pi / 60, "speed", SOUND,
        Band((rpm - off) * 2 * math.pi / 60, (rpm + off) * 2 * math.pi / 60),
        (
            Input("frequency of the beat", fired, "frequency", Origin.MEASURED),
            Input("fires", "at even steps" if beats == cylinders else "at uneven steps", "text"),
            Input("cylinders", cylinders, "count", Origin.OWNER),
            Input("length of the recording", f"{len(samples) / rate_hz:.1f} s", "text"),
            Input("how clear the note is, over the usual", float(clear), "ratio"),
        ),
        narrows=("a longer recording at a steady load", "nearer to the exhaust, out of the wind"),
        warnings=(
            "If the cylinders, or how they fire, are wrong, this is half or double the speed.",
            *_not_the_plates(rpm, hertz),
        ),
    )  # fmt: skip


def _not_the_plates(rpm: float, hertz: float | None) -> tuple[str, ...]:
    """What is said where the speed is none at which a set makes the hertz of its plate."""
    if hertz is None:
        return ()
    speeds = [60.0 * hertz, 30.0 * hertz]
    if any(abs(rpm / one - 1) <= PLATE_WITHIN for one in speeds):
        return ()
    return (
        f"{rpm:,.0f} rpm is no speed at which a set makes {hertz:g} Hz, {speeds[0]:,.0f} or "
        f"{speeds[1]:,.0f} rpm: the cylinders are wrong, or it does not run as it should.",
    )


def _drift(samples: Array, rate_hz: float, base: float) -> float:
    """How far the beat moves from the first third of a recording to the last [1]."""
    third = len(samples) // 3
    ends = []
    for part in (samples[:third], samples[-third:]):
        spectrum, step = _spectrum(np.asarray(part, dtype=float), rate_hz)
        near = base * (1 + np.linspace(-0.08, 0.08, 161))
        ends.append(float(near[int(np.argmax([_comb(spectrum, step, one) for one in near]))]))
    return abs(ends[1] - ends[0]) / base


def _spectrum(samples: Array, rate_hz: float) -> tuple[Array, float]:
    """Amplitude spectrum, its slow slope taken out, and the step between its lines [Hz]."""
    size = 1 << max(15, math.ceil(math.log2(4 * len(samples))))
    shaped = (samples - samples.mean()) * np.hanning(len(samples))
    lines = np.abs(np.fft.rfft(shaped, size))
    step = rate_hz / size
    lines = lines[: int(HIGHEST_HZ / step) + 2]
    width = max(3, int(60.0 / step))
    kernel = np.ones(width) / width
    floor = np.convolve(lines, kernel, mode="same") + 1e-12
    return np.log1p(lines / floor), step


def _comb(spectrum: Array, step: float, base: float) -> float:
    """Teeth on the harmonics less those half-way between: neither half nor double scores."""
    count = min(HARMONICS, int(HIGHEST_HZ / base))
    order = np.arange(1.0, count + 1.0)
    on = _at(spectrum, step, base * order)
    between = _at(spectrum, step, base * (order - 0.5))
    weight = 1 / np.sqrt(order)
    return float((weight * (on - between)).sum() / weight.sum())


def _at(spectrum: Array, step: float, hertz: Array) -> Array:
    return np.asarray(np.interp(hertz / step, np.arange(len(spectrum)), spectrum))


def _refined(spectrum: Array, step: float, base: float) -> float:
    """The same comb looked at more finely about its best."""
    near = base * (1 + np.linspace(-6e-4, 6e-4, 61))
    return float(near[int(np.argmax([_comb(spectrum, step, one) for one in near]))])

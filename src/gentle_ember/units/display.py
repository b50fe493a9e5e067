"""Numbers as people read them: three significant figures, rounded to the safe side."""

from __future__ import annotations

import math
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_EVEN, Decimal
from fractions import Fraction
from functools import lru_cache

from gentle_ember.core.base.figure import Figure, Input, Rounding
from gentle_ember.units.registry import System, from_si, unit_for

_MODES = {
    Rounding.DOWN: ROUND_FLOOR,
    Rounding.UP: ROUND_CEILING,
    Rounding.NEAREST: ROUND_HALF_EVEN,
}
SIGNIFICANT = 3


@dataclass(frozen=True, slots=True)
class Shown:
    """A number in one system of units: text, unit, its band's ends, and the bare number."""

    text: str
    unit: str
    low: str
    high: str
    number: float


def rounded(value: float, decimals: int, significant: int, rounding: Rounding) -> Decimal:
    """Round to so many significant figures, with at most so many decimals, in one direction.

    >>> rounded(2968.4, 0, 3, Rounding.DOWN), rounded(2968.4, 0, 3, Rounding.UP)
    (Decimal('2960'), Decimal('2970'))
    >>> rounded(9.03, 1, 3, Rounding.DOWN)
    Decimal('9.0')
    """
    if value == 0:
        return Decimal(0)
    places = significant - 1 - math.floor(math.log10(abs(value)))
    places = min(places, decimals)
    # 12 significant figures first, so that a sum's last bit can't push a round number down.
    exact = Decimal(f"{value:.12g}")
    result = exact.quantize(Decimal((0, (1,), -places)), rounding=_MODES[rounding])
    return (result if places >= 0 else result.quantize(Decimal(1))) + Decimal(0)


def text_of(number: Decimal) -> str:
    """With thousands separators and a true minus sign.

    >>> text_of(Decimal("-1450.0"))
    '−1,450.0'
    """
    return f"{number:,f}".replace("-", "−")


def trimmed(text: str) -> str:
    """Without noughts that say nothing.

    >>> trimmed("10.50"), trimmed("3.0"), trimmed("120")
    ('10.5', '3', '120')
    """
    return text.rstrip("0").rstrip(".") if "." in text else text


def show(figure: Figure, system: System) -> Shown:
    """A figure in one system, its band rounded outward; what has no band has equal ends."""
    unit = unit_for(figure.kind, system, figure.value)

    def at(value: float, rounding: Rounding) -> Decimal:
        scaled = from_si(value, figure.kind, unit)
        return rounded(scaled, unit.decimals, SIGNIFICANT, rounding)

    number = at(figure.value, figure.rounding)
    low = high = number
    if figure.band.low < figure.band.high:
        low, high = at(figure.band.low, Rounding.DOWN), at(figure.band.high, Rounding.UP)
    return Shown(text_of(number), unit.text, text_of(low), text_of(high), float(number))


@lru_cache(maxsize=16384)
def show_value(value: float, kind: str, system: System, significant: int = 6) -> tuple[str, str]:
    """Text and unit of a plain value, to nearest; trailing zeros dropped."""
    unit = unit_for(kind, system, value)
    number = rounded(from_si(value, kind, unit), unit.decimals, significant, Rounding.NEAREST)
    if number == number.to_integral_value():
        number = number.to_integral_value()
    return text_of(number), unit.text


def counted(count: float, system: System, *, by_length: bool) -> str:
    """How many of a part; of one sold by its length, how long a piece, never too short.

    >>> counted(2, "us", by_length=False), counted(3.2, "us", by_length=True)
    ('2', '10.5 ft')
    >>> counted(4.9, "us", by_length=True), counted(4.9, "metric", by_length=True)
    ('16.1 ft', '4.9 m')
    """
    if not by_length:
        return f"{count:g}"
    unit = unit_for("length", system)
    needed = rounded(from_si(count, "length", unit), 1, 6, Rounding.UP)
    return f"{trimmed(text_of(needed))} {unit.text}"


def tape(value_m: float, system: System) -> str:
    """A distance as it is found on a tape: to the nearest 1/32 in, or to half a millimeter.

    >>> tape(0.133, "us"), tape(0.203, "us"), tape(0.133, "metric")
    ('5-1/4 in', '8 in', '133 mm')
    """
    if system == "metric":
        return f"{round(value_m * 2e3) / 2:g} mm"
    whole, rest = divmod(round(value_m / 0.0254 * 32), 32)
    part = Fraction(rest, 32)
    text = f"{whole}-{part}" if whole and part else str(part if part else whole)
    return f"{text} in"


def show_input(entry: Input, system: System) -> str:
    """An input of a working as text with its unit."""
    if isinstance(entry.value, str):
        return entry.value
    text, unit = show_value(entry.value, entry.kind, system, 5)
    return f"{text} {unit}".strip()

"""Read a quantity as a technician types it: any unit, fractions, feet and inches, products."""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from gentle_ember.core.base.quantities import KINDS
from gentle_ember.units.display import show_value, trimmed
from gentle_ember.units.registry import System, registry, unit_for

if TYPE_CHECKING:
    import pint

LONGEST = 80


class ReadingError(ValueError):
    """Text that is not a quantity of the kind asked for; the message is for the person."""


_FRACTIONS = str.maketrans({"⁄": "/", "−": "-", "–": "-", "×": "*", "·": "*", "•": "*"})
_MARKS = str.maketrans({"′": "'", "’": "'", "‘": "'", "″": '"', "”": '"', "“": '"'})
_WATER = re.compile(
    r'(?:inches|inch|in\.?|")\s*(?:of\s+)?(?:w\.?\s*c\.?|h2o|water(?:\s+column)?|wg)(?![a-z])',
    re.I,
)
_TORQUES = (
    (re.compile(r"(?<![a-z])n\s*[·.*]?\s*m(?![a-z])", re.I), "newtonmeter"),
    (re.compile(r"(?<![a-z])(?:in\s*[·.*-]?\s*lbf?|lbf?\s*[·.*-]?\s*in)(?![a-z])", re.I), "inlb"),
    (re.compile(r"(?<![a-z])(?:ft\s*[·.*-]?\s*lbf?|lbf?\s*[·.*-]?\s*ft)(?![a-z])", re.I), "ftlb"),
)
"""Torques are written as products; read as one word before products are."""
_OUNCES = re.compile(r"(?:oz|ounces?)\s*(?:/|per)\s*(?:in\s*(?:\^|\*\*)?\s*2|sq\.?\s*in\.?)", re.I)
_NUMBER = re.compile(
    r"(?P<whole>[-+]?(?:\d[\d,]*\.?\d*|\.\d+)(?:e[-+]?\d+)?)"
    r"(?:(?:\s*-\s*|\s+)(?P<top>\d+)\s*/\s*(?P<bottom>\d+)|\s*/\s*(?P<over>2|3|4|8|16|32|64)(?![\d.]))?",
    re.I,
)

_APPARENT = re.compile(r"(?<![A-Za-z])k?va(?![A-Za-z])", re.I)
"""Volt-amperes: on a plate they are the alternator's, and never taken for watts."""
_UNIT = re.compile(r"(?:[^\d.]|\.(?!\d)|(?<=[A-Za-z])[23](?![\dA-Za-z.]))*")
"""Anything up to the next number; a 2 or 3 that ends a word is a power, as in ft3/h."""

_ALIASES: dict[str, str] = {
    "'": "foot", "ft": "foot", "feet": "foot", '"': "inch", "in": "inch", "ins": "inch",
    "inches": "inch", "m": "meter", "mm": "millimeter",
    "cm": "centimeter", "km": "kilometer", "yd": "yard", "mi": "mile",
    "w": "watt", "watts": "watt", "kw": "kilowatt", "k": "kilowatt", "hp": "horsepower",
    "bhp": "horsepower", "ps": "metric_horsepower", "va": "watt", "kva": "kilowatt",
    "v": "volt", "volts": "volt", "a": "ampere", "amp": "ampere", "amps": "ampere",
    "ohm": "ohm", "ohms": "ohm", "ω": "ohm", "Ω": "ohm", "kohm": "kiloohm", "kω": "kiloohm",
    "kΩ": "kiloohm", "megohm": "megaohm", "megohms": "megaohm",
    "hz": "hertz", "rpm": "revolutions_per_minute",
    "btu/h": "Btu/hour", "btuh": "Btu/hour", "btu/hr": "Btu/hour", "btu": "Btu",
    "kbtu/h": "kiloBtu/hour", "mbh": "kiloBtu/hour",
    "gal": "gallon", "gals": "gallon", "gallons": "gallon", "usgal": "gallon", "qt": "quart",
    "pt": "pint", "l": "liter", "ml": "milliliter",
    "cc": "centimeter**3", "cm3": "centimeter**3", "ccm": "centimeter**3", "cu in": "inch**3",
    "cuin": "inch**3", "ci": "inch**3", "in3": "inch**3", "m3": "meter**3", "ft3": "foot**3",
    "cu ft": "foot**3", "cf": "foot**3",
    "lb": "pound", "lbs": "pound", "pounds": "pound", "kg": "kilogram", "kgs": "kilogram",
    "oz": "ounce", "g": "gram",
    "h": "hour", "hr": "hour", "hrs": "hour", "hours": "hour", "min": "minute",
    "mins": "minute", "minutes": "minute", "s": "second", "sec": "second", "d": "day",
    "days": "day", "yr": "year", "yrs": "year", "years": "year", "y": "year", "months": "month",
    "month": "month", "weeks": "week", "week": "week", "ppm": "ppm", "ppmv": "ppm",
    "°f": "degF", "degf": "degF", "deg f": "degF", "f": "degF", "°c": "degC", "degc": "degC",
    "deg c": "degC", "c": "degC", "°k": "kelvin",
    "inwc": "inch_water_column", "osi": "ounce_per_square_inch",
    "psi": "psi", "psig": "psi", "mbar": "millibar", "bar": "bar", "kpa": "kilopascal",
    "pa": "pascal", "inhg": "inHg", "mmhg": "mmHg",
    "kwh": "kilowatt_hour", "wh": "watt_hour", "mj": "megajoule", "therm": "therm",
    "%": "percent", "percent": "percent", "pct": "percent",
    "btu/ft3": "Btu/foot**3", "btu/cf": "Btu/foot**3", "btu/cu ft": "Btu/foot**3",
    "mj/m3": "megajoule/meter**3", "kwh/m3": "kilowatt_hour/meter**3",
    "btu/lb": "Btu/pound", "mj/kg": "megajoule/kilogram",
    "cfh": "foot**3/hour", "scfh": "foot**3/hour", "ft3/h": "foot**3/hour",
    "ft3/hr": "foot**3/hour", "m3/h": "meter**3/hour", "lb/h": "pound/hour",
    "lb/hr": "pound/hour", "kg/h": "kilogram/hour", "kg/hr": "kilogram/hour",
    "newtonmeter": "newton*meter", "inlb": "force_pound*inch", "ftlb": "force_pound*foot",
    "gph": "gallon/hour", "gal/h": "gallon/hour", "l/h": "liter/hour",
}  # fmt: skip
_KELVIN_ONLY = {"k": "kelvin"}
_COUNTED = {"turns": ("turn", "turns"), "price": ("$", "usd", "dollars"),
            "money": ("$", "usd", "dollars", "€", "eur", "euros", "£", "gbp", "pounds"),
            "sound_level": ("db(a)", "dba", "db")}  # fmt: skip
"""What counts of a kind may be called; they carry no dimension."""


@dataclass(frozen=True, slots=True)
class _Term:
    number: float
    unit: str


def read(text: str, kind: str, system: System) -> float:
    """Read a typed quantity.

    A bare number takes the unit the field shows in the person's system.

    Args:
        text: what was typed.
        kind: the quantity kind the field wants.
        system: "us" or "metric".

    Returns:
        The value in the kind's SI unit.

    Raises:
        ReadingError: says what was understood and what would do instead.

    >>> round(read("2000 ft", "elevation", "us"), 1), round(read("5' 6\\"", "length", "us"), 4)
    (609.6, 1.6764)
    >>> round(read("120 V × 9 A", "power", "us"))
    1080
    """
    if len(text) > LONGEST:
        raise ReadingError(f"Too long: a quantity takes at most {LONGEST} characters.")
    cleaned = _clean(text)
    if kind in ("money", "price"):
        cleaned = re.sub(r"^(-?)\s*[$€£]\s*", r"\1", cleaned)
    if not re.search(r"\d", cleaned):
        raise ReadingError(f"“{text.strip()}” has no number in it. {_example(kind, system)}")
    if kind == "power" and (apparent := _APPARENT.search(cleaned)):
        raise ReadingError(
            f"{apparent[0]} is not {apparent[0].replace('VA', 'W').replace('va', 'W')}: it holds "
            "for the current. Ask for its watts; 5.5 kVA at a power factor of 0.8 are 4.4 kW."
        )
    _refuse_the_other_of_two(cleaned, kind)
    factors = [part for part in re.split(r"\s*\*\s*", cleaned) if part]
    value = None
    for factor in factors:
        quantity = _sum(factor, kind, system, lone=len(factors) == 1)
        value = quantity if value is None else value * quantity
    if value is None:
        raise ReadingError(_example(kind, system))
    return _to_si(value, text.strip(), kind, system)


def fits(text: str, kinds: Iterable[str], system: System) -> dict[str, float]:
    """Which of some kinds a typed quantity may be, each with its SI value, the likelier first.

    A unit that one of them is usually given in decides; where it is usual for several, or for
    none, all that fit are told.

    Raises:
        ReadingError: it fits none; says why.
    """
    cleaned = _clean(text)
    if re.fullmatch(r"[-+]?[\d,./\s-]*\d", cleaned):
        raise ReadingError("A bare number could be anything: give it a unit, like 7 in w.c.")
    found: dict[str, float] = {}
    told: list[ReadingError] = []
    for kind in kinds:
        try:
            found[kind] = read(text, kind, system)
        except ReadingError as error:
            told.append(error)
    if not found:
        # What says more than that it is another kind comes first.
        for why in told:
            if "” is not a " not in str(why) or "not a unit" in str(why):
                raise why
        names = ", ".join(dict.fromkeys(KINDS[key].name for key in kinds))
        raise ReadingError(f"“{text.strip()}” is none of: {names}.")
    usual = [kind for kind in found if _usual(cleaned, kind)]
    return {kind: found[kind] for kind in usual or found}


def _usual(cleaned: str, kind: str) -> bool:
    """Whether a text ends in a unit this kind is usually given in."""
    from gentle_ember.units.registry import CONVERSIONS

    terms = [part for part in re.split(r"\s*\*\s*", cleaned) if part]
    if len(terms) != 1:
        return False
    try:
        typed = _unit(_terms(terms[0])[-1].unit, kind)
    except ReadingError:
        return False
    return any(registry().Unit(unit.pint) == typed for unit in CONVERSIONS.get(kind, ()))


_HERTZ, _RPM = (
    re.compile(r"(?<![a-z])(?:k?hz|hertz)(?![a-z])", re.I),
    re.compile(r"(?<![a-z])(?:rpm|turns?\s*/\s*s|1/min)(?![a-z])", re.I),
)


def _refuse_the_other_of_two(cleaned: str, kind: str) -> None:
    """Hertz of the output and turns of the engine go together by poles, and never by 2π."""
    first = _NUMBER.match(cleaned)
    if first is None:
        return
    number = _number(first)
    if kind == "speed" and _HERTZ.search(cleaned):
        raise ReadingError(
            f"{number:g} Hz is of the output: {60 * number:g} rpm with two poles, "
            f"{30 * number:g} rpm with four. Type the rpm."
        )
    if kind == "frequency" and _RPM.search(cleaned):
        raise ReadingError(
            f"{number:g} rpm is of the engine: {number / 60:g} Hz with two poles, "
            f"{number / 30:g} Hz with four. Type the hertz."
        )


def _clean(text: str) -> str:
    text = text.strip().translate(_FRACTIONS).translate(_MARKS)
    for char in set(text):
        parts = unicodedata.normalize("NFKC", char)
        if "⁄" in parts:  # vulgar fractions: 1½ → 1 1/2
            text = text.replace(char, " " + parts.replace("⁄", "/"))
    text = text.replace("²", "2").replace("³", "3").strip()
    text = _WATER.sub(" inwc ", text)
    text = _OUNCES.sub(" osi ", text)
    for pattern, word in _TORQUES:
        text = pattern.sub(f" {word} ", text)
    text = re.sub(r"(?<=[\d\s])[xX](?=[\s\d])", "*", text)
    text = re.sub(r"\bsq\.?\s*in\b", "in2", text, flags=re.I)
    text = re.sub(r"(?<=[A-Za-z])(?:\^|\*\*)(?=[23])", "", text)
    return re.sub(r"\s+", " ", text).strip()


def _number(match: re.Match[str]) -> float:
    whole = match["whole"]
    if re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+(\.\d*)?", whole):
        whole = whole.replace(",", "")
    elif "," in whole:
        if re.fullmatch(r"[-+]?\d+,\d+", whole):
            whole = whole.replace(",", ".")
        else:
            raise ReadingError(f"“{match[0].strip()}” is not a number I can read.")
    value = float(whole)
    sign = -1.0 if whole.startswith("-") else 1.0
    if match["bottom"]:
        if int(match["bottom"]) == 0:
            raise ReadingError("A fraction can't have zero under the line.")
        value += sign * int(match["top"]) / int(match["bottom"])
    elif match["over"]:
        if int(match["over"]) == 0:
            raise ReadingError("A fraction can't have zero under the line.")
        value /= int(match["over"])
    if not math.isfinite(value):
        raise ReadingError(f"“{match[0].strip()}” is too large to be meant.")
    return value


def _terms(text: str) -> list[_Term]:
    found: list[_Term] = []
    position = 0
    while position < len(text):
        match = _NUMBER.match(text, position)
        if match is None or (found and match["whole"][0] in "+-"):
            raise ReadingError(f"“{text[position:].strip()}” can't be read after a quantity.")
        end = match.end()
        follows = _UNIT.match(text, end)
        unit = follows[0] if follows else ""
        found.append(_Term(_number(match), unit.strip()))
        position = end + len(unit)
    return found


def _unit(name: str, kind: str) -> pint.Unit:
    folded = re.sub(r"\s*/\s*", "/", name.rstrip(".").strip())
    folded = re.sub(r"/hr?$", "/h", folded, flags=re.I)
    if kind in ("temperature", "temperature_difference") and folded.lower() in _KELVIN_ONLY:
        return registry().Unit("kelvin")
    if folded.lower() in _COUNTED.get(kind, ()):
        return registry().Unit("dimensionless")
    alias = _ALIASES.get(folded) or _ALIASES.get(folded.lower())
    try:
        return registry().parse_units(alias or re.sub(r"(?<=[A-Za-z])([23])\b", r"**\1", folded))
    except Exception:  # pint's parser raises its own zoo on odd text
        raise ReadingError(f"“{name}” is not a unit I know.") from None


def _sum(text: str, kind: str, system: System, *, lone: bool) -> pint.Quantity[float]:
    terms = _terms(text)
    total: pint.Quantity[float] | None = None
    for index, term in enumerate(terms):
        if not term.unit:
            if not lone or len(terms) > 1:
                raise ReadingError(f"“{text}” needs a unit after every number.")
            _refuse_doubtful_share(term.number, text, kind)
            unit = registry().Unit(unit_for(kind, system).pint)
        else:
            unit = _unit(term.unit, kind)
        if kind == "temperature_difference" and str(unit).startswith("degree_"):
            unit = registry().Unit("delta_" + str(unit))
        sign = -1.0 if index and terms[0].number < 0 else 1.0
        quantity = registry().Quantity(sign * term.number, unit)
        try:
            total = quantity if total is None else total + quantity
        except _errors().PintError:
            raise ReadingError(f"The parts of “{text}” don't go together.") from None
    if total is None:
        raise ReadingError(f"“{text}” has no number in it.")
    return total


def _refuse_doubtful_share(number: float, text: str, kind: str) -> None:
    if kind == "share" and 0 < abs(number) <= 1 and not text.strip().startswith("1"):
        percent = f"{100 * number:g}"
        raise ReadingError(f"Is that {percent} % or {number:g} %? Type it with the % sign.")


def _errors() -> Any:
    """Pint's own errors; pint itself is loaded when the first quantity is read."""
    import pint

    return pint.errors


def _to_si(value: pint.Quantity[float], text: str, kind: str, system: System) -> float:
    si = KINDS[kind].si
    try:
        magnitude = float(value.to(si).magnitude)
    except _errors().DimensionalityError:
        raise ReadingError(
            f"“{text}” is not a {KINDS[kind].name}. {_example(kind, system)}"
        ) from None
    except _errors().PintError:
        raise ReadingError(f"“{text}” can't be used here. {_example(kind, system)}") from None
    if not math.isfinite(magnitude):
        raise ReadingError(f"“{text}” is not a finite number.")
    if kind == "temperature" and magnitude < 0:
        raise ReadingError(f"“{text}” is below absolute zero.")
    return magnitude


def example(kind: str, system: System) -> str:
    """A sample of what a field of this kind takes."""
    return shown_sample(KINDS[kind].sample, kind, system)


def shown_sample(value: float, kind: str, system: System) -> str:
    """A sample as a hand would type it: three figures, noughts that say nothing left out.

    >>> shown_sample(0.7e-3, "clearance", "metric"), shown_sample(3.785e-4, "volume", "us")
    ('0.7 mm', '0.1 gal')
    """
    text, unit = show_value(value, kind, system, 3)
    return f"{trimmed(text)} {unit}".strip()


def _example(kind: str, system: System) -> str:
    return f"Type it like {example(kind, system)}."

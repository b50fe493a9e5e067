"""Small quick answers, each a few quantities in and Figures out, in one registry."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Input,
    Method,
    Origin,
    Rounding,
    exact,
    spread,
)
from gentle_ember.core.base.quantities import REFERENCE_TEMPERATURE_K, STANDARD_PRESSURE_PA, check
from gentle_ember.core.physics import air, hose
from gentle_ember.core.physics.fuels import GASOLINE_E10, PROPANE, Fuel, biogas, natural_gas
from gentle_ember.core.physics.load_screw import HORSEPOWER_W, SCREW_START, area_ratio

HOSE_BAND = 0.12
CUBIC_FOOT_M3 = 0.0283168466
METER_DIALS = (
    ("half a cubic foot", 0.5 * CUBIC_FOOT_M3), ("1 ft³", CUBIC_FOOT_M3),
    ("2 ft³", 2 * CUBIC_FOOT_M3), ("5 ft³", 5 * CUBIC_FOOT_M3), ("10 L", 0.01), ("100 L", 0.1),
)  # fmt: skip
"""What one turn of a gas meter's test dial passes [m³]."""
NOT_ENOUGH = "Not enough: raise the tank or fit a larger bore."
TOO_HIGH = "Too high: the float needle may not hold. Lower the tank."
GASES = ("propane", "natural_gas", "biogas")

METER_CLOCK = Method(
    "meter-clock",
    "Clocked gas meter",
    "flow = dial × turns / seconds × (p meter/101,325 Pa)·(288.15 K/T gas) − pilots",
    "the meter's own dial; gas law to 15 °C and 101,325 Pa",
    "meter-clock",
)
GAS_CHANGE = Method(
    "gas-change",
    "Change of gas at equal λ",
    "area ratio = (AFR₁/AFR₂)·√(ρ₁/ρ₂)",
    "same venturi signal and air flow; fuel flow ∝ area·√ρ",
    "load-screw",
)

Values = Mapping[str, float | str | None]
FIELD_OF = {
    "test dial": "dial_m3",
    "turns": "turns",
    "time": "seconds_s",
    "meter pressure": "pressure_pa",
    "gas temperature": "gas_k",
    "elevation": "elevation_m",
    "pilots": "pilots_w",
    "flow less pilots": "pilots_w",
    "heating value (HHV)": "hhv_j_m3",
    "running rating": "running_w",
    "shaft power": "shaft_w",
    "fuel power (HHV)": "heat_w",
    "pressure drop": "bore_m",
    "hose bore": "bore_m",
    "hose length": "length_m",
    "loss coefficient": "k",
    "head": "head_m",
    "highest surface": "highest_m",
    "volume": "volume_m3",
    "pressure before": "before_pa",
    "pressure after": "after_pa",
    "temperature before": "before_k",
    "temperature after": "after_k",
    "allowed drop": "allowed_pa",
    "jet number": "number",
    "made for": "made_m",
    "step": "step",
    "temperature": "day_k",
    "λ measured": "lam",
    "pressure across it": "drop_pa",
    "heat rate": "heat_w",
    "bore": "bore_m",
    "left leg": "left_m",
    "right leg": "right_m",
}
"""The field a quantity out of range stands in."""


@dataclass(frozen=True, slots=True)
class AnswerField:
    """One thing asked: a quantity of a kind [SI] with its default, or a choice."""

    name: str
    label: str
    kind: str
    default: float | str | None = None
    sample: str = ""
    """The default as typed; empty where the field may be left empty."""
    assumed: str = ""
    options: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Answer:
    """A quick answer: its texts, its fields and the function that answers."""

    key: str
    title: str
    text: str
    caution: str
    fields: tuple[AnswerField, ...]
    solve: Callable[[Values], tuple[Figure, ...]]


def number(values: Values, name: str, fallback: float | None = None) -> float:
    """A value [SI] by its name, or what stands in for it; not a number when it is missing."""
    value = values.get(name)
    if value is None and fallback is not None:
        return fallback
    return float(value) if isinstance(value, int | float) else math.nan


def gas(values: Values, name: str) -> Fuel:
    """The gas chosen, propane when none is."""
    key = values.get(name)
    if key == "natural_gas":
        return natural_gas()
    if key == "biogas":
        return biogas(number(values, "methane_share", 0.60))
    return PROPANE


def row(label: str, value: float | str, kind: str = "text", origin: Origin = Origin.OWNER) -> Input:
    """An input of a working, as told unless its origin is another."""
    return Input(label, value, kind, origin)


def meter_clock(values: Values) -> tuple[Figure, ...]:
    """Flow and heat rate from the seconds a meter's test dial takes."""
    dial = check("test dial", "volume", number(values, "dial_m3"), 1e-5, 1.0)
    turns = check("turns", "count", number(values, "turns"), 0.25, 1000.0)
    seconds = check("time", "duration", number(values, "seconds_s"), 5.0, 7200.0)
    gauge = check("meter pressure", "pressure", number(values, "pressure_pa", 1744.0), 0.0, 70e3)
    kelvin = check("gas temperature", "temperature", number(values, "gas_k", 288.15), 233.0, 330.0)
    elevation = number(values, "elevation_m", 0.0)
    pilots = check("pilots", "heat_rate", number(values, "pilots_w", 0.0), 0.0, 1e5)
    fuel = natural_gas(number(values, "hhv_j_m3", natural_gas().hhv_j_m3))
    absolute = air.pressure(elevation) + gauge
    correction = absolute / STANDARD_PRESSURE_PA * REFERENCE_TEMPERATURE_K / kelvin
    flow = dial * turns / seconds * correction - pilots / fuel.hhv_j_m3
    check("flow less pilots", "volume_flow", flow, 1e-9, 10.0)
    share = 0.02 + 1.0 / seconds
    inputs = (
        row("test dial, one turn", dial, "volume"),
        row("turns", turns, "count"),
        row("time", f"{seconds:g} s"),
        row("gauge pressure at the meter", gauge, "pressure"),
        row("gas temperature", kelvin, "temperature"),
        row("air pressure here", air.pressure(elevation), "pressure", Origin.COMPUTED),
        row("correction to 15 °C, 101,325 Pa", correction, "ratio", Origin.COMPUTED),
        row("pilots and others", pilots, "heat_rate"),
        row("heating value (HHV)", fuel.hhv_j_m3, "heating_value_volume"),
    )
    narrows = ("clock more turns; a minute at least", "the utility's heating value of the day")
    return (
        Figure("meter.flow", "flow", flow, "volume_flow", METER_CLOCK, spread(flow, share), inputs,
               narrows=narrows),
        Figure("meter.heat", "heat rate (HHV)", flow * fuel.hhv_j_m3, "heat_rate", METER_CLOCK,
               spread(flow * fuel.hhv_j_m3, share + 0.02), inputs, narrows=narrows),
    )  # fmt: skip


def gas_change(values: Values) -> tuple[Figure, ...]:
    """How much more or less area, and screw, another gas wants."""
    before, after = gas(values, "before"), gas(values, "after")
    ratio = area_ratio(before, after)
    inputs = (
        row("from", before.name),
        row("to", after.name),
        row("air–fuel ratio, from", before.air_fuel_ratio, "air_fuel_ratio", Origin.TABLE),
        row("air–fuel ratio, to", after.air_fuel_ratio, "air_fuel_ratio", Origin.TABLE),
        row("density, from", before.density_kg_m3, "density", Origin.TABLE),
        row("density, to", after.density_kg_m3, "density", Origin.TABLE),
    )
    found = [
        Figure("change.area", "metering area, ratio", ratio, "ratio", GAS_CHANGE,
               spread(ratio, 0.05), inputs, estimated=True, narrows=("a sweep on the other gas",))
    ]  # fmt: skip
    turns = values.get("turns")
    if turns is not None:
        count = check("turns", "turns", number(values, "turns"), 0.1, 40.0)
        found.append(
            Figure("change.turns", "screw from its seat, to start with", count * ratio, "turns",
                   GAS_CHANGE, spread(count * ratio, 0.25),
                   (*inputs, row("set before", count, "turns")), estimated=True,
                   warnings=("Taken as opening evenly by the turn: verify by a sweep.",),
                   narrows=("a sweep on the other gas",))
        )  # fmt: skip
    return tuple(found)


def load_screw_start(values: Values) -> tuple[Figure, ...]:
    """Turns from the seat to start a load screw at."""
    fuel = gas(values, "gas")
    watts = values.get("shaft_w")
    if watts is None:
        rated = check("running rating", "power", number(values, "running_w"), 100.0, 50e3)
        shaft = rated / 0.82
        inputs = [row("running rating", rated, "power"),
                  row("alternator efficiency", 0.82, "share", Origin.ASSUMED)]  # fmt: skip
    else:
        shaft = check("shaft power", "power", number(values, "shaft_w"), 100.0, 80e3)
        inputs = [row("shaft power", shaft, "power")]
    ratio = area_ratio(PROPANE, fuel)
    turns = 0.25 * shaft / HORSEPOWER_W * ratio
    inputs += [
        row("shaft horsepower", shaft / HORSEPOWER_W, "ratio", Origin.COMPUTED),
        row("gas", fuel.name),
        row("area ratio to propane", ratio, "ratio", Origin.COMPUTED),
    ]
    return (
        Figure("screw.turns", "start from the seat at", turns, "turns", SCREW_START,
               spread(turns, 0.40), tuple(inputs), estimated=True,
               warnings=("In is lean, out is rich. Sweep from here under load.",),
               narrows=("the maker's preset", "the last ten of this class")),
    )  # fmt: skip


def coupler_loss(values: Values) -> tuple[Figure, ...]:
    """What a gas hose with its coupler drops at a fuel power."""
    fuel = gas(values, "gas")
    heat = check("fuel power (HHV)", "heat_rate", number(values, "heat_w"), 100.0, 1e6)
    bore = number(values, "bore_m")
    length = number(values, "length_m")
    k = number(values, "k", 2.0)
    lhv = heat * fuel.lhv_j_kg / fuel.hhv_j_kg
    value = hose.gas_drop(fuel, lhv, bore, length, k)
    check("pressure drop", "pressure", value, 0.0, 0.1 * STANDARD_PRESSURE_PA)
    alone = hose.gas_drop(fuel, lhv, bore, 0.0, k)
    inputs = (
        row("gas", fuel.name),
        row("fuel power (HHV)", heat, "heat_rate"),
        row("flow", lhv / fuel.lhv_j_m3, "volume_flow", Origin.COMPUTED),
        row("bore", bore, "small_length"),
        row("length", length, "length"),
        row("loss coefficient of the fittings", k, "ratio"),
        row("roughness of the hose", "30 µm", "text", Origin.TABLE),
    )
    narrows = ("the coupler's own Cv or K", "a manometer on both sides at full load")

    def figure(key: str, label: str, pascal: float) -> Figure:
        return Figure(f"loss.{key}", label, pascal, "pressure", hose.HOSE,
                      spread(pascal, HOSE_BAND), inputs, rounding=Rounding.UP, estimated=True,
                      narrows=narrows)  # fmt: skip

    return (
        figure("whole", "drops in all", value),
        figure("fittings", "of it in the fittings", alone),
    )


def gravity_feed(values: Values) -> tuple[Figure, ...]:
    """What a gravity tank's head drives, against what full load takes."""
    head = check("head", "length", number(values, "head_m"), -5.0, 5.0)
    highest = check("highest surface", "length", number(values, "highest_m", head), -5.0, 5.0)
    bore, length = number(values, "bore_m"), number(values, "length_m")
    k = number(values, "k", 8.0)
    rated = check("running rating", "power", number(values, "running_w"), 100.0, 50e3)
    need = rated / 0.17 / (GASOLINE_E10.lhv_j_kg * GASOLINE_E10.density_kg_m3)
    flow = hose.gravity_flow(head, bore, length, k)
    inputs = (
        row("lowest usable surface above the bowl", head, "length"),
        row("bore", bore, "small_length"),
        row("length", length, "length"),
        row("loss coefficient: filter, coupler, valve", k, "ratio"),
    )
    needs = (row("running rating", rated, "power"),
             row("full-load efficiency", 0.17, "share", Origin.ASSUMED))  # fmt: skip
    margin = flow / need
    floats = GASOLINE_E10.density_kg_m3 * hose.GRAVITY * max(0.0, highest)
    high = highest > hose.NEEDLE_HEAD_M
    return (
        Figure("feed.flow", "the head drives", flow, "liquid_flow", hose.GRAVITY_FEED,
               spread(flow, HOSE_BAND), inputs, rounding=Rounding.DOWN, estimated=True,
               narrows=("catch it in a jar for a minute",)),
        Figure("feed.margin", "over full load, at least 2 is asked", margin, "ratio",
               hose.GRAVITY_FEED, Band(margin * 0.7, margin * 1.3), (*inputs, *needs),
               rounding=Rounding.DOWN, estimated=True,
               warnings=() if margin >= 2 else (NOT_ENOUGH,)),
        Figure("feed.needle", "presses on the float needle", floats, "pressure",
               hose.GRAVITY_FEED, exact(floats),
               (row("highest surface above the bowl", highest, "length"),),
               rounding=Rounding.UP,
               warnings=(TOO_HIGH,) if high else ()),
    )  # fmt: skip


GAS_OPTIONS = (("propane", "propane"), ("natural_gas", "natural gas"), ("biogas", "biogas 60 %"))
_BORE = AnswerField("bore_m", "Bore", "small_length", 9.525e-3, "3/8 in")
_RUNNING = AnswerField("running_w", "Running rating", "power", 5000.0, "5000 W")

_ALL = (
    Answer(
        "meter-clock", "Meter clock", "Gas flow from the seconds a turn of the test dial takes.",
        "Only what you want to measure may burn; count the pilots that can't be shut.",
        (
            AnswerField("dial_m3", "One turn of the test dial", "volume", CUBIC_FOOT_M3, "1 ft³"),
            AnswerField("turns", "Turns", "count", 2.0, "2"),
            AnswerField("seconds_s", "Time for them", "duration", 62.0, "62 s"),
            AnswerField("pressure_pa", "Pressure at the meter", "pressure", None, "", "7 in w.c."),
            AnswerField("gas_k", "Gas temperature", "temperature", None, "", "15 °C"),
            AnswerField("elevation_m", "Elevation", "elevation", None, "", "sea level"),
            AnswerField("pilots_w", "Pilots and others", "heat_rate", None, "", "none"),
            AnswerField("hhv_j_m3", "Heating value (HHV)", "heating_value_volume", None, "",
                        "1,030 BTU/ft³"),
        ),
        meter_clock,
    ),
    Answer(
        "load-screw-start", "Load screw", "Where to start a load screw before the sweep.",
        "A start, not a setting: sweep under load, then lock. Each site and gas has its own.",
        (
            AnswerField("gas", "Gas", "choice", "propane", options=GAS_OPTIONS),
            AnswerField("shaft_w", "Shaft power", "power", None, "", "from the rating"),
            _RUNNING,
        ),
        load_screw_start,
    ),
    Answer(
        "gas-change", "Gas change", "How much more or less metering area another gas needs.",
        "Verify on the other gas; biogas is usually beyond screw and hose.",
        (
            AnswerField("before", "From", "choice", "propane", options=GAS_OPTIONS),
            AnswerField("after", "To", "choice", "natural_gas", options=GAS_OPTIONS),
            AnswerField("turns", "Screw set at", "turns", 2.0, "2 turns"),
        ),
        gas_change,
    ),
    Answer(
        "coupler-loss", "Hose and coupler", "What a gas hose and its coupler drop at full load.",
        "Above ½ psi only factory-made hose of its class; never a field clamp there.",
        (
            AnswerField("gas", "Gas", "choice", "natural_gas", options=GAS_OPTIONS),
            AnswerField("heat_w", "Demand (HHV)", "heat_rate", 38098.7, "130000 BTU/h"),
            _BORE,
            AnswerField("length_m", "Length", "length", 3.0, "3 m"),
            AnswerField("k", "Loss coefficient of the fittings", "ratio", None, "", "2"),
        ),
        coupler_loss,
    ),
    Answer(
        "gravity-feed", "Gravity feed", "Whether a gravity tank feeds enough, and not too hard.",
        "A shut-off at the tank, always; one tank at a time; cool engine, approved container.",
        (
            AnswerField("head_m", "Lowest surface above the bowl", "length", 0.25, "25 cm"),
            AnswerField("highest_m", "Highest surface above it", "length", None, "", "the same"),
            AnswerField("bore_m", "Bore", "small_length", 6.35e-3, "1/4 in"),
            AnswerField("length_m", "Hose length", "length", 2.0, "2 m"),
            AnswerField("k", "Filter, coupler, valve: K", "ratio", None, "", "8"),
            _RUNNING,
        ),
        gravity_feed,
    ),
)  # fmt: skip
ANSWERS: dict[str, Answer] = {answer.key: answer for answer in _ALL}

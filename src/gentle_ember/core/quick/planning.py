"""Quick answers of planning: meter clock, load screw, gas change, hose, gravity feed."""

from __future__ import annotations

from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Method,
    Origin,
    Rounding,
    exact,
    spread,
)
from gentle_ember.core.base.quantities import REFERENCE_TEMPERATURE_K, STANDARD_PRESSURE_PA, check
from gentle_ember.core.physics import air, hose
from gentle_ember.core.physics.fuels import (
    GASOLINE_E10,
    NATURAL_GAS_HHV_J_M3,
    PROPANE,
    natural_gas,
)
from gentle_ember.core.physics.load_screw import HORSEPOWER_W, SCREW_START, area_ratio
from gentle_ember.core.quick.answer import (
    ELEVATION,
    GAS_OPTIONS,
    Answer,
    Values,
    choice,
    gas,
    number,
    optional,
    plain,
    quantity,
    row,
)

HOSE_BAND = 0.12
CUBIC_FOOT_M3 = 0.0283168466
METER_DIALS = (
    ("half a cubic foot", 0.5 * CUBIC_FOOT_M3), ("1 ft³", CUBIC_FOOT_M3),
    ("2 ft³", 2 * CUBIC_FOOT_M3), ("5 ft³", 5 * CUBIC_FOOT_M3), ("10 L", 0.01), ("100 L", 0.1),
)  # fmt: skip
"""What one turn of a gas meter's test dial passes [m³]."""
NOT_ENOUGH = "Not enough: raise the tank or fit a larger bore."
TOO_HIGH = "Too high: the float needle may not hold. Lower the tank."

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


def meter_clock(values: Values) -> tuple[Figure, ...]:
    """Flow and heat rate from the seconds a meter's test dial takes."""
    dial = number(values, "dial_m3")
    turns = number(values, "turns")
    seconds = number(values, "seconds_s")
    gauge = number(values, "pressure_pa", 1744.0)
    kelvin = number(values, "gas_k", 288.15)
    elevation = number(values, "elevation_m", 0.0)
    pilots = number(values, "pilots_w", 0.0)
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
        count = number(values, "turns")
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
        rated = number(values, "running_w")
        shaft = rated / 0.82
        inputs = [row("running rating", rated, "power"),
                  row("alternator efficiency", 0.82, "share", Origin.ASSUMED)]  # fmt: skip
    else:
        shaft = number(values, "shaft_w")
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
    heat = number(values, "heat_w")
    bore = number(values, "bore_m")
    length = number(values, "length_m")
    k = number(values, "k", 2.0)
    lhv = heat * fuel.lhv_j_kg / fuel.hhv_j_kg
    elevation = number(values, "elevation_m", 0.0)
    ambient = air.pressure(elevation)
    # The same heat in thinner gas flows faster: the drop goes with one over the pressure.
    thin = STANDARD_PRESSURE_PA / ambient
    value = thin * hose.gas_drop(fuel, lhv, bore, length, k)
    check("pressure drop", "pressure", value, 0.0, 0.1 * ambient)
    alone = thin * hose.gas_drop(fuel, lhv, bore, 0.0, k)
    inputs = (
        row("gas", fuel.name),
        row("fuel power (HHV)", heat, "heat_rate"),
        row("elevation", elevation, "elevation"),
        row("flow, at 15 °C and sea level", lhv / fuel.lhv_j_m3, "volume_flow", Origin.COMPUTED),
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
    head = number(values, "head_m")
    highest = number(values, "highest_m", head)
    bore, length = number(values, "bore_m"), number(values, "length_m")
    k = number(values, "k", 8.0)
    rated = number(values, "running_w")
    need = rated / 0.17 / (GASOLINE_E10.lhv_j_kg * GASOLINE_E10.density_kg_m3)
    seat = number(values, "seat_m", hose.seat_for(need))
    flow = hose.gravity_flow(head, bore, length, k, seat)
    inputs = (
        row("lowest usable surface above the bowl", head, "length"),
        row("bore", bore, "small_length"),
        row("length", length, "length"),
        row("loss coefficient: filter, coupler, valve", k, "ratio"),
        row("bore of the needle's seat", seat, "small_length"),
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


_BORE = quantity("bore_m", "Bore", "small_length", 2e-3, 0.1, 9.525e-3, "3/8 in")
_RUNNING = quantity("running_w", "Running rating", "power", 100.0, 50e3, 5000.0, "5000 W")

PLANNING = (
    Answer(
        "meter-clock", "Gas flow from the seconds a turn of the test dial takes.",
        "Only what you want to measure may burn; count the pilots that can't be shut.",
        (
            quantity("dial_m3", "One turn of the test dial", "volume", 1e-5, 1.0, CUBIC_FOOT_M3,
                      "1 ft³"),
            quantity("turns", "Turns", "count", 0.25, 1000.0, 2.0, "2"),
            quantity("seconds_s", "Time for them", "duration", 5.0, 7200.0, 62.0, "62 s"),
            optional("pressure_pa", "Pressure at the meter", "pressure", 0.0, 70e3, 1744.0),
            optional("gas_k", "Gas temperature", "temperature", 233.0, 330.0, 288.15),
            ELEVATION,
            optional("pilots_w", "Pilots and others", "heat_rate", 0.0, 1e5, "none"),
            optional("hhv_j_m3", "Heating value (HHV)", "heating_value_volume", 30e6, 48e6,
                      NATURAL_GAS_HHV_J_M3),
        ),
        plain(meter_clock),
    ),
    Answer(
        "load-screw-start", "Where to start a load screw before the sweep.",
        "A start, not a setting: sweep under load, then lock. Each site and gas has its own.",
        (
            choice("gas", "Gas", "propane", GAS_OPTIONS),
            optional("shaft_w", "Shaft power", "power", 100.0, 80e3, "from the rating"),
            _RUNNING,
        ),
        plain(load_screw_start),
    ),
    Answer(
        "gas-change", "How much more or less metering area another gas needs.",
        "Verify on the other gas; biogas is usually beyond screw and hose.",
        (
            choice("before", "From", "propane", GAS_OPTIONS),
            choice("after", "To", "natural_gas", GAS_OPTIONS),
            optional("turns", "Screw set at", "turns", 0.1, 40.0, "not given"),
        ),
        plain(gas_change),
    ),
    Answer(
        "coupler-loss", "What a gas hose and its coupler drop at full load.",
        "Above ½ psi only factory-made hose of its class; never a field clamp there.",
        (
            choice("gas", "Gas", "natural_gas", GAS_OPTIONS),
            quantity("heat_w", "Demand (HHV)", "heat_rate", 100.0, 1e6, 38098.7, "130000 BTU/h"),
            _BORE,
            quantity("length_m", "Length", "length", 0.0, 300.0, 3.0, "3 m"),
            optional("k", "Loss coefficient of the fittings", "ratio", 0.0, 1000.0, "2"),
            ELEVATION,
        ),
        plain(coupler_loss),
    ),
    Answer(
        "gravity-feed", "Whether a gravity tank feeds enough, and not too hard.",
        "A shut-off at the tank, always; one tank at a time; cool engine, approved container.",
        (
            quantity("head_m", "Lowest surface above the bowl", "length", -5.0, 5.0, 0.25,
                      "25 cm"),
            optional("highest_m", "Highest surface above it", "length", -5.0, 5.0, "the same"),
            quantity("bore_m", "Bore", "small_length", 2e-3, 0.1, 6.35e-3, "1/4 in"),
            quantity("length_m", "Hose length", "length", 0.0, 300.0, 2.0, "2 m"),
            optional("k", "Filter, coupler, valve: K", "ratio", 0.0, 1000.0, "8"),
            optional("seat_m", "Bore of the needle's seat", "small_length", 0.5e-3, 6e-3,
                     "by the engine's size"),
            _RUNNING,
        ),
        plain(gravity_feed),
    ),
)  # fmt: skip

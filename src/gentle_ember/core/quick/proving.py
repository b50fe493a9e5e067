"""Quick answers of proving: leak by decay, jet, orifice."""

from __future__ import annotations

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Method,
    Origin,
    Rival,
    Rounding,
    exact,
    spread,
)
from gentle_ember.core.base.quantities import REFERENCE_TEMPERATURE_K
from gentle_ember.core.physics import air, jets, orifice
from gentle_ember.core.physics.decay import LIMIT_M3_S, READ_PA, decay
from gentle_ember.core.physics.fuels import GASOLINES
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.quick.answer import (
    ELEVATION,
    GAS_OPTIONS,
    Answer,
    QuickError,
    Values,
    choice,
    gas,
    number,
    optional,
    plain,
    quantity,
    row,
)

_BURNS = tuple((key, fuel.name) for key, fuel in GASOLINES.items())
AIR_K = (air.TEMPERATURE_RANGE_K[0], air.TEMPERATURE_RANGE_K[1])


def leak_decay(values: Values) -> tuple[Figure, ...]:
    """What a shut-in line leaks, and whether that tells anything."""
    elevation = number(values, "elevation_m", 0.0)
    limit = number(values, "limit_m3_s", LIMIT_M3_S)
    read = number(values, "read_pa", READ_PA)
    found = decay(
        number(values, "volume_m3"),
        number(values, "before_pa"),
        number(values, "after_pa"),
        number(values, "before_k") if values.get("before_k") is not None else None,
        number(values, "after_k") if values.get("after_k") is not None else None,
        number(values, "seconds_s"),
        ambient_pa=air.pressure(elevation),
        limit_m3_s=limit,
        read_pa=read,
    )
    told = {
        "tight": "Tight: less than the leak to rule out, the gauge's own error counted.",
        "leaks": "It leaks. Soap it, find the leak, remake the joint.",
        "inconclusive": f"Inconclusive. {found.why}",
    }[found.tells]
    return tuple(
        Figure(one.key, one.label, one.value, one.kind, one.method, one.band, one.inputs,
               rounding=one.rounding, narrows=one.narrows, warnings=(told,))
        for one in (found.drop, found.leak)
    )  # fmt: skip


def jet(values: Values) -> tuple[Figure, ...]:
    """The jet for an elevation, in its schools; from a measured λ where there is one."""
    stock = number(values, "number")
    made = number(values, "made_m", 0.0)
    here = number(values, "here_m")
    step = number(values, "step", 2.5)
    kelvin = values.get("day_k")
    day = None if kelvin is None else number(values, "day_k")
    made_on = str(values.get("made_on") or "e10")
    burns = str(values.get("gasoline") or "e10")
    leaner = jets.lean_by_fuel(GASOLINES[made_on], GASOLINES[burns])
    made_ratio, ratio = jets.density_ratio(made), jets.density_ratio(here, day)
    common = (row("stamped", stock, "count"), row("made for", made, "elevation"),
              row("here", here, "elevation"), row("made on", GASOLINES[made_on].name),
              row("gasoline now", GASOLINES[burns].name),
              row("leaner by its ethanol", leaner, "ratio", Origin.COMPUTED))  # fmt: skip
    densities = (row("density ratio made for", made_ratio, "ratio", Origin.COMPUTED),
                 row("density ratio here", ratio, "ratio", Origin.COMPUTED))  # fmt: skip
    lam_here = jets.lambda_here(LAMBDA_AS_JETTED, made_ratio, ratio) * leaner
    density = jets.for_fuel(jets.by_density(stock, made_ratio, ratio), leaner)
    stepped = jets.for_fuel(max(1.0, jets.by_step(stock, made, here, step)), leaner)
    as_jetted = row("λ where it was made for", LAMBDA_AS_JETTED, "ratio", Origin.ASSUMED)
    lean = ("coming down with this jet in is lean: tag it, and take the old one along",)
    percent = jets.for_fuel(max(1.0, jets.by_percent(stock, made, here)), leaner)

    def mixed(number_there: float) -> float:
        return jets.lambda_with(lam_here, stock, number_there)

    def labeled(school: str, number_there: float) -> str:
        return f"{school}: λ about {mixed(number_there):.2f}"

    found = [
        Figure("jet.density", labeled("by density", density), density, "count",
               jets.DENSITY, spread(density, 0.02),
               (*common, *densities), rounding=Rounding.UP, estimated=True,
               warnings=(*jets.told(mixed(density)), *lean),
               narrows=("λ at load", "the plug after 20 minutes near rating")),
        Figure("jet.step", labeled("by step", stepped), stepped, "count",
               jets.STEP, spread(stepped, 0.04),
               (*common, row("step of the jets at hand", step, "count")), rounding=Rounding.UP,
               estimated=True, warnings=jets.told(mixed(stepped))),
        Figure("jet.percent", labeled("2 % per 2,000 ft", percent), percent, "count",
               jets.PERCENT,
               spread(percent, 0.04), common, rounding=Rounding.UP, estimated=True,
               warnings=jets.told(mixed(percent))),
        Figure("jet.lambda", "λ with the old jet here", lam_here, "ratio", jets.DENSITY,
               spread(lam_here, 0.05), (as_jetted, *densities), estimated=True,
               warnings=(jets.reads(lam_here).text,)),
    ]  # fmt: skip
    if values.get("lam") is not None:
        lam = number(values, "lam")
        value = jets.by_measure(stock, lam, LAMBDA_AS_JETTED)
        found.append(
            Figure("jet.measured", "from the measured λ", value, "count", jets.MEASURED,
                   spread(value, 0.02),
                   (row("jet in it", stock, "count"), row("λ measured", lam, "ratio",
                    Origin.MEASURED), row("λ wanted", LAMBDA_AS_JETTED, "ratio", Origin.TABLE)),
                   rounding=Rounding.UP, warnings=(jets.reads(lam).text,))
        )  # fmt: skip
    return tuple(found)


def gas_orifice(values: Values) -> tuple[Figure, ...]:
    """The hole for a heat rate, or the heat rate of a hole."""
    fuel = gas(values, "gas")
    drop = number(values, "drop_pa")
    elevation = number(values, "elevation_m", 0.0)
    kelvin = number(values, "gas_k", REFERENCE_TEMPERATURE_K)
    ambient = air.pressure(elevation)
    inputs = (row("gas", fuel.name), row("pressure across it", drop, "pressure"),
              row("elevation", elevation, "elevation"),
              row("temperature of the gas", kelvin, "temperature",
                  Origin.ASSUMED if values.get("gas_k") is None else Origin.OWNER),
              row("discharge coefficient", orifice.DISCHARGE, "ratio", Origin.ASSUMED))  # fmt: skip
    burner = f"as burner tables have it, coefficient {orifice.BURNER_TABLES:.2f}"
    if values.get("bore_m") is not None:
        bore = number(values, "bore_m")
        heat, table = (
            orifice.heat_hhv_w(bore, fuel, drop, ambient, kelvin, one)
            for one in (orifice.DISCHARGE, orifice.BURNER_TABLES)
        )
        return (
            Figure("orifice.heat", "it passes (HHV)", heat, "heat_rate", orifice.ORIFICE,
                   Band(heat * (1 - orifice.DISCHARGE_BAND), table),
                   (*inputs, row("bore", bore, "bore")), (Rival(burner, table),), estimated=True,
                   narrows=("the meter clocked while it burns",)),
        )  # fmt: skip
    heat = number(values, "heat_w")
    bore, small, large = (
        orifice.bore_m(heat, fuel, drop, ambient, kelvin, one)
        for one in (orifice.DISCHARGE, orifice.BURNER_TABLES,
                    orifice.DISCHARGE * (1 - orifice.DISCHARGE_BAND))
    )  # fmt: skip
    asked = (*inputs, row("heat rate (HHV)", heat, "heat_rate"))
    warnings = ["A hole drilled too large can't be made smaller: begin under it."]
    found = None
    try:
        name, drilled = orifice.drill_under(small)
        exactly = f"{drilled / 0.0254:.4f} in ({drilled * 1e3:.3f} mm)"
        found = Figure(
            "orifice.drill", f"drill {name}, {exactly}", drilled, "bore", orifice.ORIFICE,
            exact(drilled),
            (*asked, row("least it may be", small, "bore", Origin.COMPUTED),
             row("drills", "ASME B94.11M, #80 to #1, A to Z", origin=Origin.TABLE)),
        )  # fmt: skip
    except QuantityError:
        warnings.append(
            "No number or letter drill makes it: #80 is 0.0135 in (0.343 mm), Z 0.413 in "
            "(10.49 mm). Take a maker's orifice."
        )
    hole = Figure(
        "orifice.bore", "bore", bore, "bore", orifice.ORIFICE, Band(small, large), asked,
        (Rival(burner, small),), Rounding.DOWN, estimated=True, warnings=tuple(warnings),
        narrows=("a maker's orifice, by its number", "the meter clocked while it burns"),
    )  # fmt: skip
    return (hole,) if found is None else (hole, found)


U_TUBE = Method(
    "u-tube", "Water U-tube", "p = ρ·g·(left + right)",
    "hydrostatics; both legs are read from the same zero, so that its place does not matter",
    "u-tube",
)  # fmt: skip
GRAVITY_M_S2 = 9.80665
LIQUIDS = (("water", "water"), ("glycol", "water and glycol, half and half"),
           ("oil", "gauge oil, 0.826"))  # fmt: skip
_LIQUID_KG_M3 = {"water": 998.0, "glycol": 1065.0, "oil": 826.0}
_READ_M = 0.001
"""How near a leg of a tube is read by eye [m]."""


def u_tube(values: Values) -> tuple[Figure, ...]:
    """The pressure of a U-tube read in two numbers.

    >>> round(u_tube({"left_m": 0.1397, "right_m": 0.1397, "liquid": "water"})[0].value)
    2734
    """
    left = number(values, "left_m")
    right = number(values, "right_m")
    if left * right < 0:
        raise QuickError({"right_m": "One leg goes up as the other goes down: type both as how "
                          "far they moved, without a sign."})  # fmt: skip
    liquid = str(values.get("liquid") or "water")
    density = _LIQUID_KG_M3[liquid]
    value = density * GRAVITY_M_S2 * (left + right)
    off = density * GRAVITY_M_S2 * 2 * _READ_M
    return (
        Figure("u-tube.pressure", "pressure", value, "pressure", U_TUBE,
               Band(value - off, value + off),
               (row("left leg, from its zero", left, "small_length", Origin.MEASURED),
                row("right leg, from its zero", right, "small_length", Origin.MEASURED),
                row("liquid", dict(LIQUIDS)[liquid]),
                row("density", density, "density", Origin.TABLE)),
               narrows=("read at eye level, at the bottom of the meniscus",)),
    )  # fmt: skip


PROVING = (
    Answer(
        "u-tube", "The pressure of a water U-tube, read in two numbers.",
        "A tube open at one end, its water dyed; never on a line that may see more than it is "
        "long.",
        (
            quantity("left_m", "Left leg moved by", "small_length", -1.0, 2.0, 0.1397, "5.5 in"),
            quantity("right_m", "Right leg moved by", "small_length", -1.0, 2.0, 0.1397, "5.5 in"),
            choice("liquid", "Liquid", "water", LIQUIDS),
        ),
        plain(u_tube),
    ),
    Answer(
        "leak-decay", "What a shut-in line leaks by its fall in pressure.",
        "Soap first. Never oxygen; a demand regulator takes no more than ½ psi: isolate it.",
        (
            quantity("volume_m3", "Gas shut in", "volume", 1e-5, 1.0, 1e-3, "1 L"),
            quantity("before_pa", "Pressure before", "pressure", 100.0, 1.8e6, 2739.0,
                     "11 in w.c."),
            quantity("after_pa", "Pressure after", "pressure", 0.0, 1.8e6, 2714.0, "10.9 in w.c."),
            quantity("seconds_s", "Time", "duration", 60.0, 86400.0, 600.0, "10 min"),
            optional("before_k", "Gas temperature before", "temperature", *AIR_K, "not measured"),
            optional("after_k", "Gas temperature after", "temperature", *AIR_K, "not measured"),
            optional("read_pa", "Gauge reads within", "pressure", 0.1, 20e3, READ_PA),
            optional("limit_m3_s", "Leak to rule out", "leak", 1e-11, 1e-6, LIMIT_M3_S),
            ELEVATION,
        ),
        plain(leak_decay),
    ),
    Answer(
        "jet", "Which main jet an elevation asks for, school beside school.",
        "Believed, published and stamped are three numbers: read the one stamped on the jet.",
        (
            quantity("number", "Jet number, stamped", "count", 20.0, 400.0, 90.0, "90"),
            optional("made_m", "Made for", "elevation", -430.0, 4000.0, "sea level"),
            quantity("here_m", "Runs at", "elevation", -430.0, 5500.0, 2450.0, "2450 m"),
            optional("day_k", "Temperature there", "temperature", *AIR_K, "standard day"),
            optional("step", "Step between sizes", "count", 0.5, 20.0, "2.5"),
            optional("lam", "λ measured at load with it", "ratio", 0.5, 1.6, "not measured"),
            choice("made_on", "Made on", "e10", _BURNS[:2]),
            choice("gasoline", "Gasoline now", "e10", _BURNS),
        ),
        plain(jet),
    ),
    Answer(
        "orifice", "The hole for a heat rate, or what a hole passes.",
        "A maker's orifice and table go first. Drill under, try, then open it.",
        (
            choice("gas", "Gas", "propane", GAS_OPTIONS),
            quantity("drop_pa", "Pressure across it", "pressure", 10.0, 2e5, 2739.0, "11 in w.c."),
            quantity("heat_w", "Heat rate (HHV)", "heat_rate", 10.0, 1e6, 17584.0, "60000 BTU/h"),
            optional("bore_m", "Bore, to ask the other way", "bore", 1e-4, 0.02, "worked out"),
            ELEVATION,
            optional("gas_k", "Temperature of the gas", "temperature", *AIR_K, "15 °C"),
        ),
        plain(gas_orifice),
    ),
)  # fmt: skip

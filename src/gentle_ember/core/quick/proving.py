"""Quick answers of proving: leak by decay, jet, orifice."""

from __future__ import annotations

from gentle_ember.core.base.figure import Band, Figure, Method, Origin, Rounding, exact, spread
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics import air, jets, orifice
from gentle_ember.core.physics.decay import ALLOWED_PA, decay
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.quick.planning import ANSWERS as PLANNING
from gentle_ember.core.quick.planning import (
    GAS_OPTIONS,
    Answer,
    AnswerField,
    Values,
    gas,
    number,
    row,
)


def leak_decay(values: Values) -> tuple[Figure, ...]:
    """What a shut-in line leaks, and whether that tells anything."""
    elevation = number(values, "elevation_m", 0.0)
    allowed = number(values, "allowed_pa", ALLOWED_PA)
    found = decay(
        number(values, "volume_m3"),
        number(values, "before_pa"),
        number(values, "after_pa"),
        number(values, "before_k") if values.get("before_k") is not None else None,
        number(values, "after_k") if values.get("after_k") is not None else None,
        number(values, "seconds_s"),
        ambient_pa=air.pressure(elevation),
        allowed_pa=check("allowed drop", "pressure", allowed, 0.0, 5e3),
    )
    told = {
        "tight": "Tight within what is allowed.",
        "leaks": "It leaks more than is allowed. Soap it, find the leak, remake the joint.",
        "inconclusive": f"Inconclusive. {found.why}",
    }[found.tells]
    return tuple(
        Figure(one.key, one.label, one.value, one.kind, one.method, one.band, one.inputs,
               rounding=one.rounding, narrows=one.narrows, warnings=(told,))
        for one in (found.drop, found.leak)
    )  # fmt: skip


def jet(values: Values) -> tuple[Figure, ...]:
    """The jet for an elevation, in its schools; from a measured λ where there is one."""
    stock = check("jet number", "count", number(values, "number"), 20.0, 400.0)
    made = check("made for", "elevation", number(values, "made_m", 0.0), -430.0, 4000.0)
    here = check("elevation", "elevation", number(values, "here_m"), -430.0, 5500.0)
    step = check("step", "count", number(values, "step", 2.5), 0.5, 20.0)
    kelvin = values.get("day_k")
    day = check("temperature", "temperature", number(values, "day_k"), 223.0, 330.0) if (
        kelvin is not None
    ) else None  # fmt: skip
    made_ratio, ratio = jets.density_ratio(made), jets.density_ratio(here, day)
    common = (row("stamped", stock, "count"), row("made for", made, "elevation"),
              row("here", here, "elevation"))  # fmt: skip
    densities = (row("density ratio made for", made_ratio, "ratio", Origin.COMPUTED),
                 row("density ratio here", ratio, "ratio", Origin.COMPUTED))  # fmt: skip
    lam_here = jets.lambda_here(LAMBDA_AS_JETTED, made_ratio, ratio)
    as_jetted = row("λ where it was made for", LAMBDA_AS_JETTED, "ratio", Origin.ASSUMED)
    lean = ("coming down with this jet in is lean: tag it, and take the old one along",)
    found = [
        Figure("jet.density", "by density", jets.by_density(stock, made_ratio, ratio), "count",
               jets.DENSITY, spread(jets.by_density(stock, made_ratio, ratio), 0.02),
               (*common, *densities), rounding=Rounding.UP, estimated=True, warnings=lean,
               narrows=("λ at load", "the plug after 20 minutes near rating")),
        Figure("jet.step", "by step", max(1.0, jets.by_step(stock, made, here, step)), "count",
               jets.STEP, spread(max(1.0, jets.by_step(stock, made, here, step)), 0.04),
               (*common, row("step of the jets at hand", step, "count")), rounding=Rounding.UP,
               estimated=True),
        Figure("jet.lambda", "λ with the old jet here", lam_here, "ratio", jets.DENSITY,
               spread(lam_here, 0.05), (as_jetted, *densities), estimated=True),
    ]  # fmt: skip
    if values.get("lam") is not None:
        lam = check("λ measured", "ratio", number(values, "lam"), 0.5, 1.6)
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
    inputs = (row("gas", fuel.name), row("pressure across it", drop, "pressure"),
              row("density", fuel.density_kg_m3, "density", Origin.TABLE),
              row("discharge coefficient", orifice.DISCHARGE, "ratio", Origin.ASSUMED))  # fmt: skip
    if values.get("bore_m") is not None:
        bore = number(values, "bore_m")
        heat = orifice.heat_hhv_w(bore, fuel, drop)
        return (
            Figure("orifice.heat", "it passes (HHV)", heat, "heat_rate", orifice.ORIFICE,
                   spread(heat, 0.10), (*inputs, row("bore", bore, "small_length")),
                   estimated=True),
        )  # fmt: skip
    heat = number(values, "heat_w")
    bore = orifice.bore_m(heat, fuel, drop)
    drill, drilled = orifice.drill_under(bore)
    asked = (*inputs, row("heat rate (HHV)", heat, "heat_rate"))
    return (
        Figure("orifice.bore", "bore", bore, "small_length", orifice.ORIFICE, spread(bore, 0.05),
               asked, rounding=Rounding.DOWN, estimated=True,
               warnings=("A hole drilled too large can't be made smaller: begin under it.",)),
        Figure("orifice.drill", f"number drill {drill}", drilled, "small_length", orifice.ORIFICE,
               exact(drilled), (*asked, row("number drills", "ASME B94.11M", origin=Origin.TABLE)),
               rounding=Rounding.DOWN),
    )  # fmt: skip


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
    left = check("left leg", "small_length", number(values, "left_m"), -1.0, 2.0)
    right = check("right leg", "small_length", number(values, "right_m"), -1.0, 2.0)
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


_ALL = (
    Answer(
        "u-tube", "U-tube", "The pressure of a water U-tube, read in two numbers.",
        "A tube open at one end, its water dyed; never on a line that may see more than it is "
        "long.",
        (
            AnswerField("left_m", "Left leg moved by", "small_length", 0.1397, "5.5 in"),
            AnswerField("right_m", "Right leg moved by", "small_length", 0.1397, "5.5 in"),
            AnswerField("liquid", "Liquid", "choice", "water", options=LIQUIDS),
        ),
        u_tube,
    ),
    Answer(
        "leak-decay", "Leak by decay", "What a shut-in line leaks by its fall in pressure.",
        "Soap first. Never oxygen; a demand regulator takes no more than ½ psi: isolate it.",
        (
            AnswerField("volume_m3", "Gas shut in", "volume", 1e-3, "1 L"),
            AnswerField("before_pa", "Pressure before", "pressure", 2739.0, "11 in w.c."),
            AnswerField("after_pa", "Pressure after", "pressure", 2714.0, "10.9 in w.c."),
            AnswerField("seconds_s", "Time", "duration", 600.0, "10 min"),
            AnswerField("before_k", "Gas temperature before", "temperature",
                        assumed="not measured"),
            AnswerField("after_k", "Gas temperature after", "temperature",
                        assumed="not measured"),
            AnswerField("allowed_pa", "Drop allowed", "pressure", None, "", "0.5 in w.c."),
            AnswerField("elevation_m", "Elevation", "elevation", None, "", "sea level"),
        ),
        leak_decay,
    ),
    Answer(
        "jet", "Main jet", "Which main jet an elevation asks for, school beside school.",
        "Believed, published and stamped are three numbers: read the one stamped on the jet.",
        (
            AnswerField("number", "Jet number, stamped", "count", 90.0, "90"),
            AnswerField("made_m", "Made for", "elevation", None, "", "sea level"),
            AnswerField("here_m", "Runs at", "elevation", 2450.0, "2450 m"),
            AnswerField("day_k", "Temperature there", "temperature", None, "", "standard day"),
            AnswerField("step", "Step between sizes", "count", None, "", "2.5"),
            AnswerField("lam", "λ measured at load with it", "ratio", None, "", "not measured"),
        ),
        jet,
    ),
    Answer(
        "orifice", "Gas orifice", "The hole for a heat rate, or what a hole passes.",
        "A maker's orifice and table go first. Drill under, try, then open it.",
        (
            AnswerField("gas", "Gas", "choice", "propane", options=GAS_OPTIONS),
            AnswerField("drop_pa", "Pressure across it", "pressure", 2739.0, "11 in w.c."),
            AnswerField("heat_w", "Heat rate (HHV)", "heat_rate", 17584.0, "60000 BTU/h"),
            AnswerField("bore_m", "Bore, to ask the other way", "small_length", None, "",
                        "worked out"),
        ),
        gas_orifice,
    ),
)  # fmt: skip
ANSWERS: dict[str, Answer] = {**PLANNING, **{answer.key: answer for answer in _ALL}}
"""Every quick answer of this shape."""

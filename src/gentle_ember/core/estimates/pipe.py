"""Gas-pipe answer: flow, drop, length or size of a house-side pipe, with a second opinion."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.base.figure import Band, Figure, Input, Origin, Rival, Rounding, spread
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics import pipe
from gentle_ember.core.physics.pipe import PipeGas


class Solve(StrEnum):
    """What is asked of the pipe."""

    FLOW = "flow"
    DROP = "drop"
    LENGTH = "length"
    BORE = "bore"


@dataclass(frozen=True, slots=True)
class PipeCase:
    """One pipe: gas, demand (HHV) [W], size, drop allowed [Pa], length [m], elevation [m]."""

    gas: PipeGas
    solve: Solve
    heat_w: float
    nominal: str
    drop_pa: float
    length_m: float
    elevation_m: float = 0.0

    @property
    def flow_m3_s(self) -> float:
        """The demand as flow at 15 °C and 101,325 Pa [m³/s]."""
        return self.heat_w / self.gas.hhv_j_m3

    @property
    def bore_m(self) -> float:
        """Inside diameter of the nominal size [m]."""
        return pipe.NOMINAL_M[self.nominal]


@dataclass(frozen=True, slots=True)
class PipeAnswer:
    """The answer with its figures; `nominal` the size it comes to, None past the table."""

    figures: tuple[Figure, ...]
    nominal: str | None
    enough: bool | None
    """Whether the size passes the demand at the drop; None where that was not the question."""


def pipe_answer(case: PipeCase) -> PipeAnswer:
    """Solve the code formula for what is asked.

    Raises:
        QuantityError: a figure outside what the formula is for.
    """
    check("demand", "heat_rate", case.heat_w, 50.0, 5e6)
    return {
        Solve.FLOW: _flow,
        Solve.DROP: _drop,
        Solve.LENGTH: _length,
        Solve.BORE: _bore,
    }[case.solve](case)


def _inputs(case: PipeCase, *, size: bool = True, drop: bool = True, length: bool = True,
            demand: bool = True) -> tuple[Input, ...]:  # fmt: skip
    rows = [
        Input("gas", case.gas.name, "text"),
        Input("factor Cr", case.gas.cr, "ratio", Origin.TABLE),
    ]
    if size:
        rows.append(Input("nominal size, schedule 40", f"{case.nominal} in", "text"))
        rows.append(Input("inside diameter", case.bore_m, "small_length", Origin.TABLE))
    if drop:
        rows.append(Input("pressure drop", case.drop_pa, "pressure"))
    if length:
        rows.append(Input("length, fittings included", case.length_m, "length"))
    if demand:
        rows.append(Input("demand (HHV)", case.heat_w, "heat_rate"))
        rows.append(Input("heating value (HHV)", case.gas.hhv_j_m3, "heating_value_volume"))
    rows.append(Input("elevation", case.elevation_m, "elevation"))
    rows.append(Input("share kept in thin air", pipe.thin_air(case.elevation_m), "ratio"))
    return tuple(rows)


def _figure(
    key: str,
    label: str,
    value: float,
    kind: str,
    inputs: tuple[Input, ...],
    rounding: Rounding,
    band: Band | None = None,
    rivals: tuple[Rival, ...] = (),
) -> Figure:
    return Figure(
        f"pipe.{key}",
        label,
        value,
        kind,
        pipe.CODE_FORMULA,
        band or spread(value, pipe.WIDEST_BAND),
        inputs,
        rivals,
        rounding,
        narrows=("the real inside diameter and every fitting's equivalent length",),
        warnings=("A licensed fitter and the local code confirm it.",),
    )


def _flow(case: PipeCase) -> PipeAnswer:
    flow = pipe.capacity(case.gas, case.bore_m, case.drop_pa, case.length_m, case.elevation_m)
    other = pipe.second_opinion(case.gas, case.bore_m, case.drop_pa, case.length_m)
    other *= pipe.thin_air(case.elevation_m)
    inputs = _inputs(case, demand=False)
    hhv = case.gas.hhv_j_m3
    return PipeAnswer(
        (
            _figure("heat", "passes (HHV)", flow * hhv, "heat_rate", inputs, Rounding.DOWN,
                    rivals=(Rival("Spitzglass, low pressure", other * hhv),)),
            _figure("flow", "passes, as flow", flow, "volume_flow", inputs, Rounding.DOWN,
                    rivals=(Rival("Spitzglass, low pressure", other),)),
        ),
        case.nominal,
        case.heat_w <= flow * hhv,
    )  # fmt: skip


def _drop(case: PipeCase) -> PipeAnswer:
    value = pipe.drop(case.gas, case.bore_m, case.flow_m3_s, case.length_m, case.elevation_m)
    check("pressure drop", "pressure", value, 0.0, pipe.PRESSURE_LIMIT_PA)
    figure = _figure(
        "drop", "drops", value, "pressure", _inputs(case, drop=False), Rounding.UP,
        spread(value, 0.05),
    )  # fmt: skip
    return PipeAnswer((figure,), case.nominal, value <= case.drop_pa)


def _length(case: PipeCase) -> PipeAnswer:
    value = pipe.length(case.gas, case.bore_m, case.flow_m3_s, case.drop_pa, case.elevation_m)
    figure = _figure(
        "length", "reaches", value, "length", _inputs(case, length=False), Rounding.DOWN,
        spread(value, 0.05),
    )  # fmt: skip
    return PipeAnswer((figure,), case.nominal, value >= case.length_m)


def _bore(case: PipeCase) -> PipeAnswer:
    value = pipe.bore(case.gas, case.flow_m3_s, case.drop_pa, case.length_m, case.elevation_m)
    nominal = pipe.next_nominal(value)
    figures = [
        _figure("bore", "needs an inside diameter of", value, "small_length",
                _inputs(case, size=False), Rounding.UP)
    ]  # fmt: skip
    if nominal is not None:
        sized = PipeCase(case.gas, Solve.DROP, case.heat_w, nominal, case.drop_pa, case.length_m,
                         case.elevation_m)  # fmt: skip
        figures.extend(_drop(sized).figures)
    return PipeAnswer(tuple(figures), nominal, None)

"""A cylinder's answer with its curve."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.estimates.cylinder import CylinderAnswer, Help
from gentle_ember.core.job.facts import Key
from gentle_ember.web.views.base import FigureOut, Request, View, figure


class CylinderQuery(Request):
    """What-if on a job's cylinder: where a value is left out the job's own stands."""

    cylinder: str = ""
    size: Key | Literal[""] = ""
    temperature_k: float | None = None
    load_w: float | None = None
    count: Annotated[int, Field(ge=1, le=24)] | None = None
    shelter: Literal["still_air", "breeze", "closed_locker"] | None = None


class HelpOut(View):
    """Something that would lengthen a run."""

    key: str
    label: str
    run: FigureOut
    gain: FigureOut


class CurveOut(View):
    """The chill curve, thinned for drawing [s, K, kg]."""

    times_s: list[float]
    temperatures_k: list[float]
    contents_kg: list[float]
    frost_k: float
    dew_k: float
    starves_k: float
    ambient_k: float


class CylinderOut(View):
    """A cylinder's answer."""

    size: str
    count: int
    shelter: str
    load_w: float
    temperature_k: float
    figures: dict[str, FigureOut]
    starves: bool
    curve: CurveOut
    helps: list[HelpOut]


CURVE_POINTS = 160


def _help(entry: Help) -> HelpOut:
    return HelpOut(
        key=entry.key,
        label=entry.label,
        run=figure(entry.run),
        gain=figure(entry.gain),
    )


def cylinder(answer: CylinderAnswer, helps: list[Help]) -> CylinderOut:
    """A cylinder's answer with its curve thinned for drawing."""
    curve, case = answer.curve, answer.case
    stride = max(1, len(curve.times_s) // CURVE_POINTS)
    picked = [*range(0, len(curve.times_s) - 1, stride), len(curve.times_s) - 1]
    named = {
        "run": answer.run,
        "to_empty": answer.to_empty,
        "to_starve": answer.to_starve,
        "left": answer.left,
        "contents": answer.contents,
        "draw": answer.draw,
        "continuous": answer.continuous,
        "coldest": None if curve.starved_s is not None else answer.coldest,
        "starves_at": answer.starves_at,
    }
    return CylinderOut(
        size=case.size.key,
        count=case.count,
        shelter=case.shelter,
        load_w=case.load_w,
        temperature_k=case.ambient_k,
        figures={name: figure(one) for name, one in named.items() if one is not None},
        starves=curve.starved_s is not None,
        curve=CurveOut(
            times_s=[curve.times_s[i] for i in picked],
            temperatures_k=[curve.temperatures_k[i] for i in picked],
            contents_kg=[curve.contents_kg[i] * case.count for i in picked],
            frost_k=273.15,
            dew_k=answer.dew_k,
            starves_k=case.lowest_k,
            ambient_k=case.ambient_k,
        ),
        helps=[_help(entry) for entry in helps],
    )

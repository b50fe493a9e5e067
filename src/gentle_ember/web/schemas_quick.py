"""Requests and responses of the quick answers, SI names in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, RootModel, StringConstraints

from gentle_ember.core.estimates.pipe import Solve
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.output import School
from gentle_ember.web.schemas import FigureOut, FlowOut, Request, RunOut, System


class DerateIn(Request):
    """Quick derate, SI."""

    running_w: float
    starting_w: float | None = None
    shaft_power_w: float | None = None
    alternator_efficiency: float | None = None
    elevation_m: float = 0.0
    temperature_k: float = 298.15
    relative_humidity: float | None = None
    jetted_at_m: float | None = None
    methane_share: float | None = None
    hhv_j_m3: float | None = None
    fuel_school: School = School.FIELD_RULE
    air_school: School = School.FIELD_RULE


class SoundQuery(Request):
    """Samples a second [Hz] of a recording, and the cylinders that fire."""

    rate: float = Field(ge=2000, le=200_000)
    cylinders: int = Field(default=1, ge=1, le=6)


class RunTimeIn(Request):
    """Quick run time, SI."""

    running_w: float
    load_w: float
    set_class: SetClass = SetClass.OPEN_FRAME
    tank_m3: float | None = None
    elevation_m: float = 0.0
    coldest_k: float = 273.15
    hottest_k: float = 298.15


class CylinderIn(Request):
    """Quick cylinder, SI; `contents_kg` or a weighing less its tare, else full."""

    running_w: float
    load_w: float
    set_class: SetClass = SetClass.OPEN_FRAME
    size: str = "20"
    count: Annotated[int, Field(ge=1, le=24)] = 1
    contents_kg: float | None = None
    weighed_kg: float | None = None
    tare_kg: float | None = None
    temperature_k: float = 273.15
    elevation_m: float = 0.0
    relative_humidity: float | None = None
    shelter: Literal["still_air", "breeze", "closed_locker"] = "still_air"


class GasPipeIn(Request):
    """Quick gas pipe, SI; demand on the higher heating value."""

    gas: Literal["propane", "natural_gas", "biogas"] = "natural_gas"
    solve: Solve = Solve.BORE
    nominal: str = "3/4"
    heat_w: float
    drop_pa: float
    length_m: float
    elevation_m: float = 0.0
    methane_share: float | None = None
    hhv_j_m3: float | None = None


class SmallPath(Request):
    """A small quick answer's name."""

    name: Annotated[str, StringConstraints(pattern=r"^[a-z-]{1,40}$")]


class SmallIn(RootModel[dict[str, float | str | None]]):
    """Values [SI] and choices by the names of the answer's fields."""


class ConvertIn(Request):
    """Quick conversion of a typed quantity; the kind is found when it is not given."""

    text: Annotated[str, StringConstraints(max_length=400)]
    kind: str = ""
    system: System = "us"


class RunTimesOut(BaseModel):
    """Run times and flows of a quick answer."""

    runs: list[RunOut]
    flows: list[FlowOut]


class GasPipeOut(BaseModel):
    """A pipe's figures, the size it comes to, and whether that is enough."""

    figures: list[FigureOut]
    nominal: str | None
    enough: bool | None


class FiguresOut(RootModel[list[FigureOut]]):
    """Figures, the most asked for first."""


class ChoiceOut(BaseModel):
    """A choice of a field."""

    value: str
    text: str


class SmallFieldOut(BaseModel):
    """One thing a small answer asks; `default` is SI, `sample` how it is typed."""

    name: str
    label: str
    kind: str
    default: float | str | None
    sample: str
    assumed: str
    options: list[ChoiceOut]


class SmallAnswerOut(BaseModel):
    """A small quick answer."""

    key: str
    title: str
    text: str
    caution: str
    fields: list[SmallFieldOut]


class SmallAnswersOut(RootModel[list[SmallAnswerOut]]):
    """All of them, in order."""


class ConvertOut(BaseModel):
    """A quantity in every unit people ask for."""

    kind: str
    value: float
    rows: list[FigureOut]

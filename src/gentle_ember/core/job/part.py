"""A part of the catalog: its ends, what it does to the fuel, what it may see. All SI."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Annotated

from pydantic import (
    AfterValidator,
    Field,
    SerializerFunctionWrapHandler,
    StringConstraints,
    model_serializer,
)

from gentle_ember.core.base.errors import EndError
from gentle_ember.core.job.facts import Key, Model, Name
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.supply import RATED_AT_PA, regulator_capacity

Share = Annotated[float, Field(ge=0, le=1)]
Positive = Annotated[float, Field(gt=0, lt=1e9)]
Pascal = Annotated[float, Field(ge=-1e5, le=5e6)]


class PartClass(StrEnum):
    """What a part is, which decides where in a train it can stand."""

    CYLINDER = "cylinder"
    STUB = "stub"
    DIGESTER = "digester"
    TANK = "tank"
    PIGTAIL = "pigtail"
    MANIFOLD = "manifold"
    FIRST_STAGE = "first_stage"
    TWO_STAGE = "two_stage"
    SECOND_STAGE = "second_stage"
    LINE_REGULATOR = "line_regulator"
    GRILL = "grill"
    BOOSTER = "booster"
    DRIP_LEG = "drip_leg"
    SCRUBBER = "scrubber"
    SHUT_OFF = "shut_off"
    PIPE = "pipe"
    GAS_HOSE = "gas_hose"
    GAS_HALF = "gas_half"
    LOCK_OFF = "lock_off"
    DEMAND = "demand"
    TEE = "tee"
    LOAD_SCREW = "load_screw"
    GAS_JET = "gas_jet"
    """A drilled hole in place of a load screw: changed, not turned."""
    VAPOR_HOSE = "vapor_hose"
    ADAPTER = "adapter"
    MIXER = "mixer"
    CARBURETOR = "carburetor"
    GAS_INLET = "gas_inlet"
    FITTING = "fitting"
    BULKHEAD = "bulkhead"
    CAP = "cap"
    TANK_VALVE = "tank_valve"
    FUEL_FILTER = "fuel_filter"
    FUEL_HOSE = "fuel_hose"
    FUEL_HALF = "fuel_half"
    BULB = "bulb"
    PUMP = "pump"
    SELECTOR = "selector"
    FUEL_VALVE = "fuel_valve"
    FUEL_INLET = "fuel_inlet"
    STUD = "stud"
    STUD_EXTENSION = "stud_extension"
    GASKET = "gasket"
    SPACER = "spacer"
    BREATHER = "breather"
    CLAMP = "clamp"
    SEALANT = "sealant"
    HARDWARE = "hardware"
    JET = "jet"
    PLUG = "plug"
    TEST_LOAD = "test_load"
    """Something the shop keeps to load sets with."""
    SERVICE = "service"
    CONSUMABLE = "consumable"


CYLINDER_FED = frozenset((PartClass.FIRST_STAGE, PartClass.TWO_STAGE))
"""Regulators that take what a cylinder gives: their flow goes with it."""
REGULATORS = frozenset(
    (
        PartClass.FIRST_STAGE,
        PartClass.TWO_STAGE,
        PartClass.SECOND_STAGE,
        PartClass.LINE_REGULATOR,
        PartClass.GRILL,
    )
)
SOURCES = frozenset((PartClass.CYLINDER, PartClass.STUB, PartClass.DIGESTER, PartClass.TANK))
HOSES = frozenset((PartClass.GAS_HOSE, PartClass.VAPOR_HOSE, PartClass.FUEL_HOSE))
AGING = frozenset((*HOSES, PartClass.PIGTAIL))
"""Classes whose rubber ages from the day it was made."""
LINES = frozenset((*HOSES, PartClass.PIPE))
MIXERS = frozenset((PartClass.ADAPTER, PartClass.MIXER, PartClass.CARBURETOR, PartClass.GAS_INLET))
METERS = frozenset((PartClass.LOAD_SCREW, PartClass.GAS_JET))
"""What lets through as much gas as the throat's air asks for; each barrel has its own."""
TURNABLE = frozenset((PartClass.FITTING, PartClass.BULKHEAD, *LINES))
"""Classes that may be put in either way round."""


class System(StrEnum):
    """How an end joins."""

    NPT = "npt"
    FLARE = "flare"
    BARB = "barb"
    CYLINDER = "cyl"
    GAS_COUPLER = "gas"
    FUEL_COUPLER = "fuel"
    STUDS = "studs"
    HORN = "horn"
    PULSE = "pulse"


SYSTEM_NAMES = {
    System.NPT: "NPT",
    System.FLARE: "45° flare",
    System.BARB: "hose barb",
    System.CYLINDER: "cylinder valve",
    System.GAS_COUPLER: "gas coupler",
    System.FUEL_COUPLER: "fuel coupler",
    System.STUDS: "stud pattern",
    System.HORN: "air horn",
    System.PULSE: "pulse port",
}
_END = re.compile(r"(npt|flare|barb|cyl|gas|fuel|studs|horn|pulse):([a-z0-9./ -]{1,24}):([mf])")


@dataclass(frozen=True, slots=True)
class End:
    """One end: its system, size (with the family, for couplers), and whether it is male."""

    system: System
    size: str
    male: bool

    @property
    def text(self) -> str:
        """In words, as at a counter.

        >>> end("npt:1/2:m").text, end("barb:3/8:f").text
        ('1/2 in NPT male', '3/8 in hose, cut end')
        """
        if self.system is System.BARB:
            return f"{self.size} in hose barb" if self.male else f"{self.size} in hose, cut end"
        if self.system is System.CYLINDER:
            valve = {"both": "hand-wheel or left-hand", "lh": "internal left-hand",
                     "hand": "hand-wheel"}[self.size]  # fmt: skip
            return f"{valve} cylinder {'connector' if self.male else 'valve'}"
        if self.system in (System.GAS_COUPLER, System.FUEL_COUPLER):
            half = "plug" if self.male else "socket"
            return f"{SYSTEM_NAMES[self.system]} {half}, {self.size}"
        if self.system is System.STUDS:
            return f"stud pattern {self.size}"
        if self.system is System.HORN:
            return f"{self.size} mm air horn"
        side = "male" if self.male else "female"
        return f"{self.size} in {SYSTEM_NAMES[self.system]} {side}"


@cache
def end(text: str) -> End:
    """An end from its short form `system:size:m|f`.

    Raises:
        EndError: not of that form, or a cylinder valve nobody makes.

    >>> end("cyl:lh:m")
    End(system=<System.CYLINDER: 'cyl'>, size='lh', male=True)
    """
    found = _END.fullmatch(text)
    if found is None or (found[1] == "cyl" and found[2] not in ("hand", "lh", "both")):
        raise EndError(text)
    return End(System(found[1]), found[2], found[3] == "m")


def _end_text(text: str) -> str:
    if text:
        end(text)
    return text


EndText = Annotated[str, AfterValidator(_end_text)]


class Part(Model):
    """One part, as its maker states it; a job keeps its own copy of those it uses.

    Pressures are gauge [Pa]; `rated_w` is the heat rate it passes on propane or natural gas
    (HHV) [W]; `k` is the loss coefficient on `bore_m` [1]; shares are of the set pressure.
    A part sold by the meter has `by_length`, its price is per meter and its length the slot's.
    """

    key: Key
    number: Name
    name: Name
    maker: Name
    kind: PartClass
    inlet: EndText = ""
    outlet: EndText = ""
    ports: tuple[EndText, ...] = ()
    """Side openings; each needs its cap."""
    gases: tuple[FuelKey, ...] = ()
    bore_m: Positive | None = None
    length_m: Positive | None = None
    by_length: bool = False
    k: Annotated[float, Field(ge=0, lt=1e4)] = 0.0
    least_pa: Pascal | None = None
    """Least inlet pressure at flow."""
    most_pa: Pascal | None = None
    """Highest inlet pressure at no flow."""
    rating_pa: Pascal | None = None
    set_pa: Pascal | None = None
    droop: Share = 0.0
    """Fall of the outlet at rated flow."""
    lock_up: Share = 0.0
    """Rise of the outlet at no flow."""
    rated_w: Positive | None = None
    rated_at_pa: Pascal | None = None
    """Inlet pressure its rated flow is stated at."""
    opening_pa: Positive | None = None
    """Suction that opens a demand regulator."""
    throat_m: Positive | None = None
    thickness_m: Positive | None = None
    gaskets: Annotated[int, Field(ge=0, le=6)] = 0
    branches: Annotated[int, Field(ge=1, le=4)] = 1
    closes: bool = False
    """Whether this coupler half shuts when parted."""
    full_bore: bool = True
    crimped: bool = False
    """Whether hose ends are factory-crimped."""
    upright: bool = False
    """Whether it works in one position only."""
    powered: bool = False
    stalls: bool = False
    """Whether it shuts by itself when the engine stalls."""
    anti_siphon: bool = False
    check: bool | None = None
    """Whether it lets gas through one way only; None where nobody says."""
    brass: bool = False
    bend_m: Positive | None = None
    vent: Annotated[str, StringConstraints(pattern=r"^(|open|screened|limiter|lever)$")] = ""
    coldest_k: Positive | None = None
    hottest_k: Positive | None = None
    volume_m3: Positive | None = None
    """What a tank holds."""
    lift_m: Positive | None = None
    pump_m3_s: Positive | None = None
    thread_m: Positive | None = None
    pitch_m: Positive | None = None
    engine_least_m3: Positive | None = None
    engine_most_m3: Positive | None = None
    families: tuple[Name, ...] = ()
    """Engine families it is for, where its maker names them: one engine has several badges."""
    models: tuple[Name, ...] = ()
    trims: tuple[Name, ...] = ()
    first_year: Annotated[int | None, Field(ge=1960, le=2100)] = None
    last_year: Annotated[int | None, Field(ge=1960, le=2100)] = None
    """Years of the sets it is for."""
    body_across_m: Positive | None = None
    body_up_m: Positive | None = None
    body_out_m: Positive | None = None
    """How far it stands off the face it is mounted on."""
    bolts_across_m: Positive | None = None
    bolts_up_m: Positive | None = None
    bolt_m: Positive | None = None
    """Thread of its mounting bolts."""
    hole_m: Positive | None = None
    """The one hole a bulkhead or a panel valve sits in."""
    behind_m: Positive | None = None
    """Room it takes behind the face."""
    jet: Annotated[int, Field(ge=20, le=400)] | None = None
    orifice_m: Annotated[float, Field(ge=5e-4, le=0.03)] | None = None
    """The hole of a fixed gas jet; its bore is the way past it."""
    draw_w: Positive | None = None
    """What a test load draws."""
    price: Annotated[float, Field(ge=0, le=50_000)] = 0.0
    core: Annotated[float, Field(ge=0, le=5_000)] = 0.0
    stock: Annotated[int, Field(ge=0, le=100_000)] = 0
    days: Annotated[int, Field(ge=0, le=365)] = 7
    """Days to get it when it is not in stock."""
    weight_kg: Annotated[float, Field(ge=0, lt=1000)] = 0.0
    use_instead: str = ""
    """Set when it is no longer sold: the number that takes its place."""
    site: bool = False
    """Whether it is there already or the fitter brings it: not on the order."""
    for_task: Name = ""
    """What work it is kept for, where it is no part of a train."""

    @model_serializer(mode="wrap")
    def _plain(self, handler: SerializerFunctionWrapHandler):  # type: ignore[no-untyped-def]
        """Without what is as usual: a job keeps many parts, each with few of these facts.

        No return annotation, so that the schema stays the model's own.
        """
        return {
            name: value
            for name, value in handler(self).items()
            if name not in _USUAL or value not in _USUAL[name]
        }

    def takes(self, gas: FuelKey) -> bool:
        """Whether it is made for this fuel; parts that name none are for all gases."""
        return gas in self.gases if self.gases else gas is not FuelKey.GASOLINE

    @property
    def holds_at_stall(self) -> bool:
        """Whether it lets gas through only while the engine sucks; an electric valve does not."""
        return self.stalls and self.kind in (PartClass.DEMAND, PartClass.CARBURETOR)

    @property
    def side_openings(self) -> bool:
        """Whether it has openings that are capped where nothing is joined to them."""
        return bool(self.ports) and self.kind is not PartClass.PUMP

    @property
    def rated_inlet_pa(self) -> float | None:
        """Inlet its rating holds at [Pa]; None for a part whose flow does not go with it."""
        if self.kind not in CYLINDER_FED:
            return None
        return RATED_AT_PA if self.rated_at_pa is None else self.rated_at_pa

    def passes_w(self, inlet_pa: float, ambient_pa: float) -> float | None:
        """Heat rate it passes at a gauge inlet pressure [W]; None where no rating is stated."""
        at = self.rated_inlet_pa
        if self.rated_w is None or at is None:
            return self.rated_w
        return regulator_capacity(self.rated_w, at, inlet_pa, ambient_pa)

    @property
    def limits_unstated(self) -> tuple[str, ...]:
        """What its maker must state before it can be judged, and does not; in words."""
        return tuple(
            text for name, text in _MUST_STATE.get(self.kind, ()) if getattr(self, name) is None
        )

    def ends(self, *, turned: bool) -> tuple[str, str]:
        """Its inlet and outlet as it was put in."""
        return (self.outlet, self.inlet) if turned else (self.inlet, self.outlet)

    def length(self, cut_m: float | None) -> float:
        """Its length, or what is cut off the reel [m]."""
        return (cut_m or 0.0) if self.by_length else (self.length_m or 0.0)


_USUAL = {
    name: (field.default, list(field.default) if field.default == () else field.default)
    for name, field in Part.model_fields.items()
    if not field.is_required()
}
"""What a fact is when nobody states it, as a value and as JSON has it."""

_LEAST, _MOST = ("least_pa", "least inlet pressure"), ("most_pa", "highest inlet pressure")
_RATING, _RATED = ("rating_pa", "pressure rating"), ("rated_w", "rated flow")
_SET, _BORE = ("set_pa", "set pressure"), ("bore_m", "bore")
_MUST_STATE: dict[PartClass, tuple[tuple[str, str], ...]] = {
    **dict.fromkeys((*REGULATORS, PartClass.BOOSTER), (_LEAST, _MOST, _RATING, _SET, _RATED)),
    PartClass.DEMAND: (
        _LEAST, _MOST, _RATING, _RATED, ("opening_pa", "suction that opens it"),
    ),
    PartClass.GAS_JET: (_RATING, _BORE, ("orifice_m", "hole")),
    PartClass.PUMP: (("pump_m3_s", "stated flow"), _RATING),
    PartClass.FUEL_INLET: (_MOST,),
    **dict.fromkeys(
        (
            PartClass.PIGTAIL, PartClass.MANIFOLD, PartClass.DRIP_LEG, PartClass.SCRUBBER,
            PartClass.SHUT_OFF, *LINES, PartClass.GAS_HALF, PartClass.LOCK_OFF, PartClass.FITTING,
            PartClass.BULKHEAD, PartClass.TEE, PartClass.LOAD_SCREW, PartClass.GAS_INLET,
            PartClass.TANK_VALVE, PartClass.FUEL_FILTER, PartClass.FUEL_HALF, PartClass.BULB,
            PartClass.SELECTOR, PartClass.FUEL_VALVE,
        ),
        (_RATING, _BORE),
    ),
}  # fmt: skip
"""What a part of each class can't be judged without."""

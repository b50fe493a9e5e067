"""A site: its air, the fuels at hand and how far they are, the sketch of what stands where."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, WithJsonSchema

from gentle_ember.core.job.dates import Month
from gentle_ember.core.job.facts import Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.job.handling import PIPED, FuelSource, of_source
from gentle_ember.core.job.house import House
from gentle_ember.core.physics.fuels import GASES, FuelKey


def _piped(fuel: FuelKey) -> FuelKey:
    if fuel not in PIPED:
        raise ValueError("no site has a pipe of this")
    return fuel


PipedGas = Annotated[
    FuelKey, AfterValidator(_piped),
    WithJsonSchema({"enum": list(map(str, PIPED)), "type": "string"}),
]  # fmt: skip


class Gas(Model):
    """A gas at hand on a site, by the figures that describe it."""

    kind: PipedGas = FuelKey.NATURAL_GAS
    hhv: Annotated[
        Fact | None, Quantity("heating_value_volume", "Heating value (HHV)", 30e6, 48e6)
    ] = None
    specific_gravity: Annotated[
        Fact | None, Quantity("ratio", "Specific gravity", 0.55, 0.80, 0.60)
    ] = None
    methane: Annotated[Fact | None, Quantity("share", "Methane share", 0.40, 0.98)] = None
    pressure: Annotated[Fact | None, Quantity("pressure", "Supply pressure", 0.0, 700e3)] = None
    stub: Literal["unknown", "1/2", "3/4", "1", "1-1/4"] = "unknown"
    """Pipe thread of the outlet [in]."""
    take_off: Literal["unknown", "stub", "meter", "appliance", "outlet"] = "unknown"
    """Where the set's gas leaves the house's: a stub, a tee at meter or appliance, an outlet."""
    tapped: Literal["fitter", "owner"] = "fitter"
    """Who joins to it; an owner only where local code lets him."""
    distance: Annotated[Fact | None, Quantity("length", "Distance to the stub", 0.0, 500.0)] = None
    rise: Annotated[Fact | None, Quantity("length", "Set above the stub by", -60.0, 60.0)] = None
    meter: Annotated[Fact | None, Quantity("heat_rate", "Meter rating", 1e3, 5e6)] = None
    appliances: Annotated[
        Fact | None, Quantity("heat_rate", "Appliances on the meter", 0.0, 5e6)
    ] = None
    sulfide: Annotated[Fact | None, Quantity("ppm", "Hydrogen sulfide", 0.0, 0.05)] = None
    house: House = House()
    """The piping before the stub, for the fitter to confirm."""
    cleaned: bool | None = None
    """Whether biogas is scrubbed and dried before it reaches the set."""


class CylindersAtHand(Model):
    """Cylinders of one size on a site, and how full: stated or weighed less the tare."""

    size: Key = "20"
    count: Annotated[int, Field(ge=1, le=24)] = 1
    fill: Annotated[Fact | None, Quantity("mass", "Propane in each", 0.1, 500.0)] = None
    weighed: Annotated[Fact | None, Quantity("mass", "Weighed, each", 1.0, 900.0)] = None
    tare: Annotated[Fact | None, Quantity("mass", "Stamped tare (TW)", 1.0, 400.0)] = None
    shelter: Literal["still_air", "breeze", "closed_locker"] = "still_air"
    distance: Annotated[Fact | None, Quantity("length", "Distance to the set", 0.0, 500.0)] = None
    stamped: Month = ""
    """The last date stamped on it, of making or of a later test."""
    stamp: Literal["unknown", "made", "plain", "s", "e"] = "unknown"
    """What that stamp tells, which decides how long it is good for."""


class RemoteTank(Model):
    """A gasoline tank beside the set; `rise` is its outlet above the float bowl."""

    volume: Annotated[Fact | None, Quantity("volume", "Remote tank", 1e-3, 2.0)] = None
    rise: Annotated[Fact | None, Quantity("length", "Outlet above the carburetor", -5.0, 5.0)] = (
        None
    )
    depth: Annotated[Fact | None, Quantity("length", "Fuel depth when full", 0.02, 2.0, 0.3)] = None
    low_loop: Annotated[
        Fact | None, Quantity("length", "Lowest point below the outlet", 0.0, 5.0)
    ] = None
    high_loop: Annotated[
        Fact | None, Quantity("length", "Highest point above the outlet", -5.0, 5.0)
    ] = None
    distance: Annotated[Fact | None, Quantity("length", "Hose from tank to set", 0.0, 50.0)] = None


class SketchItem(Model):
    """Something on the site sketch, by its place [m] from the sketch's corner."""

    kind: Literal["set", "opening", "cylinder", "stub", "remote_tank"]
    x: Annotated[float, Field(ge=0, le=100)]
    y: Annotated[float, Field(ge=0, le=100)]
    name: Name = ""


class Sketch(Model):
    """What stands where; bearings in degrees clockwise from the top of the sketch."""

    items: dict[Key, SketchItem] = {}
    exhaust: Annotated[float | None, Field(ge=0, lt=360)] = None
    """Where the exhaust blows."""
    wind: Annotated[float | None, Field(ge=0, lt=360)] = None
    """Where the wind mostly comes from."""


class Site(Model):
    """A place where the set runs, with its air and the fuels at hand."""

    name: Name = ""
    elevation: Annotated[Fact | None, Quantity("elevation", "Elevation", -430.0, 5500.0)] = None
    coldest: Annotated[Fact | None, Quantity("temperature", "Coldest night", 223.15, 323.15)] = None
    hottest: Annotated[Fact | None, Quantity("temperature", "Hottest day", 223.15, 328.15)] = None
    humidity: Annotated[Fact | None, Quantity("share", "Relative humidity", 0.0, 1.0)] = None
    gasoline: bool = True
    gases: dict[Key, Gas] = {}
    cylinders: dict[Key, CylindersAtHand] = {}
    remote_tank: RemoteTank = RemoteTank()
    storage: Literal["unknown", "outdoors", "ventilated_shed", "indoors"] = "unknown"
    quiet_hours: Name = ""
    neighbor: Annotated[
        Fact | None, Quantity("length", "Distance to the neighbor", 1.0, 3000.0)
    ] = None
    quiet_limit: Annotated[
        Fact | None, Quantity("sound_level", "Most sound at the neighbor", 20.0, 100.0)
    ] = None
    least_opening: Annotated[
        Fact | None, Quantity("length", "Least distance to an opening", 0.0, 50.0)
    ] = None
    least_opening_why: Note = ""
    """Why an opening may be nearer here than usual, and who says so."""
    least_opening_by: Name = ""
    least_cylinder: Annotated[
        Fact | None, Quantity("length", "Least distance to a cylinder", 0.0, 50.0)
    ] = None
    least_cylinder_why: Note = ""
    least_cylinder_by: Name = ""
    sketch: Sketch = Sketch()
    note: Note = ""


def gases_here(site: Site) -> tuple[FuelKey, ...]:
    """Gases a site says it has."""
    found = {gas.kind for gas in site.gases.values()}
    found |= set(of_source(FuelSource.CYLINDER)) if site.cylinders else set()
    return tuple(gas for gas in GASES if gas in found)

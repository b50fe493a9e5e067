"""The generator set as intake describes it: identity, ratings, carburetor, studs, stack, faces."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.job.facts import Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.fuels import FuelKey


class CarburetorType(StrEnum):
    """How the carburetor is built, as far as it decides metering."""

    FLOAT = "float"
    TWO_BARREL = "two_barrel"
    MULTI_FUEL = "multi_fuel"
    UNKNOWN = "unknown"


class Choke(StrEnum):
    """How the choke is worked."""

    MANUAL = "manual"
    AUTOMATIC = "automatic"
    NONE = "none"
    UNKNOWN = "unknown"


class Vent(StrEnum):
    """How air gets into the gasoline tank."""

    CAP_LEVER = "cap_lever"
    CAP_OPEN = "cap_open"
    CANISTER = "canister"
    UNKNOWN = "unknown"


class RunSwitch(StrEnum):
    """What the run switch really cuts."""

    IGNITION = "ignition"
    IGNITION_AND_FUEL = "ignition_and_fuel"
    FUEL = "fuel"
    UNKNOWN = "unknown"


class SwitchPosition(Model):
    """One position of a switch, dial or selector: what it connects, and what it is called."""

    name: Name = ""
    sparks: bool = True
    """Whether the ignition is on in it."""
    own: bool = False
    """Whether the set's own tank feeds in it."""
    remote: bool = False
    choked: bool = False
    short: bool = False
    """Whether a micro-switch at the end of its travel kills the engine: it is crept to."""
    becomes: Name = ""
    """What it is labeled once gas is on the set; empty where its label stays."""


class Switch(Model):
    """A run switch, fuel dial or selector by its positions, with what each cuts or connects."""

    name: Name = ""
    positions: Annotated[dict[Key, SwitchPosition], Field(max_length=6)] = {}

    @property
    def cuts_ignition(self) -> bool:
        """Whether some position lets it run and another does not."""
        return len({one.sparks for one in self.positions.values()}) > 1

    @property
    def shuts_own(self) -> bool:
        """Whether some position opens the own tank and another shuts it."""
        return len({one.own for one in self.positions.values()}) > 1

    @property
    def shuts_remote(self) -> bool:
        """Whether some position opens the remote tank and another shuts it."""
        return len({one.remote for one in self.positions.values()}) > 1


class Metal(StrEnum):
    """What a stud stands in."""

    ALUMINUM = "aluminum"
    IRON = "iron"
    UNKNOWN = "unknown"


class JetNumber(Model):
    """A main jet's number as one source gives it."""

    number: Annotated[Fact | None, Quantity("count", "Jet number", 20.0, 400.0)] = None
    source: Name = ""


class ChosenJet(JetNumber):
    """A jet settled on, and the elevation of the place it was settled on for."""

    elevation: Annotated[
        Fact | None, Quantity("elevation", "Elevation the jet is settled on for", -430.0, 5500.0)
    ] = None


class Jets(Model):
    """Numbers that are not the same fact: believed, published, stamped, and what is in it now."""

    believed: JetNumber = JetNumber()
    published: JetNumber = JetNumber()
    stamped: JetNumber = JetNumber()
    kit: JetNumber = JetNumber()
    """What a jet kit's own sheet says for this elevation."""
    fitted: JetNumber = JetNumber()
    """What is in it now, once another was kept; the stamped one is tagged and put by."""
    chosen: ChosenJet = ChosenJet()
    """The jet settled on to go in next: after a run that asked for one, or by another school."""
    found: Literal["unknown", "right", "rich", "lean"] = "unknown"
    """How it ran under load before any work, by plug or probe, with the jet it was made with."""
    found_lam: Annotated[Fact | None, Quantity("ratio", "λ at load, as found", 0.3, 3.0)] = None
    made_on: Literal["unknown", "e0", "e10"] = "unknown"
    """Gasoline the jet it was made with was chosen for."""
    fitted_for: Annotated[
        Fact | None, Quantity("elevation", "Elevation the jet in it now is for", -430.0, 4000.0)
    ] = None
    step: Annotated[Fact | None, Quantity("count", "Step between sizes", 0.5, 20.0, 2.5)] = None
    orifice: Annotated[
        Fact | None, Quantity("small_length", "Factory gas orifice", 0.2e-3, 10e-3, 3.5e-3)
    ] = None

    marking: Literal["unknown", "hundredths", "flow"] = "unknown"

    @property
    def off_as_found(self) -> bool:
        """Whether it ran rich or lean with the jet it was made with, by what was looked at."""
        return self.found in ("rich", "lean")

    @property
    def made_with(self) -> Fact | None:
        """The number sums begin from: stamped, else published, else believed."""
        return self.stamped.number or self.published.number or self.believed.number

    @property
    def by_bore(self) -> bool:
        """Whether numbers are taken as bores; else they are flows."""
        return self.marking != "flow"


class Carburetor(Model):
    """The gasoline carburetor and the elevation its jet was chosen for."""

    type: CarburetorType = CarburetorType.UNKNOWN
    fuel_solenoid: bool | None = None
    choke: Choke = Choke.UNKNOWN
    air_horn: Annotated[
        Fact | None, Quantity("small_length", "Air horn, outside diameter", 20e-3, 90e-3, 35e-3)
    ] = None
    gasket: Literal["unknown", "paper", "insulator", "both"] = "unknown"
    """What lies between it and the engine."""
    connectors: Name = ""
    """What plugs into it: choke motor, solenoid, heater."""
    jets: Jets = Jets()
    jetted_at: Annotated[
        Fact | None, Quantity("elevation", "Jetted at elevation", -430.0, 4000.0)
    ] = None


class RunTime(Model):
    """A data-sheet run time: a tank lasts so long at a load."""

    load: Annotated[Fact | None, Quantity("power", "Load of the run", 0.0, 60e3)] = None
    duration: Annotated[Fact | None, Quantity("duration", "Run time", 300.0, 30 * 86400.0)] = None
    volume: Annotated[Fact | None, Quantity("volume", "Gasoline used", 1e-4, 1.0)] = None
    """Gasoline used; the set's own tank when not given."""


class WeighIn(Model):
    """Fuel weighed before and after a run that delivered a metered energy."""

    fuel: FuelKey = FuelKey.PROPANE
    before: Annotated[Fact | None, Quantity("mass", "Weight before", 0.0, 500.0)] = None
    after: Annotated[Fact | None, Quantity("mass", "Weight after", 0.0, 500.0)] = None
    energy: Annotated[Fact | None, Quantity("energy", "Energy delivered", 1e4, 1e11)] = None
    scale: Annotated[Fact | None, Quantity("mass", "The scale reads to", 1e-4, 2.0, 0.0454)] = None
    duration: Annotated[
        Fact | None, Quantity("duration", "Length of the run", 300.0, 30 * 86400.0)
    ] = None


class Clocked(Model):
    """Gas by the clocked meter at a steady load."""

    fuel: FuelKey = FuelKey.NATURAL_GAS
    flow: Annotated[Fact | None, Quantity("volume_flow", "Gas by the meter", 1e-6, 0.05)] = None
    load: Annotated[Fact | None, Quantity("power", "Load meanwhile", 0.0, 60e3)] = None
    heating: Annotated[
        Fact | None, Quantity("heating_value_volume", "Heating value (HHV)", 15e6, 100e6)
    ] = None


class Studs(Model):
    """The studs that carry carburetor and air cleaner, measured with the air cleaner off."""

    spacing: Annotated[
        Fact | None, Quantity("small_length", "Between stud centers", 20e-3, 0.12, 46e-3)
    ] = None
    diameter: Annotated[Fact | None, Quantity("small_length", "Stud diameter", 4e-3, 12e-3)] = None
    pitch: Annotated[Fact | None, Quantity("small_length", "Stud pitch", 0.4e-3, 2e-3, 1e-3)] = None
    stick_out: Annotated[
        Fact | None, Quantity("small_length", "Stick-out past the carburetor", 0.0, 0.2)
    ] = None
    nut_height: Annotated[Fact | None, Quantity("small_length", "Nut height", 2e-3, 15e-3)] = None
    thread_depth: Annotated[
        Fact | None, Quantity("small_length", "Thread in the casting", 4e-3, 40e-3)
    ] = None
    metal: Metal = Metal.UNKNOWN


class Stack(Model):
    """What sits between carburetor and nuts, and the room around it."""

    air_cleaner: Literal["unknown", "two_studs", "third_bolt", "other"] = "unknown"
    flange: Annotated[
        Fact | None, Quantity("small_length", "Air-cleaner flange", 0.5e-3, 25e-3)
    ] = None
    washers: Annotated[Fact | None, Quantity("small_length", "Washers", 0.0, 6e-3, 1e-3)] = None
    gaskets: Annotated[
        Fact | None, Quantity("small_length", "Gaskets, compressed", 0.0, 6e-3, 1e-3)
    ] = None
    adapter: Annotated[Fact | None, Quantity("small_length", "Adapter thickness", 4e-3, 40e-3)] = (
        None
    )
    case_vents: Literal["unknown", "none", "low", "high", "both"] = "unknown"
    """Where air gets through the case of an enclosed set."""
    breather_slack: Annotated[
        Fact | None, Quantity("small_length", "Breather hose slack", 0.0, 0.3)
    ] = None
    bracket_room: Annotated[
        Fact | None, Quantity("small_length", "Room at choke lever and bracket", 0.0, 0.2)
    ] = None
    cover_room: Annotated[
        Fact | None, Quantity("small_length", "Room outside the air cleaner", 0.0, 0.5)
    ] = None


class Face(Model):
    """A face a part could be mounted on, and what is behind it and in the way."""

    name: Name = ""
    room: Annotated[Fact | None, Quantity("small_length", "Room behind the face", 0.0, 1.0)] = None
    behind: Literal["unknown", "nothing", "tank", "wiring", "structure", "exhaust"] = "unknown"
    stands: Name = ""
    remedy: Literal["none", "move", "replace", "cut"] = "none"


class SparkPlug(Model):
    """The plug as its maker and the engine's say it: what another must be like."""

    type: Name = ""
    heat: Name = ""
    """Its heat range, as its maker numbers it."""
    resistor: bool | None = None
    gap_gasoline: Annotated[
        Fact | None, Quantity("clearance", "Plug gap by the maker, gasoline", 0.2e-3, 2e-3, 0.7e-3)
    ] = None
    gap_gas: Annotated[
        Fact | None, Quantity("clearance", "Plug gap by the maker, on gas", 0.2e-3, 2e-3, 0.5e-3)
    ] = None


class InTheWay(Model):
    """What stands where something must go, and what becomes of it."""

    what: Literal[
        "canister", "cover", "breather", "air_box", "exhaust", "wiring", "other"
    ] = "other"  # fmt: skip
    name: Name = ""
    remedy: Literal["none", "move", "replace", "cut"] = "none"
    undo: Literal["unknown", "yes", "partly", "no"] = "unknown"
    """Whether it can be put back as it was."""
    note: Note = ""


class Outlet(Model):
    """A receptacle with its own breaker, or several behind one breaker."""

    name: Name = ""
    breaker: Annotated[Fact | None, Quantity("current", "Breaker", 1.0, 400.0)] = None
    leg: Literal["", "a", "b", "c", "both"] = ""


class GeneratorSet(Model):
    """The machine: identity, ratings with their conditions, engine, alternator, carburetor."""

    maker: Name = ""
    model: Name = ""
    serial: Name = ""
    frame_number: Name = ""
    engine_number: Name = ""
    engine_family: Name = ""
    generation: Name = ""
    trim: Name = ""
    year: Annotated[int | None, Field(ge=1950, le=2100)] = None
    brand_new: bool | None = None
    hours: Annotated[Fact | None, Quantity("duration", "Hours run", 0.0, 3600.0 * 60e3)] = None
    idle: Annotated[Fact | None, Quantity("age", "Stood for", 0.0, 3.2e9)] = None
    last_oil: Annotated[Fact | None, Quantity("age", "Since the last oil change", 0.0, 3.2e9)] = (
        None
    )
    faults: Note = ""
    shut_off: bool | None = None
    tank_vent: Vent = Vent.UNKNOWN
    run_switch: RunSwitch = RunSwitch.UNKNOWN
    switches: Annotated[dict[Key, Switch], Field(max_length=4)] = {}
    """Switches and selectors by their positions, where more is told than what it cuts."""
    electric_start: bool | None = None
    factory_gas: bool | None = None
    """Whether its maker made it for propane too, whatever its class."""
    gas_port: Literal["unknown", "1/4", "3/8", "1/2"] = "unknown"
    """Thread of the factory's port for a second gas [in NPT]."""
    studs: Studs = Studs()
    stack: Stack = Stack()
    plug: SparkPlug = SparkPlug()
    fuel_line: Literal["unknown", "1/4", "5/16"] = "unknown"
    """Inside of the set's own fuel line [in]."""
    faces: dict[Key, Face] = {}
    in_the_way: Annotated[dict[Key, InTheWay], Field(max_length=12)] = {}
    set_class: SetClass = SetClass.OPEN_FRAME
    displacement: Annotated[Fact | None, Quantity("displacement", "Displacement", 20e-6, 5e-3)] = (
        None
    )
    shaft_power: Annotated[Fact | None, Quantity("power", "Shaft power", 200.0, 80e3)] = None
    cylinders: Annotated[int, Field(ge=1, le=6)] = 1
    running: Annotated[Fact | None, Quantity("power", "Running rating", 100.0, 50e3)] = None
    starting: Annotated[Fact | None, Quantity("power", "Starting rating", 100.0, 80e3)] = None
    apparent: Annotated[Fact | None, Quantity("apparent_power", "Apparent power", 100.0, 100e3)] = (
        None
    )
    """The plate's volt-amperes, where it has them beside its watts."""
    rating_elevation: Annotated[
        Fact | None, Quantity("elevation", "Rated at elevation", -430.0, 4000.0)
    ] = None
    rating_temperature: Annotated[
        Fact | None, Quantity("temperature", "Rated at temperature", 253.15, 323.15)
    ] = None
    reserve_ratio: Annotated[Fact | None, Quantity("ratio", "Engine reserve", 0.5, 2.5)] = None
    alternator_efficiency: Annotated[
        Fact | None, Quantity("share", "Alternator efficiency", 0.5, 0.97)
    ] = None
    gas_efficiency: Annotated[
        Fact | None, Quantity("ratio", "Efficiency on gas over gasoline", 0.7, 1.3)
    ] = None
    volts: Annotated[Fact | None, Quantity("voltage", "Voltage", 6.0, 690.0)] = None
    hertz: Annotated[Fact | None, Quantity("frequency", "Frequency", 45.0, 65.0)] = None
    rated_speed: Annotated[Fact | None, Quantity("speed", "Working speed", 100.0, 600.0)] = None
    """Of a bare engine: the speed its governor holds."""
    drives: Name = ""
    """What a bare engine drives."""
    phases: Literal[1, 3] = 1
    outlets: Annotated[dict[Key, Outlet], Field(max_length=12)] = {}
    sound_level: Annotated[
        Fact | None, Quantity("sound_level", "Sound level at 7 m", 40.0, 115.0)
    ] = None
    tank: Annotated[Fact | None, Quantity("volume", "Gasoline tank", 2e-4, 0.5)] = None
    gasoline: Literal["e0", "e10", "e15", "e85"] = "e10"
    carburetor: Carburetor = Carburetor()
    run_times: dict[Key, RunTime] = {}
    weigh_ins: dict[Key, WeighIn] = {}
    clocked: Annotated[dict[Key, Clocked], Field(max_length=40)] = {}
    note: Note = ""

    @property
    def bare(self) -> bool:
        """Whether it is an engine without an alternator: loaded by what it drives."""
        return self.set_class is SetClass.ENGINE

    @property
    def dual_fuel(self) -> bool:
        """Whether propane is its maker's own fuel beside gasoline."""
        return self.set_class is SetClass.DUAL_FUEL or self.factory_gas is True

    @property
    def stops_by(self) -> RunSwitch:
        """What stops the engine: by its switches' positions, else as the run switch is said to."""
        ignition = any(one.cuts_ignition for one in self.switches.values())
        fuel = any(one.shuts_own for one in self.switches.values())
        if ignition:
            return RunSwitch.IGNITION_AND_FUEL if fuel else RunSwitch.IGNITION
        if fuel and self.run_switch is RunSwitch.UNKNOWN:
            return RunSwitch.FUEL
        return self.run_switch

    @property
    def own_shut(self) -> bool | None:
        """Whether something shuts the own tank while it runs: a valve, or a switch in a position
        with the ignition on; None while nobody said."""
        by_switch = any(
            one.shuts_own and any(at.sparks and not at.own for at in one.positions.values())
            for one in self.switches.values()
        )
        return True if by_switch else self.shut_off

    @property
    def barrels(self) -> int:
        """Barrels that are fed, each with a load screw of its own."""
        return 2 if self.carburetor.type is CarburetorType.TWO_BARREL else 1

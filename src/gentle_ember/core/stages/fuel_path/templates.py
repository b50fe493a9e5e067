"""Templates: which parts a train has from source to intake, by method and source."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product

from gentle_ember.core.job.handling import FACTORY_GAS, SELECTED, FuelSource, of_source
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part
from gentle_ember.core.job.part import PartClass as P
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.fuels import FuelKey


@dataclass(frozen=True, slots=True)
class Role:
    """One place in a train: what it is for, which classes can fill it.

    `reach` roles must cover the distance from source to set; `leads` says which coupler half.
    """

    key: str
    title: str
    kinds: tuple[P, ...]
    reach: bool = False
    half: str = ""

    def called(self, part: Part | None) -> str:
        """What it is called with a part in it; one of two things is called what it is."""
        if self.key != "load_screw" or part is None:
            return self.title
        return "gas jet" if part.kind is P.GAS_JET else "load screw"


def _role(key: str, title: str, *kinds: P, reach: bool = False, half: str = "") -> Role:
    return Role(key, title, kinds, reach, half)


SHUT_OFF = _role("shut_off", "shut-off", P.SHUT_OFF)
NEAR_SHUT_OFF = _role("near_shut_off", "shut-off at the coupler", P.SHUT_OFF)
SUPPLY_HALF = _role("supply_half", "coupler, supply half", P.GAS_HALF, half="supply")
SET_HALF = _role("set_half", "coupler, set half", P.GAS_HALF, half="set")
HOSE = _role("hose", "hose to the set", P.GAS_HOSE)
RUN_HOSE = _role("run_hose", "hose from the cylinder", P.GAS_HOSE, reach=True)
BULKHEAD = _role("bulkhead", "bulkhead", P.BULKHEAD)
PIPE = _role("pipe", "fixed pipe", P.PIPE, reach=True)
DEMAND = _role("demand", "demand regulator", P.DEMAND)
LOCK_OFF = _role("lock_off", "lock-off", P.LOCK_OFF)
LOAD_SCREW = _role("load_screw", "load screw or gas jet", P.LOAD_SCREW, P.GAS_JET)
TEE = _role("tee", "tee", P.TEE)
VAPOR = _role("vapor_hose", "vapor hose", P.VAPOR_HOSE)

SOURCES: dict[str, tuple[FuelSource, str, tuple[Role, ...]]] = {
    "cylinder": (
        FuelSource.CYLINDER,
        "one cylinder, two-stage regulator",
        (
            _role("source", "cylinder", P.CYLINDER),
            _role("regulator", "two-stage", P.TWO_STAGE),
            RUN_HOSE,
        ),
    ),
    "two_stages": (
        FuelSource.CYLINDER,
        "one cylinder, first and second stage apart",
        (
            _role("source", "cylinder", P.CYLINDER),
            _role("first", "first stage", P.FIRST_STAGE),
            RUN_HOSE,
            _role("second", "second stage", P.SECOND_STAGE),
        ),
    ),
    "check_pigtails": (
        FuelSource.CYLINDER,
        "two cylinders, pigtails with checks",
        (
            _role("source", "cylinders", P.CYLINDER),
            _role("pigtail", "pigtails", P.PIGTAIL),
            _role("manifold", "check tee", P.MANIFOLD),
            _role("regulator", "two-stage", P.TWO_STAGE),
            RUN_HOSE,
        ),
    ),
    "changeover": (
        FuelSource.CYLINDER,
        "two cylinders, changeover",
        (
            _role("source", "cylinders", P.CYLINDER),
            _role("pigtail", "pigtails", P.PIGTAIL),
            _role("changeover", "changeover, first stage", P.FIRST_STAGE),
            RUN_HOSE,
            _role("second", "second stage", P.SECOND_STAGE),
        ),
    ),
    "utility": (
        FuelSource.HOUSE,
        "house gas at 7 in w.c.",
        (_role("source", "gas stub", P.STUB), SHUT_OFF, PIPE),
    ),
    "utility_outlet": (
        FuelSource.HOUSE,
        "house gas, quick outlet and a hose",
        (
            _role("source", "gas stub", P.STUB),
            SHUT_OFF,
            _role("outlet_half", "house outlet", P.GAS_HALF, half="supply"),
            _role("outlet_plug", "hose plug", P.GAS_HALF, half="set"),
            _role("run_hose", "hose from the outlet", P.GAS_HOSE, reach=True),
        ),
    ),
    "utility_2psi": (
        FuelSource.HOUSE,
        "house gas at 2 psi",
        (
            _role("source", "gas stub", P.STUB),
            SHUT_OFF,
            _role("line", "line regulator", P.LINE_REGULATOR),
            PIPE,
        ),
    ),
    "digester": (
        FuelSource.DIGESTER,
        "digester, cleaned, with a blower",
        (
            _role("source", "digester", P.DIGESTER),
            SHUT_OFF,
            _role("drip", "drip leg", P.DRIP_LEG),
            _role("scrubber", "scrubber", P.SCRUBBER),
            _role("booster", "blower", P.BOOSTER),
            PIPE,
        ),
    ),
    "digester_plain": (
        FuelSource.DIGESTER,
        "digester with pressure of its own, cleaned",
        (
            _role("source", "digester", P.DIGESTER),
            SHUT_OFF,
            _role("drip", "drip leg", P.DRIP_LEG),
            _role("scrubber", "scrubber", P.SCRUBBER),
            PIPE,
        ),
    ),
}
"""What it begins at, title and the roles up to the set's own shut-off and coupler."""

COUPLED = (NEAR_SHUT_OFF, SUPPLY_HALF, SET_HALF, HOSE)

ENDINGS: dict[str, tuple[Role, ...]] = {
    "spacer_adapter": (
        DEMAND,
        LOAD_SCREW,
        VAPOR,
        _role("adapter", "adapter", P.ADAPTER),
    ),
    "snorkel": (DEMAND, LOAD_SCREW, VAPOR, _role("mixer", "mixer tube", P.MIXER)),
    "multi_fuel_carburetor": (_role("carburetor", "multi-fuel carburetor", P.CARBURETOR),),
    "exchanged_carburetor": (
        DEMAND,
        LOAD_SCREW,
        VAPOR,
        _role("carburetor", "carburetor with gas port", P.CARBURETOR),
    ),
    "two_barrel_adapter": (
        LOCK_OFF,
        DEMAND,
        TEE,
        LOAD_SCREW,
        VAPOR,
        _role("adapter", "two-barrel block", P.ADAPTER),
    ),
    "second_gas": (DEMAND, LOAD_SCREW, VAPOR, _role("inlet", "second gas inlet", P.GAS_INLET)),
}

FUEL_SUPPLY = _role("fuel_supply_half", "fuel coupler, tank half", P.FUEL_HALF, half="supply")
FUEL_SET = _role("fuel_set_half", "fuel coupler, set half", P.FUEL_HALF, half="set")
TANKS: dict[str, tuple[str, tuple[Role, ...]]] = {
    "remote_tank_gravity": (
        "remote tank, by gravity",
        (
            _role("source", "remote tank", P.TANK),
            _role("tank_valve", "tank valve", P.TANK_VALVE),
            _role("fuel_hose", "hose from the tank", P.FUEL_HOSE, reach=True),
            FUEL_SUPPLY,
            FUEL_SET,
            _role("hose_in", "hose", P.FUEL_HOSE),
            _role("filter", "filter", P.FUEL_FILTER),
            _role("hose_on", "hose", P.FUEL_HOSE),
            _role("selector", "selector", P.SELECTOR),
            _role("hose_out", "hose", P.FUEL_HOSE),
            _role("bowl", "carburetor inlet", P.FUEL_INLET),
        ),
    ),
    "remote_tank_pump": (
        "remote tank, by pump",
        (
            _role("source", "remote tank", P.TANK),
            _role("tank_valve", "tank valve", P.TANK_VALVE),
            _role("fuel_hose", "hose from the tank", P.FUEL_HOSE, reach=True),
            _role("bulb", "bulb", P.BULB),
            _role("hose_in", "hose", P.FUEL_HOSE),
            FUEL_SUPPLY,
            FUEL_SET,
            _role("hose_on", "hose", P.FUEL_HOSE),
            _role("filter", "filter", P.FUEL_FILTER),
            _role("hose_to", "hose", P.FUEL_HOSE),
            _role("pump", "pulse pump", P.PUMP),
            _role("hose_from", "hose", P.FUEL_HOSE),
            _role("selector", "selector", P.SELECTOR),
            _role("hose_out", "hose", P.FUEL_HOSE),
            _role("bowl", "carburetor inlet", P.FUEL_INLET),
        ),
    ),
}


SET_SIDE = frozenset(
    role.key
    for role in (SET_HALF, HOSE, BULKHEAD, *(one for ending in ENDINGS.values() for one in ending))
)
"""Roles on the set itself: two gases share the parts that fill them, one gas at a time."""


def same_half(job: Job, name: str) -> tuple[str, ...]:
    """Other gases of a job whose hoses go on the same coupler half of the set as this one's."""
    halves = {
        gas: slot.part
        for gas, train in job.trains.items() if gas not in (AS_FOUND, FuelKey.GASOLINE)
        for slot in train.slots.values() if slot.role == SET_HALF.key and slot.part
    }  # fmt: skip
    return tuple(gas for gas, half in halves.items() if gas != name and half == halves.get(name))


@dataclass(frozen=True, slots=True)
class Template:
    """A kind of train: its key, the fuel, the method it belongs to, its roles in order."""

    key: str
    title: str
    fuel: FuelKey
    method: str
    source: str
    roles: tuple[Role, ...]

    def role(self, key: str) -> Role | None:
        """A role by its key."""
        return next((role for role in self.roles if role.key == key), None)


def _gas_templates() -> Iterator[Template]:
    """Of every gas by every source of its kind; the first gas of a kind gives its trains the
    shorter key, which older jobs have."""
    for (source, (kind, name, head)), (method, ending) in product(SOURCES.items(), ENDINGS.items()):
        for at, fuel in enumerate(of_source(kind)):
            if method == "second_gas" and fuel is FACTORY_GAS:
                continue
            if method == "multi_fuel_carburetor" and fuel not in SELECTED:
                continue
            key = f"{method}-{source}" if at == 0 else f"{method}-{source}-{fuel}"
            yield Template(key, name, fuel, method, source, (*head, *COUPLED, *ending))


TEMPLATES: dict[str, Template] = {one.key: one for one in _gas_templates()} | {
    method: Template(method, name, FuelKey.GASOLINE, method, "tank", roles)
    for method, (name, roles) in TANKS.items()
}


def templates_of(method: str, fuel: FuelKey) -> tuple[Template, ...]:
    """The templates of a method on a fuel, plainest first."""
    return tuple(one for one in TEMPLATES.values() if one.method == method and one.fuel is fuel)

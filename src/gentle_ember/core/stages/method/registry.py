"""Every school, and which may be combined. Adding one is an entry here and a judge."""

from __future__ import annotations

from itertools import combinations

from gentle_ember.core.job.handling import FACTORY_GAS, SELECTED
from gentle_ember.core.physics.fuels import GASES
from gentle_ember.core.stages.method import gas, gasoline, instead
from gentle_ember.core.stages.method.base import School, SchoolKind

_ALL_GASES = tuple(map(str, GASES))
_RUN_DRY = "with the bowl run dry"

_ALL = (
    School(
        "spacer_adapter", "Spacer adapter", SchoolKind.GAS, _ALL_GASES,
        "A venturi plate between air cleaner and carburetor, a demand regulator, a load screw.",
        "Gasoline, the choke, the carburetor; nothing for good.",
        "A plate's thickness: the air cleaner moves outward.",
        _RUN_DRY, "kept; open on gas", "adjustable: load screw", "",
        "Gasket order and direction of the plate; a hose past the exhaust.",
        210.0, 3.5, gas.spacer_adapter, drills=True,
    ),
    School(
        "snorkel", "Snorkel before the choke", SchoolKind.GAS, _ALL_GASES,
        "A mixer tube on the air horn, in front of the choke.",
        "The stack and its studs as they are.",
        "The choke, or its reach.",
        _RUN_DRY, "blocked or lost", "adjustable: load screw", "",
        "Hard cold starts on gasoline; the air filter must still seal.",
        150.0, 2.0, gas.snorkel, drills=True, loses_choke=True,
    ),
    School(
        "multi_fuel_carburetor", "Multi-fuel carburetor", SchoolKind.GAS,
        tuple(map(str, SELECTED)),
        "The carburetor is replaced by one with a control valve and a gas selector.",
        "Spacing, gasoline, the choke as before.",
        "Fine metering: its gas jet is fixed.",
        "stopped, gasoline shut at its own valve, in the order under Fuel states",
        "as the maker says for gas",
        "fixed; by its jet", "",
        "Not on every engine; its valve may foul the air box.",
        190.0, 2.0, gas.multi_fuel_carburetor, fixed=True,
    ),
    School(
        "exchanged_carburetor", "Exchanged carburetor with a gas port", SchoolKind.GAS, _ALL_GASES,
        "The carburetor is exchanged for one drilled for gas.",
        "Spacing, gasoline, the choke.",
        "The original carburetor, against its deposit.",
        _RUN_DRY, "kept; open on gas", "adjustable: load screw",
        "the original carburetor goes back",
        "The old one must be complete and clean; its jet may be another.",
        260.0, 2.5, gas.exchanged_carburetor, drills=True,
    ),
    School(
        "two_barrel_adapter", "Two-barrel adapter with lock-off", SchoolKind.GAS, _ALL_GASES,
        "A block with a branch for each barrel, a tee, an electric lock-off.",
        "Gasoline by a change-over switch, the choke.",
        "The fuel solenoid's lead, unless a switch is added.",
        _RUN_DRY, "kept; open on gas", "adjustable: a screw for each barrel", "",
        "Unequal barrels; a lock-off without ground.",
        340.0, 5.0, gas.two_barrel_adapter, drills=True,
    ),
    School(
        "second_gas", "Second gas on a factory dual-fuel set", SchoolKind.GAS,
        tuple(str(gas) for gas in GASES if gas is not FACTORY_GAS),
        "A demand regulator for the second gas; the factory port gets a cap.",
        "Gasoline and the factory's gas.",
        "One gas at a time: the other's port stays capped.",
        "stopped, in the order under Fuel states", "as the factory has it",
        "adjustable: load screw", "",
        "Two gases connected; a port left open.",
        180.0, 2.5, gas.second_gas,
    ),
    School(
        "remote_tank_gravity", "Remote tank, by gravity", SchoolKind.TANK, ("remote_tank",),
        "A three-way selector in the line, a coupler, a tank beside and above.",
        "The own tank, the choke, everything on gasoline.",
        "Nothing.",
        "on the fly at the selector", "kept", "none", "",
        "Both tanks open overfill the small one; a tank too high floods.",
        120.0, 1.5, gasoline.gravity,
    ),
    School(
        "remote_tank_pump", "Remote tank, by pump", SchoolKind.TANK, ("remote_tank",),
        "A pulse pump, a selector, a coupler, a tank on the ground.",
        "The own tank, the choke.",
        "A little crankcase pulse.",
        "on the fly at the selector", "kept", "none", "",
        "Priming by hand; a leak on the suction side draws air.",
        150.0, 2.0, gasoline.pump,
    ),
    School(
        "rejet", "Jet for the elevation", SchoolKind.JET, ("elevation",),
        "Another main jet, with its tube; the old one tagged.",
        "Everything else.",
        "Nothing; coming down with a small jet is lean.",
        "no change-over", "kept", "fixed; by the jet", "",
        "A jet number from memory, not read off the jet.",
        25.0, 1.0, gasoline.rejet,
    ),
    School(
        "leave_it", "Leave it as it is", SchoolKind.INSTEAD, (),
        "Nothing.", "Everything.", "Nothing.", "none", "kept", "none", "",
        "Stale fuel and gummed carburetors as before.", 0.0, 0.0, instead.leave_it,
    ),
    School(
        "battery", "Battery station for the night", SchoolKind.INSTEAD, (),
        "The night runs from a battery; the set charges it by day.", "The set as it is.",
        "Nothing.", "none", "kept", "none", "", "Cold halves what it holds.",
        1500.0, 1.0, instead.battery,
    ),
    School(
        "gas_only_set", "A set made for gas", SchoolKind.INSTEAD, _ALL_GASES,
        "Another set, certified for the gas.", "Warranty and emissions papers.",
        "Gasoline as a fall-back.", "none", "none needed", "by its maker",
        "the old set is given up", "Its price.", 1900.0, 1.0, instead.gas_only_set,
    ),
    School(
        "soft_starter", "Soft starter on the hardest start", SchoolKind.INSTEAD, (),
        "A soft starter in the motor's supply.", "The set as it is.", "Nothing.",
        "none", "kept", "none", "", "Not every motor takes one.", 280.0, 1.5,
        instead.soft_starter,
    ),
    School(
        "bigger_set", "A bigger set", SchoolKind.INSTEAD, (),
        "A set that carries it.", "Time.", "Fuel: a big set at small load burns more.",
        "none", "by its maker", "none", "the old set is given up", "Its price and its thirst.",
        2400.0, 1.0, instead.bigger_set,
    ),
)  # fmt: skip
SCHOOLS: dict[str, School] = {school.key: school for school in _ALL}


def clash(one: School, other: School) -> str:
    """Why two schools can't be had together; empty when they can."""
    if SchoolKind.INSTEAD in (one.kind, other.kind) and "soft_starter" not in (one.key, other.key):
        return f"{one.name} and {other.name.lower()} exclude each other."
    if one.kind is SchoolKind.GAS and other.kind is SchoolKind.GAS:
        return "Two ways of mixing gas into one engine: choose one."
    if one.kind is SchoolKind.TANK and other.kind is SchoolKind.TANK:
        return "One remote tank has one feed: gravity or pump."
    if {one.kind, other.kind} == {SchoolKind.GAS, SchoolKind.JET} and (
        "exchanged_carburetor" in (one.key, other.key)
        or "multi_fuel_carburetor" in (one.key, other.key)
    ):
        return "The other carburetor brings its own jet: order it for this elevation."
    return ""


def clashes(keys: tuple[str, ...]) -> list[str]:
    """Every reason why these schools can't be had together."""
    found = [SCHOOLS[key] for key in keys if key in SCHOOLS]
    return [why for one, other in combinations(found, 2) if (why := clash(one, other))]

"""What each valve, vent, cap, hose and selector joins, and what each fuel state then does."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.generator import Vent
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.physics.fuel_states import (
    BOWL,
    BOWL_FILL,
    DEMAND_INLET,
    ENGINE,
    GAS_PORT,
    INTAKE,
    OUTSIDE,
    OWN_TANK,
    REMOTE_TANK,
    RUNNING,
    STOPPED,
    TANK_AIR,
    Control,
    Fault,
    Link,
    Network,
    Slip,
    State,
    control,
    faults,
    link,
    slips,
)
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.judged import judged_methods

FUEL_NAMES = {
    FuelKey.GASOLINE: "gasoline",
    FuelKey.PROPANE: "propane",
    FuelKey.NATURAL_GAS: "natural gas",
    FuelKey.BIOGAS: "biogas",
}
SOURCE_VALVES = {
    FuelKey.PROPANE: "Cylinder valve",
    FuelKey.NATURAL_GAS: "Shut-off at the stub",
    FuelKey.BIOGAS: "Shut-off at the digester",
}


@dataclass(frozen=True, slots=True)
class FuelSystem:
    """A network with its states, in the order they are asked for."""

    network: Network
    states: tuple[State, ...]


def fuel_system(case: Case, methods: tuple[str, ...]) -> FuelSystem:
    """Build the network of what is on the set with these methods, as the set stands.

    A shut-off that is not known to be there is taken as missing.
    """
    builder = _Builder(case, methods)
    builder.gasoline()
    builder.gas()
    return builder.finish()


class _Builder:
    def __init__(self, case: Case, methods: tuple[str, ...]) -> None:
        self.case, self.methods = case, methods
        self.controls: list[Control] = [control(ENGINE, "Engine, by its switch", RUNNING, STOPPED)]
        self.links: list[Link] = []
        self.sources: dict[str, str] = {}
        self.pressed: set[str] = set()
        self.coupled: list[FuelKey] = []
        self.factory = "second_gas" in methods or case.set.set_class == "dual_fuel"
        mixes = {"spacer_adapter", "snorkel", "multi_fuel_carburetor", "exchanged_carburetor",
                 "two_barrel_adapter", "second_gas"}  # fmt: skip
        gives_gas = bool(mixes & set(methods)) or self.factory
        self.gases = case.for_gas if gives_gas else ()
        self.remote = bool({"remote_tank_gravity", "remote_tank_pump"} & set(methods))

    def _add(self, key: str, name: str, *positions: str) -> None:
        self.controls.append(control(key, name, *positions))

    def gasoline(self) -> None:
        """Own tank, its shut-off and vent, remote tank and selector, bowl, solenoid."""
        machine = self.case.set
        self.sources |= {OWN_TANK: "gasoline", BOWL_FILL: "gasoline"}
        self._add("bowl", "Float bowl", "filled", "run dry")
        self.links.append(link(BOWL_FILL, BOWL, bowl="filled"))
        if machine.tank_vent is Vent.CAP_LEVER:
            self._add("vent", "Tank vent", "open", "shut")
            self.links.append(link(OWN_TANK, TANK_AIR, vent="open"))
        else:
            self.links.append(link(OWN_TANK, TANK_AIR))
        shut: dict[str, str] = {}
        if machine.shut_off is True or "multi_fuel_carburetor" in self.methods:
            name = "Gas selector's gasoline side" if machine.shut_off is not True else (
                "Gasoline shut-off"
            )  # fmt: skip
            self._add("tank_valve", name, "open", "shut")
            shut = {"tank_valve": "open"}
        if self.remote and not self._has_selector():
            # Both tanks lead to the bowl: whatever is not shut feeds it.
            self.sources[REMOTE_TANK] = "gasoline"
            self._add("remote_valve", "Shut-off at the remote tank", "open", "shut")
            self._add("fuel_coupler", "Fuel coupler", "joined", "parted")
            self.links += [
                link(OWN_TANK, BOWL, **shut),
                link(REMOTE_TANK, BOWL, remote_valve="open", fuel_coupler="joined"),
            ]
        elif self.remote:
            self.sources[REMOTE_TANK] = "gasoline"
            self._add("selector", "Tank selector", "own", "remote", "between")
            self._add("remote_valve", "Shut-off at the remote tank", "open", "shut")
            self._add("fuel_coupler", "Fuel coupler", "joined", "parted")
            self.links += [
                link(OWN_TANK, "selector body", selector=("own", "between"), **shut),
                link(
                    REMOTE_TANK,
                    "selector body",
                    selector=("remote", "between"),
                    remote_valve="open",
                    fuel_coupler="joined",
                ),
                link("selector body", BOWL),
            ]
        else:
            self.links.append(link(OWN_TANK, BOWL, **shut))
        if machine.carburetor.fuel_solenoid is True and "two_barrel_adapter" not in self.methods:
            self._add("solenoid", "Fuel solenoid", "on", "off")
            self.links.append(link(BOWL, INTAKE, solenoid="on"))
        else:
            self.links.append(link(BOWL, INTAKE))

    def _has_selector(self) -> bool:
        train = self.case.train(FuelKey.GASOLINE)
        return train is None or any(part.kind is PartClass.SELECTOR for part in train)

    def gas(self) -> None:
        """Each gas from its valve through its coupler to a demand regulator and the intake."""
        for gas in self.gases:
            source, key = FUEL_NAMES[gas], str(gas)
            self.sources[source] = FUEL_NAMES[gas]
            self.pressed.add(source)
            self._add(f"{key}_valve", SOURCE_VALVES[gas], "open", "shut")
            own_port = self.factory and gas is not FuelKey.PROPANE
            inlet = f"{DEMAND_INLET} 2" if own_port else DEMAND_INLET
            train = self.case.train(gas)
            halves = [part for part in train or () if part.kind is PartClass.GAS_HALF]
            if train is not None and not halves:
                # Without a coupler the hose is always on: only the valve keeps the gas back.
                self.links.append(link(source, inlet, **{f"{key}_valve": "open"}))
                continue
            self.coupled.append(gas)
            self._add(f"{key}_coupler", f"Hose for {source}", "joined", "parted")
            self.links.append(
                link(source, inlet, **{f"{key}_valve": "open", f"{key}_coupler": "joined"})
            )
            if halves and halves[0].closes:
                continue
            # A parted hose is taken as open: many full-bore coupler halves don't close.
            self.links.append(
                link(source, OUTSIDE, **{f"{key}_valve": "open", f"{key}_coupler": "parted"})
            )
        inlets = sorted({place for one in self.links for place in (one.a, one.b)
                         if place.startswith(DEMAND_INLET)})  # fmt: skip
        for number, inlet in enumerate(inlets):
            suffix = "" if number == 0 else " 2"
            cap = f"cap{suffix.strip()}"
            fed = [f"{gas}_coupler" for gas in self.coupled
                   if (self.factory and gas is not FuelKey.PROPANE) == inlet.endswith("2")
                   or len(inlets) == 1]  # fmt: skip
            name = "Cap on the gas inlet" if number == 0 else "Cap on the second inlet"
            self._add(cap, name, "on", "off")
            self.links.append(link(inlet, OUTSIDE, **{cap: "off"}, **dict.fromkeys(fed, "parted")))
            opens = {ENGINE: RUNNING} if self._shuts_by_itself() else {}
            if self._locked_off():
                if number == 0:
                    self._add("lock_off", "Electric lock-off", "powered", "dead")
                opens["lock_off"] = "powered"
            if inlet != DEMAND_INLET:
                # One name for every demand regulator's inlet keeps the faults' wording one.
                self.links.append(link(inlet, DEMAND_INLET, **dict.fromkeys(fed, "joined")))
            self.links.append(link(inlet, GAS_PORT, **opens))
        if inlets:
            self.links.append(link(GAS_PORT, INTAKE))

    def _trains(self) -> list[tuple[Part, ...]]:
        return [train for gas in self.gases if (train := self.case.train(gas)) is not None]

    def _locked_off(self) -> bool:
        """Whether an electric lock-off stands in the gas: as the trains have it, else by method."""
        trains = self._trains()
        if trains:
            return any(part.kind is PartClass.LOCK_OFF for train in trains for part in train)
        return "two_barrel_adapter" in self.methods

    def _shuts_by_itself(self) -> bool:
        """Whether gas stops with the engine: a demand regulator, unless the train has none."""
        return all(any(part.stalls for part in train) for train in self._trains())

    def finish(self) -> FuelSystem:
        """The network, and its states."""
        network = Network(
            tuple(self.controls), tuple(self.links), self.sources, frozenset(self.pressed)
        )
        states = []
        if self.case.job.wants.keep_gasoline or not self.gases:
            states.append(self._state("gasoline", "On gasoline", runs_on="gasoline"))
        if self.remote:
            states.append(
                self._state("remote", "On the remote tank", runs_on="gasoline", tank="remote")
            )
        states += [
            self._state(str(gas), f"On {FUEL_NAMES[gas]}", runs_on=FUEL_NAMES[gas], gas=str(gas))
            for gas in self.gases
        ]
        if self.gases and states[0].key == "gasoline":
            states += [
                self._state("to_gas", "Over to gas", runs_on="gasoline", dry=True, hose_on=True),
                self._state("to_gasoline", "Back to gasoline", runs_on="gasoline", hose_on=True),
            ]
        states += [
            self._state("stopped", "Stopped", stopped=True, hose_on=True),
            self._state("stored", "Stored", stopped=True, stored=True),
        ]
        return FuelSystem(network, tuple(states))

    def _state(
        self,
        key: str,
        name: str,
        *,
        runs_on: str = "",
        gas: str = "",
        tank: str = "own",
        dry: bool = False,
        stopped: bool = False,
        stored: bool = False,
        hose_on: bool = False,
    ) -> State:
        """A state's positions: what its fuel needs is open, everything else is shut."""
        on_own = bool(runs_on) and not gas and tank == "own" and not dry
        wanted = {
            ENGINE: STOPPED if stopped else RUNNING,
            "bowl": "run dry" if gas or stored else "filled",
            "vent": "open" if on_own or dry else "shut",
            "tank_valve": "open" if on_own else "shut",
            "selector": tank,
            "remote_valve": "open" if tank == "remote" else "shut",
            "fuel_coupler": "joined" if tank == "remote" else "parted",
            "solenoid": "on" if runs_on == "gasoline" else "off",
            "lock_off": "powered" if gas else "dead",
            "cap": "on",
            "cap2": "on",
        }
        # Changing over and after a stop the hose stays on and its valve is shut.
        left_on = gas or (str(self.gases[0]) if self.gases and hose_on else "")
        if left_on:
            wanted["cap2" if self._inlet(left_on) else "cap"] = "off"
        for one in self.gases:
            wanted[f"{one}_valve"] = "open" if gas == one else "shut"
            wanted[f"{one}_coupler"] = "joined" if left_on == one else "parted"
        positions = {one.key: wanted[one.key] for one in self.controls}
        return State(key, name, positions, runs_on)

    def _inlet(self, gas: str) -> int:
        second = self.factory and gas != FuelKey.PROPANE
        return int(second and FuelKey.PROPANE in self.gases)


@dataclass(frozen=True, slots=True)
class AsBefore:
    """Whether it still runs on gasoline as before, and what is different."""

    answer: str
    differences: tuple[str, ...]


def as_before(case: Case, methods: tuple[str, ...], gasoline_faults: int) -> AsBefore:
    """The owner's first question, answered from the methods and the gasoline state."""
    if not case.job.wants.keep_gasoline and methods:
        return AsBefore("no", ("gasoline is given up",))
    differences = []
    if "snorkel" in methods:
        differences.append("the choke is blocked or lost")
    if "two_barrel_adapter" in methods and case.set.carburetor.fuel_solenoid:
        differences.append("a change-over switch powers the fuel solenoid or the lock-off")
    if {"multi_fuel_carburetor", "exchanged_carburetor"} & set(methods):
        differences.append("another carburetor meters the gasoline")
    if {"spacer_adapter", "two_barrel_adapter"} & set(methods):
        differences.append("a plate sits in the intake: prove it at the load it took before")
    if "rejet" in methods:
        differences.append("the jet is for this elevation; lower down it is lean")
    if {"remote_tank_gravity", "remote_tank_pump"} & set(methods):
        differences.append("the selector must be on the set's own tank")
    if case.for_gas and case.set.shut_off is not True and any(
        one in methods for one in ("spacer_adapter", "snorkel", "exchanged_carburetor")
    ):  # fmt: skip
        differences.append("without a gasoline shut-off it can't be changed over safely")
    if gasoline_faults:
        return AsBefore("not as it is", tuple(differences))
    return AsBefore("yes, but" if differences else "yes", tuple(differences))


@dataclass(frozen=True)
class StateColumn:
    """One state: where everything stands, what that lets happen, and which slips are dangerous."""

    network: Network
    state: State
    faults: tuple[Fault, ...]

    @cached_property
    def slips(self) -> tuple[Slip, ...]:
        """Every control that may not stand otherwise, and why."""
        return slips(self.network, self.state)

    @property
    def safe(self) -> bool:
        """Nothing that must never be."""
        return not any(fault.never for fault in self.faults)


@dataclass(frozen=True, slots=True)
class StatesSection:
    """Controls as rows, states as columns."""

    methods: tuple[str, ...]
    controls: tuple[Control, ...]
    columns: tuple[StateColumn, ...]
    before: AsBefore


def states_section(case: Case, methods: tuple[str, ...]) -> StatesSection:
    """Compute the matrix."""
    system = fuel_system(case, methods)
    columns = tuple(
        StateColumn(system.network, state, faults(system.network, state)) for state in system.states
    )
    gasoline = sum(
        fault.never for column in columns if column.state.key == "gasoline"
        for fault in column.faults
    )  # fmt: skip
    return StatesSection(
        methods, system.network.controls, columns, as_before(case, methods, gasoline)
    )


def states_with(plan: Plan, methods: tuple[str, ...]) -> StatesSection:
    """The fuel-state matrix with these methods on the set."""
    return states_section(Case(plan.job, plan.of(output_here)), methods)


def fuel_states(plan: Plan) -> StatesSection:
    """The fuel-state matrix of what is chosen; of what is recommended until then."""
    return states_with(plan, plan.job.choice.methods or plan.of(judged_methods).recommended)

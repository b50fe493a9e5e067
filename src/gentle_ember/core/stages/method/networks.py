"""What each valve, vent, cap, hose and selector joins, and what each fuel state then does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from gentle_ember.core.base.cached import remember
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.generator import Switch, SwitchPosition, Vent
from gentle_ember.core.job.handling import FACTORY_GAS, HANDLING, SELECTED
from gentle_ember.core.job.job import REMOTE_TANKS, gasoline_given_up, shut_off_fitted
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
    PLUG,
    REMOTE_AIR,
    REMOTE_TANK,
    RUNNING,
    SPARK,
    STOPPED,
    TANK_AIR,
    Control,
    Fault,
    Link,
    Network,
    Positions,
    Slip,
    State,
    control,
    faults,
    link,
    slips,
    slips_to_both,
)
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.physics.sequences import Move, Sequence, Space
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.ways import taken

KEPT = 64
"""Searches kept, one for each fuel system asked for last."""
PASSING = ("to_gas", "to_gasoline")
"""States passed through, not stood in."""
GAS_SELECTOR = "gas_selector"


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
    builder.switches()
    builder.gasoline()
    builder.gas()
    return builder.finish()


def called_positions(one: Switch) -> dict[str, str]:
    """What each position is called from now on, by its key; no two alike."""
    found: dict[str, str] = {}
    for key, position in one.positions.items():
        name = position.becomes or position.name or key
        while name in found.values():
            name += "′"
        found[key] = name
    return found


def _turn(name: str, called: str, position: SwitchPosition) -> str:
    """What a hand does to bring a switch to a position."""
    text = f"Turn the {name[0].lower()}{name[1:]} to {called}"
    if position.short:
        text += ", slowly, and stop just short of its end: a switch there kills the engine"
    return text


class _Builder:
    def __init__(self, case: Case, methods: tuple[str, ...]) -> None:
        self.case, self.methods = case, methods
        self.controls: list[Control] = [
            control(ENGINE, "Engine, by its switch", RUNNING, STOPPED,
                    say=("Start the engine", "Stop the engine by its switch"))
        ]  # fmt: skip
        self.links: list[Link] = []
        self.told: dict[str, dict[str, SwitchPosition]] = {}
        self.own: dict[str, tuple[str, ...]] = {}
        self.away: dict[str, tuple[str, ...]] = {}
        self.sources: dict[str, str] = {}
        self.pressed: set[str] = set()
        self.valve_of: dict[str, str] = {}
        self.hoses_at: dict[str, tuple[str, ...]] = {}
        self.inlets: list[str] = []
        self.set_for: dict[str, tuple[str, str]] = {}
        self.coupled: list[FuelKey] = []
        self.factory = "second_gas" in methods or case.set.dual_fuel
        mixes = {"spacer_adapter", "snorkel", "multi_fuel_carburetor", "exchanged_carburetor",
                 "two_barrel_adapter", "second_gas"}  # fmt: skip
        gives_gas = bool(mixes & set(methods)) or self.factory
        self.gases = case.for_gas if gives_gas else ()
        self.bowl = taken(case.job, "bowl") if self.gases else "run_dry"
        self.dry = "drained" if self.bowl == "drained" else "run dry"
        self.own_vent = taken(case.job, "own_vent")
        self.remote = bool(REMOTE_TANKS & set(methods))

    def _add(self, key: str, name: str, *positions: str, say: tuple[str, ...] = ()) -> None:
        self.controls.append(control(key, name, *positions, say=say))

    def _valve(self, key: str, name: str) -> None:
        at = name[0].lower() + name[1:]
        slowly = ", slowly" if at.startswith("cylinder") else ""
        self._add(key, name, "open", "shut", say=(f"Open the {at}{slowly}", f"Shut the {at}"))

    def _hose(self, key: str, name: str, valve: str) -> None:
        at = name[0].lower() + name[1:]
        self._add(key, name, "joined", "parted",
                  say=(f"Join the {at}, and tug it", f"Part the {at}"))  # fmt: skip
        self.valve_of[key] = valve

    def switches(self) -> None:
        """Switches, dials and selectors as told by their positions: what each cuts or connects."""
        cutting = []
        for key, one in self.case.set.switches.items():
            if len(one.positions) < 2:
                continue
            name = one.name or "switch"
            at = f"switch_{key}"
            called = called_positions(one)
            self.controls.append(
                control(at, name[0].upper() + name[1:], *called.values(),
                        say=tuple(_turn(name, called[place], position)
                                  for place, position in one.positions.items()))
            )  # fmt: skip
            self.told[at] = {called[place]: position for place, position in one.positions.items()}
            if one.cuts_ignition:
                cutting.append((at, tuple(self._where(at, "sparks"))))
            if one.shuts_own:
                self.own[at] = tuple(self._where(at, "own"))
            if one.shuts_remote:
                self.away[at] = tuple(self._where(at, "remote"))
        places = [SPARK, *(f"after {at}" for at, _ in cutting[:-1]), PLUG]
        for before, after, (at, wanted) in zip(places, places[1:], cutting, strict=False):
            self.links.append(link(before, after, **{at: wanted}))

    def _where(self, at: str, what: str) -> Iterator[str]:
        for called, position in self.told[at].items():
            if getattr(position, what):
                yield called

    def gasoline(self) -> None:
        """Own tank, its shut-off and vent, remote tank and selector, bowl, solenoid."""
        if gasoline_given_up(self.case.job):
            return
        machine = self.case.set
        self.sources |= {OWN_TANK: "gasoline", BOWL_FILL: "gasoline"}
        emptied = "Let it run until the bowl is dry"
        if self.bowl == "drained":
            emptied = "Drain the bowl at its screw into a jar, the engine cool"
        self._add("bowl", "Float bowl", "filled", self.dry,
                  say=("Let the bowl fill", emptied))  # fmt: skip
        self.links.append(link(BOWL_FILL, BOWL, bowl="filled"))
        if machine.tank_vent is Vent.CAP_LEVER:
            self._valve("vent", "Tank vent")
            self.links.append(link(OWN_TANK, TANK_AIR, vent="open"))
        else:
            self.links.append(link(OWN_TANK, TANK_AIR))
        if self.remote and self.own_vent == "crack":
            self._add("own_cap", "Own tank's cap", "tight", "cracked",
                      say=("Turn the own tank's cap tight",
                           "Crack the own tank's cap until it breathes"))  # fmt: skip
        shut: dict[str, str | tuple[str, ...]] = dict(self.own)
        has = machine.shut_off is True or shut_off_fitted(self.case.job)
        if has or "multi_fuel_carburetor" in self.methods:
            name = "Gasoline shut-off" if has else "Carburetor's gasoline valve"
            self._valve("tank_valve", name)
            shut["tank_valve"] = "open"
        if self.remote and (self.away or not self._has_selector()):
            # A switch told by its positions is the selector. Without one both tanks lead to the
            # bowl: whatever is not shut feeds it.
            self.sources[REMOTE_TANK] = "gasoline"
            self._remote_line()
            self.links += [
                link(OWN_TANK, BOWL, **shut),
                link(REMOTE_TANK, BOWL, remote_valve="open", fuel_coupler="joined", **self.away),
            ]
        elif self.remote:
            self.sources[REMOTE_TANK] = "gasoline"
            self._add("selector", "Tank selector", "own", "remote", "between",
                      say=("Turn the tank selector to own", "Turn the tank selector to remote",
                           "Turn the tank selector between"))  # fmt: skip
            self._remote_line()
            self.links += [
                link(OWN_TANK, "selector body", selector=("own", "between"), **shut),
                link(
                    REMOTE_TANK,
                    "selector body",
                    selector=("remote", "between"),
                    remote_valve="open",
                    fuel_coupler="joined",
                    **self.away,
                ),
                link("selector body", BOWL),
            ]
        else:
            self.links.append(link(OWN_TANK, BOWL, **shut))
        if machine.carburetor.fuel_solenoid is True and "two_barrel_adapter" not in self.methods:
            self._add(
                "solenoid",
                "Fuel solenoid",
                "on",
                "off",
                say=("Fuel solenoid on, by its switch", "Fuel solenoid off, by its switch"),
            )
            self.links.append(link(BOWL, INTAKE, solenoid="on"))
        else:
            self.links.append(link(BOWL, INTAKE))

    def _remote_line(self) -> None:
        self._valve("remote_valve", "Shut-off at the remote tank")
        self._hose("fuel_coupler", "Fuel coupler", "remote_valve")
        train = self.case.train(FuelKey.GASOLINE)
        tank = next((part for part in train or () if part.kind is PartClass.TANK), None)
        if tank is None or tank.vent == "lever":
            says = ("Open the remote tank's vent", "Shut the remote tank's vent")
            self._add("remote_vent", "Remote tank's vent", "open", "shut", say=says)
            self.links.append(link(REMOTE_TANK, REMOTE_AIR, remote_vent="open"))

    def _has_selector(self) -> bool:
        train = self.case.train(FuelKey.GASOLINE)
        return train is None or any(part.kind is PartClass.SELECTOR for part in train)

    def gas(self) -> None:
        """Each gas from its valve through its coupler to a demand regulator and the intake."""
        for gas in self.gases:
            source, key = NAMES[gas], str(gas)
            self.sources[source] = NAMES[gas]
            self.pressed.add(source)
            self._valve(f"{key}_valve", HANDLING[gas].valve)
            own_port = self.factory and gas is not FACTORY_GAS
            inlet = f"{DEMAND_INLET} 2" if own_port else DEMAND_INLET
            train = self.case.train(gas)
            halves = [part for part in train or () if part.kind is PartClass.GAS_HALF]
            if train is not None and not halves:
                # Without a coupler the hose is always on: only the valve keeps the gas back.
                self.links.append(link(source, inlet, **{f"{key}_valve": "open"}))
                continue
            self.coupled.append(gas)
            self._hose(f"{key}_coupler", f"Hose for {source}", f"{key}_valve")
            self.links.append(
                link(source, inlet, **{f"{key}_valve": "open", f"{key}_coupler": "joined"})
            )
            supplies = [part for part in halves if part.outlet.startswith("gas:")]
            if supplies and all(part.closes for part in supplies):
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
                   if (self.factory and gas is not FACTORY_GAS) == inlet.endswith("2")
                   or len(inlets) == 1]  # fmt: skip
            # A hose that is always on leaves no inlet to open, and none to cap.
            if fed:
                place = "gas inlet" if number == 0 else "second inlet"
                self._add(
                    cap,
                    f"Cap on the {place}",
                    "on",
                    "off",
                    say=(f"Cap on the {place}", f"Take the cap off the {place}"),
                )
                self.hoses_at[cap] = tuple(fed)
                self.links.append(
                    link(inlet, OUTSIDE, **{cap: "off"}, **dict.fromkeys(fed, "parted"))
                )
            opens = {ENGINE: RUNNING} if self._shuts_by_itself() else {}
            if self._locked_off():
                if number == 0:
                    self._add(
                        "lock_off",
                        "Electric lock-off",
                        "powered",
                        "dead",
                        say=("Lock-off on, by the switch", "Lock-off off, by the switch"),
                    )
                opens["lock_off"] = "powered"
            self.inlets.append(inlet)
            self.links.append(link(inlet, GAS_PORT, **opens))
        if inlets:
            self.links.append(link(GAS_PORT, INTAKE))
        self._gas_selector()

    def _gas_selector(self) -> None:
        """A multi-fuel carburetor's LP/NG selector: it shuts nothing, it meters for one gas."""
        if not self.case.has_gas_selector(self.methods):
            return
        marks = [HANDLING[gas].selects for gas in SELECTED]
        turns = tuple(f"Turn the gas selector to {to}" for to in marks)
        self._add(GAS_SELECTOR, "Gas selector", *marks, say=turns)
        self.set_for = {NAMES[gas]: (GAS_SELECTOR, HANDLING[gas].selects) for gas in self.gases
                        if HANDLING[gas].selects}  # fmt: skip

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
        return all(any(part.holds_at_stall for part in train) for train in self._trains())

    def finish(self) -> FuelSystem:
        """The network, and its states."""
        network = Network(
            tuple(self.controls), tuple(self.links), self.sources, frozenset(self.pressed),
            self.valve_of, self.hoses_at, tuple(self.inlets), self.set_for, self.bowl,
        )  # fmt: skip
        states = []
        if self.case.job.wants.keep_gasoline or not self.gases:
            states.append(self._state("gasoline", "On gasoline", runs_on="gasoline"))
        if self.remote:
            states.append(
                self._state("remote", "On the remote tank", runs_on="gasoline", tank="remote")
            )
        states += [
            self._state(str(gas), f"On {NAMES[gas]}", runs_on=NAMES[gas], gas=str(gas))
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
            "bowl": self.dry if gas or stored else "filled",
            "vent": "open"
            if on_own or dry or (tank == "remote" and self.own_vent == "leave")
            else "shut",
            "own_cap": "cracked" if tank == "remote" and self.own_vent == "crack" else "tight",
            "tank_valve": "open" if on_own else "shut",
            "selector": tank,
            "remote_valve": "open" if tank == "remote" else "shut",
            "fuel_coupler": "joined" if tank == "remote" else "parted",
            "remote_vent": "open" if tank == "remote" else "shut",
            "solenoid": "on" if runs_on == "gasoline" else "off",
            "lock_off": "powered" if gas else "dead",
            "cap": "on",
            "cap2": "on",
        }
        # Changing over and after a stop the hose stays on and its valve is shut.
        left_on = gas or (str(self.gases[0]) if self.gases and hose_on else "")
        metered = FuelKey(left_on) if left_on else next(iter(self.gases), SELECTED[0])
        wanted[GAS_SELECTOR] = HANDLING[metered].selects or HANDLING[SELECTED[0]].selects
        if left_on:
            wanted["cap2" if self._inlet(left_on) else "cap"] = "off"
        for one in self.gases:
            wanted[f"{one}_valve"] = "open" if gas == one else "shut"
            wanted[f"{one}_coupler"] = "joined" if left_on == one else "parted"
        on_remote = tank == "remote" and not stopped
        for at in self.told:
            wanted[at] = self._stand(at, sparks=not stopped, own=on_own, remote=on_remote)
        positions = {one.key: wanted[one.key] for one in self.controls}
        return State(key, name, positions, runs_on)

    def _stand(self, at: str, **asked: bool) -> str:
        """The position of a told switch that comes nearest to what a state asks of it."""
        weight = {"sparks": 3, "own": 2, "remote": 2}

        def off(called: str) -> int:
            position = self.told[at][called]
            missed = sum(
                weight[what] for what, wanted in asked.items() if getattr(position, what) != wanted
            )
            return 2 * missed + position.choked

        return min(self.told[at], key=off)

    def _inlet(self, gas: str) -> int:
        second = self.factory and gas != FACTORY_GAS
        return int(second and FACTORY_GAS in self.gases)


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
    if REMOTE_TANKS & set(methods):
        differences.append("the selector must be on the set's own tank")
    if case.for_gas and case.set.own_shut is not True and any(
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
    stopping: str = "source"
    """Which is shut first where it is stopped on gas: the source, or its switch."""


@remember(KEPT, repr)
def state_columns(system: FuelSystem) -> tuple[StateColumn, ...]:
    """Every state of a fuel system; kept, since a change of a job seldom touches a handle."""
    return tuple(
        StateColumn(system.network, state, faults(system.network, state)) for state in system.states
    )


def states_section(case: Case, methods: tuple[str, ...]) -> StatesSection:
    """Compute the matrix."""
    system = fuel_system(case, methods)
    columns = state_columns(system)
    gasoline = sum(
        fault.never for column in columns if column.state.key == "gasoline"
        for fault in column.faults
    )  # fmt: skip
    return StatesSection(
        methods,
        system.network.controls,
        columns,
        as_before(case, methods, gasoline),
        taken(case.job, "stopping"),
    )


def handles(section: StatesSection) -> str:
    """What a search over the positions of a fuel system depends on: it is asked for with every
    change of a job, and a change seldom touches a handle."""
    network = section.columns[0].network if section.columns else None
    return repr((network, [one.state for one in section.columns], section.stopping))


@remember(KEPT, handles)
def orders(section: StatesSection) -> tuple[Sequence, ...]:
    """Every safe order a person needs: to start, to stop, to store, to change over."""
    columns = {one.state.key: one for one in section.columns}
    running = [one for one in section.columns if one.state.running and one.state.key not in PASSING]
    if not running:
        return ()
    network = running[0].network
    space = Space(network)
    stored = columns["stored"].state.positions
    rest = {ENGINE: STOPPED} | {one.key: "shut" for one in network.controls if one.is_valve}
    if PLUG in network.places:
        # Its own switch is among the handles: at rest it stands where the ignition is cut.
        stopped = columns["stopped"].state.positions
        rest |= {one.key: stopped[one.key] for one in network.controls if one.is_switch}
    found = []
    for one in running:
        key, name, here = one.state.key, one.state.name.removeprefix("On "), one.state.positions
        found += [
            space.sequence(stored, here, f"start.{key}", f"Start on {name}"),
            _stop(
                space,
                here,
                rest,
                key,
                name,
                by_switch=section.stopping == "switch" and one.state.runs_on != "gasoline",
            ),
            _stored(space, here, stored, key, name),
        ]
        for other in running:
            if other is not one:
                to = other.state.name.removeprefix("On ")
                found.append(
                    space.sequence(
                        here, other.state.positions, f"over.{key}.{other.state.key}",
                        f"Change over from {name} to {to}",
                    )
                )  # fmt: skip
    return tuple(found)


def _stop(
    space: Space, here: Positions, rest: Positions, key: str, name: str, *, by_switch: bool
) -> Sequence:
    """To rest; where the switch comes first, by it, and from there the shortest way on."""
    made = space.sequence(here, rest, f"stop.{key}", f"Stop on {name}")
    if not by_switch:
        return made
    by = {one.key for one in space.network.controls if one.is_switch} | {ENGINE}
    for step in space.onward(here):
        if step.control not in by or step.after[ENGINE] != STOPPED:
            continue
        onward = space.sequence(step.after, rest, made.key, made.name)
        if not onward.why_not:
            first = Move(step.control, step.position,
                         f"{space.network.words(step.control, step.position)}.")  # fmt: skip
            return replace(onward, moves=(first, *onward.moves),
                           between=(step.after, *onward.between))  # fmt: skip
    return made


def _stored(space: Space, here: Positions, stored: Positions, key: str, name: str) -> Sequence:
    """To where it is stored; with the bowl left full where nothing can shut the tank from it."""
    made = space.sequence(here, stored, f"store.{key}", f"Store after {name}")
    if not made.why_not:
        return made
    rest = {control: to for control, to in stored.items() if control != "bowl"}
    return space.sequence(here, rest, f"store.{key}", f"Store after {name}")


@dataclass(frozen=True, slots=True)
class BothOn:
    """How two gases could be on at once: from which state, by which controls out of place."""

    state: State
    slips: tuple[tuple[str, str], ...]
    text: str


@remember(KEPT, handles)
def both_on(section: StatesSection) -> BothOn | None:
    """The shortest way to two gases at once from any state; None where there is none."""
    found: list[BothOn] = []
    names = {one.key: one.name for one in section.controls}
    for column in section.columns:
        if len(column.network.pressed) < 2 or column.state.key in PASSING:
            continue
        slips_ = slips_to_both(column.network, column.state)
        if slips_:
            moved = ", ".join(f"{names[key]} {to}" for key, to in slips_)
            count = "one thing" if len(slips_) == 1 else f"{len(slips_)} things"
            text = f"{column.state.name}: two gases at once with {count} out of place: {moved}."
            found.append(BothOn(column.state, slips_, text))
    return min(found, key=lambda one: len(one.slips), default=None)


def two_gases(plan: Plan) -> BothOn | None:
    """The shortest way to two gases at once on this set."""
    return both_on(plan.of(fuel_states))


def safe_orders(plan: Plan) -> tuple[Sequence, ...]:
    """The orders handles are moved in on this set as it stands: no other list of them is kept."""
    return orders(plan.of(fuel_states))


def states_with(plan: Plan, methods: tuple[str, ...]) -> StatesSection:
    """The fuel-state matrix with these methods on the set."""
    return states_section(Case(plan.job, plan.of(output_here)), methods)


def fuel_states(plan: Plan) -> StatesSection:
    """The fuel-state matrix of what is chosen; of what is recommended until then."""
    return states_with(plan, plan.job.choice.methods or plan.of(judged_methods).recommended)

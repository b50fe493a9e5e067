"""States section: the fuel-state matrix of a set with its methods, found by reachability."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.method.base import Case
from gentle_ember.core.method.networks import AsBefore, as_before, fuel_system
from gentle_ember.core.states import Control, Fault, Network, Slip, State, faults, slips


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

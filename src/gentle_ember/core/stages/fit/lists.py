"""What to take along, which screws go where, what comes back: lists that follow from the sheet."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from gentle_ember.core.estimates.jets import moved
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.fit import ComesBack, Fastener, Packed
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.stages.fit.case import FitCase, key_of
from gentle_ember.core.stages.fit.sheet import Sheet
from gentle_ember.core.stages.fuel_path.parts_list import Bill, PartLine

SMALL = (
    PartClass.CLAMP,
    PartClass.SEALANT,
    PartClass.GASKET,
    PartClass.HARDWARE,
    PartClass.CONSUMABLE,
)


Sort = Literal["tool", "consumable", "part"]


@dataclass(frozen=True, slots=True)
class ToTake:
    """A tool or a consumable: what, how many, for which steps, packed or not."""

    key: str
    what: str
    kind: Sort
    line: PartLine | None
    """Its line of the parts list, which says how many; none where one will do."""
    uses: tuple[str, ...]
    packed: Packed


def to_take(found: Sheet, bill: Bill) -> tuple[ToTake, ...]:
    """Tools of all steps, then consumables, then parts of the bill."""
    packed = found.case.job.fit.packed
    rows: list[ToTake] = []

    def add(
        key: str, what: str, kind: Sort, uses: tuple[str, ...], line: PartLine | None = None
    ) -> None:
        rows.append(ToTake(key, what, kind, line, uses, packed.get(key, blank(Packed))))

    for what, uses in _gathered((tool, one.step.what) for one in found.steps
                                for tool in one.step.tools).items():  # fmt: skip
        add(key_of(what), what, "tool", uses)
    for what, uses in _gathered((thing, one.step.what) for one in found.steps
                                for thing in one.step.takes).items():  # fmt: skip
        add(key_of(what), what, "consumable", uses)
    for line in bill.lines:
        if line.part.site:
            continue
        kind: Sort = "consumable" if line.part.kind in SMALL else "part"
        add(line.part.key, line.part.name, kind, line.uses, line)
    order = ("tool", "consumable", "part")
    return tuple(sorted(rows, key=lambda row: order.index(row.kind)))


def _gathered(pairs: Iterable[tuple[str, str]]) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for what, use in pairs:
        found[what] = (*found.get(what, ()), use)
    return dict(sorted(found.items()))


@dataclass(frozen=True, slots=True)
class FastenerRow:
    """Screws of one place on the map, in the order they come off."""

    key: str
    where: str
    note: str
    held: Fastener


def fastener_map(found: Sheet) -> tuple[FastenerRow, ...]:
    """Everything that is taken off and put back, in the order it comes off."""
    held = found.case.job.fit.fasteners
    rows = [
        FastenerRow(one.step.key, one.step.what, one.step.mind_back,
                    held.get(one.step.key, blank(Fastener)))
        for one in found.steps if one.step.back and one.step.tools
    ]  # fmt: skip
    known = {row.key for row in rows}
    rows += [FastenerRow(key, key, "", one) for key, one in held.items() if key not in known]
    return tuple(rows)


@dataclass(frozen=True, slots=True)
class BackRow:
    """A part somebody gets back."""

    key: str
    what: str
    why: str
    held: ComesBack


def comes_back(case: FitCase) -> Iterator[BackRow]:
    """Parts taken off by these methods, and what was noted besides."""
    held = case.job.fit.back
    usual = {}
    if case.has("rejet"):
        if case.set.dual_fuel and moved(case.job):
            usual["orifice"] = ("old gas orifice", "for the day the set comes down")
        usual["jet"] = ("old main jet with its tube", "for the day the set comes down")
    if case.has("exchanged_carburetor"):
        usual["core"] = ("old carburetor, complete", "its deposit comes back with it")
    if case.has("multi_fuel_carburetor"):
        usual["carburetor"] = ("old carburetor, complete", "to undo it")
    if case.stud_work is not None and case.stud_work.way == "longer":
        usual["studs"] = ("short studs", "to undo it")
    if "canister" in case.job.fit.steps:
        usual["bracket"] = ("canister bracket", "to undo it")
    for key, (what, why) in usual.items():
        yield BackRow(key, what, why, held.get(key, ComesBack(what=what)))
    for key, one in held.items():
        if key not in usual:
            yield BackRow(key, one.what, "noted", one)

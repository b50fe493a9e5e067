"""The parts list: everything a job takes, counted, priced and sourced."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from itertools import pairwise

from gentle_ember.core.catalog import Kit
from gentle_ember.core.estimates.jets import JetDecision, jet_decision, moved
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.generator import CarburetorType
from gentle_ember.core.job.job import Arrival, Decision, Job
from gentle_ember.core.job.part import METERS, MIXERS, Part, PartClass, System, end
from gentle_ember.core.physics import studs
from gentle_ember.core.physics.fasteners import thread_of
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.gasoline_rules import own_branch
from gentle_ember.core.stages.fuel_path.ladder import Fitted
from gentle_ember.core.stages.fuel_path.stack import stud_work
from gentle_ember.core.stages.fuel_path.templates import SET_SIDE
from gentle_ember.core.stages.fuel_path.trains import parts_of, trains_to_build
from gentle_ember.core.stages.fuel_path.trouble import TrainCase
from gentle_ember.core.stages.intake.walk_round import Task, walk_tasks
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.stack import joint_of, outward_m, stud_count
from gentle_ember.core.stages.method.ways import taken


@dataclass
class Count:
    """Counts by part while they are gathered."""

    parts: Mapping[str, Part]
    counts: dict[str, float] = field(default_factory=dict)
    uses: dict[str, list[str]] = field(default_factory=dict)
    missing: list[str] = field(default_factory=list)
    open_questions: list[tuple[str, str]] = field(default_factory=list)
    by_class: dict[PartClass, list[Part]] = field(default_factory=dict)

    def add(self, part: Part, count: float, use: str) -> None:
        """So many more of a part, for a use."""
        self.counts[part.key] = self.counts.get(part.key, 0.0) + count
        if use not in self.uses.setdefault(part.key, []):
            self.uses[part.key].append(use)

    def of(self, kind: PartClass) -> list[Part]:
        """The parts of a class."""
        if not self.by_class:
            for part in self.parts.values():
                self.by_class.setdefault(part.kind, []).append(part)
        return self.by_class.get(kind, [])

    def first(self, kind: PartClass, **wanted: object) -> Part | None:
        """The cheapest part of a class with these fields."""
        found = [
            part
            for part in self.of(kind)
            if not part.use_instead
            and all(getattr(part, name) == value for name, value in wanted.items())
        ]
        return min(found, key=lambda part: part.price, default=None)

    def smallest(
        self, kind: PartClass, measure: str, least: float, **wanted: object
    ) -> Part | None:
        """The part of a class whose measure [m] is the smallest that is enough."""
        found = [
            part
            for part in self.of(kind)
            if not part.use_instead
            and (getattr(part, measure) or 0.0) >= least - 1e-9
            and all(getattr(part, name) == value for name, value in wanted.items())
        ]
        return min(found, key=lambda part: (getattr(part, measure), part.price), default=None)

    def want(self, kind: PartClass, count: float, use: str, **wanted: object) -> None:
        """So many of the cheapest part that fits, or a note that there is none."""
        part = self.first(kind, **wanted)
        if part is None:
            self.missing.append(use)
        else:
            self.add(part, count, use)


def stack_parts(count: Count, job: Job) -> None:
    """Studs, nuts, spacer and breather, once a plate goes in between."""
    plate = Case(job, None).plate_m
    mixers = [
        slot for train in job.trains.values() for slot in train.slots.values()
        if (part := count.parts.get(slot.part)) and part.kind in MIXERS
    ]  # fmt: skip
    if plate is None or (mixers and all(slot.there for slot in mixers)):
        return
    each = stud_count(job.set)
    bolt, stack = job.set.studs, job.set.stack
    found = joint_of(job.set, plate)
    if found is None:
        count.open_questions.append(("studs and flange, to know whether they reach", "set.studs"))
    else:
        _studs(count, job, found, each)
        count.want(
            PartClass.HARDWARE, each, "stack nuts", thread_m=thread_of(found.diameter_m).diameter_m
        )
    out = outward_m(stack, plate)
    if stack.air_cleaner == "third_bolt":
        fit = count.smallest(PartClass.SPACER, "thickness_m", out - 0.5e-3)
        if fit is None:
            count.missing.append(f"spacer of {out * 1e3:.1f} mm for the third bolt")
        else:
            count.add(fit, 1, "third bolt")
    if stack.breather_slack is not None and stack.breather_slack.value < out:
        short = out - stack.breather_slack.value
        best = count.smallest(PartClass.BREATHER, "length_m", short)
        if best is None:
            count.missing.append(f"breather extension of {short * 1e3:.0f} mm")
        else:
            count.add(best, 1, "breather extension")
    if bolt.spacing is None:
        count.open_questions.append(
            ("distance between the studs, for adapter and gaskets", "set.studs.spacing")
        )


def _studs(count: Count, job: Job, found: studs.StudJoint, each: int) -> None:
    work = stud_work(job, found, count.parts.values())
    if work is None:
        return
    if not work.measured:
        count.open_questions.append(
            ("thread in the casting, for longer studs", "set.studs.thread_depth")
        )
    use = {"longer": "longer studs", "extend": "stud extensions"}.get(work.way, "")
    if work.part is not None:
        count.add(work.part, each, use)
    elif use:
        count.missing.append(use)


TAPE_JOINTS = 20
"""Tapered joints one roll of gas tape does."""
CAPS = {"flare:3/8:m": "flare:3/8:f", "flare:1/4:m": "flare:1/4:f", "npt:1/4:f": "npt:1/4:m"}


class Source(StrEnum):
    """Where a line comes from."""

    STOCK = "in stock"
    ORDER = "order"
    SITE = "site supplies"
    FITTER = "licensed fitter"


TITLES = {
    Source.STOCK: "From the shelf",
    Source.ORDER: "To order",
    Source.SITE: "There already",
    Source.FITTER: "By the licensed fitter",
}
_SOURCES = {source: at for at, source in enumerate(Source)}
_CLASSES = {kind: at for at, kind in enumerate(PartClass)}


@dataclass(frozen=True, slots=True)
class PartLine:
    """One line: a part, how many or how many meters, what for, and where it comes from."""

    part: Part
    count: float
    uses: tuple[str, ...]
    source: Source

    @property
    def price(self) -> float:
        """Price of the line, zero for what the site has."""
        return 0.0 if self.source is Source.SITE else round(self.part.price * self.count, 2)

    @property
    def whole(self) -> int:
        """How many are counted when they come; a cut of hose by its begun meters."""
        return math.ceil(self.count - 1e-6)

    def here(self, arrived: Mapping[str, Arrival]) -> bool:
        """Whether all of it has come."""
        return arrived.get(self.part.key, blank(Arrival)).count >= self.whole

    @property
    def core(self) -> float:
        """Deposit that comes back with the old part."""
        return self.part.core * self.count


@dataclass(frozen=True, slots=True)
class SourceGroup:
    """The lines that come from one place."""

    source: Source
    lines: tuple[PartLine, ...]

    @property
    def title(self) -> str:
        """Where they come from, as a heading."""
        return TITLES[self.source]

    @property
    def price(self) -> float:
        """What they cost together."""
        return round(sum(line.price for line in self.lines), 2)


@dataclass(frozen=True, slots=True)
class Bill:
    """All lines, and what could not be counted yet."""

    lines: tuple[PartLine, ...]
    missing: tuple[str, ...]
    """Work whose part the catalog does not have."""
    open_questions: tuple[tuple[str, str], ...]
    """What must be measured before the bill is exact, and its path."""

    def groups(self) -> Iterator[SourceGroup]:
        """The lines by where they come from, empty groups left out."""
        for source in TITLES:
            lines = tuple(line for line in self.lines if line.source is source)
            if lines:
                yield SourceGroup(source, lines)

    @property
    def price(self) -> float:
        """Price of everything bought."""
        return round(sum(line.price for line in self.lines), 2)

    @property
    def core(self) -> float:
        """Deposits that come back."""
        return sum(line.core for line in self.lines)

    @property
    def days(self) -> int:
        """Days until the last ordered part is here."""
        return max((one.part.days for one in self.lines if one.source is Source.ORDER), default=0)


def bill(
    job: Job,
    cases: Iterable[TrainCase],
    tasks: Iterable[Task],
    parts: Mapping[str, Part],
    jet: JetDecision | None = None,
) -> Bill:
    """What the job takes.

    Args:
        job: the job.
        cases: its trains.
        tasks: work the walk-round made.
        parts: the catalog with what the job pinned laid over it.
        jet: the one jet that is to run here.
    """
    count = Count(parts)
    on_set: set[tuple[str, str]] = set()
    for case in cases:
        _train(count, case, on_set)
    stack_parts(count, job)
    _of_job(count, job)
    _of_jets(count, job, jet)
    for task in tasks:
        if not task.done and task.decision is not Decision.STOP:
            for text in task.parts:
                _of_task(count, text, task.title, job)
    lines = tuple(
        sorted(
            (
                _line(parts[key], number, tuple(count.uses[key]))
                for key, number in count.counts.items()
            ),
            key=lambda line: (_SOURCES[line.source], _CLASSES[line.part.kind]),
        )
    )
    return Bill(lines, tuple(count.missing), tuple(dict.fromkeys(count.open_questions)))


def _line(part: Part, number: float, uses: tuple[str, ...]) -> PartLine:
    amount = (
        math.ceil(number * 10 - 1e-6) / 10 if part.by_length else float(math.ceil(number - 1e-6))
    )
    if part.site:
        return PartLine(part, amount, uses, Source.SITE)
    if part.kind is PartClass.PIPE:
        return PartLine(part, amount, uses, Source.FITTER)
    return PartLine(part, amount, uses, Source.STOCK if part.stock >= amount else Source.ORDER)


def _train(count: Count, case: TrainCase, on_set: set[tuple[str, str]]) -> None:
    """Count a train; what stands on the set for another gas already is not bought again."""
    title = case.asked.template.title
    gas_before = bool(on_set)
    branches = 1
    tapered = 0
    before: Fitted | None = None
    doubled = 1
    for one in case.parts:
        part = one.part
        if part is None:
            count.missing.append(one.slot.unknown or "an unknown part of the train")
            before = None
            continue
        each = _times(case, one, branches)
        if part.kind is PartClass.TEE:
            branches = part.branches
        place = (one.slot.role, part.key)
        again = place in on_set or one.slot.there
        if one.slot.role in SET_SIDE:
            on_set.add(place)
        if again:
            before, doubled = one, each
            continue
        use = _role_title(case, one) or "joins " + title
        count.add(part, each * (one.length_m if part.by_length else 1), use)
        for port in part.ports:
            if port in CAPS:
                count.want(PartClass.CAP, each, "open port", inlet=CAPS[port])
        if before is not None and before.part is not None:
            tapered += _sealed(count, before.part, part, max(each, doubled))
        before, doubled = one, each
    tapered += _own_branch(count, case)
    if tapered:
        tape = count.first(PartClass.SEALANT)
        if tape is not None:
            count.add(tape, math.ceil(tapered / TAPE_JOINTS), f"{tapered} tapered joints")
    if not (gas_before and case.asked.template.fuel is not FuelKey.GASOLINE):
        _mounting(count, case)


def _own_branch(count: Count, case: TrainCase) -> int:
    """The own tank's hose, fittings and clamps to the selector; how many tapered joints."""
    tapered = 0
    branch = own_branch(case)
    for before, after in pairwise(branch):
        first, second = before.part, after.part
        if first is None or second is None or (before.slot.there and after.slot.there):
            continue
        if after is not branch[-1] and not after.slot.there:
            count.add(second, after.length_m if second.by_length else 1, "own tank to selector")
        tapered += _sealed(count, first, second, 1)
    return tapered


def _sealed(count: Count, before: Part, after: Part, number: int) -> int:
    """The clamps of a joint, made so many times; 1 where it is tapered, and takes tape."""
    if not (before.outlet and after.inlet):
        return 0
    upstream, downstream = end(before.outlet), end(after.inlet)
    if System.BARB in (upstream.system, downstream.system):
        count.want(PartClass.CLAMP, number, "clamps", inlet=f"barb:{upstream.size}:f")
    return int(upstream.system is System.NPT)


def _times(case: TrainCase, one: Fitted, branches: int) -> int:
    stated = (case.asked.limits.counts or {}).get(one.slot.role)
    if stated is not None:
        return stated
    doubled = one.part is not None and one.part.kind in (*METERS, PartClass.VAPOR_HOSE)
    return branches if doubled else 1


def _role_title(case: TrainCase, one: Fitted) -> str:
    role = case.asked.template.role(one.slot.role)
    return role.called(one.part) if role is not None else ""


def _mounting(count: Count, case: TrainCase) -> None:
    for _, place, part in case.of(PartClass.ADAPTER, PartClass.CARBURETOR):
        if place.slot.there:
            continue
        name = part.outlet.split(":")[1] if part.outlet else ""
        # The old ones once more: only the face that is added needs a new one.
        fresh = part.gaskets if taken(case.job, "gaskets") == "new" else part.gaskets - 1
        if fresh > 0 and name:
            count.want(PartClass.GASKET, fresh, "gaskets, one each side", inlet=f"studs:{name}:f")
    if any(not place.slot.there for _, place, _ in case.of(PartClass.DEMAND)):
        count.want(PartClass.HARDWARE, 1, "regulator mount", for_task="regulator mount")
        count.want(PartClass.HARDWARE, 1, "hose ties", for_task="hose ties")
        count.want(PartClass.CONSUMABLE, 1, "regulator mount", for_task="regulator mount")
        rooms = [face.room.value for face in case.job.set.faces.values() if face.room]
        if rooms and max(rooms) < 0.06:
            count.want(
                PartClass.HARDWARE, 1, "regulator stand-offs", for_task="regulator stand-offs"
            )
    if any(not place.slot.there for _, place, _ in case.of(PartClass.LOCK_OFF)):
        count.want(PartClass.HARDWARE, 1, "lock-off lead", for_task="lock-off lead")
    open_halves = [
        part
        for _, place, part in case.of(PartClass.GAS_HALF)
        if not place.slot.there and part.outlet.startswith("gas:") and not part.closes
    ]
    if open_halves:
        count.want(PartClass.HARDWARE, 1, "coupler restraint", for_task="coupler restraint")


def _of_job(count: Count, job: Job) -> None:
    gas = any(name != "gasoline" for name in job.trains)
    if gas:
        count.want(PartClass.CONSUMABLE, 1, "leak test", for_task="leak test")
        count.want(PartClass.HARDWARE, 1, "panel label", for_task="panel label")
        if job.wants.keep_gasoline:
            count.want(PartClass.CONSUMABLE, 1, "stored gasoline", for_task="stored gasoline")
            if job.set.shut_off is False and FuelKey.GASOLINE not in job.trains:
                size = _line_size(count, job)
                count.want(PartClass.FUEL_VALVE, 1, "gasoline shut-off", inlet=f"barb:{size}:m")
                count.want(PartClass.CLAMP, 2, "gasoline shut-off", inlet=f"barb:{size}:f")
    for one in job.set.in_the_way.values():
        if one.remedy == "replace":
            count.missing.append(f"another {one.name or one.what.replace('_', ' ')}, that clears")
    if job.trains or job.choice.methods:
        count.want(PartClass.CONSUMABLE, 1, "every job", for_task="every job")


def _line_size(count: Count, job: Job) -> str:
    """Inside of the set's own fuel line [in]; the usual one while nobody looked, which is asked."""
    if job.set.fuel_line != "unknown":
        return job.set.fuel_line
    count.open_questions.append(("inside of the set's own fuel line", "set.fuel_line"))
    return "1/4"


def _of_jets(count: Count, job: Job, jet: JetDecision | None) -> None:
    """The jet that is to run here, and one size either side to try."""
    if jet is None or "rejet" not in job.choice.methods:
        return
    if job.set.dual_fuel and moved(job):
        count.missing.append("gas orifice of its maker's own, for this elevation")
    if not jet.wanted:
        count.open_questions.append(
            ("the jet's stamped number and its elevation", "set.carburetor.jets.stamped.number")
        )
        return
    if jet.number is None:
        count.missing.append("main jet: none of the catalog is large enough")
        return
    each = 2 if job.set.carburetor.type is CarburetorType.TWO_BARREL else 1
    sold = {float(part.jet): part for part in count.of(PartClass.JET) if part.jet}
    for number in sorted((jet.number, *jet.beside)):
        if number in sold:
            count.add(sold[number], each, "main jet" if number == jet.number else
                      "main jet, to try")  # fmt: skip


def _of_task(count: Count, text: str, title: str, job: Job) -> None:
    number, _, word = text.partition(" ")
    if number.isdigit() and "clamp" in word:
        size = _line_size(count, job)
        count.want(PartClass.CLAMP, int(number), title, inlet=f"barb:{size}:f")
        return
    if text == "fuel line":
        count.want(PartClass.FUEL_HOSE, 0.6, title, inlet=f"barb:{_line_size(count, job)}:f")
        return
    part = next((p for p in count.parts.values() if p.for_task == text), None)
    if part is None:
        count.missing.append(text)
    else:
        count.add(part, 1, title)


def cheaper_or_sooner(line: PartLine, parts: Mapping[str, Part]) -> Iterator[Part]:
    """Parts that do the same with the same ends and cost less or are here sooner."""
    one = line.part
    for part in parts.values():
        if part.key == one.key or part.kind is not one.kind or part.use_instead or part.site:
            continue
        if (part.inlet, part.outlet, part.by_length) != (one.inlet, one.outlet, one.by_length):
            continue
        if not _does_as_much(part, one):
            continue
        sooner = line.source is Source.ORDER and part.stock >= line.count
        if part.price < one.price - 0.005 or sooner:
            yield part


def _does_as_much(part: Part, one: Part) -> bool:
    """Whether a part can stand in for another without asking anything again."""
    at_least = ("rated_w", "rating_pa", "bore_m", "most_pa", "length_m", "pump_m3_s")
    for name in at_least:
        mine, theirs = getattr(part, name), getattr(one, name)
        if theirs is not None and (mine is None or mine < theirs - 1e-9):
            return False
    same = (
        "throat_m",
        "set_pa",
        "thickness_m",
        "thread_m",
        "jet",
        "for_task",
        "closes",
        "full_bore",
        "branches",
        "opening_pa",
        "crimped",
    )
    if any(getattr(part, name) != getattr(one, name) for name in same):
        return False
    return set(part.gases) >= set(one.gases) and part.k <= one.k + 1e-9


@dataclass(frozen=True, slots=True)
class Entry:
    """A part of a kit check: how many, and what for."""

    part: Part
    count: float
    what_for: str


@dataclass(frozen=True, slots=True)
class KitCheck:
    """A kit against a bill: what it covers, what is missing, what is left over and its use."""

    kit: Kit
    covers: tuple[Entry, ...]
    missing: tuple[Entry, ...]
    left_over: tuple[Entry, ...]
    unknown: tuple[str, ...]
    """Numbers of the kit the catalog does not have."""

    @property
    def missing_price(self) -> float:
        """Price of what has to be bought besides."""
        return round(sum(one.part.price * one.count for one in self.missing), 2)


def check_kit(kit: Kit, bill: Bill, parts: Mapping[str, Part]) -> KitCheck:
    """What a kit does for a job.

    Args:
        kit: the kit.
        bill: what the job takes.
        parts: the catalog.
    """
    left = dict(kit.contents)
    covers, missing = [], []
    for line in bill.lines:
        if line.part.site:
            continue
        have = left.get(line.part.key, 0.0)
        used = min(have, line.count)
        what_for = ", ".join(line.uses)
        if used > 0:
            covers.append(Entry(line.part, used, what_for))
            left[line.part.key] = have - used
        if line.count - used > 1e-9:
            missing.append(Entry(line.part, line.count - used, what_for))
    over = [
        Entry(parts[key], count, _purpose(parts[key], bill))
        for key, count in left.items()
        if count > 1e-9 and key in parts
    ]
    unknown = tuple(key for key in kit.contents if key not in parts)
    return KitCheck(kit, tuple(covers), tuple(missing), tuple(over), unknown)


def _purpose(part: Part, bill: Bill) -> str:
    """What a part left over would be for."""
    if any(line.part.key == part.key for line in bill.lines):
        return "more than this job takes"
    if part.outlet.startswith("studs:"):
        return f"for studs {part.outlet.split(':')[1]}"
    same = next((line.part for line in bill.lines if line.part.kind is part.kind), None)
    if part.gases and len(part.gases) == 1:
        return f"for {part.gases[0].replace('_', ' ')}"
    if same is not None:
        return f"in place of {same.name}"
    return part.for_task or "for another set or fuel"


def parts_list(plan: Plan) -> Bill:
    """Everything the job takes, counted, priced and sourced."""
    cases = [one.case for one in plan.of(trains_to_build).values()]
    parts = parts_of(plan.job, plan.catalog)
    return bill(plan.job, cases, plan.of(walk_tasks), parts, plan.of(jet_decision))

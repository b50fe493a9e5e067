"""The catalog, its kits and a job's parts list."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, RootModel, StringConstraints

from gentle_ember.core.catalog import Kit
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.parts_list import (
    Entry,
    PartLine,
    Source,
    cheaper_or_sooner,
    check_kit,
    parts_list,
)
from gentle_ember.core.stages.fuel_path.trains import parts_of
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.units.display import counted
from gentle_ember.web.views.base import (
    SYSTEMS,
    AssumedOut,
    BothOut,
    FigureOut,
    Request,
    View,
    both,
    figure,
    same,
)


class LineOut(View):
    """One line of the bill."""

    key: str
    number: str
    name: str
    maker: str
    count: BothOut
    uses: list[str]
    source: str
    days: int
    price: float
    core: float
    other: str
    """A part that does the same for less or sooner."""
    other_key: str
    other_gain: str
    slot: str
    """Where it stands, as train and slot; empty where it stands in no train."""
    comes: bool
    """Whether it is bought and so checked in when it comes."""
    whole: int
    """How many are counted when they come."""
    here: bool


class BillGroupOut(View):
    """Lines that come from one place."""

    source: str
    title: str
    price: float
    lines: list[LineOut]


class SupplierOut(View):
    """Whom to call."""

    maker: str
    name: str
    phone: str
    mail: str
    terms: str
    lines: int
    price: float


class KitOut(View):
    """A kit."""

    key: str
    name: str
    maker: str
    fits: str
    price: float
    parts: int
    ruled_out: str
    """Why its maker does not have it on this set; empty where it may be, or nothing is told."""


class KitLineOut(View):
    """A part of a kit check."""

    number: str
    name: str
    count: BothOut
    what_for: str
    price: float


class KitCheckOut(View):
    """A kit against the job's bill."""

    key: str
    name: str
    price: float
    covers: list[KitLineOut]
    missing: list[KitLineOut]
    left_over: list[KitLineOut]
    missing_price: float
    saves: float


class BillOut(View):
    """The bill of materials."""

    groups: list[BillGroupOut]
    price: float
    core: float
    days: int
    hours: list[FigureOut]
    """Bench hours of each chosen method."""
    missing: list[str]
    questions: list[AssumedOut]
    suppliers: list[SupplierOut]
    kits: list[KitOut]
    kit: KitCheckOut | None


class CatalogQuery(Request):
    """Which parts of the catalog."""

    kind: str = Field(default="", max_length=30)
    words: str = Field(default="", max_length=80)
    fuel: str = Field(default="", max_length=20)
    limit: int = Field(default=60, ge=1, le=500)


class PartFactOut(BothOut):
    """One thing that is known of a part, in both systems of units."""

    label: str


class CatalogPartOut(View):
    """A part as listed."""

    part: Part
    inlet: str
    outlet: str
    own: bool
    facts: list[PartFactOut]


class CatalogOut(View):
    """Parts found."""

    total: int
    found: int
    kinds: dict[str, int]
    parts: list[CatalogPartOut]


class ImportQuery(Request):
    """How to import: without `accept` nothing changes."""

    accept: Literal["", "all", "good"] = ""


class RowFaultOut(View):
    """What is wrong with a row."""

    line: int
    column: str
    why: str


class EffectOut(View):
    """What an import does to a part."""

    number: str
    name: str
    kind: str
    fields: list[str]


class ImportOut(View):
    """An import, tried or done."""

    done: bool
    rows: int
    good: int
    faults: list[RowFaultOut]
    effects: list[EffectOut]


class ColumnOut(View):
    """A column of a part's row: its name in words, and what its cell may be where it is chosen."""

    name: str
    label: str
    options: list[str]


class ColumnsOut(View):
    """Every column, in the order of the file."""

    columns: list[ColumnOut]


class PartPath(Request):
    """A part of the catalog by its key."""

    key: str = Field(max_length=60)


class PartRowOut(View):
    """A part as its row: what each cell holds, as text with the column's unit."""

    cells: dict[str, str]


class PartRowIn(Request):
    """A part as it was typed."""

    cells: dict[str, Annotated[str, StringConstraints(max_length=400)]] = Field(max_length=120)
    was: str = Field(default="", max_length=60)
    """The key of the part that is changed; empty for another one."""


class PartSavedOut(View):
    """What came of it."""

    key: str
    kind: str
    fields: list[str]


class KitIn(Request):
    """A kit made of what a job takes."""

    job: str = Field(max_length=36)
    name: str = Field(min_length=1, max_length=100)


class EndOut(View):
    """An end, as its key and in words."""

    key: str
    text: str


class EndsOut(RootModel[list[EndOut]]):
    """Every end of the catalog."""


class JoinQuery(Request):
    """Two ends, in the direction of the flow, and what flows."""

    a: str = Field(max_length=40)
    b: str = Field(max_length=40)
    fuel: FuelKey = FuelKey.PROPANE


class WayPartOut(View):
    """A fitting between."""

    number: str
    name: str
    price: float
    stock: int


class WayOut(View):
    """Fittings that join two ends."""

    parts: list[WayPartOut]
    price: float


class JoinOut(View):
    """Whether two ends mate, how, and what joins them when not."""

    mates: bool
    why: str
    seal: str
    never: str
    ways: list[WayOut]


def count_of(part: Part, count: float) -> BothOut:
    """How many of a part, or how long a piece of it."""
    us, metric = (counted(count, system, by_length=part.by_length) for system in SYSTEMS)
    return BothOut(us=us, metric=metric)


def bill(planned: Plan) -> BillOut:
    """The bill of materials with suppliers and the kit's check."""
    found, catalog, job = planned.of(parts_list), planned.catalog, planned.job
    known = parts_of(job, catalog)
    where = {
        slot.part: f"{name}.{key}"
        for name, one in job.trains.items()
        for key, slot in one.slots.items()
        if name != AS_FOUND
    }
    hours = [one.hours for one in planned.of(judged_methods).chosen]
    chosen_kit = catalog.kits.get(job.kit)
    bought = [line for line in found.lines if line.source in (Source.ORDER, Source.STOCK)]
    suppliers = []
    for maker, one in catalog.suppliers.items():
        lines = [
            line for line in bought if line.part.maker == maker and line.source is Source.ORDER
        ]
        suppliers.append(
            SupplierOut(
                maker=maker, name=one.name, phone=one.phone, mail=one.mail,
                terms=one.terms, lines=len(lines),
                price=round(sum(line.price for line in lines), 2),
            )
        )  # fmt: skip
    return BillOut(
        groups=[
            BillGroupOut(
                source=str(group.source),
                title=group.title,
                price=group.price,
                lines=[
                    _line(line, known, where.get(line.part.key, ""), job) for line in group.lines
                ],
            )
            for group in found.groups()
        ],
        price=found.price,
        core=found.core,
        days=found.days,
        hours=[figure(one) for one in hours],
        missing=list(found.missing),
        questions=[AssumedOut(text=text, path=path) for text, path in found.open_questions],
        suppliers=suppliers,
        kits=[kit(one, job.set) for one in catalog.kits.values()],
        kit=_kit_check(chosen_kit, planned) if chosen_kit else None,
    )


def _line(line: PartLine, known: Any, slot: str, job: Job) -> LineOut:
    part = line.part
    others = sorted(cheaper_or_sooner(line, known), key=lambda one: one.price)
    other = others[0] if others and line.source is not Source.SITE else None
    gain = ""
    if other is not None:
        saved = part.price - other.price
        sooner = line.source is Source.ORDER and other.stock >= line.count
        gain = ", ".join(
            text for text in (
                f"saves $ {saved * line.count:.2f}" if saved > 0.005 else "",
                f"here now, not in {part.days} days" if sooner else "",
            ) if text
        )  # fmt: skip
    return LineOut(
        key=part.key, number=part.number, name=part.name, maker=part.maker,
        count=count_of(part, line.count), uses=list(line.uses), source=str(line.source),
        days=part.days, price=line.price, core=line.core,
        other=f"{other.number} {other.name}" if other else "",
        other_key=other.key if other else "", other_gain=gain, slot=slot,
        comes=line.source in (Source.ORDER, Source.STOCK), whole=line.whole,
        here=line.here(job.arrived),
    )  # fmt: skip


_NAMED = {"key", "number", "name", "maker", "kind", "inlet", "outlet", "price", "stock", "days"}


_SUFFIXES = {
    "_pa": "pressure", "_k": "temperature", "_w": "heat_rate", "_kg": "mass",
    "_m3_s": "liquid_flow", "_m3": "displacement", "_m": "small_length",
}  # fmt: skip


_KINDS = {
    "length_m": "length", "lift_m": "length", "bore_m": "bore", "droop": "share",
    "lock_up": "share",
}  # fmt: skip


_METRIC_THREAD = {"thread_m", "pitch_m"}


def facts(part: Part) -> list[PartFactOut]:
    """What is known of a part besides its name, ends and price."""
    return [
        PartFactOut(label=_label(name), **dict(_fact(name, value)))
        for name, value in part.model_dump(mode="json").items()
        if name not in _NAMED
    ]


def _suffix(name: str) -> str:
    return next((suffix for suffix in _SUFFIXES if name.endswith(suffix)), "")


def _label(name: str) -> str:
    return name.removesuffix(_suffix(name)).replace("_", " ")


def _fact(name: str, value: Any) -> BothOut:
    kind = _KINDS.get(name) or _SUFFIXES.get(_suffix(name))
    if kind:
        text = both(value, kind)
        return same(text.metric) if name in _METRIC_THREAD else text
    if isinstance(value, bool):
        return same("yes" if value else "no")
    values = value if isinstance(value, list) else [value]
    return same(", ".join(str(one).replace("_", " ") for one in values))


def kit(one: Kit, machine: GeneratorSet | None = None) -> KitOut:
    """A kit as listed, for a set where there is one."""
    said = one.judged(machine) if machine else None
    return KitOut(
        key=one.key, name=one.name, maker=one.maker, fits=one.fits,
        price=one.price, parts=len(one.contents),
        ruled_out=said.why if said and said.fits is False else "",
    )  # fmt: skip


def _kit_check(one: Kit, planned: Plan) -> KitCheckOut:
    found = check_kit(one, planned.of(parts_list), parts_of(planned.job, planned.catalog))

    def rows(entries: tuple[Entry, ...]) -> list[KitLineOut]:
        return [
            KitLineOut(number=e.part.number, name=e.part.name, count=count_of(e.part, e.count),
             what_for=e.what_for, price=round(e.part.price * e.count, 2))
            for e in entries
        ]  # fmt: skip

    covered = sum(entry.part.price * entry.count for entry in found.covers)
    return KitCheckOut(
        key=one.key, name=one.name, price=one.price, covers=rows(found.covers),
        missing=rows(found.missing), left_over=rows(found.left_over),
        missing_price=found.missing_price, saves=round(covered - one.price, 2),
    )  # fmt: skip

"""The shop: board, finder, people, and what a page needs to know once."""

from __future__ import annotations

from datetime import date

from flask import Response
from sqlalchemy.orm import Session

from gentle_ember import __version__
from gentle_ember.catalog.terms import find_terms
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.job.job import WaitsFor
from gentle_ember.core.route import NAMES, WAITS
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.logbook.round import round_of
from gentle_ember.store import board, people
from gentle_ember.store.models import BoardRow
from gentle_ember.units import ReadingError, read
from gentle_ember.units.reading import example
from gentle_ember.units.registry import CONVERSIONS, System, line, unit_for
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.fields import job_fields
from gentle_ember.web.services import services
from gentle_ember.web.views import base
from gentle_ember.web.views.logbook import DueQuery, RoundOut, day_round
from gentle_ember.web.views.shop import (
    BoardGroupOut,
    BoardOut,
    BoardQuery,
    BoardRowOut,
    FieldOut,
    FinderQuery,
    FoundListOut,
    FoundOut,
    KindOut,
    PersonIn,
    PersonOut,
    ReadIn,
    ReadOut,
    ReferenceOut,
    SizeOut,
    UnitOut,
)

api = blueprint("shop", "shop", "/api", 422)


def _row(row: BoardRow) -> BoardRowOut:
    return BoardRowOut(
        id=row.job_id,
        title=row.title,
        owner=row.owner,
        set_label=row.set_label,
        site_label=row.site_label,
        stage=NAMES.get(row.stage, row.stage),
        stops=row.stops,
        questions=row.questions,
        running=None if row.running_w is None else base.plain(row.running_w, "power"),
        fuels=row.fuels,
        updated_at=row.updated_at.isoformat(timespec="seconds") + "Z",
    )


@api.get("/board", responses={200: BoardOut})
def show_board(query: BoardQuery) -> Response:
    """Jobs by what they wait for."""
    with services().jobs.reading.begin() as session:
        found = board.groups(session, query=query.query, archived=query.archived, limit=query.limit)
        return sent(
            BoardOut(
                groups=[
                    BoardGroupOut(
                        waits_for=group.waits_for,
                        label=WAITS[WaitsFor(group.waits_for)],
                        count=group.count,
                        rows=[_row(row) for row in group.rows],
                    )
                    for group in found
                ],
                total=sum(group.count for group in found),
            )
        )


@api.get("/finder", responses={200: FoundListOut})
def finder(query: FinderQuery) -> Response:
    """Jobs, the trade's terms by any of their names, and quantities in other units."""
    text = query.q.strip()
    found: list[FoundOut] = []
    if text:
        found += _quantities(text, query.system)
        with services().jobs.reading.begin() as session:
            found += _jobs(session, text)
        found += [
            FoundOut(
                kind="term",
                title=term.name,
                detail=term.means,
                job="",
                page=term.page,
                field=term.field,
            )
            for term in find_terms(text)
        ]
    return sent(FoundListOut(found))


def _jobs(session: Session, text: str) -> list[FoundOut]:
    return [
        FoundOut(
            kind="job",
            title=row.title,
            detail=" · ".join(part for part in (row.set_label, row.site_label) if part),
            job=row.job_id,
            page="",
            field="",
        )
        for group in board.groups(session, query=text, limit=6)
        for row in group.rows
    ][:8]


def _quantities(text: str, system: System) -> list[FoundOut]:
    """What a typed quantity is in other units, when it names its unit."""
    if not any(c.isdigit() for c in text) or not any(c.isalpha() or c in "\"'°" for c in text):
        return []
    for kind, units in CONVERSIONS.items():
        try:
            value = read(text, kind, system)
        except ReadingError:
            continue
        rows = [base.in_unit(value, kind, unit) for unit in units]
        return [
            FoundOut(
                kind="quantity",
                title=" = ".join(rows[:4]),
                detail=f"{KINDS[kind].name}; open the converter",
                job="",
                page="quick/convert",
                field=text,
            )
        ]
    return []


@api.post("/quantities/read", responses={200: ReadOut})
def read_quantity(body: ReadIn) -> Response:
    """Read a quantity as typed, and say what was understood."""
    if body.kind not in KINDS:
        raise ReadingError("There is no such kind of quantity.")
    value = read(body.text, body.kind, body.system)
    return sent(ReadOut(value=value, **dict(base.both(value, body.kind))))


@api.get("/reference", responses={200: ReferenceOut})
def reference() -> Response:
    """Kinds with their units, fields, cylinder sizes, people."""

    def unit(kind: str, system: System) -> UnitOut:
        shown = unit_for(kind, system)
        factor, offset = line(KINDS[kind].si, shown.pint)
        return UnitOut(
            text=shown.text, factor=factor, offset=offset, decimals=shown.decimals,
        )  # fmt: skip

    with services().jobs.reading.begin() as session:
        everyone = [
            PersonOut(name=row.name, initials=row.initials, units=row.units)
            for row in people.everyone(session)
        ]
    return sent(
        ReferenceOut(
            kinds={
                key: KindOut(
                    us=unit(key, "us"),
                    metric=unit(key, "metric"),
                    sample_us=example(key, "us"),
                    sample_metric=example(key, "metric"),
                )
                for key in KINDS
            },
            fields={path: FieldOut(**field) for path, field in job_fields().items()},
            cylinders=[
                SizeOut(
                    key=size.key,
                    name=size.name,
                    full=base.plain(size.full_kg, "mass"),
                    tare=base.plain(size.tare_kg, "mass"),
                )
                for size in services().catalog.cylinders.values()
            ],
            people=everyone,
            version=__version__,
        )
    )


@api.put("/people", responses={200: PersonOut})
def put_person(body: PersonIn) -> Response:
    """Add a person, or note the units they prefer."""
    with services().jobs.writing.begin() as session:
        row = people.remember(session, body.name, body.units)
        return sent(PersonOut(name=row.name, initials=row.initials, units=row.units))


@api.get("/shop", responses={200: ShopFront})
def shop_front() -> Response:
    """The shop's settings: name, papers, what it asks for its work."""
    return sent(services().jobs.taught.front)


@api.put("/shop", responses={200: ShopFront})
def put_shop_front(body: ShopFront) -> Response:
    """Keep the shop's settings; invoices and records read them from then on."""
    return sent(services().jobs.put_front(body))


@api.get("/due", responses={200: RoundOut})
def due(query: DueQuery) -> Response:
    """What is due on the shop's sets in service, by place, and the parts to take along."""
    today = date.today()
    with services().jobs.reading.begin() as session:
        return sent(day_round(round_of(board.in_use(session, today), today, query.days)))

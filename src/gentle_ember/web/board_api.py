"""The shop: board, finder, people, and what a page needs to know once."""

from __future__ import annotations

from datetime import date

from flask import Response, current_app, request
from sqlalchemy.orm import Session

from gentle_ember import __version__
from gentle_ember.catalog.terms import find_terms
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.job.job import WaitsFor
from gentle_ember.core.route import NAMES, WAITS
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stages.logbook.round import round_of
from gentle_ember.store import board, daily, people
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.feed import CalendarFeed
from gentle_ember.store.models import BoardRow
from gentle_ember.units import ReadingError, read
from gentle_ember.units.reading import example
from gentle_ember.units.registry import CONVERSIONS, System, line, unit_for
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.fields import job_fields
from gentle_ember.web.pairing import Lan
from gentle_ember.web.services import services
from gentle_ember.web.views import base
from gentle_ember.web.views.logbook import DueQuery, FeedOut, FeedPath, RoundOut, day_round
from gentle_ember.web.views.shop import (
    BackupOut,
    BackupsOut,
    BoardGroupOut,
    BoardOut,
    BoardQuery,
    BoardRowOut,
    FieldOut,
    FinderQuery,
    FoundListOut,
    FoundOut,
    KindOut,
    PersonOut,
    ReadIn,
    ReadOut,
    ReferenceOut,
    SizeOut,
    UnitOut,
)

api = blueprint("shop", "shop", "/api", 422)


def _row(row: BoardRow) -> BoardRowOut:
    shown = board.BoardShown.model_validate(row.shown)
    return BoardRowOut(
        **{**row.shown, "stage": NAMES.get(shown.stage, shown.stage)},
        id=row.job_id,
        running=None if shown.running_w is None else base.plain(shown.running_w, "power"),
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
                        label=_waits(group.waits_for),
                        count=group.count,
                        rows=[_row(row) for row in group.rows],
                    )
                    for group in found
                ],
                total=sum(group.count for group in found),
            )
        )


def _waits(group: str) -> str:
    """What a group of the board waits for, in words."""
    return "In service" if group == board.IN_SERVICE else WAITS[WaitsFor(group)]


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
            title=shown.title,
            detail=" · ".join(part for part in (shown.set_label, shown.site_label) if part),
            job=row.job_id,
            page="",
            field="",
        )
        for group in board.groups(session, query=text, limit=6)
        for row in group.rows
        for shown in [board.BoardShown.model_validate(row.shown)]
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
            currency=services().front.currency,
            version=__version__,
        )
    )


@api.get("/shop", responses={200: ShopFront})
def shop_front() -> Response:
    """The shop's settings: name, papers, what it asks for its work."""
    return sent(services().front)


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


@api.get("/backups", responses={200: BackupsOut})
def backups() -> Response:
    """The daily backups there are, the newest first."""
    held = daily.kept(services().data)
    return sent(
        BackupsOut(
            kept=[
                BackupOut(name=one.path.name, day=one.day.isoformat(), size=one.size)
                for one in held
            ]
        )
    )


def _feed() -> CalendarFeed:
    return CalendarFeed(services().data)


def _addresses(token: str) -> FeedOut:
    """Every way to the address, as a calendar takes it; none where there is no address."""
    lan = current_app.extensions.get("gentle_ember_lan")
    ways = lan.addresses if isinstance(lan, Lan) else (request.host_url.rstrip("/"),)
    return FeedOut(
        addresses=[f"{way}/api/feed/{token}/upkeep.ics" for way in ways] if token else [],
        network=isinstance(lan, Lan),
    )


@api.get("/feed", responses={200: FeedOut})
def feed() -> Response:
    """The private address of the shop's calendar, where there is one."""
    return sent(_addresses(_feed().token()))


@api.post("/feed", responses={200: FeedOut})
def begin_feed() -> Response:
    """Make a private address; the one before ends."""
    return sent(_addresses(_feed().begin()))


@api.delete("/feed", responses={200: FeedOut})
def end_feed() -> Response:
    """End the private address."""
    _feed().end()
    return sent(_addresses(""))


@api.get("/feed/<token>/upkeep.ics")
def feed_calendar(path: FeedPath) -> Response:
    """What is due on every set in service, for whoever has the address."""
    from gentle_ember.documents.upkeep_ics import upkeep_ics

    if not _feed().known(path.token):
        raise NotFoundError("There is no such calendar: ask the shop for its address.")
    jobs, today = services().jobs, date.today()
    with jobs.reading.begin() as session:
        sets = [(one.job, f"{one.title}, {one.place}".rstrip(", "), one.due)
                for one in board.in_use(session, today)]  # fmt: skip
    content = upkeep_ics(f"Upkeep: {services().front.name or 'the shop'}", sets, today)
    return Response(content, mimetype="text/calendar")

"""What goes to the owner."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.hand_over import Signature
from gentle_ember.core.physics.fuels import LETTERS, NAMES
from gentle_ember.core.route import before_signing
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.arrivals import arrived
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.hand_over.invoice import deposit, exact, invoice, money
from gentle_ember.core.stages.hand_over.moving import moves, places
from gentle_ember.core.stages.hand_over.record import Row, record
from gentle_ember.core.stages.hand_over.seals import (
    Differs,
    differences,
    in_order,
    sealed_now,
    stands,
    unsealed,
    work_here,
)
from gentle_ember.core.stages.hand_over.signs import SIGNS
from gentle_ember.core.stages.hand_over.stage import STAGE
from gentle_ember.core.stages.hand_over.teaching import drills
from gentle_ember.documents.record_pdf import shown
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import BothOut, FigureOut, HoldOut, View, both, figure, holds


class CardsQuery(View):
    """How large the cards are printed."""

    size: Literal["letter", "a6"] = "letter"


class RecordQuery(View):
    """Which revision of the record, 0 for the draft as it stands, in which units.

    The shop's own where none are asked for, as every paper of the shop.
    """

    revision: int = Field(default=0, ge=0, le=40)
    system: System | None = None


class PaperQuery(View):
    """In which units a paper is printed; the shop's own where none are asked for."""

    system: System | None = None


class CardBlockOut(View):
    """A heading and what stands under it."""

    title: str
    lines: list[str]
    numbered: bool
    sign: str
    """Name of the sign at its heading; its strokes are with the cards."""


class CardOut(View):
    """One card."""

    key: str
    title: str
    fuel: str
    letter: str
    blocks: list[CardBlockOut]


class CardsOut(View):
    """The owner's cards."""

    cards: list[CardOut]
    draft: str
    """Why they are not to be handed over yet."""
    withheld: list[str]
    signs: dict[str, list[list[int]]]
    """Strokes of each sign on a field of 24 by 24."""


class MovePlaceOut(View):
    """A site with one of the fuels it has."""

    key: str
    site: str
    fuel: str
    fuel_name: str
    letter: str


class BesideOut(View):
    """A figure here and there."""

    label: str
    here: FigureOut
    there: FigureOut


class MoveOut(View):
    """One way from a place to another."""

    start: str
    goal: str
    screw: FigureOut | None
    lam: FigureOut | None
    eighths: int
    says: str
    rows: list[BesideOut]
    again: list[str]
    stops: list[str]


class AskedOut(View):
    """One thing that is proven where the set arrived, and who did."""

    key: str
    text: str
    by: str


class ArrivedOut(View):
    """The last arrival."""

    key: str
    place: str
    on: str
    by: str
    left: int
    asked: list[AskedOut]


class MovesOut(View):
    """Every place of the job, and every way between two of them."""

    arrived: ArrivedOut | None

    places: list[MovePlaceOut]
    moves: list[MoveOut]


class MoveQuery(View):
    """Which way, by its two places, the reader's units, a sheet or a card for a pocket."""

    start: str = Field(max_length=80)
    goal: str = Field(max_length=80)
    system: System = "us"
    size: Literal["sheet", "card"] = "sheet"


def moving(planned: Plan) -> MovesOut:
    """Every place of the job, and every way between two of them."""
    sites, last = planned.job.sites, planned.of(arrived)
    return MovesOut(
        arrived=None if last is None else ArrivedOut(
            key=last.key, place=last.place, on=last.record.on, by=last.record.by, left=last.left,
            asked=[AskedOut.model_validate(one) for one in last.asked],
        ),
        places=[
            MovePlaceOut(
                key=one.key, site=sites[one.site].name or "the site", fuel=str(one.fuel),
                fuel_name=NAMES[one.fuel], letter=LETTERS[one.fuel],
            )
            for one in planned.of(places)
        ],
        moves=[
            MoveOut(
                start=one.start.key, goal=one.goal.key,
                screw=figure(one.screw) if one.screw else None,
                lam=figure(one.lam) if one.lam else None,
                eighths=one.eighths, says=one.says,
                rows=[
                    BesideOut(label=row.label, here=figure(row.here), there=figure(row.there))
                    for row in one.rows
                ],
                again=[proof.text for proof in one.again], stops=list(one.stops),
            )
            for one in planned.of(moves)
        ],
    )  # fmt: skip


class RecordRowOut(View):
    """A line of the record."""

    label: str
    text: BothOut
    by: str


class RecordSectionOut(View):
    """A heading of the record."""

    title: str
    rows: list[RecordRowOut]


class DiffersOut(View):
    """A line of the record that differs; empty where it is new or gone."""

    section: str
    label: str
    was: BothOut
    now: BothOut


class SignatureOut(View):
    """A name drawn under the record."""

    name: str
    on: str
    strokes: list[list[int]]
    stands: bool
    """Whether it is whole and given for the work as it stands."""


class SealOut(View):
    """A sealed revision."""

    number: int
    digest: str
    technician: SignatureOut
    owner: SignatureOut
    differs: list[DiffersOut]
    """From the revision before it."""


class ClosingOut(View):
    """Everything the page of closing a job shows."""

    work: str
    """SHA-256 of the work a signature is given for."""
    sealed: bool
    """Whether the newest revision is the record as it stands."""
    technician: SignatureOut
    owner: SignatureOut
    record: list[RecordSectionOut]
    differs: list[DiffersOut]
    """From the newest revision to the record as it stands."""
    seals: list[SealOut]
    missing: list[HoldOut]
    """What is missing before anybody signs, in the order to do it."""
    deposit: str
    """What comes back with the old part; empty where nothing does."""


class DrillOut(View):
    """An order the owner is taught, and how it went."""

    key: str
    name: str
    lines: list[str]
    of: str
    state: str
    seconds: int
    wrong: int
    reason: str
    by: str
    stale: bool
    settled: bool


class InvoiceLineOut(View):
    """A line of the invoice, in money as text."""

    key: str
    kind: str
    part: str
    """The part it belongs to: charged with it, or not at all; empty where it is of none."""
    what: str
    count: str
    each: str
    amount: str
    taxed: bool
    charged: bool


class InvoiceOut(View):
    """The invoice as it stands."""

    lines: list[InvoiceLineOut]
    net: str
    tax: str
    tax_share: str
    total: str
    paid: str
    due: str
    estimate: str
    over: str
    """What it came to over the estimate; with a minus where it came to less."""
    hours: BothOut | None
    hours_assumed: bool
    rate: str
    worked: BothOut | None
    estimated: BothOut | None
    lacks: list[str]


def _row_text(row: Row | None) -> BothOut:
    if row is None:
        return BothOut(us="", metric="")
    return BothOut(us=shown(row, "us"), metric=shown(row, "metric"))


def _differs(one: Differs) -> DiffersOut:
    row = one.now or one.was
    return DiffersOut(
        section=one.section, label=row.label if row else "", was=_row_text(one.was),
        now=_row_text(one.now),
    )  # fmt: skip


def _signature(one: Signature, of: str) -> SignatureOut:
    return SignatureOut(
        name=one.name, on=one.on, strokes=[list(stroke) for stroke in one.strokes],
        stands=stands(one, of),
    )  # fmt: skip


def closing(planned: Plan) -> ClosingOut:
    """What is sealed, who signed, and the record as it stands."""
    held, of = planned.job.hand_over, planned.of(work_here)
    here = planned.of(record)
    seals, before = [], None
    for seal in in_order(held):
        sections = unsealed(seal.sections)
        seals.append(SealOut(
            number=seal.number, digest=seal.digest,
            technician=_signature(seal.technician, seal.work),
            owner=_signature(seal.owner, seal.work),
            differs=[] if before is None else [_differs(d) for d in differences(before, sections)],
        ))  # fmt: skip
        before = sections
    current = planned.of(sealed_now)
    held_back = planned.of(deposit)
    return ClosingOut(
        work=of, sealed=current, technician=_signature(held.technician, of),
        owner=_signature(held.owner, of),
        record=[
            RecordSectionOut(
                title=section.title,
                rows=[RecordRowOut(label=row.label, text=_row_text(row), by=row.by)
                      for row in section.rows],
            )
            for section in here
        ],
        differs=[] if before is None or current else
        [_differs(one) for one in differences(before, here)],
        seals=seals, missing=holds(before_signing(planned, STAGE)),
        deposit=money(held_back, planned.shop.front.currency) if held_back else "",
    )  # fmt: skip


def teaching(planned: Plan) -> list[DrillOut]:
    """Every order the owner is taught."""
    return [
        DrillOut(
            key=one.key, name=one.name, lines=list(one.lines), of=one.of, state=one.record.state,
            seconds=one.record.seconds, wrong=one.record.wrong, reason=one.record.reason,
            by=one.record.by, stale=one.stale, settled=one.settled,
        )
        for one in planned.of(drills)
    ]  # fmt: skip


def priced(planned: Plan) -> InvoiceOut:
    """The invoice as it stands, beside what it was estimated at."""
    one, symbol = planned.of(invoice), planned.shop.front.currency
    return InvoiceOut(
        lines=[
            InvoiceLineOut(
                key=line.key, kind=line.kind, part=line.part, what=line.what,
                count=f"{line.count.normalize():f} {line.unit}".strip(),
                each=money(line.each, symbol), amount=money(line.amount, symbol), taxed=line.taxed,
                charged=line.charged,
            )
            for line in one.lines
        ],
        net=money(one.net, symbol), tax=money(one.tax, symbol),
        tax_share=f"{(one.tax_share * 100).normalize():f} %", total=money(one.total, symbol),
        paid=money(one.paid, symbol), due=money(one.due, symbol),
        estimate="" if one.estimate is None else money(one.estimate, symbol),
        over="" if one.estimate is None else money(one.total - one.estimate, symbol),
        hours=both(one.hours.value, "duration") if one.hours else None,
        hours_assumed=one.hours is not None and one.hours.origin is Origin.ASSUMED,
        rate="" if one.rate is None else money(exact(one.rate.value), symbol),
        worked=both(one.worked_s, "duration") if one.worked_s else None,
        estimated=both(one.estimated_s, "duration") if one.estimated_s else None,
        lacks=list(one.lacks),
    )  # fmt: skip


def owner_cards(planned: Plan) -> CardsOut:
    """The owner's cards."""
    found = planned.of(cards)
    return CardsOut(
        cards=[CardOut.model_validate(one) for one in found.cards], draft=found.draft,
        withheld=list(found.withheld),
        signs={name: [list(one) for one in strokes] for name, strokes in SIGNS.items()},
    )  # fmt: skip

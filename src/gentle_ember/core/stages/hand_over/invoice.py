"""The price: what it was estimated at, what it came to, and the invoice line by line.

Money is counted in whole cents, each line rounded half up as a hand does it; a share of tax is
taken once, of the sum of what is taxed.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.stage import TO_DO, Item, Plan
from gentle_ember.core.stages.fuel_path.parts_list import Bill, Source, parts_list
from gentle_ember.core.stages.method.judged import judged_methods

CENT = Decimal("0.01")
HOUR_S = 3600.0


@dataclass(frozen=True, slots=True)
class InvoiceLine:
    """One line: what, how many, each and together in money, whether it is taxed."""

    key: str
    kind: str
    """labor, part, deposit or extra."""
    what: str
    count: Decimal
    unit: str
    each: Decimal
    taxed: bool
    charged: bool = True
    part: str = ""
    """Key of the part it belongs to, or whose deposit it is."""

    @property
    def amount(self) -> Decimal:
        """Together, in whole cents; nought where it is not charged."""
        return cents(self.count * self.each) if self.charged else Decimal("0.00")


@dataclass(frozen=True, slots=True)
class InvoiceHere:
    """The invoice as it stands: its lines and what they come to."""

    lines: tuple[InvoiceLine, ...]
    tax_share: Decimal
    paid: Decimal
    worked_s: float | None
    """Time worked by the steps of the sheet [s]; None while none was timed."""
    hours: Fact | None
    """Hours charged: as told, else as worked, else as estimated; None without any."""
    rate: Fact | None
    estimate: Decimal | None
    """What it was estimated at, tax included; None without a rate or hours."""
    estimated_s: float | None
    lacks: tuple[str, ...]
    """What keeps it from being exact."""

    @property
    def net(self) -> Decimal:
        """All lines together."""
        return sum((one.amount for one in self.lines), Decimal("0.00"))

    @property
    def tax(self) -> Decimal:
        """Tax of what is taxed."""
        taxed = sum((one.amount for one in self.lines if one.taxed), Decimal("0.00"))
        return cents(taxed * self.tax_share)

    @property
    def total(self) -> Decimal:
        """With tax."""
        return self.net + self.tax

    @property
    def due(self) -> Decimal:
        """What is left to pay."""
        return self.total - self.paid


def cents(amount: Decimal) -> Decimal:
    """Whole cents, half up.

    >>> cents(Decimal("2.345")), cents(Decimal("-2.345"))
    (Decimal('2.35'), Decimal('-2.35'))
    """
    return amount.quantize(CENT, ROUND_HALF_UP)


def exact(value: float) -> Decimal:
    """A number as it was typed, not as a binary fraction.

    >>> exact(0.1) * 3
    Decimal('0.3')
    """
    return Decimal(repr(value))


def money(amount: Decimal, currency: str) -> str:
    """An amount in whole cents, as it is printed.

    >>> money(Decimal("1234.5"), "$"), money(Decimal("-3"), "")
    ('$ 1,234.50', '−3.00')
    """
    whole = cents(amount)
    sign, symbol = "−" if whole < 0 else "", f"{currency} " if currency else ""
    return f"{sign}{symbol}{abs(whole):,.2f}"


def invoice(plan: Plan) -> InvoiceHere:
    """The invoice of a job by its parts list, its hours, and the shop's own settings."""
    record, front = plan.job.hand_over.invoice, plan.shop.front
    bill = plan.of(parts_list)
    worked = sum(one.seconds for one in plan.job.fit.steps.values()
                 if one.state == "done") or None  # fmt: skip
    estimated = sum(one.hours.value for one in plan.of(judged_methods).chosen) or None
    hours = record.hours or _assumed(worked or estimated)
    rate = record.rate or (
        Fact(value=front.rate, origin=Origin.ASSUMED) if front.rate is not None else None
    )
    share = exact(record.tax.value if record.tax else front.tax)
    lines = [*_labor(hours, rate, taxed=front.tax_labor), *_parts(bill, record.without),
             *_told_deposit(plan), *_extras(plan)]  # fmt: skip
    paid = exact(record.paid.value) if record.paid else Decimal("0.00")
    estimate = None
    if estimated is not None and rate is not None:
        first = (*_labor(_assumed(estimated), rate, taxed=front.tax_labor), *_parts(bill, ()))
        net = sum((one.amount for one in first), Decimal("0.00"))
        taxed = sum((one.amount for one in first if one.taxed), Decimal("0.00"))
        estimate = net + cents(taxed * share)
    return InvoiceHere(
        tuple(lines), share, cents(paid), float(worked) if worked else None, hours, rate, estimate,
        estimated, tuple(_lacks(bill, hours, rate)),
    )  # fmt: skip


def _assumed(seconds: float | None) -> Fact | None:
    return None if not seconds else Fact(value=float(seconds), origin=Origin.ASSUMED)


def _labor(hours: Fact | None, rate: Fact | None, *, taxed: bool) -> Iterator[InvoiceLine]:
    if hours is None or rate is None:
        return
    # A tenth of an hour is as fine as a bill reads; begun tenths are not charged as whole ones.
    count = (exact(hours.value) / Decimal(3600)).quantize(Decimal("0.1"), ROUND_HALF_UP)
    yield InvoiceLine("labor", "labor", "Work", count, "h", exact(rate.value), taxed)


def _parts(bill: Bill, without: tuple[str, ...]) -> Iterator[InvoiceLine]:
    for one in bill.lines:
        if one.source is Source.SITE:
            continue
        part, charged = one.part, one.part.key not in without
        count = exact(round(one.count, 3))
        unit = "m" if part.by_length else ""
        yield InvoiceLine(part.key, "part", f"{part.number} {part.name}".strip(), count, unit,
                          exact(part.price), True, charged, part.key)  # fmt: skip
        if one.core:
            yield InvoiceLine(f"{part.key}-core", "deposit",
                              f"Deposit, back with the old part: {part.name}", count, "",
                              exact(part.core), False, charged, part.key)  # fmt: skip


def deposit(plan: Plan) -> Decimal:
    """What is held until the old parts are back: those of the parts list, and one besides."""
    told = plan.job.hand_over.core.deposit
    return exact(plan.of(parts_list).core) + (exact(told.value) if told else Decimal(0))


def _told_deposit(plan: Plan) -> Iterator[InvoiceLine]:
    core = plan.job.hand_over.core
    if core.deposit and core.deposit.value:
        yield InvoiceLine("old-part", "deposit",
                          f"Deposit, back with the old part: {core.what.strip() or 'as found'}",
                          Decimal(1), "", exact(core.deposit.value), False)  # fmt: skip


def _extras(plan: Plan) -> Iterator[InvoiceLine]:
    for key, one in plan.job.hand_over.invoice.extras.items():
        count = exact(one.count.value) if one.count else Decimal(1)
        each = exact(one.each.value) if one.each else Decimal(0)
        yield InvoiceLine(f"extra-{key}", "extra", one.what or "besides", count, "", each,
                          one.taxed)  # fmt: skip


def _lacks(bill: Bill, hours: Fact | None, rate: Fact | None) -> Iterator[str]:
    if rate is None:
        yield "The rate an hour: here, or once for all in the shop's settings."
    if hours is None:
        yield "Hours worked: no step was timed and no method is chosen."
    elif hours.origin is Origin.ASSUMED:
        yield "Hours are of the steps that were timed, or the method's usual: enter the real ones."
    for text in bill.missing:
        yield f"Not in the catalog, so not charged: {text}."


def core_items(plan: Plan) -> Iterator[Item]:
    """The old part with a deposit on it: sent, or the day it goes."""
    core = plan.job.hand_over.core
    if not plan.of(deposit):
        return
    settled = bool(core.sent or core.due) and bool(core.by.strip())
    yield Item(
        "core_back", TO_DO, "old part with its deposit: sent, or the day it goes back by",
        "hand_over", "hand_over.core", settled, core.by, holds=True,
    )  # fmt: skip

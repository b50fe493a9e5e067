"""Hand over: the owner taught, the record signed and sealed, the price to the cent."""

from __future__ import annotations

from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.hand_over import Signature
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import holds_signing, implied, refusals
from gentle_ember.core.shop import Shop, ShopFront
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.invoice import cents, deposit, invoice, money
from gentle_ember.core.stages.hand_over.record import RecordSection, Row, record
from gentle_ember.core.stages.hand_over.seals import (
    differences,
    drawn,
    faults,
    last_seal,
    seal_digest,
    sealed,
    sealed_now,
    unsealed,
    work,
)
from gentle_ember.core.stages.hand_over.teaching import drills
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound
from tests.helpers.technician import signature


def plan_of(job: Job, shop: Shop | None = None) -> Plan:
    return Plan(job, CATALOG, shop or Shop({}))


def written(before: Job, *changes: tuple[str, object]) -> Job:
    """A write with what it brings, as the store makes it; nothing is held against it here."""
    job = before
    for path, value in changes:
        job = put(job, path, value)
    for one in implied(before, plan_of(job)):
        job = put(job, one.path, one.value)
    return job


def both_sign(job: Job) -> Job:
    job = written(job, ("hand_over.technician", signature("Odo Marlin", work(job))))
    return written(job, ("hand_over.owner", signature("Ada Marsh", work(job))))


def said(before: Job, after: Job) -> dict[str, str]:
    return {one.path: one.text for one in refusals(before, plan_of(after))}


def test_the_second_signature_seals_what_both_signed_and_the_first_does_not():
    job = sound("spacer")
    one = written(job, ("hand_over.technician", signature("Odo Marlin", work(job))))
    assert one.hand_over.seals == {}
    two = written(one, ("hand_over.owner", signature("Ada Marsh", work(one))))
    seal = last_seal(two)
    assert (seal.number, seal.before, list(two.hand_over.seals)) == (1, "", ["r1"])
    assert seal.work == work(job) == work(two)
    assert seal.digest == seal_digest(seal)
    assert unsealed(seal.sections) == plan_of(job).of(record)
    assert sealed_now(plan_of(two))
    assert list(faults(two)) == []
    # Nothing more follows while nothing more is signed.
    assert written(two, ("owner", "somebody")).hand_over.seals == two.hand_over.seals


def test_a_later_change_leaves_the_seal_and_the_next_revision_says_what_differs():
    first = both_sign(sound("spacer"))
    later = put(first, "proof.lock_up.propane.by", "Tamsin Quay")
    assert not sealed_now(plan_of(later))
    text = [one.text for one in plan_of(later).of(holds_signing)["hand_over"]]
    assert "record of work changed since revision 1: signed again by both" in text
    half = written(later, ("hand_over.technician", signature("Odo Marlin", work(later))))
    assert last_seal(half).number == 1
    second = written(half, ("hand_over.owner", signature("Ada Marsh", work(half))))
    one, two = second.hand_over.seals["r1"], second.hand_over.seals["r2"]
    assert two.before == one.digest
    assert one == first.hand_over.seals["r1"]
    assert list(faults(second)) == []
    changed = differences(unsealed(one.sections), unsealed(two.sections))
    assert [(d.was.by, d.now.by, d.now.label) for d in changed] == [
        ("RK", "Tamsin Quay", "lock-up")
    ]


@pytest.mark.parametrize(
    ("spoil", "told"),
    [
        ({"strokes": [[500, 100]]}, "draw the name"),
        ({"strokes": [[500, at] for at in range(0, 300, 10)]}, "draw the name"),
        ({"strokes": [[at, 100, at, 100] for at in range(400, 450)]}, "draw the name"),
        ({"name": "  "}, "whose signature"),
        ({"of": "0" * 64}, "changed since it was shown"),
        ({"of": ""}, "changed since it was shown"),
    ],
)
def test_what_is_no_signature_under_this_record_is_refused_at_its_field(spoil, told):
    job = sound("spacer")
    after = put(job, "hand_over.owner", {**signature("Ada Marsh", work(job)), **spoil})
    assert told in said(job, after)["hand_over.owner"]
    assert implied(job, plan_of(after)) == ()


def test_a_torn_stroke_is_none():
    with pytest.raises(ValueError, match="torn"):
        Signature(name="x", strokes=((1, 2, 3),))
    with pytest.raises(ValueError):
        Signature(name="x", strokes=((1001, 2),))


def test_nobody_signs_while_a_stage_before_is_open_or_a_stop_stands():
    job = sound("spacer")
    after = put(job, "hand_over.owner", signature("Ada Marsh", work(job)))
    assert "Not signed while this is open" in said(job, after)["hand_over.owner"]
    # All but the signing itself holds it: that it is not sealed yet does not.
    open_ = said(job, after)["hand_over.owner"]
    assert "signed by technician and owner" not in open_
    unsigned = put(job, "hand_over.owner", {})
    assert "hand_over.owner" not in said(after, unsigned)


def taught(job: Job) -> Job:
    for one in plan_of(job).of(drills):
        done = {"state": "done", "by": "RK", "of": one.of, "seconds": 31}
        job = put(job, f"hand_over.drills.{one.key}", done)
    return job


def test_a_seal_is_neither_changed_nor_taken_out_nor_its_file_taken_from_under_it():
    photo = {"sha256": "a" * 64, "name": "stack.jpg", "media_type": "image/jpeg", "size": 9}
    job = both_sign(put(sound("spacer"), "attachments.p1", photo))
    assert last_seal(job).files == ("a" * 64,)
    gone = job.model_copy(update={
        "hand_over": job.hand_over.model_copy(update={"seals": {}})})  # fmt: skip
    assert "is sealed" in said(job, gone)["hand_over.seals.r1"]
    altered = put(job, "hand_over.seals.r1.technician.name", "somebody else")
    assert "is sealed" in said(job, altered)["hand_over.seals.r1"]
    assert "altered" in " ".join(faults(altered))
    without = job.model_copy(update={"attachments": {}})
    assert "under a seal, and stays" in said(job, without)["attachments.p1"]
    assert "1 of the files under revision 1 are gone" in list(faults(without))
    # The same photo at another place keeps it; one of the logbook is under no seal.
    moved = put(without, "attachments.p2", photo)
    assert "attachments.p1" not in said(job, moved)
    logged = put(job, "attachments.p3", {**photo, "sha256": "b" * 64, "subject": "logbook.runs.d1"})
    assert sealed_now(plan_of(logged))


def test_a_field_that_a_later_version_adds_breaks_no_seal():
    """New fields stand at their defaults; what stands there is not part of what was signed."""
    job = both_sign(sound("spacer"))

    class LaterJob(Job):
        added: str = ""
        listed: tuple[str, ...] = ()

    later = LaterJob.model_validate(job.model_dump())
    assert work(later) == work(job) and list(faults(later)) == []
    assert work(later.model_copy(update={"added": "something"})) != work(job)


def test_seals_out_of_order_or_of_another_chain_are_named():
    second = both_sign(put(both_sign(sound("spacer")), "owner", "Ferris Alder"))
    assert list(second.hand_over.seals) == ["r1", "r2"]
    only = second.hand_over.model_copy(update={"seals": {"r2": second.hand_over.seals["r2"]}})
    found = list(faults(second.model_copy(update={"hand_over": only})))
    assert found == ["revision 2 of its record does not follow the one before it"]


rows = st.builds(Row, st.sampled_from("abc"), st.sampled_from(["", "x", "y"]))
sections = st.lists(
    st.builds(RecordSection, st.sampled_from(["S", "T"]), st.lists(rows, max_size=4).map(tuple)),
    max_size=3,
)


@settings(max_examples=200)
@given(sections, sections)
def test_differences_are_all_and_only_what_differs(was, now):
    found = differences(was, now)
    assert differences(was, was) == ()
    assert len(found) == len(differences(now, was))

    def held(sections_: list[RecordSection]) -> set[tuple[str, Row]]:
        return {(one.title, row) for one in sections_ for row in one.rows}

    assert {(d.section, d.now) for d in found if d.now} == held(now) - held(was)
    assert {(d.section, d.was) for d in found if d.was} == held(was) - held(now)
    assert unsealed(sealed(now)) == tuple(now)


@given(
    st.lists(
        st.lists(st.integers(0, 1000), min_size=2, max_size=20).filter(lambda s: len(s) % 2 == 0),
        max_size=8,
    )
)
def test_a_name_goes_from_side_to_side(strokes):
    one = Signature(name="x", strokes=tuple(map(tuple, strokes)))
    wide = [x for stroke in strokes for x in stroke[::2]]
    assert drawn(one) is (len(wide) >= 8 and max(wide) - min(wide) >= 120)


def test_every_order_of_the_cards_is_taught_and_other_moves_are_taught_anew():
    job = sound("spacer")
    found = plan_of(job).of(drills)
    assert {one.key.split("-")[0] for one in found} == {"start", "stop", "store", "over"}
    assert not any(one.settled for one in found)
    done = taught(job)
    assert all(one.settled for one in plan_of(done).of(drills))
    key = found[0].key
    stale = put(done, f"hand_over.drills.{key}.of", "other moves")
    (again,) = [one for one in plan_of(stale).of(drills) if not one.settled]
    assert (again.key, again.stale) == (key, True)
    text = {one.label: one.text for section in plan_of(stale).of(record)
            if section.title == "Owner taught" for one in section.rows}  # fmt: skip
    assert text[found[0].name] == "done in 31 s, with other moves"


@pytest.mark.parametrize(
    ("left", "settled"),
    [
        ({"state": "left", "reason": "owner ill", "by": "RK"}, True),
        ({"state": "left", "reason": " ", "by": "RK"}, False),
        ({"state": "left", "reason": "owner ill"}, False),
        ({}, False),
    ],
)
def test_an_order_is_left_only_by_somebody_and_for_a_reason(left, settled):
    job = taught(sound("spacer"))
    key = plan_of(job).of(drills)[0].key
    plan = plan_of(put(job, f"hand_over.drills.{key}", left))
    assert plan.of(drills)[0].settled is settled
    held = [one.text for one in plan.of(holds_signing)["hand_over"] if "owner taught" in one.text]
    assert bool(held) is not settled


def test_an_old_part_with_money_on_it_holds_until_somebody_says_when_it_goes():
    job = sound("spacer")
    open_ = lambda job: [  # noqa: E731
        one for one in plan_of(job).of(holds_signing)["hand_over"] if "deposit" in one.text
    ]
    assert plan_of(job).of(deposit) == 0 and not open_(job)
    job = put(job, "hand_over.core", {"what": "old carburetor", "deposit": fact(45.0)})
    assert plan_of(job).of(deposit) == 45
    assert len(open_(job)) == len(open_(put(job, "hand_over.core.due", "2026-12-11"))) == 1
    assert len(open_(put(job, "hand_over.core.by", "RK"))) == 1
    told = put(put(job, "hand_over.core.by", "RK"), "hand_over.core.due", "2026-12-11")
    assert not open_(told)
    told = put(told, "hand_over.stays", "old jet, two washers")
    rows = {row.label: (row.text, row.by) for part in plan_of(told).of(record) for row in part.rows}
    assert rows["old part for its deposit"] == ("old carburetor: goes back by 2026-12-11", "RK")
    assert rows["stays with the owner"] == ("old jet, two washers", "")
    (line,) = [one for one in invoice(plan_of(told)).lines if one.kind == "deposit"]
    assert (line.amount, line.taxed) == (Decimal("45.00"), False)
    sent = put(told, "hand_over.core.sent", "2026-12-01")
    rows = {row.label: row.text for part in plan_of(sent).of(record) for row in part.rows}
    assert rows["old part for its deposit"] == "old carburetor: sent 2026-12-01"


FRONT = ShopFront(name="Weir Street Small Engines", rate=85.0, tax=0.0725)


def test_the_invoice_is_parts_work_and_what_is_besides_with_tax_on_what_is_taxed():
    job = put(sound("spacer"), "hand_over.invoice.hours", fact(4.25 * 3600))
    job = put(job, "hand_over.invoice.extras.x1", {"what": "permit", "each": fact(40.0),
                                                    "taxed": False})  # fmt: skip
    found = invoice(plan_of(job, Shop({}, FRONT)))
    by_kind = {kind: [one for one in found.lines if one.kind == kind]
               for kind in ("labor", "part", "extra")}  # fmt: skip
    (labor,) = by_kind["labor"]
    assert (labor.count, labor.amount) == (Decimal("4.3"), Decimal("365.50"))
    assert by_kind["extra"][0].amount == Decimal("40.00")
    parts = sum(one.amount for one in by_kind["part"])
    assert found.net == parts + Decimal("405.50")
    assert found.tax == cents(parts * Decimal("0.0725"))
    assert found.total == found.net + found.tax == found.due
    taxed = invoice(plan_of(job, Shop({}, FRONT.model_copy(update={"tax_labor": True}))))
    assert taxed.tax == cents((parts + Decimal("365.50")) * Decimal("0.0725"))
    part = by_kind["part"][0]
    left = put(job, "hand_over.invoice.without", [part.key])
    without = invoice(plan_of(left, Shop({}, FRONT)))
    assert without.net == found.net - part.amount
    paid = invoice(plan_of(put(job, "hand_over.invoice.paid", fact(100.0)), Shop({}, FRONT)))
    assert paid.due == found.total - 100
    own = put(put(job, "hand_over.invoice.rate", fact(90.0)), "hand_over.invoice.tax", fact(0.0))
    assert invoice(plan_of(own, Shop({}, FRONT))).tax == 0
    assert invoice(plan_of(own)).lacks == invoice(plan_of(own, Shop({}, FRONT))).lacks


def test_without_a_rate_no_work_is_charged_and_it_is_said():
    found = invoice(plan_of(sound("spacer")))
    assert not [one for one in found.lines if one.kind == "labor"]
    assert found.estimate is None
    assert any("rate an hour" in text for text in found.lacks)
    # Hours as the steps' own clock had them come before the method's usual.
    job = sound("spacer")
    clocked = sum(one.seconds for one in job.fit.steps.values() if one.state == "done")
    timed = invoice(plan_of(job, Shop({}, FRONT)))
    assert (timed.worked_s, timed.hours.value) == (clocked, clocked)
    assert timed.hours.origin is Origin.ASSUMED
    for key in job.fit.steps:
        job = put(job, f"fit.steps.{key}.seconds", 0)
    usual = invoice(plan_of(job, Shop({}, FRONT)))
    assert usual.worked_s is None
    assert usual.hours.value == usual.estimated_s
    assert usual.estimate == usual.total


@given(st.decimals(-1000, 1000, places=4))
def test_cents_are_half_up_on_either_side_of_nought(amount):
    scaled = amount.scaleb(4)
    steps, rest = divmod(abs(int(scaled)), 100)
    expected = steps + (rest >= 50)
    assert cents(amount) == Decimal(expected if amount >= 0 else -expected).scaleb(-2)


def test_money_reads_as_it_is_printed():
    shown = [money(Decimal(one), "$") for one in ("0", "1234567.5", "-0.004", "-12")]
    assert shown == ["$ 0.00", "$ 1,234,567.50", "$ 0.00", "−$ 12.00"]

"""Seals: the record of work as it was signed, which is never changed, only followed.

The moment both signatures stand under the same work, the record is sealed: its lines, the hashes
of its files, the signatures and the seal before it under one SHA-256. A later change leaves the
seal as it is and makes another revision, which says what differs.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Hashable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.base.cached import remember
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.hand_over import (
    HandOver,
    SealedRecord,
    SealedRow,
    SealedSection,
    Signature,
)
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import NOTED, Item, Plan, Refusal
from gentle_ember.core.stages.hand_over.record import RecordSection, Row, record

SIGNED_AT = {"technician": "hand_over.technician", "owner": "hand_over.owner"}
LEAST_PLACES, LEAST_WIDE = 8, 120
"""A signature has at least so many places, and is so wide [steps of the pad]: no dot, no dash."""


EVERYTHING: frozenset[str] = frozenset({"*"})


def _canonical(held: Any) -> str:
    return json.dumps(held, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def _digest(held: Any) -> str:
    return hashlib.sha256(_canonical(held).encode()).hexdigest()


def work(job: Job) -> str:
    """SHA-256 over everything of the job that the record tells of, photos by their own hashes.

    Left out: which site is looked at, whether it is archived, what is paid, the signatures and
    seals themselves, and what came after: the logbook with its photos. The same work gives the
    same on any machine, and in a later version, whose new fields nobody has filled in.
    """
    told = ((name, _told(type(job), name, getattr(job, name)))
            for name in sorted(type(job).model_fields))  # fmt: skip
    text = ",".join(f"{_canonical(name)}:{one}" for name, one in told if one)
    return hashlib.sha256(f"{{{text}}}".encode()).hexdigest()


LEFT_OUT: Mapping[str, frozenset[str]] = {
    "site": EVERYTHING, "archived": EVERYTHING, "logbook": EVERYTHING,
    "hand_over": frozenset({"invoice", "technician", "owner", "arrivals", "seals"}),
    "stages": frozenset({"hand_over", "logbook"}),
}  # fmt: skip
"""Fields of a job that its work leaves out, or what of them."""


def _same_field(kind: type[Job], name: str, value: object) -> Hashable:
    return kind, name, id(value)


def _told(kind: type[Job], name: str, value: object) -> str:
    """What the work holds of one field, as canonical JSON; empty where that is nothing."""
    return "" if LEFT_OUT.get(name) is EVERYTHING else _field(kind, name, value)[1]


@remember(512, _same_field)
def _field(kind: type[Job], name: str, value: object) -> tuple[object, str]:
    """The same, kept with the very object it was told of: most of a job stays as it is."""
    held: dict[str, Any] = {name: value}
    one = kind.model_construct(_fields_set={name}, **held)
    dumped = one.model_dump(mode="json", exclude_defaults=True, include={name}).get(name)
    left_out = LEFT_OUT.get(name, frozenset())
    if isinstance(dumped, dict):
        dumped = {key: held for key, held in dumped.items() if key not in left_out}
    if name == "attachments":
        # What came after counts for nothing, and neither does that it was begun.
        dumped = {key: held for key, held in (dumped or {}).items()
                  if not held.get("subject", "").startswith("logbook")}  # fmt: skip
    return value, _canonical(dumped) if dumped else ""


def seal_digest(seal: SealedRecord) -> str:
    """SHA-256 over all a seal holds but itself."""
    return _digest(seal.model_dump(mode="json", exclude_defaults=True, exclude={"digest"}))


def in_order(hand_over: HandOver) -> tuple[SealedRecord, ...]:
    """The revisions, the first one first."""
    return tuple(sorted(hand_over.seals.values(), key=lambda one: one.number))


def last_seal(job: Job) -> SealedRecord | None:
    """The newest revision; None while nothing is sealed."""
    return next(reversed(in_order(job.hand_over)), None)


def faults(job: Job) -> Iterator[str]:
    """What is wrong with the seals of a job: altered, out of order, a file gone from under one."""
    before, kept = "", {one.sha256 for one in job.attachments.values()}
    for at, one in enumerate(in_order(job.hand_over), 1):
        if one.digest != seal_digest(one):
            yield f"revision {one.number} of its record was altered after it was sealed"
        if one.number != at or one.before != before:
            yield f"revision {one.number} of its record does not follow the one before it"
        missing = [file for file in one.files if file not in kept]
        if missing:
            yield f"{len(missing)} of the files under revision {one.number} are gone"
        before = one.digest


def drawn(one: Signature) -> bool:
    """Whether something like a name was drawn, not a dot or a dash."""
    places = [stroke[at : at + 2] for stroke in one.strokes for at in range(0, len(stroke), 2)]
    wide = [x for x, _ in places]
    return len(places) >= LEAST_PLACES and max(wide) - min(wide) >= LEAST_WIDE


def stands(one: Signature, of: str) -> bool:
    """Whether a signature is whole and given for this work."""
    return bool(one.name.strip()) and one.of == of and drawn(one)


def sealed_now(plan: Plan) -> bool:
    """Whether the newest revision is the record of the work as it stands."""
    last = last_seal(plan.job)
    return last is not None and last.work == plan.of(work_here)


def work_here(plan: Plan) -> str:
    """SHA-256 of the work of the plan's job."""
    return work(plan.job)


def newly_signed(before: Job, plan: Plan) -> Iterator[str]:
    """Places of signatures that a write gives anew."""
    for who, path in SIGNED_AT.items():
        now, was = getattr(plan.job.hand_over, who), getattr(before.hand_over, who)
        if now != was and (now.strokes or now.of):
            yield path


def seal_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """A signature that is none or under other work, a seal altered, a file taken from under one."""
    now, was = plan.job.hand_over, before.hand_over
    if now == was and plan.job.attachments == before.attachments:
        return
    for path in newly_signed(before, plan):
        one: Signature = getattr(now, path.rpartition(".")[2])
        if not one.name.strip():
            yield Refusal(path, "Say whose signature it is.")
        elif not drawn(one):
            yield Refusal(path, "That is no signature: draw the name, from side to side.")
        elif one.of != plan.of(work_here):
            yield Refusal(path, "The record changed since it was shown: read it, then sign again.")
    for key, seal in was.seals.items():
        if now.seals.get(key) != seal:
            yield Refusal(
                f"hand_over.seals.{key}",
                f"Revision {seal.number} of the record is sealed: it can't be changed or taken "
                "back. Change the job and sign it again; that makes the next revision.",
            )
    under = {file for seal in now.seals.values() for file in seal.files}
    kept = {one.sha256 for one in plan.job.attachments.values()}
    for key, file in before.attachments.items():
        if file.sha256 in under and file.sha256 not in kept:
            yield Refusal(f"attachments.{key}", f"“{file.name}” is under a seal, and stays.")


def seals_follow(before: Job, plan: Plan) -> Iterator[Change]:
    """The seal that both signatures bring with them."""
    now = plan.job.hand_over
    if (now.technician, now.owner) == (before.hand_over.technician, before.hand_over.owner):
        return
    if not (now.technician.of and now.owner.of):
        return
    of = plan.of(work_here)
    if not (stands(now.technician, of) and stands(now.owner, of)):
        return
    last = last_seal(plan.job)
    if last is not None and (last.work, last.technician, last.owner) == (
        of, now.technician, now.owner,
    ):  # fmt: skip
        return
    seal = made(plan, now, of, last)
    yield Change(f"hand_over.seals.r{seal.number}", seal.model_dump(mode="json"))


def made(plan: Plan, now: HandOver, of: str, last: SealedRecord | None) -> SealedRecord:
    """The next revision."""
    files = sorted({
        one.sha256 for one in plan.job.attachments.values()
        if not one.subject.startswith("logbook")
    })  # fmt: skip
    seal = SealedRecord(
        number=last.number + 1 if last else 1, work=of, sections=sealed(plan.of(record)),
        files=tuple(files), technician=now.technician, owner=now.owner,
        before=last.digest if last else "", digest="",
    )  # fmt: skip
    return seal.model_copy(update={"digest": seal_digest(seal)})


def sealed(sections: Iterable[RecordSection]) -> tuple[SealedSection, ...]:
    """The record as it is kept."""
    return tuple(
        SealedSection(
            title=section.title,
            rows=tuple(
                SealedRow(label=row.label, text=row.text, value=row.value, kind=row.kind,
                          by=row.by)
                for row in section.rows
            ),
        )
        for section in sections
    )  # fmt: skip


def unsealed(sections: Iterable[SealedSection]) -> tuple[RecordSection, ...]:
    """A kept record as it is printed."""
    return tuple(
        RecordSection(
            section.title,
            tuple(Row(row.label, row.text, row.value, row.kind, row.by) for row in section.rows),
        )
        for section in sections
    )


@dataclass(frozen=True, slots=True)
class Differs:
    """A line that differs between two revisions; one of the two is None where it is new or gone."""

    section: str
    was: Row | None
    now: Row | None


def differences(was: Iterable[RecordSection], now: Iterable[RecordSection]) -> tuple[Differs, ...]:
    """What differs between two records, line by line, the order within a section aside."""
    found: list[Differs] = []
    older, newer = _by_label(was), _by_label(now)
    for place in dict.fromkeys((*older, *newer)):
        a, b = older.get(place, []), newer.get(place, [])
        gone = [row for row in a if row not in b]
        fresh = [row for row in b if row not in a]
        for at in range(max(len(gone), len(fresh))):
            found.append(Differs(
                place[0], gone[at] if at < len(gone) else None,
                fresh[at] if at < len(fresh) else None,
            ))  # fmt: skip
    return tuple(found)


def _by_label(sections: Iterable[RecordSection]) -> dict[tuple[str, str], list[Row]]:
    found: dict[tuple[str, str], list[Row]] = {}
    for section in sections:
        for row in section.rows:
            found.setdefault((section.title, row.label), []).append(row)
    return found


def seal_items(plan: Plan) -> Iterator[Item]:
    """The record signed by both, and sealed as it stands."""
    last = last_seal(plan.job)
    text = "record of work signed by technician and owner"
    if last is not None and not plan.of(sealed_now):
        text = f"record of work changed since revision {last.number}: signed again by both"
    yield Item(
        "sealed", NOTED, text, "hand_over", "hand_over.technician", plan.of(sealed_now), holds=True
    )

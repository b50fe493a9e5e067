"""The record of work: what was there, what was done to it, how it was proven, who signed.

Everything in it is read off the job; what is not there is said to be missing, never left out.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.facts import Fact, blank
from gentle_ember.core.job.job import Confirmation, Job, StageState, step_done
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import gas_metering
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.core.stages.fit.holds import evidence
from gentle_ember.core.stages.fit.steps.mounts import way_step
from gentle_ember.core.stages.fuel_path.stack import stack_view
from gentle_ember.core.stages.fuel_path.trains import parts_of, trains_to_build
from gentle_ember.core.stages.hand_over.teaching import drills
from gentle_ember.core.stages.load_test.plug import CHART
from gentle_ember.core.stages.load_test.tests import load_tests_here
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.ways import ways
from gentle_ember.core.stages.prove_tight.pressures import inlet_pressures
from gentle_ember.core.stages.prove_tight.proof import GasProof, tightness

MISSING = "not noted"
AFTER = frozenset(("hand_over", "logbook"))
"""Stages that come after the record: their signatures do not stand in it."""
UNDOING = {str(key): text for key, text in CHOICES["undoing"]}
REMEDIED = {"none": "left", "move": "moved", "replace": "replaced", "cut": "cut"}
LOOKED_WITH = {str(key): text for key, text in CHOICES["looked_with"]}
STANDS = {
    "tight": "tight", "leaks": "LEAKS", "fitter": "fitter's own test", "void": "not tested since "
    "it was made", "open": "not tested", "awaits_fitter": "waits for the fitter's test",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Row:
    """One line: what, and its words; or a value [SI] of a kind, to be shown in the reader's
    units."""

    label: str
    text: str = ""
    value: float | None = None
    kind: str = ""
    by: str = ""


@dataclass(frozen=True, slots=True)
class RecordSection:
    """A heading and its lines."""

    title: str
    rows: tuple[Row, ...]


def record(plan: Plan) -> tuple[RecordSection, ...]:
    """The whole record, section by section."""
    made = (
        RecordSection("Generator", tuple(_set(plan.job))),
        RecordSection("Work", tuple(_work(plan))),
        RecordSection("Stack at the carburetor, from the air cleaner in", tuple(_stack(plan.job))),
        *(_train(plan, fuel) for fuel in plan.of(trains_to_build)),
        *(_proof(plan, one) for one in plan.of(tightness)),
        RecordSection("First starts", tuple(_starts(plan))),
        RecordSection("Settings", tuple(_settings(plan))),
        RecordSection("Load tests", tuple(_loads(plan))),
        RecordSection("Set differently, by whom and why", tuple(_otherwise(plan.job))),
        RecordSection("Stages signed", tuple(_signed(plan.job))),
        RecordSection("Owner taught", tuple(_taught(plan))),
        RecordSection("Notes at parts", tuple(_noted(plan))),
        RecordSection("Photos asked for", tuple(_photos(plan))),
        RecordSection("Photos and files", tuple(
            Row(one.name, f"{one.sha256[:16]}…") for one in plan.job.attachments.values()
        )),
    )  # fmt: skip
    return tuple(one for one in made if one.rows)


def _said(label: str, text: str, by: str = "") -> Row:
    return Row(label, text.strip() or MISSING, by=by)


def _fact(label: str, fact: Fact | None, kind: str, by: str = "") -> Row:
    return Row(label, MISSING, by=by) if fact is None else Row(label, "", fact.value, kind, by)


def _set(job: Job) -> Iterator[Row]:
    machine = job.set
    yield _said("maker and model", f"{machine.maker} {machine.model}")
    yield _said("serial number", machine.serial)
    yield _said("frame number", machine.frame_number)
    yield _said("engine number", machine.engine_number)
    yield _fact("running rating", machine.running, "power")
    yield _fact("displacement", machine.displacement, "displacement")
    yield _fact("hours run", machine.hours, "duration")
    yield _said("owner", job.owner)
    for site in job.sites.values():
        yield _fact(f"elevation of {site.name or 'the site'}", site.elevation, "elevation")


def _settled_ways(plan: Plan) -> Iterator[Row]:
    by = plan.job.ways.by
    for one in plan.of(ways):
        if one.chosen:
            name = one.dispute.name
            yield Row(name[0].lower() + name[1:], one.said.name, by=by)
    if plan.job.ways.reason.strip():
        yield Row("why so", plan.job.ways.reason, by=by)


def _changed_on_it(job: Job) -> Iterator[Row]:
    """What was left on the machine, and what stood in the way, with whether it can be undone."""
    for hole in job.fit.left.values():
        yield Row(f"left on the machine ({hole.kind})", hole.what, by=hole.by)
    for key, one in job.set.in_the_way.items():
        if step_done(job, way_step(key)):
            what = f"{one.name or one.what.replace('_', ' ')}, {REMEDIED[one.remedy]}"
            by = job.fit.steps[way_step(key)].by
            yield Row("was in the way", f"{what}: {UNDOING[one.undo]}", by=by)


def _work(plan: Plan) -> Iterator[Row]:
    job = plan.job
    for one in plan.of(judged_methods).chosen:
        yield Row("method", one.school.name, by=job.choice.by)
    if job.choice.reason.strip():
        yield Row("why", job.choice.reason)
    yield from _settled_ways(plan)
    jets = job.set.carburetor.jets
    yield _fact("main jet, stamped", jets.stamped.number, "count")
    if jets.fitted.number is not None:
        yield _fact("main jet in it now", jets.fitted.number, "count")
    for key, title in (("fitter", "fitter's license and permit"), ("utility", "utility")):
        seen = job.confirmed.get(key, blank(Confirmation))
        if seen.done:
            yield Row(title, seen.number or "confirmed", by=seen.by)
    yield from _changed_on_it(job)
    for back in job.fit.back.values():
        given = "given back" if back.back else "to be given back"
        yield Row(f"goes to the {back.to}", f"{back.what} {back.tag}: {given}", by=back.by)
    core = job.hand_over.core
    if core.sent or core.due:
        what = f"{core.what.strip()}: " if core.what.strip() else ""
        when = f"sent {core.sent}" if core.sent else f"goes back by {core.due}"
        yield Row("old part for its deposit", what + when, by=core.by)
    if job.hand_over.stays.strip():
        yield Row("stays with the owner", job.hand_over.stays.strip())


def _stack(job: Job) -> Iterator[Row]:
    """Layers the conversion adds, and those that were measured."""
    for one in stack_view(job).layers:
        if one.thickness_m is None:
            if one.new:
                yield Row(f"{one.name}, added", "in its place")
        elif one.new or one.origin is not Origin.ASSUMED:
            doubt = ", assumed" if one.origin is Origin.ASSUMED else ""
            name = f"{one.name}, added{doubt}" if one.new else one.name
            yield Row(name, "", one.thickness_m, "small_length")


def _train(plan: Plan, fuel: str) -> RecordSection:
    section = plan.of(trains_to_build)[fuel]
    rows = [
        Row(one.part.number if one.part else "?",
            one.part.name if one.part else one.slot.unknown or MISSING)
        for one in section.case.parts
    ]  # fmt: skip
    return RecordSection(
        f"{NAMES[FuelKey(fuel)].capitalize()} train, source to engine", tuple(rows)
    )


def _proof(plan: Plan, proof: GasProof) -> RecordSection:
    rows: list[Row] = []
    if proof.fuel != FuelKey.GASOLINE:
        rows.append(Row("checked with", LOOKED_WITH[proof.how.by]))
        rows.append(_fact("air at the test", proof.how.air, "temperature"))
        rows.append(_said("gauge", proof.how.gauge))
    for zone in proof.zones:
        for joint in zone.joints:
            state = joint.state
            rows.append(Row(state.joint.title, STANDS[joint.stands], by=state.tight.by))
        if zone.decay is not None:
            rows.append(Row(f"pressure test, {zone.name.lower()}", str(zone.decay.tells)))
            rows.append(Row("leak by it", "", zone.decay.leak.value, "leak"))
    if proof.locks:
        state_ = {"still": "film stood still", "grows": "PASSES GAS"}.get(proof.lock_up.state, "")
        rows.append(_said("lock-up", state_, proof.lock_up.by))
    inlet = plan.of(inlet_pressures).get(proof.fuel)
    if inlet is not None:
        for name, fact in (
            ("at no flow", inlet.read.static),
            ("five minutes later", inlet.read.later),
            ("at full load", inlet.read.full),
        ):
            rows.append(_fact(f"inlet pressure {name}", fact, "pressure", inlet.read.by))
    return RecordSection(f"{proof.name.capitalize()}: proven tight", tuple(rows))


def _starts(plan: Plan) -> Iterator[Row]:
    for one in plan.of(first_starts):
        if not one.holds and not one.log.attempts:
            continue
        tries = list(one.log.attempts.values())
        last = tries[-1] if tries else None
        text = f"{last.result} at try {len(tries)}, {last.on[:10]}" if last else MISSING
        yield Row(f"{one.name}: first start", text, by=last.by if last else "")
        for look, seen in one.looks:
            if look.when == "after":
                yield Row(f"{one.name}: {look.text}", seen.state or MISSING, by=seen.by)


def _settings(plan: Plan) -> Iterator[Row]:
    job = plan.job
    by_jet = {one.key: one for one in plan.of(gas_metering) if one.jet is not None}
    for key, one in job.metering.items():
        site, _, fuel = key.rpartition("-")
        where = job.sites[site].name if site in job.sites else site
        if (gas := by_jet.get(key)) is not None and gas.jet is not None:
            read = gas.jet_read
            name = f"gas jet, {fuel.replace('_', ' ')}, {where or 'the site'}"
            yield _said(name, gas.jet.part.name, read.by if read else "")
            if read is not None and read.lam is not None:
                yield _fact(f"{name}: λ under load", read.lam, "ratio", read.by)
            continue
        name = f"load screw, {fuel.replace('_', ' ')}, {where or 'the site'}"
        yield _fact(name, one.locked, "turns", one.locked_by)
        for side, fact in (("idle screw", one.idle), ("left", one.left), ("right", one.right)):
            if fact is not None:
                yield _fact(f"{name}: {side}", fact, "turns", one.locked_by)
        if one.seat:
            yield _said(f"{name}: counted from", one.seat, one.locked_by)


def _loads(plan: Plan) -> Iterator[Row]:
    for one in plan.of(load_tests_here):
        last = one.last
        if last is None:
            if one.holds:
                yield Row(f"{one.name}: load test", MISSING)
            continue
        yield Row(f"{one.name}: at load", "", last.seconds, "minutes")
        yield Row(f"{one.name}: estimated here", "", one.expected.value, "power")
        held = last.held
        yield Row(f"{one.name}: held", "" if held else MISSING,
                  held.value if held else None, "power")  # fmt: skip
        yield _fact(f"{one.name}: most it held, throttle open", last.record.held, "power")
        looked = last.record.plug
        looks = next((found.name.lower() for found in CHART if found.key == looked.after), "")
        yield _said(f"{one.name}: plug", looks, looked.by)
        yield _said(f"{one.name}: decided", last.record.decided.what, last.record.decided.by)


def _otherwise(job: Job) -> Iterator[Row]:
    for site in job.sites.values():
        for fact, what, why, by in (
            (site.least_opening, "least distance to openings", site.least_opening_why,
             site.least_opening_by),
            (site.least_cylinder, "least distance to a cylinder", site.least_cylinder_why,
             site.least_cylinder_by),
        ):  # fmt: skip
            if fact is not None:
                yield _fact(f"{what}, {site.name or 'the site'}", fact, "length", by)
                yield _said("because", why)
    for key, stage in job.stages.items():
        if stage.state is StageState.LEFT_OUT:
            yield Row(f"left out on purpose: {key.replace('_', ' ')}", stage.note, by=stage.by)
    for key, step in job.fit.steps.items():
        if step.state == "skipped":
            yield Row(f"step not done: {step.what or key}", step.reason or MISSING, by=step.by)


def _noted(plan: Plan) -> Iterator[Row]:
    """What was noted at a part of a train, with how many photos hang there."""
    parts = parts_of(plan.job, plan.catalog)
    taken = Counter(one.subject for one in plan.job.attachments.values())
    called = {str(fuel): text for fuel, text in NAMES.items()} | {AS_FOUND: "as found"}
    for name, train in plan.job.trains.items():
        where = called.get(name, name).capitalize()
        for key, slot in train.slots.items():
            photos = taken[f"trains.{name}.slots.{key}"]
            if not slot.note.strip() and not photos:
                continue
            part = parts.get(slot.part)
            what = part.name if part else slot.unknown or "a part nobody knows"
            told = [slot.note.strip(), f"{photos} {'photo' if photos == 1 else 'photos'}"]
            yield Row(f"{where}: {what}", "; ".join(filter(None, told if photos else told[:1])))


def _photos(plan: Plan) -> Iterator[Row]:
    said = plan.job.confirmed.get("photos", blank(Confirmation))
    for one in plan.of(evidence):
        if one.missing:
            yield Row(one.shows, said.number.strip() or "NONE TAKEN", by=said.by)
        else:
            yield Row(one.shows, str(one.taken) if one.taken else one.why_none)


def _signed(job: Job) -> Iterator[Row]:
    for key, stage in job.stages.items():
        if stage.state is StageState.DONE and key not in AFTER:
            yield Row(key.replace("_", " ").capitalize(), stage.on or MISSING, by=stage.by)


def _taught(plan: Plan) -> Iterator[Row]:
    for one in plan.of(drills):
        record = one.record
        if record.state == "done":
            wrong = f", {record.wrong} wrong first" if record.wrong else ""
            text = f"done in {record.seconds} s{wrong}" if record.seconds else f"done{wrong}"
            yield Row(one.name, text + (", with other moves" if one.stale else ""), by=record.by)
        elif record.state == "left":
            yield Row(one.name, f"not done: {record.reason.strip() or MISSING}", by=record.by)
        else:
            yield Row(one.name, "not done")

"""The fit sheet, its lists and the marks as JSON, lengths within sentences in both systems."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from gentle_ember.core.job.ends import SEALING
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.lists import comes_back, fastener_map, to_take
from gentle_ember.core.stages.fit.marks.mount import MOUNTED, MountPlan, mount_plans, mountable
from gentle_ember.core.stages.fit.marks.place import CLEARANCES_M, NAMES, OTHER_M, box_of
from gentle_ember.core.stages.fit.sheet import JointState, SheetStep, fit_sheet, joint_key
from gentle_ember.core.stages.fit.smell import drill
from gentle_ember.core.stages.fit.step import Measure
from gentle_ember.core.stages.fit.times import Learned, minutes
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.trains import FUEL_WORDS, job_trains, parts_of
from gentle_ember.units.display import show_value, tape
from gentle_ember.units.registry import System
from gentle_ember.web.present import SYSTEMS, both, figure

Json = dict[str, Any]
_SAID = re.compile(r"⟨([-0-9.e]+) (\w+)⟩")


def said(text: str) -> Json:
    """A sentence in both systems, the lengths it holds in each one's units."""
    return {system: _said(text, system) for system in SYSTEMS}


def _said(text: str, system: System) -> str:
    def shown(found: re.Match[str]) -> str:
        return " ".join(show_value(float(found[1]), found[2], system)).strip()

    return _SAID.sub(shown, text)


def fit(planned: Plan, learned: Mapping[str, Learned]) -> Json:
    """The sheet with its lists."""
    found = planned.of(fit_sheet)
    photos: dict[str, list[str]] = {}
    for key, entry in planned.job.attachments.items():
        if entry.subject.startswith("fit."):
            photos.setdefault(entry.subject, []).append(key)
    parts = parts_of(planned.job, planned.catalog)
    names = {key: f"{part.number} {part.name}" for key, part in parts.items()}
    return {
        "steps": [_step(one, learned, names, photos) for one in found.steps],
        "next": found.next.step.key if found.next else "",
        "done": len(found.steps) - len(found.open),
        "total": len(found.steps),
        "whole": figure(found.whole(learned)) if found.steps else None,
        "left": figure(found.left(learned)) if found.steps else None,
        "undone": [
            {"key": one.key, "what": one.what, "by": one.record.by, "on": one.record.on}
            for one in found.undone
        ],
        "joints": [_joint(one) for one in found.joints],
        "take": [
            {**asdict(one), "packed": one.packed.done, "by": one.packed.by}
            for one in to_take(found, planned.of(parts_list))
        ],
        "fasteners": [
            {"key": one.key, "where": one.where, "note": one.note} for one in fastener_map(found)
        ],
        "back": [
            {"key": one.key, "what": one.what, "why": one.why} for one in comes_back(found.case)
        ],
        "photos": photos,
    }


def _step(
    one: SheetStep,
    learned: Mapping[str, Learned],
    names: Mapping[str, str],
    photos: Mapping[str, list[str]],
) -> Json:
    step = one.step
    held = learned.get(step.kind, Learned())
    return {
        "key": step.key, "kind": step.kind, "phase": str(step.phase), "place": str(step.place),
        "state": one.state, "held": said(one.held), "must": step.must, "waits": list(one.waits),
        "what": said(step.what), "why": said(step.why), "caution": said(step.caution),
        "good": said(step.good), "bad": said(step.bad), "photo": step.photo,
        "photos": len(photos.get(f"fit.steps.{step.key}", ())),
        "tools": list(step.tools), "takes": list(step.takes),
        "parts": [names.get(key, key) for key in step.parts],
        "joint": step.joint, "fuel": _fuel(step.fuel),
        "measures": [_measure(measure) for measure in step.measures],
        "torque": None if step.torque is None else {
            **{system: _torque(step.torque.low_nm, step.torque.high_nm, system)
               for system in SYSTEMS},
            "source": step.torque.source,
        },
        "secured": str(step.secured) if step.secured else "",
        "minutes": round(minutes(step.minutes, held), 1), "learned": held.count,
        "opens": bool(step.back), "subject": step.subject,
    }  # fmt: skip


def _fuel(key: str) -> str:
    return FUEL_WORDS[FuelKey(key)] if key else ""


def _torque(low: float, high: float, system: System) -> str:
    ends = [show_value(value, "torque", system, 3) for value in (low, high)]
    text = ends[0][0] if low == high else f"{ends[0][0]}–{ends[1][0]}"
    return f"{text} {ends[0][1]}"


def _measure(one: Measure) -> Json:
    shown: Json = both(one.value, one.kind)
    if one.draw == "offset":
        shown = {system: tape(one.value, system) for system in SYSTEMS}
    return {
        "label": one.label, **shown, "value": one.value, "draw": one.draw,
        "tolerance": one.tolerance,
    }  # fmt: skip


def _joint(one: JointState) -> Json:
    how = SEALING[one.joint.seal]
    return {
        "key": joint_key(one.joint.key), "fuel": _fuel(one.joint.fuel),
        "title": one.joint.title, "letter": how.letter, "seal": how.name, "step": one.step,
        "made": one.made, "fitter": one.joint.fitter, "on_day": one.joint.on_day,
        "passed": one.passed, "void": one.void, "by": one.tight.by, "on": one.tight.on,
        "subject": one.subject,
    }  # fmt: skip


def marks(planned: Plan) -> Json:
    """Mounts worked out, and parts that still want one."""
    placed = {one.part.key for one in planned.of(mount_plans) if one.part is not None}
    wanting = {
        part.key: part
        for one in planned.of(job_trains).values()
        for _, _, part in one.case.of(*MOUNTED)
        if mountable(part) and part.key not in placed
    }
    return {
        "mounts": [_mount(one) for one in planned.of(mount_plans)],
        "wanting": [{"part": part.key, "name": part.name, "number": part.number}
                    for part in wanting.values()],
        "things": [
            {"kind": kind, "name": name,
             **both(CLEARANCES_M.get(kind, OTHER_M), "small_length")}
            for kind, name in NAMES.items()
        ],
    }  # fmt: skip


def _mount(one: MountPlan) -> Json:
    mount, shape = one.mount, one.shape
    return {
        "key": one.key,
        "name": mount.name,
        "part": f"{one.part.number} {one.part.name}" if one.part else "",
        "ready": one.ready,
        "drilled": one.drilled,
        "missing": [{"text": text, "path": path} for text, path in one.missing],
        "stops": [{"text": text, "path": path} for text, path in one.stops],
        "blockers": [
            {"what": b.what, "why": b.why, "path": b.path, **both(b.short_m, "small_length")}
            for b in one.blockers
        ],
        "wide_m": mount.wide.value if mount.wide else None,
        "high_m": mount.high.value if mount.high else None,
        "center": list(one.center) if one.center else None,
        "computed": mount.left is None or mount.up is None,
        "body": [shape.across_m, shape.up_m] if shape else None,
        "wrench_m": shape.wrench_m if shape else None,
        "needs_behind": both(shape.behind_m, "small_length") if shape else None,
        "holes": [
            {
                "name": hole.name, "x_m": hole.x_m, "y_m": hole.y_m,
                "diameter_m": hole.diameter_m, "size": f"{hole.diameter_m * 1e3:.3g} mm",
                "across": _offset(hole.across), "upright": _offset(hole.upright),
            }
            for hole in one.holes
        ],
        "obstacles": [
            {"key": key, "kind": thing.kind, "name": thing.name or NAMES[thing.kind],
             "side": thing.side, "box": list(box)}
            for key, thing in mount.obstacles.items()
            if (box := box_of(thing)) is not None
        ],
        "room": figure(one.room) if one.room else None,
        "tightest": one.tightest,
        "bolt": figure(one.bolt) if one.bolt else None,
        "thread": one.thread.name if one.thread else "",
        "wrench": one.thread.wrench if one.thread else "",
        "play": both(one.thread.play_m, "small_length") if one.thread else None,
        "passes": [
            {"bit": cut.bit, "size": f"{cut.diameter_m * 1e3:.3g} mm", "do": cut.do}
            for cut in one.passes
        ],
        "depth": both(one.depth.stop_m, "small_length") if one.depth.stop_m else None,
        "behind": one.behind,
        "thick": both(one.thick_m, "small_length"),
    }  # fmt: skip


def _offset(found: tuple[str, float] | None) -> Json | None:
    if found is None:
        return None
    return {"edge": found[0], **{system: tape(found[1], system) for system in SYSTEMS}}


def lengths(found: MountPlan, system: System) -> dict[str, str]:
    """Distances of each hole in words, for the printed template."""
    words = {}
    for hole in found.holes:
        ends = [
            f"{tape(one[1], system)} from the {one[0]} edge"
            for one in (hole.across, hole.upright)
            if one is not None
        ]
        words[hole.name] = ", ".join(ends)
    return words


def smell(planned: Plan) -> Json:
    """What to do when gas is smelled; with every answer, for it is one press away everywhere."""
    found = planned.of(drill)
    return {
        "at_once": [{"key": key, "text": text} for key, text in found.at_once],
        "next": list(found.next),
    }

"""How far the demo's sets are fitted: faces measured, steps ticked, what was found on the way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.demo.steps import Step, measured

PACE = (1.1, 0.8, 1.3, 0.95, 1.2, 0.9, 1.05)
"""How the shop's own times differ from the book's, step after step."""


@dataclass(frozen=True, slots=True)
class DemoFit:
    """Faces by class of the part that goes on them; steps done, by whom, on which day."""

    faces: dict[str, tuple[PartClass, dict[str, Any]]] = field(default_factory=dict)
    by: str = ""
    day: str = ""
    up_to: str = ""
    """The first step still open; empty when all are done."""
    notes: dict[str, Any] = field(default_factory=dict)

    def steps(self, job: Job, catalog: Catalog) -> Iterator[dict[str, Step]]:
        """The faces, as changes."""
        for key, (kind, facts) in self.faces.items():
            found = next(
                (slot.part for train in job.trains.values() for slot in train.slots.values()
                 if slot.part in catalog.parts and catalog.parts[slot.part].kind is kind), "",
            )  # fmt: skip
            plain = {name: value for name, value in facts.items() if "." not in name
                     and not isinstance(value, tuple)}  # fmt: skip
            yield {f"marks.{key}": {"part": found, **plain}}
            yield {
                f"marks.{key}.{name}": value
                for name, value in facts.items()
                if isinstance(value, tuple)
            }

    def ticked(self, job: Job, catalog: Catalog) -> dict[str, Step]:
        """The steps done so far, with the shop's times."""
        if not self.by:
            return {}
        done: dict[str, Step] = {}
        at = 9 * 3600.0
        for number, one in enumerate(plan(job, catalog).of(fit_sheet).steps):
            step = one.step
            if step.key == self.up_to:
                break
            seconds = round(60 * step.minutes * PACE[number % len(PACE)])
            at += seconds
            done[f"fit.steps.{step.key}"] = {
                "state": "done", "by": self.by, "seconds": seconds, "of": step.subject,
                "what": step.what.split("⟨")[0],
                "on": f"{self.day}T{int(at // 3600):02d}:{int(at % 3600 // 60):02d}:00Z",
            }  # fmt: skip
        closed = {"fit.gaskets": "new", "fit.nuts": "full"} if not self.up_to else {}
        return done | closed | self.notes


def panel(wide: str, high: str, thick: str, room: str, **more: Any) -> dict[str, Any]:
    """A panel as measured."""
    return {
        "face": "panel", "layers": {"l1": {"material": "steel"}}, **more,
        "wide": measured(wide), "high": measured(high), "layers.l1.thickness": measured(thick),
        "room": measured(room),
    }  # fmt: skip


def thing(
    kind: str, side: str, left: str, up: str, wide: str, high: str, away: str = ""
) -> tuple[dict[str, Any], dict[str, Any]]:
    """Something on a face: its plain facts and its measures."""
    spans = {"left": left, "up": up, "wide": wide, "high": high}
    if away:
        spans["away"] = away
    return {"kind": kind, "side": side}, {name: measured(text) for name, text in spans.items()}


def with_things(
    face: dict[str, Any], **things: tuple[dict[str, Any], dict[str, Any]]
) -> dict[str, Any]:
    """A face with what is before and behind it."""
    measures = {
        f"obstacles.{key}.{name}": value
        for key, (_, spans) in things.items()
        for name, value in spans.items()
    }
    return {**face, "obstacles": {key: plain for key, (plain, _) in things.items()}, **measures}


FITS: dict[str, DemoFit] = {
    "lambing": DemoFit(
        {
            "regulator": (
                PartClass.DEMAND,
                with_things(
                    panel("420 mm", "260 mm", "1.2 mm", "60 mm", name="left panel",
                          hooks=["left", "bottom"]),
                    tank=thing("tank", "behind", "0 mm", "150 mm", "260 mm", "110 mm", "10 mm"),
                    handle=thing("handle", "front", "0 mm", "230 mm", "420 mm", "30 mm", "0 mm"),
                    exhaust=thing("exhaust", "front", "400 mm", "20 mm", "20 mm", "90 mm", "0 mm"),
                    leads=thing("wiring", "behind", "40 mm", "10 mm", "25 mm", "240 mm", "4 mm"),
                ),
            ),
        },
    ),
    "library": DemoFit(
        {
            "regulator": (
                PartClass.DEMAND,
                with_things(
                    panel("520 mm", "240 mm", "2.5 mm", "85 mm", name="rear cross-member"),
                    wheel=thing("wheel", "front", "430 mm", "0 mm", "90 mm", "180 mm", "0 mm"),
                    plug=thing("plug", "front", "0 mm", "160 mm", "60 mm", "60 mm", "20 mm"),
                ),
            ),
        },
        "Tamsin Quay",
        "2026-11-24",
        "tee_branch",
        {
            "fit.finds.f1": {
                "what": "Heat shield behind the rear cross-member loose, one rivet gone.",
                "step": "behind-regulator", "decision": "go_on",
                "reason": "Riveted again while it was open.", "by": "Tamsin Quay",
                "on": "2026-11-24T10:20:00Z",
            },
            "fit.fasteners.air_cleaner_off": {
                "count": 4, "size": "M6 nuts", "first": "the pair nearest the block",
                "hidden": "one under the breather clip", "secured": "torque",
            },
        },
    ),
    "stars": DemoFit({}, "Runa Kestle", "2026-11-18"),
    "choir": DemoFit({}, "Runa Kestle", "2026-10-20"),
    "ferry": DemoFit({}, "Odo Marlin", "2026-05-11"),
}  # fmt: skip

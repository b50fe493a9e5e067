"""What was handed over: the owner taught, told and charged, the record signed and sealed."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.hand_over.seals import work
from gentle_ember.core.stages.hand_over.teaching import drills
from gentle_ember.demo.steps import Step, done, measured


@dataclass(frozen=True, slots=True)
class DemoHandOver:
    """Who handed it over to whom on which day, and the invoice."""

    by: str
    owner: str
    day: str
    invoice: str
    hours: str

    def told(self, job: Job, catalog: Catalog) -> dict[str, Step]:
        """As one change: every order done by the owner, what was told, what it came to."""
        seen: dict[str, Step] = {
            f"confirmed.{key}": {"done": True, "by": self.by, "number": number}
            for key, number in (
                ("photos", "On paper, in the folder."), ("lash", ""), ("oil", ""), ("road_gas", ""),
            )
        }  # fmt: skip
        for number, one in enumerate(plan(job, catalog).of(drills)):
            seen[f"hand_over.drills.{one.key}"] = {
                "state": "done", "seconds": 6 * len(one.lines) + 3 * (number % 4),
                "wrong": int(number == 2), "of": one.of, "by": self.by,
                "on": f"{self.day}T10:{10 + number:02d}:00Z",
            }  # fmt: skip
        return {
            **seen,
            "hand_over.stays": "Both fuel caps, spare plug, the old label.",
            "hand_over.invoice.number": self.invoice,
            "hand_over.invoice.on": self.day,
            "hand_over.invoice.hours": measured(self.hours),
        }

    def signed(self, job: Job, who: str) -> dict[str, Step]:
        """One of the two signatures, under the record as it stands."""
        name = self.by if who == "technician" else self.owner
        mark = {"name": name, "on": f"{self.day}T11:00:00Z", "of": work(job),
                "strokes": _scrawl(name)}  # fmt: skip
        return {f"hand_over.{who}": mark}

    def closed(self) -> dict[str, Step]:
        """The stage signed off."""
        return {"stages.hand_over": done(self.by, self.day)}


def _scrawl(name: str) -> list[list[int]]:
    """A made-up signature: each word a wave of its own height, underlined."""
    strokes: list[list[int]] = []
    at = 90.0
    for word in name.split():
        line: list[int] = []
        for n in range(6 * len(word)):
            high = 90 if n < 5 else 34 + 9 * (ord(word[n // 6]) % 5)
            line += [round(at + 8 * math.sin(1.3 * n)), round(165 - high * math.sin(0.9 * n))]
            at += 9
        strokes.append(line)
        at += 40
    return [*strokes, [80, 232, round(min(at, 960.0)), 222]]


def handing(demo: DemoHandOver, job: Any, catalog: Catalog) -> Iterator[dict[str, Step]]:
    """Every step of it, each from the job as it stands by then; `job` gives that."""
    yield demo.told(job(), catalog)
    yield demo.signed(job(), "technician")
    yield demo.signed(job(), "owner")
    yield demo.closed()


HANDED: dict[str, DemoHandOver] = {
    "ferry": DemoHandOver("Odo Marlin", "Jory Pell", "2026-05-14", "2026-031", "3.4 h"),
}

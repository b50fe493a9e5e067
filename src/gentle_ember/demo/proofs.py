"""How the demo's trains were proven tight: every joint soaped, one leak found and mended."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.prove_tight.pressures import inlet_pressures
from gentle_ember.core.stages.prove_tight.proof import position_items, tightness
from gentle_ember.demo.steps import Step, measured


@dataclass(frozen=True, slots=True)
class DemoProof:
    """Who soaped on which day, which joint (counted) leaked first, and the decay's readings."""

    by: str
    day: str
    leaked: int = -1
    loaded: bool = False
    """Whether it was loaded since, so that the pressure at full load is read too."""
    decay: tuple[str, str, str, str] | None = None
    """Volume, pressure before and after, time."""

    def steps(self, job: Job, catalog: Catalog) -> Iterator[dict[str, Step]]:
        """As changes: what was seen before gas was let in, what was found, what was passed."""
        seen: dict[str, Step] = {item.path: True for item in position_items(plan(job, catalog))}
        if seen:
            yield seen
        for proof in plan(job, catalog).of(tightness):
            soaped: dict[str, Any] = {}
            joints = [one for zone in proof.zones for one in zone.joints]
            for number, one in enumerate(joints):
                state = one.state
                if state.joint.fitter:
                    continue
                on = f"{self.day}T13:{number:02d}:00Z"
                look = {"joint": state.joint.key, "by": self.by, "on": on}
                key = f"{proof.fuel}-{number:02d}".replace("_", "-")
                if number == self.leaked:
                    soaped[f"proof.soaped.{key}a"] = {
                        **look, "found": "bubbles",
                        "repair": "Half a turn more, then remade: dirt in the thread.",
                    }  # fmt: skip
                soaped[f"proof.soaped.{key}b"] = {**look, "found": "holds"}
            if proof.fuel != "gasoline":
                at = f"proof.how.{proof.fuel}"
                yield {
                    at: {"by": "leak_fluid", "gauge": "water manometer no. 2"},
                    f"{at}.air": measured("9 °C"),
                }
            for fuel, inlet in plan(job, catalog).of(inlet_pressures).items():
                at = f"proof.pressures.{fuel}"
                read = f"{inlet.still_pa * 0.98:.0f} Pa", f"{inlet.still_pa * 0.985:.0f} Pa"
                if fuel == proof.fuel:
                    yield {
                        at: {"by": self.by, "on": f"{self.day}T13:55:00Z"},
                        f"{at}.static": measured(read[0]), f"{at}.later": measured(read[1]),
                        **({f"{at}.full": measured(f"{inlet.full_pa * 0.97:.0f} Pa")}
                           if self.loaded else {}),
                    }  # fmt: skip
            still = {"state": "still", "by": self.by, "on": f"{self.day}T13:50:00Z"}
            locked = {f"proof.lock_up.{proof.fuel}": still} if proof.locks else {}
            yield {**soaped, **locked}
            low = f"{proof.fuel}-low"
            if self.decay and any(zone.key == low for zone in proof.zones):
                volume, before, after, seconds = self.decay
                at = f"proof.zones.{low}"
                yield {
                    at: {"by": self.by}, f"{at}.volume": measured(volume),
                    f"{at}.before": measured(before), f"{at}.after": measured(after),
                    f"{at}.seconds": measured(seconds),
                    f"{at}.before_k": measured("15 °C"), f"{at}.after_k": measured("15 °C"),
                }  # fmt: skip


PROOFS: dict[str, DemoProof] = {
    "stars": DemoProof("Odo Marlin", "2026-11-18"),
    "ferry": DemoProof("Odo Marlin", "2026-05-11", loaded=True),
    "choir": DemoProof(
        "Runa Kestle", "2026-10-20", 6, True, ("2 L", "7 in wc", "6.95 in wc", "15 min")
    ),
}

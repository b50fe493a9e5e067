"""A technician over the service: a job driven from where it stands to its end, in milliseconds.

Makes the writes a page makes, and nothing else: what holds a stage here holds it there.
"""

from __future__ import annotations

import math
from typing import Any

from gentle_ember.core.route import NAMES
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from tests.helpers.service import change, joints_of, show, tell, write

WHO = "Odo Marlin"
MINUTES = (0, 8, 16, 24)


def held(share: float) -> float:
    """Output held at a screw over the one that is best, as a share of the most [1]."""
    off = math.log(share)
    lean, rich = max(0.0, -off - 0.15), max(0.0, off - 0.2)
    return max(0.3, 1 - 2.6 * lean**2 - 1.1 * rich**2)


def ticked(step: dict[str, Any]) -> dict[str, Any]:
    """A step of the fit sheet, done."""
    record = {"state": "done", "by": WHO, "of": step["subject"], "what": step["what"]["us"]}
    return {"path": f"fit.steps.{step['key']}", "value": {**record, "on": "2026-11-26T10:00:00Z"}}


def signature(name: str, of: str) -> dict[str, Any]:
    """A name drawn in two strokes, under a work."""
    wave = [at for n in range(12) for at in (100 + 60 * n, 150 + 80 * (n % 2))]
    return {"name": name, "on": "2026-11-26T12:00:00Z", "strokes": [wave, [120, 40, 700, 60]],
            "of": of}  # fmt: skip


class Technician:
    """One job, driven stage by stage."""

    def __init__(self, client: Any, job: str, begun: int = 0) -> None:
        self.client, self.job = client, job
        self.count = begun

    def see(self, views: str = "") -> dict[str, Any]:
        """The job as it stands."""
        return show(self.client, self.job, views)

    def put(self, path: str, value: Any) -> None:
        """A plain write, which must be taken."""
        answer = change(self.client, self.job, path, value)
        assert answer.status_code == 200, (path, answer.json)

    def type(self, path: str, text: str, origin: str = "measured") -> dict[str, Any]:
        """A quantity as typed; the change, for writes of several together."""
        return {"path": path, "typed": text, "origin": origin}

    def take(self, *changes: dict[str, Any]) -> None:
        """Changes that belong together."""
        answer = write(self.client, self.job, *changes)
        assert answer.status_code == 200, answer.json

    def key(self, prefix: str) -> str:
        """A key no record of the job has."""
        self.count += 1
        return f"{prefix}t{self.count}"

    def state(self, stage: str) -> str:
        """How a stage stands on the Route."""
        return next(one["state"] for one in self.see()["route"] if one["key"] == stage)

    def sign(self, stage: str) -> None:
        """Sign a stage off; nothing may hold it."""
        self.put(f"stages.{stage}", {"state": "done", "by": WHO, "on": "2026-11-26"})
        assert self.state(stage) == "done"

    def reopen(self) -> None:
        """Take every signature back."""
        for stage in reversed(NAMES):
            if stage in self.see()["job"]["stages"]:
                self.put(f"stages.{stage}", {"state": "not_started"})

    def choose(self, *methods: str) -> None:
        """Choose, and say who did."""
        self.put("choice", {"methods": list(methods), "by": WHO, "on": "2026-11-26"})

    def build(self, template: str, kit: str = "") -> None:
        """The best train the solver finds of a kind, or out of a kit's parts."""
        fuel = TEMPLATES[template].fuel
        at = f"/api/jobs/{self.job}/trains/{fuel}/propose"
        found = self.client.post(at, json={
            "template": template, "mode": "kit" if kit else "fresh", "kit": kit,
        }).json  # fmt: skip
        best = found["proposals"][0]
        assert best["stops"] == 0
        self.put(f"trains.{fuel}", best["train"])

    def settle(self) -> None:
        """Say what is asked before anything is done with the machine."""
        tell(self.client, self.job)

    def confirm_all(self) -> None:
        """Confirm whatever a person confirms, with its number."""
        for one in self.see()["ready"]:
            if one["confirm"] and not one["done"]:
                number = "permit 118" if one["number"] else ""
                self.put(one["path"], {"done": True, "by": WHO, "number": number})

    def put_right(self) -> None:
        """Finish every task of the walk-round."""
        for group in self.see("inspection")["inspection"]["groups"]:
            for check in group["checks"]:
                task = check["task"]
                if task and not task["done"]:
                    kept = self.see()["job"]["findings"].get(check["key"], {})
                    self.put(f"findings.{check['key']}", {**kept, "done": True, "by": WHO})

    def fit_all(self) -> None:
        """Every step of the sheet that is open, in its order."""
        for _ in range(6):
            steps = self.see("fit")["fit"]["steps"]
            left = [one for one in steps if one["state"] not in ("done", "skipped")]
            if not left:
                return
            self.take(*(ticked(step) for step in left[:50]))
        raise AssertionError("the sheet does not come to its end")

    def soap_all(self) -> None:
        """Every joint soaped in order, then the lock-up of each gas."""
        for gas in self.see("proofs")["proofs"]:
            looks = [
                {
                    "path": f"proof.soaped.{self.key('l')}",
                    "value": {"joint": joint["key"], "found": "holds", "by": WHO},
                }
                for joint in joints_of(gas)
                if joint["state"] not in ("fitter", "awaits_fitter", "tight")
            ]
            if looks:
                self.take(*looks)
            if gas["locks"]:
                self.put(f"proof.lock_up.{gas['fuel']}", {"state": "still", "by": WHO})

    def start_all(self) -> None:
        """Every fuel's gate, a pull that runs, and its proof."""
        for start in self.see("starts")["starts"]:
            at = f"starts.{start['fuel']}"
            if start["fuel"] not in self.see()["job"]["starts"]:
                self.put(at, {})
            self._look(at, start, "before")
            self.put(f"{at}.attempts.{self.key('a')}", {"result": "runs", "by": WHO})
            now = next(one for one in self.see("starts")["starts"] if one["fuel"] == start["fuel"])
            assert now["ran"]
            self._look(at, now, "after")

    def _look(self, at: str, start: dict[str, Any], when: str) -> None:
        for look in start["looks"]:
            if look["when"] == when and look["state"] != "good":
                self.put(f"{at}.looked.{look['key']}", {"state": "good", "by": WHO})

    def meter_all(self) -> None:
        """Every gas's screw swept, locked where the core says, and looked at after."""
        for gas in self.see("metering")["metering"]:
            at = f"metering.{gas['key']}"
            if gas["screw"]:
                self._sweep(at, gas)
            if gas["jet"]:
                place, watts = f"{at}.readings.{gas['jet']['key']}", 1.1 * gas["load"]["value"]
                self.take(
                    {"path": place, "value": {"by": WHO, "plug": "tan"}},
                    self.type(f"{place}.output", f"{watts:.0f} W"),
                )
            now = self._gas(gas["key"])
            for look in now["looks"]:
                if look["state"] != "good":
                    good = {"state": "good", "by": WHO, "at": now["locked_turns"]}
                    self.put(f"{at}.checks.{look['key']}", good)

    def _gas(self, key: str) -> dict[str, Any]:
        found = self.see("metering")["metering"]
        return next(one for one in found if one["key"] == key)

    def _sweep(self, at: str, gas: dict[str, Any]) -> None:
        """Readings where they are asked for, off a curve of the test's own."""
        most, best = 0.95 * gas["expected"]["value"], 1.15 * gas["start"]["value"]
        for _ in range(14):
            asked = self._gas(gas["key"])["next"]
            if not asked:
                break
            place = f"{at}.readings.{self.key('r')}"
            watts = most * held(asked["turns"] / best)
            self.take(
                {"path": place, "value": {"by": WHO}},
                self.type(f"{place}.turns", f"{asked['turns']:.3f}"),
                self.type(f"{place}.output", f"{watts:.0f} W"),
            )
        setting = self._gas(gas["key"])["setting"]
        assert setting, "a clean sweep gives a setting"
        self.take(self.type(f"{at}.locked", f"{setting['value']:.3f}"))
        assert self._gas(gas["key"])["proven"]

    def load_all(self) -> None:
        """Every fuel the stage waits for: loaded for 24 minutes, the plug read, kept."""
        for test in self.see("load_tests")["load_tests"]:
            if test["holds"]:
                self._load(test)

    def _load(self, test: dict[str, Any]) -> None:
        run = f"load_tests.{test['key']}.runs.{self.key('r')}"
        watts, lam = test["least"]["value"] * 1.1, "0.95" if test["gas"] else "0.90"
        if test["key"] not in self.see()["job"]["load_tests"]:
            self.put(f"load_tests.{test['key']}", {})
        self.put(run, {"opened": "yes"})
        for minute in MINUTES:
            place = f"{run}.readings.{self.key('m')}"
            self.take(
                {"path": place, "value": {"by": WHO}},
                self.type(f"{place}.after", f"{minute} min"),
                self.type(f"{place}.output", f"{watts:.0f} W"),
                self.type(f"{place}.lam", lam),
            )
        look = "gray" if test["gas"] else "tan"
        self.put(f"{run}.plug", {"before": "new", "after": look, "by": WHO})
        self.put(f"{run}.decided", {"what": "keep", "by": WHO})
        now = next(one for one in self.see("load_tests")["load_tests"] if one["key"] == test["key"])
        assert now["runs"][-1]["settled"], now["runs"][-1]

    def teach_all(self) -> None:
        """Every order done by the owner, one of them after a wrong move."""
        for at, one in enumerate(self.see("drills")["drills"]):
            done = {"state": "done", "seconds": 20 + at, "wrong": at == 1, "of": one["of"],
                    "by": WHO, "on": "2026-11-26T11:00:00Z"}  # fmt: skip
            self.put(f"hand_over.drills.{one['key']}", done)

    def core_back(self) -> None:
        """The old part goes back, where a deposit is on it."""
        if self.see("closing")["closing"]["deposit"]:
            self.put("hand_over.core", {"due": "2026-12-11", "by": WHO})

    def sign_record(self, *who: str) -> None:
        """Both under the record as it stands."""
        for one in who or ("technician", "owner"):
            of = self.see("closing")["closing"]["work"]
            name = WHO if one == "technician" else "Ada Marsh"
            self.put(f"hand_over.{one}", signature(name, of))

    def rest(self, until: str = "") -> None:
        """From where the job stands to its end, or up to a stage: whatever each stage asks, then
        its signature."""
        work = {
            "fuel_path": (self.confirm_all, self.settle),
            "fit": (self.confirm_all, self.put_right, self.fit_all, self.settle),
            "prove_tight": (self.settle, self.soap_all, self.settle),
            "first_start": (self.start_all, self.meter_all),
            "load_test": (self.confirm_all, self.settle, self.load_all),
            "hand_over": (self.confirm_all, self.teach_all, self.core_back, self.sign_record),
        }
        for stage in NAMES:
            if stage == until:
                return
            if self.state(stage) == "done":
                continue
            for step in work.get(stage, (self.confirm_all,)):
                step()
            self.sign(stage)
        assert {one["state"] for one in self.see()["route"]} == {"done"}

"""A technician with a job of a kind, begun with what its owner and its plate tell."""

from __future__ import annotations

from typing import Any

from tests.helpers.service import key
from tests.helpers.sets import fact, job_of
from tests.helpers.technician import WHO, Technician

KNOWN: dict[str, Any] = {
    "starting": fact(2e4), "volts": fact(120.0), "hertz": fact(60.0), "tank": fact(0.012),
    "run_switch": "ignition", "tank_vent": "cap_open", "brand_new": False,
    "hours": fact(180 * 3600.0), "rating_elevation": fact(0.0),
    "rating_temperature": fact(298.15), "last_oil": fact(1e6), "idle": fact(1e6),
}  # fmt: skip
STUDS: dict[str, Any] = {
    "pitch": fact(1e-3), "stick_out": fact(46e-3), "nut_height": fact(5e-3),
    "thread_depth": fact(14e-3), "metal": "aluminum",
}  # fmt: skip


HALVES = {"supply_half", "set_half"}


class Kind(Technician):
    """A technician with a job of a kind, begun with what its owner and its plate tell."""

    def __init__(self, client: Any, title: str, size: str, **told: Any) -> None:
        made = client.post("/api/jobs", json={"title": title, "key": key(), "who": WHO})
        assert made.status_code == 201, made.json
        super().__init__(client, made.json["id"])
        document = job_of(size).model_dump(mode="json")
        machine = document["set"]
        machine |= {**KNOWN, "starting": fact(1.25 * machine["running"]["value"])}
        machine["studs"] |= STUDS
        machine["stack"] |= {"air_cleaner": "two_studs", "flange": fact(4e-3)}
        machine["faces"] = {"f1": {"name": "side", "room": fact(0.2), "behind": "nothing"}}
        machine["carburetor"] |= {"choke": "manual", "fuel_solenoid": False,
                                  "jetted_at": fact(0.0)}  # fmt: skip
        for name in ("set", "sites"):
            self.put(name, document[name])
        self.put("load.planned", fact(0.4 * machine["running"]["value"]))
        self.put("load.largest_start", fact(0.6 * machine["running"]["value"]))
        for path, value in told.items():
            self.put(path.replace("__", "."), value)
        self.look_round()

    def only(self, *sources: str) -> None:
        """What is at hand on the site, everything else taken away."""
        site = self.see()["job"]["sites"]["s1"]
        kept = {key: gas for key, gas in site["gases"].items() if gas["kind"] in sources}
        self.put("sites.s1.gases", kept)
        if "propane" not in sources:
            self.put("sites.s1.cylinders", {})

    def look_round(self) -> None:
        """Every place of the walk-round looked at and found good, but for what was found bad."""
        for group in self.see("inspection")["inspection"]["groups"]:
            for check in group["checks"]:
                if check["look"] == "not_looked":
                    self.put(f"findings.{check['key']}", {"look": "good", "by": WHO})

    def intake(self) -> None:
        self.look_round()
        self.put_right()
        self.confirm_all()
        self.sign("intake")

    def method(self, *methods: str) -> None:
        self.choose(*methods)
        self.confirm_all()
        self.sign("method")

    def tank(self, template: str) -> None:
        """The best gasoline train of a kind."""
        at = f"/api/jobs/{self.job}/trains/gasoline/propose"
        found = self.client.post(at, json={"template": template, "mode": "fresh"}).json
        best = found["proposals"][0]
        assert best["stops"] == 0
        self.put("trains.gasoline", best["train"])

    def steps(self) -> dict[str, Any]:
        return {one["key"]: one for one in self.see("fit")["fit"]["steps"]}

    def signed(self) -> None:
        """To its end, with no stage left out and no stop standing."""
        self.rest()
        shown = self.see()
        assert [one for one in shown["cautions"] if one["severity"] == "stop"] == []
        assert all(one["state"] == "done" for one in shown["job"]["stages"].values())


def couplers(client: Any) -> Kind:
    """Somebody's conversion that stands, but for its couplers: a job of two halves."""
    work = Kind(client, "Somebody's couplers", "frame", wants__propane=True)
    work.only("propane")
    work.intake()
    work.method("spacer_adapter")
    work.build("spacer_adapter-cylinder")
    train = work.see()["job"]["trains"]["propane"]
    for slot in train["slots"].values():
        slot["there"] = slot["role"] not in HALVES
    work.put("trains.propane", train)
    return work


def at_home(client: Any, found: str) -> Kind:
    """A set that runs rich or lean with the jet it was made with, at its own elevation."""
    work = Kind(client, f"At home {found}", "frame", wants__elevation=True)
    work.only()
    work.put("sites.s1.elevation", fact(20.0))
    work.put("set.carburetor.jets", {"stamped": {"number": fact(90.0)}, "marking": "hundredths",
                                     "made_on": "e10", "found": found})  # fmt: skip
    work.intake()
    work.method("rejet")
    return work

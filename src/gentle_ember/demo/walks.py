"""What intake found on each of the demo's sets, and which method was chosen; all made up."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.stages.intake.walk_round import CHECKS
from gentle_ember.demo.steps import StepsOf, data_sheet, measured, owner


def looked(**not_good: dict[str, Any]) -> dict[str, Any]:
    """A whole walk-round, everything good but what is named."""
    found = {f"findings.{check.key}": {"look": "good"} for check in CHECKS}
    return found | {f"findings.{key}": value for key, value in not_good.items()}


def bad(note: str, decision: str = "open", done_by: str = "") -> dict[str, Any]:
    """A bad finding."""
    return {
        "look": "bad",
        "note": note,
        "decision": decision,
        "done": bool(done_by),
        "by": done_by,
    }


def watch(note: str) -> dict[str, Any]:
    """A place to watch."""
    return {"look": "watch", "note": note}


def choice(by: str, on: str, reason: str, *methods: str) -> dict[str, Any]:
    """Chosen methods."""
    return {"choice": {"methods": list(methods), "by": by, "on": on, "reason": reason}}


def confirmed(by: str, **numbers: str) -> dict[str, Any]:
    """Readiness items somebody confirmed, with their numbers."""
    return {
        f"confirmed.{key}": {"done": True, "by": by, "number": number}
        for key, number in numbers.items()
    }


def studs(spacing: str, stick_out: str, flange: str = "18 mm") -> dict[str, Any]:
    """M6 studs in aluminum, as most small carburetors have."""
    return {
        "set.studs.spacing": measured(spacing),
        "set.studs.diameter": measured("6 mm"),
        "set.studs.pitch": measured("1.0 mm"),
        "set.studs.stick_out": measured(stick_out),
        "set.studs.nut_height": measured("5 mm"),
        "set.studs.thread_depth": measured("14 mm"),
        "set.studs.metal": "aluminum",
        "set.stack.flange": measured(flange),
        "set.stack.gaskets": measured("1 mm"),
    }


def room(breather: str, bracket: str, cover: str, held: str = "two_studs") -> dict[str, Any]:
    """Room round the stack."""
    return {
        "set.stack.breather_slack": measured(breather),
        "set.stack.bracket_room": measured(bracket),
        "set.stack.cover_room": measured(cover),
        "set.stack.air_cleaner": held,
    }


def face(name: str, behind: str = "nothing", stands: str = "", remedy: str = "none") -> Any:
    """A face a part could be mounted on."""
    return {"name": name, "behind": behind, "stands": stands, "remedy": remedy}


COMMON = {
    "set.carburetor.choke": "manual",
    "set.run_switch": "ignition",
    "set.tank_vent": "cap_lever",
    "set.shut_off": True,
}


def item(kind: str, x: float, y: float, name: str = "") -> dict[str, Any]:
    """Something on the sketch."""
    return {"kind": kind, "x": x, "y": y, "name": name}


WALKS: StepsOf = {
    "lambing": (
        {
            "wants.propane": True,
            "set.serial": "DL-32-004417",
            "set.generation": "second",
            "set.engine_family": "D171",
            "set.hours": measured("212 h"),
            "set.last_oil": owner("5 months"),
            **COMMON,
            **studs("42 mm", "40 mm"),
            **room("8 mm", "20 mm", "16 mm"),
            "set.faces.f1": face("left panel"),
        },
        {"set.faces.f1.room": measured("75 mm")},
        looked(
            plug=watch("Sooty from idling; new one at the load test."),
            lash=watch("Not measured yet; due with the first gas hours."),
        ),
        {
            "sites.s1.sketch.items.s1": item("set", 14, 10),
            "sites.s1.sketch.items.o1": item("opening", 14, 2.5, "clinic door"),
            "sites.s1.sketch.items.c1": item("cylinder", 11.5, 8.5, "20 lb"),
            "sites.s1.sketch.exhaust": 135,
            "sites.s1.sketch.wind": 270,
            "sites.s1.storage": "outdoors",
        },
        {
            "load.appliances.a1": {"name": "four heat lamps", "kind": "resistive"},
            "load.appliances.a2": {"name": "vaccine fridge", "kind": "fridge"},
        },
        {
            "load.appliances.a1.running": measured("1000 W"),
            "load.appliances.a2.running": measured("450 W"),
        },
        choice(
            "Runa Kestle", "2026-11-17", "Keeps gasoline and the choke; the lambs can't wait.",
            "spacer_adapter",
        ),
    ),
    "cinema": (
        {
            "wants.natural_gas": True,
            "set.serial": "WH65-11820",
            "set.engine_family": "W420",
            "set.carburetor.type": "float",
            "set.hours": measured("96 h"),
            **COMMON,
            **studs("50 mm", "42 mm"),
            **room("30 mm", "25 mm", "80 mm", "third_bolt"),
            "set.faces.f1": face("frame tube, left", "structure"),
        },
        {
            "set.faces.f1.room": measured("90 mm"),
            "sites.s1.gases.g1.pressure": measured("7 in wc"),
            "sites.s1.gases.g1.distance": measured("22 m"),
            "sites.s1.gases.g1.stub": "3/4",
            "sites.s1.gases.g1.meter": data_sheet("250000 BTU/h"),
            "sites.s1.gases.g1.appliances": data_sheet("80000 BTU/h"),
            "sites.s1.sketch.items.s1": item("set", 6, 14),
            "sites.s1.sketch.items.o1": item("opening", 14, 15, "tent"),
            "sites.s1.sketch.items.t1": item("stub", 25.5, 3.5, "hall, north wall"),
            "sites.s1.sketch.exhaust": 270,
            "sites.s1.sketch.wind": 90,
        },
        looked(),
        choice(
            "Odo Marlin", "2026-11-13", "The hall's gas is free of refueling during a screening.",
            "spacer_adapter",
        ),
    ),
    "honey": (
        {
            "wants.remote_tank": True,
            "set.serial": "DW20-77302",
            "set.carburetor.type": "float",
            **COMMON,
            "set.electric_start": False,
            "sites.s1.remote_tank.volume": measured("20 L"),
            "sites.s1.remote_tank.rise": measured("-0.4 m"),
            "sites.s1.remote_tank.distance": measured("1.5 m"),
        },
        looked(cords=watch("One cord thin for the extractor.")),
        choice(
            "Tamsin Quay", "2026-11-10", "The tank is on the trailer floor.", "remote_tank_pump"
        ),
    ),
    "stars": (
        {
            "wants.propane": True,
            "wants.elevation": True,
            "set.serial": "TF36-0093",
            "set.carburetor.jets.believed": {"number": None, "source": "forum of owners"},
            **COMMON,
            **studs("42 mm", "41 mm"),
            **room("25 mm", "22 mm", "60 mm"),
            "set.faces.f1": face("tank bracket", "structure"),
        },
        {
            "set.carburetor.jets.believed.number": owner("92"),
            "set.carburetor.jets.stamped.number": measured("90"),
            "set.carburetor.jets.marking": "hundredths",
            "set.faces.f1.room": measured("70 mm"),
        },
        looked(),
        choice(
            "Runa Kestle", "2026-11-04", "Rich at 2,450 m; propane for the quiet nights.",
            "rejet", "spacer_adapter",
        ),
        confirmed("Runa Kestle", drilling="", warranty=""),
    ),
    "cider": (
        {
            "wants.biogas": True,
            "set.serial": "WS50-2216",
            "set.carburetor.type": "float",
            **COMMON,
            **studs("50 mm", "34 mm"),
            **room("10 mm", "18 mm", "70 mm"),
            "set.faces.f1": face("left frame tube", "nothing", "tool box", "move"),
        },
        {
            "set.faces.f1.room": measured("110 mm"),
            "sites.s1.gases.g1.pressure": measured("3 in wc"),
            "sites.s1.gases.g1.distance": measured("14 m"),
            "sites.s1.gases.g1.stub": "1",
        },
        looked(breather=watch("Stiff but whole.")),
    ),
    "library": (
        {
            "wants.propane": True,
            "wants.natural_gas": True,
            "set.serial": "TC11-0448",
            **COMMON,
            "set.electric_start": True,
            **studs("60 mm", "52 mm", "22 mm"),
            **room("40 mm", "30 mm", "90 mm"),
            "set.faces.f1": face("rear cross-member", "structure"),
        },
        {
            "set.faces.f1.room": measured("85 mm"),
            "sites.s1.gases.g1.pressure": measured("7.5 in wc"),
            "sites.s1.gases.g1.distance": measured("9 m"),
            "sites.s1.gases.g1.stub": "3/4",
        },
        looked(air_filter=bad("Crumbling at the seal.", "replace", "Tamsin Quay")),
        choice(
            "Tamsin Quay", "2026-10-30", "Each barrel its branch; lock-off for a lent set.",
            "two_barrel_adapter",
        ),
        confirmed(
            "Tamsin Quay", fitter="license PM-118, permit 26-0417", utility="", drilling="",
            warranty="",
        ),
    ),
    "choir": (
        {
            "wants.propane": True,
            "wants.natural_gas": True,
            "set.serial": "WD45-30071",
            **COMMON,
            "set.faces.f1": face("left frame tube"),
        },
        {
            "set.faces.f1.room": measured("95 mm"),
            "sites.s1.gases.g1.pressure": measured("7 in wc"),
            "sites.s1.gases.g1.distance": measured("12 m"),
            "sites.s1.gases.g1.stub": "1/2",
        },
        looked(),
        choice("Runa Kestle", "2026-10-05", "Its own port stays as it is.", "second_gas"),
        confirmed(
            "Runa Kestle", fitter="license PM-118, permit 26-0388", utility="", warranty=""
        ),
    ),
    "ferry": (
        {
            "wants.propane": True,
            "set.serial": "TS6-00912",
            **COMMON,
            **studs("50 mm", "42 mm"),
            **room("30 mm", "25 mm", "80 mm", "third_bolt"),
            "set.faces.f1": face("right frame tube"),
        },
        {
            "set.faces.f1.room": measured("110 mm"),
            "sites.s1.sketch.items.s1": item("set", 14, 12),
            "sites.s1.sketch.items.o1": item("opening", 14, 2.5, "hut door"),
            "sites.s1.sketch.items.c1": item("cylinder", 11, 10, "100 lb"),
            "sites.s1.sketch.exhaust": 180,
            "sites.s1.storage": "outdoors",
        },
        looked(),
        choice("Odo Marlin", "2026-04-28", "Keeps gasoline for the day the gas runs out.",
               "spacer_adapter"),
        confirmed("Odo Marlin", drilling="", warranty=""),
    ),
    "clock": (
        {
            "wants.propane": True,
            "set.idle": owner("6 years"),
            "set.faults": "Backfired, then never again.",
            "set.carburetor.choke": "manual",
            "set.shut_off": False,
            "set.run_switch": "ignition",
            "findings.runs": bad("Not a cough in twenty pulls."),
            "findings.fuel_age": bad("Smells of varnish.", "replace", "Tamsin Quay"),
            "findings.tank_lines": bad("Line crumbles, grommet hard.", "order"),
            "findings.carburetor": bad("Bowl dry and varnished, float stuck.", "rebuild"),
            "findings.plug": watch("Old; a spark is there."),
            "findings.oil": {"look": "good", "note": "At the mark, clean."},
        },
    ),
}  # fmt: skip

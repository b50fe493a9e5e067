"""Choices of a job as people name them: each list by its name, and the fields it is chosen at.

The page shows these and keeps no list of its own; what a field may hold and has no words here is
found by a test.
"""

from __future__ import annotations

Options = tuple[tuple[str | bool | int | None, str], ...]

CHOICES: dict[str, Options] = {
    "classes": (
        ("inverter_small", "enclosed inverter, to 2 kW"),
        ("inverter", "enclosed inverter, over 2 kW"),
        ("open_frame", "open frame, 3,600 rpm"),
        ("v_twin", "V-twin, 8 kW and up"),
        ("low_speed", "1,500 or 1,800 rpm"),
        ("dual_fuel", "factory dual-fuel"),
    ),
    "gasolines": (
        ("e10", "E10 (10 % ethanol)"),
        ("e0", "E0 (no ethanol)"),
    ),
    "phases": (
        (1, "single"),
        (3, "three"),
    ),
    "cylinder_counts": (
        (1, "one"),
        (2, "two"),
        (3, "three"),
        (4, "four"),
    ),
    "shelters": (
        ("still_air", "still air"),
        ("breeze", "a breeze"),
        ("closed_locker", "closed locker"),
    ),
    "schools": (
        ("field_rule", "field rule"),
        ("physics", "physics"),
    ),
    "waits": (
        ("parts", "parts"),
        ("owner", "the owner"),
        ("fitter", "a licensed fitter"),
        ("test", "a test day"),
        ("core_return", "return of the core"),
        ("nothing", "ready to work on"),
    ),
    "weighed_fuels": (
        ("propane", "propane"),
        ("gasoline", "gasoline"),
    ),
    "appliances": (
        ("resistive", "heater, lamp"),
        ("electronic", "electronic"),
        ("fridge", "fridge, freezer"),
        ("pump", "pump"),
        ("window_ac", "window air conditioner"),
        ("soft_started", "soft-started motor"),
        ("motor_tool", "motor tool"),
    ),
    "legs": (
        ("a", "leg A"),
        ("b", "leg B"),
        ("both", "both legs"),
    ),
    "must": (
        (True, "must run"),
        (False, "nice to have"),
    ),
    "storage": (
        ("unknown", "not asked"),
        ("outdoors", "outdoors"),
        ("ventilated_shed", "ventilated shed"),
        ("indoors", "indoors"),
    ),
    "asked": (
        (None, "not asked"),
        (True, "yes"),
        (False, "no"),
    ),
    "behind": (
        ("unknown", "not looked"),
        ("nothing", "nothing"),
        ("structure", "a sub-structure"),
        ("wiring", "wiring"),
        ("tank", "the tank"),
        ("exhaust", "the exhaust"),
    ),
    "remedy": (
        ("none", "nothing, or undecided"),
        ("move", "move it"),
        ("replace", "replace it"),
        ("cut", "cut it"),
    ),
    "decisions": (
        ("open", "not decided"),
        ("rebuild", "rebuild or clean"),
        ("replace", "replace"),
        ("order", "order, go on meanwhile"),
        ("stop", "stop the job"),
    ),
    "looks": (
        ("good", "good"),
        ("watch", "watch"),
        ("bad", "bad"),
        ("not_looked", "not looked"),
    ),
    "stubs": (
        ("unknown", "not known"),
        ("1/2", "1/2 in NPT"),
        ("3/4", "3/4 in NPT"),
        ("1", "1 in NPT"),
        ("1-1/4", "1-1/4 in NPT"),
    ),
}

FIELDS: dict[str, str] = {
    "classes": "set.set_class",
    "gasolines": "set.gasoline",
    "phases": "set.phases",
    "shelters": "sites.*.cylinders.*.shelter",
    "schools": "schools.air",
    "waits": "stages.*.waits_for",
    "appliances": "load.appliances.*.kind",
    "legs": "load.appliances.*.leg",
    "must": "load.appliances.*.must_run",
    "storage": "sites.*.storage",
    "decisions": "findings.*.decision",
    "looks": "findings.*.look",
    "stubs": "sites.*.gases.*.stub",
    "behind": "set.faces.*.behind",
    "remedy": "set.faces.*.remedy",
    "asked": "sites.*.gases.*.cleaned",
}
"""Where each list is chosen from; a star stands for any key."""

"""What the judge of a sweep says: what the next reading is for, and why none would help."""

from __future__ import annotations

from gentle_ember.core.metering.reading import Signal
from gentle_ember.core.metering.sweep import Why

NEXT: dict[str, str] = {
    "start": "Where it is expected to be right: from here the sweep finds its way.",
    "lean": "It tells most about the lean end.",
    "rich": "It tells most about the rich end.",
    "top": "It tells how high the middle stands, and with it where both ends are.",
    "run": "It did not run there: this is the next place worth trying.",
}
HOW: dict[Signal, str] = {
    Signal.OUTPUT: "Wait 20 s, add load until the throttle is just fully open, read the output.",
    Signal.SPEED: "With the full load on, wait 20 s, read the engine's speed.",
    Signal.THROTTLE: "At the steady load, wait 20 s, read how far the throttle is open.",
}
CANNOT: dict[Why, tuple[str, tuple[str, ...]]] = {
    Why.STARVED: (
        "Opening the screw further no longer makes it richer: the gas is held up elsewhere.",
        ("a kinked or thin hose", "a coupler not home, or a stemmed one on natural gas",
         "the cylinder too cold or empty", "pressure before the demand regulator, at full load",
         "the demand regulator's vent and position"),
    ),
    Why.SCREW_OPEN: (
        "Too lean even with the screw at its last turn.",
        ("pressure before the demand regulator, at full load", "a hose or coupler too small",
         "the wrong gas for this screw", "the throat: too wide for this engine",
         "air that gets in past the throat: gaskets, breather, an open gas inlet"),
    ),
    Why.SCREW_SHUT: (
        "Too rich even with the screw almost shut.",
        ("the demand regulator passing gas by itself: its lock-up", "the choke",
         "a clogged air cleaner", "gasoline still feeding", "the wrong gas for this screw"),
    ),
    Why.HUNTING: (
        "It hunts at every setting, so no reading can be trusted.",
        ("the governor's spring and links, free and as photographed",
         "the vapour hose: too long, or a low loop with water",
         "air that gets in past the throat", "the spark plug and its gap"),
    ),
    Why.NO_PLATEAU: (
        "The screw makes no difference: what is turned does not meter.",
        ("whether this is the load screw and not the idle screw",
         "whether it still runs on gasoline: shut it and let the bowl run dry",
         "a second path for gas around the screw", "whether the load is near what it can carry"),
    ),
    Why.NOT_RUNNING: (
        "It did not run at any setting tried.",
        ("the start gate: choke, lock-off, stop switch, gas open",
         "over-primed: ventilate and wait half an hour", "a spark at the plug",
         "gas at the adapter: the primer hisses?"),
    ),
    Why.SCATTER: (
        "The readings contradict each other.",
        ("the same load each time, throttle just fully open",
         "warm before the first reading, and 20 s after each turn of the screw",
         "turns counted from the seat, not from the last place",
         "what changed meanwhile: cylinder chilled, another appliance on the gas"),
    ),
}  # fmt: skip
CHECKS: dict[str, str] = {
    "no_load": "Runs evenly at no load",
    "eco": "Takes eco mode and comes out of it",
    "load_step": "Takes a load step without dying",
    "idle": "Idle screw set: neither hunts nor stumbles",
    "balance": "Both barrels alike: same turns, same plug",
    "lock": "Locked with its nut, and the turns counted once more",
}
"""What is looked at after the setting."""

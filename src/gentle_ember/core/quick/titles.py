"""Every quick answer, in the order people ask for them."""

from __future__ import annotations

QUICK: dict[str, str] = {
    "derate": "Derate",
    "run-time": "Run time",
    "cylinder": "Cylinder",
    "gas-pipe": "Gas pipe",
    "meter-clock": "Meter clock",
    "load-screw-start": "Load screw",
    "gas-change": "Gas change",
    "joint-finder": "Joint finder",
    "coupler-loss": "Hose and coupler",
    "gravity-feed": "Gravity feed",
    "rpm-from-sound": "Speed by sound",
    "u-tube": "U-tube",
    "leak-decay": "Leak by decay",
    "jet": "Main jet",
    "plug": "Plug",
    "orifice": "Gas orifice",
    "convert": "Convert",
}
"""Short titles by address; those that are a form have their texts with the form."""

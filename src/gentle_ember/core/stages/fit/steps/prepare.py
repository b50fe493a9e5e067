"""Before anything is touched: where, gear, switch, boot, battery, fuel; then the covers."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.stages.fit.case import FitCase
from gentle_ember.core.stages.fit.step import Phase, Place, Step

CARBURETOR_WORK = ("exchanged_carburetor", "multi_fuel_carburetor", "rejet")


def prepare(case: FitCase) -> Iterator[Step]:
    """Safe to touch: outdoors and cool, gear at hand, nothing can spark or start."""
    yield Step(
        "outdoors", "prepare", Phase.PREPARE, Place.BENCH,
        "Set outdoors or in a wide-open bay, engine cold.",
        "Gasoline vapor lies on the floor and finds a flame; a hot muffler lights it.", 3,
        caution="No flame, heater, grinder or cigarette within reach of vapor.",
        good="The engine has stood for an hour, or the muffler reads under 120 °F by "
             "thermometer; never by hand; extinguisher within three steps.",
        bad="Warm muffler, or a water heater in the same room.",
    )  # fmt: skip
    yield Step(
        "gear", "prepare", Phase.PREPARE, Place.BENCH,
        "Gloves and eye protection on; tray, jar, clean rags and tags laid out.",
        "Screws go into the tray in the order they come out; gasoline into the jar.", 3,
        tools=("safety glasses", "gloves", "magnetic tray", "jar with lid", "tags and pen"),
        takes=("rags",),
        caution="Rags with gasoline lie flat in the open, never near heat.",
    )  # fmt: skip
    yield Step(
        "stop_switch", "prepare", Phase.PREPARE, Place.CONTROLS,
        "Stop switch off.", "Nobody starts it with a hand in it.", 1,
        good="Switch at stop, key out and in a pocket.",
    )  # fmt: skip
    yield Step(
        "plug_boot", "prepare", Phase.PREPARE, Place.ENGINE,
        "Spark-plug boot off, tied away from the plug.",
        "An engine turned by hand can fire.", 1 if case.set.cylinders == 1 else 2, must=True,
        good="Boot hangs clear; it can't spring back. It stays off until the gas is proven tight.",
    )  # fmt: skip
    if case.set.electric_start is not False:
        yield Step(
            "battery", "prepare", Phase.PREPARE, Place.FRAME,
            "Battery off: minus first, its end wrapped.",
            "A starter that turns, or a wrench across plus and frame.", 3,
            tools=("10 mm wrench",),
            good="Minus lead tied back, can't touch. It stays off until the gas is proven tight.",
            bad="Only the key taken out.",
        )  # fmt: skip
    yield Step(
        "photos_before", "photo", Phase.PREPARE, Place.FRAME,
        "Photograph it as it is: all four sides and the carburetor.",
        "What was there before is settled by a picture.", 4,
        photo="all sides, hoses and leads at the carburetor",
    )  # fmt: skip


def drain(case: FitCase) -> Iterator[Step]:
    """Gasoline shut or out before a line or a bowl is opened; none where there never was any."""
    if case.set.brand_new:
        yield Step(
            "gasoline_never", "drain", Phase.DRAIN, Place.TANK,
            "Look into the tank: new, it never saw gasoline. Leave it dry.",
            "Nothing to drain; a set that starts on gas stays clean inside.", 1,
            good="Tank dry, no smell at the filler.",
            bad="It was filled or tested on gasoline: say so under Intake, then drain it.",
        )  # fmt: skip
        return
    if case.set.shut_off:
        yield Step(
            "gasoline_shut", "drain", Phase.DRAIN, Place.TANK,
            "Shut the gasoline at its valve.", "The line is opened further on.", 1,
            good="Handle across the line.",
        )  # fmt: skip
    else:
        yield Step(
            "gasoline_out", "drain", Phase.DRAIN, Place.TANK,
            "No shut-off on this set: drain the tank, or pinch the line with smooth-jawed pliers.",
            "Whatever is opened below the tank runs until it is empty.", 12,
            tools=("hose pinch pliers", "approved container", "siphon"),
            caution="Into an approved container on the ground, engine cold, lid on at once.",
            good="Nothing runs at the carburetor inlet.",
        )  # fmt: skip
    if case.has(*CARBURETOR_WORK, "remote_tank_gravity", "remote_tank_pump"):
        yield Step(
            "bowl_drain", "drain", Phase.OPEN, Place.CARBURETOR,
            "Drain the float bowl into the jar.", "Dry, so that nothing spills when it opens.", 4,
            tools=("flat screwdriver",), takes=("rags",),
            good="Drip stops; jar shows clean gasoline, no water, no rust.",
            bad="Water, rust or varnish: the tank is a task of its own.",
            caution="Catch it all; wipe the frame; no spark while it is wet.",
            after=("cover",),
        )  # fmt: skip


def covers(case: FitCase) -> Iterator[Step]:
    """What must come off to reach it, each once."""
    if case.enclosed:
        yield Step(
            "cover", "cover", Phase.OPEN, Place.COVERS,
            "Service cover off; look under plugs and caps for hidden screws.",
            "Carburetor and air cleaner sit behind it.", 6,
            tools=("screwdrivers", "8 and 10 mm sockets with extension"),
            photo="screws in the tray as they sat, hidden ones tagged",
            good="Comes away without force.", bad="It springs: a screw is still in.",
            back="Service cover on.",
            mind_back="Leads and hoses clear of its edge; the hidden screw is not forgotten.",
        )  # fmt: skip
    for mount in case.mounts:
        behind = mount.mount.room is not None and mount.mount.room.value < 0.5
        if mount.drilled and case.enclosed and behind and mount.part is not None:
            name = mount.mount.name or "panel"
            yield Step(
                f"panel-{mount.key}", "cover", Phase.OPEN, Place.COVERS,
                f"{name.capitalize()} off, or its back laid free.",
                "Nut and wrench must get behind it, and what is there must be seen.", 8,
                tools=("screwdrivers", "8 and 10 mm sockets with extension"),
                photo="leads and clips behind it", after=("cover",),
                back=f"{name.capitalize()} back on.",
                mind_back="No lead pinched behind it.",
            )  # fmt: skip

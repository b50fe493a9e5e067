"""The carburetor: exchanged, replaced, or its jet; what is reused, moved over and kept whole."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.estimates.jets import JET_IN, moved
from gentle_ember.core.job.generator import CarburetorType
from gentle_ember.core.stages.fit.case import FitCase
from gentle_ember.core.stages.fit.step import Phase, Place, Secured, Step, StepMeasure
from gentle_ember.core.stages.fit.steps.air import mixer
from gentle_ember.core.stages.fit.tools import socket

GAP_M = (0.508e-3, 0.635e-3)
"""Plug gap on gas where the maker says nothing: 0.020 to 0.025 in."""
GAP_PLAY_M = 0.05e-3
"""How near a feeler gauge sets a gap that the maker gives."""


def carburetor(case: FitCase) -> Iterator[Step]:
    """Steps at the carburetor, for the methods that touch it."""
    if case.has("exchanged_carburetor", "multi_fuel_carburetor") and not case.mixer_there:
        yield from _off(case)
        yield from _connectors(case)
        yield _new(case)
        if case.has("multi_fuel_carburetor"):
            yield from _multi_fuel(case)
        if case.has("exchanged_carburetor"):
            yield _core()
    if case.has("rejet"):
        yield from _rejet(case)
    if (case.gases and not case.mixer_there) or case.has("rejet"):
        yield _screws(case)
    if case.gases:
        yield _gap(case)


def _off(case: FitCase) -> Iterator[Step]:
    yield Step(
        "linkage_photo", "photo", Phase.WORK, Place.CARBURETOR,
        "Photograph link, springs and which hole each sits in; tag the springs.",
        "A spring in the next hole makes another governor.", 3,
        photo="link and both ends of each spring, close", after=("air_cleaner_off",),
        good="Holes can be counted in the picture.", bad="Blurred: take it again before going on.",
    )  # fmt: skip
    yield Step(
        "fuel_line_off", "open", Phase.OPEN, Place.CARBURETOR,
        "Fuel line off the carburetor, both ends plugged.", "It comes away with it.", 2,
        tools=("pliers",), takes=("plugs for hose", "rags"), after=("bowl_drain",),
        good="Nothing drips.", back="Fuel line on, clamp behind the bead.",
    )  # fmt: skip
    if case.set.carburetor.fuel_solenoid:
        yield Step(
            "connector", "electric", Phase.WORK, Place.CARBURETOR,
            "Fuel-solenoid lead off; its connector moved over to the new carburetor.",
            "Left hanging, the engine won't run on gasoline, or won't stop.", 6,
            tools=("connector pick",), after=("linkage_photo",),
            good="Clicks when the switch is turned on; or parked, taped and tied, and noted.",
            bad="Another plug: move the connector, not cut the loom.",
            photo="where the lead goes now",
        )  # fmt: skip
    yield Step(
        "carburetor_off", "carburetor", Phase.WORK, Place.CARBURETOR,
        f"Carburetor off: link out last, {BETWEEN[case.set.carburetor.gasket]} in their order.",
        "An insulator's slot or tab fits one way only; left out, the bowl boils.", 10,
        tools=(socket(case.stud_m), "needle-nose pliers"),
        photo="gaskets and insulator in order, which side faces the engine",
        caution="The bowl holds a spoonful more: over the tray. Intake plugged at once.",
        good="Link and springs free without bending.", bad="Insulator stuck: soak it, then ease "
                                                           "it off by hand. No heat near "
                                                           "gasoline, and don't pry.",
        after=("linkage_photo", "fuel_line_off", "air_cleaner_off", "port_rag"), takes=("rags",),
    )  # fmt: skip


BETWEEN = {
    "unknown": "gaskets and insulator", "paper": "the paper gasket", "insulator": "the insulator",
    "both": "insulator and both gaskets",
}  # fmt: skip
"""What lies between carburetor and engine, as it was looked at."""


def _connectors(case: FitCase) -> Iterator[Step]:
    """What else plugs into the old carburetor goes over to the new one."""
    told = case.set.carburetor.connectors
    if told:
        yield Step(
            "connectors", "electric", Phase.WORK, Place.CARBURETOR,
            f"Unplug and label what plugs into it: {told}.",
            "The new one must take each; one left hanging chatters, or shorts on the frame.", 4,
            tools=("connector pick",), takes=("label tape",), of=(told[:40],),
            good="Each has its place on the new one, by its label.",
            bad="No place for one: park it taped and tied, and note what it did.",
            photo="every connector in its place", after=("linkage_photo",),
        )  # fmt: skip


def _new(case: FitCase) -> Step:
    part = mixer(case)
    return Step(
        "carburetor_on", "carburetor", Phase.WORK, Place.CARBURETOR,
        "New carburetor on: insulator and gaskets as photographed, link and springs in the same "
        "holes.",
        "It meters both fuels; a false leak of air leans both.", 20,
        tools=(socket(case.stud_m), "needle-nose pliers"), parts=(part.key,) if part else (),
        torque=case.nut_torque, secured=Secured.TORQUE,
        photo="link and springs, beside the picture of before",
        good="Throttle goes from stop to stop and springs back; nuts in turns, half a turn each.",
        bad="Throttle stays where it is put: a spring in another hole.",
        after=("carburetor_off",
               *(("connector",) if case.set.carburetor.fuel_solenoid else ())),
    )  # fmt: skip


def _multi_fuel(case: FitCase) -> Iterator[Step]:
    yield Step(
        "selector_clock", "clock", Phase.WORK, Place.CARBURETOR,
        "Turn the gas selector so that its positions can be read and reached.",
        "A selector read upside down feeds two fuels.", 5, tools=("wrench to hold",),
        photo="selector with its positions",
        good="Each position stops by itself; the handle clears the frame in all of them.",
        bad="It stops between two: take it off and turn it one flat.", after=("carburetor_on",),
    )  # fmt: skip
    yield Step(
        "valve_room", "clear", Phase.WORK, Place.AIR,
        "Hold the air box in place: room behind it for the control valve and its hose.",
        "The valve may foul the box.", 4, good="A finger all round, hose without kink.",
        bad="It touches: turn the elbow, or stand the box off; never cut the filter's seat.",
        after=("carburetor_on",),
    )  # fmt: skip


def _core() -> Step:
    return Step(
        "core_kept", "pack", Phase.WORK, Place.BENCH,
        "Old carburetor: drained, wiped, every screw, spring and gasket in one bag, tagged.",
        "Its deposit comes back only when it is complete.", 5, takes=("bag and tag",),
        photo="the bag with its tag", after=("carburetor_off",),
        good="Bowl screw, float, jet and tube all there; nothing drips.",
        bad="Something missing: note it now, not when it is sent back.",
    )  # fmt: skip


def _rejet(case: FitCase) -> Iterator[Step]:
    twin = case.set.carburetor.type is CarburetorType.TWO_BARREL
    each = "both" if twin else "the"
    yield Step(
        "bowl_off", "open", Phase.OPEN, Place.CARBURETOR,
        "Float bowl off, the rear screw first.",
        "The rear one can't be reached with the front one's tension on it.", 6,
        tools=("10 mm socket, short", "stubby screwdriver"), takes=("rags",),
        after=("bowl_drain",), caution="Float and needle may drop: tray under it.",
        good="Bowl gasket whole, in its groove.", bad="Swollen gasket: new.",
        back="Float bowl on, its gasket in the groove, rear screw first.",
        mind_back="Snug only: the casting strips.",
    )  # fmt: skip
    yield Step(
        "jet_out", "jet", Phase.WORK, Place.CARBURETOR,
        f"Take {each} main jet out with its tube; read the number stamped on it.",
        "Jet and tube come out together. Read the number stamped on the jet; don't go by "
        "memory.", 6,
        tools=("jet screwdriver, full width", "magnifier"), after=("bowl_off",),
        photo="the number on the jet", good="Number read and noted; tube's holes clear.",
        bad="Slot breaks out: a driver that fills it, straight, no extension.",
    )  # fmt: skip
    jet = case.jet
    size = f" {jet.number:g}" if jet.number else ""
    why = f"{jet.number:g} {jet.why}, {jet.in_it:g} is in it" if jet.number and jet.in_it else (
        "The size follows from the number stamped on the one in it"
    )  # fmt: skip
    put_in = case.job.fit.steps.get(JET_IN)
    about = size.strip()
    if put_in is not None and put_in.state == "done" and jet.number in jet.tried:
        about = put_in.of  # it ran with it: nothing is left to put in
    yield Step(
        JET_IN, "jet", Phase.WORK, Place.CARBURETOR,
        f"New main jet{size} in {each} tube; tube in the same way up.",
        f"{why}; the sizes either side are at hand.", 5, of=(about,),
        tools=("jet screwdriver, full width",), after=("jet_out",), secured=Secured.NONE,
        good="Seats by hand, then snug; number faces out.",
        bad="It binds: cross-threaded brass; start again by hand.",
    )  # fmt: skip
    if case.set.dual_fuel and moved(case.job):
        yield Step(
            "orifice_in", "jet", Phase.WORK, Place.CARBURETOR,
            "Change the gas orifice for its maker's own of this elevation; never drilled.",
            "Propane thins with the air too: on the old orifice it runs rich up here.", 8,
            tools=("wrench to hold", "flat screwdriver"), after=("bowl_off",),
            photo="the number on the orifice",
            good="Number read and noted; seats by hand, then snug; the joint is soaped again.",
            bad="None is made for this elevation: it stays gasoline only up here, and is tagged.",
        )  # fmt: skip
        yield Step(
            "orifice_tag", "pack", Phase.WORK, Place.BENCH,
            "Tag the old orifice with its number and elevation; it goes to the owner.",
            "Down there the small one is lean.", 2, takes=("bag and tag",), after=("orifice_in",),
        )  # fmt: skip
    yield Step(
        "jet_tag", "pack", Phase.WORK, Place.BENCH,
        "Tag the old jet with its number and this elevation; it goes to the owner.",
        "Coming down with the small jet is lean.", 2, takes=("bag and tag",), after=("jet_out",),
    )  # fmt: skip


def _screws(case: FitCase) -> Step:
    after = ["carburetor_on"] if case.has("exchanged_carburetor", "multi_fuel_carburetor") else []
    after += ["jet_in"] if case.has("rejet") else []
    after += ["plate"] if case.plate_m is not None else []
    return Step(
        "internal_screws", "check", Phase.WORK, Place.CARBURETOR,
        "Retighten what is inside now: throttle plate, bowl, adapter and bracket screws.",
        "What works loose in there goes through the engine.", 4, tools=("screwdrivers",),
        takes=("medium thread-locker",), secured=Secured.LOCKER,
        good="None turns; plate screws peened or locked.",
        bad="One turns: out, clean, locker, in.", after=tuple(after),
    )  # fmt: skip


def _gap(case: FitCase) -> Step:
    each = f", all {case.set.cylinders}" if case.set.cylinders > 1 else ""
    plug = case.set.plug
    told = plug.gap_gas
    least, most = (told.value - GAP_PLAY_M, told.value + GAP_PLAY_M) if told else GAP_M
    same = "Same or colder heat range" + (f" than {plug.heat}" if plug.heat else "")
    kind = f" {plug.type}" if plug.type else ""
    noise = {True: ", with its resistor", False: ", without a resistor as it was"}
    return Step(
        "plug_gap", "plug", Phase.WORK, Place.ENGINE,
        f"Spark plug{kind} out{each}: look at it, set the gap for gas, back in.",
        "Gas needs more voltage to fire: "
        + ("this is the maker's gap for gas. " if told else
           "use the maker's gap for gas, or this one if there is none. ")
        + f"{same}{noise.get(plug.resistor, '') if plug.resistor is not None else ''}.",
        5 * case.set.cylinders,
        tools=("spark-plug socket", "feeler gauge"),
        measures=(StepMeasure("gap, at least", least, "small_length", "gap"),
                  StepMeasure("gap, at most", most, "small_length", "gap")),
        of=(f"{told.value:.5f}",) if told else (),
        good="Tan and dry; started by hand, then half a turn on a new washer.",
        bad="Wet, white or blistered: that is a find.", after=("plug_boot",),
        photo="the plug's face",
    )  # fmt: skip

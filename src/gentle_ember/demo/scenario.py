"""The eight jobs of Kettlebank Engine Works in Pellowmere; every name here is made up."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.shop import ShopFront
from gentle_ember.demo.steps import DemoJob, agreed, done, measured, owner, signed, waiting
from gentle_ember.demo.steps import data_sheet as plate
from gentle_ember.units.registry import System

PEOPLE: dict[str, System] = {"Runa Kestle": "us"}
"""Who works in the demo; with a second one everybody would sign in first."""

FRONT = ShopFront(
    name="Kettlebank Engine Works",
    address="4 Millrace\nPellowmere",
    contact="bench@kettlebank.example",
    license="LP-0417, PM-118",
    rate=85.0,
    tax=0.06,
    terms="Payable in 14 days. Deposits come back with the old part.",
)
"""The shop of the scenario, as its papers name it."""

LAMBING = DemoJob(
    "lambing",
    "Lambing clinic trailer",
    "Runa Kestle",
    (
        {
            "owner": "Upper Fold lambing clinic",
            "wish": "Heat lamps and the vaccine fridge through cold nights, without gasoline cans.",
            "set.maker": "Drovane",
            "set.model": "Linnet 3200i",
            "set.set_class": "inverter",
            "set.running": plate("3200 W"),
            "set.starting": plate("3500 W"),
            "set.displacement": plate("171 cc"),
            "set.volts": plate("120 V"),
            "set.hertz": plate("60 Hz"),
            "set.tank": plate("1.6 gal"),
            "set.gasoline": "e10",
            "set.carburetor.type": "float",
            "set.carburetor.fuel_solenoid": False,
        },
        {
            "set.run_times.full": {
                "load": {"value": 3200.0, "origin": "data_sheet", "typed": "3200 W"},
                "duration": {"value": 10440.0, "origin": "data_sheet", "typed": "2.9 h"},
                "volume": None,
            },
            "set.run_times.quarter": {
                "load": {"value": 800.0, "origin": "data_sheet", "typed": "800 W"},
                "duration": {"value": 27720.0, "origin": "data_sheet", "typed": "7.7 h"},
                "volume": None,
            },
        },
        {
            "sites.s1.name": "Upper Fold",
            "sites.s1.elevation": measured("2000 ft"),
            "sites.s1.coldest": owner("-12 °C"),
            "sites.s1.hottest": owner("24 °C"),
            "sites.s1.humidity": owner("70 %"),
            "sites.s1.cylinders.c1": {"size": "20", "count": 1, "shelter": "still_air"},
            "sites.s1.cylinders.c2": {"size": "30", "count": 1, "shelter": "still_air"},
            "load.planned": measured("1450 W"),
            "load.largest_start": measured("2560 W"),
            "load.note": "Four heat lamps, fridge, kettle off the list at night.",
        },
        {
            "stages.intake": done("Runa Kestle", "2026-11-16"),
            "stages.method": done("Runa Kestle", "2026-11-17", "Spacer adapter; keeps the choke."),
            "stages.fuel_path": {"state": "under_way"},
        },
    ),
)

CINEMA = DemoJob(
    "cinema",
    "Cinema tent beside the parish hall",
    "Odo Marlin",
    (
        {
            "owner": "Pellowmere parish film society",
            "wish": "Run on the hall's gas during screenings, gasoline as a fall-back.",
            "set.maker": "Wexlet",
            "set.model": "Holm 6500",
            "set.set_class": "open_frame",
            "set.running": plate("6500 W"),
            "set.starting": plate("8125 W"),
            "set.displacement": plate("420 cc"),
            "set.shaft_power": plate("11.5 hp"),
            "set.volts": plate("120 V"),
            "set.hertz": plate("60 Hz"),
            "set.tank": plate("25 L"),
            "sites.s1.name": "Parish hall",
            "sites.s1.elevation": measured("140 m"),
            "sites.s1.coldest": owner("-4 °C"),
            "sites.s1.hottest": owner("31 °C"),
            "sites.s1.gases.g1": {
                "kind": "natural_gas",
                "hhv": {"value": 38.6e6, "origin": "data_sheet", "typed": "38.6 MJ/m³"},
            },
            "sites.s1.note": "Stub at the hall's north wall, 22 m from the tent.",
            "load.planned": measured("3.4 kW"),
            "load.largest_start": measured("5.9 kW"),
        },
        {
            "stages.intake": done("Odo Marlin", "2026-11-12"),
            "stages.method": done("Odo Marlin", "2026-11-13", "Spacer adapter on natural gas."),
            "stages.fuel_path": waiting("fitter", "Licensed fitter to set the tee and shut-off."),
        },
    ),
)

HONEY = DemoJob(
    "honey",
    "Honey cooperative's extracting trailer",
    "Tamsin Quay",
    (
        {
            "owner": "Marl Lane honey cooperative",
            "wish": "A day's extracting without refueling: remote tank on the trailer floor.",
            "set.maker": "Drovane",
            "set.model": "Wren 2000i",
            "set.set_class": "inverter_small",
            "set.running": plate("1600 W"),
            "set.starting": plate("2000 W"),
            "set.displacement": plate("79 cc"),
            "set.shaft_power": plate("2.4 kW"),
            "set.alternator_efficiency": plate("84 %"),
            "set.volts": plate("120 V"),
            "set.tank": plate("3.8 L"),
            "sites.s1.name": "Marl Lane apiary",
            "sites.s1.elevation": measured("590 ft"),
            "sites.s1.coldest": owner("4 °C"),
            "sites.s1.hottest": owner("31 °C"),
            "load.planned": measured("120 V × 6.5 A"),
            "load.largest_start": measured("1.5 kW"),
        },
        {
            "stages.intake": done("Tamsin Quay", "2026-11-09"),
            "stages.method": done("Tamsin Quay", "2026-11-10", "Pump feed, tank on the ground."),
            "stages.fuel_path": waiting("parts", "Pulse pump and fuel coupler on order."),
        },
    ),
)

STARS = DemoJob(
    "stars",
    "Star-party hut",
    "Runa Kestle",
    (
        {
            "owner": "High Sill astronomers",
            "wish": "Re-jet for the ridge, propane for quiet nights; comes down to the valley too.",
            "set.maker": "Tumbrick",
            "set.model": "Fell 3600",
            "set.set_class": "open_frame",
            "set.running": plate("3000 W"),
            "set.starting": plate("3600 W"),
            "set.displacement": plate("212 cc"),
            "set.volts": plate("120 V"),
            "set.tank": plate("15 L"),
            "set.carburetor.type": "float",
            "set.carburetor.jetted_at": owner("0 ft"),
            "sites.s1.name": "High Sill ridge",
            "sites.s1.elevation": measured("2450 m"),
            "sites.s1.coldest": measured("-12 °C"),
            "sites.s1.hottest": owner("18 °C"),
            "sites.s1.cylinders.c1": {"size": "20", "count": 2, "shelter": "breeze"},
            "sites.s1.cylinders.c1.distance": measured("2 m"),
            "sites.s1.cylinders.c1.stamped": "04 21",
            "sites.s1.cylinders.c1.stamp": "made",
            "sites.s1.quiet_hours": "22 to 7, for the hut next to it",
            "sites.s1.neighbor": measured("60 m"),
            "sites.s1.quiet_limit": owner("47 dB"),
            "set.sound_level": plate("66 dB(A)"),
            "set.carburetor.jets.made_on": "e10",
            "load.planned": measured("900 W"),
            "load.largest_start": owner("1400 W"),
        },
        {
            "sites.s2": {
                "name": "Valley workshop",
                "cylinders": {"c1": {"size": "20", "count": 1, "shelter": "still_air"}},
            },
            "sites.s2.cylinders.c1.distance": measured("2 m"),
            "sites.s2.elevation": owner("1,150 ft"),
            "sites.s2.coldest": owner("-2 °C"),
            "sites.s2.hottest": owner("28 °C"),
        },
        {
            "set.weigh_ins.w1": {
                "fuel": "gasoline",
                "before": {"value": 31.4, "origin": "measured", "typed": "31.4 kg"},
                "after": {"value": 29.62, "origin": "measured", "typed": "29.62 kg"},
                "energy": {"value": 6.48e6, "origin": "measured", "typed": "1.8 kWh"},
                "duration": {"value": 7200.0, "origin": "measured", "typed": "2 h"},
            },
            "stages.intake": done("Runa Kestle", "2026-11-03"),
            "stages.method": done("Runa Kestle", "2026-11-04", "Re-jet, then spacer adapter."),
            "stages.fuel_path": done("Runa Kestle", "2026-11-06"),
            "stages.fit": done("Runa Kestle", "2026-11-18"),
            "stages.prove_tight": done("Odo Marlin", "2026-11-18"),
            "stages.first_start": waiting("test", "Needs a clear night on the ridge."),
        },
    ),
)

CIDER = DemoJob(
    "cider",
    "Cider barn with a digester",
    "Odo Marlin",
    (
        {
            "owner": "Bramble Row cider barn",
            "wish": "Burn the digester's gas for the press and the cold room.",
            "set.maker": "Wexlet",
            "set.model": "Stead 5000",
            "set.set_class": "open_frame",
            "set.running": plate("5000 W"),
            "set.starting": plate("6250 W"),
            "set.displacement": plate("389 cc"),
            "set.volts": plate("240 V"),
            "set.tank": plate("6.6 gal"),
            "sites.s1.name": "Bramble Row",
            "sites.s1.elevation": owner("310 m"),
            "sites.s1.coldest": owner("-6 °C"),
            "sites.s1.hottest": owner("29 °C"),
            "sites.s1.gases.g1": {
                "kind": "biogas",
                "methane": {"value": 0.58, "origin": "measured", "typed": "58 %"},
            },
            "sites.s1.note": "Hydrogen sulfide not yet measured; gas not yet dried.",
            "load.planned": owner("2.9 kW"),
            "load.largest_start": owner("4.8 kW"),
        },
        {
            "stages.intake": done("Odo Marlin", "2026-11-11"),
            "stages.method": waiting("owner", "Gas analysis and a word on the warranty."),
        },
    ),
)


def amps(value: float) -> dict[str, Any]:
    """A breaker as its mark says [A]."""
    return {"value": value, "origin": "data_sheet", "typed": f"{value:g} A"}


def plugged(name: str, kind: str, watts: float, outlet: str) -> dict[str, Any]:
    """A load in a receptacle of the set, as the owner gives its watts."""
    running = {"value": watts, "origin": "owner", "typed": f"{watts:,.0f} W"}
    return {"name": name, "kind": kind, "running": running, "outlet": outlet}


LIBRARY = DemoJob(
    "library",
    "Tool library's big twin",
    "Tamsin Quay",
    (
        {
            "owner": "Pellowmere tool library",
            "wish": "Propane and natural gas, lent out by the weekend; nobody to choke it.",
            "set.maker": "Tumbrick",
            "set.model": "Crag 11000",
            "set.set_class": "v_twin",
            "set.running": plate("11 kW"),
            "set.starting": plate("13.5 kW"),
            "set.displacement": plate("680 cc"),
            "set.shaft_power": plate("22 hp"),
            "set.cylinders": 2,
            "set.volts": plate("240 V"),
            "set.hertz": plate("60 Hz"),
            "set.tank": plate("9.5 gal"),
            "set.carburetor.type": "two_barrel",
            "set.carburetor.fuel_solenoid": True,
            "sites.s1.name": "Weir Street store",
            "sites.s1.elevation": measured("95 m"),
            "sites.s1.coldest": owner("-8 °C"),
            "sites.s1.hottest": owner("30 °C"),
            "sites.s1.cylinders.c1": {
                "size": "100",
                "count": 2,
                "weighed": {"value": 74.0, "origin": "measured", "typed": "163 lb"},
                "tare": {"value": 31.3, "origin": "measured", "typed": "69 lb"},
                "shelter": "still_air",
            },
            "sites.s1.cylinders.c1.distance": measured("2 m"),
            "sites.s1.gases.g1": {"kind": "natural_gas"},
            "load.planned": owner("6.2 kW"),
            "load.largest_start": owner("10.4 kW"),
            "set.outlets.o1": {"name": "front left", "breaker": amps(20), "leg": "a"},
            "set.outlets.o2": {"name": "front right", "breaker": amps(20), "leg": "b"},
            "set.outlets.o3": {"name": "four-pin", "breaker": amps(30), "leg": "both"},
            "load.appliances.a1": plugged("stage lights", "resistive", 1800.0, "o1"),
            "load.appliances.a2": plugged("coffee urn", "resistive", 1500.0, "o2"),
            "load.appliances.a3": plugged("refrigerator", "fridge", 300.0, "o1"),
            "load.appliances.a4": plugged("well pump", "pump", 2000.0, "o3"),
            "load.appliances.a5": plugged("air compressor", "motor_tool", 600.0, "o3"),
        },
        {
            "stages.intake": done("Tamsin Quay", "2026-10-29"),
            "stages.method": done("Tamsin Quay", "2026-10-30", "Two-barrel adapter, lock-off."),
            "stages.fuel_path": done("Tamsin Quay", "2026-11-02"),
            "stages.fit": {"state": "under_way"},
        },
    ),
)

CHOIR = DemoJob(
    "choir",
    "Choir stage",
    "Runa Kestle",
    (
        {
            "owner": "Lantern Close choir",
            "wish": "Factory dual-fuel set gains natural gas for the summer stage.",
            "set.maker": "Wexlet",
            "set.model": "Duo 4500",
            "set.set_class": "dual_fuel",
            "set.running": plate("4500 W"),
            "set.starting": plate("5600 W"),
            "set.displacement": plate("274 cc"),
            "set.volts": plate("120 V"),
            "set.tank": plate("3.4 gal"),
            "set.carburetor.type": "multi_fuel",
            "set.gas_port": "3/8",
            "sites.s1.name": "Lantern Close green",
            "sites.s1.elevation": measured("260 ft"),
            "sites.s1.coldest": owner("6 °C"),
            "sites.s1.hottest": owner("31 °C"),
            "sites.s1.cylinders.c1": {
                "size": "20",
                "count": 1,
                "fill": {"value": 6.8, "origin": "owner", "typed": "15 lb"},
                "shelter": "breeze",
            },
            "sites.s1.gases.g1": {"kind": "natural_gas"},
            "load.planned": measured("2.1 kW"),
            "load.largest_start": measured("2.6 kW"),
        },
        {
            **signed(
                "Runa Kestle",
                intake="2026-10-05",
                method="2026-10-05",
                fuel_path="2026-10-07",
                fit="2026-10-20",
                prove_tight="2026-10-20",
                first_start="2026-10-21",
                load_test="2026-10-21",
            ),
            **agreed("Runa Kestle", "load_joined", "neutral", "gfci", "appliances"),
            "hand_over.core.what": "carburetor as found",
            "hand_over.core.deposit": owner("45"),
            "stages.hand_over": waiting("core_return", "Old carburetor goes back for its deposit."),
        },
    ),
)

CLOCK = DemoJob(
    "clock",
    "Clock-tower restorer's old set",
    "Tamsin Quay",
    (
        {
            "owner": "Ferris Alder, clock restorer",
            "wish": "It has not run for six years. Make it run, then propane.",
            "set.maker": "Drovane",
            "set.model": "Marten 2.5",
            "set.set_class": "open_frame",
            "set.running": owner("2500 W"),
            "set.carburetor.type": "float",
            "set.note": "Float bowl dry, line perished, no sheet to be found.",
            "sites.s1.name": "Clock yard",
            "sites.s1.elevation": owner("480 ft"),
            "sites.s1.cylinders.c1": {"size": "20", "count": 1, "shelter": "closed_locker"},
            "stages.intake": {"state": "under_way"},
        },
    ),
)

FERRY = DemoJob(
    "ferry",
    "Weir ferry's landing hut",
    "Odo Marlin",
    (
        {
            "owner": "Weir ferry, Jory Pell",
            "wish": "A slow, quiet set by the landing that carries the hut through winter nights.",
            "set.maker": "Tumbrick",
            "set.model": "Slow Six",
            "set.set_class": "low_speed",
            "set.running": plate("3200 W"),
            "set.starting": plate("3800 W"),
            "set.displacement": plate("420 cc"),
            "set.volts": plate("120 V"),
            "set.hertz": plate("60 Hz"),
            "set.tank": plate("4.0 gal"),
            "set.gasoline": "e10",
            "set.carburetor.type": "float",
            "set.carburetor.fuel_solenoid": False,
        },
        {
            "sites.s1.name": "Weir landing",
            "sites.s1.elevation": measured("180 ft"),
            "sites.s1.coldest": owner("-6 °C"),
            "sites.s1.hottest": owner("29 °C"),
            "sites.s1.cylinders.c1": {"size": "30", "count": 1, "shelter": "breeze"},
            "sites.s1.cylinders.c1.distance": measured("6 ft"),
            "load.planned": measured("1300 W"),
            "load.largest_start": measured("2.4 kW"),
        },
        {
            **signed(
                "Odo Marlin",
                intake="2026-04-28",
                method="2026-04-28",
                fuel_path="2026-05-04",
                fit="2026-05-11",
                prove_tight="2026-05-11",
                first_start="2026-05-12",
                load_test="2026-05-12",
            ),
            **agreed("Odo Marlin", "load_joined", "neutral", "gfci", "appliances"),
        },
    ),
)

JOBS = (LAMBING, CINEMA, HONEY, STARS, CIDER, LIBRARY, CHOIR, CLOCK, FERRY)

// Written from the core by `make types`; not to be edited.

export const STAGES = [
  {"key": "intake", "name": "Intake"},
  {"key": "method", "name": "Method"},
  {"key": "fuel_path", "name": "Fuel path"},
  {"key": "fit", "name": "Fit"},
  {"key": "prove_tight", "name": "Prove tight"},
  {"key": "first_start", "name": "First start"},
  {"key": "load_test", "name": "Load test"},
  {"key": "hand_over", "name": "Hand over"},
  {"key": "logbook", "name": "Logbook"}
] as const;

export const PAGES = [
  {"page": "intake/set", "name": "Set", "stage": "intake", "views": "", "facts": ["set", "set.carburetor.jetted_at", "title", "owner"], "tab": true},
  {"page": "intake/machine", "name": "Machine", "stage": "intake", "views": "walk", "facts": ["set.studs", "set.stack", "set.faces", "set.in_the_way", "set.carburetor", "set.plug", "set.fuel_line", "set.frame_number", "set.engine_number", "set.engine_family", "set.generation", "set.trim", "set.year", "set.brand_new", "set.hours", "set.idle", "set.last_oil", "set.faults", "set.shut_off", "set.tank_vent", "set.run_switch", "set.switches", "set.electric_start", "set.rated_speed", "set.drives", "set.factory_gas", "set.gas_port"], "tab": true},
  {"page": "intake/walk", "name": "Walk-round", "stage": "intake", "views": "inspection", "facts": ["findings"], "tab": true},
  {"page": "intake/wish", "name": "Wish", "stage": "intake", "views": "legs,outlets,motors,known_loads", "facts": ["load", "wants", "wish"], "tab": true},
  {"page": "intake/site", "name": "Site", "stage": "intake", "views": "noise", "facts": ["sites", "site"], "tab": true},
  {"page": "intake/sketch", "name": "Sketch", "stage": "intake", "views": "sketch", "facts": ["sites.*.sketch"], "tab": true},
  {"page": "intake/record", "name": "Record", "stage": "intake", "views": "", "facts": [], "tab": true},
  {"page": "method/compare", "name": "Compare", "stage": "method", "views": "methods", "facts": ["choice"], "tab": true},
  {"page": "method/output", "name": "Output", "stage": "method", "views": "output,runs", "facts": ["schools"], "tab": true},
  {"page": "method/cylinder", "name": "Cylinder", "stage": "method", "views": "", "facts": [], "tab": true},
  {"page": "method/ways", "name": "Ways", "stage": "method", "views": "ways", "facts": ["ways"], "tab": true},
  {"page": "method/states", "name": "Fuel states", "stage": "method", "views": "states,methods", "facts": [], "tab": true},
  {"page": "method/record", "name": "Record", "stage": "method", "views": "", "facts": [], "tab": true},
  {"page": "fuel_path/train", "name": "Train", "stage": "fuel_path", "views": "path", "facts": ["trains", "parts"], "tab": true},
  {"page": "fuel_path/stack", "name": "Stack", "stage": "fuel_path", "views": "stack", "facts": [], "tab": true},
  {"page": "fuel_path/parts", "name": "Parts list", "stage": "fuel_path", "views": "bill", "facts": ["arrived", "kit"], "tab": true},
  {"page": "fuel_path/house", "name": "House pipe", "stage": "fuel_path", "views": "house", "facts": ["sites.*.gases.*.house"], "tab": true},
  {"page": "fuel_path/found", "name": "As found", "stage": "fuel_path", "views": "path", "facts": ["trains.as_found"], "tab": true},
  {"page": "fuel_path/ready", "name": "Readiness", "stage": "fuel_path", "views": "rests", "facts": ["confirmed"], "tab": true},
  {"page": "fuel_path/record", "name": "Record", "stage": "fuel_path", "views": "", "facts": [], "tab": true},
  {"page": "fit/sheet", "name": "Sheet", "stage": "fit", "views": "fit", "facts": ["fit"], "tab": true},
  {"page": "fit/take", "name": "Take along", "stage": "fit", "views": "fit", "facts": ["fit.packed"], "tab": true},
  {"page": "fit/marks", "name": "Marks", "stage": "fit", "views": "marks", "facts": ["marks"], "tab": true},
  {"page": "fit/map", "name": "Screws and holes", "stage": "fit", "views": "fit", "facts": ["fit.fasteners", "fit.left", "fit.back", "fit.gaskets", "fit.nuts"], "tab": true},
  {"page": "fit/joints", "name": "Joints", "stage": "fit", "views": "fit", "facts": [], "tab": true},
  {"page": "fit/record", "name": "Record", "stage": "fit", "views": "", "facts": [], "tab": true},
  {"page": "fit/bench", "name": "Bench mode", "stage": "fit", "views": "fit", "facts": [], "tab": false},
  {"page": "prove_tight/leaks", "name": "Leak test", "stage": "prove_tight", "views": "proofs", "facts": ["proof", "fit.tight"], "tab": true},
  {"page": "prove_tight/record", "name": "Record", "stage": "prove_tight", "views": "", "facts": [], "tab": true},
  {"page": "first_start/start", "name": "Start", "stage": "first_start", "views": "starts", "facts": ["starts"], "tab": true},
  {"page": "first_start/metering", "name": "Metering", "stage": "first_start", "views": "metering", "facts": ["metering"], "tab": true},
  {"page": "first_start/record", "name": "Record", "stage": "first_start", "views": "", "facts": [], "tab": true},
  {"page": "load_test/test", "name": "Load test", "stage": "load_test", "views": "load_tests,jets", "facts": ["load_tests"], "tab": true},
  {"page": "load_test/jets", "name": "Jets", "stage": "load_test", "views": "jets,load_tests", "facts": ["set.carburetor.jets.fitted"], "tab": true},
  {"page": "load_test/joint", "name": "Joint estimate", "stage": "load_test", "views": "joint", "facts": [], "tab": true},
  {"page": "load_test/record", "name": "Record", "stage": "load_test", "views": "", "facts": [], "tab": true},
  {"page": "hand_over/close", "name": "Closing", "stage": "hand_over", "views": "closing", "facts": ["hand_over", "hand_over.core"], "tab": true},
  {"page": "hand_over/teach", "name": "Teaching", "stage": "hand_over", "views": "drills", "facts": ["hand_over.drills"], "tab": true},
  {"page": "hand_over/cards", "name": "Cards", "stage": "hand_over", "views": "cards", "facts": [], "tab": true},
  {"page": "hand_over/price", "name": "Price", "stage": "hand_over", "views": "invoice", "facts": ["hand_over.invoice"], "tab": true},
  {"page": "hand_over/move", "name": "Moving", "stage": "hand_over", "views": "moves", "facts": ["hand_over.arrivals"], "tab": true},
  {"page": "hand_over/record", "name": "Record", "stage": "hand_over", "views": "", "facts": [], "tab": true},
  {"page": "logbook/runs", "name": "Runs", "stage": "logbook", "views": "logbook", "facts": ["logbook.runs", "logbook"], "tab": true},
  {"page": "logbook/upkeep", "name": "Upkeep", "stage": "logbook", "views": "logbook", "facts": ["logbook.upkeep"], "tab": true},
  {"page": "logbook/stock", "name": "Stock", "stage": "logbook", "views": "logbook", "facts": ["logbook.cylinders", "logbook.cans"], "tab": true},
  {"page": "logbook/record", "name": "Record", "stage": "logbook", "views": "", "facts": [], "tab": true}
] as const;

export const FUELS = [
  {"key": "gasoline", "name": "gasoline", "letter": "G", "hatch": "plain", "source": "tank"},
  {"key": "propane", "name": "propane", "letter": "P", "hatch": "slanted", "source": "cylinder"},
  {"key": "natural_gas", "name": "natural gas", "letter": "N", "hatch": "level", "source": "house"},
  {"key": "biogas", "name": "biogas", "letter": "B", "hatch": "dotted", "source": "digester"}
] as const;

export const LETTERS: Record<string, string> = {"gasoline": "G", "propane": "P", "natural_gas": "N", "biogas": "B"};

export const STAGE_NAMES: Record<string, string> = {"intake": "Intake", "method": "Method", "fuel_path": "Fuel path", "fit": "Fit", "prove_tight": "Prove tight", "first_start": "First start", "load_test": "Load test", "hand_over": "Hand over", "logbook": "Logbook"};

export const USUAL_LOADS = [
  {"name": "refrigerator", "kind": "fridge", "running": 180.0, "starting": 1200.0, "power_factor": 0.8, "both_legs": false},
  {"name": "chest freezer", "kind": "fridge", "running": 150.0, "starting": 1200.0, "power_factor": 0.8, "both_legs": false},
  {"name": "sump pump, 1/3 hp", "kind": "pump", "running": 700.0, "starting": 2200.0, "power_factor": 0.8, "both_legs": false},
  {"name": "sump pump, 1/2 hp", "kind": "pump", "running": 1050.0, "starting": 3300.0, "power_factor": 0.8, "both_legs": false},
  {"name": "well pump, 1/2 hp", "kind": "pump", "running": 1000.0, "starting": 3300.0, "power_factor": 0.8, "both_legs": false},
  {"name": "well pump, 1 hp, 240 V", "kind": "pump", "running": 2000.0, "starting": 6600.0, "power_factor": 0.8, "both_legs": true},
  {"name": "furnace blower, 1/2 hp", "kind": "motor_tool", "running": 700.0, "starting": 2100.0, "power_factor": 0.8, "both_legs": false},
  {"name": "window air conditioner, 8,000 BTU/h", "kind": "window_ac", "running": 900.0, "starting": 3000.0, "power_factor": 0.9, "both_legs": false},
  {"name": "garage door opener", "kind": "motor_tool", "running": 550.0, "starting": 1400.0, "power_factor": 0.75, "both_legs": false},
  {"name": "microwave oven", "kind": "electronic", "running": 1500.0, "starting": null, "power_factor": 0.95, "both_legs": false},
  {"name": "coffee maker", "kind": "resistive", "running": 1000.0, "starting": null, "power_factor": null, "both_legs": false},
  {"name": "kettle", "kind": "resistive", "running": 1500.0, "starting": null, "power_factor": null, "both_legs": false},
  {"name": "space heater", "kind": "resistive", "running": 1500.0, "starting": null, "power_factor": null, "both_legs": false},
  {"name": "water heater, 240 V", "kind": "resistive", "running": 4500.0, "starting": null, "power_factor": null, "both_legs": true},
  {"name": "heat lamp", "kind": "resistive", "running": 250.0, "starting": null, "power_factor": null, "both_legs": false},
  {"name": "lights, ten LED bulbs", "kind": "electronic", "running": 100.0, "starting": null, "power_factor": 0.7, "both_legs": false},
  {"name": "television", "kind": "electronic", "running": 150.0, "starting": null, "power_factor": 0.9, "both_legs": false},
  {"name": "router and laptop", "kind": "electronic", "running": 120.0, "starting": null, "power_factor": 0.65, "both_legs": false},
  {"name": "breathing aid", "kind": "electronic", "running": 60.0, "starting": null, "power_factor": 0.65, "both_legs": false},
  {"name": "battery charger, 12 V, 15 A", "kind": "electronic", "running": 380.0, "starting": null, "power_factor": 0.65, "both_legs": false},
  {"name": "circular saw, 7-1/4 in", "kind": "motor_tool", "running": 1400.0, "starting": 3500.0, "power_factor": 0.9, "both_legs": false},
  {"name": "air compressor, 1 hp", "kind": "motor_tool", "running": 1600.0, "starting": 5000.0, "power_factor": 0.8, "both_legs": false},
  {"name": "pressure washer", "kind": "motor_tool", "running": 1500.0, "starting": 4000.0, "power_factor": 0.85, "both_legs": false}
] as const;

export const QUICK = [
  {"name": "derate", "title": "Derate"},
  {"name": "run-time", "title": "Run time"},
  {"name": "cylinder", "title": "Cylinder"},
  {"name": "gas-pipe", "title": "Gas pipe"},
  {"name": "meter-clock", "title": "Meter clock"},
  {"name": "load-screw-start", "title": "Load screw"},
  {"name": "gas-change", "title": "Gas change"},
  {"name": "joint-finder", "title": "Joint finder"},
  {"name": "coupler-loss", "title": "Hose and coupler"},
  {"name": "gravity-feed", "title": "Gravity feed"},
  {"name": "rpm-from-sound", "title": "Speed by sound"},
  {"name": "u-tube", "title": "U-tube"},
  {"name": "leak-decay", "title": "Leak by decay"},
  {"name": "jet", "title": "Main jet"},
  {"name": "plug", "title": "Plug"},
  {"name": "orifice", "title": "Gas orifice"},
  {"name": "convert", "title": "Convert"}
] as const;

export const CLASSES = [
  ["inverter_small", "enclosed inverter, to 2 kW"],
  ["inverter", "enclosed inverter, over 2 kW"],
  ["open_frame", "open frame, 3,600 rpm"],
  ["v_twin", "V-twin, 8 kW and up"],
  ["low_speed", "1,500 or 1,800 rpm"],
  ["dual_fuel", "factory dual-fuel"],
  ["engine", "bare engine, no alternator"]
] as const;

export const GASOLINES = [
  ["e10", "E10 (10 % ethanol)"],
  ["e0", "E0 (no ethanol)"],
  ["e15", "E15 (15 % ethanol)"],
  ["e85", "E85 (up to 85 % ethanol)"]
] as const;

export const JETTED_ON = [
  ["unknown", "not known: taken as E0"],
  ["e0", "E0 (no ethanol)"],
  ["e10", "E10 (10 % ethanol)"]
] as const;

export const PHASES = [
  [1, "single"],
  [3, "three"]
] as const;

export const CYLINDER_COUNTS = [
  [1, "one"],
  [2, "two"],
  [3, "three"],
  [4, "four"]
] as const;

export const STAMPS = [
  ["unknown", "not looked at"],
  ["made", "the date it was made"],
  ["plain", "a later date, no letter"],
  ["s", "a later date and S"],
  ["e", "a later date and E"]
] as const;

export const SHELTERS = [
  ["still_air", "still air"],
  ["breeze", "a breeze"],
  ["closed_locker", "closed locker"]
] as const;

export const SCHOOLS = [
  ["field_rule", "field rule"],
  ["physics", "physics"]
] as const;

export const WAITS = [
  ["parts", "parts"],
  ["owner", "the owner"],
  ["fitter", "a licensed fitter"],
  ["test", "a test day"],
  ["core_return", "return of the core"],
  ["nothing", "ready to work on"]
] as const;

export const WEIGHED_FUELS = [
  ["propane", "propane"],
  ["gasoline", "gasoline"]
] as const;

export const APPLIANCES = [
  ["resistive", "heater, lamp"],
  ["electronic", "electronic"],
  ["fridge", "fridge, freezer"],
  ["pump", "pump"],
  ["window_ac", "window air conditioner"],
  ["soft_started", "soft-started motor"],
  ["motor_tool", "motor tool"]
] as const;

export const LEGS = [
  ["", "leg not said"],
  ["a", "leg A"],
  ["b", "leg B"],
  ["c", "leg C"],
  ["both", "across all legs"]
] as const;

export const MUST = [
  [true, "must run"],
  [false, "nice to have"]
] as const;

export const STORAGE = [
  ["unknown", "not asked"],
  ["outdoors", "outdoors"],
  ["ventilated_shed", "ventilated shed"],
  ["indoors", "indoors"]
] as const;

export const ASKED = [
  [null, "not asked"],
  [true, "yes"],
  [false, "no"]
] as const;

export const BEHIND = [
  ["unknown", "not looked"],
  ["nothing", "nothing"],
  ["structure", "a sub-structure"],
  ["wiring", "wiring"],
  ["tank", "the tank"],
  ["exhaust", "the exhaust"]
] as const;

export const IN_THE_WAY = [
  ["canister", "vapor canister"],
  ["cover", "a cover or panel"],
  ["breather", "breather hose"],
  ["air_box", "air box"],
  ["exhaust", "exhaust"],
  ["wiring", "wiring"],
  ["other", "something else"]
] as const;

export const REMEDY = [
  ["none", "nothing, or undecided"],
  ["move", "move it"],
  ["replace", "replace it"],
  ["cut", "cut it"]
] as const;

export const DECISIONS = [
  ["open", "not decided"],
  ["rebuild", "rebuild or clean"],
  ["replace", "replace"],
  ["order", "order, go on meanwhile"],
  ["stop", "stop the job"]
] as const;

export const LOOKS = [
  ["good", "good"],
  ["watch", "watch"],
  ["bad", "bad"],
  ["not_looked", "not looked"]
] as const;

export const STUBS = [
  ["unknown", "not known"],
  ["1/2", "1/2 in NPT"],
  ["3/4", "3/4 in NPT"],
  ["1", "1 in NPT"],
  ["1-1/4", "1-1/4 in NPT"]
] as const;

export const HOLE_SOURCES = [
  ["", "as the catalog states"],
  ["measured", "measured on the part"],
  ["transferred", "marked through the part"]
] as const;

export const REGULATOR_ON = [
  ["", "as usual"],
  ["cylinder", "on the cylinder"],
  ["frame", "on the frame"],
  ["cover", "on a removable cover"]
] as const;

export const TAKE_OFFS = [
  ["unknown", "not known"],
  ["stub", "capped stub left for it"],
  ["meter", "tee after the meter"],
  ["appliance", "tee at an appliance's line"],
  ["outlet", "quick outlet on the wall"]
] as const;

export const TAPPED_BY = [
  ["fitter", "licensed fitter"],
  ["owner", "owner, as local code allows"]
] as const;

export const FIND_DECISIONS = [
  ["open", "not decided"],
  ["go_on", "go on"],
  ["order", "ordered"],
  ["stop", "stop"]
] as const;

export const MOUNT_FACES = [
  ["panel", "panel, drilled"],
  ["tube", "frame tube, clamped"]
] as const;

export const STANDS = [
  [true, "upright"],
  [false, "lying"]
] as const;

export const REACHES = [
  ["front", "the front"],
  ["left", "the left"],
  ["right", "the right"],
  ["top", "above"],
  ["bottom", "below"]
] as const;

export const MATERIALS = [
  ["steel", "steel"],
  ["aluminum", "aluminum"],
  ["plastic", "plastic"],
  ["composite", "composite"]
] as const;

export const SIDES = [
  ["behind", "behind the face"],
  ["front", "before the face"]
] as const;

export const RAN = [
  ["smooth", "smooth"],
  ["hunting", "hunting"],
  ["rough", "rough"],
  ["died", "it died"]
] as const;

export const PLUG_TINTS = [
  ["", "plug not read"],
  ["light", "plug white or blistered"],
  ["tan", "plug tan"],
  ["sooty", "plug sooty"]
] as const;

export const SMELLS = [
  ["", "not said"],
  ["none", "nothing"],
  ["gas", "gas"],
  ["hot", "hot"]
] as const;

export const THROTTLE_OPENED = [
  ["", "not looked"],
  ["yes", "seen to open"],
  ["no", "did not open"]
] as const;

export const LOAD_LEGS = [
  ["any", "either leg"],
  ["a", "leg A"],
  ["b", "leg B"],
  ["c", "leg C"],
  ["both", "across all legs"]
] as const;

export const PLUG_BEFORE = [
  ["", "not noted"],
  ["new", "new"],
  ["clean", "burnt clean"],
  ["as_was", "left as it was"]
] as const;

export const SEEN = [
  [null, "not looked at"],
  [true, "yes"],
  [false, "no"]
] as const;

export const SEALS = [
  [null, "not looked at"],
  ["hand", "hand tight"],
  ["wrench", "wrench"],
  ["tape", "gas-rated tape or compound"],
  ["plumbers_tape", "plumber's tape, or any other"],
  ["dry", "dry"],
  ["clamp", "clamp"],
  ["click", "coupler, clicked"],
  ["gasket", "gasket"],
  ["found", "something else"]
] as const;

export const SECURED = [
  ["", "not said"],
  ["torque", "torque"],
  ["locker", "thread-locker"],
  ["washer", "lock washer"],
  ["none", "nothing"]
] as const;

export const GASKETS = [
  ["", "not said"],
  ["new", "new"],
  ["reused", "the old ones once more"]
] as const;

export const NUTS = [
  ["", "not said"],
  ["full", "full, every one"],
  ["short", "one or more short of its stud"]
] as const;

export const LEFT_KINDS = [
  ["hole", "hole"],
  ["cut", "cut"],
  ["bent", "bend"],
  ["removed", "something taken off"]
] as const;

export const LEFT_STATES = [
  ["used", "in use"],
  ["abandoned", "abandoned, open"],
  ["closed", "closed"]
] as const;

export const UNDOING = [
  ["unknown", "not said"],
  ["yes", "can be undone"],
  ["partly", "in part"],
  ["no", "can not"]
] as const;

export const LOOKED_WITH = [
  ["", "not said"],
  ["leak_fluid", "leak fluid"],
  ["winter_fluid", "leak fluid for frost"],
  ["soap", "household soap"],
  ["detector", "gas detector"],
  ["both", "gas detector, then leak fluid"]
] as const;

export const SIGNALS = [
  ["output", "most output before the throttle is open"],
  ["speed", "engine speed at full load"],
  ["throttle", "throttle at a steady load"]
] as const;

export const MARKINGS = [
  ["unknown", "not known: taken as bore"],
  ["hundredths", "bore, in 1/100 mm"],
  ["flow", "flow number"]
] as const;

export const JET_FOUND = [
  ["unknown", "not looked"],
  ["right", "right"],
  ["rich", "rich"],
  ["lean", "lean"]
] as const;

export const AT_HAND = [
  [true, "yes"],
  [false, "no"]
] as const;

export const GAS_KINDS = [
  ["natural_gas", "natural gas"],
  ["biogas", "biogas"]
] as const;

export const BURNS = [
  ["", "not said"],
  ["gasoline", "gasoline"],
  ["propane", "propane"],
  ["natural_gas", "natural gas"],
  ["biogas", "biogas"]
] as const;

export const ETHANOL = [
  ["unknown", "not known"],
  ["yes", "with ethanol"],
  ["no", "without"]
] as const;

export const ENDED = [
  ["", "in service"],
  ["sold", "sold"],
  ["scrapped", "scrapped"],
  ["next_job", "carried on in another job"]
] as const;

export const SET_BY = [
  ["plateau", "the plateau"],
  ["lean_drop", "lean drop"]
] as const;

export const INLETS = [
  ["", "not looked at"],
  ["hose_on", "its hose is on"],
  ["capped", "capped"],
  ["open", "open"]
] as const;

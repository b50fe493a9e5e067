/** Choices as people name them; the values are the job's own. */
export const CLASSES = [
  ['inverter_small', 'enclosed inverter, to 2 kW'],
  ['inverter', 'enclosed inverter, over 2 kW'],
  ['open_frame', 'open frame, 3,600 rpm'],
  ['v_twin', 'V-twin, 8 kW and up'],
  ['low_speed', '1,500 or 1,800 rpm'],
  ['dual_fuel', 'factory dual-fuel']
] as const;

export const GASOLINES = [
  ['e10', 'E10 (10 % ethanol)'],
  ['e0', 'E0 (no ethanol)']
] as const;

export const PHASES = [
  [1, 'single'],
  [3, 'three']
] as const;

export const CYLINDER_COUNTS = [
  [1, 'one'],
  [2, 'two'],
  [3, 'three'],
  [4, 'four']
] as const;

export const SHELTERS = [
  ['still_air', 'still air'],
  ['breeze', 'a breeze'],
  ['closed_locker', 'closed locker']
] as const;

export const SCHOOLS = [
  ['field_rule', 'field rule'],
  ['physics', 'physics']
] as const;

export const WAITS = [
  ['parts', 'parts'],
  ['owner', 'the owner'],
  ['fitter', 'a licensed fitter'],
  ['test', 'a test day'],
  ['core_return', 'return of the core'],
  ['nothing', 'nothing named']
] as const;

export const FUELS = [
  ['propane', 'propane'],
  ['gasoline', 'gasoline']
] as const;

export const LETTERS: Record<string, string> = {
  gasoline: 'G',
  propane: 'P',
  natural_gas: 'N',
  biogas: 'B'
};

export const APPLIANCES = [
  ['resistive', 'heater, lamp'],
  ['electronic', 'electronic'],
  ['fridge', 'fridge, freezer'],
  ['pump', 'pump'],
  ['window_ac', 'window air conditioner'],
  ['soft_started', 'soft-started motor'],
  ['motor_tool', 'motor tool']
] as const;

export const LEGS = [
  ['a', 'leg A'],
  ['b', 'leg B'],
  ['both', 'both legs']
] as const;

export const MUST = [
  [true, 'must run'],
  [false, 'nice to have']
] as const;

export const STORAGE = [
  ['unknown', 'not asked'],
  ['outdoors', 'outdoors'],
  ['ventilated_shed', 'ventilated shed'],
  ['indoors', 'indoors']
] as const;

export const ASKED = [
  [null, 'not asked'],
  [true, 'yes'],
  [false, 'no']
] as const;

export const BEHIND = [
  ['unknown', 'not looked'],
  ['nothing', 'nothing'],
  ['structure', 'a sub-structure'],
  ['wiring', 'wiring'],
  ['tank', 'the tank'],
  ['exhaust', 'the exhaust']
] as const;

export const REMEDY = [
  ['none', 'nothing, or undecided'],
  ['move', 'move it'],
  ['replace', 'replace it'],
  ['cut', 'cut it']
] as const;

export const DECISIONS = [
  ['open', 'not decided'],
  ['rebuild', 'rebuild or clean'],
  ['replace', 'replace'],
  ['order', 'order, go on meanwhile'],
  ['stop', 'stop the job']
] as const;

export const LOOKS = [
  ['good', 'good'],
  ['watch', 'watch'],
  ['bad', 'bad'],
  ['not_looked', 'not looked']
] as const;

export const STAGE_NAMES: Record<string, string> = {
  intake: 'Intake',
  method: 'Method',
  fuel_path: 'Fuel path',
  fit: 'Fit',
  prove_tight: 'Prove tight',
  first_start: 'First start',
  load_test: 'Load test',
  hand_over: 'Hand over',
  logbook: 'Logbook'
};

export const STUBS = [
  ['unknown', 'not known'],
  ['1/2', '1/2 in NPT'],
  ['3/4', '3/4 in NPT'],
  ['1', '1 in NPT'],
  ['1-1/4', '1-1/4 in NPT']
] as const;

/** Choices as people name them; the values are the job's own. */
export const CLASSES = [
  ['inverter_small', 'enclosed inverter, to 2 kW'],
  ['inverter', 'enclosed inverter, over 2 kW'],
  ['open_frame', 'open frame, 3,600 rpm'],
  ['v_twin', 'V-twin, 8 kW and up'],
  ['low_speed', '1,500 or 1,800 rpm'],
  ['dual_fuel', 'factory dual-fuel']
] as const;

export const CARBURETORS = [
  ['unknown', 'not looked at'],
  ['float', 'one barrel, float bowl'],
  ['two_barrel', 'two barrels'],
  ['multi_fuel', 'multi-fuel']
] as const;

export const SOLENOID = [
  [null, 'not looked at'],
  [true, 'yes'],
  [false, 'no']
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

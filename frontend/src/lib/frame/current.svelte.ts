import type { JobSession } from '$lib/session/session.svelte';

/** What the keys and the finder act on: the open job, and which dialog is up. */
class Current {
  session = $state.raw<JobSession>();
  finder = $state(false);
  keys = $state(false);
}

export const current = new Current();

/** The pages of a job, in working order: address below the job, name, stage. */
export const PAGES = [
  { page: 'intake/set', name: 'Set', stage: 'intake' },
  { page: 'intake/machine', name: 'Machine', stage: 'intake' },
  { page: 'intake/walk', name: 'Walk-round', stage: 'intake' },
  { page: 'intake/wish', name: 'Wish', stage: 'intake' },
  { page: 'intake/site', name: 'Site', stage: 'intake' },
  { page: 'intake/sketch', name: 'Sketch', stage: 'intake' },
  { page: 'intake/record', name: 'Record', stage: 'intake' },
  { page: 'method/compare', name: 'Compare', stage: 'method' },
  { page: 'method/output', name: 'Output', stage: 'method' },
  { page: 'method/cylinder', name: 'Cylinder', stage: 'method' },
  { page: 'method/states', name: 'Fuel states', stage: 'method' },
  { page: 'method/record', name: 'Record', stage: 'method' },
  { page: 'fuel_path/train', name: 'Train', stage: 'fuel_path' },
  { page: 'fuel_path/stack', name: 'Stack', stage: 'fuel_path' },
  { page: 'fuel_path/parts', name: 'Parts list', stage: 'fuel_path' },
  { page: 'fuel_path/house', name: 'House pipe', stage: 'fuel_path' },
  { page: 'fuel_path/found', name: 'As found', stage: 'fuel_path' },
  { page: 'fuel_path/ready', name: 'Readiness', stage: 'fuel_path' },
  { page: 'fuel_path/record', name: 'Record', stage: 'fuel_path' },
  { page: 'fit/sheet', name: 'Sheet', stage: 'fit' },
  { page: 'fit/take', name: 'Take along', stage: 'fit' },
  { page: 'fit/marks', name: 'Marks', stage: 'fit' },
  { page: 'fit/map', name: 'Screws and holes', stage: 'fit' },
  { page: 'fit/joints', name: 'Joints', stage: 'fit' },
  { page: 'fit/record', name: 'Record', stage: 'fit' },
  { page: 'prove_tight/leaks', name: 'Leak test', stage: 'prove_tight' },
  { page: 'prove_tight/record', name: 'Record', stage: 'prove_tight' },
  { page: 'first_start/start', name: 'Start', stage: 'first_start' },
  { page: 'first_start/metering', name: 'Metering', stage: 'first_start' },
  { page: 'first_start/record', name: 'Record', stage: 'first_start' },
  { page: 'load_test/test', name: 'Load test', stage: 'load_test' },
  { page: 'load_test/jets', name: 'Jets', stage: 'load_test' },
  { page: 'load_test/record', name: 'Record', stage: 'load_test' }
] as const;

export const STAGES = [
  'intake',
  'method',
  'fuel_path',
  'fit',
  'prove_tight',
  'first_start',
  'load_test',
  'hand_over',
  'logbook'
];

const ON_SET = [
  'set.serial',
  'set.displacement',
  'set.running',
  'set.starting',
  'set.tank',
  'set.cylinders',
  'set.set_class',
  'set.shaft_power',
  'set.carburetor.jetted_at'
];
const ON_MACHINE =
  /^set\.(studs|stack|faces|carburetor|frame|engine_|generation|trim|year|brand|hours|idle|last_oil|faults|shut_off|tank_vent|run_switch|electric)/;

/** Where a field of the job is filled in. */
export function pageOf(path: string): string {
  if (/^sites\.[^.]+\.sketch/.test(path)) return 'intake/sketch';
  if (path.startsWith('sites')) return 'intake/site';
  if (path.startsWith('load.') || path.startsWith('wants.')) return 'intake/wish';
  if (path.startsWith('findings.')) return 'intake/walk';
  if (path.startsWith('arrived')) return 'fuel_path/parts';
  if (path.startsWith('marks')) return 'fit/marks';
  if (/^fit\.(fasteners|left|back)/.test(path)) return 'fit/map';
  if (path.startsWith('fit')) return 'fit/sheet';
  if (path.startsWith('proof')) return 'prove_tight/leaks';
  if (path.startsWith('starts')) return 'first_start/start';
  if (path.startsWith('load_tests')) return 'load_test/test';
  if (path.startsWith('set.carburetor.jets.fitted')) return 'load_test/jets';
  if (path.startsWith('metering')) return 'first_start/metering';
  if (path.startsWith('trains')) return 'fuel_path/train';
  if (path.startsWith('confirmed.')) return 'fuel_path/ready';
  if (path.startsWith('choice.')) return 'method/compare';
  if (!ON_SET.includes(path) && ON_MACHINE.test(path)) return 'intake/machine';
  return 'intake/set';
}

export const QUICK = [
  { name: 'derate', title: 'Derate' },
  { name: 'run-time', title: 'Run time' },
  { name: 'cylinder', title: 'Cylinder' },
  { name: 'gas-pipe', title: 'Gas pipe' },
  { name: 'meter-clock', title: 'Meter clock' },
  { name: 'load-screw-start', title: 'Load screw' },
  { name: 'gas-change', title: 'Gas change' },
  { name: 'joint-finder', title: 'Joint finder' },
  { name: 'coupler-loss', title: 'Hose and coupler' },
  { name: 'gravity-feed', title: 'Gravity feed' },
  { name: 'rpm-from-sound', title: 'Speed by sound' },
  { name: 'u-tube', title: 'U-tube' },
  { name: 'leak-decay', title: 'Leak by decay' },
  { name: 'jet', title: 'Main jet' },
  { name: 'plug', title: 'Plug' },
  { name: 'orifice', title: 'Gas orifice' },
  { name: 'convert', title: 'Convert' }
] as const;

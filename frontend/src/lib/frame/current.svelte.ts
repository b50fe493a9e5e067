import type { JobSession } from '$lib/job/session.svelte';

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
  { page: 'intake/site', name: 'Site', stage: 'intake' },
  { page: 'intake/record', name: 'Record', stage: 'intake' },
  { page: 'method/output', name: 'Output', stage: 'method' },
  { page: 'method/cylinder', name: 'Cylinder', stage: 'method' },
  { page: 'method/record', name: 'Record', stage: 'method' }
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

/** Where a field of the job is filled in. */
export function pageOf(path: string): string {
  if (path.startsWith('sites.')) return 'intake/site';
  if (path.startsWith('load.')) return 'method/output';
  return 'intake/set';
}

export const QUICK = [
  { name: 'derate', title: 'Derate' },
  { name: 'run-time', title: 'Run time' },
  { name: 'cylinder', title: 'Cylinder' },
  { name: 'convert', title: 'Convert' }
] as const;

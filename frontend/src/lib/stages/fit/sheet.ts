import type { components } from '$lib/api/schema';
import type { JobSession } from '$lib/session/session.svelte';
import { signed } from '$lib/session/record';
import { prefs } from '$lib/session/prefs.svelte';

export type Fit = components['schemas']['FitOut'];
export type Step = components['schemas']['StepOut'];
export type Mount = components['schemas']['MountOut'];
type StepRecord = components['schemas']['StepRecord'];
export type FullRecord = Required<StepRecord>;

const OPEN: FullRecord = {
  state: 'open',
  by: '',
  on: '',
  seconds: 0,
  note: '',
  value: '',
  reason: '',
  of: '',
  what: ''
};

/** What was noted of a step, writes under way counted in: without network they are all there is. */
export function recordOf(job: JobSession, key: string): FullRecord {
  const waiting = job.pending(`fit.steps.${key}`);
  if (waiting) return { ...OPEN, ...((waiting.value as StepRecord | undefined) ?? {}) };
  return { ...OPEN, ...job.settled?.job.fit?.steps?.[key] };
}

/** How a step stands, writes under way counted in. */
export function stateOf(job: JobSession, step: Step): Step['state'] {
  return job.pending(`fit.steps.${step.key}`) ? recordOf(job, step.key).state : step.state;
}

/** The steps that must come before this one and are open, ticks under way counted in. */
export function openBefore(job: JobSession, step: Step): Step[] {
  if (!isOpen(stateOf(job, step))) return [];
  const steps = job.settled?.fit?.steps ?? [];
  return steps.filter((one) => step.waits.includes(one.key) && isOpen(stateOf(job, one)));
}

export const isOpen = (state: Step['state']) =>
  state === 'open' || state === 'next' || state === 'stale';

function put(job: JobSession, step: Step, change: Partial<FullRecord>): void {
  job.set(`fit.steps.${step.key}`, { ...recordOf(job, step.key), ...change });
}

/** Tick a step: who, when, how long, and what it was about. */
export function done(job: JobSession, step: Step, seconds = 0): void {
  put(job, step, {
    state: 'done',
    ...signed(),
    seconds: Math.round(seconds),
    reason: '',
    of: step.subject,
    what: step.what[prefs.system]
  });
}

/** Open a step again: what was made is undone, its leak pass no longer counts. */
export function reopen(job: JobSession, step: Step): void {
  put(job, step, { state: 'open', ...signed() });
}

export function skip(job: JobSession, step: Step, reason: string): void {
  put(job, step, { state: 'skipped', ...signed(), reason });
}

export function note(job: JobSession, step: Step, change: { note?: string; value?: string }): void {
  put(job, step, change);
}

/** Steps in runs of one place, in order. */
export function runs(steps: Step[]): { place: string; steps: Step[] }[] {
  const found: { place: string; steps: Step[] }[] = [];
  for (const step of steps) {
    const last = found.at(-1);
    if (last && last.place === step.place) last.steps.push(step);
    else found.push({ place: step.place, steps: [step] });
  }
  return found;
}

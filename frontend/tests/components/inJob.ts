import { render } from '@testing-library/svelte';
import type { Component } from 'svelte';
import type { Figure, Reference } from '$lib/api/client';
import { prefs } from '$lib/session/prefs.svelte';
import { JobSession } from '$lib/session/session.svelte';
import { shop } from '../shop';
import InJob from './InJob.svelte';

const unit = (text: string, factor: number, offset = 0) => ({ text, factor, offset, decimals: 1 });

/** Kinds and fields as the service publishes them, as far as these tests look. */
export const reference = {
  kinds: {
    power: {
      us: unit('W', 1),
      metric: unit('W', 1),
      sample_us: '3,000 W',
      sample_metric: '3,000 W'
    },
    temperature: {
      us: unit('°F', 1.8, -459.67),
      metric: unit('°C', 1, -273.15),
      sample_us: '60 °F',
      sample_metric: '15 °C'
    }
  },
  fields: {
    'load.planned': { kind: 'power', label: 'Planned load' },
    'sites.*.coldest': { kind: 'temperature', label: 'Coldest night' },
    'load.appliances.*.running': {
      kind: 'power',
      label: 'Running',
      sample_us: '900 W',
      sample_metric: '0.9 kW'
    }
  },
  cylinders: [],
  people: [],
  version: '0'
} as unknown as Reference;

/** A job that is open, over the stand-in of the service. */
export async function opened(): Promise<JobSession> {
  const session = new JobSession(shop.id);
  await session.open();
  return session;
}

/** A job begun anew that is open, with somebody at it. */
export async function begun(): Promise<JobSession> {
  shop.reset();
  prefs.who = 'Odo Marlin';
  return opened();
}

/** A component of a job on its own. */
export function inJob<P extends Record<string, unknown>>(
  shown: Component<P>,
  given: P,
  session: JobSession
) {
  return render(InJob as unknown as Component<Record<string, unknown>>, {
    session,
    reference,
    shown,
    with: given
  });
}

/** A page or component of a job that is open, with what it asked for along with the job. */
export async function openPage(
  shown: unknown,
  views: Record<string, unknown> = {},
  given: Record<string, unknown> = {}
) {
  shop.views = views;
  const session = await opened();
  return { session, ...inJob(shown as Component<Record<string, unknown>>, given, session) };
}

export function figure(changes: Partial<Figure> = {}): Figure {
  const shown = { text: '2,880', unit: 'W', low: '2,740', high: '3,030', number: 2880 };
  return {
    key: 'output.propane',
    label: 'propane, steady',
    value: 2880,
    kind: 'power',
    us: shown,
    metric: shown,
    method: {
      key: 'field-rule',
      name: 'Field rule',
      formula: 'rating × 0.90',
      source: 'the trade',
      page: 'output'
    },
    inputs: [
      {
        label: 'rating',
        us: '3,200 W',
        metric: '3,200 W',
        origin: 'data_sheet',
        path: 'set.running'
      }
    ],
    rivals: [{ name: 'physics', note: 'SAE J1349', us: '2,881 W', metric: '2,881 W' }],
    rounding: 'down',
    estimated: true,
    narrows: ['a load test'],
    warnings: [],
    ...changes
  };
}

import { fireEvent, screen } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Train } from '$lib/api/client';
import type { JobSession } from '$lib/session/session.svelte';
import { walked } from '$lib/stages/fuel_path/layout';
import UprightTrain from '$lib/stages/fuel_path/UprightTrain.svelte';
import { shop } from '../shop';
import { inJob, opened } from './inJob';

const place = (key: string, more: object = {}) => ({
  key,
  name: `the ${key}`,
  title: key,
  kind: 'valve',
  role: '',
  sub: { us: '', metric: '' },
  turned: false,
  joint: { mates: true, letter: 'T' },
  zone_out: 'low',
  outlet_pa: { none: 1743.6, idle: 1740, half: 1700, full: 1494.5 },
  ...more
});
const train = {
  title: 'Propane',
  zones: [{ key: 'low', us: { unit: 'in w.c.', pa: 249.089 }, metric: { unit: 'mbar', pa: 100 } }],
  places: [
    place('source', { joint: null }),
    place('valve', { joint: { mates: false, letter: 'T' } }),
    place('screw', { zone_out: 'elsewhere' })
  ]
} as unknown as Train;

let session: JobSession;
beforeEach(async () => {
  shop.reset();
  session = await opened();
});
afterEach(() => session.close());

describe('a train stood upright', () => {
  const stand = () => {
    const select = vi.fn();
    const act = vi.fn();
    const sets = { stopped: new Set(['valve']), minded: new Set(['valve', 'screw']) };
    const wrong = new Set(['valve']);
    inJob(UprightTrain, { train, selected: 'source', select, act, ...sets, wrong }, session);
    return { select, act };
  };

  it('tells each part in its order, with what stands behind it', () => {
    stand();
    const names = screen.getAllByRole('button').map((one) => one.getAttribute('aria-label'));
    expect(names).toEqual(['1: the source', '2: the valve, stop', '3: the screw, caution']);
    const [source, , screw] = screen.getAllByRole('button');
    expect(source?.textContent).toContain('7 to 6 in w.c.');
    expect(screw?.querySelector('.after')?.textContent).toBe('');
    const joints = [...document.querySelectorAll('.joint')].map((one) => one.textContent?.trim());
    expect(joints).toEqual(['×', 'T']);
  });

  it('is walked along and worked on by keys as the drawing that lies', async () => {
    const { select, act } = stand();
    const [source, valve, screw] = screen.getAllByRole('button') as HTMLElement[];
    await fireEvent.keyDown(source as HTMLElement, { key: 'ArrowDown' });
    expect(select).toHaveBeenLastCalledWith('valve');
    expect(document.activeElement).toBe(valve);
    await fireEvent.keyDown(valve as HTMLElement, { key: 'End' });
    expect(document.activeElement).toBe(screw);
    await fireEvent.keyDown(screw as HTMLElement, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(screw);
    await fireEvent.keyDown(screw as HTMLElement, { key: 'Enter' });
    await fireEvent.keyDown(screw as HTMLElement, { key: 'Delete' });
    expect(act.mock.calls).toEqual([['swap'], ['remove']]);
  });
});

describe('keys along a train', () => {
  it.each([
    ['ArrowRight', 3],
    ['ArrowUp', 1],
    ['Home', 0],
    ['End', 7],
    [' ', 'swap'],
    ['Delete', 'remove'],
    ['Tab', undefined],
    ['a', undefined]
  ])('%s leads to %s', (key, goal) => expect(walked(key, 2, 7)).toBe(goal));
});

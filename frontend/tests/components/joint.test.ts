import { render, screen } from '@testing-library/svelte';
import { describe, expect, it } from 'vitest';
import JointRows from '$lib/stages/load_test/JointRows.svelte';
import type { Joint } from '$lib/stages/load_test/types';
import { figure } from './inJob';

type Row = Joint['rows'][number];

const row = (changes: Partial<Row> = {}): Row => ({
  fuel: 'propane',
  fuel_name: 'propane',
  letter: 'P',
  figure: figure({ key: 'joint.propane.full', label: 'fuel at that limit (LHV)' }),
  band: '± 9 %',
  band_before: '± 24 %',
  ends: [0.91, 1.1],
  ends_before: [0.79, 1.27],
  next: 'weigh an hour on propane at full load',
  next_band: '± 7 %',
  ...changes
});

const shown = (...rows: Row[]) =>
  render(JointRows, { rows, title: 'Propane', letter: 'P', fuel: 'propane' });

/** Where a drawn band begins and ends, in percent of the scale. */
const drawn = (container: HTMLElement, which: 'now' | 'before') => {
  const bar = container.querySelector<HTMLElement>(`i.${which}`);
  const left = parseFloat(bar?.style.left ?? '');
  return [left, left + parseFloat(bar?.style.width ?? '')];
};

describe('a figure taken together', () => {
  it('stands with its band, that of before, and what narrows it most', () => {
    shown(row());
    for (const text of ['fuel at that limit (LHV)', '± 9 %', '± 24 %', '± 7 %'])
      expect(screen.getByText(text)).toBeTruthy();
    expect(screen.getByText(/weigh an hour on propane at full load/)).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Propane' })).toBeTruthy();
    expect(screen.getByRole('button', { name: /Show working/ })).toBeTruthy();
  });

  it('is drawn about the middle, on a scale to 60 % either way', () => {
    const { container } = shown(row());
    const [low, high] = drawn(container, 'now');
    expect(low).toBeCloseTo(50 - (50 * 0.09) / 0.6, 1);
    expect(high).toBeCloseTo(50 + (50 * 0.1) / 0.6, 1);
    const [first, last] = drawn(container, 'before');
    expect(first).toBeLessThan(low ?? 0);
    expect(last).toBeGreaterThan(high ?? 100);
  });

  it('stays on the scale however little is known', () => {
    const { container } = shown(row({ ends: [0.3, 3.2], ends_before: [0.2, 5] }));
    expect(drawn(container, 'now')).toEqual([0, 100]);
    expect(drawn(container, 'before')).toEqual([0, 100]);
  });

  it('says so where no reading narrows it', () => {
    shown(row({ next: '', next_band: '' }));
    expect(screen.getByText('nothing here narrows it')).toBeTruthy();
  });
});

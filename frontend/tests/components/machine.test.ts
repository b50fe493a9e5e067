import { fireEvent, render, screen, waitFor } from '@testing-library/svelte';
import type { Component } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { CLASSES } from '$lib/api/published';
import ChoiceField from '$lib/ui/ChoiceField.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import SetDrawing from '$lib/stages/intake/SetDrawing.svelte';
import { ART, SPOTS, kindOf } from '$lib/stages/intake/set-drawing';
import Ways from '../../src/routes/jobs/[id]/method/ways/+page.svelte';
import { shop } from '../shop';
import { begun, inJob, opened } from './inJob';

let session: JobSession;
beforeEach(async () => (session = await begun()));
afterEach(() => session.close());

describe('the drawing of a set', () => {
  const places = [
    { key: 'plate', title: 'At the plate', answered: 2, total: 7 },
    { key: 'tank', title: 'At the tank', answered: 3, total: 3 }
  ];

  it('has every class, with every place of the walk inside it and no two on one spot', () => {
    for (const [setClass] of CLASSES) {
      const kind = kindOf(String(setClass));
      expect(ART[kind].length).toBeGreaterThan(5);
      const spots = Object.values(SPOTS[kind]);
      expect(Object.keys(SPOTS[kind])).toHaveLength(7);
      for (const [x, y] of spots) {
        expect(x).toBeGreaterThan(12);
        expect(x).toBeLessThan(308);
        expect(y).toBeGreaterThan(12);
        expect(y).toBeLessThan(196);
      }
      for (const [n, [x, y]] of spots.entries())
        for (const [ax, ay] of spots.slice(n + 1))
          expect(Math.hypot(x - ax, y - ay), kind).toBeGreaterThan(24);
    }
  });

  it('names each place by its number and what is known, and leads there', async () => {
    const go = vi.fn();
    render(SetDrawing, { setClass: 'v_twin', places, here: 'plate', go });
    const plate = screen.getByRole('button', { name: '1. At the plate: 2 of 7 known' });
    const tank = screen.getByRole('button', { name: '2. At the tank: 3 of 3 known' });
    expect(plate.getAttribute('aria-current')).toBe('location');
    expect(tank.getAttribute('aria-current')).toBeNull();
    expect(tank.className).toContain('done');
    await fireEvent.click(tank);
    expect(go).toHaveBeenCalledWith('tank');
  });
});

describe('a choice for a thumb', () => {
  const options = [
    ['unknown', 'not looked at'],
    ['manual', 'by hand'],
    ['automatic', 'by itself']
  ] as const;
  const put = () =>
    inJob(
      ChoiceField as unknown as Component<Record<string, unknown>>,
      { path: 'set.carburetor.choke', label: 'Choke', options, thumbs: true },
      session
    );

  it('offers what can be answered, and not that nobody looked', async () => {
    put();
    expect(screen.getAllByRole('radio').map((one) => one.textContent)).toEqual([
      'by hand',
      'by itself'
    ]);
    await fireEvent.click(screen.getByText('by hand'));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes).toMatchObject([{ path: 'set.carburetor.choke', value: 'manual' }]);
  });

  it('takes an answer back to a question by pressing it once more', async () => {
    session.close();
    shop.doc = { 'set.carburetor.choke': 'manual' };
    session = await opened();
    put();
    const hand = screen.getByRole('radio', { name: 'by hand' });
    expect(hand.getAttribute('aria-checked')).toBe('true');
    await fireEvent.click(hand);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes).toMatchObject([
      { path: 'set.carburetor.choke', value: 'unknown' }
    ]);
  });
});

describe('ways of working', () => {
  const choke = {
    key: 'choke',
    name: 'Choke on gas',
    default: 'never',
    chosen: '',
    options: [
      { key: 'never', name: 'never', follows: 'The gate asks for it open.', against: '' },
      { key: 'cold', name: 'only cold', follows: 'Open before the third pull.', against: '' },
      { key: 'as_before', name: 'as before', follows: '', against: 'the demand valve opens' }
    ]
  };
  const page = async (chosen = '') => {
    session.close();
    shop.views = { ways: { ways: [{ ...choke, chosen }], by: chosen && 'Runa', reason: '' } };
    shop.doc = { 'choice.methods': ['spacer_adapter'] };
    session = await opened();
    return inJob(Ways as Component<Record<string, unknown>>, {}, session);
  };

  it('stands on the default, says why a way does not fit, and keeps who settled another', async () => {
    await page();
    const radio = (name: RegExp) => screen.getByRole('radio', { name }) as HTMLInputElement;
    expect(radio(/^never/).checked).toBe(true);
    expect(radio(/as before/).disabled).toBe(true);
    expect(screen.getByText(/Does not fit: the demand valve opens/)).toBeTruthy();
    expect(screen.queryByText(/Settled by/)).toBeNull();
    await fireEvent.click(radio(/only cold/));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes).toMatchObject([
      { path: 'ways.choke', value: 'cold' },
      { path: 'ways.by', value: 'Odo Marlin' }
    ]);
  });

  it('asks why once it is not the default', async () => {
    await page('cold');
    expect(screen.getByText('Settled by Runa.')).toBeTruthy();
    expect(screen.getByLabelText('Why not the default')).toBeTruthy();
  });
});

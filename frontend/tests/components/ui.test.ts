import { grouped } from '$lib/ui/numbers';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/svelte';
import { createRawSnippet, tick } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { JobSession } from '$lib/session/session.svelte';
import { prefs } from '$lib/session/prefs.svelte';
import ChoiceField from '$lib/ui/ChoiceField.svelte';
import Dialog from '$lib/ui/Dialog.svelte';
import FigureButton from '$lib/ui/Figure.svelte';
import QuantityField from '$lib/ui/QuantityField.svelte';
import Tick from '$lib/ui/Tick.svelte';
import { money, moneyMore, shopMoney } from '$lib/ui/money.svelte';
import Working from '$lib/ui/Working.svelte';
import { working } from '$lib/ui/working.svelte';
import { shop } from '../shop';
import { figure, inJob, opened } from './inJob';

const text = (words: string) => createRawSnippet(() => ({ render: () => `<p>${words}</p>` }));

describe('a figure', () => {
  afterEach(() => working.close());

  it('says its warnings beside the value and in its spoken name', () => {
    render(FigureButton, {
      figure: figure({ warnings: ['Estimate only: sweep it on this gas.'] })
    });
    const button = screen.getByRole('button');
    expect(button.textContent).toContain('Estimate only: sweep it on this gas.');
    expect(button.getAttribute('aria-label')).toMatch(/2,880 W.*Estimate only.*Show working/);
  });

  it('leaves them out only where they stand beside it already', () => {
    const warned = figure({ warnings: ['Measure it on site.'] });
    render(FigureButton, { figure: warned, warned: false });
    expect(screen.getByRole('button').textContent).not.toContain('Measure it on site.');
  });

  it('shows its band, a sign, and money before the number', () => {
    const { unmount } = render(FigureButton, { figure: figure(), band: true, signed: true });
    expect(screen.getByRole('button').textContent).toContain('2,740 to 3,030');
    expect(screen.getByRole('button').textContent).toContain('+2,880');
    unmount();
    const price = { text: '140', unit: '$', low: '98', high: '182', number: 140 };
    const shown = render(FigureButton, {
      figure: figure({ kind: 'price', us: price, metric: price })
    });
    expect(screen.getByRole('button').textContent?.replace(/\s/g, '')).toBe('$140');
    shown.unmount();
    shopMoney.currency = '€';
    render(FigureButton, { figure: figure({ kind: 'price', us: price, metric: price }) });
    expect(screen.getByRole('button').textContent?.replace(/\s/g, '')).toBe('€140');
    expect(money(-1234.5)).toBe('−€ 1,234.50');
    expect([moneyMore(2), moneyMore(-2), moneyMore(0.001)]).toEqual(['+€ 2.00', '−€ 2.00', '±0']);
    shopMoney.currency = '$';
  });

  it('opens its whole working: band, rounding, method, inputs, other schools, what narrows it', async () => {
    render(Working);
    working.open(figure({ warnings: ['Fit the nearest size that is not smaller.'] }));
    await tick();
    const dialog = screen.getByRole('dialog', { hidden: true });
    for (const said of [
      'propane, steady',
      'estimated',
      '2,740 to 3,030',
      'rounded down, the safe side',
      'Fit the nearest size that is not smaller.',
      'rating × 0.90',
      'Source: the trade.',
      'data sheet',
      'SAE J1349',
      'a load test'
    ])
      expect(dialog.textContent).toContain(said);
    const link = within(dialog).getByRole('link', { hidden: true });
    expect(link.getAttribute('href')).toBe('/methods/output');
    await fireEvent.click(within(dialog).getByRole('button', { name: 'Close', hidden: true }));
    expect(working.figure).toBeUndefined();
  });

  it('is read in the units of whoever looks', async () => {
    const metric = { text: '3.3', unit: 'kg/h', low: '3', high: '4', number: 3.3 };
    const us = { text: '7.3', unit: 'lb/h', low: '6', high: '8', number: 7.3 };
    render(FigureButton, { figure: figure({ us, metric }) });
    expect(screen.getByRole('button').textContent).toContain('7.3');
    prefs.toggleUnits();
    await tick();
    expect(screen.getByRole('button').textContent).toContain('kg/h');
    prefs.toggleUnits();
  });
});

describe('a dialog', () => {
  it('opens, closes by a press beside it, and says so', async () => {
    const onclose = vi.fn();
    const given = { label: 'Found', onclose, children: text('inside') };
    const { rerender } = render(Dialog, { ...given, open: false });
    const dialog = screen.getByRole<HTMLDialogElement>('dialog', { hidden: true });
    expect(dialog.open).toBe(false);
    await rerender({ ...given, open: true });
    expect(dialog.open).toBe(true);
    await fireEvent.click(screen.getByText('inside'));
    expect(dialog.open).toBe(true);
    await fireEvent.click(dialog);
    expect(dialog.open).toBe(false);
    expect(onclose).toHaveBeenCalledOnce();
  });
});

describe('fields of a job', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  it('a tick is written at its path, and one that is refused goes back and says why', async () => {
    inJob(Tick, { path: 'fit.packed.rag.done', checked: false, label: 'Rag' }, session);
    const box = screen.getByRole<HTMLInputElement>('checkbox', { name: 'Rag' });
    shop.refuse = ([first]) => ({ path: first?.path ?? '', message: 'Not tight yet.' });
    await fireEvent.click(box);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Not tight yet.'));
    await waitFor(() => expect(box.checked).toBe(false));
    expect(shop.doc).toEqual({});
  });

  it('a choice offers what there is and writes what is chosen', async () => {
    const options = [
      ['still_air', 'still air'],
      ['breeze', 'a breeze']
    ] as const;
    inJob(ChoiceField, { path: 'sites.s1.shelter', label: 'Shelter', options }, session);
    const field = screen.getByLabelText('Shelter');
    expect(
      within(field)
        .getAllByRole('option')
        .map((one) => one.textContent)
    ).toEqual(['still air', 'a breeze']);
    await fireEvent.change(field, { target: { value: '1' } });
    await waitFor(() => expect(Object.values(shop.doc)).toHaveLength(1));
  });

  it('a quantity shows the sample of its own field, in the units read', () => {
    inJob(QuantityField, { path: 'load.appliances.a1.running' }, session);
    const field = screen.getByLabelText<HTMLInputElement>('Running');
    expect(field.placeholder).toBe('like 900 W');
  });

  it('a quantity is kept as typed, an unreadable one is said at the field and nothing is lost', async () => {
    inJob(QuantityField, { path: 'load.planned' }, session);
    const field = screen.getByLabelText<HTMLInputElement>('Planned load');
    expect(field.placeholder).toBe('like 3,000 W');
    shop.refuse = ([first]) =>
      first?.typed === 'heavy'
        ? { path: first.path, message: '“heavy” has no number in it.' }
        : undefined;
    await fireEvent.focus(field);
    await fireEvent.input(field, { target: { value: 'heavy' } });
    await fireEvent.blur(field);
    await waitFor(() =>
      expect(document.body.textContent).toContain('“heavy” has no number in it.')
    );
    expect(field.value).toBe('heavy');
    await fireEvent.input(field, { target: { value: '1450 W' } });
    await fireEvent.keyDown(field, { key: 'Enter' });
    await waitFor(() => expect(shop.doc['load.planned']).toBe('1450 W'));
    expect(document.body.textContent).not.toContain('has no number');
  });

  it('reads out what is typed once it was asked about, and never the value of before', async () => {
    shop.shown = { 'load.planned': { us: '3,200 W', metric: '3.2 kW' } };
    await session.refresh();
    inJob(QuantityField, { path: 'load.planned' }, session);
    const field = screen.getByLabelText<HTMLInputElement>('Planned load');
    expect(field.value).toBe('3,200 W');
    expect(document.body.textContent).toContain('3.2 kW');
    shop.down = true;
    await fireEvent.focus(field);
    await fireEvent.input(field, { target: { value: '3300 W' } });
    expect(document.body.textContent).not.toContain('3,200 W');
    expect(document.body.textContent).not.toContain('3.2 kW');
    await fireEvent.keyDown(field, { key: 'Enter' });
    await waitFor(() => expect(session.saving).toBe('unreached'));
    expect(document.body.textContent).not.toContain('3,200 W');
    shop.down = false;
    shop.shown = { 'load.planned': { us: '3,300 W', metric: '3.3 kW' } };
    await session.flush();
    await waitFor(() => expect(field.value).toBe('3,300 W'), { timeout: 4000 });
    expect(document.body.textContent).toContain('3.3 kW');
  });

  it('Escape leaves a quantity as it was', async () => {
    inJob(QuantityField, { path: 'load.planned' }, session);
    const field = screen.getByLabelText<HTMLInputElement>('Planned load');
    await fireEvent.focus(field);
    await fireEvent.input(field, { target: { value: '99 W' } });
    expect(session.drafts['load.planned']?.text).toBe('99 W');
    await fireEvent.keyDown(field, { key: 'Escape' });
    expect(session.drafts['load.planned']).toBeUndefined();
    expect(shop.doc).toEqual({});
  });

  it('what is assumed is said in the reader’s unit', async () => {
    const given = { path: 'sites.s1.coldest', assumed: 273.15 };
    inJob(QuantityField, given, session);
    const field = screen.getByLabelText<HTMLInputElement>('Coldest night');
    expect(field.placeholder).toBe('32 °F, assumed');
    prefs.toggleUnits();
    await tick();
    expect(field.placeholder).toBe('0 °C, assumed');
    prefs.toggleUnits();
  });
});

it.each([
  [0, undefined, '0'],
  [999, undefined, '999'],
  [1000, undefined, '1,000'],
  [-1234567, undefined, '−1,234,567'],
  [0.1 + 0.2, undefined, '0.3'],
  [-0.25, undefined, '−0.25'],
  [1234.5, 2, '1,234.50'],
  [2, 1, '2.0']
])('a number is written with its thousands apart: %s at %s decimals', (value, decimals, text) => {
  expect(grouped(value, decimals)).toBe(text);
});

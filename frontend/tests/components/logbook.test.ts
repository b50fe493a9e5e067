import { fireEvent, render, screen, waitFor } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { components } from '$lib/api/schema';
import { prefs } from '$lib/session/prefs.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import LogRun from '$lib/stages/logbook/LogRun.svelte';
import ReadingsFile from '$lib/ui/ReadingsFile.svelte';
import RunsFile from '$lib/stages/logbook/RunsFile.svelte';
import SetEnds from '$lib/stages/logbook/SetEnds.svelte';
import Watch from '$lib/stages/logbook/Watch.svelte';
import { today, written } from '$lib/stages/logbook/days';
import Stock from '../../src/routes/jobs/[id]/logbook/stock/+page.svelte';
import { shop } from '../shop';
import { begun, figure, inJob, opened } from './inJob';

type Watched = components['schemas']['WatchedOut'];
const method = {
  key: 'cusum',
  name: 'Fuel watched run by run',
  formula: 'S = …',
  source: 'Page 1954',
  page: 'upkeep'
};
const propane = (changes: Partial<Watched> = {}): Watched => ({
  fuel: 'propane',
  name: 'propane',
  letter: 'P',
  sums: [],
  alarm_at: 0.36,
  alarm: false,
  rise: '',
  missing: 0,
  first: 8,
  ...changes
});

describe('days', () => {
  it('are those of the clock here and not of another zone', () => {
    const late = new Date(2026, 10, 27, 23, 30);
    expect(today(late)).toBe('2026-11-27');
    expect(today(new Date(2026, 0, 1, 0, 5))).toBe('2026-01-01');
  });
  it('read as a hand writes them', () => {
    expect(written('2026-11-07')).toBe('Nov 7, 2026');
    expect(written('')).toBe('');
  });
});

describe('a run that is logged', () => {
  let session: JobSession;
  beforeEach(async () => (session = await begun()));
  afterEach(() => session.close());

  const type = (label: string, value: string) =>
    fireEvent.input(screen.getByLabelText(label), { target: { value } });
  const press = () => fireEvent.click(screen.getByRole('button', { name: 'Log this run' }));

  it('wants how long it was, or what the meter reads', async () => {
    inJob(LogRun, {}, session);
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Log this run' });
    expect(button.disabled).toBe(true);
    await type('or hour meter', '123.4');
    expect(button.disabled).toBe(false);
  });

  it('is written in one go, a bare number taken as hours', async () => {
    inJob(LogRun, {}, session);
    await type('Ran', '2.5');
    await type('About what load', '1500 W');
    await type('Remark', 'rain');
    await fireEvent.change(screen.getByLabelText('On'), { target: { value: 'propane' } });
    await press();
    await waitFor(() => expect(Object.keys(shop.doc)).toHaveLength(3));
    const [at] = Object.keys(shop.doc).filter((path) => path.split('.').length === 3);
    expect(shop.doc[at ?? '']).toMatchObject({
      on: today(),
      fuel: 'propane',
      remark: 'rain',
      by: 'Odo Marlin'
    });
    expect(shop.doc[`${at}.hours`]).toBe('2.5 h');
    expect(shop.doc[`${at}.load`]).toBe('1500 W');
  });

  it('refused, says why and keeps what was typed', async () => {
    inJob(LogRun, {}, session);
    shop.refuse = (changes) => {
      const meter = changes.find((one) => one.path.endsWith('.meter'));
      return meter && { path: meter.path, message: 'The meter can’t turn back.' };
    };
    await type('or hour meter', '90');
    await fireEvent.click(screen.getByLabelText('the hour meter is a new one'));
    await press();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('turn back'));
    const meter = screen.getByLabelText<HTMLInputElement>('or hour meter');
    expect(meter.value).toBe('90');
    expect(meter.getAttribute('aria-invalid')).toBe('true');
    expect(shop.doc).toEqual({});
    const fresh = screen.getByLabelText<HTMLInputElement>('the hour meter is a new one');
    expect(fresh.checked).toBe(true);
    shop.refuse = () => undefined;
    await press();
    await waitFor(() => expect(meter.value).toBe(''));
    expect(fresh.checked).toBe(false);
    expect(Object.values(shop.doc)).toContainEqual(expect.objectContaining({ new_meter: true }));
  });
});

describe('a file of runs', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => {
    session.close();
    vi.unstubAllGlobals();
  });

  const load = async (answer: unknown, ok = true) => {
    const real = globalThis.fetch;
    vi.stubGlobal('fetch', (url: string, init?: RequestInit) =>
      String(url).includes('runs.csv')
        ? Promise.resolve({ ok, json: () => Promise.resolve(answer) })
        : real(url, init)
    );
    inJob(RunsFile, {}, session);
    const file = new File(['day,hours'], 'runs.csv', { type: 'text/csv' });
    await fireEvent.change(screen.getByLabelText('Load runs'), { target: { files: [file] } });
  };

  it('adds its runs to those there and says what was there already', async () => {
    await load({ runs: [{ on: '2026-11-01', fuel: 'propane' }], already: 4 });
    await waitFor(() => expect(shop.doc['logbook.runs']).toBeDefined());
    expect(Object.values(shop.doc['logbook.runs'] as object)).toEqual([
      { on: '2026-11-01', fuel: 'propane' }
    ]);
    expect(screen.getByRole('status').textContent).toContain('1 taken in, 4 were there already');
  });

  it('with bad cells names them, the first dozen, and changes nothing', async () => {
    const errors = [...Array(15).keys()].map((i) => ({ message: `Line ${i + 2}, hours: why` }));
    await load({ errors }, false);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Line 2, hours'));
    expect(screen.getByRole('alert').textContent).toContain('and 3 more');
    expect(shop.doc).toEqual({});
  });
});

describe('fuel watched', () => {
  it('says how many runs are still wanted', () => {
    render(Watch, { watched: [propane({ missing: 3 })], method });
    expect(document.body.textContent).toContain('3 more of the first 8 weighed runs');
    expect(document.querySelector('svg')).toBeNull();
  });
  it('tells an alarm by its rise, and draws the sum against the alarm', () => {
    const sums = [0, 0.1, 0.2, 0.5];
    render(Watch, { watched: [propane({ sums, alarm: true, rise: '12 %' })], method });
    expect(document.body.textContent).toContain('about 12 % more than at first');
    const circles = [...document.querySelectorAll('circle')].map((one) =>
      Number(one.getAttribute('cy'))
    );
    expect(circles).toHaveLength(4);
    const alarm = Number(document.querySelector('line.alarm')?.getAttribute('y1'));
    expect(circles[3]).toBeLessThan(alarm);
    expect(circles[2]).toBeGreaterThan(alarm);
  });
  it('is not there where nothing was weighed', () => {
    render(Watch, { watched: [], method });
    expect(document.body.textContent?.trim()).toBe('');
  });
});

describe('a file of readings', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => {
    session.close();
    vi.unstubAllGlobals();
  });

  it('of more than one write takes is taken in whole', async () => {
    const readings = [...Array(120).keys()].map((i) => ({ ran: `r${i}` }));
    const real = globalThis.fetch;
    vi.stubGlobal('fetch', (url: string, init?: RequestInit) =>
      String(url).includes('readings.csv')
        ? Promise.resolve({ ok: true, json: () => Promise.resolve({ readings }) })
        : real(url, init)
    );
    const at = 'load_tests.s1-propane.runs.r1.readings';
    inJob(ReadingsFile, { file: 'load/s1-propane/r1', at, words: 'after, output' }, session);
    const file = new File(['after'], 'readings.csv', { type: 'text/csv' });
    await fireEvent.change(screen.getByLabelText('Load readings'), { target: { files: [file] } });
    await waitFor(() => expect(Object.keys(shop.doc)).toHaveLength(120));
    expect(Math.max(...shop.asked.map((one) => one.paths.length))).toBe(50);
    expect(screen.getByRole('status').textContent).toContain('120 taken in.');
  });
});

describe('a set that leaves or goes on', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    prefs.who = 'Odo Marlin';
  });
  afterEach(() => session.close());

  it('says what it became, and then asks for the day', async () => {
    session = await opened();
    inJob(SetEnds, {}, session);
    expect(screen.queryByLabelText('Since')).toBeNull();
    await fireEvent.change(screen.getByLabelText('It is'), { target: { value: '1' } });
    await waitFor(() => expect(shop.doc['logbook.ended_as']).toBe('sold'));
    expect(await screen.findByLabelText('Since')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Next job on this set' })).toBeNull();
  });

  it('leads back to the job it was in before', async () => {
    shop.doc = { 'logbook.before': 'j7' };
    session = await opened();
    inJob(SetEnds, {}, session);
    const link = screen.getByRole('link', { name: 'The job it was in before' });
    expect(link.getAttribute('href')).toBe('/jobs/j7/logbook/runs');
  });
});

describe('fuel at hand', () => {
  let session: JobSession;
  beforeEach(() => shop.reset());
  afterEach(() => session.close());
  const item = (more: Partial<components['schemas']['StockOut']>) => ({
    key: 'c1',
    kind: 'cylinder' as const,
    name: 'tag 4',
    hours: null,
    why_not: '',
    until: '',
    standing: null,
    ...more
  });

  it('tells hours, why there are none, and what is past its date in words', async () => {
    shop.views = {
      logbook: {
        stock: [
          item({
            hours: figure({ key: 'stock.c1', label: 'tag 4' }),
            until: '2031-04-30',
            standing: 'good'
          }),
          item({
            key: 'c2',
            name: 'tag 7',
            why_not: 'not weighed',
            until: '2026-03-31',
            standing: 'over'
          }),
          item({ key: 'k1', kind: 'can', name: 'red can', why_not: 'nobody said', standing: null })
        ]
      }
    };
    session = await opened();
    const { container } = inJob(Stock as never, {}, session);
    const said = [...container.querySelectorAll('[data-item]')].map((one) => one.textContent);
    expect(said[0]).toContain('2,880');
    expect(said[0]).toContain('Apr 30, 2031');
    expect(said[0]).not.toContain('past');
    expect(said[1]).toContain('not weighed');
    expect(said[1]).toContain('past its date');
    expect(said[2]).toContain('no date told');
  });

  it('begins a cylinder or can with today', async () => {
    shop.views = { logbook: { stock: [] } };
    session = await opened();
    inJob(Stock as never, {}, session);
    await fireEvent.click(screen.getByRole('button', { name: 'Add a can' }));
    await waitFor(() => expect(shop.doc['logbook.cans.k1']).toMatchObject({ filled_on: today() }));
    await fireEvent.click(screen.getByRole('button', { name: 'Add a cylinder' }));
    await waitFor(() =>
      expect(shop.doc['logbook.cylinders.c1']).toMatchObject({ size: '20', weighed_on: today() })
    );
  });
});

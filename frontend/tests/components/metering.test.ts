import { fireEvent, render, screen, waitFor, within } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { JobSession } from '$lib/session/session.svelte';
import { BenchLive, type Bench, type GasMetering } from '$lib/stages/first_start/bench.svelte';
import GasJet from '$lib/stages/first_start/GasJet.svelte';
import NextReading from '$lib/stages/first_start/NextReading.svelte';
import SettingCosts from '$lib/stages/first_start/SettingCosts.svelte';
import { shop } from '../shop';
import { begun, figure, inJob } from './inJob';

const shown = (text: string, unit = '') => ({ text, unit, low: text, high: text, number: 1 });
const turns = (text: string) =>
  figure({
    key: 'sweep.setting',
    label: 'set at',
    us: { ...shown(text, 'turns'), low: '1.50', high: '1.64' },
    metric: { ...shown(text, 'turns'), low: '1.50', high: '1.64' }
  });

const cost = (key: string, name: string, at: string, lam: string) => ({
  key,
  name,
  turns: at,
  figures: [
    figure({ key: `cost.${key}.lam`, label: 'λ at full load', us: shown(lam), metric: shown(lam) }),
    figure({ key: `cost.${key}.co`, label: 'CO in the exhaust', us: shown('2.1', '%') })
  ]
});

const gas = (changes: Partial<GasMetering> = {}): GasMetering =>
  ({
    fuel: 'propane',
    name: 'propane',
    letter: 'P',
    key: 's1-propane',
    screw: true,
    signal: 'output',
    signal_kind: 'power',
    next: null,
    cannot: null,
    setting: null,
    setting_mark: '',
    costs: [],
    load: null,
    locked: '',
    simulated: false,
    forbidden: [],
    readings: [],
    ...changes
  }) as unknown as GasMetering;

const ahead = {
  turns: 1.375,
  shown: '1-3/8',
  why: 'It tells most about the lean end.',
  how: 'Wait 20 s, read the output.'
};

describe('the next reading of a sweep', () => {
  let session: JobSession;
  beforeEach(async () => (session = await begun()));
  afterEach(() => session.close());

  const put = (
    one: GasMetering,
    bench?: Partial<Bench>,
    open: (key: string) => void = () => {}
  ) => {
    const live = new BenchLive(session, 'propane');
    if (bench) live.now = bench as Bench;
    return { live, ...inJob(NextReading, { gas: one, bench: live, live: true, open }, session) };
  };

  it('is asked for as a hand sets it, with how and why', () => {
    const { container } = put(gas({ next: ahead }));
    expect(screen.getByText('Next: 1-3/8 turns.')).toBeTruthy();
    expect(screen.getByText(/It tells most about the lean end/)).toBeTruthy();
    expect(container.querySelector('[data-next]')?.getAttribute('data-next')).toBe('1.375');
  });

  it('is typed with its turns filled in, in one write', async () => {
    const opens: string[] = [];
    put(gas({ next: ahead }), undefined, (key) => opens.push(key));
    await fireEvent.click(screen.getByRole('button', { name: 'Type a reading' }));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const paths = shop.log[0]?.changes.map((one) => one.path) ?? [];
    expect(paths).toHaveLength(2);
    expect(paths[0]).toBe(`metering.s1-propane.readings.${opens[0]}`);
    expect(shop.doc[`${paths[0]}.turns`]).toBe('1-3/8');
  });

  it('can not be taken while something forbids it', () => {
    put(gas({ next: ahead, forbidden: [{ text: 'not proven tight', path: '' }] as never }));
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Type a reading' });
    expect(button.disabled).toBe(true);
  });

  it('is taken of the bench without a probe, and with one where it is in the exhaust', async () => {
    const taken = { turns: 1.375, value: 2100, sigma: 0.004, ran: 'smooth', lam: 0.97 };
    const { live } = put(gas({ next: ahead }), { running: true, limit_w: 3000 } as Partial<Bench>);
    live.take = vi.fn().mockResolvedValue(taken) as never;
    const read = () => fireEvent.click(screen.getByRole('button', { name: 'Read now' }));
    await read();
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const first = shop.log[0]?.changes[0]?.value as Record<string, { origin?: string }>;
    expect(first.output?.origin).toBe('simulated');
    expect(first.lam).toBeUndefined();
    await fireEvent.click(screen.getByLabelText('probe in the exhaust'));
    await read();
    await waitFor(() => expect(shop.log).toHaveLength(2));
    const second = shop.log[1]?.changes[0]?.value as Record<string, { value?: number }>;
    expect(second.lam?.value).toBe(0.97);
  });

  it('gives way to why there is no setting, and what to check in order', () => {
    const cannot = {
      why: 'steps',
      text: 'The load goes in steps as wide as the whole plateau.',
      checks: ['smaller loads beside the large one', 'read by speed']
    };
    put(gas({ cannot }));
    expect(screen.getByText(/Cannot be set: The load goes in steps/)).toBeTruthy();
    expect(screen.getAllByRole('listitem').map((one) => one.textContent)).toEqual(cannot.checks);
  });

  it('ends in a setting that is locked at the mark a hand can find again', async () => {
    put(
      gas({
        setting: turns('1.57'),
        setting_mark: '1-9/16',
        costs: [
          cost('leanest', 'Leanest that gives up 1 %', '1-7/16', '0.95'),
          cost('set', 'As set', '1-9/16', '0.88')
        ]
      })
    );
    expect(screen.getByText('1-9/16', { selector: '[data-setting] *' })).toBeTruthy();
    expect(screen.getByText('1.50 to 1.64')).toBeTruthy();
    expect(screen.getByRole('table')).toBeTruthy();
    await fireEvent.click(screen.getByRole('button', { name: 'Lock it there' }));
    await waitFor(() => expect(shop.doc['metering.s1-propane.locked']).toBe('1-9/16'));
    expect(shop.doc['metering.s1-propane.locked_by']).toBe('Odo Marlin');
  });

  it('says what a setting costs only where there is something to compare', () => {
    put(
      gas({
        setting: turns('1.57'),
        setting_mark: '1-9/16',
        costs: [cost('set', 'As set', '1', '0.9')]
      })
    );
    expect(screen.queryByRole('table')).toBeNull();
  });
});

describe('what a setting costs', () => {
  it('stands figure under figure, the leanest that will do first', () => {
    const costs = [
      cost('leanest', 'Leanest that gives up 1 %', '1-7/16', '0.95'),
      cost('set', 'As set', '1-9/16', '0.88')
    ];
    render(SettingCosts, { costs });
    const heads = screen.getAllByRole('columnheader').map((one) => one.textContent ?? '');
    expect(heads[1]).toContain('Leanest that gives up 1 %');
    expect(heads[1]).toContain('1-7/16');
    expect(heads[2]).toContain('As set');
    const row = screen.getByRole('row', { name: /λ at full load/ });
    const cells = within(row).getAllByRole('button');
    expect(cells.map((one) => one.textContent?.trim())).toEqual(['0.95', '0.88']);
  });
});

describe('a gas jet in place of a screw', () => {
  let session: JobSession;
  beforeEach(async () => (session = await begun()));
  afterEach(() => session.close());

  const jet = {
    key: 'pv-gj-104',
    name: 'gas jet 3.8 mm',
    lam: figure({ key: 'jet.propane.lam', label: 'λ at full load' }),
    wanted: figure({ key: 'jet.propane.wanted', label: 'hole asked for here' }),
    probe: null,
    says: 'gas jet 3.8 mm not proven under load on this site',
    read: false
  };
  const put = (changes: object, more: Partial<GasMetering> = {}) => {
    const one = { ...jet, ...changes };
    return inJob(GasJet, { gas: gas({ screw: false, ...more }), jet: one }, session);
  };

  it('is read under its own name, so that another jet begins with nothing', async () => {
    put({});
    expect(screen.getByRole('heading', { name: 'Gas jet 3.8 mm' })).toBeTruthy();
    await fireEvent.click(screen.getByRole('button', { name: 'Read it under load' }));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const [change] = shop.log[0]?.changes ?? [];
    expect(change?.path).toBe('metering.s1-propane.readings.pv-gj-104');
    expect((change?.value as { by: string }).by).toBe('Odo Marlin');
  });

  it('can not be read while something forbids the gas', () => {
    put({}, { forbidden: [{ text: 'not proven tight', path: '' }] as never });
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Read it under load' });
    expect(button.disabled).toBe(true);
  });

  it('says what keeps it from being proven, and that it is', async () => {
    const { unmount } = put({ read: true, says: 'gas jet 3.8 mm too small: λ 1.20 is lean' });
    expect(screen.getByRole('status').textContent).toContain('too small');
    expect(screen.getByText('Plug after it')).toBeTruthy();
    await fireEvent.click(screen.getByRole('button', { name: 'Take the reading out' }));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes[0]?.path).toBe('metering.s1-propane.readings.pv-gj-104');
    unmount();
    put({ read: true, says: '' });
    expect(screen.getByRole('status').textContent).toContain('proven under load');
  });
});

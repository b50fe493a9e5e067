import { fireEvent, screen, waitFor } from '@testing-library/svelte';
import type { Component } from 'svelte';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { JobSession } from '$lib/session/session.svelte';
import BankPlan from '$lib/stages/load_test/BankPlan.svelte';
import Decision from '$lib/stages/load_test/Decision.svelte';
import type { Jets, LoadRun, LoadTest } from '$lib/stages/load_test/types';
import Cards from '../../src/routes/jobs/[id]/hand_over/cards/+page.svelte';
import JetsPage from '../../src/routes/jobs/[id]/load_test/jets/+page.svelte';
import { shop } from '../shop';
import { begun, figure, inJob, opened } from './inJob';

const both = (text: string) => ({ us: text, metric: text });
const advice = (changes: Partial<LoadRun['advice']> = {}): LoadRun['advice'] => ({
  what: 'keep',
  reasons: ['λ 0.90 at load.'],
  jet: '',
  turns: '',
  expects: '',
  stop: false,
  ...changes
});
const run = (changes: Partial<LoadRun> = {}): LoadRun =>
  ({
    key: 'r1',
    jet: '',
    turns: '1.50',
    advice: advice(),
    again: { jet: '', turns: '' },
    keeps: [],
    decided: '',
    reason: '',
    decided_by: '',
    settled: false,
    simulated: false,
    wants_reason: false,
    ...changes
  }) as unknown as LoadRun;
const test = (changes: Partial<LoadTest> = {}): LoadTest =>
  ({
    fuel: 'propane',
    name: 'propane',
    key: 's1-propane',
    gas: true,
    legs: 1,
    runs: [],
    ...changes
  }) as unknown as LoadTest;

let session: JobSession;
beforeEach(async () => (session = await begun()));
afterEach(() => session.close());

describe('what follows from a run', () => {
  const put = (one: LoadRun, of = test()) =>
    inJob(Decision, { test: of, run: one, begun: () => {} }, session);
  const press = (name: RegExp) => fireEvent.click(screen.getByRole('button', { name }));

  it('is kept with what it makes of the set, in one write, by whoever says so', async () => {
    const value = { value: 1.5, origin: 'measured', typed: '' };
    const keeps = [{ path: 'metering.s1-propane.locked', value }] as LoadRun['keeps'];
    put(run({ keeps }));
    await press(/^Keep it/);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const decided = shop.doc['load_tests.s1-propane.runs.r1.decided'];
    expect(decided).toMatchObject({ what: 'keep', by: 'Odo Marlin', reason: 'λ 0.90 at load.' });
    expect(shop.doc['metering.s1-propane.locked']).toEqual(value);
    expect(shop.doc['metering.s1-propane.locked_by']).toBe('Odo Marlin');
  });

  it('leaves the set as it is where something else is decided', async () => {
    const keeps = [{ path: 'metering.s1-propane.locked', value: {} }] as never;
    put(run({ keeps, advice: advice({ what: 'screw_out', turns: '1.62', expects: '0.95' }) }));
    expect(screen.getByRole('status').textContent).toContain('to 1.62');
    expect(screen.getByRole('status').textContent).toMatch(/λ about 0.95\s+expected/);
    await press(/Open the load screw/);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(Object.keys(shop.doc)).toEqual(['load_tests.s1-propane.runs.r1.decided']);
  });

  it('keeps a reason of one’s own where it goes against the advice', async () => {
    put(run({ reason: 'owner wants it rich', advice: advice({ what: 'screw_out' }) }));
    await press(/^Keep it/);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.doc['load_tests.s1-propane.runs.r1.decided']).toMatchObject({
      reason: 'owner wants it rich'
    });
  });

  it('stops in words where a probe and a plug disagree', () => {
    const reasons = ['The probe and the plug disagree: λ 0.72 there. Measure both again.'];
    put(run({ advice: advice({ what: 'put_right', reasons, stop: true }) }));
    expect(screen.getByText(/The probe and the plug disagree/)).toBeTruthy();
    expect(screen.getByText('Stop: no more load until that is fixed.')).toBeTruthy();
  });

  it('offers jets on gasoline and the screw on a gas', () => {
    const { unmount } = put(run());
    expect(screen.queryByRole('button', { name: /Larger jet/ })).toBeNull();
    unmount();
    put(run(), test({ gas: false, fuel: 'gasoline', key: 's1-gasoline' }));
    expect(screen.getByRole('button', { name: /Larger jet/ })).toBeTruthy();
    expect(screen.queryByRole('button', { name: /load screw/ })).toBeNull();
  });

  it('settles nothing on the simulated bench, and says so', () => {
    put(run({ decided: 'keep', decided_by: 'Odo Marlin', simulated: true }));
    expect(screen.getByText(/On the simulated bench: settles nothing/)).toBeTruthy();
  });
});

describe('what to switch on', () => {
  const bank = (changes: Partial<LoadTest['bank']> = {}): LoadTest['bank'] => ({
    loads: [
      { key: 'heater', name: 'heater', watts: both('1,500 W'), count: 1, without: false },
      { key: 'lamp', name: 'lamp bank', watts: both('500 W'), count: 2, without: true }
    ],
    on: [{ name: 'heater', count: 1, leg: 'a', watts: both('1,500 W') }],
    total: both('1,500 W'),
    total_w: 1500,
    share: 0.879,
    legs: [both('1,500 W'), both('0 W')],
    enough: true,
    short: both('0 W'),
    ...changes
  });

  it('is counted together, its share never rounded up', () => {
    inJob(BankPlan, { test: test({ bank: bank() }) }, session);
    expect(screen.getByText('87 %')).toBeTruthy();
    expect(screen.queryByText(/legs/)).toBeNull();
  });

  it('says which leg where there are two', () => {
    inJob(BankPlan, { test: test({ bank: bank(), legs: 2 }) }, session);
    expect(screen.getByText('A')).toBeTruthy();
    expect(screen.getByText(/together, legs\s+1,500 W and 0 W/)).toBeTruthy();
  });

  it('says how much is missing for a test that counts', () => {
    const short = bank({ enough: false, short: both('600 W') });
    inJob(BankPlan, { test: test({ bank: short }) }, session);
    expect(screen.getByRole('status').textContent).toContain('600 W more');
  });
});

describe('the main jet', () => {
  const jets = (changes: Partial<Jets> = {}): Jets => ({
    wanted: [figure({ key: 'jets.density', label: 'by density: λ about 0.90' })],
    as_it_is: figure({ key: 'jets.now', label: 'λ', warnings: [] }),
    state: 'rich',
    text: 'Rich: fit a smaller jet.',
    at_hand: [80, 85, 90],
    pick: 85,
    picks: [85],
    why: 'by density',
    to_order: false,
    settled: false,
    in_it: 90,
    meant: 85,
    below: [],
    orifice: null,
    coldest: null,
    asked: true,
    ...changes
  });
  const page = async (views: Record<string, unknown>) => {
    session.close();
    shop.views = views;
    shop.doc = { 'set.set_class': 'open_frame' };
    session = await opened();
    return inJob(JetsPage as Component<Record<string, unknown>>, {}, session);
  };
  const gasoline = test({ fuel: 'gasoline', key: 's1-gasoline', gas: false });

  it('picks the smallest at hand that is not lean, and puts it in as a run of its own', async () => {
    const { container } = await page({ jets: jets(), load_tests: [gasoline] });
    const button = (number: number) =>
      container.querySelector<HTMLButtonElement>(`[data-jet="${number}"]`);
    expect(button(90)?.disabled).toBe(true);
    expect(button(85)?.className).toContain('btn-primary');
    await fireEvent.click(button(85) as HTMLButtonElement);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const [first, second] = shop.log[0]?.changes ?? [];
    expect(first?.path).toMatch(/^load_tests\.s1-gasoline\.runs\.r/);
    expect(second?.path).toBe(`${first?.path}.jet`);
    expect(second?.typed).toBe('85');
  });

  it('says so where none that is sold is large enough', async () => {
    await page({ jets: jets({ pick: null, picks: [null] }), load_tests: [gasoline] });
    expect(screen.getByText(/None that is sold is large enough/)).toBeTruthy();
    expect(screen.queryByText(/Go by it/)).toBeNull();
  });

  it('settles on another school’s jet, with where it is from, and goes back', async () => {
    const density = figure({ key: 'jets.density', label: 'by density: λ about 0.90' });
    const sheet = figure({ key: 'jets.kit', label: 'by the kit’s sheet: λ about 0.94' });
    await page({ jets: jets({ wanted: [density, sheet], picks: [85, 82], to_order: true }) });
    expect(screen.getByText(/it is on the parts list/)).toBeTruthy();
    const [own, other] = screen.getAllByText(/Go by it/) as HTMLButtonElement[];
    expect(own?.disabled).toBe(true);
    await fireEvent.click(other as HTMLButtonElement);
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes).toMatchObject([
      { path: 'set.carburetor.jets.chosen.number', typed: '82' },
      { path: 'set.carburetor.jets.chosen.source', value: 'by the kit’s sheet' }
    ]);
  });

  it('reads what the jet in it does, by its state', async () => {
    const { container } = await page({ jets: jets({ state: 'stop' }), load_tests: [gasoline] });
    const said = container.querySelector('[data-lambda]');
    expect(said?.getAttribute('data-lambda')).toBe('stop');
    expect(said?.className).toContain('stop');
  });

  it('names each place it is lean at, coming down', async () => {
    const below = [
      { place: 'Valley', figure: figure({ warnings: [] }), state: 'stop' as const, text: 'Lean.' }
    ];
    const { container } = await page({ jets: jets({ below }), load_tests: [gasoline] });
    expect(container.querySelector('[data-below="stop"]')?.textContent).toContain('Valley');
    expect(screen.getByText(/down there the old one goes back in first/)).toBeTruthy();
  });

  it('asks for the number first where none is known', async () => {
    await page({ jets: jets({ wanted: [] }), load_tests: [gasoline] });
    expect(screen.getByText(/The number stamped on the jet/)).toBeTruthy();
  });
});

describe('the owner’s cards', () => {
  const card = (key: string, letter: string) => ({
    key,
    title: `On ${key}`,
    fuel: key,
    letter,
    blocks: [
      {
        title: 'To start',
        lines: ['Open the valve.', 'Start it.'],
        numbered: true,
        sign: 'start'
      },
      { title: 'Never', lines: ['Never indoors.'], numbered: false, sign: 'no such' }
    ]
  });
  const signs = {
    start: [
      [1, 2, 3, 4],
      [5, 6, 7, 8]
    ]
  };
  const page = async (cards: Record<string, unknown>) => {
    session.close();
    shop.views = { cards: { signs, ...cards } };
    session = await opened();
    return inJob(Cards as Component<Record<string, unknown>>, {}, session);
  };

  it('are shown one at a time, with what keeps them a draft', async () => {
    const cards = [card('propane', 'P'), card('gasoline', 'G')];
    const { container } = await page({ cards, draft: 'Not yet: no start.', withheld: [] });
    expect(screen.getByRole('status').textContent).toContain('Not yet: no start.');
    expect(container.querySelector('[data-card]')?.getAttribute('data-card')).toBe('propane');
    await fireEvent.click(screen.getByRole('button', { name: 'On gasoline' }));
    await waitFor(() =>
      expect(container.querySelector('[data-card]')?.getAttribute('data-card')).toBe('gasoline')
    );
    expect(container.querySelectorAll('ol li')).toHaveLength(2);
    expect(container.querySelectorAll('ul li')).toHaveLength(1);
    const [start, never] = [...container.querySelectorAll('h3')];
    expect(start?.querySelectorAll('polyline')).toHaveLength(2);
    expect(never?.querySelectorAll('polyline')).toHaveLength(0);
  });

  it('say which are withheld, and why', async () => {
    const withheld = ['No card for biogas: no safe order.'];
    await page({ cards: [card('propane', 'P')], draft: '', withheld });
    expect(screen.getByRole('alert').textContent).toContain('no safe order');
  });

  it('wait for a method', async () => {
    await page({ cards: [], draft: '', withheld: [] });
    expect(screen.getByText(/choose a method first/)).toBeTruthy();
  });
});

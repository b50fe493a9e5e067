import { fireEvent, render, screen, waitFor } from '@testing-library/svelte';
import type { Component } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { SketchItem, Train } from '$lib/api/client';
import { FUELS } from '$lib/api/published';
import StageMark from '$lib/frame/StageMark.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import BenchSlide from '$lib/stages/first_start/BenchSlide.svelte';
import BenchTick from '$lib/stages/first_start/BenchTick.svelte';
import { draw, RATE } from '$lib/quick/recording';
import ComesBack from '$lib/stages/fit/ComesBack.svelte';
import FastenerMap from '$lib/stages/fit/FastenerMap.svelte';
import BillTable from '$lib/stages/fuel_path/BillTable.svelte';
import FoundActs from '$lib/stages/fuel_path/FoundActs.svelte';
import PlacePressures from '$lib/stages/fuel_path/PlacePressures.svelte';
import RestsOn from '$lib/stages/fuel_path/RestsOn.svelte';
import TrainTabs from '$lib/stages/fuel_path/TrainTabs.svelte';
import TrainWays from '$lib/stages/fuel_path/TrainWays.svelte';
import DrillClock from '$lib/stages/hand_over/DrillClock.svelte';
import DrillLeave from '$lib/stages/hand_over/DrillLeave.svelte';
import MovesTable from '$lib/stages/hand_over/MovesTable.svelte';
import RecordDiffers from '$lib/stages/hand_over/RecordDiffers.svelte';
import { HIGH, SketchDrag, WIDE } from '$lib/stages/intake/drag.svelte';
import { fan, ray } from '$lib/stages/intake/sketch';
import UpkeepDone from '$lib/stages/logbook/UpkeepDone.svelte';
import UpkeepDue from '$lib/stages/logbook/UpkeepDue.svelte';
import MatrixTable from '$lib/stages/method/MatrixTable.svelte';
import Patterns from '$lib/stages/method/Patterns.svelte';
import LockUp from '$lib/stages/prove_tight/LockUp.svelte';
import Pressures from '$lib/stages/prove_tight/Pressures.svelte';
import { fuelOf, GAS_FUELS, inkOf } from '$lib/ui/fuels';
import Mark from '$lib/ui/Mark.svelte';
import { shop } from '../shop';
import { begun, figure, inJob } from './inJob';

const both = (text: string) => ({ us: text, metric: text });
const anyOf = (one: unknown) => one as Component<Record<string, unknown>>;
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

let session: JobSession;
beforeEach(async () => (session = await begun()));
afterEach(() => session.close());

describe('a fuel', () => {
  it('is marked by its letter on its own hatching, whatever its color', () => {
    for (const { key, letter, hatch } of FUELS) {
      const { container, unmount } = render(Mark, { letter, fuel: key });
      const mark = container.querySelector('.mark');
      expect(mark?.textContent).toBe(letter);
      expect(mark?.classList).toContain(hatch);
      unmount();
    }
    expect(new Set(FUELS.map((one) => one.hatch)).size).toBe(FUELS.length);
  });

  it('has a pattern of its own in every chart', () => {
    const { container } = render(Patterns);
    const drawn = [...container.querySelectorAll('pattern')].map((one) => one.innerHTML);
    expect(new Set(drawn).size).toBe(FUELS.length);
    for (const { key } of FUELS) expect(container.querySelector(`#fuel-${key}`)).not.toBeNull();
  });

  it('of which nobody knows anything is still drawn', () => {
    expect(fuelOf('steam')).toBeUndefined();
    expect(inkOf('natural_gas')).toBe('var(--natural-gas, currentColor)');
    const { container } = render(Mark, { letter: 'S', fuel: 'steam' });
    expect(container.querySelector('.mark.plain')?.textContent).toBe('S');
    expect(GAS_FUELS.map((one) => one.key)).not.toContain('gasoline');
  });
});

describe('the sketch', () => {
  const mark = { kind: 'set', name: '', x: 4, y: 4 } as unknown as SketchItem;
  const drag = (items: Record<string, SketchItem>) =>
    new SketchDrag(session, () => ({ at: 'sites.s1', items }));
  const key = (name: string) => new KeyboardEvent('keydown', { key: name, cancelable: true });

  it('moves a mark by keys, keeps it within its edges, and writes it once it rests', async () => {
    vi.useFakeTimers();
    const one = drag({ i1: { ...mark, x: 0.6, y: HIGH - 0.7 } });
    expect(one.key(key('ArrowLeft'), 'i1')).toBe(true);
    one.key(key('ArrowDown'), 'i1');
    expect(one.placed('i1', mark)).toEqual({ x: 0.5, y: HIGH - 0.5 });
    expect(one.key(key('a'), 'i1')).toBe(false);
    expect(session.pending('sites.s1.sketch.items.i1.x')).toBeUndefined();
    vi.advanceTimersByTime(400);
    vi.useRealTimers();
    await waitFor(() => expect(shop.doc['sites.s1.sketch.items.i1.x']).toBe(0.5));
    expect(shop.doc['sites.s1.sketch.items.i1.y']).toBe(HIGH - 0.5);
  });

  it('holds a mark under the pointer, to the nearest tenth, until the job says so too', async () => {
    const items = { i1: mark };
    const one = drag(items);
    const box = { left: 0, top: 0, width: 300, height: 180 };
    one.board = { getBoundingClientRect: () => box } as unknown as SVGSVGElement;
    const at = (clientX: number, clientY: number) =>
      ({ clientX, clientY, currentTarget: { setPointerCapture: () => {} } }) as never;
    one.down(at(40, 40), 'i1');
    one.move(at(123, 9999));
    expect(one.placed('i1', mark)).toEqual({ x: 12.3, y: HIGH - 0.5 });
    one.up();
    one.settle();
    expect(one.placed('i1', mark)).toEqual({ x: 12.3, y: HIGH - 0.5 });
    await waitFor(() => expect(shop.doc['sites.s1.sketch.items.i1.x']).toBe(12.3));
    items.i1 = { ...mark, x: 12.3, y: HIGH - 0.5 };
    one.settle();
    expect(one.placed('i1', { x: 1, y: 1 })).toEqual({ x: 1, y: 1 });
  });

  it('writes nothing for a mark that is only looked at, and takes one out by its key', async () => {
    const one = drag({ i1: mark });
    one.down({ currentTarget: { setPointerCapture: () => {} }, pointerId: 1 } as never, 'i1');
    one.up();
    expect(shop.log).toHaveLength(0);
    one.key(key('Delete'), 'i1');
    await waitFor(() => expect(shop.log).toHaveLength(1));
    expect(shop.log[0]?.changes).toMatchObject([
      { path: 'sites.s1.sketch.items.i1', remove: true }
    ]);
  });

  it('draws a bearing from north, clockwise', () => {
    expect(WIDE).toBeGreaterThan(HIGH);
    const east = ray(90, 0, 2).b;
    expect(east[0]).toBeCloseTo(2);
    expect(east[1]).toBeCloseTo(0);
    expect(fan(180, 6)).toMatch(/^M0 0 L4\.24\d* 4\.24\d* A6 6 0 0 1 -4\.24/);
  });
});

describe('a train', () => {
  const train = (changes: Record<string, unknown> = {}) =>
    ({
      name: 'propane',
      fuel: 'propane',
      letter: 'P',
      template: 'spacer_adapter-cylinder',
      template_title: 'one cylinder',
      troubles: [],
      own_branch: [],
      zones: [
        { key: 'low', us: { pa: 248.84, unit: 'in w.c.' }, metric: { pa: 100, unit: 'mbar' } }
      ],
      ...changes
    }) as unknown as Train;
  const bench = { busy: false, show: vi.fn(), propose: vi.fn() };

  it('is chosen among the others, and one with a stop says so', async () => {
    const stopped = train({ name: 'biogas', fuel: 'biogas', troubles: [{ severity: 'stop' }] });
    const trains = [train(), stopped];
    inJob(anyOf(TrainTabs), { trains, train: trains[0], bench, drawing: undefined }, session);
    const tabs = screen.getAllByRole('button', { name: /one cylinder/ });
    expect(tabs.map((one) => one.getAttribute('aria-pressed'))).toEqual(['true', 'false']);
    expect(tabs[1]?.textContent).toContain('stop');
    await fireEvent.click(tabs[1] as HTMLElement);
    expect(bench.show).toHaveBeenCalledWith('biogas');
    await press('Remove this train');
    await waitFor(() => expect(shop.log[0]?.changes).toMatchObject([{ path: 'trains.propane' }]));
  });

  it('says whether it passes a cover, or leaves it to the class of the set', async () => {
    inJob(anyOf(TrainWays), { train: train() }, session);
    const cover = screen.getByRole<HTMLSelectElement>('combobox');
    expect(cover.value).toBe('null');
    await fireEvent.change(cover, { target: { value: 'false' } });
    await waitFor(() => expect(shop.doc['trains.propane.through_cover']).toBe(false));
    await fireEvent.change(cover, { target: { value: 'null' } });
    await waitFor(() => expect(shop.doc['trains.propane.through_cover']).toBeNull());
  });

  it("of gasoline tells the own tank's branch instead", () => {
    const own_branch = [
      { joined: '', name: 'own tap', there: true },
      { joined: 'clamp', name: 'tee', there: false }
    ];
    inJob(anyOf(TrainWays), { train: train({ fuel: 'gasoline', own_branch }) }, session);
    expect(screen.queryByRole('combobox')).toBeNull();
    expect(screen.getByText('own tap, there already → clamp, tee')).toBeTruthy();
  });

  it('shows pressures in the unit of their zone, with a true minus', () => {
    const place = {
      zone_in: 'low',
      zone_out: 'low',
      inlet_pa: { none: 2488.4, idle: 2488.4, full: 1244.2 },
      outlet_pa: { none: -248.84 }
    };
    inJob(anyOf(PlacePressures), { train: train(), place }, session);
    const cells = screen.getAllByRole('cell').map((one) => one.textContent?.trim());
    expect(cells).toContain('10 in w.c.');
    expect(cells).toContain('5 in w.c.');
    expect(cells).toContain('−1 in w.c.');
    expect(cells).toContain('–');
  });

  it('rests on facts nobody measured, the nearest first, each with its place', () => {
    const rest = (label: string, above: boolean) => ({
      path: `sites.s1.${label}`,
      label,
      taken: both('−10 °C'),
      turns_at: figure(),
      above,
      stops: ['It starves.']
    });
    const rests = [rest('Coldest night', false), rest('Length', true), rest('Bore', true)];
    inJob(anyOf(RestsOn), { rests }, session);
    const rows = screen.getAllByRole('listitem').map((one) => one.textContent ?? '');
    expect(rows[0]).toMatch(/stops at .*and below/s);
    expect(rows[1]).toMatch(/stops from/);
    expect(screen.getByText(/Measure the first two/)).toBeTruthy();
  });
});

describe('the simulated bench', () => {
  it('is set by slides and ticks that say what they stand at', async () => {
    const set = vi.fn();
    const slide = { text: 'Load screw', unit: 'turns', shown: '1.50', value: 1.5, most: 6 };
    render(BenchSlide, { ...slide, step: 0.05, set });
    await fireEvent.input(screen.getByLabelText(/Load screw 1.50 turns/), {
      target: { value: '2' }
    });
    expect(set).toHaveBeenCalledWith(2);
    render(BenchTick, { text: 'gas open', on: null, set });
    await fireEvent.click(screen.getByLabelText('gas open'));
    expect(set).toHaveBeenLastCalledWith(true);
  });
});

describe('what came off', () => {
  it('is counted, and an emptied count is nothing rather than naught', async () => {
    inJob(anyOf(FastenerMap), { fasteners: [{ key: 'cover', where: 'Cover', note: '' }] }, session);
    const many = screen.getByLabelText(/How many/);
    await fireEvent.change(many, { target: { value: '4' } });
    await waitFor(() => expect(shop.doc['fit.fasteners.cover']).toMatchObject({ count: 4 }));
    await fireEvent.change(screen.getByLabelText(/^Size/), { target: { value: 'M6 × 20' } });
    await waitFor(() =>
      expect(shop.doc['fit.fasteners.cover']).toMatchObject({ count: 4, size: 'M6 × 20' })
    );
    await fireEvent.change(many, { target: { value: '' } });
    await waitFor(() => expect(shop.doc['fit.fasteners.cover']).toMatchObject({ count: null }));
  });

  it('comes back by somebody, to somebody', async () => {
    inJob(anyOf(ComesBack), { rows: [{ key: 'box', what: 'air box', why: '' }] }, session);
    await fireEvent.change(screen.getByLabelText('Who gets air box'), {
      target: { value: 'supplier' }
    });
    await fireEvent.click(screen.getByRole('checkbox'));
    await waitFor(() =>
      expect(shop.doc['fit.back.box']).toMatchObject({
        what: 'air box',
        to: 'supplier',
        back: true,
        by: 'Odo Marlin'
      })
    );
  });
});

describe('handing over', () => {
  it('is left out with a reason only, which is asked for anew the next time', async () => {
    const leave = vi.fn();
    inJob(anyOf(DrillLeave), { drill: { key: 'd1' }, leave }, session);
    const why = screen.getByLabelText<HTMLInputElement>(/because/);
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Leave it' });
    expect(button.disabled).toBe(true);
    await fireEvent.input(why, { target: { value: '  no gas today ' } });
    await fireEvent.click(button);
    expect(leave).toHaveBeenCalledWith('no gas today');
    expect(why.value).toBe('');
  });

  it('counts wrong moves while the clock runs, and says which move is the last', async () => {
    const [moved, missed, stop] = [vi.fn(), vi.fn(), vi.fn()];
    const clock = { wrong: 2, seconds: 41, moved, missed, stop };
    const { rerender } = render(DrillClock, { ...clock, last: false });
    expect(document.activeElement?.textContent).toBe('Move done');
    await press('Wrong move (2)');
    await press('Stop');
    expect([missed, stop].map((one) => one.mock.calls.length)).toEqual([1, 1]);
    await rerender({ last: true });
    await press('Last move done');
    expect(moved).toHaveBeenCalledOnce();
    expect(screen.getByText('41 s')).toBeTruthy();
  });

  it('tells in eighths what a move turns, and where it stops', () => {
    const place = (key: string) => ({ key, site: key, fuel_name: 'propane' });
    const move = (start: string, goal: string, more: object) => ({
      start,
      goal,
      stops: [],
      lam: figure(),
      eighths: 0,
      ...more
    });
    const found = {
      places: [place('a'), place('b'), place('c')],
      moves: [
        move('a', 'b', { eighths: -3 }),
        move('b', 'a', { eighths: 3 }),
        move('a', 'c', { stops: ['too thin'] }),
        move('c', 'a', { lam: null }),
        move('b', 'c', {})
      ]
    };
    inJob(anyOf(MovesTable), { found }, session);
    const cells = screen.getAllByRole('cell').map((one) => one.textContent?.trim());
    expect(cells).toEqual(['–', '−3/8', 'stops', '+3/8', '–', 'as is', 'jet', '–', '–']);
  });

  it('says line by line what differs from what was signed, and what is gone', () => {
    const differs = [
      { section: 'Set', label: 'Owner', was: both('Tove'), now: both('Runa') },
      { section: 'Set', label: 'Note', was: both('old'), now: both('') }
    ];
    inJob(anyOf(RecordDiffers), { differs }, session);
    const cells = screen.getAllByRole('cell').map((one) => one.textContent?.trim());
    expect(cells).toEqual(['Tove', 'Runa', 'old', '–']);
  });
});

describe('upkeep', () => {
  const due = (changes: object) => ({
    key: 'oil',
    name: 'oil',
    why: '',
    every: '100 h',
    parts: '',
    state: 'soon',
    due: '2026-12-04',
    early: '2026-12-01',
    late: '2026-12-09',
    left: both('12 h'),
    last: null,
    done_here: true,
    ...changes
  });

  it('tells when it is due, between which days, and since when it never was', async () => {
    const mark = vi.fn();
    const over = due({ key: 'plug', name: 'plug', state: 'over', left: null });
    inJob(anyOf(UpkeepDue), { due: [due({}), over], mark }, session);
    const rows = screen.getAllByRole('row').map((one) => one.textContent ?? '');
    expect(rows[1]).toMatch(/soon.*to.*12 h.*never noted/s);
    expect(rows[2]).toMatch(/overdue/);
    expect(rows[2]).not.toMatch(/ to /);
    await fireEvent.click(screen.getAllByRole('button', { name: 'Done today' })[1] as HTMLElement);
    expect(mark).toHaveBeenCalledWith('plug');
  });

  it('takes minutes as a number and asks what was opened, but of the leak test itself', async () => {
    const one = { task: 'oil', on: '2026-11-20', by: 'RK', minutes: 20 };
    const { unmount } = inJob(
      anyOf(UpkeepDone),
      { key: 'u1', one, name: 'oil', fresh: true },
      session
    );
    await fireEvent.change(screen.getByLabelText('Minutes'), { target: { value: '' } });
    await waitFor(() => expect(shop.doc['logbook.upkeep.u1.minutes']).toBeNull());
    expect(screen.getByLabelText(/soap it before it runs/)).toBeTruthy();
    await press('Remove');
    await waitFor(() => expect(shop.log.at(-1)?.changes[0]?.remove).toBe(true));
    unmount();
    inJob(
      anyOf(UpkeepDone),
      { key: 'u2', one: { ...one, task: 'leak' }, name: 'leaks', fresh: true },
      session
    );
    expect(screen.queryByLabelText(/soap it before it runs/)).toBeNull();
  });
});

describe('fuel states', () => {
  it('underline what one control by mistake makes dangerous, and say what', async () => {
    const pick = vi.fn();
    const states = {
      controls: [{ key: 'valve', name: 'Cylinder valve' }],
      columns: [
        {
          key: 'gas',
          name: 'On propane',
          safe: false,
          positions: { valve: 'open' },
          slips: [{ control: 'valve', position: 'shut', faults: [{ text: 'it stalls' }] }]
        },
        { key: 'off', name: 'Off', safe: true, positions: { valve: 'shut' }, slips: [] }
      ]
    };
    render(anyOf(MatrixTable), { states, shown: 'gas', pick });
    const [on, off] = screen.getAllByRole('cell').slice(-2);
    expect(on?.getAttribute('title')).toBe('shut: it stalls');
    expect(on?.classList).toContain('mind');
    expect(off?.classList).not.toContain('mind');
    await press('Off');
    expect(pick).toHaveBeenCalledWith('off');
  });

  it('and stages have marks told apart by shape, not by color alone', () => {
    const told = ['done', 'stop', 'left_out', 'waiting', 'under_way', 'not_started'].map(
      (state) => {
        const { container, unmount } = render(anyOf(StageMark), { state });
        const drawn = container.querySelector('svg')?.innerHTML ?? '';
        unmount();
        return drawn;
      }
    );
    expect(new Set(told).size).toBe(told.length);
  });
});

describe("somebody else's train", () => {
  const place = (key: string, changes: object = {}) => ({
    key,
    joint: { proper: 'tape' },
    needs_upright: false,
    ports: [],
    ...changes
  });
  const bench = { busy: false, edit: vi.fn(), propose: vi.fn(), keep: vi.fn(), options: undefined };
  const acts = (places: object[], stops = 0) =>
    inJob(
      anyOf(FoundActs),
      { train: { fuel: 'propane', template: 't', places }, bench, fuel: 'propane', stops },
      session
    );

  it('is found right in one write, which leaves alone what was said before', async () => {
    session.set('trains.as_found.slots.b.seal', 'putty');
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const regulator = place('c', { needs_upright: true, ports: ['side'], joint: null });
    acts([place('a'), place('b'), regulator]);
    await press(/I checked all of it/);
    await waitFor(() => expect(shop.log).toHaveLength(2));
    expect(shop.log[1]?.changes).toEqual([
      { path: 'trains.as_found.slots.a.seal', value: 'tape' },
      { path: 'trains.as_found.slots.c.upright', value: true },
      { path: 'trains.as_found.slots.c.capped', value: true }
    ]);
  });

  it('is made the job’s own only without a stop', async () => {
    const { unmount } = acts([place('a')], 2);
    const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: /Make it this job/ });
    expect(keep().disabled).toBe(true);
    expect(keep().title).toBe('Repair it first');
    unmount();
    acts([place('a')]);
    await fireEvent.click(keep());
    expect(bench.keep).toHaveBeenCalledWith('propane');
  });
});

describe('a list of parts', () => {
  it('puts the other part where its line says, and nowhere without a place', async () => {
    const line = (changes: object) => ({
      key: 'l1',
      count: both('1'),
      name: 'hose',
      uses: [],
      other: 'longer hose',
      other_gain: 'saves $ 4',
      other_key: 'lf-h-2',
      slot: 'propane.hose',
      source: 'train',
      number: 'LF-1',
      price: 12,
      comes: false,
      ...changes
    });
    const group = { source: 'train', title: 'Propane train', price: 24 };
    const bill = { groups: [{ ...group, lines: [line({}), line({ key: 'l2', slot: '' })] }] };
    inJob(anyOf(BillTable), { bill }, session);
    expect(screen.getAllByRole('button', { name: 'use it' })).toHaveLength(1);
    await press('use it');
    await waitFor(() => expect(shop.doc['trains.propane.slots.hose.part']).toBe('lf-h-2'));
  });
});

describe('proving tight', () => {
  const gas = (changes: object = {}) => ({
    fuel: 'propane',
    name: 'propane',
    lock_up: 'not_looked',
    lock_up_how: 'A film over the outlet.',
    lock_up_by: '',
    meters: 'demand regulator',
    pressures: [],
    ...changes
  });

  it('says who saw the film stand, and what is wrong when it grew', async () => {
    const { unmount } = inJob(anyOf(LockUp), { gas: gas() }, session);
    await press('It grows');
    await waitFor(() =>
      expect(shop.doc['proof.lock_up.propane']).toMatchObject({ state: 'grows', by: 'Odo Marlin' })
    );
    unmount();
    inJob(anyOf(LockUp), { gas: gas({ lock_up: 'grows' }) }, session);
    expect(screen.getByText(/It grew: source shut/)).toBeTruthy();
  });

  it('holds pressures against the ladder once there are some', () => {
    const { unmount } = inJob(anyOf(Pressures), { gas: gas() }, session);
    expect(screen.queryByText(/Held against the ladder/)).toBeNull();
    unmount();
    const read = [figure({ key: 'a', label: 'at rest' }), figure({ key: 'b', label: 'full' })];
    inJob(anyOf(Pressures), { gas: gas({ pressures: read }) }, session);
    expect(screen.getByText(/Held against the ladder/).textContent).toMatch(/at rest.*; full/s);
  });
});

describe('a recording', () => {
  it('is drawn as loud as it is, its loudest to the top, silence as a line', () => {
    const heights = (path: string) =>
      [...path.matchAll(/M\d+ ([\d.]+)V30/g)].map((one) => 30 - Number(one[1]));
    const beat = Float32Array.from({ length: RATE }, (_, i) => (i < RATE / 2 ? 0.1 : 0.4));
    const drawn = heights(draw(beat));
    expect(drawn).toHaveLength(240);
    expect(drawn[10]).toBeCloseTo(7);
    expect(drawn[200]).toBeCloseTo(28);
    const silent = heights(draw(new Float32Array(RATE)));
    expect(new Set(silent).size).toBe(1);
    expect(draw(new Float32Array(10))).not.toContain('NaN');
  });
});

import { fireEvent, screen, waitFor, within } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { components } from '$lib/api/schema';
import { prefs } from '$lib/session/prefs.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import Motors from '$lib/stages/intake/Motors.svelte';
import UsualLoads from '$lib/stages/intake/UsualLoads.svelte';
import Switches from '$lib/stages/intake/Switches.svelte';
import Wish from '../../src/routes/jobs/[id]/intake/wish/+page.svelte';
import Ready from '../../src/routes/jobs/[id]/fuel_path/ready/+page.svelte';
import Moving from '../../src/routes/jobs/[id]/hand_over/move/+page.svelte';
import Joint from '../../src/routes/jobs/[id]/load_test/joint/+page.svelte';
import { shop } from '../shop';
import { figure, inJob, openPage, opened } from './inJob';

type Schemas = components['schemas'];

let session: JobSession;
async function page(...asked: Parameters<typeof openPage>) {
  const shown = await openPage(...asked);
  ({ session } = shown);
  return shown;
}
beforeEach(() => {
  shop.reset();
  prefs.who = 'Odo Marlin';
});
afterEach(() => session.close());

describe('what a pass rests on', () => {
  const rest = (path: string, label: string, above: boolean): Schemas['RestsOut'] => ({
    path,
    label,
    above,
    taken: { us: '7.50 in w.c.', metric: '18.7 mbar' },
    turns_at: figure({ key: `rests.${path}`, label, warnings: [] }),
    stops: ['Natural gas train: demand regulator starves at full load.']
  });

  it('asks for the first two where there are more, each with its place and what stops', async () => {
    const rests = [
      rest('sites.s1.gases.g1.house', 'Pressure at the stub at flow', false),
      rest('sites.s1.gases.g1.hhv', 'Heating value (HHV)', false),
      rest('set.carburetor.jetted_at', 'Jetted for', true)
    ];
    const { container } = await page(Ready, { ready: [], rests });
    expect(screen.getByText(/Measure the first two before you drive home/)).toBeTruthy();
    const rows = container.querySelectorAll<HTMLElement>('[data-rests]');
    expect(rows).toHaveLength(3);
    const [first, , last] = [...rows];
    expect(first?.textContent).toContain('taken as 7.50 in w.c.');
    expect(first?.textContent).toMatch(/stops at\s+2,880\s+W\s+and below/);
    expect(last?.textContent).toMatch(/stops from\s+2,880/);
    expect(first && within(first).getByRole('link').getAttribute('href')).toContain(
      'fuel_path/house?field=sites.s1.gases.g1.house'
    );
  });

  it('says so where no assumed fact turns anything, once there is a train', async () => {
    shop.doc = { 'trains.propane': { slots: {} } };
    await page(Ready, { ready: [], rests: [] });
    expect(screen.getByText(/No fact that is only assumed turns/)).toBeTruthy();
  });

  it('says nothing of it before there is one', async () => {
    await page(Ready, { ready: [], rests: [] });
    expect(screen.queryByText(/only assumed/)).toBeNull();
  });
});

describe('the joint estimate', () => {
  const row: Schemas['TogetherRowOut'] = {
    fuel: 'propane',
    fuel_name: 'propane',
    letter: 'P',
    figure: figure({ key: 'joint.propane.full', label: 'fuel at that limit (LHV)' }),
    band: '± 9 %',
    band_before: '± 24 %',
    ends: [0.91, 1.1],
    ends_before: [0.79, 1.27],
    next: 'weigh an hour',
    next_band: '± 7 %'
  };
  const joint = (changes: Partial<Schemas['TogetherOut']> = {}): Schemas['TogetherOut'] => ({
    rows: [{ ...row, fuel: '', fuel_name: '', letter: '' }, row],
    readings: 1,
    unlike: [],
    next: 'a U-tube at the throat on propane at full load',
    minutes: 10,
    ...changes
  });

  it('names the next reading with its minutes, and rows by the set and each fuel', async () => {
    const { container } = await page(Joint, { joint: joint() });
    const text = container.querySelector('[data-next]')?.textContent?.replace(/\s+/g, ' ') ?? '';
    expect(text).toContain('Read next: a U-tube at the throat on propane at full load.');
    expect(text).toContain('about 10 minutes');
    expect(text).toContain('So far 1 reading.');
    const heads = screen
      .getAllByRole('heading', { level: 2 })
      .map((one) => one.textContent?.trim());
    expect(heads.map((one) => one?.replace(/^P\s*/, ''))).toEqual(['The set', 'Propane']);
  });

  it('names a reading that does not go with the others, and leads to it', async () => {
    const unlike = [
      {
        label: 'propane: λ',
        path: 'load_tests.s1-propane.runs.r1.readings.a.lam',
        read: { us: '1.30', metric: '1.30' },
        foretold: { us: '0.95', metric: '0.95' }
      }
    ];
    await page(Joint, { joint: joint({ unlike, next: '' }) });
    const note = screen.getByRole('note');
    expect(note.textContent).toContain('Read them again');
    expect(note.textContent?.replace(/\s+/g, ' ')).toContain(
      'read 1.30; the others point to 0.95.'
    );
    expect(within(note).getByRole('link').getAttribute('href')).toContain('load_test/test?field=');
    expect(screen.getByText(/No reading that is usual narrows this much further/)).toBeTruthy();
  });

  it('says what comes first where nothing can be estimated yet', async () => {
    await page(Joint, { joint: null });
    expect(screen.getByText(/The running rating and a method come first/)).toBeTruthy();
  });
});

describe('moving', () => {
  const place = (key: string, site: string, fuel = 'propane') => ({
    key,
    site,
    fuel,
    fuel_name: fuel.replace('_', ' '),
    letter: fuel[0]?.toUpperCase() ?? ''
  });
  const move = (start: string, goal: string, changes: Partial<Schemas['MoveOut']> = {}) => ({
    start,
    goal,
    screw: null,
    lam: figure({ key: `move.${start}.${goal}.lam`, label: 'λ there with the screw as it is' }),
    eighths: 2,
    says: 'Open it by 1/4 of a turn, then sweep there.',
    rows: [{ label: 'Puts out, steady', here: figure(), there: figure() }],
    again: ['Every joint soaped under gas.', 'Load screw swept.'],
    stops: [],
    ...changes
  });
  const moves = {
    places: [
      place('s1-gasoline', 'Home', 'gasoline'),
      place('s1-propane', 'Home'),
      place('s2-propane', 'Ridge'),
      place('s2-natural_gas', 'Ridge', 'natural_gas')
    ],
    moves: [
      move('s1-propane', 's2-propane'),
      move('s1-propane', 's2-natural_gas', { eighths: 5, says: 'Open it by 5/8 of a turn.' }),
      move('s2-propane', 's1-propane', { eighths: -2, says: 'Shut it by 1/4 of a turn.' }),
      move('s2-propane', 's2-natural_gas', { eighths: 0, stops: ['The train does not reach.'] }),
      move('s2-natural_gas', 's1-propane', { eighths: 0 }),
      move('s2-natural_gas', 's2-propane', { eighths: 0 })
    ]
  };

  it('begins with a gas that has somewhere to go, and says what to turn there and back', async () => {
    await page(Moving, { moves });
    expect(screen.getByLabelText<HTMLSelectElement>('From').value).toBe('s1-propane');
    expect(screen.getByLabelText<HTMLSelectElement>('To').value).toBe('s2-propane');
    expect(screen.getByText('Open it by 1/4 of a turn, then sweep there.')).toBeTruthy();
    expect(screen.getByText(/Home again:/).parentElement?.textContent).toContain('Shut it by 1/4');
    expect(screen.getAllByRole('listitem').map((one) => one.textContent)).toEqual([
      'Every joint soaped under gas.',
      'Load screw swept.'
    ]);
    const sheet = screen.getByRole('link', { name: 'Sheet, PDF' }).getAttribute('href');
    expect(sheet).toContain('start=s1-propane&goal=s2-propane');
  });

  it('follows another choice of where to', async () => {
    await page(Moving, { moves });
    await fireEvent.change(screen.getByLabelText('To'), { target: { value: 's2-natural_gas' } });
    await waitFor(() => expect(screen.getByText('Open it by 5/8 of a turn.')).toBeTruthy());
  });

  it('lays out every way between the places, with what stops', async () => {
    const { container } = await page(Moving, { moves });
    const cells = [...container.querySelectorAll('[data-matrix] td')].map((one) => one.textContent);
    expect(cells.slice(4, 8)).toEqual(['–', '–', '+2/8', '+5/8']);
    expect(cells.slice(8, 12)).toEqual(['–', '−2/8', '–', 'stops']);
  });

  it('asks for what is proven there once it arrived, one by one', async () => {
    await page(Moving, { moves: { ...moves, arrived: null } });
    await fireEvent.click(screen.getByRole('button', { name: 'It arrived there' }));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    const [at] = Object.keys(shop.doc);
    expect(at && shop.doc[at]).toMatchObject({
      start: 's1-propane',
      goal: 's2-propane',
      by: 'Odo Marlin',
      proven: {}
    });
  });

  it('says who proved what there, and what is left', async () => {
    const asked = [
      { key: 'pa', text: 'Every joint soaped.', by: 'RK' },
      { key: 'pb', text: 'Screw swept.', by: '' }
    ];
    const arrived = {
      key: 'v1',
      place: 'Ridge, on propane',
      on: '2026-11-20',
      by: 'RK',
      left: 1,
      asked
    };
    const { container } = await page(Moving, { moves: { ...moves, arrived } });
    expect(container.querySelector('[data-arrived]')?.textContent).toContain('1 of 2 not proven');
    await fireEvent.click(screen.getByRole('checkbox', { name: 'Screw swept.' }));
    await waitFor(() => expect(shop.doc['hand_over.arrivals.v1.proven.pb']).toBe('Odo Marlin'));
  });

  it('says so where there is nowhere to go', async () => {
    await page(Moving, { moves: { places: [place('s1-propane', 'Home')], moves: [] } });
    expect(screen.getByText(/nothing to move to/)).toBeTruthy();
  });
});

describe('motors that start', () => {
  const on = (fuel: string, starts: boolean, says: string) => ({
    fuel,
    name: fuel,
    letter: fuel[0]?.toUpperCase() ?? '',
    engine: figure({ key: `motor.p.${fuel}`, label: 'well pump, of the engine' }),
    starts,
    says
  });

  it('stand with what each fuel makes of them, what fails in words and not by color alone', async () => {
    const motors = [
      {
        name: 'well pump',
        figure: figure({ key: 'motor.p', label: 'well pump, dip of the voltage' }),
        holds: true,
        place: 2,
        fuels: [
          on('gasoline', true, 'starts with all else running'),
          on('biogas', false, 'too hard for the engine; a soft starter would do')
        ]
      },
      {
        name: 'air compressor',
        figure: figure({ key: 'motor.c', label: 'air compressor, dip of the voltage' }),
        holds: true,
        place: 1,
        fuels: []
      }
    ];
    session = await opened();
    inJob(Motors, { motors }, session);
    expect(screen.getByText(/air compressor, well pump, then what has no motor/)).toBeTruthy();
    expect(screen.getByText('starts with all else running').className).not.toContain('wrong');
    expect(screen.getByText(/too hard for the engine/).className).toContain('wrong');
    expect(screen.getByText(/well pump, dip of the voltage/)).toBeTruthy();
  });
});

describe('what the owner wants', () => {
  it('tells which breaker trips, in words, and plugs each load into a receptacle', async () => {
    shop.doc = { 'set.outlets.o1': { name: 'front left', leg: 'a' } };
    const draws = (key: string, label: string) => figure({ key, label, warnings: [] });
    const { container } = await page(Wish, {
      outlets: [
        { draws: draws('outlet.o1', 'front left, what must run'), over: true, long_over: false },
        { draws: draws('outlet.o2', 'rear, what must run'), over: false, long_over: true },
        { draws: draws('outlet.o3', 'twist lock, what must run'), over: false, long_over: false }
      ],
      legs: [],
      motors: []
    });
    const rows = [...container.querySelectorAll('[data-outlets] li')];
    expect(rows.map((one) => one.querySelector('b')?.textContent ?? '')).toEqual([
      'its breaker trips',
      'trips after hours',
      ''
    ]);
    await fireEvent.click(screen.getByRole('button', { name: 'Add a load' }));
    const plug = await screen.findByLabelText<HTMLSelectElement>('Plugged into');
    expect([...plug.options].map((one) => one.text)).toEqual(['not said', 'front left']);
    await fireEvent.change(plug, { target: { value: '1' } });
    await waitFor(() => expect(shop.doc['load.appliances.a1.outlet']).toBe('o1'));
  });
});

describe('a usual load', () => {
  it('is added with watts that are assumed until somebody measures them', async () => {
    await page(UsualLoads);
    const choose = screen.getByLabelText<HTMLSelectElement>('Add a usual load');
    const well = [...choose.options].find((one) => one.text.startsWith('well pump, 1 hp'));
    await fireEvent.change(choose, { target: { value: well?.value } });
    await waitFor(() => expect(Object.keys(shop.doc)).toEqual(['load.appliances.a1']));
    expect(shop.doc['load.appliances.a1']).toMatchObject({
      name: 'well pump, 1 hp, 240 V',
      kind: 'pump',
      leg: 'both',
      running: { value: 2000, origin: 'assumed' },
      starting: { value: 6600, origin: 'assumed' }
    });
    // Ready for the next one, and nothing is added by choosing nothing.
    expect(choose.value).toBe('');
    await fireEvent.change(choose, { target: { value: '' } });
    expect(shop.log).toHaveLength(1);
    const kettle = [...choose.options].find((one) => one.text.startsWith('kettle'));
    await fireEvent.change(choose, { target: { value: kettle?.value } });
    await waitFor(() => expect(shop.log).toHaveLength(2));
    const added = shop.log[1]?.changes[0];
    expect(added?.path).toBe('load.appliances.a2');
    expect(added?.value).toMatchObject({ starting: null, leg: '' });
  });
});

describe('a switch told by its positions', () => {
  it('is added, takes positions, and each says what it does', async () => {
    await page(Switches);
    await fireEvent.click(screen.getByRole('button', { name: 'Add a switch' }));
    await waitFor(() => expect(Object.keys(shop.doc)).toEqual(['set.switches.w1']));
    const add = await screen.findByRole('button', { name: 'Add a position' });
    await fireEvent.click(add);
    await waitFor(() => expect(shop.doc['set.switches.w1.positions.p1']).toBeTruthy());
    // Nothing is taken to be on before somebody says so.
    expect(shop.doc['set.switches.w1.positions.p1']).toEqual({ sparks: false });
    await fireEvent.click(await screen.findByLabelText('ignition on'));
    await waitFor(() => expect(shop.doc['set.switches.w1.positions.p1.sparks']).toBe(true));
    await fireEvent.click(screen.getByRole('button', { name: 'Remove this position' }));
    await waitFor(() => expect('set.switches.w1.positions.p1' in shop.doc).toBe(false));
  });
});

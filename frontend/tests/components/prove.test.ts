import { fireEvent, render, screen, waitFor } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { components } from '$lib/api/schema';
import Forbidden from '$lib/frame/Forbidden.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import Attempts from '$lib/stages/first_start/Attempts.svelte';
import Smelled from '$lib/stages/fit/Smelled.svelte';
import Orders from '$lib/stages/method/Orders.svelte';
import JointLook from '$lib/stages/prove_tight/JointLook.svelte';
import { shop } from '../shop';
import { inJob, opened } from './inJob';

type Joint = components['schemas']['JointProofOut'];

const joint = (changes: Partial<Joint> = {}): Joint => ({
  key: 'propane.hose',
  record: 'propane-hose',
  title: 'hose to the set to demand regulator',
  letter: 'F',
  seal: 'flare, dry',
  made: true,
  fitter: false,
  on_day: false,
  state: 'open',
  void: '',
  by: '',
  subject: 'a+b@1',
  looks: [],
  ...changes
});

describe('a joint that is soaped', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  const shown = (one: Joint, gasoline = false) =>
    inJob(JointLook, { joint: one, gasoline, next: true }, session);

  it('writes the look and leaves the verdict to the core', async () => {
    shown(joint());
    await fireEvent.click(screen.getByRole('button', { name: 'Film holds' }));
    await waitFor(() => expect(Object.keys(shop.doc)).toHaveLength(1));
    const [path, look] = Object.entries(shop.doc)[0] ?? [];
    expect(path).toMatch(/^proof\.soaped\./);
    expect(look).toMatchObject({ joint: 'propane.hose', found: 'holds' });
    expect(Object.keys(shop.doc).some((key) => key.startsWith('fit.tight'))).toBe(false);
  });

  it('asks of gasoline whether it is dry, damp or drips', () => {
    shown(joint(), true);
    for (const name of ['Dry', 'Damp', 'Drips'])
      expect(screen.getByRole('button', { name })).toBeTruthy();
  });

  it('can not be looked at before it is made, and the fitter’s not at all', () => {
    const { unmount } = shown(joint({ made: false }));
    for (const button of screen.getAllByRole<HTMLButtonElement>('button'))
      expect(button.disabled).toBe(true);
    expect(document.body.textContent).toContain('not made yet');
    unmount();
    shown(joint({ state: 'fitter', fitter: true }));
    expect(screen.queryAllByRole('button')).toEqual([]);
  });

  it('that leaks says what to do, keeps what was done, and shows the leaks before', async () => {
    const look = { by: 'RK', on: '', repair: '' };
    shown(
      joint({
        state: 'leaks',
        looks: [
          { ...look, key: 'l1', found: 'bubbles', repair: 'half a turn more' },
          { ...look, key: 'l2', found: 'foam' }
        ]
      })
    );
    expect(document.body.textContent).toContain(
      'leaks: foam. Close the source, remake the joint, soap it again.'
    );
    expect(document.body.textContent).toContain('small bubbles, then: half a turn more');
    const field = screen.getByLabelText('What was done about it');
    await fireEvent.change(field, { target: { value: 'new flare' } });
    await waitFor(() => expect(shop.doc['proof.soaped.l2.repair']).toBe('new flare'));
  });

  it('that was opened again says so', () => {
    shown(joint({ state: 'void', void: 'opened again' }));
    expect(document.body.textContent).toContain('no longer counts: opened again');
  });
});

describe('what is forbidden', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  const shown = (...why: [string, string][]) =>
    inJob(
      Forbidden,
      { no: 'No start', gas: 'propane', why: why.map(([text, path]) => ({ text, path })) },
      session
    );
  const links = () =>
    screen.queryAllByRole('link').map((one) => one.getAttribute('href')?.split('/jobs/')[1]);

  it('is said before the press, every reason of it, each with where it is settled', () => {
    shown(
      ['not proven tight. 3 of 13 joints not proven tight.', 'proof.propane'],
      [
        'A cylinder is nearer to the set than 1.5 m: move it away.',
        'sites.s1.cylinders.c1.distance'
      ]
    );
    const said = screen.getByRole('alert');
    expect(said.textContent).toContain('No start on propane:');
    expect(said.querySelectorAll('li')).toHaveLength(2);
    expect(links()).toEqual([
      `${shop.id}/prove_tight/leaks?field=proof.propane`,
      `${shop.id}/intake/site?field=sites.s1.cylinders.c1.distance`
    ]);
  });

  it('may be the same words at two places, each with its own way there', () => {
    const text = 'not seen yet: propane: hose stands clear.';
    shown([text, 'sites.s1.cylinders.c1'], [text, 'sites.s2.cylinders.c1']);
    expect(links()).toHaveLength(2);
  });

  it('leads nowhere where the words say it all', () => {
    shown(['Gas was smelled.', '']);
    expect(links()).toEqual([]);
    expect(screen.getByRole('alert').textContent).toContain('Gas was smelled.');
  });

  it('is nothing where nothing forbids it', () => {
    shown();
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

describe('a safe order', () => {
  const start = {
    key: 'start.propane',
    name: 'Start on propane',
    lines: ['Join the hose.', 'Open the cylinder valve, slowly.', 'Start the engine.'],
    why_not: ''
  };
  const over = {
    key: 'over.gasoline.propane',
    name: 'Change over from gasoline to propane',
    lines: [],
    why_not: 'No safe order: “a” and “b” can’t be ordered.'
  };

  it('is numbered, the one asked for first', () => {
    render(Orders, { orders: [over, start], first: 'start.' });
    expect(screen.getAllByRole('listitem').map((one) => one.textContent?.trim())).toEqual([
      '1 Join the hose.',
      '2 Open the cylinder valve, slowly.',
      '3 Start the engine.'
    ]);
  });

  it('says why there is none', async () => {
    render(Orders, { orders: [start, over] });
    await fireEvent.change(screen.getByLabelText('Which order'), { target: { value: over.key } });
    expect(screen.getByRole('alert').textContent).toContain('No safe order');
    expect(screen.queryAllByRole('listitem')).toHaveLength(0);
  });

  it('is not there where nothing is to be ordered', () => {
    const { container } = render(Orders, { orders: [] });
    expect(container.textContent?.trim()).toBe('');
  });
});

describe('an attempt to start', () => {
  const begun = '2026-11-25T10:00:00Z';
  const advice = (changes: object) => ({
    check: 'Over-primed: source shut.',
    why: '16 s of primer.',
    wait_until: '2026-11-25T10:30:00Z',
    waits: true,
    ...changes
  });
  const shown = (told: ReturnType<typeof advice> | null, fault = '') => {
    const keep = vi.fn();
    render(Attempts, {
      start: {
        fuel: 'propane',
        name: 'propane',
        letter: 'P',
        gas: true,
        own_tank: false,
        holds: true,
        looks: [],
        attempts: [],
        advice: told,
        gate_left: 0,
        after_left: 0,
        ran: false,
        lost: null,
        run_on: null,
        changes_in: null,
        forbidden: [],
        orders: []
      },
      keep,
      remove: vi.fn(),
      fault
    });
    return keep;
  };
  const button = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Note the attempt' });

  beforeEach(() => vi.useFakeTimers({ now: Date.parse(begun) }));
  afterEach(() => vi.useRealTimers());

  it('is not noted while the wait lasts, and is once it is over', async () => {
    shown(advice({}));
    expect(button().disabled).toBe(true);
    expect(screen.getByRole('status').textContent).toContain('Wait 30:00');
    await vi.advanceTimersByTimeAsync(30 * 60_000);
    expect(button().disabled).toBe(false);
  });

  it('that smelled of gas is taken down at any time', async () => {
    const keep = shown(advice({}));
    await fireEvent.change(screen.getByLabelText('What it did'), { target: { value: 'smells' } });
    expect(button().disabled).toBe(false);
    await fireEvent.click(button());
    expect(keep).toHaveBeenCalledWith(expect.objectContaining({ result: 'smells' }));
  });

  it('waits on where nobody told when the one before was', () => {
    shown(advice({ wait_until: '' }));
    expect(button().disabled).toBe(true);
  });

  it('goes on at once after advice that asks for no wait, and shows why one was refused', () => {
    shown(advice({ waits: false }), 'No start on propane: gas was smelled.');
    expect(button().disabled).toBe(false);
    expect(screen.getByRole('alert').textContent).toContain('gas was smelled');
  });
});

describe('gas smelled', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  it('is one press: logged at once, and the drill stands there', async () => {
    inJob(Smelled, { step: 'plug_boot' }, session);
    expect(screen.queryByText('Found and cleared')).toBeNull();
    await fireEvent.click(screen.getByRole('button', { name: 'Gas smelled' }));
    await waitFor(() => expect(Object.keys(shop.doc)).toHaveLength(1));
    const [path, record] = Object.entries(shop.doc)[0] ?? [];
    expect(path).toMatch(/^fit\.smelled\./);
    expect(record).toMatchObject({ step: 'plug_boot', cause: '', cleared_on: '' });
    const clear = screen.getByText<HTMLButtonElement>('Found and cleared');
    expect(clear.disabled).toBe(true);
  });
});

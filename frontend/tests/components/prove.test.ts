import { fireEvent, screen, waitFor } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { components } from '$lib/api/schema';
import Forbidden from '$lib/frame/Forbidden.svelte';
import type { JobSession } from '$lib/session/session.svelte';
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

  const shown = (why: string[]) =>
    inJob(Forbidden, { no: 'No start', gas: 'propane', why }, session);

  it('is said before the press, every reason of it', () => {
    shown(['not proven tight. 3 of 13 joints not proven tight.', 'Stopped: cracked manifold']);
    const said = screen.getByRole('alert');
    expect(said.textContent).toContain('No start on propane:');
    expect(said.querySelectorAll('li')).toHaveLength(2);
    expect(screen.getByRole('link', { name: 'Leak test' }).getAttribute('href')).toBe(
      `/jobs/${shop.id}/prove_tight/leaks`
    );
  });

  it('leads to the leak test only where that is what is open', () => {
    shown(['A cylinder is nearer to the set than 1.5 m: move it away.']);
    expect(screen.queryByRole('link', { name: 'Leak test' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Readiness' })).toBeTruthy();
  });

  it('is nothing where nothing forbids it', () => {
    shown([]);
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

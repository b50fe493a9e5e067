import { fireEvent, screen, waitFor, within } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { components } from '$lib/api/schema';
import { prefs } from '$lib/session/prefs.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import SignaturePad from '$lib/stages/hand_over/SignaturePad.svelte';
import Close from '../../src/routes/jobs/[id]/hand_over/close/+page.svelte';
import Price from '../../src/routes/jobs/[id]/hand_over/price/+page.svelte';
import Teach from '../../src/routes/jobs/[id]/hand_over/teach/+page.svelte';
import { shop } from '../shop';
import { openPage } from './inJob';

type Schemas = components['schemas'];
const WORK = 'a'.repeat(64);

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
afterEach(() => {
  vi.useRealTimers();
  session.close();
});

const unsigned: Schemas['SignatureOut'] = { name: '', on: '', strokes: [], stands: false };
const signed = (name: string): Schemas['SignatureOut'] => ({
  name,
  on: '2026-11-26T12:00:00Z',
  strokes: [[100, 100, 800, 200], [500]],
  stands: true
});

describe('a pad to sign on', () => {
  const given = { path: 'hand_over.owner', title: 'Owner', name: 'Ada Marsh', work: WORK };
  const drag = async (pad: Element, ...places: [number, number][]) => {
    vi.spyOn(pad, 'getBoundingClientRect').mockReturnValue(new DOMRect(10, 20, 500, 150));
    const at = ([clientX, clientY]: [number, number]) => ({ clientX, clientY, bubbles: true });
    await fireEvent(pad, new MouseEvent('pointerdown', at(places[0] ?? [0, 0])));
    for (const place of places.slice(1))
      await fireEvent(pad, new MouseEvent('pointermove', at(place)));
    await fireEvent(pad, new MouseEvent('pointerup', { bubbles: true }));
  };

  it('keeps strokes in steps of the pad, within it, and sends them for this work', async () => {
    await page(SignaturePad, {}, { ...given, signed: unsigned });
    const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Sign as Ada Marsh' });
    expect(button.disabled).toBe(true);
    const pad = screen.getByRole('application');
    await drag(pad, [60, 70], [260, 95], [261, 95], [900, 500]);
    await drag(pad, [110, 45]);
    expect(button.disabled).toBe(false);
    await fireEvent.input(screen.getByLabelText('Name'), { target: { value: ' Ada M. Marsh ' } });
    await fireEvent.click(screen.getByRole('button', { name: 'Sign as Ada M. Marsh' }));
    await waitFor(() => expect(shop.doc['hand_over.owner']).toBeTruthy());
    expect(shop.doc['hand_over.owner']).toMatchObject({
      name: 'Ada M. Marsh',
      of: WORK,
      // A finger that rests adds nothing; one that leaves the pad stays at its edge.
      strokes: [
        [100, 100, 500, 150, 1000, 300],
        [200, 50]
      ]
    });
  });

  it('draws nothing once the finger is up, and begins again when cleared', async () => {
    const { container } = await page(SignaturePad, {}, { ...given, signed: unsigned });
    const pad = screen.getByRole('application');
    await drag(pad, [60, 70], [260, 95]);
    await fireEvent(
      pad,
      new MouseEvent('pointermove', { clientX: 300, clientY: 60, bubbles: true })
    );
    expect(container.querySelector('polyline')?.getAttribute('points')).toBe('100 100 500 150');
    await fireEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(container.querySelectorAll('polyline')).toHaveLength(0);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Sign as/ }).disabled).toBe(true);
  });

  it('is signed by keys as well: arrows move the pen, Space puts it down and lifts it', async () => {
    await page(SignaturePad, {}, { ...given, signed: unsigned });
    const pad = screen.getByRole('application');
    const key = (key: string, shiftKey = false) => fireEvent.keyDown(pad, { key, shiftKey });
    await fireEvent.focus(pad);
    expect(screen.getByRole('status').textContent).toContain('Pen up');
    await key('ArrowRight', true);
    await key(' ');
    expect(screen.getByRole('status').textContent).toContain('Pen down');
    await key('ArrowRight', true);
    await key('ArrowUp');
    await key(' ');
    await key('ArrowDown', true);
    expect(await key('Tab')).toBe(true);
    await fireEvent.click(screen.getByRole('button', { name: 'Sign as Ada Marsh' }));
    await waitFor(() => expect(shop.doc['hand_over.owner']).toBeTruthy());
    expect(shop.doc['hand_over.owner']).toMatchObject({
      strokes: [[160, 200, 220, 200, 220, 180]]
    });
  });

  it('says why a signature was turned away, and of one that no longer stands who gave it', async () => {
    shop.refuse = () => ({ path: 'hand_over.owner', message: 'That is no signature.' });
    await page(SignaturePad, {}, { ...given, signed: { ...signed('Ada Marsh'), stands: false } });
    expect(screen.getByRole('status').textContent).toContain('signed an earlier state');
    await drag(screen.getByRole('application'), [60, 70], [61, 71]);
    await fireEvent.click(screen.getByRole('button', { name: 'Sign as Ada Marsh' }));
    await waitFor(() =>
      expect(screen.getByRole('alert').textContent).toBe('That is no signature.')
    );
  });

  it('shows who signed, and nothing to sign on', async () => {
    await page(SignaturePad, {}, { ...given, signed: signed('Ada Marsh') });
    expect(screen.getByRole('img', { name: 'Signature of Ada Marsh' })).toBeTruthy();
    expect(screen.queryByRole('application')).toBeNull();
  });
});

describe('teaching the owner', () => {
  const drill = (key: string, more: Partial<Schemas['DrillOut']> = {}): Schemas['DrillOut'] => ({
    key,
    name: `Order ${key}`,
    lines: ['Open the valve.', 'Pull the rope.'],
    of: `of-${key}`,
    state: '',
    seconds: 0,
    wrong: 0,
    reason: '',
    by: '',
    stale: false,
    settled: false,
    ...more
  });
  const click = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

  it('runs the clock over an order move by move, and counts wrong ones', async () => {
    await page(Teach, {
      drills: [drill('start'), drill('stop', { settled: true, state: 'done' })]
    });
    expect(screen.getByText(/of/, { selector: '[data-taught]' }).textContent).toBe(
      '1 of 2 settled.'
    );
    await click(/Order start/);
    vi.useFakeTimers({ toFake: ['Date', 'setInterval', 'clearInterval'] });
    await click('Start the clock');
    expect(document.activeElement?.textContent).toBe('Move done');
    await vi.advanceTimersByTimeAsync(7000);
    expect(screen.getByText('7 s')).toBeTruthy();
    await click('Wrong move (0)');
    await click('Move done');
    await vi.advanceTimersByTimeAsync(5000);
    await click('Last move done');
    vi.useRealTimers();
    await waitFor(() => expect(shop.doc['hand_over.drills.start']).toBeTruthy());
    expect(document.activeElement?.textContent).toContain('Order start');
    expect(shop.doc['hand_over.drills.start']).toMatchObject({
      state: 'done',
      seconds: 12,
      wrong: 1,
      of: 'of-start',
      by: 'Odo Marlin'
    });
  });

  it('is left only with a reason, and by somebody', async () => {
    await page(Teach, { drills: [drill('store')] });
    await click(/Order store/);
    const leave = screen.getByRole<HTMLButtonElement>('button', { name: 'Leave it' });
    expect(leave.disabled).toBe(true);
    await fireEvent.input(screen.getByLabelText('Not done today, because'), {
      target: { value: ' no cover here ' }
    });
    expect(leave.disabled).toBe(false);
    await click('Leave it');
    await waitFor(() =>
      expect(shop.doc['hand_over.drills.store']).toMatchObject({
        state: 'left',
        reason: 'no cover here'
      })
    );
  });

  it('asks who teaches before the clock is begun', async () => {
    prefs.who = '';
    await page(Teach, { drills: [drill('store')] });
    await click(/Order store/);
    expect(
      screen.getByRole<HTMLButtonElement>('button', { name: 'Start the clock' }).disabled
    ).toBe(true);
    expect(screen.getByText(/Say who you are/)).toBeTruthy();
  });

  it('tells what was taught with other moves, left or done, and takes it back', async () => {
    shop.doc = { 'hand_over.drills.b': { state: 'done' } };
    await page(Teach, {
      drills: [
        drill('a', { state: 'done', stale: true }),
        drill('b', { state: 'done', settled: true, seconds: 31, wrong: 2, by: 'RK' }),
        drill('c', { state: 'left', settled: true, reason: 'no cover', by: 'RK' })
      ]
    });
    expect(screen.getByText(/taught with other moves/)).toBeTruthy();
    expect(screen.getByText('31 s, 2 wrong first, by RK')).toBeTruthy();
    expect(screen.getByText('left by RK: no cover')).toBeTruthy();
    await click(/Order b/);
    await click('Take it back');
    await waitFor(() => expect(shop.doc['hand_over.drills.b']).toBeUndefined());
  });

  it('has nothing to teach before a method is chosen', async () => {
    await page(Teach, { drills: [] });
    expect(screen.getByText(/choose a method first/)).toBeTruthy();
  });
});

describe('closing a job', () => {
  const text = (said: string) => ({ us: said, metric: said });
  const closing = (more: Partial<Schemas['ClosingOut']> = {}): Schemas['ClosingOut'] => ({
    work: WORK,
    sealed: false,
    technician: unsigned,
    owner: unsigned,
    record: [{ title: 'Generator', rows: [{ label: 'serial', text: text('7'), by: '' }] }],
    differs: [],
    seals: [],
    missing: [],
    deposit: '',
    ...more
  });
  beforeEach(() => (shop.doc = { 'stages.load_test.by': '' }));
  const seal = (number: number): Schemas['SealOut'] => ({
    number,
    digest: 'c0ffee'.repeat(10),
    technician: signed('Odo Marlin'),
    owner: signed('Ada Marsh'),
    differs: []
  });

  it('gives nobody a pad while something is missing but the signatures', async () => {
    const lacking = [
      { path: 'stages.fit', text: 'Fit is not signed.' },
      { path: 'hand_over.drills', text: 'owner taught' }
    ];
    const { container } = await page(Close, { closing: closing({ missing: lacking }) });
    const missing = [...container.querySelectorAll('[data-missing] li')];
    expect(missing.map((one) => one.textContent)).toEqual(['Fit is not signed.', 'owner taught']);
    expect(missing[0]?.querySelector('a')?.getAttribute('href')).toMatch(/fit\/record$/);
    expect(screen.queryByRole('application')).toBeNull();
  });

  it('asks for both signatures when nothing else is missing', async () => {
    shop.doc = { owner: 'Ada Marsh', 'stages.load_test.by': 'Tamsin Quay' };
    await page(Close, { closing: closing() });
    expect(screen.getByText('Nothing is missing but the signatures.')).toBeTruthy();
    expect(screen.getAllByRole('application')).toHaveLength(2);
    expect(screen.getAllByLabelText<HTMLInputElement>('Name').map((one) => one.value)).toEqual([
      'Tamsin Quay',
      'Ada Marsh'
    ]);
    expect(screen.getByRole('link', { name: 'Draft, PDF' }).getAttribute('href')).toContain(
      'revision=0'
    );
  });

  it('shows a seal with its paper, and what changed since', async () => {
    const differs = [
      { section: 'Settings', label: 'load screw', was: text('2 turns'), now: text('') }
    ];
    const { container } = await page(Close, {
      closing: closing({ seals: [seal(1)], differs })
    });
    expect(container.querySelector('[data-seal="1"]')?.textContent).toContain('Ada Marsh');
    expect(screen.getByText('Changed since revision 1')).toBeTruthy();
    const cells = [...container.querySelectorAll('[data-differs] td')];
    expect(cells.map((one) => one.textContent)).toEqual(['2 turns', '–']);
  });

  it('leads to signing off once sealed, and asks for no more', async () => {
    await page(Close, {
      closing: closing({
        sealed: true,
        seals: [seal(1)],
        technician: signed('Odo Marlin'),
        owner: signed('Ada Marsh')
      })
    });
    expect(screen.getByText(/Sealed as it stands/).textContent).toContain('Sign hand over off');
    expect(screen.queryByText(/Nothing is missing/)).toBeNull();
    expect(screen.queryByRole('application')).toBeNull();
    expect(screen.queryByRole('link', { name: 'Draft, PDF' })).toBeNull();
  });

  it('asks for the day an old part goes back only where there is a deposit', async () => {
    await page(Close, { closing: closing() });
    expect(screen.queryByLabelText('Goes back by')).toBeNull();
  });

  it('keeps the day and who told the owner', async () => {
    await page(Close, { closing: closing({ deposit: '$ 45.00' }) });
    await fireEvent.click(screen.getByRole('checkbox', { name: /The owner was told/ }));
    await waitFor(() => expect(shop.doc['hand_over.core.by']).toBe('Odo Marlin'));
    const due = screen.getByLabelText('Goes back by');
    await fireEvent.input(due, { target: { value: '2026-12-11' } });
    await fireEvent.blur(due);
    await waitFor(() => expect(shop.doc['hand_over.core.due']).toBe('2026-12-11'));
  });
});

describe('the price', () => {
  const line = (key: string, kind: string, more: Partial<Schemas['InvoiceLineOut']> = {}) => ({
    key,
    kind,
    part: kind === 'part' ? key : '',
    what: key,
    count: '1',
    each: '$ 10.00',
    amount: '$ 10.00',
    taxed: true,
    charged: true,
    ...more
  });
  const priced = (more: Partial<Schemas['InvoiceOut']> = {}): Schemas['InvoiceOut'] => ({
    lines: [line('labor', 'labor'), line('valve', 'part'), line('carburetor', 'part')],
    net: '$ 30.00',
    tax: '$ 0.00',
    tax_share: '0 %',
    total: '$ 30.00',
    paid: '$ 0.00',
    due: '$ 30.00',
    estimate: '',
    over: '',
    hours: { us: '1.7 h', metric: '1.7 h' },
    hours_assumed: true,
    rate: '$ 85.00',
    worked: null,
    estimated: null,
    lacks: [],
    ...more
  });

  it('leaves a part out and takes it in again, and never work', async () => {
    shop.doc = { 'hand_over.invoice.without': ['carburetor'] };
    await page(Price, { invoice: priced() });
    expect(screen.getAllByRole('checkbox')).toHaveLength(2);
    await fireEvent.click(screen.getByRole('checkbox', { name: 'valve' }));
    await waitFor(() =>
      expect(shop.doc['hand_over.invoice.without']).toEqual(['carburetor', 'valve'])
    );
  });

  it('says what is lacking, and the estimate only where there is one', async () => {
    const { container } = await page(Price, {
      invoice: priced({ lacks: ['The rate an hour: here.'], estimate: '$ 25.00', over: '$ 5.00' })
    });
    expect(screen.getByRole('status').textContent).toContain('The rate an hour');
    const foot = container.querySelector<HTMLElement>('tfoot');
    expect(foot && within(foot).getByText('Over the estimate')).toBeTruthy();
  });

  it('has no estimate without a rate', async () => {
    await page(Price, { invoice: priced() });
    expect(screen.queryByText('Over the estimate')).toBeNull();
    const place = screen.getByRole('link', { name: 'Invoice, CSV' }).getAttribute('href');
    expect(place).toMatch(/invoice\.csv$/);
  });
});

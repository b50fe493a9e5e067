import { fireEvent, screen, waitFor } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import CodeDialog from '$lib/frame/CodeDialog.svelte';
import SignIn from '$lib/frame/SignIn.svelte';
import { me } from '$lib/session/me.svelte';
import type { JobSession } from '$lib/session/session.svelte';
import OwnRun from '../../src/routes/mine/OwnRun.svelte';
import People from '../../src/routes/people/+page.svelte';
import { shop } from '../shop';
import { inJob, opened } from './inJob';

const LEAD = {
  name: 'Runa Kestle',
  initials: 'RK',
  role: 'lead' as const,
  role_name: 'Lead',
  units: 'us' as const,
  may: ['look', 'people', 'settings', 'sign', 'train', 'work'] as const
};
const nobody = { asked: true, led: true, at_home: true, names: ['Odo Marlin'], person: null };
const signedIn = { ...nobody, person: { ...LEAD, may: [...LEAD.may] } };

let session: JobSession;
beforeEach(async () => {
  shop.reset();
  session = await opened();
  me.told = { ...nobody, asked: false };
});
afterEach(() => {
  session.close();
  me.settle(false);
  vi.unstubAllGlobals();
  localStorage.clear();
});

/** The service's answers about people by method and place; what was asked, with its body. */
function answers(by: Record<string, [number, unknown]>) {
  const asked: { what: string; body: Record<string, unknown> }[] = [];
  const real = globalThis.fetch;
  vi.stubGlobal('fetch', async (input: Request | string, init?: RequestInit) => {
    const request = input instanceof Request ? input : undefined;
    const place = new URL(request?.url ?? String(input), 'http://shop.test').pathname;
    if (!/\/api\/(me|mine|people)/.test(place)) return real(input, init);
    const what = `${request?.method ?? 'GET'} ${place}`;
    const text = request ? await request.clone().text() : '';
    asked.push({ what, body: text ? (JSON.parse(text) as Record<string, unknown>) : {} });
    const [status, body] = by[what] ?? [200, signedIn];
    return Response.json(body, { status });
  });
  return asked;
}
const no = (status: number, kind: string, detail: string) =>
  [status, { type: `/problems/${kind}`, title: 'No', detail, status, errors: [] }] as [
    number,
    unknown
  ];
const type = (label: string | RegExp, value: string) =>
  fireEvent.input(screen.getByLabelText(label), { target: { value } });

describe('signing in', () => {
  it('takes digits for the code and anything else for the passphrase', async () => {
    me.told = nobody;
    const asked = answers({
      'POST /api/me/sign-in': no(403, 'secret', 'Name and secret do not go together.')
    });
    inJob(SignIn, {}, session);
    await fireEvent.click(screen.getByRole('button', { name: 'Odo Marlin' }));
    for (const [secret, way] of [
      ['271946', 'code'],
      ['four stray hens', 'passphrase'],
      ['12345', 'passphrase']
    ] as const) {
      await type('Passphrase, or code', secret);
      await fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
      await waitFor(() => expect(asked.at(-1)?.body[way]).toBe(secret));
      expect(asked.at(-1)?.body.name).toBe('Odo Marlin');
    }
    expect(screen.getByRole('alert').textContent).toBe('Name and secret do not go together.');
    expect((screen.getByLabelText('Passphrase, or code') as HTMLInputElement).value).toBe('');
    expect(me.outside).toBe(true);
  });

  it('lets in who is known, and says who it is from then on', async () => {
    me.told = nobody;
    answers({ 'POST /api/me/sign-in': [200, signedIn] });
    inJob(SignIn, {}, session);
    await type('Name', 'Runa Kestle');
    await type('Passphrase, or code', '271946');
    await fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    await waitFor(() => expect(me.outside).toBe(false));
    expect(me.may('people')).toBe(true);
    expect(me.may('own')).toBe(false);
  });

  it('away from the shop’s machine only says where the lead is said', () => {
    me.told = { ...nobody, led: false, at_home: false };
    inJob(SignIn, {}, session);
    expect(screen.getByRole('heading').textContent).toBe('Who leads this shop?');
    expect(document.querySelector('input')).toBeNull();
  });

  it('takes a passphrase only once it was written twice alike', async () => {
    me.told = { ...nobody, led: false };
    const asked = answers({});
    inJob(SignIn, {}, session);
    await type('Name', 'Runa Kestle');
    await type('Passphrase', 'four stray hens at dusk');
    await type('Passphrase again', 'four stray hens at dawn');
    await type('Code for the bench', '271946');
    const lead = screen.getByRole('button', { name: 'Lead this shop' }) as HTMLButtonElement;
    expect(lead.disabled).toBe(true);
    expect(screen.getByText('The two differ.')).toBeTruthy();
    await type('Passphrase again', 'four stray hens at dusk');
    expect(lead.disabled).toBe(false);
    await fireEvent.click(lead);
    await waitFor(() => expect(asked[0]?.what).toBe('POST /api/me/first'));
  });
});

describe('a signature', () => {
  const signed = () => session.set('stages.fit', { state: 'done', by: 'Runa Kestle' });
  beforeEach(() => {
    me.told = signedIn;
    let given = false;
    shop.turn = (kind) => (kind === 'edit' && !given ? 403 : undefined);
    shop.turned = { type: '/problems/code', detail: 'Your code, to sign.' };
    answers({ 'POST /api/me/code': [200, signedIn] });
    const answer = me.answer.bind(me);
    vi.spyOn(me, 'answer').mockImplementation(async (code: string) => {
      given = code === '271946';
      if (given) await answer(code);
    });
    inJob(CodeDialog, {}, session);
  });

  it('waits for the code, and is written once it was given', async () => {
    signed();
    const code = await screen.findByLabelText('Your code, or your passphrase');
    await waitFor(() => expect(document.querySelector('dialog')?.open).toBe(true));
    expect(shop.log).toHaveLength(0);
    await fireEvent.input(code, { target: { value: '271946' } });
    await fireEvent.click(screen.getByRole('button', { name: 'Sign' }));
    await waitFor(() => expect(shop.log).toHaveLength(1));
    await waitFor(() => expect(session.saving).toBe('saved'));
  });

  it('left unsigned is not written, and nothing waits', async () => {
    signed();
    await waitFor(() => expect(me.asking).toBeDefined());
    await fireEvent.click(screen.getByText('Leave it unsigned'));
    await waitFor(() => expect(session.saving).toBe('saved'));
    expect(shop.log).toHaveLength(0);
    expect(session.waiting).toBe(0);
  });
});

describe('people', () => {
  const shown = (more: object = {}) => ({
    people: [
      {
        id: 1,
        name: 'Runa Kestle',
        initials: 'RK',
        role: 'lead',
        signs_in: true,
        invited: false,
        left: false,
        sets: []
      },
      {
        id: 2,
        name: 'Odo Marlin',
        initials: 'OM',
        role: 'technician',
        signs_in: false,
        invited: false,
        left: false,
        sets: []
      }
    ],
    roles: [
      { key: 'lead', name: 'Lead', means: 'Does everything.' },
      { key: 'technician', name: 'Technician', means: 'Works on jobs and signs.' }
    ],
    sign_ins: [],
    invitation: '',
    ...more
  });

  it('are let in by an invitation that is shown once', async () => {
    me.told = signedIn;
    const asked = answers({
      'GET /api/people': [200, shown()],
      'POST /api/people': [201, shown({ invitation: 'a1b2-c3d4-e5f6-0789' })]
    });
    inJob(People, {}, session);
    expect(await screen.findByText(/can't sign in yet/)).toBeTruthy();
    await type('Their name', ' Tamsin Quay ');
    await fireEvent.click(screen.getByRole('button', { name: 'Make an invitation' }));
    expect((await screen.findByText('a1b2-c3d4-e5f6-0789')).className).toContain('token');
    const made = asked.find((one) => one.what === 'POST /api/people');
    expect(made?.body).toEqual({ name: 'Tamsin Quay', role: 'technician', sets: null });
  });

  it('keep their role where the shop would be left without a lead', async () => {
    me.told = signedIn;
    answers({
      'GET /api/people': [200, shown()],
      'PUT /api/people/1': no(422, 'invalid', 'Runa Kestle alone leads the shop.')
    });
    inJob(People, {}, session);
    const role = (await screen.findByLabelText('Role of Runa Kestle')) as HTMLSelectElement;
    await fireEvent.change(role, { target: { value: 'technician' } });
    expect(await screen.findByText('Runa Kestle alone leads the shop.')).toBeTruthy();
    await waitFor(() => expect(role.value).toBe('lead'));
  });

  it('leave only after it was asked once more', async () => {
    me.told = signedIn;
    const asked = answers({
      'GET /api/people': [200, shown()],
      'PUT /api/people/2': [200, shown()]
    });
    inJob(People, {}, session);
    await fireEvent.click((await screen.findAllByText('They left…')).at(-1) as HTMLElement);
    expect(screen.getByText(/is signed out everywhere/)).toBeTruthy();
    expect(asked.some((one) => one.what.startsWith('PUT'))).toBe(false);
    await fireEvent.click(screen.getByText('They left'));
    await waitFor(() =>
      expect(asked.find((one) => one.what === 'PUT /api/people/2')?.body.left).toBe(true)
    );
  });
});

describe('a run an owner logs', () => {
  it('keeps what was typed where it is refused, with the reason at its field', async () => {
    const kept = vi.fn();
    const errors = [{ path: 'logbook.runs.r1.hours', message: 'Not a length of time.' }];
    const asked = answers({
      'POST /api/mine/j1/runs': [
        422,
        { title: 'No', detail: 'Not a length of time.', status: 422, errors }
      ]
    });
    inJob(OwnRun, { job: 'j1', kept }, session);
    await type('Ran', 'long');
    await fireEvent.click(screen.getByText('Log this run'));
    expect(await screen.findByText('Not a length of time.')).toBeTruthy();
    expect((screen.getByLabelText('Ran') as HTMLInputElement).value).toBe('long');
    await type('Ran', '1.5');
    await fireEvent.click(screen.getByText('Log this run'));
    await waitFor(() => expect(asked).toHaveLength(2));
    expect(asked[1]?.body.hours).toBe('1.5 h');
    expect(kept).not.toHaveBeenCalled();
  });

  it('is sent again by the same key where no answer came', async () => {
    let sent = 0;
    const keys: unknown[] = [];
    vi.stubGlobal('fetch', async (input: Request) => {
      keys.push(((await input.clone().json()) as { key: string }).key);
      sent += 1;
      if (sent === 1) throw new TypeError('no network');
      return Response.json({});
    });
    const kept = vi.fn();
    inJob(OwnRun, { job: 'j1', kept }, session);
    await type('Ran', '2');
    await fireEvent.click(screen.getByText('Log this run'));
    await waitFor(() => expect(sent).toBe(1));
    await fireEvent.click(screen.getByText('Log this run'));
    await waitFor(() => expect(kept).toHaveBeenCalledOnce());
    expect(keys[0]).toBe(keys[1]);
  });
});

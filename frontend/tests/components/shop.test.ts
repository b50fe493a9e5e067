import { fireEvent, screen, waitFor, within } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { JobSession } from '$lib/session/session.svelte';
import Import from '$lib/frame/Import.svelte';
import SaveState from '$lib/frame/SaveState.svelte';
import Conflicts from '$lib/session/Conflicts.svelte';
import Pair from '../../src/routes/pair/+page.svelte';
import { shop } from '../shop';
import { inJob, opened } from './inJob';

let session: JobSession;
beforeEach(async () => {
  shop.reset();
  session = await opened();
});
afterEach(() => {
  session.close();
  vi.unstubAllGlobals();
});

/** Answers of the service by method and place; what was asked is told. */
function answers(by: (method: string, place: string, body: string) => [number, unknown]) {
  const asked: string[] = [];
  const real = globalThis.fetch;
  vi.stubGlobal('fetch', async (input: Request | string, init?: RequestInit) => {
    const request = input instanceof Request ? input : undefined;
    const place = new URL(request?.url ?? String(input), 'http://shop.test').pathname;
    if (!/\/api\/(pair|import)/.test(place)) return real(input, init);
    const method = request?.method ?? init?.method ?? 'GET';
    asked.push(`${method} ${place}`);
    const [status, body] = by(method, place, request ? await request.clone().text() : '');
    return Response.json(body, { status });
  });
  return asked;
}

describe('pairing', () => {
  const device = (key: string, name: string) => ({
    key,
    name,
    since: '2026-11-20T08:00:00+00:00',
    seen: '2026-11-26T15:30:00+00:00'
  });
  const shown = (devices: unknown[]) => ({
    ways: [{ address: 'https://192.0.2.2:8765', join: '<svg/>', authority: '<svg/>' }],
    fingerprint: 'AA:BB',
    lapses_s: 290,
    devices
  });

  it('lists who may come in, and for how long the codes stand', async () => {
    answers(() => [200, shown([device('a', 'Odo’s phone'), device('b', 'Bench tablet')])]);
    inJob(Pair, {}, session);
    expect(await screen.findByDisplayValue('Odo’s phone')).toBeTruthy();
    expect(document.querySelectorAll('[data-device]')).toHaveLength(2);
    expect(document.body.textContent).toContain('They stand for 5 more min');
    expect(document.body.textContent).toContain('AA:BB');
  });

  it('shuts a device out only after it was asked once more', async () => {
    const asked = answers((method) => [
      200,
      shown(
        method === 'DELETE'
          ? [device('b', 'Bench tablet')]
          : [device('a', 'Odo’s phone'), device('b', 'Bench tablet')]
      )
    ]);
    inJob(Pair, {}, session);
    const row = await waitFor(() => {
      const found = document.querySelector<HTMLElement>('[data-device="a"]');
      expect(found).not.toBeNull();
      return found as HTMLElement;
    });
    await fireEvent.click(within(row).getByText('Shut out'));
    expect(row.textContent).toContain(
      'Shut out Odo’s phone? What it has not sent yet stays on it.'
    );
    expect(asked.some((one) => one.startsWith('DELETE'))).toBe(false);
    await fireEvent.click(within(row).getByText('Leave it'));
    expect(within(row).getByText('Shut out')).toBeTruthy();
    await fireEvent.click(within(row).getByText('Shut out'));
    await fireEvent.click(within(row).getByText('Shut it out'));
    await waitFor(() => expect(document.querySelector('[data-device="a"]')).toBeNull());
    expect(asked).toContain('DELETE /api/pair/devices/a');
    expect(document.querySelector('[data-device="b"]')).not.toBeNull();
  });

  it('names a device, and says why where it can not', async () => {
    const refused = { title: 'No', detail: 'A name takes a letter.', status: 422, errors: [] };
    const asked = answers((method) =>
      method === 'PUT' ? [422, refused] : [200, shown([device('a', 'Device 1')])]
    );
    inJob(Pair, {}, session);
    const name = await screen.findByLabelText('Name of Device 1');
    await fireEvent.change(name, { target: { value: ' ' } });
    await waitFor(() =>
      expect(screen.getByRole('alert').textContent).toContain('A name takes a letter.')
    );
    expect(asked).toContain('PUT /api/pair/devices/a');
  });

  it('from a phone says where devices are let in', async () => {
    const detail = 'Devices are let in and shut out on the shop’s own machine.';
    answers(() => [403, { title: 'Forbidden', detail, status: 403, errors: [] }]);
    inJob(Pair, {}, session);
    expect(await screen.findByText(detail)).toBeTruthy();
    expect(document.querySelector('img')).toBeNull();
  });
});

describe('a job file brought in', () => {
  const bring = async () => {
    inJob(Import, {}, session);
    const file = new File(['zip'], 'set.zip', { type: 'application/zip' });
    await fireEvent.change(screen.getByLabelText('Import'), { target: { files: [file] } });
  };

  it('that is none says so beside its name', async () => {
    answers(() => [422, { title: 'No', detail: 'It is no job file.', status: 422, errors: [] }]);
    await bring();
    expect((await screen.findByRole('alert')).textContent).toBe('set.zip: It is no job file.');
  });

  it('with what is not allowed yet lists each thing once, and comes in without it when asked', async () => {
    const errors = [...Array(14).keys()].map((n) => ({
      path: `p${n}`,
      message: `Reason ${n % 13}`
    }));
    const asked = answers(() => [
      422,
      { type: '/problems/unearned', title: 'No', detail: 'x', status: 422, errors }
    ]);
    await bring();
    const told = await screen.findByRole('alert');
    expect(told.querySelectorAll('li')).toHaveLength(13);
    expect(told.textContent).toContain('and 1 more');
    await fireEvent.click(screen.getByText('Take it in without these signatures and readings'));
    await waitFor(() => expect(asked).toHaveLength(2));
    await fireEvent.click(await screen.findByText('Leave it'));
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('to a server that does not answer changes nothing', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')));
    await bring();
    expect((await screen.findByRole('alert')).textContent).toContain('Nothing was changed.');
  });
});

describe('what is not taken', () => {
  it('says in the bar how much waits, and below why', async () => {
    inJob(SaveState, { session }, session);
    inJob(Conflicts, { session }, session);
    shop.turn = () => 403;
    session.set('owner', 'Runa');
    await waitFor(() =>
      expect(screen.getByRole('status').textContent?.trim()).toBe('Not saved: 1 kept here')
    );
    expect(document.querySelector('[data-turned-away]')?.textContent).toContain('Turned away.');
    shop.turn = () => undefined;
    await session.flush();
    await waitFor(() => expect(screen.getByRole('status').textContent?.trim()).toBe('Saved'));
    expect(document.querySelector('[data-turned-away]')).toBeNull();
  });

  it('a refusal that is of no field stands below the bar, whole, until it is closed', async () => {
    inJob(SaveState, { session }, session);
    inJob(Conflicts, { session }, session);
    shop.turn = () => 400;
    session.undo();
    const told = await screen.findByText('Turned away.');
    expect(screen.getByRole('status').textContent?.trim()).toBe('Not done');
    expect(told.closest('[data-notice]')).not.toBeNull();
    await fireEvent.click(screen.getByText('Close'));
    expect(document.querySelector('[data-conflicts]')).toBeNull();
    expect(screen.getByRole('status').textContent?.trim()).toBe('Saved');
  });

  it('a photo that was refused is sent again or let go by hand', async () => {
    inJob(Conflicts, { session }, session);
    shop.turn = (kind) => (kind === 'photo' ? 413 : undefined);
    session.photo(new File(['x'], 'plate.jpg', { type: 'image/jpeg' }), 'set');
    expect(await screen.findByText('Photo not taken.')).toBeTruthy();
    shop.turn = () => undefined;
    await fireEvent.click(screen.getByText('Send again'));
    await waitFor(() => expect(shop.photos).toEqual(['plate.jpg']));
    expect(screen.queryByText('Photo not taken.')).toBeNull();
  });
});

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { prefs } from '$lib/session/prefs.svelte';
import { JobSession } from '$lib/session/session.svelte';
import { shop } from './shop';

let open: JobSession[] = [];

async function visit(): Promise<JobSession> {
  const session = new JobSession(shop.id);
  open.push(session);
  await session.open();
  return session;
}

/** As a reload does: this page is gone, the next one finds what the browser kept. */
async function reload(session: JobSession): Promise<JobSession> {
  session.remember();
  const gone = session as unknown as {
    saveTimers: Map<string, number>;
    retryTimer: number | undefined;
    flush: () => Promise<void>;
  };
  for (const timer of gone.saveTimers.values()) clearTimeout(timer);
  clearTimeout(gone.retryTimer);
  gone.flush = () => Promise.resolve();
  open = open.filter((one) => one !== session);
  await new Promise((done) => setTimeout(done, 20));
  return visit();
}

const settled = (session: JobSession) =>
  vi.waitFor(
    () => {
      expect([session.waiting, session.saving]).toEqual([0, 'saved']);
    },
    // What was not answered is tried again after a second.
    { timeout: 4000 }
  );

beforeEach(() => {
  shop.reset();
  localStorage.clear();
});

afterEach(async () => {
  shop.down = false;
  shop.deaf = false;
  for (const session of open) {
    await session.flush();
    session.close();
  }
  open = [];
});

describe('what is typed', () => {
  it('is asked about while typed and saved once it rests', async () => {
    const session = await visit();
    session.type('set.running', '3200');
    expect(session.saving).toBe('typing');
    await vi.waitFor(() => {
      expect(session.now?.preview).toBe(true);
    });
    session.save('set.running');
    await settled(session);
    expect(shop.doc).toEqual({ 'set.running': '3200' });
    expect(session.drafts).toEqual({});
    expect(session.now?.preview).toBe(false);
  });

  it('stays in its field with the reason when it is refused, and another field still saves', async () => {
    shop.refuse = (changes) =>
      (changes.some((one) => one.typed === 'lots') && {
        path: 'set.running',
        message: 'A number is wanted.'
      }) ||
      undefined;
    const session = await visit();
    session.type('set.running', 'lots');
    session.save('set.running');
    await vi.waitFor(() => {
      expect(session.errors['set.running']).toBe('A number is wanted.');
    });
    session.type('set.tank', '8 L');
    session.save('set.tank');
    await vi.waitFor(() => {
      expect(shop.doc).toEqual({ 'set.tank': '8 L' });
    });
    expect(session.drafts['set.running']?.text).toBe('lots');
    session.type('set.running', '900');
    session.save('set.running');
    await settled(session);
    expect(shop.doc['set.running']).toBe('900');
    expect(session.errors).toEqual({});
  });

  it('comes back after a reload that cut it off', async () => {
    const first = await visit();
    shop.down = true;
    first.type('owner', 'Marl Lane', true);
    const second = await reload(first);
    expect(second.drafts.owner?.text).toBe('Marl Lane');
    shop.down = false;
    second.save('owner');
    await settled(second);
    expect(shop.doc).toEqual({ owner: 'Marl Lane' });
  });

  it('is shown as the newest question answers, whatever order the answers come in', async () => {
    const session = await visit();
    const gates: (() => void)[] = [];
    shop.wait = (preview) =>
      preview ? new Promise((done) => gates.push(done)) : Promise.resolve();
    session.type('load.planned', '1');
    await vi.waitFor(() => {
      expect(gates).toHaveLength(1);
    });
    session.type('load.planned', '12');
    session.type('load.planned', '123');
    gates.shift()?.();
    await vi.waitFor(() => {
      expect(gates).toHaveLength(1);
    });
    gates.shift()?.();
    await vi.waitFor(() => {
      expect((session.now?.job as never as { load: { planned: string } }).load.planned).toBe('123');
    });
    expect(shop.asked.filter((one) => one.preview)).toHaveLength(2);
    session.forget('load.planned');
    expect(session.now?.preview).toBe(false);
  });
});

describe('without the server', () => {
  it('ticks wait in order, survive a reload, and are written once each', async () => {
    const first = await visit();
    shop.down = true;
    for (const step of ['a', 'b', 'c']) first.set(`fit.${step}`, { state: 'done' });
    await vi.waitFor(() => {
      expect([first.saving, first.waiting]).toEqual(['unreached', 3]);
    });
    expect(first.latest('fit.b')).toEqual({ state: 'done' });
    const second = await reload(first);
    expect(second.waiting).toBe(3);
    expect(second.settled?.id).toBe(shop.id);
    shop.down = false;
    await second.flush();
    await settled(second);
    expect(shop.log.map((one) => one.changes[0]?.path)).toEqual(['fit.a', 'fit.b', 'fit.c']);
  });

  it('a write whose answer was lost is not written twice', async () => {
    const session = await visit();
    shop.deaf = true;
    session.set('note', 'once');
    await vi.waitFor(() => {
      expect(session.saving).toBe('unreached');
    });
    shop.deaf = false;
    await session.flush();
    await settled(session);
    expect(shop.log).toHaveLength(1);
    expect(shop.asked.filter((one) => one.kind === 'edit')).toHaveLength(2);
  });

  it('undo goes its way behind what it undoes', async () => {
    const session = await visit();
    shop.down = true;
    session.set('note', 'first');
    session.undo();
    shop.down = false;
    await session.flush();
    await settled(session);
    expect(shop.log.map((one) => one.kind)).toEqual(['edit', 'undo']);
    expect(shop.doc).toEqual({});
  });

  it('whatever goes and comes, the shop ends with every write once and in order', async () => {
    let seed = 7;
    const dice = (sides: number) => (seed = (seed * 48271) % 2147483647) % sides;
    let session = await visit();
    const wanted: string[] = [];
    for (let n = 0; n < 60; n += 1) {
      shop.down = dice(3) === 0;
      shop.deaf = !shop.down && dice(4) === 0;
      session.set(`p${dice(5)}`, `v${n}`);
      wanted.push(`v${n}`);
      if (dice(5) === 0) await new Promise((done) => setTimeout(done, 2));
      if (dice(12) === 0) session = await reload(session);
    }
    shop.down = shop.deaf = false;
    await vi.waitFor(async () => {
      await session.flush();
      expect(session.waiting).toBe(0);
    });
    expect(shop.log.map((one) => one.changes[0]?.value)).toEqual(wanted);
  });
});

describe('two devices', () => {
  it('a tick that met another one waits for a person; theirs can stand or give way', async () => {
    const session = await visit();
    shop.other('fit.a', { state: 'skipped', reason: 'no battery' });
    session.set('fit.a', { state: 'done' });
    await vi.waitFor(() => {
      expect(session.conflicts).toHaveLength(1);
    });
    expect(shop.doc['fit.a']).toMatchObject({ state: 'skipped' });
    const again = await reload(session);
    const [conflict] = again.conflicts;
    if (!conflict) throw new Error('the conflict was lost');
    again.resolve(conflict, true);
    await settled(again);
    expect(shop.doc['fit.a']).toEqual({ state: 'done' });
    expect(again.conflicts).toEqual([]);
  });

  it('the same tick by two hands is no conflict', async () => {
    const session = await visit();
    shop.other('fit.a', { state: 'done', by: 'Odo', on: '09:00' });
    session.set('fit.a', { state: 'done', by: 'Runa', on: '09:01' });
    await settled(session);
    expect(session.conflicts).toEqual([]);
    expect(shop.doc['fit.a']).toMatchObject({ by: 'Odo' });
  });

  it('what is typed over another one is told at the field and saved once it was seen', async () => {
    const session = await visit();
    session.type('set.tank', '7 L');
    shop.other('set.tank', '9 L');
    await session.refresh();
    session.save('set.tank');
    await vi.waitFor(() => {
      expect(session.errors['set.tank']).toBe('changed meanwhile');
    });
    expect(session.drafts['set.tank']?.text).toBe('7 L');
    expect(shop.doc['set.tank']).toBe('9 L');
    session.save('set.tank');
    await settled(session);
    expect(shop.doc['set.tank']).toBe('7 L');
  });
});

describe('turned away', () => {
  const sendPhoto = (session: JobSession) =>
    session.photo(new File(['picture'], 'plate.jpg', { type: 'image/jpeg' }), 'set');

  it.each([401, 403, 404, 408, 421, 429, 503, 507])(
    'with %s, what was written waits with its reason and is sent once it is taken again',
    async (status) => {
      const session = await visit();
      shop.turn = () => status;
      session.set('fit.steps.a', { state: 'done' });
      session.set('owner', 'Runa');
      await vi.waitFor(() => expect(session.saving).toBe('unreached'));
      expect(session.waiting).toBe(2);
      expect(session.unreached).toBe('Turned away.');
      expect(session.conflicts).toEqual([]);
      shop.turn = () => undefined;
      await settled(session);
      expect(shop.doc).toEqual({ 'fit.steps.a': { state: 'done' }, owner: 'Runa' });
      expect(session.saving).toBe('saved');
    }
  );

  it('what a role does not allow is told at once, and nothing waits', async () => {
    const session = await visit();
    shop.turn = () => 403;
    shop.turned = { type: '/problems/role', detail: 'A learner keeps nothing.' };
    session.set('fit.steps.a', { state: 'done' });
    await vi.waitFor(() => expect(session.notice).toBe('A learner keeps nothing.'));
    expect(session.waiting).toBe(0);
    expect(session.saving).toBe('saved');
    expect(shop.doc).toEqual({});
  });

  it('what somebody wrote is sent as theirs, whoever is here by then', async () => {
    prefs.be('Runa Kestle');
    const session = await visit();
    shop.turn = () => 401;
    session.set('fit.steps.a', { state: 'done', by: 'Runa Kestle' });
    await vi.waitFor(() => expect(session.waiting).toBe(1));
    prefs.be('Odo Marlin');
    shop.turn = () => undefined;
    await settled(session);
    expect(shop.wrote.at(-1)).toBe('Runa Kestle');
    prefs.be('');
  });

  it('what waits is still there after a reload, in its order', async () => {
    const first = await visit();
    shop.turn = () => 403;
    for (const step of ['a', 'b', 'c']) first.set(`fit.${step}`, { state: 'done' });
    await vi.waitFor(() => expect(first.waiting).toBe(3));
    const second = await reload(first);
    expect(second.waiting).toBe(3);
    shop.turn = () => undefined;
    await settled(second);
    expect(shop.log.map((one) => one.changes[0]?.path)).toEqual(['fit.a', 'fit.b', 'fit.c']);
  });

  it('a photo waits as well, and is sent once', async () => {
    const session = await visit();
    shop.turn = () => 403;
    sendPhoto(session);
    await vi.waitFor(() => expect(session.waiting).toBe(1));
    shop.turn = () => undefined;
    await settled(session);
    expect(shop.photos).toEqual(['plate.jpg']);
  });

  it('a photo that is refused is kept for a person to say what becomes of it', async () => {
    const session = await visit();
    shop.turn = (kind) => (kind === 'photo' ? 413 : undefined);
    sendPhoto(session);
    session.set('owner', 'Runa');
    await vi.waitFor(() => expect(session.conflicts).toHaveLength(1));
    await vi.waitFor(() => expect(shop.doc).toEqual({ owner: 'Runa' }));
    const [kept] = session.conflicts;
    expect(kept?.said).toBe('Turned away.');
    expect(kept?.write.photo?.name).toBe('plate.jpg');
    const again = await reload(session);
    expect(again.conflicts.map((one) => one.write.photo?.name)).toEqual(['plate.jpg']);
    shop.turn = () => undefined;
    if (again.conflicts[0]) again.resolve(again.conflicts[0], true);
    await settled(again);
    expect(shop.photos).toEqual(['plate.jpg']);
    expect(again.conflicts).toEqual([]);
  });

  it('what is no picture is told at its field, and kept where it was taken out of reach', async () => {
    const session = await visit();
    shop.turn = (kind) => (kind === 'photo' ? 422 : undefined);
    sendPhoto(session);
    await vi.waitFor(() => expect(session.waiting).toBe(0));
    expect(session.conflicts).toEqual([]);
    shop.down = true;
    sendPhoto(session);
    await vi.waitFor(() => expect(session.saving).toBe('unreached'));
    shop.down = false;
    await vi.waitFor(() => expect(session.conflicts).toHaveLength(1), { timeout: 4000 });
  });

  it('a photo that is let go is gone, and was asked for by a person', async () => {
    const session = await visit();
    shop.turn = (kind) => (kind === 'photo' ? 413 : undefined);
    sendPhoto(session);
    await vi.waitFor(() => expect(session.conflicts).toHaveLength(1));
    if (session.conflicts[0]) session.resolve(session.conflicts[0], false);
    expect(session.conflicts).toEqual([]);
    const again = await reload(session);
    expect([again.waiting, again.conflicts.length]).toEqual([0, 0]);
    expect(shop.photos).toEqual([]);
  });

  it('a write made while the last one is settled is not left lying', async () => {
    const session = await visit();
    shop.refuse = (changes) =>
      changes[0]?.path === 'owner' ? { path: 'owner', message: 'No.' } : undefined;
    session.set('owner', 'x');
    await vi.waitFor(() => expect(session.errors.owner).toBe('No.'));
    session.set('wish', 'quiet');
    await vi.waitFor(() => expect(shop.doc).toEqual({ wish: 'quiet' }));
  });
});

describe('keys', () => {
  it('begin with the browser, so that undo finds its own, and no two are the same', async () => {
    const session = await visit();
    for (const step of ['a', 'b', 'c']) session.set(`fit.${step}`, { state: 'done' });
    await settled(session);
    const keys = shop.log.map((one) => one.key);
    expect(new Set(keys).size).toBe(3);
    for (const key of keys) expect(key).toMatch(/^[0-9a-f]{8}\.[0-9a-z]+-\d+$/);
    expect(new Set(keys.map((key) => key.split('.')[0])).size).toBe(1);
  });
});

import { api, ask, refusals, Refusal, type Me as Told } from '$lib/api/client';
import type { components } from '$lib/api/schema';
import { shelf } from './kept';
import { prefs } from './prefs.svelte';

export type Permission = components['schemas']['Permission'];
type Kept = Pick<Told, 'asked' | 'led' | 'at_home' | 'names' | 'person'>;

const NOBODY: Kept = { asked: false, led: true, at_home: true, names: [], person: null };
const PLACE = 'ember.me';

function seen(): Kept {
  try {
    return { ...NOBODY, ...(JSON.parse(localStorage.getItem(PLACE) ?? '{}') as Partial<Kept>) };
  } catch {
    return NOBODY;
  }
}

/** Who is signed in here, as the server said last; and the code a signature asks for. */
class Me {
  told = $state.raw<Kept>(seen());
  /** What the code is asked for, and what answers it. */
  asking = $state.raw<{ said: string; done: (given: boolean) => void }>();

  /** Whether the page has to ask who is there before it shows anything. */
  get outside(): boolean {
    return this.told.asked && !this.told.person;
  }

  may(what: Permission): boolean {
    return !this.told.asked || (this.told.person?.may.includes(what) ?? false);
  }

  take(told: Kept): void {
    this.told = told;
    if (told.person) prefs.be(told.person.name, told.person.units);
    try {
      localStorage.setItem(PLACE, JSON.stringify(told));
    } catch {
      // Kept in this page alone.
    }
  }

  /** Ask the server; without an answer what was seen last stands. */
  async load(): Promise<void> {
    try {
      this.take(await ask(api.GET('/api/me')));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  async signOut(): Promise<void> {
    this.take(await ask(api.DELETE('/api/me')));
    await shelf.forget();
    await forgetAnswers();
  }

  /** Ask for the code of whoever is signed in; whether it was given. */
  giveCode(said: string): Promise<boolean> {
    this.asking?.done(false);
    return new Promise((done) => (this.asking = { said, done }));
  }

  async answer(code: string): Promise<void> {
    await ask(api.POST('/api/me/code', { body: { code } }));
    this.settle(true);
  }

  settle(given: boolean): void {
    this.asking?.done(given);
    this.asking = undefined;
  }
}

/** Photos and lists kept for a time without network go with whoever saw them. */
async function forgetAnswers(): Promise<void> {
  if (typeof caches === 'undefined') return;
  for (const name of await caches.keys()) {
    const cache = await caches.open(name);
    for (const request of await cache.keys())
      if (new URL(request.url).pathname.startsWith('/api/')) await cache.delete(request);
  }
}

export const me = new Me();
refusals.signIn = () => void me.load();

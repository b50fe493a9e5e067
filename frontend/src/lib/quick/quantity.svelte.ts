import { api, ask, Refusal } from '$lib/api/client';
import { prefs } from '$lib/session/prefs.svelte';

/** A quantity typed outside a job: its text, what was understood [SI], or what is wrong. */
export class TypedQuantity {
  text = $state('');
  value = $state<number>();
  understood = $state.raw<{ us: string; metric: string }>();
  error = $state('');
  readonly name: string;
  readonly kind: string;
  private asked = 0;

  constructor(name: string, kind: string, value?: number, text = '') {
    this.name = name;
    this.kind = kind;
    this.value = value;
    this.text = text;
  }

  async type(text: string): Promise<void> {
    this.text = text;
    this.error = '';
    const mine = ++this.asked;
    if (!text.trim()) {
      this.value = undefined;
      this.understood = undefined;
      return;
    }
    const body = { text, kind: this.kind, system: prefs.system };
    try {
      const read = await ask(api.POST('/api/quantities/read', { body }));
      if (mine !== this.asked) return;
      this.value = read.value;
      this.understood = read;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (mine !== this.asked) return;
      // What can't be read is no answer's: the one before must not stand beside it.
      this.error = error.message;
      this.value = undefined;
      this.understood = undefined;
    }
  }
}

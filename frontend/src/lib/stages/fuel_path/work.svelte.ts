import {
  api,
  ask,
  Refusal,
  type PartOption,
  type Proposal,
  type StoredTrain
} from '$lib/api/client';
import type { JobSession } from '$lib/session/session.svelte';

type Mode = 'fresh' | 'repair' | 'kit';
interface Edit {
  op: 'turn' | 'remove' | 'insert' | 'bridge';
  slot: string;
  put?: { part: string; unknown?: string; role?: string };
}

/** What the bench works on: the train on show, its chosen place, the solver's answers. */
export class Workbench {
  name = $state('');
  slot = $state('');
  busy = $state(false);
  fault = $state('');
  proposals = $state.raw<Proposal[]>();
  impossible = $state.raw<{ role: string; why: string; nearest: string[] }>();
  options = $state.raw<PartOption[]>();
  everything = $state(false);

  private readonly session: () => JobSession;

  constructor(session: () => JobSession) {
    this.session = session;
  }

  show(name: string): void {
    if (name === this.name) return;
    this.name = name;
    this.slot = '';
    this.close();
  }

  select(slot: string): void {
    if (slot === this.slot) return;
    this.slot = slot;
    this.options = undefined;
  }

  close(): void {
    this.proposals = undefined;
    this.impossible = undefined;
    this.options = undefined;
    this.fault = '';
  }

  /** Have a train worked out: afresh, repaired with the fewest changes, or from a kit. */
  async propose(template: string, mode: Mode, name = this.name, kit = ''): Promise<void> {
    this.close();
    await this.run(async () => {
      const found = await ask(
        api.POST('/api/jobs/{job_id}/trains/{name}/propose', {
          params: { path: { job_id: this.session().id, name } },
          body: { template, mode, kit }
        })
      );
      this.proposals = found.proposals;
      this.impossible = found.impossible ?? undefined;
      this.name = name;
    });
  }

  /** Build the best train of a template at once. */
  async build(template: string, name: string): Promise<void> {
    await this.propose(template, 'fresh', name);
    const best = this.proposals?.[0];
    if (best) this.take(best.train);
  }

  async pick(everything = false): Promise<void> {
    this.everything = everything;
    this.proposals = undefined;
    await this.run(async () => {
      this.options = await ask(
        api.POST('/api/jobs/{job_id}/trains/{name}/options', {
          params: { path: { job_id: this.session().id, name: this.name } },
          body: { slot: this.slot, everything }
        })
      );
    });
  }

  async edit(change: Edit): Promise<void> {
    await this.run(async () => {
      const found = await ask(
        api.POST('/api/jobs/{job_id}/trains/{name}/edit', {
          params: { path: { job_id: this.session().id, name: this.name } },
          body: change as never
        })
      );
      this.take(found.train);
    });
  }

  /** What was found becomes this job's train: all of it is there already. */
  async keep(fuel: string): Promise<void> {
    await this.run(async () => {
      const found = await ask(
        api.POST('/api/jobs/{job_id}/trains/{name}/edit', {
          params: { path: { job_id: this.session().id, name: this.name } },
          body: { op: 'keep', slot: '', put: null }
        })
      );
      this.session().set(`trains.${fuel}`, found.train);
      this.close();
    });
  }

  /** Make a train the job's own; undo brings the one before back. */
  take(train: StoredTrain): void {
    this.session().set(`trains.${this.name}`, train);
    this.close();
    if (!(train.slots && this.slot in train.slots)) this.slot = '';
  }

  private async run(work: () => Promise<void>): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    this.fault = '';
    try {
      await this.session().saved();
      await work();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.fault = error.errors[0]?.message ?? error.message;
    } finally {
      this.busy = false;
    }
  }
}

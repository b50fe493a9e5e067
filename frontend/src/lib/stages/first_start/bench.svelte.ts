import { api, ask, Refusal } from '$lib/api/client';
import type { components } from '$lib/api/schema';
import type { JobSession } from '$lib/session/session.svelte';

export type Bench = components['schemas']['BenchOut'];
export type Hands = Partial<components['schemas']['HandsIn']>;
export type Channel = components['schemas']['ChannelOut'];
export type GasMetering = components['schemas']['MeteringOut'];
export type Signal = GasMetering['signal'];
type Taken = components['schemas']['BenchTakenOut'];
type Fuel = components['schemas']['FuelKey'];
type Act = components['schemas']['ActIn']['what'];

const TRACE = 60;

/** The simulated bench of one gas: what its instruments show, and hands on it. */
export class BenchLive {
  now = $state.raw<Bench>();
  trouble = $state('');
  busy = $state(false);
  /** The last readings of each channel, oldest first. */
  traces = $state.raw<Record<string, number[]>>({});
  private readonly job: JobSession;
  private readonly fuel: Fuel;

  constructor(job: JobSession, fuel: string) {
    this.job = job;
    this.fuel = fuel as Fuel;
  }

  /** Whether it runs on a gas. */
  get gas(): boolean {
    return this.fuel !== 'gasoline';
  }

  private get params() {
    return { path: { job_id: this.job.id, fuel: this.fuel } };
  }

  /** Find the bench if it still stands, and listen to it. */
  look = () =>
    this.do(async () => {
      const { params } = this;
      const found: Bench | undefined = await ask(
        api.GET('/api/jobs/{job_id}/bench/{fuel}', { params })
      );
      if (!found) return;
      this.show(found);
      this.listen();
    });

  setUp = (seed: number) =>
    this.do(async () => {
      const body = { seed };
      const { params } = this;
      this.traces = {};
      this.show(await ask(api.POST('/api/jobs/{job_id}/bench/{fuel}', { params, body })));
      this.listen();
    });

  hands = (body: Hands) =>
    this.do(async () => {
      const { params } = this;
      const given = { params, body: body as never };
      this.show(await ask(api.PATCH('/api/jobs/{job_id}/bench/{fuel}', given)));
    });

  act = (what: Act, seconds = 2, joint = '') =>
    this.do(async () => {
      const body = { what, seconds, joint };
      const { params } = this;
      this.show(await ask(api.POST('/api/jobs/{job_id}/bench/{fuel}/act', { params, body })));
    });

  /** Turn the screw there and take a reading; nothing when it can't be taken. */
  async take(turns: number, signal: Signal, load: number): Promise<Taken | undefined> {
    let taken: Taken | undefined;
    await this.do(async () => {
      const { params } = this;
      const screw = { turns } as never;
      await ask(api.PATCH('/api/jobs/{job_id}/bench/{fuel}', { params, body: screw }));
      const body = { signal, load_w: load };
      taken = await ask(api.POST('/api/jobs/{job_id}/bench/{fuel}/take', { params, body }));
      this.show(taken.bench);
    });
    return taken;
  }

  /** Where four seconds of its sound are; another address each time, so that none is an old one. */
  sound(): string {
    return `/api/jobs/${this.job.id}/bench/${this.fuel}/sound.wav?at=${this.now?.at_s ?? 0}`;
  }

  close(): void {
    this.job.stream.listen('');
  }

  private listen(): void {
    this.job.stream.listen(this.fuel, (text) => this.show(JSON.parse(text) as Bench));
  }

  private show(found: Bench): void {
    this.now = found;
    const traces = { ...this.traces };
    for (const one of found.channels)
      traces[one.key] = [...(traces[one.key] ?? []), one.value].slice(-TRACE);
    this.traces = traces;
  }

  private async do(work: () => Promise<void>): Promise<void> {
    this.busy = true;
    this.trouble = '';
    try {
      await work();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble = error.errors[0]?.message ?? error.message;
    } finally {
      this.busy = false;
    }
  }
}

import { getContext, setContext, untrack } from 'svelte';
import { Refusal, type Change, type Figure, type Snapshot } from '$lib/api/client';
import { me } from './me.svelte';
import { prefs } from './prefs.svelte';
import { Earlier } from './earlier.svelte';
import { alreadySo, shelf, type Conflict, type Write } from './kept';
import { at } from './path';
import { Drafts, Outbox, writeKey, type Draft } from './outbox';
import { Previews } from './previews.svelte';
import { Seen } from './seen';
import { Stream } from './stream';
import { fetchJob, sendWrite } from './wire';

const SAVE_MS = 900;
const RETRY_MS = [1000, 2000, 4000, 8000];
/** Answers that say nothing of what was written: not paired, gone, too many, too slow, too busy. */
const LATER = [0, 401, 403, 404, 408, 421, 425, 429];
/** Whether it may be taken later; what a role does not allow is not. */
const waits = ({ status, kind }: Refusal) =>
  kind !== 'role' && (LATER.includes(status) || status >= 500);

export type SaveState = 'saved' | 'typing' | 'saving' | 'unreached';

/** One open job: what the server acknowledged, what is being typed, and the way between them. */
export class JobSession {
  settled = $state.raw<Snapshot>();
  drafts = $state<Record<string, Draft>>({});
  errors = $state<Record<string, string>>({});
  saving = $state<SaveState>('saved');
  /** Why nothing is taken though the server answers; empty where it does not. */
  unreached = $state('');
  waiting = $state(0);
  /** Writes not acknowledged yet, oldest first. */
  queued = $state.raw<Write[]>([]);
  conflicts = $state.raw<Conflict[]>([]);
  notice = $state('');
  missing = $state('');
  views = '';

  readonly id: string;
  private readonly outbox: Outbox;
  private readonly kept: Drafts;
  private readonly before = new Earlier();
  private readonly previews = new Previews(
    (changes) => sendWrite(this.id, { ...this.write(changes), preview: true }, this.views),
    () => this.busy
  );
  private busy = false;
  private failures = 0;
  private saveTimers = new Map<string, ReturnType<typeof setTimeout>>();
  private retryTimer: ReturnType<typeof setTimeout> | undefined;
  /** What other devices write on this job. */
  readonly stream: Stream;
  private readonly seen = new Seen();
  /** Writes that waited for the server: refused, they come too late for the field they came from. */
  private late = new Set<string>();
  /** The revision each draft was begun on: what others write meanwhile must not slip under it. */
  private begun = new Map<string, number>();

  constructor(id: string, views = '') {
    this.views = views;
    this.id = id;
    this.outbox = new Outbox(id);
    this.kept = new Drafts(id);
    this.stream = new Stream(id, () => this.catchUp());
  }

  /** The job to show: as it would be while typing, else as saved. */
  get now(): Snapshot | undefined {
    return this.previews.shown ?? this.settled;
  }

  async open(): Promise<void> {
    // What an earlier visit left goes first; nothing can be typed before the job is on show.
    // It is asked for at once, and shown once what was left is known.
    const asked = fetchJob(this.id, this.views);
    asked.catch(() => undefined);
    const left = this.kept.load();
    this.drafts = left;
    await this.outbox.load();
    for (const write of this.outbox.writes) this.late.add(write.key);
    this.conflicts = await shelf.conflicts(this.id);
    this.settle();
    await this.refresh(asked);
    await this.flush();
    if (!this.settled) await this.refresh();
    this.stream.open();
    for (const path of Object.keys(left)) if (!this.saveTimers.has(path)) this.save(path);
  }

  async refresh(asked?: Promise<Snapshot>): Promise<void> {
    if (!this.outbox.writes.length) await this.fetch(asked);
  }

  private async fetch(asked?: Promise<Snapshot>): Promise<void> {
    try {
      const found = await (asked ?? fetchJob(this.id, this.views));
      if (!this.settled || found.revision >= this.settled.revision) this.take(found);
      this.failures = 0;
      if (this.saving === 'unreached') this.settle();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (error.status === 404 || error.status === 409) this.missing = error.message;
      else {
        await this.recall();
        this.lost();
      }
    }
  }

  private take(found: Snapshot): void {
    this.settled = found;
    this.failures = 0;
    this.seen.take(found);
  }

  /** The page may be going away: what it saw last is kept now. */
  remember(): void {
    this.seen.keep();
  }

  /** Without the server: the job as this browser saw it last, sections of other pages along. */
  private async recall(): Promise<void> {
    const seen = await shelf.recall(this.id);
    if (seen && (!this.settled || seen.revision >= this.settled.revision)) this.settled = seen;
  }

  private catchUp(): void {
    if (!this.busy && this.stream.heard > (this.settled?.revision ?? 0)) void this.refresh();
  }

  /** Sections the page on show needs along with every answer. */
  async look(views: string): Promise<void> {
    if (views === this.views) return;
    this.views = views;
    // Called from effects, which must not run again because the job did.
    if (untrack(() => this.settled)) await this.refresh();
  }

  /** A field's text while it is typed or dragged: shown at once, saved when it rests. */
  type(path: string, text: string, plain = false): void {
    this.mark(path);
    if (!this.drafts[path]) this.begun.set(path, this.settled?.revision ?? 0);
    this.drafts[path] = { text, plain };
    this.kept.save($state.snapshot(this.drafts));
    this.saving = 'typing';
    if (!plain) this.preview(path);
    clearTimeout(this.saveTimers.get(path));
    this.saveTimers.set(
      path,
      setTimeout(() => this.save(path), SAVE_MS)
    );
  }

  private preview(path: string): void {
    void this.previews.ask({
      changes: () => {
        const draft = this.drafts[path];
        return draft ? [{ path, typed: draft.text }] : [];
      },
      found: () => delete this.errors[path],
      refused: (error) => this.refuse(error, [path]),
      patient: true
    });
  }

  /** Ask what plain changes would do, while something is dragged. */
  peek(changes: Change[]): void {
    this.saving = 'typing';
    const refused = (error: unknown) => this.refuse(error, [changes[0]?.path ?? '']);
    void this.previews.ask({ changes: () => changes, refused });
  }

  /** Let go of what was only looked at. */
  drop(): void {
    this.previews.drop();
    this.settle();
  }

  /** Save a field's draft now; refused drafts elsewhere are tried along with it. */
  save(path: string, origin?: Change['origin']): void {
    clearTimeout(this.saveTimers.get(path));
    const change = this.drafted(path, origin);
    if (!change) return;
    const others = Object.keys(this.errors)
      .filter((other) => other !== path)
      .flatMap((other) => this.drafted(other) ?? []);
    const bases = [change, ...others].flatMap((one) => this.begun.get(one.path) ?? []);
    this.enqueue({ changes: [change, ...others], together: others.length > 0 }, bases);
  }

  private drafted(path: string, origin?: Change['origin']): Change | undefined {
    const draft = this.drafts[path];
    if (!draft) return undefined;
    return draft.plain ? { path, value: draft.text } : { path, typed: draft.text, origin };
  }

  /** Set a plain value, at once. */
  set(path: string, value: unknown): void {
    this.mark(path);
    this.enqueue({ changes: [{ path, value }] });
  }

  /** Several plain values that belong together, as one change to undo. */
  setAll(changes: Change[]): void {
    this.previews.drop();
    this.mark(changes[0]?.path ?? '');
    this.enqueue({ changes });
  }

  /** Keep a photo; it goes on its way with the other writes. */
  photo(file: File, subject: string): void {
    delete this.errors[subject || 'attachments'];
    this.enqueue({ kind: 'photo', photo: { file, name: file.name, subject } });
  }

  /** What a path will hold once everything under way is written; undefined when nothing is. */
  pending(path: string): { value: unknown } | undefined {
    for (const write of [...this.queued].reverse())
      for (const change of [...write.changes].reverse())
        if (change.path === path) return { value: change.remove ? undefined : change.value };
    return undefined;
  }

  /** What a path holds, writes under way counted in. */
  latest(path: string): unknown {
    const waiting = this.pending(path);
    return waiting ? waiting.value : at(this.settled?.job, path);
  }

  /** Settle a conflict: write mine over theirs, or let theirs stand. */
  resolve(conflict: Conflict, mine: boolean): void {
    this.conflicts = this.conflicts.filter((one) => one.key !== conflict.key);
    void shelf.dropConflict(conflict.key);
    const { kind, changes, photo } = conflict.write;
    if (mine) this.enqueue(photo ? { kind, photo } : { changes });
  }

  remove(path: string): void {
    this.mark(path);
    this.enqueue({ changes: [{ path, remove: true }] });
  }

  /** Let go of what was typed into a field; the saved value shows again. */
  forget(path: string): void {
    clearTimeout(this.saveTimers.get(path));
    delete this.drafts[path];
    delete this.errors[path];
    this.previews.drop();
    this.kept.save($state.snapshot(this.drafts));
    this.settle();
  }

  undo(): void {
    this.mark('undo');
    this.enqueue({ kind: 'undo' });
  }

  redo(): void {
    this.mark('redo');
    this.enqueue({ kind: 'redo' });
  }

  /** How a figure differs from before the present run of changes. */
  earlier(key: string): Figure | undefined {
    return this.before.of(key);
  }

  private mark(path: string): void {
    this.before.mark(path, this.settled?.ledger);
  }

  private write(changes: Change[]): Write {
    const base = this.settled?.revision ?? 0;
    const { system, who } = prefs;
    return { key: writeKey(), kind: 'edit', changes, base, system, who, together: false };
  }

  private enqueue(what: Partial<Write>, bases: number[] = []): void {
    const write = { ...this.write([]), ...what };
    this.outbox.add({ ...write, base: Math.min(write.base, ...bases) });
    this.settle();
    void this.flush();
  }

  /** Send what waits, one write after another, each exactly once. */
  async flush(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    try {
      await this.sendAll();
    } finally {
      // Whatever went wrong on the way, the next write is sent.
      this.busy = false;
    }
    // One that came while the last was being settled found this at work, and was left to it.
    if (this.outbox.writes.length && this.saving !== 'unreached') return this.flush();
    this.settle();
    this.catchUp();
    this.previews.resume();
  }

  private async sendAll(): Promise<void> {
    // With nothing to send, a look at the job that failed before is still to be tried again.
    if (this.outbox.writes.length) clearTimeout(this.retryTimer);
    for (let write = this.outbox.writes[0]; write; write = this.outbox.writes[0]) {
      this.saving = 'saving';
      try {
        const found = await sendWrite(this.id, write, this.views);
        this.accept(write, found);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        if (error.kind === 'code') {
          // A signature: whoever makes it gives their code, or leaves it unsigned.
          if (!(await me.giveCode(error.message))) this.letGo(write);
          continue;
        }
        if (waits(error)) {
          if (!this.settled) await this.recall();
          this.lost(error);
          break;
        }
        await this.turnDown(write, error);
      }
    }
  }

  /** Resolves once everything typed so far is saved; refuses when the server can't be reached. */
  async saved(): Promise<void> {
    await this.flush();
    while (this.outbox.writes.length) {
      if (this.saving === 'unreached')
        throw new Refusal({
          title: 'Not saved yet',
          detail: 'The last change is not saved yet: the server does not answer.',
          status: 0,
          errors: []
        });
      await new Promise((done) => setTimeout(done, 15));
    }
  }

  private accept(write: Write, found: Snapshot): void {
    this.outbox.drop(write.key);
    this.failures = 0;
    this.late.delete(write.key);
    this.take(found);
    this.previews.outdated();
    for (const change of write.changes) {
      delete this.errors[change.path];
      if (this.drafts[change.path]?.text === (change.typed ?? change.value))
        delete this.drafts[change.path];
      this.begun.delete(change.path);
    }
    this.kept.save($state.snapshot(this.drafts));
    this.notice = '';
  }

  private letGo(write: Write): void {
    this.outbox.drop(write.key);
    this.late.delete(write.key);
    this.previews.outdated();
    this.settle();
  }

  private async turnDown(write: Write, error: Refusal): Promise<void> {
    this.outbox.drop(write.key);
    // A question still on its way must not wipe out the refusal that came in meanwhile.
    this.previews.outdated();
    const [first, ...others] = write.changes;
    if (first && others.length && write.together) {
      // Together they were refused: the one just edited still gets its own try.
      this.outbox.writes.unshift({ ...write, key: writeKey(), changes: [first], together: false });
      return;
    }
    const conflict = error.status === 409;
    if (conflict) await this.fetch();
    if (first && first.typed === undefined && (conflict || this.late.has(write.key))) {
      // A tick or a note has no field to be kept in: it waits beside what stands there.
      if (write.changes.every((change) => alreadySo(change, this.settled?.job))) return;
      const kept = { key: write.key, write, said: error.message };
      this.conflicts = [...this.conflicts, kept];
      void shelf.addConflict(this.id, kept);
      return;
    }
    if (write.photo && (error.status !== 422 || this.late.has(write.key))) {
      // There may be no second one of what it shows: it waits until a person lets it go. One that
      // was refused at once as no picture is told at its field, by who still has it in hand.
      const kept = { key: write.key, write, said: error.message };
      this.conflicts = [...this.conflicts, kept];
      void shelf.addConflict(this.id, kept);
    }
    const about = write.photo ? [write.photo.subject || 'attachments'] : [];
    this.refuse(error, [...about, ...write.changes.map((change) => change.path)]);
    if (conflict)
      // Whoever saves once more has seen what the other wrote.
      for (const change of write.changes)
        this.begun.set(change.path, this.settled?.revision ?? write.base);
  }

  private refuse(error: unknown, paths: string[]): void {
    if (!(error instanceof Refusal)) throw error;
    if (waits(error)) {
      this.lost(error);
      return;
    }
    this.notice = error.errors.length ? '' : error.message;
    // A message belongs at the field being edited, and at the field it names when that differs.
    for (const entry of error.errors) {
      const named = entry.path.replace(/\.(value|origin|typed)$/, '');
      this.errors[named] = entry.message;
      const own = paths[0];
      if (own !== undefined && !paths.includes(named)) this.errors[own] = entry.message;
    }
  }

  private lost(error?: Refusal): void {
    this.saving = 'unreached';
    this.unreached = error?.status ? error.message : '';
    for (const write of this.outbox.writes) this.late.add(write.key);
    const wait = RETRY_MS[Math.min(this.failures, RETRY_MS.length - 1)] ?? 8000;
    this.failures += 1;
    clearTimeout(this.retryTimer);
    this.retryTimer = setTimeout(() => void this.reach(), wait);
  }

  /** Try again what was not answered: what waits, else a look at the job. */
  private async reach(): Promise<void> {
    if (!this.settled) await this.open();
    else if (this.outbox.writes.length) await this.flush();
    else await this.refresh();
  }

  private settle(): void {
    this.waiting = this.outbox.writes.length;
    this.queued = [...this.outbox.writes];
    if (this.waiting) {
      if (this.saving !== 'unreached') this.saving = 'saving';
    } else if (Object.keys(this.drafts).length) this.saving = 'typing';
    else if (this.saving !== 'unreached' || this.failures === 0) this.saving = 'saved';
  }

  close(): void {
    this.stream.close();
    this.previews.drop();
    this.remember();
    clearTimeout(this.retryTimer);
    for (const [path, timer] of this.saveTimers) {
      clearTimeout(timer);
      if (this.drafts[path] !== undefined && !this.errors[path]) this.save(path);
    }
  }
}

const KEY = Symbol('job');

export function provideJob(get: () => JobSession): void {
  setContext(KEY, get);
}

/** The open job of this page. */
export function useJob(): () => JobSession {
  return getContext<() => JobSession>(KEY);
}

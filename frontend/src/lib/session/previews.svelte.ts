import type { Change, Snapshot } from '$lib/api/client';

const DOUBT_MS = 450;

export interface Question {
  /** What to ask about, read when it is asked; nothing when there is nothing left to ask. */
  changes: () => Change[];
  found?: () => void;
  refused: (error: unknown) => void;
  /** Half-typed text is no fault yet: the message waits until typing rests. */
  patient?: boolean;
}

/** What a change would do, while it is typed or dragged: one question at a time, the newest last. */
export class Previews {
  shown = $state.raw<Snapshot>();
  private asking = false;
  private next: Question | undefined;
  private turn = 0;
  private doubt: ReturnType<typeof setTimeout> | undefined;
  private readonly send: (changes: Change[]) => Promise<Snapshot>;
  private readonly held: () => boolean;

  /** Ask by `send`, and not while `held`. */
  constructor(send: (changes: Change[]) => Promise<Snapshot>, held: () => boolean) {
    this.send = send;
    this.held = held;
  }

  async ask(question: Question): Promise<void> {
    clearTimeout(this.doubt);
    if (this.asking || this.held()) {
      this.next = question;
      return;
    }
    const changes = question.changes();
    if (!changes.length) return;
    this.turn += 1;
    const mine = this.turn;
    this.asking = true;
    try {
      const found = await this.send(changes);
      if (mine === this.turn) {
        this.shown = found;
        question.found?.();
      }
    } catch (error) {
      const say = () => {
        if (mine === this.turn) question.refused(error);
      };
      if (question.patient) this.doubt = setTimeout(say, DOUBT_MS);
      else say();
    }
    this.asking = false;
    this.resume();
  }

  /** Ask what had to wait. */
  resume(): void {
    const next = this.next;
    this.next = undefined;
    if (next) void this.ask(next);
  }

  /** Something was saved or refused: an answer still on its way is about what was before. */
  outdated(): void {
    this.turn += 1;
    this.shown = undefined;
  }

  /** Let go of what was only looked at. */
  drop(): void {
    this.outdated();
    this.next = undefined;
    clearTimeout(this.doubt);
  }
}

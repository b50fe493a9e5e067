import type { Snapshot } from '$lib/api/client';
import { shelf } from './kept';

const REMEMBER_MS = 250;

/** The job as this browser saw it last, kept once answers pause; to be had without the server. */
export class Seen {
  private unkept: Snapshot | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  take(found: Snapshot): void {
    this.unkept = found;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.keep(), REMEMBER_MS);
  }

  /** Keep it at once, as when the page goes away. */
  keep(): void {
    clearTimeout(this.timer);
    if (this.unkept) void shelf.remember(this.unkept);
    this.unkept = undefined;
  }
}

import type { Change } from '$lib/api/client';

/** A write on its way: kept in the browser until the server has acknowledged it. */
export interface Write {
  key: string;
  kind: 'edit' | 'undo' | 'redo';
  changes: Change[];
  base: number;
  system: 'us' | 'metric';
  /** The first change was made now; the others were refused before and are tried along. */
  together: boolean;
}

/** What stands in a field unsaved: a quantity as typed, or plain text. */
export interface Draft {
  text: string;
  plain: boolean;
}

const writer = crypto.randomUUID().slice(0, 8) + Date.now().toString(36);
let counter = 0;

/** A key no other write has; the part before the dash names this page's visit. */
export function writeKey(): string {
  counter += 1;
  return `${writer}-${counter}`;
}

/** Writes of one job in order, kept in localStorage so that a reload loses none. */
export class Outbox {
  private readonly place: string;
  writes: Write[];

  constructor(job: string) {
    this.place = `ember.outbox.${job}`;
    this.writes = this.read();
  }

  private read(): Write[] {
    try {
      const found: unknown = JSON.parse(localStorage.getItem(this.place) ?? '[]');
      return Array.isArray(found) ? (found as Write[]) : [];
    } catch {
      return [];
    }
  }

  private keep(): void {
    try {
      if (this.writes.length) localStorage.setItem(this.place, JSON.stringify(this.writes));
      else localStorage.removeItem(this.place);
    } catch {
      // Storage is full or refused: the writes still live in this page.
    }
  }

  add(write: Write): void {
    this.writes.push(write);
    this.keep();
  }

  drop(key: string): void {
    this.writes = this.writes.filter((write) => write.key !== key);
    this.keep();
  }
}

/** Texts typed into fields and not accepted yet, so that nothing typed is lost. */
export class Drafts {
  private readonly place: string;

  constructor(job: string) {
    this.place = `ember.drafts.${job}`;
  }

  load(): Record<string, Draft> {
    try {
      return JSON.parse(localStorage.getItem(this.place) ?? '{}') as Record<string, Draft>;
    } catch {
      return {};
    }
  }

  save(drafts: Record<string, Draft>): void {
    try {
      if (Object.keys(drafts).length) localStorage.setItem(this.place, JSON.stringify(drafts));
      else localStorage.removeItem(this.place);
    } catch {
      // As above.
    }
  }
}

import { shelf, type Write } from './kept';

/** What stands in a field unsaved: a quantity as typed, or plain text. */
export interface Draft {
  text: string;
  plain: boolean;
}

/** This browser, as long as it keeps what it knows: undo takes back what was written on it. */
function device(): string {
  try {
    const known = localStorage.getItem('ember.device') ?? crypto.randomUUID().slice(0, 8);
    localStorage.setItem('ember.device', known);
    return known;
  } catch {
    return crypto.randomUUID().slice(0, 8);
  }
}

const writer = `${device()}.${crypto.randomUUID().slice(0, 8)}${Date.now().toString(36)}`;
let counter = 0;

/** A key no other write has; the part before the dash names this page's visit. */
export function writeKey(): string {
  counter += 1;
  return `${writer}-${counter}`;
}

/** Writes of one job in order, kept in the browser's database so that a reload loses none. */
export class Outbox {
  writes: Write[] = [];
  private readonly job: string;

  constructor(job: string) {
    this.job = job;
  }

  /** Writes left by an earlier visit go before those of this one. */
  async load(): Promise<void> {
    const mine = new Set(this.writes.map((write) => write.key));
    const left = (await shelf.writes(this.job)).filter((write) => !mine.has(write.key));
    this.writes = [...left, ...this.writes];
  }

  add(write: Write): void {
    this.writes.push(write);
    void shelf.addWrite(this.job, write);
  }

  drop(key: string): void {
    this.writes = this.writes.filter((write) => write.key !== key);
    void shelf.dropWrite(key);
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
      // Storage is full or refused: what is typed still stands in the page.
    }
  }
}

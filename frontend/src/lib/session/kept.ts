import Dexie, { type Table } from 'dexie';
import type { Change, Snapshot } from '$lib/api/client';
import { at } from './path';

/** A write on its way: kept in the browser until the server has acknowledged it. */
export interface Write {
  key: string;
  kind: 'edit' | 'undo' | 'redo' | 'photo';
  changes: Change[];
  base: number;
  system: 'us' | 'metric';
  /** Whose it is: somebody else who signs in here does not send it as theirs. */
  who?: string;
  /** The first change was made now; the others were refused before and are tried along. */
  together: boolean;
  photo?: { file: Blob; name: string; subject: string };
}

/** A write that met somebody else's: shown, and settled by a person. */
export interface Conflict {
  key: string;
  write: Write;
  said: string;
}

interface Row<T> {
  n?: number;
  job: string;
  key: string;
  held: T;
}

/** What this browser keeps: writes under way, conflicts, and each job as it was last seen. */
class Kept extends Dexie {
  declare writes: Table<Row<Write>, number>;
  declare conflicts: Table<Row<Conflict>, number>;
  declare snapshots: Table<{ job: string; snapshot: Snapshot }, string>;

  constructor() {
    super('ember');
    this.version(1).stores({
      writes: '++n, job, key',
      conflicts: '++n, job, key',
      snapshots: 'job'
    });
  }
}

const kept = new Kept();

/** Storage may be full or refused; what is held in memory still goes its way. */
async function quietly<T>(work: () => PromiseLike<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch {
    return undefined;
  }
}

async function rows<T>(table: Table<Row<T>, number>, job: string): Promise<T[]> {
  const found = await quietly(() => table.where('job').equals(job).sortBy('n'));
  return (found ?? []).map((row) => row.held);
}

export const shelf = {
  writes: (job: string) => rows(kept.writes, job),
  conflicts: (job: string) => rows(kept.conflicts, job),
  addWrite: (job: string, held: Write) =>
    quietly(() => kept.writes.add({ job, key: held.key, held })),
  dropWrite: (key: string) => quietly(() => kept.writes.where('key').equals(key).delete()),
  addConflict: (job: string, held: Conflict) =>
    quietly(() => kept.conflicts.add({ job, key: held.key, held })),
  dropConflict: (key: string) => quietly(() => kept.conflicts.where('key').equals(key).delete()),

  /** Keep a job as it is now; sections this answer left out stay as they were seen last. */
  async remember(found: Snapshot): Promise<void> {
    await quietly(async () => {
      const before = (await kept.snapshots.get(found.id))?.snapshot;
      const given = Object.entries(found).filter(([, value]) => value !== null);
      const snapshot = { ...before, ...found, ...Object.fromEntries(given) } as Snapshot;
      for (const [name, value] of Object.entries(before ?? {}))
        if (snapshot[name as keyof Snapshot] === null) Object.assign(snapshot, { [name]: value });
      await kept.snapshots.put({ job: found.id, snapshot });
    });
  },
  /** Jobs as they were seen go; what waits to be sent stays. */
  forget: () => quietly(() => kept.snapshots.clear()),
  recall: async (job: string): Promise<Snapshot | undefined> =>
    (await quietly(() => kept.snapshots.get(job)))?.snapshot
};

/** Whether somebody else's write says the same: both ticked it, only hand and hour differ. */
export function alreadySo(change: Change, job: unknown): boolean {
  const essence = (value: unknown) =>
    JSON.stringify(value, (key, held: unknown) =>
      ['by', 'on', 'seconds'].includes(key) ? undefined : held
    );
  return essence(at(job, change.path)) === essence(change.remove ? undefined : change.value);
}

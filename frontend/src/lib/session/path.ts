/** What is at a dotted path of a job; undefined where nothing does. */
export function at(job: unknown, path: string): unknown {
  let here: unknown = job;
  for (const key of path.split('.')) {
    if (here === null || typeof here !== 'object') return undefined;
    here = (here as Record<string, unknown>)[key];
  }
  return here;
}

/** A short key for a new entry of a job's dictionary; later keys sort after earlier ones. */
export function newKey(prefix: string, taken: object): string {
  for (let n = Object.keys(taken).length + 1; ; n += 1) {
    const key = `${prefix}${n}`;
    if (!(key in taken)) return key;
  }
}

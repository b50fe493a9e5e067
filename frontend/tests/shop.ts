import type { Change, Snapshot } from '$lib/api/client';

interface Entry {
  key: string;
  kind: string;
  changes: Change[];
  inverse: Change[];
}

type Doc = Record<string, unknown>;

/** A stand-in for the service: one job, writes once by key, conflicts by place, undo. */
export class Shop {
  /** Another job for every test: browsers keep what is known of each. */
  id = `j${Math.random().toString(36).slice(2)}`;
  down = false;
  /** Answers are lost after the write was done. */
  deaf = false;
  doc: Doc = {};
  log: Entry[] = [];
  /** Whose each write was. */
  wrote: string[] = [];
  asked: { kind: string; preview: boolean; paths: string[] }[] = [];
  refuse: (changes: Change[]) => { path: string; message: string } | undefined = () => undefined;
  /** A status to turn a request away with, by its kind. */
  turn: (kind: string) => number | undefined = () => undefined;
  /** What it says to whom it turned away. */
  turned: { type?: string; detail: string } = { detail: 'Turned away.' };
  photos: string[] = [];
  /** What quantities read as, by their paths. */
  shown: Record<string, { us: string; metric: string }> = {};
  /** What a page asked for along with the job. */
  views: Record<string, unknown> = {};
  /** Resolves when an answer may go out. */
  wait: (preview: boolean) => Promise<void> = () => Promise.resolve();

  reset(): void {
    Object.assign(this, new Shop());
  }

  get revision(): number {
    return this.log.length + 1;
  }

  /** Somebody else's write. */
  other(path: string, value: unknown): void {
    this.log.push({
      key: `other-${this.log.length}`,
      kind: 'edit',
      ...this.apply([{ path, value }])
    });
  }

  async answer(request: Request): Promise<Response> {
    if (this.down) throw new TypeError('no network');
    const { pathname } = new URL(request.url);
    const photo = pathname.endsWith('/attachments');
    const plain = request.method === 'GET' || photo;
    const turned = this.turn(photo ? 'photo' : request.method === 'GET' ? 'look' : 'edit');
    if (turned && request.method !== 'GET')
      return problem(turned, this.turned.detail, [], this.turned.type);
    if (photo) {
      this.photos.push(new URL(request.url).searchParams.get('name') ?? '');
      return Response.json(this.snapshot(false));
    }
    const body = plain ? {} : ((await request.json()) as Doc);
    const kind = pathname.endsWith('/undo') ? 'undo' : request.method === 'GET' ? 'look' : 'edit';
    const changes = (body.changes ?? []) as Change[];
    const preview = body.preview === true;
    if (!plain && !preview) this.wrote.push(String(body.who));
    this.asked.push({ kind, preview, paths: changes.map((one) => one.path) });
    await this.wait(preview);
    const fault = kind === 'edit' ? this.refuse(changes) : undefined;
    if (fault) return problem(422, 'That can not be.', [fault]);
    if (preview) {
      const held = structuredClone(this.doc);
      this.apply(changes);
      const shown = this.snapshot(true);
      this.doc = held;
      return Response.json(shown);
    }
    if (kind !== 'look' && !this.log.some((one) => one.key === body.key)) {
      const clash = kind === 'edit' && this.clash(changes, body.base as number, body.key as string);
      if (clash) return problem(409, 'Somebody else changed that meanwhile.', [clash]);
      this.write(kind, changes, body.key as string);
    }
    if (this.deaf) throw new TypeError('the line broke');
    return Response.json(this.snapshot(false));
  }

  private write(kind: string, changes: Change[], key: string): void {
    if (kind === 'edit') {
      this.log.push({ key, kind, ...this.apply(changes) });
      return;
    }
    const last = this.log.findLast((one) => one.kind === 'edit');
    if (last) this.log.push({ key, kind, ...this.apply(last.inverse) });
  }

  private clash(changes: Change[], base: number, key: string) {
    const mine = key.split('-')[0] ?? '';
    const since = this.log.slice(base - 1).filter((one) => !one.key.startsWith(mine));
    const paths = since.flatMap((one) => one.changes.map((change) => change.path));
    const hit = changes.find((one) => paths.includes(one.path));
    return hit && { path: hit.path, message: 'changed meanwhile' };
  }

  private apply(changes: Change[]): { changes: Change[]; inverse: Change[] } {
    const inverse: Change[] = [];
    for (const { path, typed, value, remove } of changes) {
      inverse.unshift(path in this.doc ? { path, value: this.doc[path] } : { path, remove: true });
      if (remove) delete this.doc[path];
      else this.doc[path] = typed ?? value;
    }
    return { changes, inverse };
  }

  private snapshot(preview: boolean): Snapshot {
    const job: Doc = {};
    for (const [path, value] of Object.entries(this.doc)) {
      const keys = path.split('.');
      let here = job;
      for (const key of keys.slice(0, -1)) here = (here[key] ??= {}) as Doc;
      here[keys.at(-1) ?? ''] = value;
    }
    return {
      id: this.id,
      revision: this.revision,
      preview,
      job,
      shown: this.shown,
      ...this.views
    } as unknown as Snapshot;
  }
}

function problem(
  status: number,
  detail: string,
  errors: { path: string; message: string }[],
  type?: string
) {
  return Response.json({ type, title: 'No', detail, status, errors }, { status });
}

export const shop = new Shop();

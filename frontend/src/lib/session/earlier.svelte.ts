import type { Figure, Snapshot } from '$lib/api/client';

const BURST_MS = 10_000;

/** The Ledger's figures as they were before the present run of changes to one place. */
export class Earlier {
  private before = $state.raw<Map<string, Figure>>(new Map());
  private burst = { path: '', at: 0 };

  /** Something is changed at a path: a new run begins unless it is the same place soon after. */
  mark(path: string, ledger: Snapshot['ledger'] | undefined): void {
    const at = Date.now();
    if (path !== this.burst.path || at - this.burst.at > BURST_MS) {
      const figures = [
        ...(ledger?.puts_out ?? []).map((one) => one.running),
        ...(ledger?.runs ?? []).flatMap((run) => (run.figure ? [run.figure] : [])),
        ...(ledger?.flows ?? []).map((flow) => flow.flow),
        ...(ledger?.path ?? []).flatMap((train) => (train.tightest ? [train.tightest] : []))
      ];
      this.before = new Map(figures.map((figure) => [figure.key, figure]));
    }
    this.burst = { path, at };
  }

  of(key: string): Figure | undefined {
    return this.before.get(key);
  }
}

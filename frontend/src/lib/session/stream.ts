const AGAIN_MS = 5000;

/** Word of what other devices write on a job, and of a simulated bench; silent while nobody looks. */
export class Stream {
  /** The newest revision heard of. */
  heard = 0;
  private events: EventSource | undefined;
  private readonly job: string;
  private readonly tell: () => void;
  private bench = '';
  private later: ReturnType<typeof setTimeout> | undefined;
  private shown: (text: string) => void = () => undefined;

  constructor(job: string, tell: () => void) {
    this.job = job;
    this.tell = tell;
  }

  open(): void {
    if (this.events || typeof EventSource === 'undefined') return;
    const query = this.bench && `?bench=${this.bench}`;
    this.events = new EventSource(`/api/jobs/${this.job}/events${query}`);
    this.events.onmessage = (event: MessageEvent<string>) => {
      this.heard = (JSON.parse(event.data) as { revision: number }).revision;
      this.tell();
    };
    this.events.onerror = () => {
      // Turned away, a browser does not ask again by itself: it would hear nothing, silently.
      if (this.events?.readyState !== EventSource.CLOSED) return;
      this.close();
      this.later = setTimeout(() => this.open(), AGAIN_MS);
    };
    this.events.addEventListener('bench', (event: MessageEvent<string>) => this.shown(event.data));
  }

  /** Hear a gas's simulated bench along with the job; none with an empty name. */
  listen(bench: string, shown: (text: string) => void = () => undefined): void {
    this.shown = shown;
    if (bench === this.bench) return;
    this.bench = bench;
    if (!this.events) return;
    this.close();
    this.open();
  }

  /** Browsers share few connections among their pages: one that is not looked at gives its own up. */
  close(): void {
    clearTimeout(this.later);
    this.events?.close();
    this.events = undefined;
  }
}

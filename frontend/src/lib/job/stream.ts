/** Word of what other devices write on a job; silent while nobody looks. */
export class Stream {
  /** The newest revision heard of. */
  heard = 0;
  private events: EventSource | undefined;
  private readonly job: string;
  private readonly tell: () => void;

  constructor(job: string, tell: () => void) {
    this.job = job;
    this.tell = tell;
  }

  open(): void {
    if (this.events || typeof EventSource === 'undefined') return;
    this.events = new EventSource(`/api/jobs/${this.job}/events`);
    this.events.onmessage = (event: MessageEvent<string>) => {
      this.heard = (JSON.parse(event.data) as { revision: number }).revision;
      this.tell();
    };
  }

  /** Browsers share few connections among their pages: one that is not looked at gives its own up. */
  close(): void {
    this.events?.close();
    this.events = undefined;
  }
}

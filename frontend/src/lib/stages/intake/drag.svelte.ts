import type { SketchItem } from '$lib/api/client';
import type { JobSession } from '$lib/session/session.svelte';

/** How large the sketch is [m]. */
export const WIDE = 30;
export const HIGH = 18;

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-0.5, 0],
  ArrowRight: [0.5, 0],
  ArrowUp: [0, -0.5],
  ArrowDown: [0, 0.5]
};
/** Keys come in a row: so long after the last one it is put down [ms]. */
const RESTS = 350;

type At = { x: number; y: number };
interface Sketched {
  /** Path of the site. */
  at: string;
  items: Record<string, SketchItem>;
}

const within = (value: number, most: number) => Math.min(most - 0.5, Math.max(0.5, value));
const tenths = (value: number, most: number) => Math.round(within(value, most) * 10) / 10;

/** A mark of the site's sketch, moved by pointer or keys and put down where it rests. */
export class SketchDrag {
  board = $state<SVGSVGElement>();
  active = $state(false);
  private held = $state<At & { key: string }>();
  private rest: ReturnType<typeof setTimeout> | undefined;
  private readonly job: JobSession;
  private readonly sketched: () => Sketched;

  constructor(job: JobSession, sketched: () => Sketched) {
    this.job = job;
    this.sketched = sketched;
  }

  /** Where a mark is drawn: under the pointer while it is moved. */
  placed(key: string, item: At): At {
    return this.held?.key === key ? { x: this.held.x, y: this.held.y } : { x: item.x, y: item.y };
  }

  down(event: PointerEvent, key: string) {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const item = this.sketched().items[key];
    this.active = Boolean(item);
    if (item) this.held = { key, x: item.x, y: item.y };
  }

  move(event: PointerEvent) {
    if (!this.held || !this.active) return;
    this.held = { key: this.held.key, ...this.under(event) };
    void this.job.peek(this.changes(this.held));
  }

  up() {
    this.active = false;
    if (!this.held) return;
    const { key, x, y } = this.held;
    const item = this.sketched().items[key];
    if (item && (item.x !== x || item.y !== y)) this.job.setAll(this.changes(this.held));
    else this.job.drop();
  }

  /** Whether the key moved it. */
  key(event: KeyboardEvent, key: string): boolean {
    const { at, items } = this.sketched();
    const step = STEPS[event.key];
    const item = this.held?.key === key ? this.held : items[key];
    if (event.key === 'Delete' && item) this.job.remove(`${at}.sketch.items.${key}`);
    if (!step || !item) return false;
    event.preventDefault();
    this.active = true;
    this.held = { key, x: within(item.x + step[0], WIDE), y: within(item.y + step[1], HIGH) };
    void this.job.peek(this.changes(this.held));
    clearTimeout(this.rest);
    this.rest = setTimeout(() => this.up(), RESTS);
    return true;
  }

  /** Let go of what the job says as well. */
  settle() {
    const item = this.held && this.sketched().items[this.held.key];
    if (this.active || !this.held) return;
    if (!item || (item.x === this.held.x && item.y === this.held.y)) this.held = undefined;
  }

  private under(event: PointerEvent): At {
    const box = this.board?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return {
      x: tenths(((event.clientX - box.left) / box.width) * WIDE, WIDE),
      y: tenths(((event.clientY - box.top) / box.height) * HIGH, HIGH)
    };
  }

  private changes({ key, x, y }: At & { key: string }) {
    const at = `${this.sketched().at}.sketch.items.${key}`;
    return [
      { path: `${at}.x`, value: x },
      { path: `${at}.y`, value: y }
    ];
  }
}

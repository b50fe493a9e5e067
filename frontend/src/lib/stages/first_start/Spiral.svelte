<script lang="ts">
  interface Props {
    /** Turns from the seat to the screw's last turn. */
    most: number;
    at: number | undefined;
    next: number | undefined;
    band: [number, number] | undefined;
    set: number | undefined;
    text: string;
  }
  let { most, at, next, band, set, text }: Props = $props();

  // The seat is in the middle; each loop is one whole turn, so that the angle is that of the slot.
  const SIZE = 240;
  const INNER = 22;
  let pitch = $derived((SIZE / 2 - 14 - INNER) / Math.max(most, 1));
  const place = (turns: number): [number, number] => {
    const angle = 2 * Math.PI * turns - Math.PI / 2;
    const radius = INNER + pitch * turns;
    return [SIZE / 2 + radius * Math.cos(angle), SIZE / 2 + radius * Math.sin(angle)];
  };
  const run = (from: number, to: number) => {
    const count = Math.max(2, Math.ceil((to - from) * 40));
    const points = [...Array(count + 1).keys()].map((i) => place(from + ((to - from) * i) / count));
    return `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`;
  };
  let slot = $derived((at ?? 0) * 360);
</script>

<svg viewBox="0 0 {SIZE} {SIZE}" role="img" aria-label={text}>
  <path class="whole" d={run(0, most)} />
  {#if band}<path class="band" d={run(Math.max(0, band[0]), Math.min(most, band[1]))} />{/if}
  {#each [...Array(Math.floor(most) + 1).keys()] as turn (turn)}
    {@const [x, y] = place(turn)}
    {#if turn > 0}<text {x} y={y + 4} class="num">{turn}</text>{/if}
  {/each}
  <g transform="rotate({slot} {SIZE / 2} {SIZE / 2})">
    <circle class="head" cx={SIZE / 2} cy={SIZE / 2} r="15" />
    <path class="slot" d="M{SIZE / 2} {SIZE / 2 - 12}V{SIZE / 2 + 12}" />
    <path class="tip" d="M{SIZE / 2 - 4} {SIZE / 2 - 9}h8l-4 -6z" />
  </g>
  {#if set !== undefined}
    {@const [x, y] = place(set)}
    <path class="set" d="M{x - 6} {y}h12M{x} {y - 6}v12" />
  {/if}
  {#if next !== undefined}
    {@const [x, y] = place(next)}
    <circle class="next" cx={x} cy={y} r="8" />
  {/if}
  {#if at !== undefined}
    {@const [x, y] = place(Math.min(at, most))}
    <circle class="fill-base-content" cx={x} cy={y} r="5" />
  {/if}
</svg>

<style>
  svg {
    width: 100%;
    max-width: 15rem;
    display: block;
  }
  path {
    fill: none;
  }
  .whole {
    stroke: var(--color-base-300);
    stroke-width: 7;
    stroke-linecap: round;
  }
  .band {
    stroke: color-mix(in oklab, var(--color-success) 55%, var(--color-base-100));
    stroke-width: 7;
  }
  text {
    font-size: 12px;
    text-anchor: middle;
    fill: var(--muted);
    paint-order: stroke;
    stroke: var(--color-base-200);
    stroke-width: 4px;
  }
  .head {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 1.5;
  }
  .slot {
    stroke: var(--color-base-content);
    stroke-width: 3;
  }
  .tip {
    fill: var(--color-base-content);
  }

  .next {
    fill: none;
    stroke: var(--color-primary);
    stroke-width: 2.5;
  }
  .set {
    stroke: var(--color-success);
    stroke-width: 2.5;
  }
</style>

<script lang="ts">
  import type { Train } from '$lib/api/client';
  import { LOADS, spaced, type Strip } from './layout';

  interface Props {
    train: Train;
    strips: Strip[];
    left: number;
    end: number;
    stopped: Set<string>;
  }
  let { train, strips, left, end, stopped }: Props = $props();
  const NAMES = Object.fromEntries(LOADS) as Record<string, string>;

  const y = (strip: Strip, value: number) =>
    strip.top + strip.height - ((value - strip.low) / (strip.high - strip.low)) * strip.height;
  const path = (strip: Strip, points: [number, number][]) =>
    points.map(([x, value], i) => `${i ? 'L' : 'M'}${x + left} ${y(strip, value)}`).join('');
  const number = (value: number) => Number(value.toPrecision(3)).toString().replace('-', '−');

  function ends(strip: Strip) {
    const labels = strip.lines.flatMap(({ load, points }) => {
      const last = points.at(-1);
      return last
        ? [{ text: NAMES[load] ?? load, y: y(strip, last[1]) + 4, load, x: last[0] }]
        : [];
    });
    // Lines that end in one place share a label.
    const merged: typeof labels = [];
    for (const label of labels) {
      const twin = merged.find((one) => Math.abs(one.y - label.y) < 3);
      if (twin) twin.text = `${twin.text}, ${label.text}`;
      else merged.push({ ...label });
    }
    if (merged.length === 1 && merged[0]) merged[0].text = 'all loads';
    return spaced(merged);
  }

  function starved(strip: Strip) {
    return strip.windows.flatMap((window) => {
      const place = train.places.find((one) => one.key === window.key);
      const pa = train.zones.find((zone) => zone.key === strip.key);
      if (!place || !pa || !stopped.has(window.key)) return [];
      const scale = place.least_pa ? place.least_pa / window.least : 1;
      const full = (place.inlet_pa['full'] ?? 0) / scale;
      const still = (place.inlet_pa['none'] ?? 0) / scale;
      const value = full < window.least ? full : still > window.most ? still : undefined;
      if (value === undefined) return [];
      const text =
        value < window.least
          ? `${number(value)}, needs ${number(window.least)}`
          : `${number(value)}, takes ${number(window.most)}`;
      return [{ x: window.x + window.width / 2 + left, y: y(strip, value), text }];
    });
  }
</script>

{#each strips as strip (strip.key)}
  <g class="strip">
    <rect
      class="fill-base-100 stroke-(--rule)"
      x={left}
      y={strip.top}
      width={end}
      height={strip.height}
    />
    {#each strip.windows as window (window.key)}
      {@const top = y(strip, Math.min(window.most, strip.high))}
      <rect
        class="window"
        x={window.x + left}
        y={top}
        width={window.width}
        height={Math.max(0, y(strip, Math.max(window.least, strip.low)) - top)}
      >
        <title>{number(window.least)} to {number(window.most)} {strip.unit}</title>
      </rect>
    {/each}
    {#each strip.ticks as tick (tick)}
      <line class="grid" x1={left} x2={left + end} y1={y(strip, tick)} y2={y(strip, tick)} />
      <text class="tick" x={left - 6} y={y(strip, tick) + 3.5}>{number(tick)}</text>
    {/each}
    <text class="name" x={left + 5} y={strip.top - 6}>{strip.name}, {strip.unit}</text>
    {#each strip.lines as { load, points } (load)}
      <path class={`load ${load}`} d={path(strip, points)}><title>{NAMES[load]}</title></path>
    {/each}
    {#each ends(strip) as label (label.load)}
      <text class={`end ${label.load}`} x={label.x + left + 5} y={label.y}>{label.text}</text>
    {/each}
    {#each starved(strip) as point (point.x)}
      <circle class="fill-error" cx={point.x} cy={point.y} r="5" />
      <text class="says" x={point.x - 9} y={point.y - 8}>{point.text}</text>
    {/each}
  </g>
{/each}

<style>
  .window {
    fill: var(--color-success);
    fill-opacity: 0.16;
  }
  .grid {
    stroke: var(--rule);
    stroke-width: 0.7;
  }
  .tick,
  .name,
  .end {
    font-size: 10.5px;
    fill: var(--muted);
  }
  .tick {
    text-anchor: end;
    font-family: var(--font-mono);
  }
  .load {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 1.4;
    stroke-linejoin: round;
  }
  .load.none {
    stroke-dasharray: 5 4;
    stroke: var(--muted);
  }
  .load.idle {
    stroke-dasharray: 1 3;
  }
  .load.full {
    stroke: var(--color-primary);
    stroke-width: 2.4;
  }
  .end.full {
    fill: var(--color-primary);
    font-weight: 650;
  }

  .says {
    fill: var(--color-error);
    font-weight: 700;
    font-size: 12px;
    text-anchor: end;
    paint-order: stroke;
    stroke: var(--color-base-100);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
</style>

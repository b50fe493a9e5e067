<script lang="ts">
  import type { Train } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import { shapeOf } from './shapes';
  import type { Cell } from './layout';

  interface Props {
    place: Train['places'][number];
    cell: Cell;
    at: number;
    last: boolean;
    tall: number;
    here: boolean;
    first: boolean;
    stop: boolean;
    mind: boolean;
    select: (key: string) => void;
    move: (event: KeyboardEvent, at: number) => void;
  }
  let { place, cell, at, last, tall, here, first, stop, mind, select, move }: Props = $props();
  let shape = $derived(shapeOf(place.kind, place.role));
</script>

<line class="line" x1={cell.x} x2={cell.middle - shape.half} y1="0" y2="0" class:none={at === 0} />
<line
  class="line"
  x1={cell.middle + shape.half}
  x2={cell.x + cell.width}
  y1="0"
  y2="0"
  class:none={last}
/>
<g
  class="part"
  class:here
  class:stopped={stop}
  class:minded={mind}
  role="button"
  tabindex={here || first ? 0 : -1}
  aria-pressed={here}
  aria-label={`${at + 1}: ${place.name}${stop ? ', stop' : mind ? ', caution' : ''}`}
  data-slot={place.key}
  onclick={() => select(place.key)}
  onfocus={() => select(place.key)}
  onkeydown={(event) => move(event, at)}
>
  <rect class="frame" x={cell.x + 2} y="-48" width={cell.width - 4} height={tall} rx="5" />
  <g transform={`translate(${cell.middle} 0)`} class:turned={place.turned}>
    {#each shape.body as d, n (n)}<path class="body" {d} />{/each}
    {#each shape.lines ?? [] as d, n (n)}<path class="over" {d} />{/each}
    {#if place.kind === 'unknown'}<text class="mark" y="6">?</text>{/if}
  </g>
  <title>{place.name}</title>
  {#each cell.lines as text, n (n)}
    <text class="title" x={cell.middle} y={52 + n * 13}>{text}</text>
  {/each}
  <text class="sub" x={cell.middle} y={52 + cell.lines.length * 13 + 1}
    >{place.sub[prefs.system]}</text
  >
</g>

<style>
  .line {
    stroke: var(--color-base-content);
    stroke-width: 4;
  }
  .line.none {
    display: none;
  }
  .part {
    cursor: pointer;
    outline: none;
  }
  .frame {
    fill: transparent;
    stroke: none;
  }
  .part:hover .frame {
    fill: color-mix(in oklab, var(--color-base-content) 4%, transparent);
  }
  .part.stopped .frame {
    stroke: var(--color-error);
    stroke-width: 1.5;
  }
  .part.here .frame {
    fill: var(--tint);
  }
  .part:focus-visible .frame {
    stroke: var(--color-primary);
    stroke-width: 2.5;
  }
  .body {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 1.7;
    stroke-linejoin: round;
  }
  .over {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 1.7;
    stroke-linecap: round;
  }
  .stopped .body,
  .stopped .over {
    stroke: var(--color-error);
  }
  .turned {
    scale: -1 1;
  }
  .title,
  .sub,
  .mark {
    text-anchor: middle;
    font-size: 11px;
    font-weight: 600;
    fill: var(--color-base-content);
  }
  .mark {
    font-size: 17px;
  }
  .sub {
    font-weight: 400;
    fill: var(--muted);
    font-size: 10.5px;
  }
</style>

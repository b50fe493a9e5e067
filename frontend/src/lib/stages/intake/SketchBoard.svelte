<script lang="ts">
  import type { SketchItem, Snapshot } from '$lib/api/client';
  import { useJob } from '$lib/session/session.svelte';
  import { HIGH, SketchDrag, WIDE } from './drag.svelte';
  import { fan } from './sketch';
  import SketchMark from '$lib/stages/intake/SketchMark.svelte';
  import SketchSpans from '$lib/stages/intake/SketchSpans.svelte';

  interface Props {
    at: string;
    items: Record<string, SketchItem>;
    exhaust: number | null;
    wind: number | null;
    measures: NonNullable<Snapshot['sketch']>;
    selected: string;
  }
  let { at, items, exhaust, wind, measures, selected = $bindable() }: Props = $props();
  const job = useJob();
  const NAMES = {
    set: 'Set',
    opening: 'Opening',
    cylinder: 'Cylinder',
    stub: 'Gas stub',
    remote_tank: 'Remote tank'
  };
  const drag = new SketchDrag(job(), () => ({ at, items }));
  let shown = $derived(
    Object.entries(items).map(([key, item]) => ({ key, ...item, ...drag.placed(key, item) }))
  );
  let machine = $derived(shown.find((item) => item.kind === 'set'));
  // A mark stays where it was put down until the job says so too.
  $effect(() => drag.settle());
</script>

<svelte:window onpagehide={() => drag.active && drag.up()} />

<svg
  bind:this={drag.board}
  viewBox={`0 0 ${WIDE} ${HIGH}`}
  role="group"
  aria-label="Site sketch, drag or use the arrow keys"
>
  <defs>
    <pattern id="meter" width="1" height="1" patternUnits="userSpaceOnUse">
      <path d="M1 0H0V1" class="grid" />
    </pattern>
  </defs>
  <rect width={WIDE} height={HIGH} fill="url(#meter)" class="ground" />
  {#if machine}
    <g transform={`translate(${machine.x} ${machine.y})`}>
      {#if exhaust !== null}<path class="fan" d={fan(exhaust, 6)} />{/if}
    </g>
    <SketchSpans {machine} items={shown.filter((item) => item.kind !== 'set')} {measures} />
  {/if}
  {#if wind !== null}
    <g class="wind" transform="translate(2 1.6)">
      <g transform={`rotate(${wind})`}>
        <path d="M0-1.1V0.9M-0.4 0.4 0 0.95 0.4 0.4" />
      </g>
      <text x="1.5" y="0.2">wind</text>
    </g>
  {/if}
  {#each shown as item (item.key)}
    <g
      class="item"
      class:selected={selected === item.key}
      data-item={item.key}
      transform={`translate(${item.x} ${item.y})`}
      tabindex="0"
      role="button"
      aria-label={`${item.name || NAMES[item.kind]}, ${item.x} m across, ${item.y} m down`}
      onpointerdown={(event) => {
        selected = item.key;
        drag.down(event, item.key);
      }}
      onpointermove={(event) => drag.move(event)}
      onpointerup={() => drag.up()}
      onkeydown={(event) => {
        if (drag.key(event, item.key)) selected = item.key;
      }}
      onfocus={() => (selected = item.key)}
    >
      <circle class="grip" r="1.3" />
      <SketchMark kind={item.kind} {exhaust} />
      <text class="font-semibold" y="1.5" text-anchor="middle">{item.name || NAMES[item.kind]}</text
      >
    </g>
  {/each}
</svg>

<style>
  svg {
    width: 100%;
    display: block;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    background: var(--color-base-100);
    touch-action: none;
    user-select: none;
  }
  .grid {
    fill: none;
    stroke: var(--rule);
    stroke-width: 0.03;
  }
  text {
    font-size: 0.62px;
    fill: var(--color-base-content);
    paint-order: stroke;
    stroke: var(--color-base-100);
    stroke-width: 0.16px;
  }
  .item {
    cursor: grab;
    outline: none;
  }
  .grip {
    fill: transparent;
  }
  .item:focus-visible .grip,
  .selected .grip {
    stroke: var(--color-primary);
    stroke-width: 0.08;
  }
  .fan {
    fill: color-mix(in oklab, var(--color-primary) 14%, transparent);
  }
  .wind path {
    fill: none;
    stroke: var(--color-info);
    stroke-width: 0.14;
    stroke-linecap: round;
  }
  @media (max-width: 600px) {
    text {
      font-size: 1.05px;
    }
  }
</style>

<script lang="ts">
  import type { Train } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import Ladder from './Ladder.svelte';
  import { cells, strips, walked } from './layout';
  import UprightTrain from './UprightTrain.svelte';
  import TrainPart from '$lib/stages/fuel_path/TrainPart.svelte';

  interface Props {
    train: Train;
    selected: string;
    select: (key: string) => void;
    act: (what: 'swap' | 'remove') => void;
    drawing?: SVGSVGElement | undefined;
  }
  let { train, selected, select, act, drawing = $bindable() }: Props = $props();

  const LEFT = 44;
  const RIGHT = 74;
  const AXIS = 62;
  /** A screen narrower than this stands the train upright. */
  const NARROW = 560;
  let room = $state(752);
  let placed = $derived(cells(train, room - LEFT - RIGHT));
  let end = $derived((placed.at(-1)?.x ?? 0) + (placed.at(-1)?.width ?? 0));
  let width = $derived(LEFT + end + RIGHT);
  let deepest = $derived(Math.max(1, ...placed.map((cell) => cell.lines.length)));
  let labels = AXIS + 52;
  let ladderTop = $derived(labels + deepest * 13 + 34);
  let shown = $derived(strips(train, placed, prefs.system, ladderTop));
  let height = $derived((shown.at(-1)?.top ?? ladderTop) + (shown.at(-1)?.height ?? 0) + 14);
  let stopped = $derived(
    new Set(train.troubles.filter((one) => one.severity === 'stop').map((one) => one.slot))
  );
  let minded = $derived(new Set(train.troubles.map((one) => one.slot)));
  let bad = $derived(
    new Set(
      train.places.filter((place) => place.joint && !place.joint.mates).map((place) => place.key)
    )
  );
  let jointTrouble = $derived(
    new Set(train.troubles.filter((one) => one.joint).map((one) => one.slot))
  );

  let wrong = $derived(new Set([...bad, ...jointTrouble]));

  function move(event: KeyboardEvent, at: number) {
    const goal = walked(event.key, at, placed.length - 1);
    if (goal === undefined) return;
    event.preventDefault();
    if (typeof goal === 'string') {
      select((placed[at] as { key: string }).key);
      return act(goal);
    }
    const next = placed[goal];
    if (!next) return;
    select(next.key);
    drawing?.querySelector<SVGElement>(`[data-slot="${next.key}"]`)?.focus();
  }
</script>

<div class="scroll" bind:clientWidth={room}>
  {#if room < NARROW}
    <UprightTrain {train} {selected} {select} {act} {stopped} {minded} {wrong} />
  {:else}
    <svg
      bind:this={drawing}
      viewBox={`0 0 ${width} ${height}`}
      {width}
      {height}
      role="group"
      aria-label={`${train.title}: ${train.places.length} parts from source to intake`}
    >
      <g transform={`translate(${LEFT} ${AXIS})`}>
        {#each train.places as place, i (place.key)}
          {@const cell = placed[i]}
          {#if cell}
            <TrainPart
              {place}
              {cell}
              at={i}
              last={i === train.places.length - 1}
              tall={ladderTop - 32}
              here={selected === place.key}
              first={!selected && i === 0}
              stop={stopped.has(place.key)}
              mind={minded.has(place.key)}
              {select}
              {move}
            />
          {/if}
        {/each}
        {#each train.places as place, i (place.key)}
          {@const cell = placed[i]}
          {#if cell && place.joint}
            <line class="drop" x1={cell.x} x2={cell.x} y1="11" y2={height - AXIS - 14} />
            <g
              class="joint"
              class:wrong={wrong.has(place.key)}
              transform={`translate(${cell.x} 0)`}
            >
              <circle r="8.5" />
              <text y="3.6">{bad.has(place.key) ? '×' : place.joint.letter}</text>
            </g>
          {/if}
        {/each}
      </g>
      <Ladder {train} strips={shown} left={LEFT} {end} {stopped} />
    </svg>
  {/if}
</div>

<style>
  .scroll {
    overflow-x: auto;
    margin-inline: -0.4rem;
  }
  svg {
    display: block;
    font-family: var(--font-sans);
  }
  .drop {
    stroke: var(--rule);
    stroke-dasharray: 2 4;
  }
  .joint circle {
    fill: var(--color-base-200);
    stroke: var(--color-base-content);
    stroke-width: 1.5;
  }
  .joint text {
    text-anchor: middle;
    font-size: 10px;
    font-weight: 650;
    fill: var(--color-base-content);
  }
  .joint.wrong circle {
    fill: var(--color-error);
    stroke: var(--color-error);
  }
  .joint.wrong text {
    fill: var(--color-base-100);
  }
</style>

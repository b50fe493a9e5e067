<script lang="ts">
  import type { Place, Train } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import { walked } from './layout';
  import { shapeOf } from './shapes';

  /** The train from source down to intake, for a screen too narrow to lay it down. */
  interface Props {
    train: Train;
    selected: string;
    select: (key: string) => void;
    act: (what: 'swap' | 'remove') => void;
    stopped: Set<string>;
    minded: Set<string>;
    wrong: Set<string>;
  }
  let { train, selected, select, act, stopped, minded, wrong }: Props = $props();
  let list = $state<HTMLElement>();

  /** Pressure behind a part at no flow and at full load, in its zone's unit. */
  function behind(place: Place): string {
    const scale = train.zones.find((one) => one.key === place.zone_out)?.[prefs.system];
    const [still, full] = [place.outlet_pa.none, place.outlet_pa.full];
    if (!scale || still === undefined || full === undefined) return '';
    const shown = (pa: number) =>
      Number((pa / scale.pa).toPrecision(3))
        .toString()
        .replace('-', '−');
    const [a, b] = [shown(still), shown(full)];
    return a === b ? `${a} ${scale.unit}` : `${a} to ${b} ${scale.unit}`;
  }

  function move(event: KeyboardEvent, at: number) {
    const goal = walked(event.key, at, train.places.length - 1);
    if (goal === undefined) return;
    event.preventDefault();
    if (typeof goal === 'string') {
      select((train.places[at] as Place).key);
      return act(goal);
    }
    const next = train.places[goal];
    if (!next) return;
    select(next.key);
    list?.querySelector<HTMLElement>(`[data-slot="${next.key}"]`)?.focus();
  }
</script>

<ol
  bind:this={list}
  aria-label={`${train.title}: ${train.places.length} parts from source to intake`}
>
  {#each train.places as place, i (place.key)}
    {@const shape = shapeOf(place.kind, place.role)}
    {#if place.joint}
      <li class="joint" class:wrong={wrong.has(place.key)} aria-hidden="true">
        <span>{place.joint.mates ? place.joint.letter : '×'}</span>
      </li>
    {/if}
    <li>
      <button
        class="part"
        class:stopped={stopped.has(place.key)}
        aria-pressed={selected === place.key}
        aria-label={`${i + 1}: ${place.name}${stopped.has(place.key) ? ', stop' : minded.has(place.key) ? ', caution' : ''}`}
        data-slot={place.key}
        onclick={() => select(place.key)}
        onkeydown={(event) => move(event, i)}
      >
        <svg viewBox="-36 -30 72 60" width="58" height="48" aria-hidden="true">
          <g class:turned={place.turned}>
            {#each shape.body as d, n (n)}<path class="body" {d} />{/each}
            {#each shape.lines ?? [] as d, n (n)}<path class="over" {d} />{/each}
          </g>
        </svg>
        <span class="name">{place.title || place.name}<small>{place.sub[prefs.system]}</small></span
        >
        <span class="num after">{behind(place)}</span>
      </button>
    </li>
  {/each}
</ol>
<p class="quiet">Behind each part: pressure at no flow, then at full load.</p>

<style>
  ol {
    padding: 0;
  }
  .part {
    display: grid;
    grid-template-columns: 58px minmax(0, 1fr) auto;
    gap: 0.6rem;
    align-items: center;
    width: 100%;
    min-height: 3.4rem;
    padding: 0.1rem 0.5rem 0.1rem 0.2rem;
    text-align: left;
    border: 1.5px solid transparent;
    border-radius: 0.375rem;
    cursor: pointer;
  }
  .part[aria-pressed='true'] {
    background: var(--tint);
  }
  .part.stopped {
    border-color: var(--color-error);
  }
  .name {
    font-weight: 600;
  }
  small {
    display: block;
    color: var(--muted);
    font-weight: 400;
  }
  .after {
    font-size: 0.85rem;
    text-align: right;
  }
  .body,
  .over {
    stroke: currentColor;
    stroke-width: 1.7;
    fill: none;
  }
  .body {
    fill: var(--color-base-100);
  }
  .stopped svg {
    color: var(--color-error);
  }
  .turned {
    scale: -1 1;
  }
  .joint {
    display: grid;
    grid-template-columns: 58px;
    justify-items: center;
    margin: -0.35rem 0 -0.35rem 0.3rem;
  }
  .joint span {
    border: 1.5px solid;
    border-radius: 50%;
    width: 1.15rem;
    height: 1.15rem;
    font-size: 0.65rem;
    font-weight: 650;
    display: grid;
    place-items: center;
    background: var(--color-base-200);
    position: relative;
  }
  .joint.wrong span {
    background: var(--color-error);
    border-color: var(--color-error);
    color: var(--color-base-100);
  }
</style>

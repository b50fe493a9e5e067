<script lang="ts">
  import { ART, SPOTS, kindOf } from './set-drawing';

  interface Place {
    key: string;
    title: string;
    answered: number;
    total: number;
  }
  interface Props {
    setClass: string;
    places: readonly Place[];
    here: string;
    go: (key: string) => void;
  }
  let { setClass, places, here, go }: Props = $props();
  let kind = $derived(kindOf(setClass));
  let spots = $derived(
    places.map((place, at) => {
      const [x, y] = SPOTS[kind][place.key] ?? [24 + 38 * at, 16];
      return { ...place, x, y, number: at + 1, done: place.answered === place.total };
    })
  );
</script>

<div class="drawing" data-drawing={kind}>
  <svg viewBox="0 0 320 208" aria-hidden="true">
    <line class="ground" x1="8" y1="196" x2="312" y2="196" />
    {#each ART[kind] as part (part.d)}
      <path d={part.d} class={part.tone} />
    {/each}
  </svg>
  {#each spots as spot (spot.key)}
    <button
      type="button"
      class="spot"
      class:done={spot.done}
      class:here={spot.key === here}
      style:left={`${(spot.x / 320) * 100}%`}
      style:top={`${(spot.y / 208) * 100}%`}
      aria-label={`${spot.number}. ${spot.title}: ${spot.answered} of ${spot.total} known`}
      aria-current={spot.key === here ? 'location' : undefined}
      title={spot.title}
      data-spot={spot.key}
      onclick={() => go(spot.key)}>{spot.number}</button
    >
  {/each}
</div>

<style>
  .drawing {
    position: relative;
    max-width: 23rem;
    background: var(--color-base-100);
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
  }
  svg {
    display: block;
    width: 100%;
  }
  path {
    stroke: var(--muted);
    stroke-width: 1.6;
    stroke-linejoin: round;
    fill: var(--color-base-100);
  }
  .body {
    fill: var(--color-base-200);
  }
  .line,
  .fin {
    fill: none;
  }
  .fin {
    stroke-width: 0.9;
  }
  .hot {
    fill: color-mix(in oklab, var(--color-base-content) 22%, var(--color-base-200));
  }
  .fuel {
    fill: var(--tint);
    stroke: var(--color-primary);
  }
  .ground {
    stroke: var(--muted);
    stroke-width: 1;
    stroke-dasharray: 5 4;
  }
  .spot {
    position: absolute;
    transform: translate(-50%, -50%);
    width: 2.75rem;
    height: 2.75rem;
    border-radius: 50%;
    border: 2px solid var(--color-primary);
    background: var(--color-base-100);
    background-clip: padding-box;
    color: var(--color-primary);
    font-family: var(--font-mono);
    font-weight: 700;
    scale: 0.72;
    cursor: pointer;
  }
  .spot.done {
    border-color: var(--muted);
    color: var(--muted);
    background: var(--color-base-200);
  }
  .spot.here {
    background: var(--color-primary);
    color: var(--color-primary-content);
    border-color: var(--color-primary);
    scale: 0.9;
  }
  @media (max-width: 700px) {
    .spot {
      scale: 0.9;
    }
    .spot.here {
      scale: 1;
    }
  }
</style>

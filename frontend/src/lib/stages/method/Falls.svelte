<script lang="ts">
  import type { Output } from '$lib/api/client';
  import Slider from '$lib/ui/Slider.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import FuelRow from './FuelRow.svelte';
  import Patterns from './Patterns.svelte';

  interface Props {
    output: Output;
  }
  let { output }: Props = $props();
  const job = useJob();
  let load = $derived(job().now?.job.load);
  let rating = $derived(output.rating.value);
  /** As the core counts it: typed, else the loads that must run, else half the rating. */
  let planned = $derived(job().now?.ledger?.load?.value ?? 0);
  let largest = $derived(load?.largest_start?.value ?? null);
  // The axis ends on a round number that holds ratings, reserves and starts.
  let top = $derived.by(() => {
    const high = Math.max(
      rating * 1.05,
      largest ?? 0,
      planned,
      ...output.fuels.map((entry) => entry.starting.value)
    );
    const step = high > 8000 ? 2000 : high > 3000 ? 500 : 200;
    return Math.ceil((high * 1.01) / step) * step;
  });
  let facts = $derived(job().now?.shown);
</script>

<Patterns />
<div class="falls">
  <div class="top">
    <span></span>
    <div class="drag">
      <Slider
        path="load.planned"
        label="Planned load"
        low={0}
        high={top}
        assumed={planned}
        steps={{ us: 10, metric: 10 }}
      />
    </div>
    <span class="quiet right text-right">steady</span>
  </div>
  {#each output.fuels as entry (entry.fuel)}
    <FuelRow {entry} {rating} {top} {planned} {largest} />
  {/each}
  <p class="key quiet">
    <span><i class="upright"></i>planned load</span>
    {#if largest !== null}
      <span
        ><i class="line dashed"></i>largest start {facts?.['load.largest_start']?.[
          prefs.system
        ]}</span
      >
    {/if}
    <span><i class="line dotted"></i>rating {output.rating[prefs.system].text} W</span>
    <span><i class="box"></i>lost on the way</span>
    <span><i class="line thin"></i>band</span>
    <span><i class="tick"></i>starts up to</span>
  </p>
</div>

<style>
  .top {
    display: grid;
    grid-template-columns: 8.6rem minmax(0, 1fr) 6.6rem;
    column-gap: 0.8rem;
    align-items: end;
    padding-bottom: 0.3rem;
  }

  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1.1rem;
    font-size: 0.8rem;
    border-top: 1px solid var(--rule);
    padding-top: 0.4rem;
  }
  .key span {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
  }
  .line {
    width: 1.3rem;
    border-top: 2px solid var(--color-base-content);
  }
  .upright {
    height: 0.9rem;
    border-left: 2px solid var(--color-base-content);
  }
  .dashed {
    border-top: 2px dashed var(--color-primary);
  }
  .dotted {
    border-top: 2px dotted var(--color-base-content);
  }
  .box {
    width: 1.1rem;
    height: 0.7rem;
    border: 1px dashed var(--color-base-content);
  }
  .tick {
    width: 3px;
    height: 0.8rem;
    background: var(--color-base-content);
  }
  @media (max-width: 699px) {
    .top {
      grid-template-columns: 1fr;
    }
    .top span {
      display: none;
    }
  }
</style>

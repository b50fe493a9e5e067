<script lang="ts">
  import Mark from '$lib/ui/Mark.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { downloadSvg } from '$lib/stages/fuel_path/svg';
  import type { Train } from '$lib/api/client';
  import type { Workbench } from '$lib/stages/fuel_path/work.svelte';

  interface Props {
    trains: Train[];
    train: Train | undefined;
    bench: Workbench;
    drawing: SVGSVGElement | undefined;
  }
  let { trains, train, bench, drawing }: Props = $props();
  const job = useJob();
</script>

<div class="bar">
  {#each trains as one (one.name)}
    <button
      type="button"
      class="tab"
      aria-pressed={one.name === train?.name}
      onclick={() => bench.show(one.name)}
      data-train={one.name}
    >
      <Mark fuel={one.fuel} letter={one.letter} />
      <span>{one.template_title}</span>
      {#if one.troubles.some((t) => t.severity === 'stop')}<span class="stop text-error font-bold"
          >stop</span
        >{/if}
    </button>
  {/each}
  {#if train}
    <span class="acts">
      <button
        class="btn btn-sm"
        disabled={bench.busy}
        onclick={() => void bench.propose(train.template, 'repair')}>Other parts</button
      >
      {#if drawing}
        <button
          class="btn btn-sm"
          onclick={() => drawing && downloadSvg(drawing, `train-${train.name}`)}>SVG</button
        >
      {/if}
      <button class="btn btn-sm btn-ghost" onclick={() => job().remove(`trains.${train.name}`)}
        >Remove this train</button
      >
    </span>
  {/if}
</div>

<style>
  .bar {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    align-items: center;
    margin-bottom: 0.4rem;
  }
  .tab {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    padding: 0.3rem 0.7rem;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    cursor: pointer;
  }
  .tab[aria-pressed='true'] {
    background: var(--color-base-100);
    border-color: var(--color-base-content);
    font-weight: 600;
  }
  .acts {
    display: flex;
    gap: 0.4rem;
    margin-left: auto;
  }
</style>

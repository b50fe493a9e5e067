<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import PlugDrawing from './PlugDrawing.svelte';

  interface Props {
    /** The picture chosen. */
    chosen: string;
    choose: (key: string) => void;
    label?: string;
  }
  let { chosen, choose, label = 'What the plug looks like' }: Props = $props();
  const chart = createQuery(() => ({
    queryKey: ['plug-chart'],
    queryFn: () => ask(api.GET('/api/plug-chart')),
    staleTime: Infinity
  }));
</script>

<div class="chart" role="group" aria-label={label}>
  {#each chart.data ?? [] as one (one.key)}
    <button
      class:chosen={one.key === chosen}
      aria-pressed={one.key === chosen}
      data-plug={one.key}
      onclick={() => choose(one.key === chosen ? '' : one.key)}
    >
      <PlugDrawing look={one.key} />
      <b>{one.name}</b>
      <span class="quiet">{one.seen}</span>
    </button>
  {/each}
</div>

<style>
  .chart {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(9.4rem, 1fr));
    gap: 0.5rem;
  }
  button {
    display: flex;
    flex-direction: column;
    align-items: center;
    gap: 0.15rem;
    text-align: center;
    border: 1px solid var(--rule);
    border-radius: 0.4rem;
    background: var(--color-base-100);
    padding: 0.5rem 0.4rem;
    cursor: pointer;
    line-height: 1.25;
  }
  button span {
    font-size: 0.8rem;
  }
  button:hover {
    border-color: var(--color-base-content);
  }
  .chosen {
    border-color: var(--color-primary);
    outline: 2px solid var(--color-primary);
    background: var(--tint);
  }
</style>

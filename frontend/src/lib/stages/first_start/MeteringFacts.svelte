<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import type { GasMetering } from '$lib/stages/first_start/bench.svelte';

  interface Props {
    gas: GasMetering;
  }
  let { gas }: Props = $props();
</script>

<dl>
  <dt>Start</dt>
  <dd>
    {#each gas.starts as one (one.key)}
      <span class:font-[650]={one.key === gas.start?.key}
        ><Figure figure={one} /> <span class="quiet">{one.label}</span></span
      >
    {/each}
  </dd>
  {#if gas.lean && gas.readings.length > 2}
    <dt>Lean end</dt>
    <dd><Figure figure={gas.lean} /></dd>
  {/if}
  {#if gas.rich && gas.readings.length > 2}
    <dt>Rich end</dt>
    <dd><Figure figure={gas.rich} /></dd>
  {/if}
  {#if gas.load}
    <dt>Load at least</dt>
    <dd><Figure figure={gas.load} /></dd>
  {/if}
  {#if gas.locked}
    <dt>Locked at</dt>
    <dd>
      <b class="num">{gas.locked}</b> turns
      {#if !gas.proven}<b class="simulated">simulated, not proven</b>{/if}
    </dd>
  {/if}
</dl>

<style>
  .simulated {
    color: var(--color-error);
    font-size: 0.85rem;
  }
  dl {
    display: grid;
    grid-template-columns: 7rem 1fr;
    gap: 0.1rem 0.8rem;
    border-top: 1px solid var(--rule);
    padding-top: 0.3rem;
  }
  dt {
    color: var(--muted);
  }
  dd {
    display: flex;
    flex-wrap: wrap;
    gap: 0 1.2rem;
  }
</style>

<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    costs: GasMetering['costs'];
  }
  let { costs }: Props = $props();
  let rows = $derived(costs[0]?.figures ?? []);
</script>

<table data-costs>
  <caption class="quiet text-left">What it costs, beside the leanest that will do</caption>
  <thead>
    <tr>
      <th></th>
      {#each costs as one (one.key)}
        <th scope="col">{one.name}<br /><span class="num">{one.turns}</span> turns</th>
      {/each}
    </tr>
  </thead>
  <tbody>
    {#each rows as row, i (row.label)}
      <tr>
        <th scope="row">{row.label}</th>
        {#each costs as one (one.key)}
          {@const shown = one.figures[i]}
          <td
            >{#if shown}<Figure figure={shown} />{/if}</td
          >
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  th,
  td {
    padding: 0.1rem 1rem 0.1rem 0;
    text-align: right;
    font-weight: 400;
    vertical-align: bottom;
  }
  thead th {
    font-size: 0.85rem;
    max-width: 8.5rem;
  }
  tbody th {
    text-align: left;
    color: var(--muted);
  }
</style>

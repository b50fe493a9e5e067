<script lang="ts">
  import type { Output } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    output: Output;
    chosen: string;
  }
  let { output, chosen }: Props = $props();
  let columns = $derived(output.fuels[0]?.running.rivals.map((rival) => rival.name) ?? []);
</script>

<table>
  <caption class="sr">Output by each pair of schools</caption>
  <thead>
    <tr>
      <th scope="col">Schools side by side</th>
      <th scope="col">{chosen}<br /><span class="quiet">chosen</span></th>
      {#each columns as name (name)}<th scope="col">{name}</th>{/each}
    </tr>
  </thead>
  <tbody>
    {#each output.fuels as entry (entry.fuel)}
      <tr>
        <th scope="row">{entry.name}</th>
        <td class="num">{entry.running[prefs.system].text} {entry.running[prefs.system].unit}</td>
        {#each entry.running.rivals as rival (rival.name)}
          <td class="num">{rival[prefs.system]}</td>
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
    font-size: 0.9rem;
  }
  th {
    text-align: right;
    font-weight: 600;
    vertical-align: bottom;
    padding: 0.25rem 0 0.25rem 0.8rem;
  }
  th:first-child {
    text-align: left;
    padding-left: 0;
  }
  td {
    text-align: right;
    padding-left: 0.8rem;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
</style>

<script lang="ts">
  import type { Flow } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { LETTERS } from '$lib/api/published';

  interface Props {
    flows: Flow[];
  }
  let { flows }: Props = $props();
</script>

<table>
  <thead>
    <tr>
      <th scope="col">Gas at full load</th>
      <th scope="col">flow</th>
      <th scope="col">heat rate, HHV</th>
    </tr>
  </thead>
  <tbody>
    {#each flows as entry (entry.fuel)}
      <tr>
        <th scope="row">
          <span class="inline-flex gap-[.45rem] items-center">
            <Mark fuel={entry.fuel} letter={LETTERS[entry.fuel] ?? ''} />{entry.flow.label.replace(
              ' at full load',
              ''
            )}
          </span>
        </th>
        <td><Figure figure={entry.flow} band /></td>
        <td><Figure figure={entry.heat} band /></td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
  }
  th {
    text-align: left;
    font-weight: 600;
    padding: 0.25rem 0;
  }
  thead th:not(:first-child),
  td {
    text-align: right;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
</style>

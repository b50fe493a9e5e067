<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    differs: NonNullable<Snapshot['closing']>['differs'];
  }
  let { differs }: Props = $props();
</script>

<table data-differs>
  <thead><tr><th>What</th><th>Was</th><th>Is</th></tr></thead>
  <tbody>
    {#each differs as one, n (`${n} ${one.label}`)}
      <tr>
        <th scope="row"><span class="quiet">{one.section}:</span> {one.label}</th>
        <td>{one.was[prefs.system] || '–'}</td>
        <td>{one.now[prefs.system] || '–'}</td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
    margin-bottom: 0.6rem;
  }
  th,
  td {
    text-align: left;
    padding: 0.15rem 1rem 0.15rem 0;
    border-top: 1px solid var(--rule);
    font-weight: 400;
    vertical-align: top;
  }
  th[scope='row'] {
    width: 45%;
  }
</style>

<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    differs: NonNullable<Snapshot['closing']>['differs'];
  }
  let { differs }: Props = $props();
</script>

<table class="record" data-differs>
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

<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    record: NonNullable<Snapshot['closing']>['record'];
  }
  let { record }: Props = $props();
</script>

<details>
  <summary>Read it before you sign</summary>
  {#each record as part (part.title)}
    <h3>{part.title}</h3>
    <table class="record">
      <tbody>
        {#each part.rows as row, n (`${n} ${row.label}`)}
          <tr>
            <th scope="row">{row.label}</th>
            <td>{row.text[prefs.system]}</td>
            <td class="quiet">{row.by}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/each}
</details>

<style>
  summary {
    cursor: pointer;
    font-weight: 600;
    padding: 0.4rem 0;
  }
</style>

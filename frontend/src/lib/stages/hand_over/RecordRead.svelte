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
    <table>
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
  summary {
    cursor: pointer;
    font-weight: 600;
    padding: 0.4rem 0;
  }
</style>

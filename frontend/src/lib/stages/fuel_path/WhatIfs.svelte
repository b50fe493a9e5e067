<script lang="ts">
  import type { Train } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    train: Train;
    bench: Workbench;
  }
  let { train, bench }: Props = $props();
</script>

{#if train.what_ifs.length}
  <section class="section">
    <h2>What if</h2>
    <table>
      <thead
        ><tr
          ><th></th><th class="n">tightest place</th><th class="n">change</th><th></th><th></th></tr
        ></thead
      >
      <tbody>
        {#each train.what_ifs as one (one.key)}
          <tr data-what-if={one.key}>
            <th>{one.title}</th>
            <td class="n num">{one.margin?.[prefs.system] ?? '–'}</td>
            <td class="n num">{one.change?.[prefs.system] ?? '–'}</td>
            <td
              >{#if one.stops}<span class="stop text-error font-[650]">stops</span>{/if}</td
            >
            <td>
              {#if one.train}
                {@const other = one.train}
                <button class="btn btn-sm btn-ghost" onclick={() => bench.take(other)}
                  >Use it</button
                >
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/if}

<style>
  table {
    width: 100%;
    max-width: 44rem;
  }
  th {
    font-weight: 500;
    text-align: left;
  }
  thead th {
    color: var(--muted);
    font-size: 0.85rem;
  }
  td,
  th {
    padding: 0.2rem 0.8rem 0.2rem 0;
    border-top: 1px solid var(--rule);
  }
  thead th {
    border: 0;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
</style>

<script lang="ts">
  import { moneyMore } from '$lib/ui/money.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    bench: Workbench;
    now: number;
  }
  let { bench, now }: Props = $props();
</script>

{#if bench.fault}<p class="text-error font-semibold" role="alert">{bench.fault}</p>{/if}
{#if bench.impossible}
  <div class="box" role="alert" data-impossible>
    <p><strong>No train.</strong> {bench.impossible.why}</p>
    {#if bench.impossible.nearest.length}
      <details>
        <summary>The nearest that would join</summary>
        <p class="quiet">{bench.impossible.nearest.join(' → ')}</p>
      </details>
    {/if}
  </div>
{:else if bench.proposals}
  <div class="box" data-proposals>
    <h2>Trains that pass</h2>
    <table>
      <thead>
        <tr>
          <th></th><th class="n">changes</th><th class="n">joints</th><th class="n">price</th>
          <th class="n">tightest</th><th></th>
        </tr>
      </thead>
      <tbody>
        {#each bench.proposals as one, i (i)}
          <tr data-proposal={i}>
            <td>
              {#if i === 0}Fewest changes and joints{:else}
                With {one.differs.slice(0, 3).join(', ')}{one.differs.length > 3 ? ' …' : ''}
              {/if}
              {#if one.days}<span class="quiet block text-[.82rem]">parts in {one.days} days</span
                >{/if}
            </td>
            <td class="n num">{one.changes}</td>
            <td class="n num">{one.joints}</td>
            <td class="n num">{moneyMore(one.price - now)}</td>
            <td class="n num">{one.margin?.[prefs.system] ?? '–'}</td>
            <td>
              <button
                class="btn btn-sm"
                class:btn-primary={i === 0}
                onclick={() => bench.take(one.train)}>Use it</button
              >
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    <button class="btn btn-sm btn-ghost" onclick={() => bench.close()}>Leave it as it is</button>
  </div>
{/if}

<style>
  .box {
    border: 1px solid var(--rule);
    background: var(--color-base-100);
    border-radius: 0.375rem;
    padding: 0.6rem 0.8rem;
    margin: 0.6rem 0;
  }
  table {
    width: 100%;
  }
  th {
    font-weight: 500;
    color: var(--muted);
    font-size: 0.85rem;
  }
  td,
  th {
    padding: 0.3rem 0.5rem 0.3rem 0;
    vertical-align: top;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
</style>

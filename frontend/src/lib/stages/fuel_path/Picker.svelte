<script lang="ts">
  import { moneyMore } from '$lib/ui/money.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    bench: Workbench;
  }
  let { bench }: Props = $props();
  let words = $state('');
  let found = $derived(
    (bench.options ?? []).filter((one) =>
      words
        .toLowerCase()
        .split(' ')
        .every((word) => `${one.number} ${one.name}`.toLowerCase().includes(word))
    )
  );
  let first = $state<HTMLInputElement>();
  $effect(() => first?.focus());

  function keydown(event: KeyboardEvent) {
    if (event.key === 'Escape') {
      event.stopPropagation();
      bench.options = undefined;
    }
  }
</script>

{#if bench.options}
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="picker" onkeydown={keydown} data-picker>
    <div class="head">
      <input
        bind:this={first}
        bind:value={words}
        class="input input-sm"
        placeholder="Filter by number or words"
        aria-label="Filter the parts"
      />
      <label class="all"
        ><input
          type="checkbox"
          class="checkbox checkbox-sm"
          checked={bench.everything}
          onchange={(event) => void bench.pick(event.currentTarget.checked)}
        /> also what does not mate</label
      >
      <button class="btn btn-sm btn-ghost" onclick={() => (bench.options = undefined)}>Close</button
      >
    </div>
    <table>
      <thead>
        <tr>
          <th>part</th><th class="n">price</th><th class="n">stock</th><th class="n">tightest</th>
          <th>what it changes</th><th></th>
        </tr>
      </thead>
      <tbody>
        {#each found as one, i (i)}
          <tr class:now={one.now} class:quiet={!one.mates} data-option={one.part}>
            <td><b>{one.number}</b> {one.name}</td>
            <td class="n num">{one.now ? '–' : moneyMore(one.price)}</td>
            <td class="n num">{one.stock}</td>
            <td class="n num">{one.margin?.[prefs.system] ?? '–'}</td>
            <td class="says">
              {#if one.gives}{one.gives}{/if}
              {#if !one.mates}<span class="stop text-error font-semibold">does not mate</span>
              {:else if one.stops}<span class="stop text-error font-semibold">{one.worst}</span>
              {:else if one.cautions}{one.worst}
              {:else}<span class="text-success">passes</span>{/if}
              {#if one.adds.length}<span class="quiet">with {one.adds.join(', ')}</span>{/if}
            </td>
            <td>
              {#if one.now}<span class="quiet">now</span>{:else}
                <button class="btn btn-sm" onclick={() => bench.take(one.train)}>Put in</button>
              {/if}
            </td>
          </tr>
        {:else}
          <tr><td colspan="6" class="quiet">Nothing else mates here.</td></tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}

<style>
  .picker {
    border: 1px solid var(--rule);
    background: var(--color-base-100);
    border-radius: 0.375rem;
    padding: 0.5rem 0.7rem;
    margin: 0.5rem 0;
    max-height: 24rem;
    overflow: auto;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-bottom: 0.4rem;
  }
  .head .input {
    width: 15rem;
  }
  .all {
    display: flex;
    gap: 0.4rem;
    align-items: center;
    margin-right: auto;
    font-size: 0.9rem;
  }
  table {
    width: 100%;
    font-size: 0.9rem;
  }
  th {
    font-weight: 500;
    color: var(--muted);
    text-align: left;
  }
  td,
  th {
    padding: 0.25rem 0.5rem 0.25rem 0;
    vertical-align: top;
    border-top: 1px solid var(--rule);
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
  .now td {
    background: var(--tint);
  }

  .says span {
    display: block;
  }

  @media (max-width: 600px) {
    thead {
      display: none;
    }
    tr {
      display: grid;
      grid-template-columns: 1fr auto auto auto;
      border-top: 1px solid var(--rule);
      padding: 0.3rem 0;
    }
    td {
      border: 0;
    }
    td:first-child,
    .says {
      grid-column: 1 / -1;
      width: 100%;
    }
  }
</style>

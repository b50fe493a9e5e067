<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { FUELS } from '$lib/api/published';
  import type { FuelKey } from '$lib/ui/fuels';

  let a = $state('npt:1/2:f');
  let b = $state('flare:3/8:f');
  let fuel = $state<FuelKey>('propane');
  const ends = createQuery(() => ({
    queryKey: ['catalog', 'ends'],
    queryFn: () => ask(api.GET('/api/catalog/ends')),
    staleTime: Infinity
  }));
  const answer = createQuery(() => ({
    queryKey: ['catalog', 'join', a, b, fuel],
    queryFn: () => ask(api.GET('/api/catalog/join', { params: { query: { a, b, fuel } } })),
    placeholderData: keepPreviousData,
    retry: false
  }));
</script>

<div class="grid-3">
  <label class="field"
    ><span>From, the end there is</span>
    <select class="select" bind:value={a} data-end="a">
      {#each ends.data ?? [] as one (one.key)}<option value={one.key}>{one.text}</option>{/each}
    </select>
  </label>
  <label class="field"
    ><span>To, the end it must take</span>
    <select class="select" bind:value={b} data-end="b">
      {#each ends.data ?? [] as one (one.key)}<option value={one.key}>{one.text}</option>{/each}
    </select>
  </label>
  <label class="field"
    ><span>What flows</span>
    <select class="select" bind:value={fuel}>
      {#each FUELS as { key, name } (key)}<option value={key}>{name}</option>{/each}
    </select>
  </label>
</div>

{#if answer.data && !answer.isError}
  <div class="mt-[.8rem]" aria-live="polite" data-join>
    {#if answer.data.mates}
      <p><strong>They mate.</strong> {answer.data.seal}</p>
      <p class="quiet">{answer.data.never}</p>
    {:else}
      <p>{answer.data.why}</p>
      {#if answer.data.ways.length}
        <table>
          <tbody>
            {#each answer.data.ways as way, i (i)}
              <tr>
                <td>
                  {#each way.parts as part (part.number)}
                    <span class="block"
                      ><b>{part.number}</b>
                      {part.name} <span class="quiet">{part.stock} in stock</span></span
                    >
                  {/each}
                </td>
                <td class="num">{money(way.price)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {:else}
        <p><strong>Nothing in the catalog joins them.</strong> Choose another part on one side.</p>
      {/if}
    {/if}
  </div>
{/if}

<style>
  table {
    max-width: 46rem;
    width: 100%;
    margin-top: 0.5rem;
  }
  td {
    border-top: 1px solid var(--rule);
    padding: 0.35rem 0.8rem 0.35rem 0;
    vertical-align: top;
  }
  td.num {
    text-align: right;
    white-space: nowrap;
  }
</style>

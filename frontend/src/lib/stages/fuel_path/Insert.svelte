<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import type { Workbench } from './work.svelte';

  interface Props {
    bench: Workbench;
    fuel: string;
    after: string;
    label?: string;
  }
  let { bench, fuel, after, label = 'Add after it' }: Props = $props();
  let open = $state(false);
  let words = $state('');
  let field = $state<HTMLInputElement>();
  $effect(() => {
    if (open) field?.focus();
  });
  const found = createQuery(() => ({
    queryKey: ['catalog', fuel, words],
    queryFn: () => ask(api.GET('/api/catalog', { params: { query: { words, fuel, limit: 14 } } })),
    placeholderData: keepPreviousData,
    enabled: open
  }));

  function put(part: string, unknown = '') {
    open = false;
    words = '';
    void bench.edit({ op: 'insert', slot: after, put: { part, unknown } });
  }
</script>

<button class="btn btn-sm" aria-expanded={open} disabled={bench.busy} onclick={() => (open = !open)}
  >{label}</button
>
{#if open}
  <div class="add" role="group" aria-label="Add a part">
    <input
      bind:this={field}
      bind:value={words}
      class="input input-sm"
      placeholder="Number or words, like ball valve 1/2"
      aria-label="Look for a part"
      onkeydown={(event) => {
        const best = found.data?.parts[0];
        if (event.key === 'Escape') {
          event.stopPropagation();
          open = false;
        }
        if (event.key === 'Enter' && best) put(best.part.key);
      }}
    />
    <ul>
      {#each found.data?.parts ?? [] as one (one.part.key)}
        <li>
          <button type="button" onclick={() => put(one.part.key)} data-add={one.part.key}>
            <b>{one.part.number}</b>
            {one.part.name}
            <span class="quiet">{one.inlet}{one.inlet && one.outlet ? ' → ' : ''}{one.outlet}</span>
          </button>
        </li>
      {/each}
      <li>
        <button
          type="button"
          onclick={() => put('', words || 'a part nobody knows')}
          data-add="unknown"
        >
          {words ? `“${words}”` : 'A part'}, not known
          <span class="quiet">enter it as seen</span>
        </button>
      </li>
    </ul>
  </div>
{/if}

<style>
  .add {
    flex-basis: 100%;
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.5rem;
    background: var(--color-base-200);
  }
  .add .input {
    width: 100%;
    max-width: 26rem;
  }
  ul {
    max-height: 15rem;
    overflow: auto;
    margin-top: 0.3rem;
  }
  li button {
    width: 100%;
    text-align: left;
    padding: 0.2rem 0.4rem;
    border-radius: 0.25rem;
    cursor: pointer;
  }
  li button:hover,
  li button:focus-visible {
    background: var(--color-base-300);
  }
</style>

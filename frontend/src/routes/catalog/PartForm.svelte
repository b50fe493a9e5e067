<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { opens } from '$lib/ui/focus';
  import { api, ask, Refusal } from '$lib/api/client';

  interface Props {
    /** The part that is changed; empty for another one. */
    was?: string;
    cells: Record<string, string>;
    done: (key: string) => void;
  }
  let { was = '', cells, done }: Props = $props();
  const id = $props.id();
  const client = useQueryClient();
  const known = createQuery(() => ({
    queryKey: ['catalog', 'columns'],
    queryFn: () => ask(api.GET('/api/catalog/columns')),
    staleTime: Infinity
  }));
  const FIRST = ['number', 'name', 'maker', 'class', 'price_usd', 'stock', 'days', 'use_instead'];
  const ENDS = ['inlet', 'outlet'];
  const ends = createQuery(() => ({
    queryKey: ['catalog', 'ends'],
    queryFn: () => ask(api.GET('/api/catalog/ends')),
    staleTime: Infinity
  }));
  let typed = $state<Record<string, string>>({});
  let errors = $state<Record<string, string>>({});
  let whole = $state(false);
  let columns = $derived(known.data?.columns ?? []);
  const held = (name: string) => typed[name] ?? cells[name] ?? '';
  // What is filled in, or found wrong, is always there; the rest of a row's sixty on demand.
  let shown = $derived([
    ...FIRST.flatMap((name) => columns.filter((one) => one.name === name)),
    ...columns.filter(
      (one) => !FIRST.includes(one.name) && (whole || cells[one.name] || errors[one.name])
    )
  ]);

  async function save() {
    errors = {};
    try {
      const body = { was, cells: { ...cells, ...typed } };
      const kept = await ask(api.PUT('/api/catalog/parts', { body }));
      await client.invalidateQueries({ queryKey: ['catalog'] });
      done(kept.key);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      errors = Object.fromEntries(error.errors.map((one) => [one.path, one.message]));
      if (!error.errors.length) errors = { number: error.message };
    }
  }
</script>

<form
  use:opens
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <div class="grid-3">
    {#each shown as one (one.name)}
      <div class="field" data-column={one.name}>
        <label for={`${id}-${one.name}`}>{one.label}</label>
        {#if one.options.length}
          <select
            id={`${id}-${one.name}`}
            class="select"
            value={held(one.name)}
            onchange={(e) => (typed[one.name] = e.currentTarget.value)}
          >
            {#if !one.options.includes('')}<option value=""></option>{/if}
            {#each one.options as option (option)}
              <option value={option}>{option.replaceAll('_', ' ') || 'not said'}</option>
            {/each}
          </select>
        {:else}
          <input
            id={`${id}-${one.name}`}
            class="input"
            list={ENDS.includes(one.name) ? `${id}-ends` : undefined}
            value={held(one.name)}
            oninput={(e) => (typed[one.name] = e.currentTarget.value)}
          />
        {/if}
        <p class="says" class:wrong={errors[one.name]} aria-live="polite">
          {errors[one.name] ?? '\u00a0'}
        </p>
      </div>
    {/each}
  </div>
  <datalist id={`${id}-ends`}>
    {#each ends.data ?? [] as one (one.key)}<option value={one.key}>{one.text}</option>{/each}
  </datalist>
  <div class="acts">
    <button class="btn btn-sm btn-primary" disabled={Boolean(was) && !Object.keys(typed).length}
      >Save</button
    >
    <button type="button" class="btn btn-sm btn-ghost" onclick={() => done('')}
      >Not after all</button
    >
    {#if !whole}
      <button type="button" class="btn btn-sm btn-ghost" onclick={() => (whole = true)}
        >Everything a part has</button
      >
    {/if}
  </div>
</form>

<style>
  label {
    display: block;
  }
  label::first-letter {
    text-transform: uppercase;
  }
  form {
    padding: 0.4rem 0 0.8rem;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
  }
</style>

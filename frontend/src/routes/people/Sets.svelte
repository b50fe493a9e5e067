<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask, type Everybody } from '$lib/api/client';

  interface Props {
    one: Everybody['people'][number];
    put: (id: number, body: { sets: string[] }) => Promise<unknown>;
  }
  let { one, put }: Props = $props();
  const id = $props.id();
  let text = $state('');
  let query = $derived(text.trim());
  const found = createQuery(() => ({
    queryKey: ['finder', query],
    queryFn: () => ask(api.GET('/api/finder', { params: { query: { q: query } } })),
    enabled: query.length > 1
  }));
  let held = $derived(one.sets.map((set) => set.job));
  let jobs = $derived(
    (found.data ?? []).filter((row) => row.kind === 'job' && !held.includes(row.job))
  );
  const keep = (sets: string[]) => put(one.id, { sets });
</script>

<div class="sets">
  <span class="quiet">Sets:</span>
  {#each one.sets as set (set.job)}
    <span class="chip">
      {set.title}
      <button
        class="btn btn-ghost btn-xs"
        aria-label={`${set.title} is not ${one.name}'s`}
        onclick={() => keep(held.filter((job) => job !== set.job))}>×</button
      >
    </span>
  {:else}<span class="quiet">none yet</span>{/each}
  <label for={id} class="sr">Job of a set of {one.name}</label>
  <input
    {id}
    class="input input-sm"
    placeholder="Add by its job"
    autocomplete="off"
    bind:value={text}
  />
  {#each jobs as row (row.job)}
    <button
      class="btn btn-sm"
      onclick={() => {
        void keep([...held, row.job]);
        text = '';
      }}>{row.title}</button
    >
  {/each}
</div>

<style>
  .sets {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
    padding-top: 0.3rem;
  }
  input {
    width: 12rem;
  }
  .chip {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0 0.1rem 0 0.5rem;
  }
</style>

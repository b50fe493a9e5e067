<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import Card from '$lib/stages/hand_over/Card.svelte';
  import { written } from '$lib/stages/logbook/days';
  import OwnRun from './OwnRun.svelte';

  const client = useQueryClient();
  const sets = createQuery(() => ({
    queryKey: ['mine'],
    queryFn: () => ask(api.GET('/api/mine')),
    enabled: me.may('own')
  }));
  let chosen = $state('');
  let job = $derived(chosen || (sets.data?.sets[0]?.job ?? ''));
  const found = createQuery(() => ({
    queryKey: ['mine', job],
    queryFn: () => ask(api.GET('/api/mine/{job_id}', { params: { path: { job_id: job } } })),
    enabled: job !== ''
  }));
  let set = $derived(found.data);
  let card = $state('');
  let shown = $derived(set?.cards.cards.find((one) => one.key === card) ?? set?.cards.cards[0]);
</script>

<svelte:head><title>My sets · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>{set?.title ?? 'My sets'}</h1>
  {#if (sets.data?.sets.length ?? 0) > 1}
    <div class="flex flex-wrap gap-2" role="group" aria-label="Set">
      {#each sets.data?.sets ?? [] as one (one.job)}
        <button
          class="btn btn-sm"
          class:btn-neutral={one.job === job}
          aria-pressed={one.job === job}
          onclick={() => (chosen = one.job)}>{one.title}</button
        >
      {/each}
    </div>
  {/if}
  {#if sets.data && !sets.data.sets.length}
    <p>No set is noted as yours yet: ask the shop.</p>
  {/if}
  {#if set}
    <p class="quiet">{[set.set_label, set.shop, set.phone].filter(Boolean).join(' · ')}</p>
    {#if set.cards.draft}<p class="font-semibold" role="status">{set.cards.draft}</p>{/if}
    {#if shown}
      <section class="section" aria-label="Cards">
        <div class="flex flex-wrap gap-2 mb-2">
          {#each set.cards.cards as one (one.key)}
            <button
              class="btn btn-sm"
              class:btn-neutral={one === shown}
              aria-pressed={one === shown}
              onclick={() => (card = one.key)}>{one.title}</button
            >
          {/each}
          <a class="btn btn-sm" href={`/api/mine/${job}/cards.html`} download
            >One file for this phone</a
          >
        </div>
        <Card card={shown} signs={set.cards.signs} />
      </section>
    {/if}
    <section class="section" aria-labelledby="run">
      <h2 id="run">Log a run</h2>
      <OwnRun {job} kept={(now) => client.setQueryData(['mine', job], now)} />
    </section>
    <section class="section" aria-labelledby="due">
      <h2 id="due">Due</h2>
      <ul data-due>
        {#each set.logbook.due as one (one.key)}
          <li class="ruled py-1">
            <b>{one.name}</b>
            {one.due ? `by ${written(one.due)}` : ''} <span class="quiet">every {one.every}</span>
          </li>
        {/each}
      </ul>
    </section>
    <section class="section" aria-labelledby="runs">
      <h2 id="runs">Runs so far: {set.logbook.total[prefs.system]}</h2>
      <ul data-runs>
        {#each set.logbook.runs.slice(0, 20) as one (one.key)}
          <li class="ruled py-1 flex flex-wrap gap-x-4">
            <span>{written(one.on)}</span>
            <span class="num">{one.ran?.[prefs.system] ?? ''}</span>
            <span class="quiet">{one.remark}</span>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1rem 1.2rem 3rem;
    max-width: 46rem;
    width: 100%;
    margin: 0 auto;
  }
  h1 {
    font-size: 1.4rem;
    font-weight: 700;
  }
</style>

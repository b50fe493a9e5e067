<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { written } from '$lib/stages/logbook/days';
  import DueFeed from '$lib/frame/DueFeed.svelte';

  const SPANS = [
    [0, 'today'],
    [7, 'this week'],
    [14, 'two weeks'],
    [31, 'a month'],
    [92, 'three months']
  ] as const;
  let days = $state(14);
  const found = createQuery(() => ({
    queryKey: ['due', days],
    queryFn: () => ask(api.GET('/api/due', { params: { query: { days } } }))
  }));
  let round = $derived(found.data);
</script>

<svelte:head><title>Due · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <h1>Due on sets in service</h1>
  <p class="quiet">
    By hours or by date, whichever comes first, at the rate each set runs.
    <a class="link" href="/methods/upkeep">How it is worked out</a>
  </p>
  <div class="spans" role="group" aria-label="Until">
    {#each SPANS as [span, text] (span)}
      <button
        class="btn btn-sm"
        class:btn-neutral={days === span}
        aria-pressed={days === span}
        onclick={() => (days = span)}>{text}</button
      >
    {/each}
  </div>
  {#if round}
    <p data-count>
      {round.in_service}
      {round.in_service === 1 ? 'set' : 'sets'} in service{round.overdue
        ? `, ${round.overdue} overdue`
        : ''}; until {written(round.until)}
    </p>
    {#if round.van.length}
      <section class="section">
        <h2>To take along</h2>
        <ul data-van>
          {#each round.van as part (part.name)}<li>{part.count} × {part.name}</li>{/each}
        </ul>
      </section>
    {/if}
    {#each round.places as place (place.place)}
      <section class="section">
        <h2>{place.place}</h2>
        {#each place.sets as one (one.job)}
          <article data-set={one.title}>
            <p>
              <a class="link" href={`/jobs/${one.job}/logbook/upkeep`}><b>{one.title}</b></a>
              <span class="quiet">{[one.set_label, one.owner].filter(Boolean).join(' · ')}</span>
            </p>
            <ul>
              {#each one.tasks as task (task.key)}
                <li data-task={task.key}>
                  {task.name}:
                  {#if task.state === 'over'}<b class="text-error">overdue</b>{:else}{written(
                      task.due
                    )}{/if}
                </li>
              {/each}
            </ul>
          </article>
        {/each}
      </section>
    {:else}
      <p>Nothing is due until then.</p>
    {/each}
  {/if}
  <DueFeed />
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 58rem) / 2)) 2rem;
    outline: none;
  }
  h1 {
    font-size: 1.4rem;
    font-weight: 700;
  }
  .spans {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin: 0.8rem 0;
  }
  ul {
    list-style: disc;
    padding-left: 1.2rem;
  }
  article {
    margin-top: 0.6rem;
  }
</style>

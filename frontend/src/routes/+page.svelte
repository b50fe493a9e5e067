<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query';
  import { api, ask, Refusal, type BoardRow } from '$lib/api/client';
  import Import from '$lib/frame/Import.svelte';
  import NewJob from '$lib/frame/NewJob.svelte';
  import { writeKey } from '$lib/session/outbox';
  import { prefs } from '$lib/session/prefs.svelte';
  import BoardGroup from '$lib/frame/BoardGroup.svelte';
  import QuickLinks from '$lib/frame/QuickLinks.svelte';

  const client = useQueryClient();
  let query = $state('');
  let archived = $state(false);
  let limits = $state<Record<string, number>>({});
  let trouble = $state('');
  let gone = $state.raw<{ id: string; title: string; archived: boolean }>();
  let naming = $state(false);
  let limit = $derived(Math.max(12, ...Object.values(limits)));

  const board = createQuery(() => ({
    queryKey: ['board', query, archived, limit],
    queryFn: () => ask(api.GET('/api/board', { params: { query: { query, archived, limit } } })),
    placeholderData: keepPreviousData
  }));

  async function act(work: () => Promise<void>) {
    trouble = '';
    try {
      await work();
      await client.invalidateQueries({ queryKey: ['board'] });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }

  const copy = (row: BoardRow) =>
    act(async () => {
      const body = { key: writeKey(), who: prefs.who, same_set: false };
      await ask(
        api.POST('/api/jobs/{job_id}/copy', { params: { path: { job_id: row.id } }, body })
      );
    });

  const setArchived = (id: string, name: string, to: boolean) =>
    act(async () => {
      const changes = [{ path: 'archived', value: to }] as never;
      const body = {
        changes,
        base: 0,
        key: writeKey(),
        who: prefs.who,
        system: prefs.system,
        preview: false,
        views: ''
      };
      const current = await ask(
        api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id }, query: { views: '' } } })
      );
      body.base = current.revision;
      await ask(api.PATCH('/api/jobs/{job_id}', { params: { path: { job_id: id } }, body }));
      gone = { id, title: name, archived: to };
    });

  function undoArchive() {
    const last = gone;
    if (!last) return;
    void setArchived(last.id, last.title, !last.archived).then(() => (gone = undefined));
  }
</script>

<svelte:head><title>Shop board · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <header>
    <div>
      <h1>Shop board</h1>
      <p class="quiet">Jobs by what they wait for.</p>
    </div>
    <input
      class="input search"
      type="search"
      placeholder="Search jobs"
      aria-label="Search jobs"
      bind:value={query}
    />
    <label class="tick flex gap-[.4rem] items-center"
      ><input class="checkbox checkbox-sm" type="checkbox" bind:checked={archived} />Archived</label
    >
    <Import />
    <button class="btn btn-primary" onclick={() => (naming = true)}>New job</button>
  </header>

  {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
  {#if gone}
    <p class="gone" role="status">
      “{gone.title}” is {gone.archived ? 'archived' : 'back on the board'}.
      <button class="link" onclick={undoArchive}>Undo</button>
    </p>
  {/if}

  {#each board.data?.groups ?? [] as group (group.waits_for)}
    <BoardGroup
      {group}
      {archived}
      {copy}
      archive={(row) => setArchived(row.id, row.title, !archived)}
      more={() => (limits[group.waits_for] = limit + 48)}
    />
  {:else}
    {#if board.isError}
      <p role="alert">The server does not answer; trying again.</p>
    {:else if board.data}
      <p class="quiet py-8 px-0">
        {query
          ? `No job matches “${query}”.`
          : archived
            ? 'Nothing is archived.'
            : 'No jobs yet. Make the first one.'}
      </p>
    {/if}
  {/each}

  <QuickLinks />
</main>

<NewJob open={naming} onclose={() => (naming = false)} />

<style>
  main {
    flex: 1;
    /* What is there for readers only is placed in it, and never makes the page itself longer. */
    position: relative;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 68rem) / 2)) 2rem;
    outline: none;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem 0.8rem;
    align-items: center;
    margin-bottom: 0.6rem;
  }
  header > div {
    flex: 1;
    min-width: 12rem;
  }
  h1 {
    font-size: 1.45rem;
    font-weight: 700;
  }
  .search {
    width: 15rem;
  }
  .trouble {
    border-left: 3px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.5rem 0.8rem;
  }
  .gone {
    background: var(--tint);
    border-left: 3px solid var(--color-primary);
    padding: 0.5rem 0.8rem;
  }
  .link {
    color: inherit;
    font-weight: 650;
  }
</style>

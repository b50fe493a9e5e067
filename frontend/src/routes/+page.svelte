<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query';
  import { goto } from '$app/navigation';
  import { api, ask, Refusal, type BoardRow, type ProblemBody } from '$lib/api/client';
  import BoardRowLine from '$lib/frame/BoardRow.svelte';
  import { QUICK } from '$lib/api/published';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { writeKey } from '$lib/session/outbox';
  import { prefs } from '$lib/session/prefs.svelte';

  const client = useQueryClient();
  let query = $state('');
  let archived = $state(false);
  let limits = $state<Record<string, number>>({});
  let title = $state('');
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

  const create = (event: SubmitEvent) => {
    event.preventDefault();
    void act(async () => {
      const body = { title: title.trim() || 'New job', key: writeKey(), who: prefs.who };
      const made = await ask(api.POST('/api/jobs', { body }));
      await goto(`/jobs/${made.id}/intake/set?field=set.running`);
    });
  };

  const copy = (row: BoardRow) =>
    act(async () => {
      const body = { key: writeKey(), who: prefs.who };
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

  let unearned = $state<{ file: File; texts: string[] }>();

  async function importFile(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (file) await takeIn(file, false);
    input.value = '';
  }

  /** What does not pass the gate is told, and the job comes in without it only when asked to. */
  async function takeIn(file: File, without: boolean) {
    trouble = '';
    unearned = undefined;
    const query = `who=${encodeURIComponent(prefs.who)}${without ? '&take_back=yes' : ''}`;
    try {
      const answer = await fetch(`/api/import?${query}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/zip' },
        body: file
      });
      const body = (await answer.json()) as ProblemBody & { id: string };
      if (answer.ok) await goto(`/jobs/${body.id}`);
      else if (body.type === '/problems/unearned')
        unearned = { file, texts: [...new Set((body.errors ?? []).map((one) => one.message))] };
      else trouble = `${file.name}: ${body.detail}`;
    } catch {
      trouble = `${file.name} was not read: the server does not answer. Nothing was changed.`;
    }
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
    <label class="tick"
      ><input class="checkbox checkbox-sm" type="checkbox" bind:checked={archived} />Archived</label
    >
    <label class="btn"
      >Import<input class="sr" type="file" accept=".zip" onchange={importFile} /></label
    >
    <button class="btn btn-primary" onclick={() => (naming = true)}>New job</button>
  </header>

  {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
  {#if unearned}
    <div class="trouble" role="alert" data-unearned>
      <p><strong>{unearned.file.name}</strong> holds what this job does not allow yet:</p>
      <ul>
        {#each unearned.texts.slice(0, 12) as text (text)}<li>{text}</li>{/each}
        {#if unearned.texts.length > 12}<li>and {unearned.texts.length - 12} more</li>{/if}
      </ul>
      <button class="btn btn-sm" onclick={() => unearned && void takeIn(unearned.file, true)}
        >Take it in without these signatures and readings</button
      >
      <button class="btn btn-sm btn-ghost" onclick={() => (unearned = undefined)}>Leave it</button>
    </div>
  {/if}
  {#if gone}
    <p class="gone" role="status">
      “{gone.title}” is {gone.archived ? 'archived' : 'back on the board'}.
      <button class="link" onclick={undoArchive}>Undo</button>
    </p>
  {/if}

  {#each board.data?.groups ?? [] as group (group.waits_for)}
    <section aria-labelledby={`g-${group.waits_for}`}>
      <h2 id={`g-${group.waits_for}`}>
        {group.waits_for === 'nothing' ? 'Ready to work on' : `Waits for ${group.label}`}
        <span class="quiet num">{group.count}</span>
      </h2>
      <ul>
        {#each group.rows as row (row.id)}
          <BoardRowLine
            {row}
            oncopy={() => copy(row)}
            onarchive={() => setArchived(row.id, row.title, !archived)}
            {archived}
          />
        {/each}
      </ul>
      {#if group.count > group.rows.length}
        <button class="btn btn-sm btn-ghost" onclick={() => (limits[group.waits_for] = limit + 48)}>
          {group.count - group.rows.length} more
        </button>
      {/if}
    </section>
  {:else}
    {#if board.isError}
      <p role="alert">The server does not answer; trying again.</p>
    {:else if board.data}
      <p class="quiet empty">
        {query
          ? `No job matches “${query}”.`
          : archived
            ? 'Nothing is archived.'
            : 'No jobs yet. Make the first one.'}
      </p>
    {/if}
  {/each}

  <section class="quick">
    <h2>Quick answers</h2>
    <div>
      {#each QUICK as entry (entry.name)}
        <a class="btn btn-sm" href={`/quick/${entry.name}`}>{entry.title}</a>
      {/each}
      <a class="btn btn-sm" href="/due">Due on sets in service</a>
      <a class="btn btn-sm" href="/catalog">Catalog of parts</a>
      <a class="btn btn-sm" href="/learned">What the shop learned</a>
    </div>
  </section>
</main>

<Dialog open={naming} labelledby="new-title" width="narrow" onclose={() => (naming = false)}>
  <form onsubmit={create}>
    <h2 id="new-title">New job</h2>
    <label for="new-name">What do you call it?</label>
    <input
      id="new-name"
      class="input"
      bind:value={title}
      maxlength="120"
      placeholder="Whose set, or where it runs"
      autocomplete="off"
    />
    <div class="row">
      <button type="button" class="btn btn-ghost" onclick={() => (naming = false)}>Cancel</button>
      <button class="btn btn-primary">Open it</button>
    </div>
  </form>
</Dialog>

<style>
  main {
    flex: 1;
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
  h2 {
    font-weight: 700;
    margin-bottom: 0.2rem;
  }
  section {
    margin-top: 1.2rem;
  }
  .search {
    width: 15rem;
  }
  .tick {
    display: flex;
    gap: 0.4rem;
    align-items: center;
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
  .quick div,
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
  }
  .row {
    justify-content: end;
    margin-top: 1rem;
  }
  .empty {
    padding: 2rem 0;
  }
</style>

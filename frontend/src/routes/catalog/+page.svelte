<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import BringIn from './BringIn.svelte';
  import PartForm from './PartForm.svelte';
  import PartRow from './PartRow.svelte';

  let words = $state('');
  let kind = $state('');
  let limit = $state(60);
  let open = $state('');
  let adding = $state(false);
  const found = createQuery(() => ({
    queryKey: ['catalog', 'list', words, kind, limit],
    queryFn: () => ask(api.GET('/api/catalog', { params: { query: { words, kind, limit } } })),
    placeholderData: keepPreviousData
  }));
  let kinds = $derived(
    Object.entries(found.data?.kinds ?? {}).sort(([a], [b]) => a.localeCompare(b))
  );
</script>

<svelte:head><title>Catalog · Gentle Ember</title></svelte:head>

<main id="sheet" tabindex="-1">
  <header>
    <div>
      <h1>Catalog</h1>
      <p class="quiet">
        {found.data?.total ?? '…'} parts: what ships, with this shop's own prices, stock and parts laid
        over it.
      </p>
    </div>
    <div class="flex gap-2">
      <button class="btn btn-sm" aria-expanded={adding} onclick={() => (adding = !adding)}
        >Add a part</button
      >
      <a class="btn btn-sm" href="/api/catalog/parts.csv" download>Save as CSV</a>
    </div>
  </header>
  {#if adding}
    <section class="section" aria-label="Add a part">
      <PartForm
        cells={{ stock: '0' }}
        done={(key) => {
          adding = false;
          if (key) {
            words = key.replaceAll('-', ' ');
            open = key;
          }
        }}
      />
    </section>
  {/if}
  <BringIn />
  <div class="find">
    <input
      class="input"
      placeholder="Number or words, like hose 1/2"
      aria-label="Find parts"
      bind:value={words}
    />
    <select class="select" bind:value={kind} aria-label="Class of part">
      <option value="">every class</option>
      {#each kinds as [key, count] (key)}
        <option value={key}>{key.replaceAll('_', ' ')} ({count})</option>
      {/each}
    </select>
    <span class="quiet" aria-live="polite">{found.data?.found ?? 0} found</span>
  </div>
  <table>
    <thead>
      <tr>
        <th>number</th><th>part</th><th class="wide">in</th><th class="wide">out</th><th class="n"
          >stock</th
        ><th class="n">price</th>
      </tr>
    </thead>
    <tbody>
      {#each found.data?.parts ?? [] as one (one.part.key)}
        <PartRow
          {one}
          open={open === one.part.key}
          toggle={() => (open = open === one.part.key ? '' : one.part.key)}
        />
      {/each}
    </tbody>
  </table>
  {#if (found.data?.found ?? 0) > limit}
    <button class="btn btn-sm" onclick={() => (limit = Math.min(500, limit + 120))}
      >Show more</button
    >
  {/if}
</main>

<style>
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.3rem max(1.2rem, calc((100vw - 70rem) / 2)) 2rem;
    outline: none;
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: start;
    gap: 1rem;
    margin-bottom: 0.8rem;
  }
  h1 {
    font-size: 1.45rem;
    font-weight: 700;
  }
  .find {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
    margin: 0.8rem 0;
  }
  .find .input {
    width: 20rem;
  }
  .find .select {
    width: auto;
  }
  table {
    width: 100%;
    margin-bottom: 0.8rem;
  }
  th {
    text-align: left;
    font-weight: 500;
    color: var(--muted);
  }
  .n {
    text-align: right;
  }
  @media (max-width: 700px) {
    main :global(.wide) {
      display: none;
    }
  }
</style>

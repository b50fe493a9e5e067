<script lang="ts">
  import { counted } from '$lib/api/settled';
  import { useQueryClient } from '@tanstack/svelte-query';
  import type { components } from '$lib/api/schema';

  type Tried = components['schemas']['ImportOut'];
  const client = useQueryClient();
  let tried = $state.raw<Tried>();
  let file = $state.raw<File>();
  let fault = $state('');
  let field = $state<HTMLInputElement>();
  let news = $derived(tried?.effects.filter((one) => one.kind === 'new').length ?? 0);
  let changes = $derived(tried?.effects.filter((one) => one.kind === 'changed').length ?? 0);

  async function send(accept: '' | 'all' | 'good') {
    if (!file) return;
    fault = '';
    try {
      const answer = await counted(`/api/catalog/import?accept=${accept}`, {
        method: 'POST',
        headers: { 'Content-Type': 'text/csv' },
        body: file
      });
      const body = await answer.json();
      if (answer.ok) tried = body as Tried;
      else fault = (body as { detail: string }).detail;
    } catch {
      fault = 'The server does not answer. Nothing was brought in.';
    }
    if (accept) await client.invalidateQueries({ queryKey: ['catalog'] });
  }

  function choose(event: Event & { currentTarget: HTMLInputElement }) {
    file = event.currentTarget.files?.[0];
    void send('');
  }

  function drop() {
    tried = undefined;
    file = undefined;
    if (field) field.value = '';
  }
</script>

<details>
  <summary>Bring in parts or stock from a CSV</summary>
  <p class="quiet">
    In the form it is saved in. A file of number, stock, price_usd, days and use_instead alone
    changes parts that are there. It is tried first: nothing changes until you say so.
  </p>
  <input
    bind:this={field}
    type="file"
    accept=".csv,text/csv"
    class="file-input file-input-sm"
    aria-label="CSV of parts"
    onchange={choose}
  />
  {#if fault}<p class="text-error" role="alert">{fault}</p>{/if}
  {#if tried}
    <div class="box" aria-live="polite" data-import>
      <p>
        {#if tried.done}<strong>Brought in.</strong>{:else}<strong
            >Tried, nothing changed yet.</strong
          >{/if}
        {tried.rows} rows: {news} new, {changes} changed, {tried.good - news - changes} as they are, {tried
          .faults.length
          ? `${tried.rows - tried.good} refused`
          : 'none refused'}.
      </p>
      {#if tried.faults.length}
        <ul class="faults">
          {#each tried.faults as one, i (i)}
            <li>line {one.line}{one.column ? `, ${one.column}` : ''}: {one.why}</li>
          {/each}
        </ul>
      {/if}
      {#if tried.effects.length}
        <details>
          <summary>What it does</summary>
          <ul>
            {#each tried.effects as one (one.number)}
              <li>
                {one.number}
                {one.name}: {one.kind}{one.fields.length ? `, ${one.fields.join(', ')}` : ''}
              </li>
            {/each}
          </ul>
        </details>
      {/if}
      {#if !tried.done && tried.effects.length}
        {#if tried.faults.length}
          <button class="btn btn-sm" onclick={() => void send('good')}
            >Bring in the {tried.good} good rows</button
          >
        {:else}
          <button class="btn btn-sm btn-primary" onclick={() => void send('all')}
            >Bring it in</button
          >
        {/if}
      {/if}
      <button class="btn btn-sm btn-ghost" onclick={drop}>{tried.done ? 'Done' : 'Leave it'}</button
      >
    </div>
  {/if}
</details>

<style>
  summary {
    cursor: pointer;
    font-weight: 600;
  }
  .box {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.6rem 0.8rem;
    margin-top: 0.6rem;
    background: var(--color-base-100);
  }
  .faults {
    color: var(--color-error);
    max-height: 14rem;
    overflow: auto;
    margin: 0.4rem 0;
  }
</style>

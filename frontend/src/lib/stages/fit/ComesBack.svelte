<script lang="ts">
  import { signed } from '$lib/session/record';
  import Tick from '$lib/ui/Tick.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    rows: NonNullable<Snapshot['fit']>['back'];
  }
  let { rows }: Props = $props();
  const job = useJob();
  let held = $derived(job().settled?.job.fit);
  function back(key: string, what: string, change: Record<string, unknown>) {
    const now = (job().latest(`fit.back.${key}`) as object | undefined) ?? {
      what,
      tag: '',
      to: 'owner',
      back: false,
      by: '',
      on: ''
    };
    job().set(`fit.back.${key}`, { ...now, ...change });
  }
</script>

<section class="section">
  <h2>Comes back</h2>
  {#each rows as row (row.key)}
    <div class="row" data-back={row.key}>
      <Tick
        path={`fit.back.${row.key}`}
        checked={held?.back?.[row.key]?.back ?? false}
        change={(on) => back(row.key, row.what, { back: on, ...signed() })}
        >{row.what} <span class="quiet">{row.why}</span></Tick
      >
      <label class="w-48"
        ><span class="sr">Tag of {row.what}</span>
        <input
          class="input input-sm"
          placeholder="what its tag says"
          value={held?.back?.[row.key]?.tag ?? ''}
          onchange={(event) => back(row.key, row.what, { tag: event.currentTarget.value })}
        /></label
      >
      <select
        class="select select-sm"
        aria-label={`Who gets ${row.what}`}
        value={held?.back?.[row.key]?.to ?? 'owner'}
        onchange={(event) => back(row.key, row.what, { to: event.currentTarget.value })}
      >
        <option value="owner">to the owner</option>
        <option value="supplier">to the supplier</option>
        <option value="shop">stays here</option>
      </select>
    </div>
  {/each}
  <button class="btn btn-sm" onclick={() => back(`b${Date.now().toString(36)}`, 'bracket', {})}
    >Add a part</button
  >
</section>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.8rem;
    align-items: center;
    border-top: 1px solid var(--rule);
    padding: 0.35rem 0;
  }
  .row > :global([data-field]) {
    flex: 1;
    min-width: 15rem;
  }
  .row .select {
    width: 10rem;
  }
  section > .btn {
    margin-top: 0.5rem;
  }
</style>

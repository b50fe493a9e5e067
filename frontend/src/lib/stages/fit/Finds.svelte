<script lang="ts">
  import { FIND_DECISIONS } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import { recordOf, type Fit } from './sheet';
  import { signed } from '$lib/session/record';

  interface Props {
    fit: Fit;
  }
  let { fit }: Props = $props();
  const job = useJob();
  let finds = $derived(Object.entries(job().settled?.job.fit?.finds ?? {}));
  let smells = $derived(Object.entries(job().settled?.job.fit?.smelled ?? {}));
  let reasons = $state<Record<string, string>>({});

  function stays(key: string) {
    const record = recordOf(job(), key);
    job().set(`fit.steps.${key}`, {
      ...record,
      state: 'skipped',
      ...signed(),
      reason: reasons[key]?.trim()
    });
  }
</script>

{#if fit.undone.length}
  <section class="undone" data-undone>
    <h2>Done, and no longer on the sheet</h2>
    {#each fit.undone as one (one.key)}
      <div class="row">
        <p>{one.what} <span class="quiet">{one.by}</span></p>
        <button class="btn btn-sm" onclick={() => job().remove(`fit.steps.${one.key}`)}
          >Taken out</button
        >
        <label
          ><span class="sr">Why it stays: {one.what}</span>
          <input
            class="input input-sm"
            placeholder="or why it stays"
            bind:value={reasons[one.key]}
            onkeydown={(event) =>
              event.key === 'Enter' && reasons[one.key]?.trim() && stays(one.key)}
          /></label
        >
        <button
          class="btn btn-sm"
          disabled={!reasons[one.key]?.trim()}
          onclick={() => stays(one.key)}>It stays</button
        >
      </div>
    {/each}
  </section>
{/if}
{#if finds.length || smells.length}
  <section data-finds>
    <h2>Found on the way</h2>
    {#each smells as [key, one] (key)}
      <div class="row">
        <p
          class:stop={!one.cleared_on}
          class:text-error={!one.cleared_on}
          class:font-[650]={!one.cleared_on}
        >
          Gas smelled, {one.on?.slice(0, 16).replace('T', ' ')}
          {one.cleared_on
            ? `; it was: ${one.cause}. Cleared by ${one.cleared_by}`
            : '; not cleared'}
        </p>
      </div>
    {/each}
    {#each finds as [key, one] (key)}
      <div class="row">
        <p
          class:stop={one.decision === 'stop'}
          class:text-error={one.decision === 'stop'}
          class:font-[650]={one.decision === 'stop'}
        >
          {one.what} <span class="quiet">{one.reason} {one.by}</span>
        </p>
        <select
          class="select select-sm"
          aria-label={`Decision: ${one.what}`}
          value={one.decision}
          onchange={(event) =>
            job().set(`fit.finds.${key}`, {
              ...one,
              decision: event.currentTarget.value,
              ...signed()
            })}
        >
          {#each FIND_DECISIONS as [value, text] (value)}<option {value}>{text}</option>{/each}
        </select>
      </div>
    {/each}
  </section>
{/if}

<style>
  section {
    margin-top: 0.7rem;
    border-left: 3px solid var(--color-primary);
    padding-left: 0.8rem;
  }
  .undone {
    border-left-color: var(--color-warning);
  }
  h2 {
    font-weight: 700;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.6rem;
    align-items: center;
    padding: 0.2rem 0;
  }
  .row p {
    flex: 1;
    min-width: 14rem;
  }
  .row .select {
    width: 9rem;
  }
  .row label {
    width: 12rem;
  }
</style>

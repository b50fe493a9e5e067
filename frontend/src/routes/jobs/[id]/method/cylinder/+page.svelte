<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import Answer from '$lib/stages/method/Answer.svelte';
  import WhatIf from '$lib/stages/method/WhatIf.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { SHELTERS } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import Always from '$lib/frame/Always.svelte';
  import { useReference } from '$lib/session/reference';

  const job = useJob();
  const reference = useReference();
  let settled = $derived(job().settled);
  let site = $derived(settled?.job.sites[settled.job.site]);
  let atHand = $derived(
    Object.entries(site?.cylinders ?? {}).sort(([a], [b]) => a.localeCompare(b))
  );
  let choice = $state<string>();
  let temperature = $state<number>();
  let load = $state<number>();
  let count = $state<number>();
  let shelter = $state<'still_air' | 'breeze' | 'closed_locker'>();
  let chosen = $derived(choice ?? (atHand[0] ? `c:${atHand[0][0]}` : 's:20'));
  let query = $derived({
    cylinder: chosen.startsWith('c:') ? chosen.slice(2) : '',
    size: chosen.startsWith('s:') ? chosen.slice(2) : '',
    temperature_k: temperature,
    load_w: load,
    count,
    shelter
  });
  const answer = createQuery(() => ({
    queryKey: ['cylinder', job().id, settled?.revision, query],
    queryFn: () =>
      ask(
        api.GET('/api/jobs/{job_id}/cylinder', { params: { path: { job_id: job().id }, query } })
      ),
    placeholderData: keepPreviousData,
    enabled: Boolean(settled?.job.set.running),
    retry: false
  }));
  let path = $derived(
    query.cylinder ? `sites.${settled?.job.site ?? 's1'}.cylinders.${query.cylinder}` : ''
  );
  let changed = $derived([temperature, load, count, shelter].some((value) => value !== undefined));
</script>

<SheetHead
  title="The cylinder under load"
  text="Drawn hard or on a cold night it starves before it is empty."
/>

{#if !settled?.job.set.running}
  <p>Give the running rating first: the load's fuel is worked out from it.</p>
{:else}
  <div class="controls">
    <label>
      Cylinder
      <select
        class="select"
        value={chosen}
        onchange={(event) => {
          choice = event.currentTarget.value;
          count = undefined;
          shelter = undefined;
        }}
      >
        {#each atHand as [key, entry] (key)}
          <option value={`c:${key}`}>
            {entry.count > 1 ? `${entry.count} × ` : ''}{entry.size} lb, at hand
          </option>
        {/each}
        {#each reference.data?.cylinders ?? [] as size (size.key)}
          <option value={`s:${size.key}`}>{size.name}, full</option>
        {/each}
      </select>
    </label>
    <label>
      Together
      <select
        class="select"
        value={String(answer.data?.count ?? 1)}
        onchange={(event) => (count = Number(event.currentTarget.value))}
      >
        {#each [1, 2, 3, 4, 6, 8] as n (n)}<option value={String(n)}>{n}</option>{/each}
      </select>
    </label>
    <label>
      Around the cylinder
      <select
        class="select"
        value={answer.data?.shelter ?? 'still_air'}
        onchange={(event) => (shelter = event.currentTarget.value as typeof shelter)}
      >
        {#each SHELTERS as [value, text] (value)}<option {value}>{text}</option>{/each}
      </select>
    </label>
    <WhatIf
      label="Air"
      kind="temperature"
      low={233.15}
      high={313.15}
      value={temperature ?? answer.data?.temperature_k ?? 273.15}
      onchange={(value) => (temperature = value)}
    />
    <WhatIf
      label="Load"
      kind="power"
      low={0}
      high={settled.job.set.running.value}
      step={10}
      value={load ?? answer.data?.load_w ?? 0}
      onchange={(value) => (load = value)}
    />
  </div>
  {#if changed}
    <p class="whatif">
      What if: not saved to the job.
      <button
        class="underline font-[650] cursor-pointer"
        onclick={() => {
          temperature = load = count = shelter = undefined;
        }}>Back to the job's own</button
      >
    </p>
  {/if}
  {#if path}
    {#key path}
      <div class="grid-3 fill mt-[.4rem] mx-0 mb-[.6rem]">
        <QuantityField path={`${path}.weighed`} />
        <QuantityField path={`${path}.tare`} assumed="typical" />
        <QuantityField path={`${path}.fill`} assumed="full (80 %)" />
      </div>
    {/key}
  {/if}
  {#if answer.data}<Answer answer={answer.data} />{/if}
  {#if answer.isError}<p role="alert">{answer.error.message}</p>{/if}
  <Always />
{/if}

<style>
  .controls {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(8.2rem, 1fr));
    gap: 0.8rem 1.2rem;
    align-items: end;
    margin-bottom: 0.6rem;
  }
  label {
    font-weight: 550;
    font-size: 0.9rem;
  }
  .select {
    height: 2.2rem;
  }
  .whatif {
    background: var(--tint);
    border-left: 3px solid var(--color-primary);
    padding: 0.3rem 0.8rem;
    margin-bottom: 0.6rem;
    font-size: 0.9rem;
  }
</style>

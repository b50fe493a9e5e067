<script lang="ts">
  import type { ReadyItem } from '$lib/api/client';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { STAGE_NAMES } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import RestsOn from '$lib/stages/fuel_path/RestsOn.svelte';

  const job = useJob();
  let ready = $derived(job().now?.ready ?? []);
  let rests = $derived(job().now?.rests ?? []);
  let stages = $derived(
    Object.keys(STAGE_NAMES).filter((key) => ready.some((i) => i.stage === key))
  );
  let open = $derived(ready.filter((item) => !item.done).length);

  function confirm(item: ReadyItem, change: { done?: boolean; number?: string }) {
    const before = job().settled?.job.confirmed?.[item.key];
    const done = change.done ?? before?.done ?? false;
    job().set(`confirmed.${item.key}`, {
      done,
      by: done ? prefs.who : '',
      number: change.number ?? before?.number ?? '',
      note: before?.note ?? ''
    });
  }
</script>

<SheetHead
  title="Readiness"
  text={open
    ? `${open} of ${ready.length} to settle, by the stage they hold up.`
    : ready.length
      ? 'All settled.'
      : 'Nothing to settle.'}
/>

{#if rests.length}
  <RestsOn {rests} />
{:else if job().now?.rests && Object.keys(job().settled?.job.trains ?? {}).length}
  <p class="quiet" data-rests="">
    No fact that is only assumed turns, by itself, what holds now into a stop.
  </p>
{/if}
{#each stages as stage (stage)}
  <section class="section">
    <h2>Before {STAGE_NAMES[stage]}{stage === 'method' ? ' is chosen' : ' is signed off'}</h2>
    <ul>
      {#each ready.filter((item) => item.stage === stage) as item (item.key)}
        <li class:done={item.done} data-ready={item.key} data-field={item.path}>
          <span class="kind">{item.kind}</span>
          <span class="text">
            {item.text}
            {#if item.holds && !item.done}<span
                class="text-primary text-[.82rem] font-[650] ml-[.4rem]">holds the stage</span
              >{/if}
            {#if item.done}<span class="quiet by">{item.by ? `by ${item.by}` : ''}</span>{/if}
            {#if item.number}
              <label class="number"
                >{item.number}
                <input
                  class="input input-sm"
                  value={item.given}
                  onchange={(event) => confirm(item, { number: event.currentTarget.value })}
                />
              </label>
            {/if}
          </span>
          {#if item.confirm}
            <button
              class="btn btn-sm"
              disabled={!prefs.who || (!item.done && Boolean(item.number) && !item.given)}
              title={prefs.who ? '' : 'Say who you are first (top right)'}
              onclick={() => confirm(item, { done: !item.done })}
              >{item.done ? 'Not after all' : 'Confirm'}</button
            >
          {:else}
            <a
              class="btn btn-sm btn-ghost"
              href={`/jobs/${job().id}/${pageOf(item.path)}?field=${item.path}`}>Go there</a
            >
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/each}

<style>
  .section:first-of-type {
    border-top: 0;
    margin-top: 0;
  }
  li {
    display: grid;
    grid-template-columns: 7.5rem 1fr auto;
    gap: 0.8rem;
    align-items: start;
    border-top: 1px solid var(--rule);
    padding: 0.45rem 0;
  }
  li > .btn {
    min-width: 7.5rem;
  }
  .kind {
    color: var(--muted);
    font-size: 0.87rem;
  }
  .done .text {
    color: var(--muted);
  }
  .number {
    display: block;
    font-size: 0.85rem;
    margin-top: 0.3rem;
  }
  .number .input {
    max-width: 18rem;
    display: block;
  }
  @media (max-width: 600px) {
    li {
      grid-template-columns: 1fr auto;
    }
    .kind {
      grid-column: 1 / -1;
    }
    .by {
      display: none;
    }
  }
</style>

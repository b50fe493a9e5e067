<script lang="ts">
  import type { Step } from './sheet';
  import { recordOf } from './sheet';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import Draw from './Draw.svelte';

  interface Props {
    step: Step;
    state: Step['state'];
    waits: string;
    held: string;
  }
  let { step, state, waits, held }: Props = $props();
  const job = useJob();
  let system = $derived(prefs.system);
  let record = $derived(recordOf(job(), step.key));
</script>

<article data-bench={step.key} data-state={state}>
  <p class="place">
    {step.place}{#if step.torque}
      · <span class="num">{step.torque[system]}</span>{/if}{#if step.secured === 'thread-locker'}
      · thread-locker{/if}
    {#if state === 'done'}· <b class="text-success">done by {record.by || 'nobody named'}</b>{/if}
    {#if state === 'skipped'}· <b>skipped: {record.reason}</b>{/if}
    {#if state === 'stale'}· <b class="stale">undone by a change</b>{/if}
  </p>
  <h1 aria-live="polite">{step.what[system]}</h1>
  <p class="text-[1.15rem]">{step.why[system]}</p>
  {#if held}<p class="stop" role="alert">{held}</p>{/if}
  {#if waits}<p class="first" role="status"><b>First:</b> {waits}</p>{/if}
  {#if step.caution[system]}<p class="caution">{step.caution[system]}</p>{/if}
  <div class="two">
    {#if step.measures.length}<div class="draw"><Draw measures={step.measures} /></div>{/if}
    <div class="check">
      {#if step.good[system]}<p><b>Good:</b> {step.good[system]}</p>{/if}
      {#if step.bad[system]}<p><b>Not good:</b> {step.bad[system]}</p>{/if}
    </div>
  </div>
  {#if step.tools.length || step.takes.length}
    <p class="quiet">{[...step.tools, ...step.takes].join(' · ')}</p>
  {/if}
  {#if step.photo}<p class="quiet">Photo: {step.photo}</p>{/if}
  {#if record.note}<p class="note">{record.note}</p>{/if}
</article>

<style>
  article {
    padding: 1rem 1.1rem;
    display: grid;
    gap: 0.55rem;
  }
  .place {
    color: var(--muted);
    font-size: 1rem;
  }
  .place::first-letter {
    text-transform: uppercase;
  }

  .stale,
  .first {
    color: var(--color-warning);
  }
  h1 {
    font-size: clamp(1.55rem, 5.6vw, 2.3rem);
    line-height: 1.15;
    font-weight: 750;
    text-wrap: pretty;
  }

  .first {
    font-size: 1.1rem;
  }
  .stop {
    border-left: 4px solid var(--color-error);
    padding: 0.3rem 0 0.3rem 0.8rem;
    color: var(--color-error);
    font-size: 1.2rem;
    font-weight: 700;
  }
  .caution {
    border-left: 4px solid var(--color-warning);
    padding: 0.3rem 0 0.3rem 0.8rem;
    font-size: 1.1rem;
    font-weight: 600;
  }
  .two {
    display: grid;
    gap: 0.8rem;
    align-items: center;
  }
  @media (min-width: 760px) {
    .two:has(.draw) {
      grid-template-columns: minmax(0, 24rem) 1fr;
    }
  }
  .check {
    background: var(--tint);
    border-left: 4px solid var(--color-primary);
    padding: 0.7rem 0.9rem;
    font-size: 1.1rem;
    display: grid;
    gap: 0.3rem;
  }
  .check:empty {
    display: none;
  }

  .note {
    font-style: italic;
  }
</style>

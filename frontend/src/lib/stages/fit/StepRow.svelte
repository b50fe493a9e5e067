<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { done, isOpen, openBefore, recordOf, reopen, stateOf, type Step } from './sheet';
  import StepMore from './StepMore.svelte';

  interface Props {
    step: Step;
    open: boolean;
    toggle: () => void;
  }
  let { step, open, toggle }: Props = $props();
  const job = useJob();
  let system = $derived(prefs.system);
  let state = $derived(stateOf(job(), step));
  let record = $derived(recordOf(job(), step.key));
  let held = $derived(isOpen(state) ? step.held[system] : '');
  let first = $derived(openBefore(job(), step)[0]);
  let blocked = $derived(Boolean(first) || held !== '');
  let fault = $derived(job().errors[`fit.steps.${step.key}`]);
  let facts = $derived(
    [
      ...step.measures.map((one) => `${one.label} ${one[system]}`),
      step.torque?.[system] ?? '',
      step.secured === 'thread-locker' ? 'thread-locker' : ''
    ].filter(Boolean)
  );
</script>

<li class={state} data-step={step.key} data-state={state}>
  <button
    type="button"
    class="tick"
    role="checkbox"
    aria-checked={state === 'done'}
    aria-label={`Done: ${step.what[system]}`}
    disabled={blocked}
    title={blocked ? held || `First: ${first?.what[system]}` : ''}
    onclick={() => (state === 'done' ? reopen(job(), step) : done(job(), step))}
  >
    {#if state === 'done'}<Check size={17} />{/if}
  </button>
  <div class="body">
    <button type="button" class="what" aria-expanded={open} onclick={toggle}
      >{step.what[system]}</button
    >
    {#if held || fault}<p class="stop text-error font-semibold">{held || fault}</p>{/if}
    {#if state === 'stale'}
      <p class="stale">Undone by a change: it was done with something else. {record.what}</p>
    {:else if state === 'skipped'}
      <p class="quiet">Skipped by {record.by}: {record.reason}</p>
    {/if}
    {#if facts.length && !open}<p class="quiet num text-[.82rem]">{facts.join(' · ')}</p>{/if}
    {#if record.note && !open}<p class="note">{record.note}</p>{/if}
    {#if open}<StepMore {step} {state} {record} />{/if}
  </div>
  <span class="min num quiet"
    >{state === 'done' && record.seconds
      ? `${Math.max(1, Math.round(record.seconds / 60))} min`
      : `${Math.round(step.minutes)} min`}</span
  >
</li>

<style>
  li {
    display: grid;
    grid-template-columns: 2.1rem minmax(0, 1fr) auto;
    gap: 0.2rem 0.6rem;
    padding: 0.32rem 0 0.32rem 0.4rem;
    border-top: 1px solid var(--rule);
    border-left: 3px solid transparent;
  }
  .next {
    border-left-color: var(--color-primary);
    background: var(--tint);
  }
  li.stale {
    border-left-color: var(--color-warning);
  }
  .tick {
    width: 1.7rem;
    height: 1.7rem;
    border: 1.6px solid var(--muted);
    border-radius: 0.3rem;
    background: var(--color-base-100);
    display: grid;
    place-items: center;
    cursor: pointer;
  }
  .tick:disabled {
    border-style: dashed;
    opacity: 0.6;
    cursor: default;
  }
  .done .tick {
    background: var(--color-success);
    color: var(--color-success-content);
    border-color: var(--color-success);
  }
  .what {
    text-align: left;
    cursor: pointer;
    font-weight: 550;
    padding: 0.12rem 0;
  }
  .next .what {
    font-weight: 700;
  }
  .done .what,
  .skipped .what {
    color: var(--muted);
    font-weight: 400;
  }
  p.stale {
    color: var(--color-warning);
    font-weight: 600;
  }

  .note {
    font-style: italic;
    font-size: 0.9rem;
  }
  .min {
    padding: 0.15rem 0.2rem 0 0;
    font-size: 0.85rem;
  }
</style>

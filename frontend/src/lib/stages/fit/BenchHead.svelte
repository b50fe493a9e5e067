<script lang="ts">
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import X from '@lucide/svelte/icons/x';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    at: number;
    count: number;
    time: string;
    speaking: boolean;
    toggle: () => void;
  }
  let { at, count, time, speaking, toggle }: Props = $props();
  const job = useJob();
</script>

<header>
  <b class="title">{job().settled?.job.title}</b>
  <span class="chip num" data-at={at + 1}
    >step {at + 1} of {count}
    <span class="quiet" title="Time on this step">{time}</span></span
  >
  <span class="net" role="status" aria-live="polite" data-save={job().saving}
    >{job().saving === 'unreached'
      ? `${job().unreached ? 'not saved' : 'no network'}${job().waiting ? ` · ${job().waiting} kept here` : ''}`
      : job().waiting
        ? 'saving'
        : ''}</span
  >
  <span class="flex-1"></span>
  <button class="icon" aria-label="Read the steps aloud" aria-pressed={speaking} onclick={toggle}
    ><Volume2 size={20} /></button
  >
  <a class="icon" href={`/jobs/${job().id}/fit/sheet`} aria-label="Back to the sheet"
    ><X size={20} /></a
  >
</header>

<style>
  header {
    display: flex;
    align-items: center;
    gap: 0.6rem;
    padding: 0.6rem 1.1rem;
  }
  .title {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    min-width: 4rem;
  }
  .chip {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.15rem 0.5rem;
    white-space: nowrap;
    font-size: 0.85rem;
  }
  .net {
    font-size: 0.85rem;
    color: var(--muted);
    white-space: nowrap;
  }
  .icon {
    width: 2.6rem;
    height: 2.6rem;
    display: grid;
    place-items: center;
    border-radius: 0.375rem;
    cursor: pointer;
  }
  .icon[aria-pressed='true'] {
    background: var(--tint);
    color: var(--color-primary);
  }
  @media (max-width: 600px) {
    .net {
      overflow: hidden;
      text-overflow: ellipsis;
    }
  }
</style>

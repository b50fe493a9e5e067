<script lang="ts">
  import type { JobSession } from '$lib/session/session.svelte';

  interface Props {
    session: JobSession;
  }
  let { session }: Props = $props();
  let refused = $derived(Object.keys(session.errors).length);
  let text = $derived.by(() => {
    if (session.saving === 'unreached') {
      if (session.unreached) return `Not saved: ${session.waiting} kept here`;
      return session.waiting
        ? `Not saved: no answer. ${session.waiting} kept here, trying again`
        : 'No answer from the server, trying again';
    }
    if (session.notice) return 'Not done';
    if (refused)
      return `Not saved: ${refused} ${refused === 1 ? 'field needs' : 'fields need'} correcting`;
    return { saved: 'Saved', typing: '…', saving: 'Saving' }[session.saving];
  });
  let loud = $derived(session.saving === 'unreached' || refused > 0);
</script>

<span
  class="state text-[.82rem] quiet whitespace-nowrap"
  class:loud
  role="status"
  aria-live="polite"
  data-save={session.saving}
>
  {text}
</span>

<style>
  .loud {
    color: var(--color-error);
    font-weight: 650;
    border: 1px solid currentColor;
    border-radius: 0.375rem;
    padding: 0.15rem 0.5rem;
    white-space: normal;
  }
</style>

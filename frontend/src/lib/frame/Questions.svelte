<script lang="ts">
  import { goto } from '$app/navigation';
  import { pageOf } from './current.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let questions = $derived(job().now?.questions ?? []);
</script>

{#if questions.length}
  <div class="open" role="note">
    <strong>Still open:</strong>
    {#each questions as question, i (question.path)}
      {#if i}<span aria-hidden="true"> · </span>{/if}<button
        class="underline cursor-pointer text-left"
        onclick={() => goto(`/jobs/${job().id}/${pageOf(question.path)}?field=${question.path}`)}
        >{question.text}</button
      >
    {/each}
  </div>
{/if}

<style>
  .open {
    background: var(--tint);
    border-left: 3px solid var(--color-primary);
    padding: 0.5rem 0.8rem;
    margin-bottom: 0.9rem;
    border-radius: 0 0.375rem 0.375rem 0;
  }
</style>

<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** What must not be done, as in "No start". */
    no: string;
    gas: string;
    /** Whole sentences: everything of the job that forbids it now. */
    why: string[];
  }
  let { no, gas, why }: Props = $props();
  const job = useJob();
</script>

{#if why.length}
  <div role="alert" data-not-tight>
    <b>{no} on {gas}:</b>
    {#if why.length === 1}{why[0]}{:else}
      <ul>
        {#each why as text (text)}<li>{text}</li>{/each}
      </ul>
    {/if}
    {#if why.some((text) => text.includes('tight'))}
      <a href={`/jobs/${job().id}/prove_tight/leaks`}>Leak test</a>
    {/if}
    <a href={`/jobs/${job().id}/fuel_path/ready`}>Readiness</a>
  </div>
{/if}

<style>
  div {
    border-left: 4px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.4rem 0.7rem;
    margin-bottom: 0.7rem;
  }
  ul {
    list-style: disc;
    padding-left: 1.2rem;
  }
  a {
    text-decoration: underline;
    margin-right: 0.8rem;
  }
</style>

<script lang="ts">
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** What must not be done, as in "No start". */
    no: string;
    gas: string;
    /** What is left to be proven. */
    left: string[];
  }
  let { no, gas, left }: Props = $props();
  const job = useJob();
</script>

{#if left.length}
  <p role="alert" data-not-tight>
    <b>{no} on {gas}:</b> not proven tight. {left.join('; ')}.
    <a href={`/jobs/${job().id}/prove_tight/leaks`}>Leak test</a>
  </p>
{/if}

<style>
  p {
    border-left: 4px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.4rem 0.7rem;
    margin-bottom: 0.7rem;
  }
  a {
    text-decoration: underline;
  }
</style>

<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { BenchLive } from './bench.svelte';

  interface Props {
    bench: BenchLive;
    label: string;
    /** Said while none is set up, and while one is. */
    before: string;
    during: string;
    /** The button that sets one up, and that sets up another. */
    first: string;
    another: string;
    setUp: () => void;
    children: Snippet;
  }
  let { bench, label, before, during, first, another, setUp, children }: Props = $props();
</script>

<section aria-label={label}>
  <header>
    <h2>Simulated bench</h2>
    <p class="quiet">{bench.now ? during : before}</p>
    <button class="btn btn-sm" onclick={setUp} disabled={bench.busy}
      >{bench.now ? another : first}</button
    >
  </header>
  {#if bench.now}{@render children()}
  {:else if bench.trouble}<p class="wrong" role="alert">{bench.trouble}</p>{/if}
</section>

<style>
  section {
    border-top: 2px dashed var(--color-error);
    padding-top: 0.5rem;
    margin-top: 0.8rem;
    display: grid;
    gap: 0.5rem;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.8rem;
    align-items: baseline;
  }
  header p {
    flex: 1;
    min-width: 14rem;
    font-size: 0.9rem;
  }
  h2 {
    font-weight: 700;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>

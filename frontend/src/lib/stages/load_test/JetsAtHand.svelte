<script lang="ts">
  import type { Jets } from '$lib/stages/load_test/types';

  interface Props {
    jets: Jets;
    ready: boolean;
    fit: (number: number) => void;
    unsettle: () => void;
  }
  let { jets, ready, fit, unsettle }: Props = $props();
</script>

<section class="ruled pt-2 mt-2" aria-labelledby="hand">
  <h2 class="font-bold" id="hand">At hand</h2>
  <div class="hand">
    {#each jets.at_hand as number (number)}
      <button
        class="btn num"
        class:btn-primary={number === jets.pick && number !== jets.in_it}
        class:in={number === jets.in_it}
        data-jet={number}
        disabled={!ready || number === jets.in_it}
        onclick={() => fit(number)}>{number}</button
      >
    {/each}
  </div>
  {#if jets.pick}
    <p data-decision={jets.pick}>
      The jet for here is <b class="num">{jets.pick}</b> ({jets.why}): sheet, parts list and load
      test go by it. {#if jets.to_order}None of it is in stock: it is on the parts list.{/if}
      {#if jets.settled}
        <button class="btn btn-sm" onclick={() => unsettle()}>Back to the default</button>
      {/if}
    </p>
    <p class="quiet">Put one in and its run begins under Load test.</p>
  {:else}
    <p class="wrong">None that is sold is large enough: run it rich meanwhile.</p>
  {/if}
</section>

<style>
  .hand {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin: 0.3rem 0;
  }
  .in {
    background: var(--color-neutral) !important;
    color: var(--color-neutral-content) !important;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>

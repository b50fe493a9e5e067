<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Orders from '$lib/stages/method/Orders.svelte';
  import Matrix from '$lib/stages/method/Matrix.svelte';

  const job = useJob();
  let states = $derived(job().now?.states ?? job().settled?.states);
  let chosen = $derived((job().settled?.job.choice?.methods ?? []).length > 0);
  let names = $derived(
    (states?.methods ?? []).map(
      (key) => job().settled?.methods?.judged.find((one) => one.key === key)?.name ?? key
    )
  );
</script>

<SheetHead
  title="Fuel states"
  text="What is open and closed in each state, and what one wrong position would let happen."
/>

{#if states}
  <p class="answer" data-answer>
    <strong>Does it still run on gasoline as before?</strong>
    <span class="font-bold text-primary">{states.answer}</span>{#if states.differences.length}: {states.differences.join(
        '; '
      )}{/if}.
  </p>
  <p class="quiet">
    {#if names.length}
      With {names.join(' + ')}{chosen ? '' : ', recommended and not chosen yet'}, as the set stands.
      A shut-off not known to be there is taken as missing.
    {:else}
      As the set stands, without any conversion.
    {/if}
  </p>
  <Matrix {states} />
  {#if states.both_on}<p data-both>{states.both_on}</p>{/if}
  <Orders orders={states.orders} title="Safe order" first="start." />
  <p class="quiet how"><a href="/methods/fuel-states">How this is found</a></p>
{/if}

<style>
  .how a {
    text-decoration: underline;
  }
  .answer {
    background: var(--color-base-100);
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    padding: 0.6rem 0.9rem;
    margin-bottom: 0.5rem;
  }
</style>

<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import type { Train } from '$lib/api/client';

  interface Props {
    train: Train;
  }
  let { train }: Props = $props();
  const job = useJob();
</script>

<div class="sums">
  {#if train.tightest}
    <p>{train.tightest.label} <Figure figure={train.tightest} band /></p>
  {/if}
  {#if train.signal}<p>{train.signal.label} <Figure figure={train.signal} band /></p>{/if}
  <p>price of the train <span class="num">{money(train.price)}</span></p>
</div>
{#if train.assumed.length}
  <p class="taken">
    Assumed:
    {#each train.assumed as one (one.text)}
      <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>{one.text}</a>
    {/each}
  </p>
{/if}
{#if Object.keys(train.outdated).length}
  <p class="taken">
    The catalog has newer data for {Object.keys(train.outdated).length} of these parts.
    <button
      class="btn btn-sm"
      onclick={() =>
        job().setAll(
          Object.keys(train.outdated).map((key) => ({ path: `parts.${key}`, remove: true }))
        )}>Take it over</button
    >
  </p>
{/if}

<style>
  .sums {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 2rem;
    margin: 0.7rem 0;
  }
  .taken {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.8rem;
    align-items: center;
    color: var(--muted);
    font-size: 0.9rem;
  }
  .taken a {
    text-decoration: underline;
  }
</style>

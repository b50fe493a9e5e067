<script lang="ts">
  import type { components } from '$lib/api/schema';

  interface Props {
    orders: components['schemas']['OrderOut'][];
    title?: string;
    /** The order shown first, by the beginning of its key. */
    first?: string;
  }
  let { orders, title = 'In this order', first = '' }: Props = $props();
  let chosen = $state('');
  let shown = $derived(
    orders.find((one) => one.key === chosen) ??
      orders.find((one) => first && one.key.startsWith(first)) ??
      orders[0]
  );
</script>

{#if shown}
  <section class="orders" aria-label={title} data-order={shown.key}>
    <div class="head">
      <h3>{title}</h3>
      <select
        class="select select-sm"
        aria-label="Which order"
        value={shown.key}
        onchange={(event) => (chosen = event.currentTarget.value)}
      >
        {#each orders as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select>
    </div>
    {#if shown.why_not}
      <p class="stop" role="alert">{shown.why_not}</p>
    {:else}
      <ol>
        {#each shown.lines as line, at (`${at} ${line}`)}
          <li><b class="num">{at + 1}</b> {line}</li>
        {/each}
      </ol>
    {/if}
  </section>
{/if}

<style>
  .orders {
    border: 1px solid var(--rule);
    border-radius: 0.375rem;
    background: var(--color-base-100);
    padding: 0.6rem 0.9rem;
    margin: 0.8rem 0;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    align-items: baseline;
  }
  h3 {
    font-weight: 700;
  }
  .head select {
    max-width: 24rem;
  }
  li {
    display: flex;
    gap: 0.7rem;
    padding: 0.3rem 0;
    border-top: 1px solid var(--rule);
    font-size: 1.05rem;
  }
  li:first-child {
    border-top: 0;
  }
  li b {
    min-width: 1.2rem;
    text-align: right;
    color: var(--color-primary);
  }
  .stop {
    border-left: 3px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.4rem 0.7rem;
    margin-top: 0.4rem;
  }
</style>

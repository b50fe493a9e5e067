<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import type { Snapshot } from '$lib/api/client';
  import LedgerRow from './LedgerRow.svelte';

  interface Props {
    snapshot: Snapshot;
    ledger: NonNullable<Snapshot['ledger']>;
  }
  let { snapshot, ledger }: Props = $props();
</script>

{#if ledger.bill}
  <p class="method" data-bill>
    <a href={`/jobs/${snapshot.id}/fuel_path/parts`}>Parts, counted</a>
    <span class="num">{money(ledger.bill.price)}</span>
  </p>
  {#if ledger.bill.core}
    <p class="method">
      <span>deposit to come back</span>
      <span class="num">{money(ledger.bill.core)}</span>
    </p>
  {/if}
{/if}
{#if snapshot.chosen}
  <h2>Method</h2>
  {#each snapshot.chosen.methods as method (method.key)}
    <p class="method" data-chosen={method.key}>
      <a href={`/jobs/${snapshot.id}/method/compare`}>{method.name}</a>
      <span class={method.verdict}>{method.verdict_name}</span>
    </p>
    {#if !ledger.bill}<LedgerRow label="parts" figure={method.parts} />{/if}
    <LedgerRow label="hours" figure={method.hours} />
  {/each}
{/if}

<style>
  h2 {
    font-weight: 600;
    color: var(--muted);
    margin: 0.9rem 0 0.3rem;
  }
  h2:first-child {
    margin-top: 0;
  }
  .method {
    display: flex;
    justify-content: space-between;
    gap: 0.6rem;
    border-top: 1px solid var(--rule);
    padding: 0.32rem 0;
  }
  .method a {
    font-weight: 550;
    text-decoration: underline;
    text-decoration-color: var(--rule);
  }
  .method span {
    color: var(--muted);
    text-align: right;
  }
  .method .does_not_fit {
    color: var(--color-error);
    font-weight: 650;
  }
</style>

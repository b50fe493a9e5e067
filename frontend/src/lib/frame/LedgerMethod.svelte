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
  .method span.does_not_fit {
    color: var(--color-error);
    font-weight: 650;
  }
</style>

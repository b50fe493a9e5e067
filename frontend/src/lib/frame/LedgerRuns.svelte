<script lang="ts">
  import type { Snapshot } from '$lib/api/client';
  import { LETTERS } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';
  import LedgerRow from './LedgerRow.svelte';
  import Mark from '$lib/ui/Mark.svelte';

  interface Props {
    ledger: NonNullable<Snapshot['ledger']>;
  }
  let { ledger }: Props = $props();
</script>

<h2>
  Runs at <span class="num">{ledger.load?.[prefs.system]}</span>
  {#if ledger.load?.assumed}<span class="font-normal text-[.8rem]">half the rating, assumed</span
    >{/if}
</h2>
{#each ledger.runs as run (run.key)}
  {#if run.figure}
    <LedgerRow
      label={run.label}
      figure={run.figure}
      note={run.left
        ? `then too cold, ${run.left[prefs.system].text} ${run.left[prefs.system].unit} left`
        : ''}
    >
      {#snippet mark()}<Mark fuel={run.fuel} letter={LETTERS[run.fuel] ?? ''} />{/snippet}
    </LedgerRow>
  {:else}
    <p class="cannot">
      <Mark fuel={run.fuel} letter={LETTERS[run.fuel] ?? ''} />
      <span>{run.label}: {run.why_not}</span>
    </p>
  {/if}
{:else}
  <p class="quiet text-[.85rem]">No tank or cylinder given yet.</p>
{/each}

<style>
  .cannot {
    display: flex;
    gap: 0.5rem;
    border-top: 1px solid var(--rule);
    padding: 0.32rem 0;
  }
</style>

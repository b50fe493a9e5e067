<script lang="ts">
  import ChevronUp from '@lucide/svelte/icons/chevron-up';
  import type { Snapshot } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import Smelled from '$lib/stages/fit/Smelled.svelte';
  import Ledger from './Ledger.svelte';

  interface Props {
    snapshot: Snapshot;
  }
  let { snapshot }: Props = $props();
  let open = $state(false);
  let puts = $derived(
    (snapshot.ledger?.puts_out ?? []).filter((one) => one.at_hand).map((one) => one.running)
  );
  let stops = $derived(snapshot.cautions.filter((c) => c.severity === 'stop').length);
</script>

<section class="ruled bg-base-100" class:open aria-label="Ledger, short">
  <div class="row">
    <button class="bar" onclick={() => (open = !open)} aria-expanded={open}>
      <strong>Ledger</strong>
      <span class="sum num">
        {#each puts.slice(0, 3) as figure (figure.key)}
          <span>{figure[prefs.system].text}</span>
        {/each}
        {#if puts.length}W{/if}
      </span>
      {#if stops}<span class="whitespace-nowrap text-error font-bold"
          >{stops} stop{stops > 1 ? 's' : ''}</span
        >{/if}
      <ChevronUp size={18} />
    </button>
    <Smelled />
  </div>
  {#if open}<div class="inside"><Ledger {snapshot} smell={false} /></div>{/if}
</section>

<style>
  .row :global(.smelled) {
    flex: none;
    min-height: 2.5rem;
    padding: 0 0.6rem;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 0.5rem;
    padding-right: 0.6rem;
    min-width: 0;
  }
  .bar {
    display: flex;
    flex: 1;
    min-width: 0;
    min-height: 2.75rem;
    align-items: center;
    gap: 0.8rem;
    padding: 0.3rem 1rem;
    cursor: pointer;
  }
  .sum {
    display: flex;
    gap: 0.8rem;
    margin-left: auto;
    overflow: hidden;
    white-space: nowrap;
  }

  .open .bar :global(svg) {
    rotate: 180deg;
  }
  .inside {
    max-height: 55dvh;
    overflow-y: auto;
    border-top: 1px solid var(--rule);
  }
</style>

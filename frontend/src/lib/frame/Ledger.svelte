<script lang="ts">
  import type { Snapshot } from '$lib/api/client';
  import { LETTERS } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';
  import Smelled from '$lib/stages/fit/Smelled.svelte';
  import LedgerRow from './LedgerRow.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import LedgerRuns from '$lib/frame/LedgerRuns.svelte';
  import LedgerMethod from '$lib/frame/LedgerMethod.svelte';

  interface Props {
    snapshot: Snapshot;
    /** Whether “Gas smelled” stands here; on a phone it stands in the bar. */
    smell?: boolean;
  }
  let { snapshot, smell = true }: Props = $props();
  let unsettled = $derived(snapshot.ready.filter((item) => !item.done).length);
  let ledger = $derived(snapshot.ledger);
  let stops = $derived(snapshot.cautions.filter((caution) => caution.severity === 'stop'));
  let minds = $derived(snapshot.cautions.filter((caution) => caution.severity === 'caution'));
</script>

<section class="ledger pt-[1.1rem] px-[1.1rem] pb-6" aria-label="Ledger">
  {#if smell}<div class="mb-[.8rem]"><Smelled /></div>{/if}
  {#if ledger}
    <h2>Puts out, steady</h2>
    {#each ledger.puts_out as { running, at_hand } (running.key)}
      {@const fuel = running.key.split('.')[1] ?? ''}
      <LedgerRow
        label={running.label.split(',')[0] ?? ''}
        figure={running}
        note={at_hand ? '' : 'not on this site'}
      >
        {#snippet mark()}<Mark {fuel} letter={LETTERS[fuel] ?? ''} />{/snippet}
      </LedgerRow>
    {/each}

    <LedgerRuns {ledger} />

    {#if ledger.flows.length}
      <h2>Gas at full load</h2>
      {#each ledger.flows as entry (entry.fuel)}
        <LedgerRow
          label={entry.flow.label.replace(' at full load', '')}
          figure={entry.flow}
          note={`${entry.heat[prefs.system].text} ${entry.heat[prefs.system].unit} HHV`}
        >
          {#snippet mark()}<Mark fuel={entry.fuel} letter={LETTERS[entry.fuel] ?? ''} />{/snippet}
        </LedgerRow>
      {/each}
    {/if}
    {#if ledger.path.length}
      <h2>Fuel path</h2>
      {#each ledger.path as train (train.name)}
        {#if train.tightest}
          <LedgerRow
            label="tightest"
            figure={train.tightest}
            note={train.tightest.label.replace('tightest, ', '')}
            signed
          >
            {#snippet mark()}<Mark fuel={train.name} letter={LETTERS[train.name] ?? ''} />{/snippet}
          </LedgerRow>
        {/if}
      {/each}
    {/if}
    <LedgerMethod {snapshot} {ledger} />
    {#if unsettled}
      <p class="method">
        <a href={`/jobs/${snapshot.id}/fuel_path/ready`}>Readiness</a>
        <span>{unsettled} to settle</span>
      </p>
    {/if}
  {:else}
    <h2>Ledger</h2>
    <p class="quiet">Give the running rating and this column fills: output, run time, gas flow.</p>
  {/if}

  {#each stops as caution (caution.key)}
    <p class="stop" role="alert"><strong>Stop</strong> · {caution.text}</p>
  {/each}
  {#if minds.length}
    <div class="mind">
      <strong>{minds.length} {minds.length === 1 ? 'caution' : 'cautions'}</strong>
      <ul>
        {#each minds as caution (caution.key)}<li>{caution.text}</li>{/each}
      </ul>
    </div>
  {/if}
</section>

<style>
  .stop,
  .mind {
    margin-top: 0.8rem;
    border-left: 3px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.55rem 0.75rem;
    border-radius: 0 0.375rem 0.375rem 0;
    font-size: 0.9rem;
  }
  .mind {
    border-color: var(--color-primary);
    background: var(--tint);
  }
  .mind li {
    margin-top: 0.35rem;
  }
</style>

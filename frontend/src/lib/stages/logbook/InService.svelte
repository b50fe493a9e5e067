<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { written } from '$lib/stages/logbook/days';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    found: NonNullable<Snapshot['logbook']>;
  }
  let { found }: Props = $props();
  const job = useJob();
</script>

<section class="section sums">
  <div>
    <h2>In service</h2>
    <dl>
      <dt>Ran</dt>
      <dd data-total>
        {found.total[prefs.system]}{found.since ? ` since ${written(found.since)}` : ''}
      </dd>
      {#if found.meter}<dt>Hour meter</dt>
        <dd data-meter>{found.meter[prefs.system]}</dd>{/if}
      {#each found.fuels as one (one.fuel)}
        <dt>{one.name}</dt>
        <dd>{one.hours[prefs.system]} in {one.runs} {one.runs === 1 ? 'run' : 'runs'}</dd>
      {/each}
      {#if found.rate}<dt>A month</dt>
        <dd><Figure figure={found.rate} band /></dd>{/if}
    </dl>
  </div>
  <div class="begin">
    <TextField path="logbook.since" label="In service since" placeholder="2026-11-27" />
    <QuantityField path="logbook.meter" hint="What it read when it was handed over." />
    <Tick path="logbook.dusty" checked={job().settled?.job.logbook?.dusty ?? false}
      >where air is dusty: filters twice as often</Tick
    >
  </div>
</section>

<style>
  .sums {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(18rem, 1fr));
    gap: 1rem 2rem;
  }
  .sums h2 {
    font-weight: 600;
    margin-bottom: 0.4rem;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 0.25rem 1.2rem;
  }
  dt {
    color: var(--muted);
  }
  .begin {
    display: grid;
    gap: 0.6rem;
    align-content: start;
  }
</style>

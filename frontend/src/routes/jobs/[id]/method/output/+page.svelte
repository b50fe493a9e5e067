<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Slider from '$lib/ui/Slider.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { SCHOOLS } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';
  import Always from '$lib/frame/Always.svelte';
  import Falls from '$lib/stages/method/Falls.svelte';
  import Flows from '$lib/stages/method/Flows.svelte';
  import RunTable from '$lib/stages/method/RunTable.svelte';
  import SchoolTable from '$lib/stages/method/Schools.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let now = $derived(job().now);
  let at = $derived(`sites.${now?.job.site ?? 's1'}`);
  let site = $derived(now?.job.sites[now.job.site]);
  let name = $derived(site?.name || 'this site');
  let schools = $derived(now?.job.schools);
  const told = (value: string | undefined) => SCHOOLS.find(([key]) => key === value)?.[1] ?? '';
  let shown = $derived(
    (field: string, fallback: string) => now?.shown[`${at}.${field}`]?.[prefs.system] ?? fallback
  );
  // What is at hand is live while dragging; the other sizes follow when the change rests.
  let runs = $derived([
    ...(now?.ledger?.runs ?? []),
    ...(now?.runs ?? job().settled?.runs ?? []).filter((run) => !run.at_hand)
  ]);
</script>

<SheetHead
  title={`What it puts out at ${name}`}
  text={`Fuel by ${told(schools?.fuel)}, air by ${told(schools?.air)}. Any figure opens its working.`}
/>

{#if now?.output}
  <div class="air">
    <Slider
      path={`${at}.elevation`}
      label="Elevation"
      low={0}
      high={3200}
      assumed={0}
      steps={{ us: 50, metric: 10 }}
    />
    <Slider
      path={`${at}.hottest`}
      label="Hottest day"
      low={258.15}
      high={323.15}
      assumed={298.15}
      steps={{ us: 1, metric: 1 }}
    />
    <p class="sigma">
      <span class="quiet">air density, of sea level's</span>
      <Figure figure={now.output.air} />
    </p>
  </div>
  <Falls output={now.output} />

  <section class="section">
    <h2>How long it runs</h2>
    <RunTable
      {runs}
      hottest={shown('hottest', prefs.system === 'us' ? '77 °F, assumed' : '25 °C, assumed')}
      coldest={shown('coldest', prefs.system === 'us' ? '32 °F, assumed' : '0 °C, assumed')}
    />
  </section>
  {#if now.ledger?.flows.length}
    <section class="section"><Flows flows={now.ledger.flows} /></section>
  {/if}
  <section class="section">
    <div class="grid-2">
      <ChoiceField path="schools.fuel" label="Fuel by" options={SCHOOLS} />
      <ChoiceField path="schools.air" label="Elevation and heat by" options={SCHOOLS} />
    </div>
    <SchoolTable
      output={now.output}
      chosen={`fuel by ${told(schools?.fuel)}, air by ${told(schools?.air)}`}
    />
  </section>
  <section class="section">
    <h2>What it must carry</h2>
    <div class="grid-2">
      <QuantityField path="load.planned" assumed="half the rating, assumed" />
      <QuantityField path="load.largest_start" hint="The worst moment, in all." />
    </div>
    <a class="btn btn-sm" href={`/api/jobs/${job().id}/output.csv?system=${prefs.system}`}>
      <Download size={16} />Table as CSV
    </a>
  </section>
  <Always />
{:else if now}
  <p>
    Give the running rating first, from the data plate:
    <a class="underline font-semibold" href={`/jobs/${job().id}/intake/set?field=set.running`}
      >to the set</a
    >.
  </p>
{/if}

<style>
  .air {
    display: grid;
    grid-template-columns: 1fr 1fr auto;
    gap: 0.4rem 1.5rem;
    margin-bottom: 0.8rem;
  }
  .sigma {
    display: flex;
    flex-direction: column;
    align-items: end;
    font-size: 0.9rem;
  }
  @media (max-width: 699px) {
    .air {
      grid-template-columns: 1fr 1fr;
    }
    .sigma {
      grid-column: 1 / -1;
      flex-direction: row;
      justify-content: space-between;
    }
  }
</style>

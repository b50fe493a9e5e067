<script lang="ts">
  import { fuelOf } from '$lib/ui/fuels';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import MeterTaps from './MeterTaps.svelte';
  import type { LoadRun, LoadTest } from './types';

  interface Props {
    test: LoadTest;
    run: LoadRun;
  }
  let { test, run }: Props = $props();
  const job = useJob();
  let open = $state(false);
  let weighed = $derived(['tank', 'cylinder'].includes(fuelOf(test.fuel)?.source ?? ''));
  let key = $derived(`${test.key}-${run.key}`);
  let weighIn = $derived(`set.weigh_ins.${key}`);
  let clocked = $derived(`set.clocked.${key}`);
  let begun = $derived(
    weighed
      ? job().settled?.job.set.weigh_ins[key] !== undefined
      : job().settled?.job.set.clocked[key] !== undefined
  );
  const fact = (path: string, value: number) => ({
    path,
    value: { value, origin: 'measured', typed: '' }
  });

  function begin() {
    open = true;
    if (begun) return;
    if (weighed) {
      job().setAll([
        { path: weighIn, value: { fuel: test.fuel } },
        ...(run.energy
          ? [fact(`${weighIn}.energy`, run.energy.value), fact(`${weighIn}.duration`, run.span_s)]
          : [])
      ]);
    } else {
      job().setAll([
        { path: clocked, value: { fuel: test.fuel } },
        ...(test.heating ? [{ path: `${clocked}.heating`, value: test.heating }] : []),
        ...(run.held ? [fact(`${clocked}.load`, run.held.value)] : [])
      ]);
    }
  }
</script>

{#if !run.simulated}
  <h2>Fuel used</h2>
  {#if !begun && !open}
    <p class="quiet">
      {weighed
        ? 'Weighed before and after, with the energy delivered, it replaces the estimate.'
        : "The gas meter's test dial clocked at a steady load replaces the estimate."}
      <button class="btn btn-sm" onclick={begin}>{weighed ? 'Weigh in' : 'Clock the meter'}</button>
    </p>
  {:else if weighed}
    <div class="fields">
      <QuantityField path={`${weighIn}.before`} />
      <QuantityField path={`${weighIn}.after`} />
      <QuantityField path={`${weighIn}.energy`} />
      <QuantityField path={`${weighIn}.duration`} />
      <QuantityField path={`${weighIn}.scale`} assumed={0.05} />
    </div>
  {:else}
    <MeterTaps path={clocked} dials={test.dials} />
    <div class="fields">
      <QuantityField path={`${clocked}.flow`} />
      <QuantityField path={`${clocked}.load`} />
      <QuantityField path={`${clocked}.heating`} hint="Empty: as usual for this gas." />
    </div>
  {/if}
  {#if run.used}
    <p class="quiet" data-used>
      <Figure figure={run.used} /> of the fuel its class uses at that load.
    </p>
  {/if}
{/if}

<style>
  h2 {
    font-weight: 700;
    margin-top: 0.5rem;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
    gap: 0 1rem;
    max-width: 44rem;
  }
</style>

<script lang="ts">
  import FuelTabs from '$lib/frame/FuelTabs.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import BenchRun from '$lib/stages/load_test/BenchRun.svelte';
  import Decision from '$lib/stages/load_test/Decision.svelte';
  import FuelUsed from '$lib/stages/load_test/FuelUsed.svelte';
  import RunPlug from '$lib/stages/load_test/RunPlug.svelte';
  import RunReadings from '$lib/stages/load_test/RunReadings.svelte';
  import Forbidden from '$lib/frame/Forbidden.svelte';
  import { BenchLive } from '$lib/stages/first_start/bench.svelte';
  import TestTop from '$lib/stages/load_test/TestTop.svelte';
  import RunsTried from '$lib/stages/load_test/RunsTried.svelte';

  const job = useJob();
  let tests = $derived(job().now?.load_tests ?? job().settled?.load_tests ?? []);
  let chosen = $state('');
  let test = $derived(tests.find((one) => one.fuel === chosen) ?? tests[0]);
  let fuel = $derived(test?.fuel ?? 'propane');
  let bench = $derived(new BenchLive(job(), fuel));
  let looked = $state('');
  let begun = $state('');
  let run = $derived(test?.runs.find((one) => one.key === looked) ?? test?.runs.at(-1));
  function begin() {
    if (!test) return;
    const key = freshKey('r');
    looked = begun = key;
    const path = `load_tests.${test.key}.runs.${key}`;
    const origin = 'measured' as const;
    job().setAll([
      { path, value: {} },
      ...(!test.gas && test.jet ? [{ path: `${path}.jet`, typed: test.jet, origin }] : []),
      ...(test.gas && test.screw ? [{ path: `${path}.turns`, typed: test.screw, origin }] : [])
    ]);
  }
</script>

<SheetHead
  title={test ? `Load test on ${test.name}` : 'Load test'}
  text="Near what it gives on this fuel here, 20 to 30 minutes, the throttle seen to open; then the plug."
>
  <FuelTabs
    fuels={tests}
    chosen={test?.fuel}
    choose={(fuel) => {
      chosen = fuel;
      looked = '';
    }}
  />
</SheetHead>

{#if !test}
  <p class="quiet">
    No train and no method yet: choose the method first, then every fuel's load test stands here.
  </p>
{:else}
  <Forbidden no="No load" gas={test.name} why={test.forbidden} />
  <TestTop {test} />

  <section aria-labelledby="run">
    <header>
      <h2 id="run">Run under load</h2>
      {#if test.runs.length > 1}
        <RunsTried {test} {run} look={(key) => (looked = key)} />
      {:else if run?.jet || run?.turns}
        <span class="quiet num">{run.jet ? `jet ${run.jet}` : `${run.turns} turns`}</span>
      {/if}
      {#if !run || run.decided}
        <button class="btn" class:btn-primary={!run} onclick={begin}
          >{run ? 'Another run' : 'Begin the run'}</button
        >
      {/if}
      {#if run}
        <button
          class="link"
          onclick={() => job().remove(`load_tests.${test?.key}.runs.${run?.key}`)}
          >take this run out</button
        >
      {/if}
    </header>
    {#if run}
      {#key run.key}
        <RunReadings {test} {run} begun={run.key === begun} />
        <h2>Plug</h2>
        <RunPlug {test} {run} />
        <FuelUsed {test} {run} />
        <h2>What follows</h2>
        <Decision {test} {run} begun={(key) => (looked = begun = key)} />
      {/key}
    {:else}
      <p class="quiet">
        Plug new or burnt clean in, its look noted; loads plugged in but switched off; set outdoors,
        exhaust away from people.
      </p>
    {/if}
  </section>
  {#key bench}<BenchRun {test} {run} {bench} />{/key}
{/if}

<style>
  section {
    border-top: 1px solid var(--rule);
    margin-top: 0.8rem;
    padding-top: 0.6rem;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    align-items: center;
    margin-bottom: 0.4rem;
  }
  h2 {
    font-weight: 700;
    margin-top: 0.5rem;
  }
  header h2 {
    margin: 0;
  }
  .link {
    font-size: 0.85rem;
    margin-left: auto;
  }
</style>

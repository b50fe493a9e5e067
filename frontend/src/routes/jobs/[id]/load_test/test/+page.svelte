<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import FuelTabs from '$lib/frame/FuelTabs.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import BankPlan from '$lib/stages/load_test/BankPlan.svelte';
  import BenchRun from '$lib/stages/load_test/BenchRun.svelte';
  import Decision from '$lib/stages/load_test/Decision.svelte';
  import FuelUsed from '$lib/stages/load_test/FuelUsed.svelte';
  import RunPlug from '$lib/stages/load_test/RunPlug.svelte';
  import RunReadings from '$lib/stages/load_test/RunReadings.svelte';
  import { DECIDED, type What } from '$lib/stages/load_test/types';
  import Forbidden from '$lib/frame/Forbidden.svelte';
  import { BenchLive } from '$lib/stages/first_start/bench.svelte';

  const job = useJob();
  let tests = $derived(job().now?.load_tests ?? job().settled?.load_tests ?? []);
  let chosen = $state('');
  let test = $derived(tests.find((one) => one.fuel === chosen) ?? tests[0]);
  let fuel = $derived(test?.fuel ?? 'propane');
  let bench = $derived(new BenchLive(job(), fuel));
  let bare = $derived(job().settled?.job.set.set_class === 'engine');
  let drives = $derived(job().settled?.job.set.drives ?? '');
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
  <div class="top">
    <dl>
      <div>
        <dt>Expected here</dt>
        <dd><Figure figure={test.expected} band size="big" /></dd>
      </div>
      <div>
        <dt>Counts from</dt>
        <dd><Figure figure={test.least} /></dd>
      </div>
      {#if test.flow}
        <div>
          <dt>{test.name}, full load</dt>
          <dd><Figure figure={test.flow} /></dd>
        </div>
      {/if}
      {#if test.gas && test.screw}
        <div>
          <dt>Load screw locked</dt>
          <dd class="num">{test.screw} turns</dd>
        </div>
      {/if}
      {#if !test.gas}
        <div>
          <dt>Jet in it</dt>
          <dd>
            <span class="num">{test.jet || 'not known'}</span>
            <a href={`/jobs/${job().id}/load_test/jets`}>Jets</a>
          </dd>
        </div>
      {/if}
    </dl>
    {#if bare}
      <p data-driven>
        Load it by what it drives{drives ? `, ${drives}` : ''}: at least
        <Figure figure={test.least} /> by its own plate or curve, typed as the output with each reading,
        and the speed by a tachometer beside it.
      </p>
    {:else}
      <BankPlan {test} />
    {/if}
  </div>

  <section aria-labelledby="run">
    <header>
      <h2 id="run">Run under load</h2>
      {#if test.runs.length > 1}
        <ol aria-label="Runs in order">
          {#each test.runs as one, i (one.key)}
            <li>
              <button
                class="btn btn-sm"
                class:btn-neutral={one === run}
                aria-pressed={one === run}
                onclick={() => (looked = one.key)}
                >{i + 1}{one.jet ? `: jet ${one.jet}` : one.turns ? `: ${one.turns} turns` : ''}
                <span class="was"
                  >{one.decided ? DECIDED[one.decided as What].toLowerCase() : 'open'}</span
                ></button
              >
            </li>
          {/each}
        </ol>
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
  dd a {
    text-decoration: underline;
  }
  .top {
    display: grid;
    grid-template-columns: minmax(11rem, 15rem) 1fr;
    gap: 0.5rem 1.8rem;
    align-items: start;
  }
  dl {
    display: grid;
    gap: 0.3rem;
  }
  dt {
    font-size: 0.8rem;
    color: var(--muted);
  }
  dd {
    font-weight: 600;
  }
  dd :global(.figure) {
    justify-content: start;
    text-align: left;
  }
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
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
  }
  .was {
    font-weight: 400;
    opacity: 0.8;
  }
  .link {
    font-size: 0.85rem;
    margin-left: auto;
  }
  @media (max-width: 700px) {
    .top {
      grid-template-columns: 1fr;
    }
    dl {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>

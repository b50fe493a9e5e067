<script lang="ts">
  import { THROTTLE_OPENED } from '$lib/api/published';
  import { takes } from '$lib/ui/focus';
  import Figure from '$lib/ui/Figure.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import ReadingsFile from '$lib/ui/ReadingsFile.svelte';
  import { freshKey, signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import LoadReadings from './LoadReadings.svelte';
  import type { LoadRun, LoadTest } from './types';
  import RunHeld from '$lib/stages/load_test/RunHeld.svelte';

  interface Props {
    test: LoadTest;
    run: LoadRun;
    /** It was begun just now: its first reading is the next thing to do. */
    begun: boolean;
  }
  let { test, run, begun }: Props = $props();
  const job = useJob();
  let at = $derived(`load_tests.${test.key}.runs.${run.key}`);
  let typing = $state('');
  let share = $derived(Math.min(1, run.seconds / test.most_s));

  function note() {
    const first = run.readings.find((one) => one.after);
    const kept = first && job().settled?.job.load_tests[test.key]?.runs?.[run.key];
    const zero = first ? kept?.readings?.[first.key] : undefined;
    const since = zero?.on
      ? (Date.now() - Date.parse(zero.on)) / 60000 + (zero.after?.value ?? 0) / 60
      : 0;
    const key = freshKey('m');
    typing = key;
    job().setAll([
      { path: `${at}.readings.${key}`, value: { ...signed() } },
      {
        path: `${at}.readings.${key}.after`,
        typed: `${Math.min(240, Math.max(0, since)).toFixed(1)} min`,
        origin: 'measured' as const
      }
    ]);
  }
</script>

<div class="clock" data-seconds={run.seconds}>
  <div class="bar" role="img" aria-label={`${Math.floor(run.seconds / 60)} minutes at load`}>
    <span class="done" style:width={`${share * 100}%`}></span>
    <span class="mark" style:left={`${(test.least_s / test.most_s) * 100}%`}></span>
  </div>
  <p>
    <Figure figure={run.time} /> at load
    <span class="quiet">Needs 20 to 30 min. Only readings at load count.</span>
  </p>
</div>

<RunHeld {run} {test} />

{#if run.remarks.length}
  <ul class="remarks">
    {#each run.remarks as one (one.text)}
      <li class={one.severity} data-remark={one.severity}>{one.text}</li>
    {/each}
  </ul>
{/if}

<LoadReadings {test} {run} bind:typing />
<div class="under">
  <button
    class="btn"
    class:btn-primary={!run.counts && !run.simulated}
    disabled={test.forbidden.length > 0}
    use:takes={begun}
    onclick={note}>Note a reading</button
  >
  <ReadingsFile
    file={`load/${test.key}/${run.key}`}
    at={`${at}.readings`}
    words="after (min), output or volts and amps, λ, throttle and the rest"
  />
  <div class="small">
    <ChoiceField path={`${at}.opened`} label="Throttle under load" options={THROTTLE_OPENED} />
    <QuantityField path={`${at}.outside`} />
    <QuantityField path={`${at}.held`} />
  </div>
</div>

<style>
  .clock {
    display: grid;
    gap: 0.2rem;
    max-width: 40rem;
  }
  .bar {
    position: relative;
    height: 0.8rem;
    border: 1px solid var(--color-base-content);
    border-radius: 0.2rem;
    overflow: hidden;
  }
  .done {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--color-primary);
  }
  .mark {
    position: absolute;
    inset: 0 auto 0 auto;
    width: 2px;
    background: var(--color-base-content);
  }
  .clock .quiet {
    font-size: 0.85rem;
  }
  .remarks li {
    border-left: 4px solid var(--color-warning);
    padding: 0.1rem 0.6rem;
    margin: 0.2rem 0;
    font-weight: 600;
  }
  .remarks .stop {
    border-left-color: var(--color-error);
    background: var(--stop-tint);
  }
  .under {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 0.5rem;
    margin-top: 0.5rem;
    justify-items: start;
  }
  .small {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
    gap: 0 1rem;
    width: 100%;
    max-width: 44rem;
  }
</style>

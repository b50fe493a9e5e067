<script lang="ts">
  import { freshKey, signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import BenchHands from '$lib/stages/first_start/BenchHands.svelte';
  import type { BenchLive } from '$lib/stages/first_start/bench.svelte';
  import type { LoadRun, LoadTest } from './types';

  interface Props {
    test: LoadTest;
    run: LoadRun | undefined;
    bench: BenchLive;
  }
  let { test, run, bench }: Props = $props();
  const job = useJob();
  const ON_PAGE: Record<string, string> = { lambda: 'lam' };
  const TAKEN = [
    'output',
    'volts_a',
    'volts_b',
    'volts_c',
    'amps_a',
    'amps_b',
    'amps_c',
    'hertz',
    'speed',
    'throttle',
    'lambda',
    'exhaust',
    'co'
  ];
  let at = $derived(`load_tests.${test.key}.runs.${run?.key}`);
  /** Bench time at which this run was loaded; of another run there is none. */
  let zero = $state<{ run: string; at: number }>();

  // What the run says is in it goes into the bench, too.
  let jet = $derived(run?.jet_ratio ?? 1);
  let turns = $derived(test.gas && run?.turns ? Number(run.turns) : undefined);
  let up = $derived(bench.now !== undefined);
  $effect(() => {
    if (up && !test.gas) void bench.hands({ jet });
  });
  $effect(() => {
    if (up && turns !== undefined) void bench.hands({ turns });
  });

  function read() {
    const { now } = bench;
    if (!now || !run) return;
    const last = run.readings.at(-1);
    if (zero?.run !== run.key)
      zero = { run: run.key, at: now.at_s - (last ? seconds(last.key) : 0) };
    const fact = (value: number) => ({ value, origin: 'simulated', typed: '' });
    const shown = now.channels.filter((one) => TAKEN.includes(one.key));
    job().setAll([
      {
        path: `${at}.readings.${freshKey('s')}`,
        value: {
          after: fact(Math.max(0, now.at_s - zero.at)),
          ...Object.fromEntries(shown.map((one) => [ON_PAGE[one.key] ?? one.key, fact(one.value)])),
          ran: now.running ? 'smooth' : 'died',
          smell: 'none',
          ...signed()
        }
      }
    ]);
  }

  function seconds(reading: string): number {
    const kept = job().settled?.job.load_tests[test.key]?.runs?.[run?.key ?? ''];
    return kept?.readings?.[reading]?.after?.value ?? 0;
  }

  async function runOn() {
    await bench.act('run', 300);
    read();
  }

  async function plug() {
    await bench.act('plug');
    const { by, on } = signed();
    if (!run || !bench.now?.plug) return;
    job().setAll([
      { path: `${at}.plug.after`, value: bench.now.plug },
      { path: `${at}.plug.origin`, value: 'simulated' },
      { path: `${at}.plug.by`, value: by },
      { path: `${at}.plug.on`, value: on }
    ]);
  }
</script>

<BenchHands {bench} start={Number(test.screw) || 1} />
{#if bench.now && run}
  <div class="acts">
    <button
      class="btn btn-sm"
      disabled={!bench.now.running || bench.busy}
      onclick={() => bench.hands({ load_w: test.bank.total_w })}>Load it as planned</button
    >
    <button class="btn btn-sm" disabled={!bench.now.running || bench.busy} onclick={() => read()}
      >Read the bench</button
    >
    <button class="btn btn-sm" disabled={!bench.now.running || bench.busy} onclick={() => runOn()}
      >Run on 5 min and read</button
    >
    <button class="btn btn-sm" disabled={!bench.now.running || bench.busy} onclick={() => plug()}
      >Shut off, look at the plug</button
    >
  </div>
{/if}

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin-top: 0.4rem;
  }
</style>

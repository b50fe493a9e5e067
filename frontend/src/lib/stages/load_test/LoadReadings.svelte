<script lang="ts">
  import { RAN, SMELLS } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { opens } from '$lib/ui/focus';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import type { LoadRun, LoadTest } from './types';

  interface Props {
    test: LoadTest;
    run: LoadRun;
    /** Key of the reading being typed; empty while none is. */
    typing: string;
  }
  let { test, run, typing = $bindable() }: Props = $props();
  const job = useJob();
  const COLUMNS = [
    ['volts_a', 'volts A'],
    ['volts_b', 'volts B'],
    ['volts_c', 'volts C'],
    ['hertz', 'Hz'],
    ['throttle', 'throttle'],
    ['lam', 'λ'],
    ['suction', 'suction'],
    ['exhaust', 'exhaust']
  ] as const;
  let at = $derived(`load_tests.${test.key}.runs.${run.key}`);
  let columns = $derived(
    COLUMNS.filter(([key]) => run.readings.some((one) => one.shown[key] !== undefined))
  );
</script>

{#if run.readings.length}
  <div class="wide overflow-x-auto">
    <table class="readings">
      <thead>
        <tr>
          <th>Since loaded</th><th>Output</th>
          {#each columns as [key, name] (key)}
            <th>{test.legs === 1 && key === 'volts_a' ? 'volts' : name}</th>
          {/each}
          <th>Ran</th><th></th>
        </tr>
      </thead>
      <tbody>
        {#each run.readings as one, i (one.key)}
          <tr
            class:short={!one.counts}
            class:now={one.key === typing}
            data-load-reading={one.counts}
          >
            <td class="num">{one.after?.[prefs.system] ?? '–'}</td>
            <td class="num">{one.output?.[prefs.system] ?? '–'}</td>
            {#each columns as [key] (key)}
              <td class="num">{one.shown[key]?.[prefs.system] ?? '–'}</td>
            {/each}
            <td
              >{one.ran}{#if one.simulated}
                <b class="simulated">simulated</b>{/if}</td
            >
            <td class="acts">
              <button
                class="link"
                aria-label={`Change load reading ${i + 1}`}
                onclick={() => (typing = one.key)}>change</button
              >
              <button
                class="link"
                aria-label={`Take out load reading ${i + 1}`}
                onclick={() => job().remove(`${at}.readings.${one.key}`)}>take out</button
              >
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
<!-- Below the table: rows stand in the order of their times, and one that is typed would move. -->
{#if run.readings.some((one) => one.key === typing)}
  {#key typing}
    <div class="typing" use:opens>
      <div class="fields">
        <QuantityField path={`${at}.readings.${typing}.after`} />
        <QuantityField path={`${at}.readings.${typing}.output`} />
        <QuantityField
          path={`${at}.readings.${typing}.volts_a`}
          label={test.legs > 1 ? 'Volts, leg A' : 'Volts'}
        />
        <QuantityField
          path={`${at}.readings.${typing}.amps_a`}
          label={test.legs > 1 ? 'Amps, leg A' : 'Amps'}
        />
        {#if test.legs > 1}
          <QuantityField path={`${at}.readings.${typing}.volts_b`} />
          <QuantityField path={`${at}.readings.${typing}.amps_b`} />
        {/if}
        {#if test.legs > 2}
          <QuantityField path={`${at}.readings.${typing}.volts_c`} />
          <QuantityField path={`${at}.readings.${typing}.amps_c`} />
        {/if}
        <QuantityField path={`${at}.readings.${typing}.hertz`} />
        <QuantityField path={`${at}.readings.${typing}.throttle`} />
        <QuantityField path={`${at}.readings.${typing}.lam`} />
        {#if test.gas}<QuantityField path={`${at}.readings.${typing}.suction`} />{/if}
        <QuantityField path={`${at}.readings.${typing}.exhaust`} />
        <QuantityField path={`${at}.readings.${typing}.co`} />
        <QuantityField path={`${at}.readings.${typing}.air_co`} />
        <ChoiceField path={`${at}.readings.${typing}.ran`} label="It ran" options={RAN} />
        <ChoiceField path={`${at}.readings.${typing}.smell`} label="Smelled" options={SMELLS} />
        <button class="btn btn-sm" onclick={() => (typing = '')}>Close</button>
      </div>
    </div>
  {/key}
{/if}

<style>
  table {
    max-width: 52rem;
  }
  th,
  td {
    white-space: nowrap;
  }
  .short td {
    color: var(--muted);
  }
  .now td {
    background: var(--tint);
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
    gap: 0.1rem 0.8rem;
    align-items: center;
    border-left: 3px solid var(--color-primary);
    padding-left: 0.7rem;
  }
</style>

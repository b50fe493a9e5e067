<script lang="ts">
  import { PLUG_BEFORE } from '$lib/api/published';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import { signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import PlugChart from './PlugChart.svelte';
  import type { LoadRun, LoadTest } from './types';

  interface Props {
    test: LoadTest;
    run: LoadRun;
  }
  let { test, run }: Props = $props();
  const job = useJob();
  let at = $derived(`load_tests.${test.key}.runs.${run.key}.plug`);
  let open = $state(false);

  function choose(key: string) {
    const { by, on } = signed();
    job().setAll([
      { path: `${at}.after`, value: key },
      { path: `${at}.by`, value: by },
      { path: `${at}.on`, value: on }
    ]);
    open = false;
  }
</script>

<div class="row">
  <div class="w-44">
    <ChoiceField path={`${at}.before`} label="Plug went in" options={PLUG_BEFORE} />
  </div>
  <div class="says">
    {#if run.plug}
      <p data-plug-read={run.plug.leaning}>
        <b>{run.plug.name}.</b>
        {run.plug.text}
        {#if run.plug.why_not && !run.plug.counts}<span class="text-error font-semibold"
            >No evidence yet: {run.plug.why_not}</span
          >{/if}
      </p>
    {:else}
      <p class="quiet">
        Shut it off under load, let it cool, take the plug out and compare it with the pictures.
      </p>
    {/if}
  </div>
  <button class="btn btn-sm" aria-expanded={open} onclick={() => (open = !open)}
    >{run.plug ? 'Another picture' : 'Read the plug'}</button
  >
  <Photos subject={at} label="the plug" />
</div>
{#if open}<PlugChart chosen={run.plug?.key ?? ''} {choose} />{/if}

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    align-items: center;
    margin-bottom: 0.4rem;
  }

  .says {
    flex: 1;
    min-width: 15rem;
    font-size: inherit;
  }
</style>

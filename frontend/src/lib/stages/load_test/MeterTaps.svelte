<script lang="ts">
  import { api, ask, Refusal, type Figure as Shown } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    /** Where the flow is kept. */
    path: string;
    /** Test dials there are. */
    dials: { name: string; m3: number }[];
  }
  let { path, dials }: Props = $props();
  const id = $props.id();
  const job = useJob();
  /** Thin air in the pipe as well: a turn of the dial is less gas up high. */
  let height = $derived(
    job().settled?.job.sites[job().settled?.job.site ?? 's1']?.elevation?.value ?? null
  );
  let dial = $state(2);
  let taps = $state<number[]>([]);
  let trouble = $state('');
  let flow = $state.raw<Shown>();
  let turns = $derived(Math.max(0, taps.length - 1));
  let seconds = $derived(turns ? ((taps.at(-1) ?? 0) - (taps[0] ?? 0)) / 1000 : 0);

  async function tap() {
    taps = [...taps, performance.now()];
    // A flow of fewer taps is not kept as that of these while their answer is on its way.
    flow = undefined;
    if (turns < 1) return;
    trouble = '';
    const mine = taps;
    try {
      const body = {
        dial_m3: dials[dial]?.m3 ?? 0,
        turns,
        seconds_s: seconds,
        elevation_m: height,
        pressure_pa: null,
        gas_k: null,
        pilots_w: null,
        hhv_j_m3: null
      };
      const found = (await ask(api.POST('/api/quick/meter-clock', { body }))).figures[0];
      if (mine === taps) flow = found;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.errors[0]?.message ?? error.message;
    }
  }

  function keep() {
    if (!flow) return;
    job().setAll([
      { path: `${path}.flow`, value: { value: flow.value, origin: 'measured', typed: '' } }
    ]);
  }
</script>

<div class="taps">
  <label for={id}>Test dial, one turn</label>
  <select {id} class="select select-sm" bind:value={dial} onchange={() => (taps = [])}>
    {#each dials as one, i (one.name)}<option value={i}>{one.name}</option>{/each}
  </select>
  <button class="btn" onclick={tap}
    >{taps.length ? 'Past the same mark' : 'Tap as it passes a mark'}</button
  >
  <span class="num" role="status"
    >{turns} turn{turns === 1 ? '' : 's'}{turns ? ` in ${seconds.toFixed(1)} s` : ''}</span
  >
  {#if flow && turns}
    <Figure figure={flow} band />
    <button class="btn btn-sm btn-primary" onclick={keep}>Keep it</button>
    <button
      class="link"
      onclick={() => {
        taps = [];
        flow = undefined;
      }}>again</button
    >
  {/if}
  {#if trouble}<p class="says wrong" role="alert">{trouble}</p>{/if}
</div>

<style>
  .taps {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.8rem;
    align-items: center;
    margin: 0.3rem 0;
  }
  select {
    width: 10rem;
  }
</style>

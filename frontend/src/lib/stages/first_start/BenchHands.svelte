<script lang="ts">
  import { onMount } from 'svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { scaled, useReference } from '$lib/session/reference';
  import type { BenchLive } from './bench.svelte';
  import BenchSlide from './BenchSlide.svelte';
  import BenchTick from './BenchTick.svelte';
  import BenchFrame from './BenchFrame.svelte';
  import Strip from './Strip.svelte';
  import BenchAids from '$lib/stages/first_start/BenchAids.svelte';

  interface Props {
    bench: BenchLive;
    start: number;
  }
  let { bench, start }: Props = $props();
  const id = $props.id();
  const reference = useReference();
  let now = $derived(bench.now);
  let seed = $state(1);
  let press = $state(2);
  let turns = $derived(now?.hands.turns ?? 0);
  let most = $derived(now?.most_turns ?? 0);
  let right = $derived(now?.hands.right_turns ?? turns);
  let load = $derived(now?.hands.load_w ?? 0);
  let loadShown = $derived(
    reference.data ? Math.round(scaled(reference.data, 'power', prefs.system, load)) : load
  );
  onMount(() => {
    void bench.look();
    return () => bench.close();
  });

  async function setUp() {
    await bench.setUp(seed);
    await bench.hands({ turns: start });
    seed += 1;
  }
</script>

<BenchFrame
  {bench}
  label="Simulated bench"
  before="Without a machine at hand: an engine like this one, with its own secrets."
  during="Practice, and what the readings should look like. Nothing of it proves the machine."
  first="Set up the bench"
  another="Another engine"
  {setUp}
>
  {#if now}
    <div class="hands">
      {#if bench.gas}
        <BenchTick
          text="gas open"
          on={now.hands.gas_open}
          set={(gas_open) => bench.hands({ gas_open })}
        />
      {/if}
      <BenchTick
        text="gasoline open"
        on={now.hands.gasoline_open}
        set={(gasoline_open) => bench.hands({ gasoline_open })}
      />
      <BenchTick
        text="choke shut"
        on={(now.hands.choke ?? 0) > 0.5}
        set={(shut) => bench.hands({ choke: shut ? 1 : 0 })}
      />
      {#if now.inverter}
        <BenchTick text="eco" on={now.hands.eco} set={(eco) => bench.hands({ eco })} />
      {/if}
      <BenchTick
        text="stop switch at run"
        on={now.hands.switch_on}
        set={(switch_on) => bench.hands({ switch_on })}
      />
      {#if bench.gas}
        <span class="press">
          <button class="btn btn-sm" onclick={() => bench.act('prime', press)}>Press primer</button>
          <label for={`${id}-p`}>for</label>
          <select id={`${id}-p`} class="select select-sm" bind:value={press}>
            {#each [1, 2, 3, 5, 10] as seconds (seconds)}
              <option value={seconds}>{seconds} s</option>
            {/each}
          </select>
        </span>
      {/if}
      <button
        class="btn btn-sm"
        class:btn-primary={!now.running}
        onclick={() => bench.act('pull')}
        disabled={bench.busy}>Start it</button
      >
      {#if now.tripped}
        <button class="btn btn-sm" onclick={() => bench.act('reset')}>Reset the overload</button>
      {/if}
    </div>
    <div class="sliders">
      {#if bench.gas}
        <BenchSlide
          text="Load screw"
          unit="turns"
          shown={turns.toFixed(2)}
          value={turns}
          {most}
          step={0.05}
          set={(turns) => bench.hands({ turns })}
        />
        {#if now.barrels > 1}
          <BenchSlide
            text="Right screw"
            unit="turns"
            shown={right.toFixed(2)}
            value={right}
            {most}
            step={0.05}
            set={(right_turns) => bench.hands({ right_turns })}
          />
        {/if}
      {/if}
      <BenchSlide
        text="Load"
        unit="W"
        shown={loadShown}
        value={load}
        most={now.limit_w}
        step={50}
        set={(load_w) => bench.hands({ load_w })}
      />
    </div>
    <p class="state" role="status" data-runs={now.running}>
      <b class="simulated">simulated</b>
      <b>{now.tripped ? 'Overload: output off.' : now.running ? 'Runs.' : 'Stands.'}</b>
      {bench.trouble || now.said}
    </p>
    <BenchAids {bench} {now} {id} />
    <Strip {bench} />
  {/if}
</BenchFrame>

<style>
  .hands {
    display: flex;
    flex-wrap: wrap;
    gap: 0.35rem 0.9rem;
    align-items: center;
  }
  .press {
    display: inline-flex;
    gap: 0.35rem;
    align-items: center;
    font-weight: 400;
  }
  .press select {
    width: 4.6rem;
  }
  .sliders {
    display: grid;
    grid-template-columns: minmax(9.5rem, auto) 1fr;
    gap: 0.25rem 0.8rem;
    align-items: center;
  }
  .simulated {
    color: var(--color-error);
  }
</style>

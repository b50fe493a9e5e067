<script lang="ts">
  import { onMount } from 'svelte';
  import { prefs } from '$lib/prefs.svelte';
  import { scaled, useReference } from '$lib/reference';
  import type { BenchLive } from './bench.svelte';
  import Strip from './Strip.svelte';

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

<section aria-label="Simulated bench">
  <header>
    <h2>Simulated bench</h2>
    <p class="quiet">
      {#if now}
        Practice, and what the readings should look like. Nothing of it proves the machine.
      {:else}
        Without a machine at hand: an engine like this one, with its own secrets.
      {/if}
    </p>
    <button class="btn btn-sm" onclick={setUp} disabled={bench.busy}
      >{now ? 'Another engine' : 'Set up the bench'}</button
    >
  </header>
  {#if now}
    <div class="hands">
      {#if bench.gas}
        <label class="tick"
          ><input
            class="checkbox checkbox-sm"
            type="checkbox"
            checked={now.hands.gas_open}
            onchange={(e) => bench.hands({ gas_open: e.currentTarget.checked })}
          />gas open</label
        >
      {/if}
      <label class="tick"
        ><input
          class="checkbox checkbox-sm"
          type="checkbox"
          checked={now.hands.gasoline_open}
          onchange={(e) => bench.hands({ gasoline_open: e.currentTarget.checked })}
        />gasoline open</label
      >
      <label class="tick"
        ><input
          class="checkbox checkbox-sm"
          type="checkbox"
          checked={(now.hands.choke ?? 0) > 0.5}
          onchange={(e) => bench.hands({ choke: e.currentTarget.checked ? 1 : 0 })}
        />choke shut</label
      >
      {#if now.inverter}
        <label class="tick"
          ><input
            class="checkbox checkbox-sm"
            type="checkbox"
            checked={now.hands.eco}
            onchange={(e) => bench.hands({ eco: e.currentTarget.checked })}
          />eco</label
        >
      {/if}
      <label class="tick"
        ><input
          class="checkbox checkbox-sm"
          type="checkbox"
          checked={now.hands.switch_on}
          onchange={(e) => bench.hands({ switch_on: e.currentTarget.checked })}
        />stop switch at run</label
      >
      {#if bench.gas}<span class="press">
          <button class="btn btn-sm" onclick={() => bench.act('prime', press)}>Press primer</button>
          <label for={`${id}-p`}>for</label>
          <select id={`${id}-p`} class="select select-sm" bind:value={press}>
            {#each [1, 2, 3, 5, 10] as seconds (seconds)}<option value={seconds}>{seconds} s</option
              >{/each}
          </select>
        </span>{/if}
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
        <label for={`${id}-t`}>Load screw <b class="num">{turns.toFixed(2)}</b> turns</label>
        <input
          id={`${id}-t`}
          class="range range-xs"
          type="range"
          min="0"
          max={now.most_turns}
          step="0.05"
          value={turns}
          oninput={(e) => bench.hands({ turns: Number(e.currentTarget.value) })}
        />
      {/if}
      {#if bench.gas && now.barrels > 1}
        <label for={`${id}-r`}>Right screw <b class="num">{right.toFixed(2)}</b> turns</label>
        <input
          id={`${id}-r`}
          class="range range-xs"
          type="range"
          min="0"
          max={now.most_turns}
          step="0.05"
          value={right}
          oninput={(e) => bench.hands({ right_turns: Number(e.currentTarget.value) })}
        />
      {/if}
      <label for={`${id}-l`}>Load <b class="num">{loadShown}</b> W</label>
      <input
        id={`${id}-l`}
        class="range range-xs"
        type="range"
        min="0"
        max={now.limit_w}
        step="50"
        value={load}
        oninput={(e) => bench.hands({ load_w: Number(e.currentTarget.value) })}
      />
    </div>
    <p class="state" role="status" data-runs={now.running}>
      <b class="simulated">simulated</b>
      <b>{now.tripped ? 'Overload: output off.' : now.running ? 'Runs.' : 'Stands.'}</b>
      {bench.trouble || now.said}
    </p>
    {#if bench.gas && now.gauges.length}
      <p class="gauge">
        <label for={`${id}-g`}>Manometer</label>
        <select
          id={`${id}-g`}
          class="select select-sm"
          value={now.hands.gauge}
          onchange={(e) => bench.hands({ gauge: e.currentTarget.value })}
        >
          <option value="">put away</option>
          {#each now.gauges as one (one.key)}<option value={one.key}>{one.title}</option>{/each}
        </select>
      </p>
    {/if}
    {#if now.running}
      <p class="gauge">
        <a class="btn btn-sm" href={bench.sound()} download="bench.wav">Save its sound</a>
        <a class="link" href="/quick/rpm-from-sound">Speed by sound</a>
      </p>
    {/if}
    <Strip {bench} />
  {:else if bench.trouble}<p class="wrong" role="alert">{bench.trouble}</p>{/if}
</section>

<style>
  section {
    border-top: 2px dashed var(--color-error);
    padding-top: 0.5rem;
    margin-top: 0.8rem;
    display: grid;
    gap: 0.5rem;
  }
  header {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.8rem;
    align-items: baseline;
  }
  header p {
    flex: 1;
    min-width: 14rem;
    font-size: 0.9rem;
  }
  h2 {
    font-weight: 700;
  }
  .hands {
    display: flex;
    flex-wrap: wrap;
    gap: 0.35rem 0.9rem;
    align-items: center;
  }
  .tick,
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
  .range {
    width: 100%;
  }
  .gauge {
    display: flex;
    gap: 0.6rem;
    align-items: center;
  }
  .link {
    text-decoration: underline;
    color: var(--muted);
  }
  .gauge select {
    width: 22rem;
    max-width: 100%;
  }
  .simulated {
    color: var(--color-error);
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>

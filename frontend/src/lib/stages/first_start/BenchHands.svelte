<script lang="ts">
  import { onMount } from 'svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { scaled, useReference } from '$lib/session/reference';
  import type { BenchLive } from './bench.svelte';
  import BenchFrame from './BenchFrame.svelte';
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

{#snippet tick(text: string, on: boolean | null | undefined, set: (on: boolean) => void)}
  <label class="tick"
    ><input
      class="checkbox checkbox-sm"
      type="checkbox"
      checked={on ?? false}
      onchange={(event) => set(event.currentTarget.checked)}
    />{text}</label
  >
{/snippet}
{#snippet slide(
  key: string,
  text: string,
  unit: string,
  shown: string | number,
  value: number,
  most: number,
  step: number,
  set: (value: number) => void
)}
  <label for={`${id}-${key}`}>{text} <b class="num">{shown}</b> {unit}</label>
  <input
    id={`${id}-${key}`}
    class="w-full range-xs"
    type="range"
    min="0"
    max={most}
    {step}
    {value}
    oninput={(event) => set(Number(event.currentTarget.value))}
  />
{/snippet}

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
        {@render tick('gas open', now.hands.gas_open, (gas_open) => bench.hands({ gas_open }))}
      {/if}
      {@render tick('gasoline open', now.hands.gasoline_open, (gasoline_open) =>
        bench.hands({ gasoline_open })
      )}
      {@render tick('choke shut', (now.hands.choke ?? 0) > 0.5, (shut) =>
        bench.hands({ choke: shut ? 1 : 0 })
      )}
      {#if now.inverter}
        {@render tick('eco', now.hands.eco, (eco) => bench.hands({ eco }))}
      {/if}
      {@render tick('stop switch at run', now.hands.switch_on, (switch_on) =>
        bench.hands({ switch_on })
      )}
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
        {@render slide('t', 'Load screw', 'turns', turns.toFixed(2), turns, most, 0.05, (turns) =>
          bench.hands({ turns })
        )}
        {#if now.barrels > 1}
          {@render slide(
            'r',
            'Right screw',
            'turns',
            right.toFixed(2),
            right,
            most,
            0.05,
            (right_turns) => bench.hands({ right_turns })
          )}
        {/if}
      {/if}
      {@render slide('l', 'Load', 'W', loadShown, load, now.limit_w, 50, (load_w) =>
        bench.hands({ load_w })
      )}
    </div>
    <p class="state" role="status" data-runs={now.running}>
      <b class="simulated">simulated</b>
      <b>{now.tripped ? 'Overload: output off.' : now.running ? 'Runs.' : 'Stands.'}</b>
      {bench.trouble || now.said}
    </p>
    <div class="row">
      {#if bench.gas && now.gauges.length}
        <label for={`${id}-g`}>Manometer</label>
        <select
          id={`${id}-g`}
          class="select select-sm"
          value={now.hands.gauge}
          onchange={(event) => bench.hands({ gauge: event.currentTarget.value })}
        >
          <option value="">put away</option>
          {#each now.gauges as one (one.key)}<option value={one.key}>{one.title}</option>{/each}
        </select>
      {/if}
      {#if now.running}
        <button class="btn btn-sm" onclick={() => new Audio(bench.sound()).play()}>Hear it</button>
        <a class="btn btn-sm" href={bench.sound()} download="bench.wav">Save its sound</a>
        <a class="link" href="/quick/rpm-from-sound">Speed by sound</a>
      {/if}
    </div>
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

  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
  }
  .row select {
    width: 22rem;
    max-width: 100%;
  }
  .simulated {
    color: var(--color-error);
  }
</style>

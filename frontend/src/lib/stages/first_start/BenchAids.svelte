<script lang="ts">
  import type { BenchLive } from './bench.svelte';

  interface Props {
    bench: BenchLive;
    now: NonNullable<BenchLive['now']>;
    id: string;
  }
  let { bench, now, id }: Props = $props();
</script>

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

<style>
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
</style>

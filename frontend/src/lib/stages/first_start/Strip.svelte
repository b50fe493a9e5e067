<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import type { BenchLive } from './bench.svelte';

  interface Props {
    bench: BenchLive;
  }
  let { bench }: Props = $props();
  const FIRST = [
    'throttle',
    'speed',
    'output',
    'hertz',
    'lambda',
    'exhaust',
    'exhaust_b',
    'manometer',
    'inlet',
    'mass',
    'co'
  ];
  let channels = $derived(
    FIRST.filter((key) => bench.gas || key !== 'inlet').flatMap(
      (key) => bench.now?.channels.find((one) => one.key === key) ?? []
    )
  );
  const WIDE = 90;
  const HIGH = 18;
  function trace(values: number[]): string {
    if (values.length < 2) return 'M0 0';
    const low = Math.min(...values);
    const span = Math.max(...values) - low || Math.abs(low) * 0.02 || 1;
    const points = values.map(
      (value, i) =>
        `${((WIDE * i) / Math.max(values.length - 1, 1)).toFixed(1)} ${(HIGH - 2 - ((HIGH - 4) * (value - low)) / span).toFixed(1)}`
    );
    return `M${points.join('L')}`;
  }
</script>

<dl class="strip" aria-label="Instruments, simulated">
  {#each channels as one (one.key)}
    <div data-channel={one.key}>
      <dt>{one.name}</dt>
      <dd class="num">{one[prefs.system]}</dd>
      <svg viewBox="0 0 {WIDE} {HIGH}" aria-hidden="true">
        <path d={trace(bench.traces[one.key] ?? [])} />
      </svg>
    </div>
  {/each}
</dl>

<style>
  .strip {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(7.2rem, 1fr));
    gap: 0.35rem 0.8rem;
  }
  div {
    border-top: 1px solid var(--color-base-content);
    padding-top: 0.15rem;
    min-width: 0;
  }
  dt {
    font-size: 0.8rem;
    color: var(--muted);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  dd {
    font-size: 1.05rem;
    font-weight: 650;
    white-space: nowrap;
  }
  svg {
    width: 100%;
    height: 1.1rem;
  }
  path {
    fill: none;
    stroke: var(--muted);
    stroke-width: 1.2;
  }
</style>

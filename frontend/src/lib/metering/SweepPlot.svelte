<script lang="ts">
  import { prefs } from '$lib/prefs.svelte';
  import { scaled, useReference } from '$lib/reference';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    gas: GasMetering;
  }
  let { gas }: Props = $props();
  const reference = useReference();
  const HIGH = 270;
  const LEFT = 52;
  const BASE = HIGH - 34;
  /** As wide as there is room, so that letters keep their size on a phone. */
  let room = $state(660);
  let wide = $derived(Math.max(280, room));
  const TITLES = {
    output: 'Output held with the throttle just fully open',
    speed: 'Engine speed at full load',
    throttle: 'Throttle at the steady load'
  };
  let unit = $derived(reference.data?.kinds[gas.signal_kind]?.[prefs.system].text ?? '');
  let shown = $derived((value: number) =>
    reference.data ? scaled(reference.data, gas.signal_kind, prefs.system, value) : value
  );
  let read = $derived(gas.readings.filter((one) => one.turns > 0));
  let ran = $derived(read.filter((one) => one.ran !== 'died' && one.value > 0));
  let last = $derived(
    Math.min(
      gas.most,
      1.12 * Math.max(1, gas.next?.turns ?? 0, gas.rich?.value ?? 0, ...read.map((r) => r.turns))
    )
  );
  let ends = $derived.by(() => {
    const values = ran.map((one) => shown(one.value));
    const expected = gas.signal === 'output' ? gas.expected?.value : undefined;
    const high = Math.max(...values, ...(expected ? [shown(expected)] : []), 0.1);
    const low = Math.min(...values, high * 0.8);
    return [Math.max(0, low - 0.15 * (high - low)), high + 0.14 * (high - low)] as const;
  });
  let x = $derived((turns: number) => LEFT + ((wide - LEFT - 16) * turns) / last);
  let y = $derived(
    (value: number) => BASE - ((BASE - 16) * (shown(value) - ends[0])) / (ends[1] - ends[0])
  );
  let steps = $derived.by(() => {
    const span = ends[1] - ends[0];
    const step = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000];
    const size = step.find((one) => span / one <= 5) ?? span;
    const first = Math.ceil(ends[0] / size);
    return [...Array(Math.floor(ends[1] / size) - first + 1).keys()].map((i) => (first + i) * size);
  });
  let grid = $derived(
    (value: number) => BASE - ((BASE - 16) * (value - ends[0])) / (ends[1] - ends[0])
  );
  let ticks = $derived.by(() => {
    const size = last > 4 ? 1 : last > 2 ? 0.5 : 0.25;
    return [...Array(Math.floor(last / size) + 1).keys()].map((i) => i * size);
  });
  let curve = $derived.by(() => {
    const one = gas.curve;
    if (!one || ran.length < 3) return undefined;
    const inside = one.turns
      .map((turns, i) => ({ turns, i }))
      .filter(({ turns, i }) => turns <= last && shown(one.middle[i] ?? 0) > ends[0]);
    const line = (row: number[]) =>
      inside.map(({ turns, i }) => `${x(turns).toFixed(1)} ${y(row[i] ?? 0).toFixed(1)}`).join('L');
    const back = [...inside].reverse();
    const under = back.map(
      ({ turns, i }) => `${x(turns).toFixed(1)} ${y(one.low[i] ?? 0).toFixed(1)}`
    );
    return { middle: `M${line(one.middle)}`, area: `M${line(one.high)}L${under.join('L')}Z` };
  });
</script>

<figure bind:clientWidth={room}>
  <figcaption>{TITLES[gas.signal]}, {unit}, against turns from the seat</figcaption>
  <svg viewBox="0 0 {wide} {HIGH}" role="img" aria-label={`Sweep of ${read.length} readings`}>
    <clipPath id="sweep-plot"
      ><rect x={LEFT} y="0" width={wide - LEFT - 10} height={BASE} /></clipPath
    >
    {#if gas.lean && gas.rich && gas.setting}
      <rect
        class="plateau"
        x={x(gas.lean.value)}
        y="12"
        width={Math.max(0, x(gas.rich.value) - x(gas.lean.value))}
        height={BASE - 12}
      />
    {/if}
    {#each steps as value (value)}
      <path class="grid" d="M{LEFT} {grid(value)}H{wide - 10}" />
      <text class="num" x={LEFT - 6} y={grid(value) + 4} text-anchor="end"
        >{Number(value.toPrecision(6)).toLocaleString('en-US')}</text
      >
    {/each}
    {#each ticks as turns (turns)}
      <text class="num" x={x(turns)} y={BASE + 16} text-anchor="middle">{turns}</text>
    {/each}
    <text class="side" x={LEFT} y={HIGH - 2}>in: lean</text>
    <text class="side" x={wide - 10} y={HIGH - 2} text-anchor="end">out: rich</text>
    <g clip-path="url(#sweep-plot)">
      {#if curve}<path class="area" d={curve.area} /><path class="middle" d={curve.middle} />{/if}
      {#if gas.expected && gas.signal === 'output'}
        <path class="expected" d="M{LEFT} {y(gas.expected.value)}H{wide - 10}" />
        <text x={LEFT + 6} y={y(gas.expected.value) - 5}>expected here</text>
      {/if}
    </g>
    {#if gas.next}
      <path class="next" d="M{x(gas.next.turns)} 12V{BASE}" />
      <text
        class="asks"
        x={x(gas.next.turns) + (x(gas.next.turns) > wide - 120 ? -6 : 6)}
        y="24"
        text-anchor={x(gas.next.turns) > wide - 120 ? 'end' : 'start'}>next reading</text
      >
    {/if}
    {#if gas.setting}
      <path class="set" d="M{x(gas.setting.value)} 12V{BASE}" />
      <text class="at" x={x(gas.setting.value)} y={BASE - 8} text-anchor="middle"
        >set {gas.setting[prefs.system].text}</text
      >
    {/if}
    {#each read as one (one.key)}
      {#if one.ran === 'died' || one.value <= 0}
        <path class="died" d="M{x(one.turns) - 5} {BASE - 11}l10 10m0 -10l-10 10" />
        <text x={x(one.turns)} y={BASE - 15} text-anchor="middle">died</text>
      {:else}
        <circle cx={x(one.turns)} cy={y(one.value)} r="5" />
        {#if one.ran !== 'smooth'}
          <text x={x(one.turns) + 8} y={y(one.value) + 14}>{one.ran}</text>
        {/if}
      {/if}
    {/each}
  </svg>
</figure>

<style>
  figcaption {
    font-weight: 600;
    font-size: 0.92rem;
  }
  svg {
    width: 100%;
    height: auto;
  }
  text {
    font-size: 12px;
    fill: var(--muted);
  }
  .grid {
    stroke: var(--rule);
  }
  .plateau {
    fill: color-mix(in oklab, var(--color-success) 14%, var(--color-base-200));
  }
  .area {
    fill: color-mix(in oklab, var(--color-base-content) 9%, transparent);
  }
  .middle {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 1.6;
    stroke-dasharray: 5 4;
  }
  .expected {
    stroke: var(--muted);
    stroke-dasharray: 1 5;
    stroke-width: 1.5;
  }
  .next {
    stroke: var(--color-primary);
    stroke-width: 2;
    stroke-dasharray: 2 4;
  }
  .asks {
    fill: var(--color-primary);
    font-weight: 650;
  }
  .set {
    stroke: var(--color-success);
    stroke-width: 2.5;
  }
  .at {
    fill: var(--color-success);
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--color-base-200);
    stroke-width: 4px;
  }
  circle {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 2;
  }
  .died {
    stroke: var(--color-error);
    stroke-width: 2;
  }
</style>

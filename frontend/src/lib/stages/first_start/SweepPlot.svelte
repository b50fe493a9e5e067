<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { scaled, useReference } from '$lib/session/reference';
  import Plot, { type Field } from '$lib/ui/Plot.svelte';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    gas: GasMetering;
  }
  let { gas }: Props = $props();
  const reference = useReference();
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
  /** The curve through the readings with its band, as far as there is something to see of it. */
  function curve(field: Field): { middle: string; area: string } | undefined {
    const one = gas.curve;
    if (!one || ran.length < 3) return undefined;
    const inside = one.turns
      .map((turns, i) => ({ turns, i }))
      .filter(({ turns, i }) => turns <= last && shown(one.middle[i] ?? 0) > ends[0]);
    const at = (row: number[]) => (place: { turns: number; i: number }) =>
      `${field.x(place.turns).toFixed(1)} ${field.y(shown(row[place.i] ?? 0)).toFixed(1)}`;
    const high = inside.map(at(one.high)).join('L');
    const low = [...inside].reverse().map(at(one.low)).join('L');
    return { middle: `M${inside.map(at(one.middle)).join('L')}`, area: `M${high}L${low}Z` };
  }
</script>

<Plot
  title={`${TITLES[gas.signal]}, ${unit}, against turns from the seat`}
  label={`Sweep of ${read.length} readings`}
  x={[0, last]}
  y={ends}
>
  {#snippet children(field)}
    {@const drawn = curve(field)}
    {@const y = (value: number) => field.y(shown(value))}
    {#if gas.lean && gas.rich && gas.setting}
      <rect
        class="plateau"
        x={field.x(gas.lean.value)}
        y={field.top}
        width={Math.max(0, field.x(gas.rich.value) - field.x(gas.lean.value))}
        height={field.base - field.top}
      />
    {/if}
    <text x={field.left} y={field.base + 32}>in: lean</text>
    <text x={field.right} y={field.base + 32} text-anchor="end">out: rich</text>
    <g clip-path={field.clip}>
      {#if drawn}<path class="area" d={drawn.area} /><path class="middle" d={drawn.middle} />{/if}
      {#if gas.expected && gas.signal === 'output'}
        <path class="expected" d="M{field.left} {y(gas.expected.value)}H{field.right}" />
        <text x={field.left + 6} y={y(gas.expected.value) - 5}>expected here</text>
      {/if}
    </g>
    {#if gas.next}
      {@const place = field.x(gas.next.turns)}
      {@const late = place > field.right - 110}
      <path class="next" d="M{place} {field.top}V{field.base}" />
      <text
        class="fill-primary font-[650]"
        x={place + (late ? -6 : 6)}
        y="24"
        text-anchor={late ? 'end' : 'start'}>next reading</text
      >
    {/if}
    {#if gas.setting}
      {@const place = field.x(gas.setting.value)}
      <path class="set" d="M{place} {field.top}V{field.base}" />
      <text class="at" x={place} y={field.base - 8} text-anchor="middle"
        >set {gas.setting[prefs.system].text}</text
      >
    {/if}
    {#each read as one (one.key)}
      {@const place = field.x(one.turns)}
      {#if one.ran === 'died' || one.value <= 0}
        <path class="died" d="M{place - 5} {field.base - 11}l10 10m0 -10l-10 10" />
        <text x={place} y={field.base - 15} text-anchor="middle">died</text>
      {:else}
        <circle cx={place} cy={y(one.value)} r="5" />
        {#if one.ran !== 'smooth'}
          <text x={place + 8} y={y(one.value) + 14}>{one.ran}</text>
        {/if}
      {/if}
    {/each}
  {/snippet}
</Plot>

<style>
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

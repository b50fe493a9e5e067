<script lang="ts">
  import type { StackView } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import { wrap } from './layout';
  import StackLayer from '$lib/stages/fuel_path/StackLayer.svelte';

  interface Props {
    stack: StackView;
    drawing?: SVGSVGElement | undefined;
  }
  let { stack, drawing = $bindable() }: Props = $props();

  const H = 360;
  const AXIS = 170;
  const WIDE: Record<string, number> = { cleaner: 92, carburetor: 112, engine: 96, insulator: 26 };
  const GAP = 36;
  const SCALE = 2600; // px a meter: 12 mm of adapter is 31 px
  let layers = $derived.by(() => {
    let x = 20;
    return stack.layers.map((layer) => {
      const width =
        WIDE[layer.kind] ?? Math.max(7, Math.min(70, (layer.thickness_m ?? 0.002) * SCALE));
      const placed = { ...layer, x, width, middle: x + width / 2 };
      x += width + GAP;
      return placed;
    });
  });
  let total = $derived((layers.at(-1)?.x ?? 0) + (layers.at(-1)?.width ?? 0) + 20);
  let studsFrom = $derived(layers[0]?.x ?? 0);
  let carburetor = $derived(layers.find((one) => one.kind === 'carburetor'));
  const short = (name: string) => name.split(',')[0] ?? name;
  const TALL: Record<string, number> = {
    cleaner: 96,
    gasket: 78,
    adapter: 84,
    carburetor: 72,
    insulator: 78,
    engine: 104
  };
</script>

<div class="overflow-x-auto">
  <svg
    bind:this={drawing}
    viewBox={`0 0 ${total} ${H}`}
    style={`min-width: ${Math.min(total, 620)}px`}
    role="img"
    aria-label={`The stack in the order of the air flow: ${stack.layers.map((one) => one.name).join(', ')}`}
  >
    <text class="flow" x="20" y="22">air flows this way</text>
    <path class="arrow" d={`M132 18H${Math.min(320, total - 60)}m-9-5 9 5-9 5`} />
    {#if stack.stick_out_m !== null && carburetor}
      {#each [AXIS - 56, AXIS + 56] as y (y)}
        <line class="stud" x1={studsFrom - 6} x2={carburetor.x + 30} y1={y} y2={y} />
        <rect class="nut" x={studsFrom - 16} y={y - 8} width="11" height="16" />
      {/each}
    {/if}
    {#each layers as layer, i (layer.key)}
      {@const half = TALL[layer.kind] ?? 80}
      <StackLayer {layer} {half} axis={AXIS} />
      {#each wrap(short(layer.name), Math.max(layer.width + GAP, 52), 5.4) as line, n (n)}
        <text class="name" x={layer.middle} y={AXIS + 124 + n * 13}>{line}</text>
      {/each}
      {#if layer.thickness}
        <text
          class="thick"
          class:guess={layer.origin === 'assumed'}
          x={layer.middle}
          y={AXIS - 114 - (i % 2) * 13}>{layer.thickness[prefs.system]}</text
        >
      {/if}
    {/each}
    <line class="axis" x1="10" x2={total - 10} y1={AXIS} y2={AXIS} />
  </svg>
</div>

<style>
  svg {
    display: block;
    width: 100%;
    font-family: var(--font-sans);
  }
  .arrow {
    fill: none !important;
    stroke: var(--color-primary);
    stroke-width: 1.6;
  }
  .stud {
    stroke: var(--color-base-content);
    stroke-width: 5;
    opacity: 0.45;
  }
  .nut {
    fill: var(--color-base-content);
  }
  .axis {
    stroke: var(--muted);
    stroke-dasharray: 14 4 2 4;
    stroke-width: 0.8;
  }
  .flow,
  .name,
  .thick {
    font-size: 11.5px;
    fill: var(--color-base-content);
  }
  .flow {
    fill: var(--color-primary);
    font-weight: 600;
  }
  .name {
    text-anchor: middle;
  }
  .thick {
    text-anchor: middle;
    font-family: var(--font-mono);
    font-size: 10.5px;
    fill: var(--muted);
  }
  .thick.guess {
    font-style: italic;
  }
</style>

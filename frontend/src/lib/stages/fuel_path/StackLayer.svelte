<script lang="ts">
  import type { StackView } from '$lib/api/client';

  interface Props {
    layer: StackView['layers'][number] & { x: number; width: number; middle: number };
    half: number;
    axis: number;
  }
  let { layer, half, axis }: Props = $props();
</script>

<g class="layer" class:fresh={layer.new} data-layer={layer.key}>
  {#if layer.kind === 'cleaner'}
    <path
      d={`M${layer.x} ${axis - half}h${layer.width - 12}v${half - 34}h12v68h-12v${half - 34}h${12 - layer.width}z`}
    />
  {:else if layer.kind === 'carburetor'}
    <path
      d={`M${layer.x} ${axis - half}h12v34h${layer.width - 24}v-34h12v${2 * half}h-12v-20q-${(layer.width - 24) / 2} 26-${layer.width - 24} 0v20h-12z`}
    />
  {:else if layer.kind === 'engine'}
    <path d={`M${layer.x} ${axis - half}h${layer.width}v${2 * half}h${-layer.width}z`} />
    <path
      class="fin"
      d={[20, 40, 60, 80]
        .map((dx) => `M${layer.x + dx} ${axis - half}v-12m0 ${2 * half + 12}v12`)
        .join('')}
    />
  {:else}
    <rect x={layer.x} y={axis - half} width={layer.width} height={2 * half} />
  {/if}
  <path class="bore" d={`M${layer.x} ${axis - 26}h${layer.width}v52h${-layer.width}z`} />
  {#if layer.kind === 'adapter'}
    <path
      class="venturi"
      d={`M${layer.x} ${axis - 26}q${layer.width / 2} 16 ${layer.width} 0M${layer.x} ${axis + 26}q${layer.width / 2}-16 ${layer.width} 0`}
    />
    <path class="port" d={`M${layer.middle - 4} ${axis - half - 14}h8v${half - 8}h-8z`} />
    <path class="arrow" d={`M${layer.middle - 9} ${axis + 58}h18m-6-4 6 4-6 4`} />
  {/if}
</g>

<style>
  .layer :is(path, rect) {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 1.6;
    stroke-linejoin: round;
  }
  .layer.fresh :is(path, rect) {
    fill: var(--tint);
    stroke: var(--color-primary);
  }
  .layer .bore,
  .layer.fresh .bore {
    fill: var(--color-base-200);
    stroke-width: 0.8;
    stroke-dasharray: 3 3;
  }
  .layer.fresh .venturi,
  .layer.fresh .arrow,
  .fin,
  .arrow {
    fill: none !important;
  }
  .arrow {
    stroke: var(--color-primary);
    stroke-width: 1.6;
  }
</style>

<script lang="ts">
  import type { SketchItem, Snapshot } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    machine: { x: number; y: number };
    items: (SketchItem & { key: string })[];
    measures: NonNullable<Snapshot['sketch']>;
  }
  let { machine, items, measures }: Props = $props();
</script>

{#each items as item (item.key)}
  {@const measure = measures.find((one) => one.key === item.key)}
  {@const bad = Boolean(measure?.trouble)}
  <line class="span" class:bad x1={machine.x} y1={machine.y} x2={item.x} y2={item.y} />
  {#if measure}
    {@const value = measure.figure[prefs.system]}
    <text
      class="span-text"
      class:bad
      x={(machine.x + item.x) / 2}
      y={(machine.y + item.y) / 2 - 0.2}
      text-anchor="middle">{value.text} {value.unit}</text
    >
  {/if}
{/each}

<style>
  .span {
    stroke: var(--muted);
    stroke-width: 0.06;
    stroke-dasharray: 0.25 0.18;
  }
  .span.bad {
    stroke: var(--color-error);
    stroke-width: 0.11;
    stroke-dasharray: none;
  }
  text {
    font-size: 0.62px;
    fill: var(--color-base-content);
    paint-order: stroke;
    stroke: var(--color-base-100);
    stroke-width: 0.16px;
  }
  .span-text {
    font-family: var(--font-mono);
  }
  .span-text.bad {
    fill: var(--color-error);
    font-weight: 700;
  }
  @media (max-width: 600px) {
    text {
      font-size: 1.05px;
    }
  }
</style>

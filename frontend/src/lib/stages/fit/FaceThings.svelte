<script lang="ts">
  import type { Mount } from './sheet';

  interface Props {
    mount: Mount;
    wide: number;
    high: number;
    unit: number;
  }
  let { mount, wide, high, unit }: Props = $props();
  const MM = 1000;
  const y = (value: number) => high - value * MM;
</script>

{#each mount.obstacles as one (one.key)}
  {@const [l = 0, b = 0, r = 0, t = 0] = one.box}
  <rect
    class={`thing ${one.side}`}
    x={l * MM}
    y={y(t)}
    width={(r - l) * MM}
    height={(t - b) * MM}
    fill={one.side === 'front' ? `url(#hatch-${mount.key})` : 'none'}
  />
  {@const right = l * MM > wide * 0.75}
  <text
    class="name"
    class:end={right}
    x={right ? r * MM - unit : l * MM + unit}
    y={one.side === 'front' ? y(t) + unit * 3.4 : y(b) - unit * 1.2}
    >{one.name}{one.side === 'behind' ? ', behind' : ''}</text
  >
{/each}

<style>
  .thing {
    stroke: var(--muted);
    stroke-width: calc(var(--u) * 0.3);
  }
  .behind {
    stroke-dasharray: calc(var(--u) * 1.6) calc(var(--u) * 1.2);
  }
  .name {
    font-size: calc(var(--u) * 2.7);
    fill: var(--muted);
  }
  .end {
    text-anchor: end;
  }
</style>

<script lang="ts">
  import type { Mount } from './sheet';
  import { prefs } from '$lib/session/prefs.svelte';

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

{#each mount.holes as hole, at (hole.name)}
  {@const x0 = hole.across?.edge === 'right' ? wide : 0}
  {@const y0 = hole.upright?.edge === 'top' ? 0 : high}
  {@const row = -unit * (4 + at * 4.6)}
  {#if hole.across}
    <path
      class="size"
      d={`M${hole.x_m * MM} ${y(hole.y_m)}V${row}M${x0} ${row}H${hole.x_m * MM}`}
    />
    <text class="offset" x={(x0 + hole.x_m * MM) / 2} y={row - unit * 0.7}
      >{hole.name} {hole.across[prefs.system]}</text
    >
  {/if}
  {#if hole.upright && at === mount.holes.length - 1}
    {@const column = hole.across?.edge === 'right' ? wide + unit * 3 : -unit * 3}
    <path
      class="size"
      d={`M${hole.x_m * MM} ${y(hole.y_m)}H${column}M${column} ${y0}V${y(hole.y_m)}`}
    />
    <text
      class="offset"
      transform={`translate(${column + (column < 0 ? -unit : unit * 3)} ${(y0 + y(hole.y_m)) / 2}) rotate(-90)`}
      >{hole.upright[prefs.system]}</text
    >
  {/if}
  <circle class="wrench" cx={hole.x_m * MM} cy={y(hole.y_m)} r={(mount.wrench_m ?? 0) * MM} />
  <circle class="hole" cx={hole.x_m * MM} cy={y(hole.y_m)} r={(hole.diameter_m / 2) * MM} />
{/each}

<style>
  .wrench {
    fill: none;
    stroke: var(--muted);
    stroke-dasharray: calc(var(--u) * 0.7) calc(var(--u) * 0.7);
    stroke-width: calc(var(--u) * 0.25);
    pointer-events: none;
  }
  .hole {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: calc(var(--u) * 0.4);
    pointer-events: none;
  }
  .size {
    fill: none;
    stroke: var(--color-primary);
    stroke-width: calc(var(--u) * 0.3);
    pointer-events: none;
  }
  .offset {
    font: 650 calc(var(--u) * 3) var(--font-mono);
    fill: var(--color-primary);
    text-anchor: middle;
  }
</style>

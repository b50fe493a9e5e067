<script lang="ts">
  import { FUELS } from '$lib/api/published';
  import { inkOf } from '$lib/ui/fuels';

  const SIZES = { plain: [6, 6], slanted: [7, 7], level: [8, 6], dotted: [7, 7] } as const;
</script>

<!-- The fuels' own patterns, told apart without color; used by id from any chart of the page. -->
<svg width="0" height="0" aria-hidden="true" class="sr">
  <defs>
    {#each FUELS as { key, hatch } (key)}
      {@const [width, height] = SIZES[hatch]}
      <pattern
        id={`fuel-${key}`}
        {width}
        {height}
        patternUnits="userSpaceOnUse"
        patternTransform={hatch === 'slanted' ? 'rotate(45)' : undefined}
        style:fill={inkOf(key)}
      >
        <rect class:faint={hatch !== 'plain'} {width} {height} />
        {#if hatch === 'slanted'}<rect width="3.4" {height} />{/if}
        {#if hatch === 'level'}<rect {width} height="2.4" />{/if}
        {#if hatch === 'dotted'}<circle cx="3.5" cy="3.5" r="2" />{/if}
      </pattern>
    {/each}
  </defs>
</svg>

<style>
  .faint {
    opacity: 0.25;
  }
</style>

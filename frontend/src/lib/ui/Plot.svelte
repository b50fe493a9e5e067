<script lang="ts" module>
  import type { ScaleLinear } from 'd3-scale';

  /** What is drawn in a plot: where a value lies, and the edges of the field. */
  export interface Field {
    x: (value: number) => number;
    y: (value: number) => number;
    left: number;
    right: number;
    top: number;
    base: number;
    /** Names the clipping path that keeps a curve inside. */
    clip: string;
  }
  type Scale = ScaleLinear<number, number>;
</script>

<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import type { Snippet } from 'svelte';

  interface Props {
    title: string;
    /** What it shows, for who can't see it. */
    label: string;
    x: readonly [number, number];
    y: readonly [number, number];
    height?: number;
    /** Words of a tick along the bottom. */
    tick?: (value: number) => string;
    /** Room at the left for the numbers. */
    left?: number;
    /** Room at the bottom, for what stands under the numbers. */
    bottom?: number;
    children: Snippet<[Field]>;
  }
  let {
    title,
    label,
    x,
    y,
    height = 270,
    tick,
    left = 52,
    bottom = 34,
    children
  }: Props = $props();
  const TOP = 12;
  const RIGHT = 12;
  const clip = $props.id();
  /** As wide as there is room, so that letters keep their size on a phone. */
  let room = $state(660);
  let wide = $derived(Math.max(280, room));
  let base = $derived(height - bottom);
  let across = $derived<Scale>(scaleLinear([...x], [left, wide - RIGHT]));
  let up = $derived<Scale>(scaleLinear([...y], [base, TOP]));
  let many = $derived(Math.max(3, Math.floor(wide / 90)));
  let field = $derived<Field>({
    x: (value) => across(value),
    y: (value) => up(value),
    left,
    right: wide - RIGHT,
    top: TOP,
    base,
    clip: `url(#${clip})`
  });
</script>

<figure bind:clientWidth={room}>
  <figcaption>{title}</figcaption>
  <svg viewBox="0 0 {wide} {height}" role="img" aria-label={label}>
    <clipPath id={clip}
      ><rect x={left} y={TOP - 4} width={wide - left - RIGHT} height={base - TOP + 4} /></clipPath
    >
    {#each up.ticks(5) as value (value)}
      <path class="grid" d="M{left} {up(value)}H{wide - RIGHT}" />
      <text class="num" x={left - 6} y={up(value) + 4} text-anchor="end"
        >{up.tickFormat(5)(value)}</text
      >
    {/each}
    {#each across.ticks(many) as value (value)}
      <text class="num" x={across(value)} y={base + 16} text-anchor="middle"
        >{(tick ?? across.tickFormat(many))(value)}</text
      >
    {/each}
    {@render children(field)}
  </svg>
</figure>

<style>
  figcaption {
    font-weight: 600;
    font-size: 0.92rem;
    margin-bottom: 0.2rem;
  }
  svg {
    width: 100%;
    height: auto;
  }
  svg :global(text) {
    font-size: 12px;
    fill: var(--muted);
  }
  .grid {
    stroke: var(--rule);
  }
</style>

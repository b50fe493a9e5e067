<script lang="ts">
  interface Props {
    strokes: number[][];
    /** Steps across and down of what they were drawn on. */
    across?: number;
    down?: number;
    /** Weight of a line, in steps. */
    weight?: number;
    /** What it says; a sign beside its own words says nothing. */
    text?: string;
  }
  let { strokes, across = 1000, down = 300, weight = 5, text = '' }: Props = $props();
  const points = (stroke: number[]) =>
    stroke.length > 2 ? stroke.join(' ') : `${stroke.join(' ')} ${stroke.join(' ')}`;
</script>

<svg
  viewBox={`0 0 ${across} ${down}`}
  role={text ? 'img' : undefined}
  aria-label={text || undefined}
  aria-hidden={!text}
  style:stroke-width={weight}
>
  {#each strokes as stroke, at (at)}<polyline points={points(stroke)} />{/each}
</svg>

<style>
  svg {
    width: 100%;
    height: auto;
    fill: none;
    stroke: currentColor;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
</style>

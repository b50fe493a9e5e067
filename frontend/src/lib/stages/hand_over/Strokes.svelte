<script lang="ts">
  interface Props {
    strokes: number[][];
    text: string;
  }
  let { strokes, text }: Props = $props();
  const points = (stroke: number[]) =>
    stroke.length > 2 ? stroke.join(' ') : `${stroke.join(' ')} ${stroke.join(' ')}`;
</script>

<svg viewBox="0 0 1000 300" role="img" aria-label={text}>
  {#each strokes as stroke, at (at)}<polyline points={points(stroke)} />{/each}
</svg>

<style>
  svg {
    width: 100%;
    max-width: 22rem;
    height: auto;
    border-bottom: 1px solid var(--rule);
  }
  polyline {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 5;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
</style>

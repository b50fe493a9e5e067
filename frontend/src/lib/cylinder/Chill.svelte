<script lang="ts">
  import { AnnotationLine, Axis, Chart, Layer, Spline } from 'layerchart';
  import type { CylinderAnswer } from '$lib/api/client';
  import { prefs } from '$lib/prefs.svelte';
  import { scaled, useReference } from '$lib/reference';

  interface Props {
    answer: CylinderAnswer;
  }
  let { answer }: Props = $props();
  const reference = useReference();
  let unit = $derived(reference.data?.kinds.temperature?.[prefs.system].text ?? '');
  let degrees = $derived((kelvin: number) =>
    reference.data ? scaled(reference.data, 'temperature', prefs.system, kelvin) : 0
  );
  let points = $derived(
    answer.curve.times_s.map((seconds, i) => ({
      hours: seconds / 3600,
      value: degrees(answer.curve.temperatures_k[i] ?? 0)
    }))
  );
  let marks = $derived([
    { key: 'air', text: 'air', value: degrees(answer.curve.ambient_k) },
    {
      key: 'frost',
      text: 'frost',
      value: degrees(Math.min(answer.curve.frost_k, answer.curve.dew_k))
    },
    { key: 'starve', text: 'too cold to give gas', value: degrees(answer.curve.starves_k) }
  ]);
  let last = $derived(points.at(-1));
  let hours = $derived(Math.max(last?.hours ?? 1, 0.25));
  let ends = $derived([
    Math.min(...marks.map((mark) => mark.value), ...points.map((point) => point.value)) - 4,
    Math.max(...marks.map((mark) => mark.value)) + 4
  ]);
</script>

{#if reference.data && last}
  <figure class="chill">
    <figcaption>Liquid in the cylinder, {unit}, against hours of run</figcaption>
    <div class="plot">
      <Chart
        data={points}
        x="hours"
        y="value"
        xDomain={[0, hours * 1.02]}
        yDomain={ends}
        padding={{ left: 40, bottom: 24, top: 8, right: 12 }}
      >
        <Layer type="svg">
          <Axis placement="left" grid ticks={5} />
          <Axis placement="bottom" ticks={6} format={(value) => `${value} h`} />
          {#each marks as mark (mark.key)}
            <AnnotationLine
              y={mark.value}
              label={mark.text}
              labelPlacement={mark.key === 'starve' ? 'top-left' : 'top-right'}
              labelXOffset={4}
              labelYOffset={2}
              props={{ line: { class: `mark ${mark.key}` }, label: { class: `label ${mark.key}` } }}
            />
          {/each}
          <Spline class="course" />
        </Layer>
      </Chart>
    </div>
  </figure>
{/if}

<style>
  figcaption {
    font-weight: 600;
    margin-bottom: 0.3rem;
  }
  .plot {
    height: 15rem;
  }
  .chill :global(.course) {
    stroke: var(--propane);
    stroke-width: 3;
    fill: none;
  }
  .chill :global(.mark) {
    stroke: var(--color-base-content);
    stroke-dasharray: 2 4;
  }
  .chill :global(.mark.starve) {
    stroke: var(--color-error);
    stroke-dasharray: none;
    stroke-width: 1.5;
  }
  .chill :global(text) {
    fill: var(--color-base-content);
    font-size: 12px;
  }
  .chill :global(text.starve) {
    fill: var(--color-error);
    font-weight: 650;
  }
</style>

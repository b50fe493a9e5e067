<script lang="ts">
  import type { CylinderAnswer } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import { scaled, useReference } from '$lib/session/reference';
  import Plot from '$lib/ui/Plot.svelte';

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
  <Plot
    title={`Liquid in the cylinder, ${unit}, against hours of run`}
    label={`Temperature of the liquid over ${hours.toFixed(1)} hours`}
    x={[0, hours * 1.02]}
    y={[ends[0] ?? 0, ends[1] ?? 1]}
    height={240}
    left={40}
    bottom={24}
    tick={(value) => `${value} h`}
  >
    {#snippet children(field)}
      {#each marks as mark (mark.key)}
        {@const above = mark.key !== 'starve' || field.y(mark.value) > field.base - 18}
        <path class="mark {mark.key}" d="M{field.left} {field.y(mark.value)}H{field.right}" />
        <text
          class={mark.key}
          x={mark.key === 'starve' ? field.left + 6 : field.right - 4}
          y={field.y(mark.value) + (above ? -5 : 14)}
          text-anchor={mark.key === 'starve' ? 'start' : 'end'}>{mark.text}</text
        >
      {/each}
      <path
        class="course"
        d={`M${points.map((one) => `${field.x(one.hours).toFixed(1)} ${field.y(one.value).toFixed(1)}`).join('L')}`}
      />
    {/snippet}
  </Plot>
{/if}

<style>
  .course {
    stroke: var(--propane);
    stroke-width: 3;
    fill: none;
  }
  .mark {
    stroke: var(--color-base-content);
    stroke-dasharray: 2 4;
  }
  .mark.starve {
    stroke: var(--color-error);
    stroke-dasharray: none;
    stroke-width: 1.5;
  }
  text {
    fill: var(--color-base-content);
  }
  text.starve {
    fill: var(--color-error);
    font-weight: 650;
  }
</style>

<script lang="ts">
  import { grouped } from '$lib/ui/numbers';
  import type { Fact } from '$lib/api/client';
  import { at } from '$lib/session/path';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { fieldOf, scaled, useReference } from '$lib/session/reference';

  interface Props {
    path: string;
    label: string;
    /** Ends [SI]. */
    low: number;
    high: number;
    /** Where it stands when the job does not say [SI]. */
    assumed: number;
    steps?: { us: number; metric: number };
    hideLabel?: boolean;
  }
  let {
    path,
    label,
    low,
    high,
    assumed,
    steps = { us: 1, metric: 1 },
    hideLabel = false
  }: Props = $props();
  const id = $props.id();
  const job = useJob();
  const reference = useReference();
  let kind = $derived(fieldOf(reference.data, path)?.kind ?? 'ratio');
  let fact = $derived(at(job().now?.job, path) as Fact | null | undefined);
  let step = $derived(steps[prefs.system]);
  let unit = $derived(reference.data?.kinds[kind]?.[prefs.system].text ?? '');
  let dragged = $state<number>();

  function shown(value: number): number {
    if (!reference.data) return 0;
    return Math.round(scaled(reference.data, kind, prefs.system, value) / step) * step;
  }
  let value = $derived(dragged ?? shown(fact?.value ?? assumed));
  let text = $derived(`${grouped(value)} ${unit}`);

  function drag(event: Event & { currentTarget: HTMLInputElement }) {
    dragged = Number(event.currentTarget.value);
    job().type(path, `${dragged} ${unit}`);
  }

  function drop() {
    job().save(path);
    dragged = undefined;
  }
</script>

{#if reference.data}
  <div class="min-w-0" data-slider={path}>
    <label for={id} class:sr={hideLabel}>{label} <output class="num" for={id}>{text}</output></label
    >
    <input
      {id}
      type="range"
      class="range range-xs"
      min={shown(low)}
      max={shown(high)}
      {step}
      {value}
      aria-valuetext={text}
      oninput={drag}
      onchange={drop}
    />
  </div>
{/if}

<style>
  label {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    font-weight: 550;
    font-size: 0.9rem;
    white-space: nowrap;
  }
  .range {
    width: 100%;
    --range-thumb: var(--color-base-100);
    color: var(--color-primary);
  }
</style>

<script lang="ts">
  import { grouped } from '$lib/ui/numbers';
  import { prefs } from '$lib/session/prefs.svelte';
  import { scaled, unscaled, useReference } from '$lib/session/reference';

  interface Props {
    label: string;
    kind: string;
    /** Ends and value [SI]. */
    low: number;
    high: number;
    value: number;
    step?: number;
    onchange: (value: number) => void;
  }
  let { label, kind, low, high, value, step = 1, onchange }: Props = $props();
  const id = $props.id();
  const reference = useReference();
  let shown = $derived((si: number) =>
    reference.data ? Math.round(scaled(reference.data, kind, prefs.system, si) / step) * step : 0
  );
  let unit = $derived(reference.data?.kinds[kind]?.[prefs.system].text ?? '');
  let text = $derived(`${grouped(shown(value))} ${unit}`);
</script>

<div>
  <label for={id}>{label} <output class="num" for={id}>{text}</output></label>
  <input
    {id}
    type="range"
    class="range range-xs"
    min={shown(low)}
    max={shown(high)}
    {step}
    value={shown(value)}
    aria-valuetext={text}
    oninput={(event) =>
      reference.data &&
      onchange(unscaled(reference.data, kind, prefs.system, Number(event.currentTarget.value)))}
  />
</div>

<style>
  label {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    font-weight: 550;
    font-size: 0.9rem;
  }
  .range {
    width: 100%;
    --range-thumb: var(--color-base-100);
    color: var(--color-primary);
  }
</style>

<script lang="ts">
  import type { Figure } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';
  import { unitOf } from './money.svelte';
  import { working } from './working.svelte';

  interface Props {
    figure: Figure;
    /** Shows the band under the value. */
    band?: boolean;
    size?: 'normal' | 'big';
    signed?: boolean;
    /** Shows its warnings under the value; only where they stand beside it already may they go. */
    warned?: boolean;
  }
  let { figure, band = false, size = 'normal', signed = false, warned = true }: Props = $props();
  let shown = $derived(figure[prefs.system]);
  let sign = $derived(signed && figure.value > 0 ? '+' : '');
  // A price has the shop's currency before it, whatever sign its kind has.
  let unit = $derived(unitOf(figure.kind, shown.unit));
  let before = $derived(figure.kind === 'price' ? unit : '');
  let after = $derived(figure.kind === 'price' ? '' : unit);
  // What is seen stands in the spoken name word for word, so that voice control finds it.
  let spoken = $derived(
    [
      `${figure.label}:`,
      before,
      `${sign}${shown.text}`,
      after,
      band && shown.low !== shown.high ? `${shown.low} to ${shown.high}` : '',
      ...(warned ? figure.warnings : []),
      '. Show working'
    ]
      .filter(Boolean)
      .join(' ')
  );
</script>

<button
  type="button"
  class="figure num moves"
  class:big={size === 'big'}
  data-figure={figure.key}
  title="Show working (w)"
  aria-label={spoken}
  onclick={() => working.open(figure)}
>
  {#if before}<span class="unit">{before}</span>{/if}
  <span>{sign}{shown.text}</span>
  {#if after}<span class="unit">{after}</span>{/if}
  {#if band && shown.low !== shown.high}
    <span class="band">{shown.low} to {shown.high}</span>
  {/if}
  {#each warned ? figure.warnings : [] as warning (warning)}<span class="warning">{warning}</span
    >{/each}
</button>

<style>
  .figure {
    display: inline-flex;
    flex-wrap: wrap;
    justify-content: flex-end;
    align-items: baseline;
    column-gap: 0.35em;
    text-align: right;
    cursor: pointer;
    border-radius: 0.25rem;
    text-decoration: underline dotted color-mix(in oklab, currentColor 40%, transparent);
    text-underline-offset: 0.25em;
    text-decoration-thickness: 1px;
  }
  .figure:hover {
    color: var(--color-primary);
  }
  .big {
    font-size: 1.6rem;
    font-weight: 650;
    line-height: 1.2;
  }
  .unit,
  .band {
    color: var(--muted);
    font-weight: 400;
  }
  .warning {
    max-width: 22rem;
    font-family: var(--font-sans);
    font-weight: 400;
    text-decoration: none;
    text-align: right;
    white-space: normal;
    color: var(--color-warning);
  }
  .big .unit {
    font-size: 1rem;
  }
  .band,
  .warning {
    flex-basis: 100%;
    font-size: 0.8rem;
  }
</style>

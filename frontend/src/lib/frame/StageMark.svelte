<script lang="ts">
  import type { Stage } from '$lib/api/client';

  interface Props {
    state: Stage['state'];
  }
  let { state }: Props = $props();
</script>

<svg viewBox="0 0 28 28" class={state} aria-hidden="true">
  <path class="body" d="M14 3 23.5 8.5v11L14 25l-9.5-5.5v-11Z" />
  {#if state === 'done'}
    <path class="tick" d="m9.5 14.2 3.2 3.2 6-6.6" />
  {:else if state === 'stop'}
    <path class="tick" d="M14 8.5v7.5m0 3v.6" />
  {:else if state === 'left_out'}
    <path class="tick" d="M9 14h10" />
  {:else if state === 'waiting'}
    <path class="tick" d="M11.5 10v8m5-8v8" />
  {:else if ['under_way', 'open', 'blocked'].includes(state)}
    <circle class="fill-primary" cx="14" cy="14" r="3.4" />
  {/if}
</svg>

<style>
  svg {
    width: 1.75rem;
    height: 1.75rem;
    flex: none;
    position: relative;
    z-index: 1;
  }
  .body {
    fill: var(--color-base-200);
    stroke: color-mix(in oklab, var(--color-base-content) 45%, var(--color-base-200));
    stroke-width: 2;
  }
  .tick {
    fill: none;
    stroke: var(--color-base-200);
    stroke-width: 2.4;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .done .body {
    fill: var(--color-primary);
    stroke: var(--color-primary);
  }
  .open .body,
  .under_way .body {
    stroke: var(--color-primary);
  }
  .stop .body {
    fill: var(--color-error);
    stroke: var(--color-error);
  }
  .waiting .tick {
    stroke: var(--color-base-content);
  }
</style>

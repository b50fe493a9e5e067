<script lang="ts">
  import type { FuelOutput } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    entry: FuelOutput;
    rating: number;
    top: number;
    planned: number;
    largest: number | null;
  }
  let { entry, rating, top, planned, largest }: Props = $props();
  const H = 34;
  let share = $derived((watts: number) => `${(100 * Math.max(0, watts)) / top}%`);
  let spans = $derived.by(() => {
    let at = rating;
    return entry.steps.map((step) => {
      const from = at;
      at += step.value;
      return {
        key: step.key,
        low: Math.min(from, at),
        width: Math.abs(step.value),
        adds: step.value > 0
      };
    });
  });
  const bare = (text: string) => Number(text.replaceAll(',', '').replace('−', '-'));
  let ends = $derived([bare(entry.running.metric.low), bare(entry.running.metric.high)] as const);
  let band = $derived([entry.running[prefs.system].low, entry.running[prefs.system].high]);
</script>

<div class="row" class:away={!entry.at_hand} data-fuel={entry.fuel}>
  <div class="head">
    <span class="flex gap-[.45rem] items-center font-[650]"
      ><Mark fuel={entry.fuel} letter={entry.letter} />{entry.name}</span
    >
    <span class="quiet text-[.8rem]">
      {entry.limited_by} limits{#if !entry.at_hand}<br />not on this site{/if}
    </span>
  </div>
  <svg class="bar" height={H} role="img" aria-label={`${entry.name}: ${band[0]} to ${band[1]} W`}>
    <rect
      x="0"
      y="4"
      height={H - 8}
      width={share(entry.running.value)}
      fill={`url(#fuel-${entry.fuel})`}
    />
    {#each spans as span (span.key)}
      <rect
        class="lost"
        class:adds={span.adds}
        x={share(span.low)}
        y="6.5"
        height={H - 13}
        width={share(span.width)}
      />
    {/each}
    <line class="band" x1={share(ends[0])} x2={share(ends[1])} y1={H / 2} y2={H / 2} />
    <line class="rating" x1={share(rating)} x2={share(rating)} y1="0" y2={H} />
    <line class="planned" x1={share(planned)} x2={share(planned)} y1="0" y2={H} />
    {#if largest !== null}
      <line class="start" x1={share(largest)} x2={share(largest)} y1="0" y2={H} />
    {/if}
    <rect
      class="fill-base-content"
      x={share(entry.starting.value)}
      y="2"
      width="3"
      height={H - 4}
    />
  </svg>
  <div class="value text-right"><Figure figure={entry.running} size="big" /></div>
  <p class="steps">
    {#each entry.steps as step (step.key)}
      <span class="step"
        ><span class="quiet">{step.label}</span> <Figure figure={step} signed /></span
      >
    {/each}
    <span class="step"
      ><span class="quiet">band</span> <span class="num">{band.join('–')}</span></span
    >
    <span class="step"
      ><span class="quiet">starts up to</span> <Figure figure={entry.starting} /></span
    >
    {#if !entry.carries_planned}<strong class="text-error">can't carry the planned load</strong>
    {:else if entry.starts_largest === false}<strong class="text-error"
        >can't make the largest start</strong
      >
    {/if}
  </p>
</div>

<style>
  .row {
    display: grid;
    grid-template-columns: 8.6rem minmax(0, 1fr) 6.6rem;
    column-gap: 0.8rem;
    align-items: center;
    padding: 0.35rem 0 0.4rem;
    border-top: 1px solid var(--rule);
  }

  .bar {
    width: 100%;
    overflow: visible;
  }
  .lost {
    fill: var(--color-base-100);
    stroke: color-mix(in oklab, var(--color-base-content) 45%, transparent);
    stroke-dasharray: 3 3;
  }
  .adds {
    fill: none;
    stroke-dasharray: 1 3;
  }
  .band {
    stroke: var(--color-base-content);
    stroke-width: 2;
  }
  .rating {
    stroke: var(--color-base-content);
    stroke-dasharray: 1 3;
    stroke-width: 1.5;
  }
  .planned {
    stroke: var(--color-base-content);
    stroke-width: 2;
  }
  .start {
    stroke: var(--color-primary);
    stroke-width: 2;
    stroke-dasharray: 7 3;
  }

  .steps {
    grid-column: 2 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 0 1.1rem;
    font-size: 0.85rem;
  }

  @media (max-width: 699px) {
    .row {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .bar,
    .steps {
      grid-column: 1 / -1;
    }
    .bar {
      grid-row: 2;
    }
  }
</style>

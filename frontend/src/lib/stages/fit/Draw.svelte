<script lang="ts">
  import type { Step } from './sheet';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    measures: Step['measures'];
  }
  let { measures }: Props = $props();
  let first = $derived(measures[0]);
  let draw = $derived(first?.draw ?? '');
  let edges = $derived([
    ...new Set(measures.slice(0, 2).map((one) => one.label.split(' from the ')[1] ?? ''))
  ]);
  const text = (at: number) => measures[at]?.[prefs.system] ?? '';
</script>

{#if first}
  <svg viewBox="0 0 340 190" role="img" aria-label={`${first.label}: ${text(0)}`} data-draw={draw}>
    {#if draw === 'stud'}
      <rect class="part" x="4" y="20" width="60" height="120" />
      <text class="name" x="34" y="84">engine</text>
      <rect class="fill-base-300 stroke-(--muted)" x="64" y="36" width="7" height="90" />
      <rect class="part" x="71" y="28" width="64" height="104" />
      <text class="name" x="103" y="84">carburetor</text>
      <rect class="kept" x="46" y="44" width="138" height="11" />
      <text class="note" x="190" y="54">stays tight</text>
      <rect class="now" x="46" y="106" width="202" height="11" />
      <path class="size" d="M135 134v14M248 134v14M135 141H248" />
      <text class="big" x="191" y="168">{text(measures.length - 1)}</text>
      {#if measures.length > 1}<path class="size" d="M262 98a16 16 0 1 1-4 25" /><path
          class="fill-primary"
          d="M258 131l-3-10 9 3z"
        /><text class="name" x="284" y="90">{text(0)} {first.label}</text>{/if}
    {:else if draw === 'offset'}
      <path class="part" d="M30 20H320V150H30z" />
      {#each measures.filter((_, at) => at % 2 === 0) as one, at (one.label)}
        {@const x = measures.length > 2 ? 130 + at * 110 : 175}
        <circle class="now" cx={x} cy="85" r="6" /><path
          class="mid"
          d={`M${x - 13} 85H${x + 13}M${x} 72V98`}
        />
        <path class="size" d={`M30 ${66 - at * 24}H${x}M${x} ${59 - at * 24}v14`} />
        <text class="big small" x={(30 + x) / 2} y={61 - at * 24}>{one[prefs.system]}</text>
        <text class="name" x={x + 14} y="112">{'ABCDEFGH'[at]}</text>
      {/each}
      {#if measures[1]}
        <path class="size" d="M46 85V150M39 85h14" />
        <text class="big small start" x="54" y="126">{text(1)}</text>
      {/if}
      <text class="note" x="32" y="170">from the {edges.join(' and the ')}</text>
    {:else if draw === 'loop'}
      <rect class="part" x="120" y="10" width="9" height="150" />
      <path class="hose" d="M20 60H116" />
      <path class="hose now-line" d="M133 60h30a46 46 0 0 1 0 92h-22" />
      <path class="size" d="M163 106L196 74" />
      <text class="big" x="252" y="72">R {text(0)}</text>
      {#if measures[1]}<text class="name" x="252" y="150">{text(1)} of hose</text>{/if}
    {:else if draw === 'gap'}
      <path class="part" d="M110 10h120v60h-14v22h-92V70h-14z" />
      <rect class="kept" x="160" y="92" width="20" height="34" />
      <path class="kept" d="M216 92v62h-66v-12h52V92z" />
      <path class="size" d="M146 127h-30M146 142h-30" />
      <text class="big" x="70" y="140">{text(0)}</text>
      {#if measures[1]}<text class="name" x="70" y="160">to {text(1)}</text>{/if}
    {:else if draw === 'level'}
      <path class="part" d="M30 20h80v60H30z" /><path class="fill-(--tint)" d="M31 36h78v43H31z" />
      <path class="hose" d="M110 76h50c40 0 30 70 70 70" />
      <rect class="part" x="230" y="128" width="60" height="40" />
      <text class="name" x="260" y="182">float bowl</text>
      <path class="mid" d="M20 140H230" /><path class="size" d="M180 36V140M173 36h14M173 140h14" />
      <text class="big" x="245" y="84">{text(0)}</text>
    {:else}
      <rect class="part" x="20" y="30" width="90" height="110" />
      <rect class="fill-base-300 stroke-(--muted)" x="110" y="30" width="7" height="110" />
      <rect class="now" x="117" y="30" width="60" height="110" />
      <rect class="fill-base-300 stroke-(--muted)" x="177" y="30" width="7" height="110" />
      <rect class="part" x="184" y="30" width="110" height="110" />
      <path class="size" d="M117 150v12M177 150v12M117 156h60" />
      <text class="big" x="147" y="184">{text(0)}</text>
    {/if}
  </svg>
  <ul class="sr">
    {#each measures as one (one.label)}<li>
        {one.label}: {one[prefs.system]}
        {one.tolerance}
      </li>{/each}
  </ul>
{/if}

<style>
  svg {
    width: 100%;
    max-width: 25rem;
    max-height: 15rem;
    font-family: var(--font-sans);
  }
  .part,
  .kept {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 1.6;
  }
  .kept {
    fill: var(--color-base-300);
  }

  .now {
    fill: color-mix(in oklab, var(--color-primary) 32%, var(--color-base-100));
    stroke: var(--color-primary);
    stroke-width: 2;
  }

  .hose {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 7;
    stroke-linecap: round;
  }
  .now-line {
    stroke: var(--color-primary);
  }
  .mid {
    stroke: var(--muted);
    stroke-dasharray: 5 4;
    fill: none;
  }
  .size {
    stroke: var(--color-primary);
    stroke-width: 2;
    fill: none;
  }

  .big {
    font: 700 19px var(--font-mono);
    fill: var(--color-primary);
    text-anchor: middle;
  }
  .small {
    font-size: 15px;
  }
  .start {
    text-anchor: start;
  }
  .name {
    font-size: 13px;
    fill: var(--muted);
    text-anchor: middle;
  }
  .note {
    font-size: 13px;
    fill: var(--color-base-content);
  }
</style>

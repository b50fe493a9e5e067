<script lang="ts">
  import type { Train } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    train: Train;
  }
  let { train }: Props = $props();
  const job = useJob();
  const W = 680;
  const H = 190;
  let profile = $derived(train.profile);
  let site = $derived(`sites.${job().settled?.job.site ?? 's1'}.remote_tank`);
  let low = $derived(
    Math.min(
      -0.1,
      ...(profile ? [profile.lowest_m, profile.outlet_m, -(profile.lift_m ?? 0)] : [])
    ) - 0.08
  );
  let high = $derived(
    Math.max(0.3, ...(profile ? [profile.full_surface_m, profile.highest_m, profile.most_m] : [])) +
      0.1
  );
  const y = (value: number) => 14 + ((high - value) / (high - low)) * (H - 34);
  let window = $derived(
    profile
      ? profile.gravity
        ? { top: profile.most_m, bottom: 0 }
        : { top: 0, bottom: -(profile.lift_m ?? 0.6) }
      : undefined
  );
</script>

{#if profile && window}
  <section class="section" data-profile>
    <h2>Levels over the float bowl</h2>
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label="Heights of tank, line and float bowl">
      <rect
        class="window"
        x="70"
        width={W - 90}
        y={y(window.top)}
        height={y(window.bottom) - y(window.top)}
      />
      <text class="note" x="210" y={y(window.bottom) - 7}
        >{profile.gravity ? 'fuel surface may lie here' : 'outlet may lie here'}</text
      >
      <line class="bowl" x1="70" x2={W - 20} y1={y(0)} y2={y(0)} />
      <text class="tick" x="64" y={y(0) + 4}>bowl 0</text>
      <rect
        class="tank"
        x="92"
        width="74"
        y={y(profile.full_surface_m)}
        height={Math.max(4, y(profile.outlet_m) - y(profile.full_surface_m))}
      />
      <text class="tick" x="64" y={y(profile.full_surface_m) + 4}
        >{profile.full_surface[prefs.system]}</text
      >
      <text class="tick" x="64" y={y(profile.outlet_m) + 4}>{profile.outlet[prefs.system]}</text>
      <path
        class="route"
        d={`M166 ${y(profile.outlet_m)}h60L${profile.highest_m > profile.outlet_m + 0.001 ? `290 ${y(profile.highest_m)}L` : ''}360 ${y(profile.lowest_m)}L440 ${y(profile.lowest_m)}L560 ${y(0)}`}
      />
      {#if profile.highest_m > profile.outlet_m + 0.001}
        <text class="note" x="290" y={y(profile.highest_m) - 6} text-anchor="middle"
          >{profile.highest[prefs.system]}</text
        >
      {/if}
      {#if profile.lowest_m < profile.outlet_m - 0.001}
        <text class="note" x="400" y={y(profile.lowest_m) + 14} text-anchor="middle"
          >{profile.lowest[prefs.system]}</text
        >
      {/if}
      <rect class="cup" x="560" width="60" y={y(0) - 16} height="26" />
      <text class="note" x="590" y={y(0) + 24} text-anchor="middle">float bowl</text>
      <text class="note" x="129" y={y(profile.outlet_m) + 14} text-anchor="middle">tank</text>
    </svg>
    <div class="figures">
      <p>{profile.flow.label} <Figure figure={profile.flow} band /></p>
      <p>{profile.margin.label} <Figure figure={profile.margin} band /></p>
      <p>{profile.vent.label} <Figure figure={profile.vent} band /></p>
    </div>
    <p class="quiet">{profile.both_open}</p>
    <div class="grid-3">
      <QuantityField path={`${site}.rise`} hint="below: a minus" />
      <QuantityField path={`${site}.depth`} />
      <QuantityField path={`${site}.distance`} />
      <QuantityField path={`${site}.high_loop`} />
      <QuantityField path={`${site}.low_loop`} />
    </div>
  </section>
{/if}

<style>
  svg {
    width: 100%;
    max-width: 46rem;
    font-family: var(--font-sans);
  }
  .window {
    fill: var(--color-success);
    fill-opacity: 0.16;
  }
  .bowl {
    stroke: var(--muted);
    stroke-dasharray: 5 4;
  }
  .tank,
  .cup {
    fill: var(--color-base-100);
    stroke: var(--color-base-content);
    stroke-width: 1.7;
  }
  .tank {
    fill: var(--tint);
  }
  .route {
    fill: none;
    stroke: var(--color-primary);
    stroke-width: 2.5;
    stroke-linejoin: round;
  }
  .tick,
  .note {
    font-size: 11px;
    fill: var(--muted);
  }
  .tick {
    text-anchor: end;
    font-family: var(--font-mono);
  }
  .figures {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 2rem;
    margin: 0.5rem 0;
  }
</style>

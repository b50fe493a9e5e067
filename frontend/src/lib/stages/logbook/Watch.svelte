<script lang="ts">
  import type { components } from '$lib/api/schema';

  interface Props {
    watched: components['schemas']['WatchedOut'][];
    method: components['schemas']['MethodOut'];
  }
  let { watched, method }: Props = $props();
  const WIDE = 320;
  const HIGH = 46;

  const top = (one: Props['watched'][number]) => Math.max(one.alarm_at * 1.4, ...one.sums) || 1;
  const y = (one: Props['watched'][number], value: number) =>
    HIGH - (HIGH - 4) * (value / top(one));
  const points = (one: Props['watched'][number]) =>
    one.sums.map((sum, i) => [
      6 + (one.sums.length > 1 ? (i * (WIDE - 12)) / (one.sums.length - 1) : 0),
      y(one, sum)
    ]);
  const line = (one: Props['watched'][number]) =>
    points(one)
      .map(([x = 0, y = 0], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`)
      .join('');
</script>

{#if watched.length}
  <section class="section">
    <h2>Fuel watched</h2>
    {#each watched as one (one.fuel)}
      <div class="grid gap-[.3rem] mb-[.6rem]" data-watched={one.fuel}>
        <p>
          <b>{one.name}</b>
          {#if one.missing}<span class="quiet"
              >{one.missing} more of the first {one.first} weighed runs tell what is usual for it.</span
            >
          {:else if one.alarm}<b class="text-error">about {one.rise} more than at first</b>: lash,
            air filter, a leak or the mixture
          {:else}<span class="quiet">as usual</span>{/if}
        </p>
        {#if one.sums.length}
          <svg
            viewBox={`0 0 ${WIDE} ${HIGH + 4}`}
            role="img"
            aria-label={`Sum of what ${one.name} was used more than usual, after each of ${one.sums.length} runs; the alarm stands at ${Math.round(one.alarm_at * 100)} %`}
          >
            <line
              class="alarm"
              x1="0"
              x2={WIDE}
              y1={y(one, one.alarm_at)}
              y2={y(one, one.alarm_at)}
            />
            <text x="2" y={y(one, one.alarm_at) - 3}>alarm</text>
            <line x1="0" x2={WIDE} y1={HIGH} y2={HIGH} />
            <path d={line(one)} />
            {#each points(one) as [x, y], i (i)}<circle cx={x} cy={y} r="2.2" />{/each}
          </svg>
        {/if}
      </div>
    {/each}
    <p class="quiet">
      The first {watched[0]?.first} weighed runs tell what is usual; what later ones use more adds up.
      <a class="link" href={`/methods/${method.page}`} title={method.formula}>How it is watched</a>
    </p>
  </section>
{/if}

<style>
  svg {
    width: 100%;
    max-width: 26rem;
  }
  line {
    stroke: var(--rule);
  }
  .alarm {
    stroke: var(--color-error);
    stroke-dasharray: 4 3;
  }
  text {
    font-size: 9px;
    fill: var(--color-error);
  }
  circle {
    fill: var(--color-base-content);
  }
  path {
    fill: none;
    stroke: var(--color-base-content);
    stroke-width: 1.6;
  }
</style>

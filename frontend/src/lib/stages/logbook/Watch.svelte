<script lang="ts">
  import type { components } from '$lib/api/schema';

  interface Props {
    watched: components['schemas']['WatchedOut'][];
    method: components['schemas']['MethodOut'];
  }
  let { watched, method }: Props = $props();
  const WIDE = 320;
  const HIGH = 70;

  const top = (one: Props['watched'][number]) => Math.max(one.alarm_at * 1.4, ...one.sums) || 1;
  const y = (one: Props['watched'][number], value: number) =>
    HIGH - (HIGH - 4) * (value / top(one));
  const line = (one: Props['watched'][number]) =>
    one.sums
      .map((sum, i) => {
        const x = one.sums.length > 1 ? (i * WIDE) / (one.sums.length - 1) : WIDE / 2;
        return `${i ? 'L' : 'M'}${x.toFixed(1)} ${y(one, sum).toFixed(1)}`;
      })
      .join('');
</script>

{#if watched.length}
  <section class="section">
    <h2>Fuel watched</h2>
    {#each watched as one (one.fuel)}
      <div class="one" data-watched={one.fuel}>
        <p>
          <b>{one.name}</b>
          {#if one.missing}<span class="quiet"
              >{one.missing} more of the first {one.first} weighed runs tell what is usual for it.</span
            >
          {:else if one.alarm}<b class="over">about {one.rise} more than at first</b>: lash, air
            filter, a leak or the mixture
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
          </svg>
        {/if}
      </div>
    {/each}
    <p class="quiet">{method.formula}. <a href={`/methods/${method.page}`}>{method.name}</a></p>
  </section>
{/if}

<style>
  .one {
    display: grid;
    gap: 0.3rem;
    margin-bottom: 0.6rem;
  }
  svg {
    width: 100%;
    max-width: 32rem;
  }
  line {
    stroke: var(--line);
  }
  .alarm {
    stroke: var(--color-error);
    stroke-dasharray: 4 3;
  }
  text {
    font-size: 9px;
    fill: var(--color-error);
  }
  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  .over {
    color: var(--color-error);
  }
</style>

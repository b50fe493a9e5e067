<script lang="ts">
  import type { Mixture } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Plot, { type Field } from '$lib/ui/Plot.svelte';

  interface Props {
    mixture: Mixture;
    /** Name of the gas. */
    gas: string;
  }
  let { mixture, gas }: Props = $props();
  const LOW = 0.8;
  const MOST = 1.6;
  let top = $derived(Math.min(MOST, Math.max(1.3, ...mixture.expected) + 0.08));

  function line(field: Field, row: number[]): string {
    const places = mixture.loads.map(
      (load, i) => `${field.x(100 * load).toFixed(1)} ${field.y(row[i] ?? 1).toFixed(1)}`
    );
    return `M${places.join('L')}`;
  }
  function area(field: Field): string {
    const back = mixture.loads
      .map((load, i) => `${field.x(100 * load)} ${field.y(mixture.low[i] ?? 1)}`)
      .reverse();
    return `${line(field, mixture.high)}L${back.join('L')}Z`;
  }
</script>

<section class="my-4 mx-0 max-w-208" aria-labelledby={`mixture-${gas}`} data-mixture>
  <h2 id={`mixture-${gas}`}>Mixture over load</h2>
  <p class="quiet">
    Set once at full load. Below it the regulator still keeps what opens it, so that the mixture
    leans; the pulses of the intake work against that, by how much is the band. Where the dashed
    line leaps, the governor opens far before the regulator follows: it hunts there.
  </p>
  <Plot
    title={`λ on ${gas}, against load in percent of full load`}
    label={`λ over load on ${gas}: ${mixture.figures.map((one) => `${one.label} ${one.us.text}`).join(', ')}`}
    x={[0, 100]}
    y={[LOW, top]}
    height={250}
    tick={(value) => String(value)}
  >
    {#snippet children(field)}
      <g clip-path={field.clip}>
        <path class="band fill-(--tint)" d={area(field)} />
        {#each [[mixture.hunts, 'hunts above'], [mixture.hot, 'misses, runs hot above']] as const as [at, text] (text)}
          <path class="limit" d="M{field.left} {field.y(at)}H{field.right}" />
          <text x={field.right - 4} y={field.y(at) - 5} text-anchor="end">{text}</text>
        {/each}
        <path class="idled" d={line(field, mixture.idle_set)} />
        <path class="course" d={line(field, mixture.expected)} />
      </g>
      <text x={field.right - 4} y={field.base - 8} text-anchor="end">rich</text>
      <text x={field.right - 4} y={field.top + 14} text-anchor="end">lean</text>
    {/snippet}
  </Plot>
  <p class="legend">
    <svg width="26" height="8" aria-hidden="true"><path class="course" d="M0 4H26" /></svg> idle
    screw shut
    <svg width="26" height="8" aria-hidden="true"><path class="idled" d="M0 4H26" /></svg> idle screw
    set by the smoothest running
  </p>
  <dl>
    {#each mixture.figures as one (one.key)}
      <div>
        <dt>{one.label}</dt>
        <dd><Figure figure={one} band /></dd>
      </div>
    {/each}
  </dl>
</section>

<style>
  h2 {
    font-weight: 650;
  }

  .course {
    stroke: var(--color-primary);
    stroke-width: 2.5;
    fill: none;
  }
  .idled {
    stroke: var(--color-base-content);
    stroke-width: 1.8;
    stroke-dasharray: 6 4;
    fill: none;
  }
  .limit {
    stroke: var(--color-error);
    stroke-dasharray: 2 4;
  }
  text {
    fill: var(--color-base-content);
  }
  .legend {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 0.5rem;
    align-items: center;
    font-size: 0.85rem;
    color: var(--muted);
  }
  dl {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr));
    gap: 0.3rem 1rem;
    border-top: 1px solid var(--rule);
    padding-top: 0.4rem;
    margin-top: 0.4rem;
  }
  dt {
    color: var(--muted);
    font-size: 0.9rem;
  }
  dd {
    display: grid;
    justify-items: start;
  }
</style>

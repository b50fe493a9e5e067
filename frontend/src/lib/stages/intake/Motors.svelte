<script lang="ts">
  import type { components } from '$lib/api/schema';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';

  interface Props {
    motors: components['schemas']['MotorOut'][];
  }
  let { motors }: Props = $props();
  let ordered = $derived([...motors].sort((a, b) => a.place - b.place));
</script>

<section class="section" data-motors>
  <h2>Motors that start</h2>
  <p class="quiet">
    A motor at rest draws current of the alternator or inverter and power of the engine: both must
    be enough. Fuel and elevation take from the engine only.
  </p>
  <ul>
    {#each motors as one (one.figure.key)}
      <li data-motor={one.figure.key}>
        <span class:wrong={!one.holds}><Figure figure={one.figure} /> {one.figure.label}</span>
        <ul>
          {#each one.fuels as on (on.fuel)}
            <li class="on">
              <Mark letter={on.letter} fuel={on.fuel} />
              <span><Figure figure={on.engine} /> <span class="quiet">of the engine:</span></span>
              <span class:wrong={!on.starts}>{on.says}</span>
            </li>
          {/each}
        </ul>
      </li>
    {/each}
  </ul>
  {#if ordered.length > 1}
    <p data-order>
      <b>Start in this order:</b>
      {ordered.map((one) => one.name).join(', ')}, then what has no motor.
    </p>
  {/if}
</section>

<style>
  li {
    border-top: 1px solid var(--rule);
    padding: 0.3rem 0;
  }
  .on {
    display: flex;
    flex-wrap: wrap;
    gap: 0 0.7rem;
    align-items: center;
    border: 0;
    padding: 0.1rem 0 0.1rem 1rem;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>

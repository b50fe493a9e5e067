<script lang="ts">
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import type { components } from '$lib/api/schema';

  interface Props {
    gas: components['schemas']['GasProofOut'];
  }
  let { gas }: Props = $props();
  let at = $derived(`proof.pressures.${gas.fuel}`);
</script>

<div data-pressures>
  <h3>Pressure at the {gas.meters}</h3>
  <p class="quiet">
    Manometer at its test port: engine stopped, again five minutes later, then at full load.
  </p>
  <div class="grid-3">
    <QuantityField path={`${at}.static`} />
    <QuantityField path={`${at}.later`} />
    <QuantityField path={`${at}.full`} />
  </div>
  {#if gas.pressures.length}
    <p>
      Held against the ladder:
      {#each gas.pressures as one, n (one.key)}
        {n ? '; ' : ''}{one.label} <Figure figure={one} />
      {/each}
    </p>
  {/if}
</div>

<style>
  h3 {
    font-weight: 650;
    margin-top: 0.7rem;
  }
</style>

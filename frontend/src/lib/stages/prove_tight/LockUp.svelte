<script lang="ts">
  import { signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import type { components } from '$lib/api/schema';

  interface Props {
    gas: components['schemas']['GasProofOut'];
  }
  let { gas }: Props = $props();
  const job = useJob();
  function lockUp(fuel: string, state: 'still' | 'grows') {
    job().set(`proof.lock_up.${fuel}`, { state, ...signed() });
  }
</script>

<div class="lock" data-lock-up={gas.lock_up}>
  <div>
    <h3>Lock-up</h3>
    <p class="quiet">{gas.lock_up_how}</p>
    {#if gas.lock_up === 'still'}<p class="tight">The film stood still, {gas.lock_up_by}.</p>
    {:else if gas.lock_up === 'grows'}<p class="stop text-error font-[650]">
        It grew: source shut. Dirt on its seat, inlet pressure too high, or the regulator is done.
      </p>{/if}
  </div>
  <div class="acts" role="group" aria-label={`Lock-up, ${gas.name}`}>
    <button class="btn btn-sm" onclick={() => lockUp(gas.fuel, 'still')}>Stands still</button>
    <button class="btn btn-sm" onclick={() => lockUp(gas.fuel, 'grows')}>It grows</button>
  </div>
</div>

<style>
  h3 {
    font-weight: 650;
    margin-top: 0.7rem;
  }
  .tight {
    color: var(--color-success);
    font-weight: 650;
  }
  .lock {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
    align-items: center;
    justify-content: space-between;
    border-top: 1px solid var(--rule);
    margin-top: 0.5rem;
  }
  .lock > div:first-child {
    flex: 1;
    min-width: 15rem;
    max-width: 46rem;
  }
  .acts {
    display: flex;
    gap: 0.3rem;
  }
</style>

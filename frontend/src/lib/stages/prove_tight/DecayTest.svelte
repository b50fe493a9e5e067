<script lang="ts">
  import type { components } from '$lib/api/schema';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    zone: components['schemas']['ZoneProofOut'];
  }
  let { zone }: Props = $props();
  const job = useJob();
  let at = $derived(`proof.zones.${zone.key}`);
  const TELLS = { '': '', tight: 'Tight.', leaks: 'It leaks.', inconclusive: 'Inconclusive.' };
</script>

{#if zone.begun}
  <div class="decay" data-decay={zone.tells}>
    <div class="fields">
      <QuantityField path={`${at}.volume`} />
      <QuantityField path={`${at}.before`} />
      <QuantityField path={`${at}.after`} />
      <QuantityField path={`${at}.seconds`} />
      <QuantityField path={`${at}.before_k`} assumed={288.15} />
      <QuantityField path={`${at}.after_k`} assumed="the same" />
      <QuantityField path={`${at}.gauge`} assumed={12.5} />
      <QuantityField path={`${at}.limit`} assumed="10 cm³/h" />
      <QuantityField path={`${at}.barometer`} assumed="not at all" />
    </div>
    {#if zone.drop && zone.leak}
      <p role="status" class={zone.tells}>
        <b>{TELLS[zone.tells]}</b>
        {zone.why}
        {#if zone.least}Least time for this gauge and volume:
          <span class="num">{zone.least[prefs.system]}</span>.{/if}
        Pressure drop, temperature-corrected: <Figure figure={zone.drop} />, leak <Figure
          figure={zone.leak}
        />
      </p>
    {/if}
    <!-- One that leaks is evidence: it goes when the line is read again. -->
    {#if zone.tells !== 'leaks'}
      <button class="btn btn-sm btn-ghost" onclick={() => job().remove(at)}
        >Take the decay out</button
      >
    {/if}
  </div>
{:else}
  <button class="btn btn-sm btn-ghost" onclick={() => job().set(at, { ...signed() })}
    >Decay test, where a gauge is fitted</button
  >
{/if}

<style>
  .decay {
    border-left: 3px solid var(--rule);
    padding-left: 0.7rem;
    margin: 0.3rem 0;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(13rem, 1fr));
    gap: 0 0.9rem;
  }
  p.tight b {
    color: var(--color-success);
  }
  p.leaks b {
    color: var(--color-error);
  }
  p.inconclusive b {
    color: var(--color-warning);
  }
</style>

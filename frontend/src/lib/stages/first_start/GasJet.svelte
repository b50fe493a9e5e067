<script lang="ts">
  import { PLUG_TINTS, RAN } from '$lib/api/published';
  import { signed } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import type { GasMetering } from './bench.svelte';

  interface Props {
    gas: GasMetering;
    jet: NonNullable<GasMetering['jet']>;
  }
  let { gas, jet }: Props = $props();
  const job = useJob();
  let path = $derived(`metering.${gas.key}.readings.${jet.key}`);
</script>

<section>
  <h2>{jet.name.charAt(0).toUpperCase() + jet.name.slice(1)}</h2>
  <p>
    No screw: its hole meters {gas.name}. It is changed, not turned, and proven by one reading near
    full load. After a change its joints are soaped again.
  </p>
  <dl>
    <dt>λ at full load</dt>
    <dd><Figure figure={jet.lam} /></dd>
    {#if jet.wanted}
      <dt>Hole asked for here</dt>
      <dd><Figure figure={jet.wanted} /></dd>
    {/if}
    {#if jet.probe}
      <dt>By the probe</dt>
      <dd><Figure figure={jet.probe} /></dd>
    {/if}
    {#if gas.load}
      <dt>Load at least</dt>
      <dd><Figure figure={gas.load} /></dd>
    {/if}
  </dl>
  {#if jet.read}
    <div class="fields">
      <QuantityField path={`${path}.output`} />
      <QuantityField path={`${path}.lam`} hint="Without a probe, read the plug." />
      <ChoiceField path={`${path}.plug`} label="Plug after it" options={PLUG_TINTS} />
      <ChoiceField path={`${path}.ran`} label="It ran" options={RAN} />
    </div>
    <p role="status" class="verdict" class:good={!jet.says}>
      {jet.says || `${jet.name} proven under load on this site.`}
    </p>
    <button class="link" onclick={() => job().remove(path)}>Take the reading out</button>
  {:else}
    <button
      class="btn btn-primary btn-sm"
      disabled={gas.forbidden.length > 0}
      onclick={() => job().setAll([{ path, value: { ...signed() } }])}>Read it under load</button
    >
  {/if}
</section>

<style>
  h2 {
    font-weight: 650;
  }
  dl {
    display: grid;
    grid-template-columns: 11rem 1fr;
    gap: 0.1rem 0.8rem;
    margin: 0.4rem 0 0.6rem;
  }
  dt {
    color: var(--muted);
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
    gap: 0.2rem 0.8rem;
    max-width: 52rem;
  }
  .verdict {
    margin: 0.4rem 0;
    font-weight: 600;
  }
  .verdict.good {
    color: var(--color-success);
  }
  @media (max-width: 600px) {
    dl {
      grid-template-columns: 1fr;
    }
    .btn {
      width: 100%;
      min-height: 3rem;
    }
  }
</style>

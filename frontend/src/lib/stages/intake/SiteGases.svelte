<script lang="ts">
  import { fuelOf } from '$lib/ui/fuels';
  import { GAS_KINDS, STUBS, TAKE_OFFS, TAPPED_BY } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { ASKED } from '$lib/api/published';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    at: string;
  }
  let { at }: Props = $props();
  const job = useJob();
</script>

<Rows
  path={`${at}.gases`}
  prefix="g"
  title="Gas on the site"
  text="The utility knows the heating value; a gas analysis gives biogas its methane share."
  add="Add a gas"
  fresh={{ kind: 'natural_gas' }}
>
  {#snippet row(path)}
    {@const kind = job().settled?.job.sites[at.slice(6)]?.gases[path.split('.').at(-1) ?? '']?.kind}
    <div class="grid-3">
      <ChoiceField path={`${path}.kind`} label="Gas" options={GAS_KINDS} />
      {#if kind && fuelOf(kind)?.source === 'digester'}
        <QuantityField path={`${path}.methane`} assumed="60 %, assumed" />
        <QuantityField path={`${path}.sulfide`} />
        <ChoiceField path={`${path}.cleaned`} label="Scrubbed and dried" options={ASKED} />
      {:else}
        <QuantityField path={`${path}.hhv`} assumed={38.4e6} />
        <QuantityField path={`${path}.specific_gravity`} assumed="0.60" />
        <QuantityField path={`${path}.meter`} />
        <QuantityField path={`${path}.appliances`} />
        <ChoiceField path={`${path}.take_off`} label="Taken off at" options={TAKE_OFFS} />
        <ChoiceField path={`${path}.tapped`} label="Joined by" options={TAPPED_BY} />
      {/if}
      <QuantityField path={`${path}.pressure`} />
      <ChoiceField path={`${path}.stub`} label="Pipe thread there" options={STUBS} />
      <QuantityField path={`${path}.distance`} />
      <QuantityField path={`${path}.rise`} />
    </div>
  {/snippet}
</Rows>

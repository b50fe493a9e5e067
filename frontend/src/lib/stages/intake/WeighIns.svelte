<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import { WEIGHED_FUELS } from '$lib/api/published';
  import Rows from '$lib/ui/Rows.svelte';
</script>

<Rows
  path="set.weigh_ins"
  prefix="w"
  title="Weigh-ins"
  text="Fuel weighed before and after a metered run: the best figure there is, as good as the scale."
  add="Add a weigh-in"
  fresh={{ fuel: 'propane' }}
>
  {#snippet row(path)}
    <div class="grid-3">
      <ChoiceField path={`${path}.fuel`} label="Fuel" options={WEIGHED_FUELS} />
      <QuantityField path={`${path}.before`} />
      <QuantityField path={`${path}.after`} />
      <QuantityField path={`${path}.energy`} />
      <QuantityField path={`${path}.duration`} />
      <QuantityField path={`${path}.scale`} assumed={0.05} />
    </div>
  {/snippet}
</Rows>

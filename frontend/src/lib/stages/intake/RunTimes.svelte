<script lang="ts">
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Rows from '$lib/ui/Rows.svelte';
</script>

<Rows
  path="set.run_times"
  prefix="r"
  title="Run times from the data sheet"
  text="Two run times at different loads give this set's own fuel-use curve. Without them its class is used (± 20 %)."
  add="Add a run time"
  fresh={{}}
>
  {#snippet row(path)}
    <div class="grid-3">
      <QuantityField path={`${path}.load`} />
      <QuantityField path={`${path}.duration`} />
      <QuantityField path={`${path}.volume`} assumed="its own tank" />
    </div>
  {/snippet}
</Rows>

<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import { BEHIND, REMEDY } from '$lib/api/published';
  import Rows from '$lib/ui/Rows.svelte';
</script>

<Rows
  path="set.faces"
  prefix="f"
  title="Faces a part could be mounted on"
  text="Where the demand regulator or a tank valve could sit: what is behind, what stands there now."
  add="Add a face"
  fresh={{ name: '' }}
>
  {#snippet row(path)}
    <div class="grid-3">
      <TextField path={`${path}.name`} label="Face" placeholder="left panel" />
      <QuantityField path={`${path}.room`} />
      <ChoiceField path={`${path}.behind`} label="Behind it" options={BEHIND} />
      <TextField path={`${path}.stands`} label="What stands there now" />
      <ChoiceField path={`${path}.remedy`} label="What becomes of it" options={REMEDY} />
    </div>
    <Photos subject={path} label="this face" />
  {/snippet}
</Rows>

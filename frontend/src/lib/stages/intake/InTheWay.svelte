<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import { IN_THE_WAY, REMEDY, UNDOING } from '$lib/api/published';
  import Rows from '$lib/ui/Rows.svelte';
</script>

<Rows
  path="set.in_the_way"
  prefix="w"
  title="What stands in the way"
  text="Canister, cover, breather, box, exhaust, wiring where something must go: what becomes of it is a step of the sheet."
  add="Add something in the way"
  fresh={{ what: 'other', name: '', remedy: 'none', undo: 'unknown', note: '' }}
>
  {#snippet row(path)}
    <div class="grid-3">
      <ChoiceField path={`${path}.what`} label="What it is" options={IN_THE_WAY} />
      <TextField path={`${path}.name`} label="Called" placeholder="canister at the left rail" />
      <ChoiceField path={`${path}.remedy`} label="What becomes of it" options={REMEDY} />
      <ChoiceField path={`${path}.undo`} label="Put back as it was" options={UNDOING} />
      <TextField path={`${path}.note`} label="Note" />
    </div>
    <Photos subject={path} label="what stands in the way" />
  {/snippet}
</Rows>

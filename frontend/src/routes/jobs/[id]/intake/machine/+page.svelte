<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import AskField from '$lib/stages/intake/AskField.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import { BEHIND, REMEDY } from '$lib/api/published';
  import Switches from '$lib/stages/intake/Switches.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';

  const job = useJob();
  let walk = $derived(job().now?.walk ?? job().settled?.walk);
</script>

<SheetHead
  title="At the machine"
  text={walk
    ? `${walk.answered} of ${walk.total} known. Only what matters for this set, in walking order.`
    : ''}
/>

{#each walk?.groups ?? [] as group (group.key)}
  <section class="section first">
    <div class="flex justify-between items-center gap-4">
      <h2>{group.title}</h2>
      {#if group.key !== 'history'}
        <Photos subject={`machine.${group.key}`} label={group.title} />
      {/if}
    </div>
    <div class="grid-3">
      {#each group.asks as ask (ask.path)}<AskField {ask} />{/each}
    </div>
  </section>
{/each}

{#if walk}
  <Switches />
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
{/if}

<style>
  h2 {
    font-size: 1.1rem;
    font-weight: 700;
  }
  .first:first-of-type {
    border-top: 0;
    padding-top: 0;
    margin-top: 0;
  }
</style>

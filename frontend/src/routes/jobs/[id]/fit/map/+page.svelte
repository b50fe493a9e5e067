<script lang="ts">
  import { signed } from '$lib/session/record';
  import { GASKETS, LEFT_KINDS, LEFT_STATES, NUTS, UNDOING } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import FastenerMap from '$lib/stages/fit/FastenerMap.svelte';
  import ComesBack from '$lib/stages/fit/ComesBack.svelte';

  const job = useJob();
  let fit = $derived(job().now?.fit ?? job().settled?.fit);
</script>

<SheetHead title="Screws and holes" text="What came off, what was cut, what somebody gets back." />

{#if fit}
  <section class="section first" data-closed>
    <h2>At the intake</h2>
    <div class="grid-3">
      <ChoiceField path="fit.gaskets" label="Gaskets" options={GASKETS} />
      <ChoiceField path="fit.nuts" label="Nuts on their studs" options={NUTS} />
    </div>
  </section>
  <FastenerMap fasteners={fit.fasteners} />
  <Rows
    path="fit.left"
    prefix="h"
    title="Left on the machine"
    text="Holes, cuts and bends that were not there before, and whether they can be undone."
    add="Note one"
    fresh={{ kind: 'hole', what: 'hole', state: 'used', ...signed() }}
  >
    {#snippet row(path)}
      <div class="grid-3">
        <ChoiceField path={`${path}.kind`} label="What" options={LEFT_KINDS} />
        <TextField path={`${path}.what`} label="Where, how large" />
        <ChoiceField path={`${path}.state`} label="It is" options={LEFT_STATES} />
        <ChoiceField path={`${path}.undo`} label="Undone" options={UNDOING} />
      </div>
      <Photos subject={path} label="this mark" />
    {/snippet}
  </Rows>
  <ComesBack rows={fit.back} />
{/if}

<style>
  .first {
    border-top: 0;
    margin-top: 0;
  }
</style>

<script lang="ts">
  import { REGULATOR_ON, SEALS, SEEN } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import type { Place, Train } from '$lib/api/client';
  import Tick from '$lib/ui/Tick.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Insert from './Insert.svelte';
  import type { Workbench } from './work.svelte';

  interface Props {
    train: Train;
    place: Place;
    bench: Workbench;
  }
  let { train, place, bench }: Props = $props();
  const job = useJob();
  let slot = $derived(job().settled?.job.trains?.[train.name]?.slots?.[place.key]);
  let at = $derived(`trains.${train.name}.slots.${place.key}`);
</script>

<div class="acts">
  <button class="btn btn-sm" disabled={bench.busy} onclick={() => void bench.pick()}
    >Swap (Enter)</button
  >
  <button
    class="btn btn-sm"
    disabled={bench.busy}
    onclick={() => void bench.edit({ op: 'turn', slot: place.key })}>Turn round</button
  >
  <button
    class="btn btn-sm"
    disabled={bench.busy}
    onclick={() => void bench.edit({ op: 'remove', slot: place.key })}>Take out</button
  >
  <Insert {bench} fuel={train.fuel} after={place.key} />
  <Tick path={`${at}.there`} checked={slot?.there ?? false}>there already</Tick>
  {#if slot?.there && place.joint}
    <Tick path={`${at}.remade`} checked={slot.remade ?? false}>joint made again</Tick>
  {/if}
  {#if place.needs_upright}
    <ChoiceField path={`${at}.upright`} label="Stands upright" options={SEEN} />
  {/if}
  {#if place.regulates}
    <ChoiceField path={`${at}.on`} label="It sits" options={REGULATOR_ON} />
  {/if}
  {#if place.ports.length}
    <ChoiceField path={`${at}.capped`} label="Side opening capped" options={SEEN} />
  {/if}
  {#if train.found && place.joint}
    <ChoiceField path={`${at}.seal`} label="Sealed by" options={SEALS} />
  {/if}
</div>

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    align-items: center;
  }
</style>

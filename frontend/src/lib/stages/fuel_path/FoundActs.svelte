<script lang="ts">
  import { INLETS } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Insert from '$lib/stages/fuel_path/Insert.svelte';
  import { Workbench } from '$lib/stages/fuel_path/work.svelte';
  import type { Train } from '$lib/api/client';

  interface Props {
    train: Train;
    bench: Workbench;
    fuel: string;
    stops: number;
  }
  let { train, bench, fuel, stops }: Props = $props();
  const job = useJob();
  let entered = $derived(job().settled?.job.trains?.as_found);

  /** One press for what somebody looked at and found right; what was said already stands. */
  function allRight() {
    const slots = entered?.slots ?? {};
    const said = train.places.flatMap((one) => {
      const at = `trains.as_found.slots.${one.key}`;
      const slot = slots[one.key];
      return [
        ...(one.joint?.proper && !slot?.seal
          ? [{ path: `${at}.seal`, value: one.joint.proper }]
          : []),
        ...(one.needs_upright && slot?.upright == null
          ? [{ path: `${at}.upright`, value: true }]
          : []),
        ...(one.ports.length && slot?.capped == null ? [{ path: `${at}.capped`, value: true }] : [])
      ];
    });
    if (said.length) job().setAll(said);
  }

  async function repair() {
    await bench.propose(train.template, 'repair');
  }
</script>

<div class="acts">
  <Insert {bench} {fuel} after={train.places.at(-1)?.key ?? ''} label="Add the next part" />
  <button class="btn btn-sm btn-primary" disabled={bench.busy} onclick={() => void repair()}
    >Repair train</button
  >
  <ChoiceField path="trains.as_found.inlet" label="The set's gas inlet now" options={INLETS} />
  <Tick path="trains.as_found.past_exhaust" checked={entered?.past_exhaust ?? false}
    >a hose passes the exhaust</Tick
  >
  <button
    class="btn btn-sm"
    title="Each joint sealed as it should, upright what must be, openings capped"
    onclick={allRight}>I checked all of it: as it should be</button
  >
  <button
    class="btn btn-sm"
    disabled={stops > 0}
    title={stops ? 'Repair it first' : ''}
    onclick={() => void bench.keep(train.fuel)}>Make it this job's train</button
  >
  <button class="btn btn-sm btn-ghost" onclick={() => job().remove('trains.as_found')}
    >Clear it</button
  >
</div>

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.9rem;
    align-items: center;
    margin: 0.5rem 0;
  }
</style>

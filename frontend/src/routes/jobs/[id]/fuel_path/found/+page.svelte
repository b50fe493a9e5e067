<script lang="ts">
  import { counted } from '$lib/api/settled';
  import { INLETS } from '$lib/api/published';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import { createQuery } from '@tanstack/svelte-query';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Insert from '$lib/stages/fuel_path/Insert.svelte';
  import PlacePanel from '$lib/stages/fuel_path/PlacePanel.svelte';
  import Proposals from '$lib/stages/fuel_path/Proposals.svelte';
  import TrainDrawing from '$lib/stages/fuel_path/TrainDrawing.svelte';
  import Troubles from '$lib/stages/fuel_path/Troubles.svelte';
  import { Workbench } from '$lib/stages/fuel_path/work.svelte';

  interface Way {
    key: string;
    name: string;
    title: string;
    method_name: string;
  }
  const job = useJob();
  const bench = new Workbench(job);
  bench.show('as_found');
  let entered = $derived(job().settled?.job.trains?.as_found);
  let path = $derived(job().now?.path ?? job().settled?.path);
  let train = $derived(path?.trains.find((one) => one.name === 'as_found'));
  let place = $derived(train?.places.find((one) => one.key === bench.slot));
  let stops = $derived(train?.troubles.filter((one) => one.severity === 'stop').length ?? 0);
  const ways = createQuery(() => ({
    queryKey: ['templates'],
    queryFn: async () => (await (await counted('/api/catalog/templates')).json()) as Way[],
    staleTime: Infinity
  }));
  let fuel = $derived(
    train?.fuel ?? ways.data?.find((one) => one.key === entered?.template)?.name ?? ''
  );

  function begin(template: string) {
    if (entered) job().set('trains.as_found.template', template);
    else
      job().set('trains.as_found', {
        template,
        slots: {},
        found: true,
        inlet: '',
        past_exhaust: false,
        through_cover: null
      });
  }

  /** One press for what somebody looked at and found right; what was said already stands. */
  function allRight() {
    if (!train) return;
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
    await bench.propose(train?.template ?? '', 'repair');
  }
</script>

<SheetHead
  title="As found"
  text="Somebody else's conversion as it stands: every rule is run on it."
/>

<label class="what"
  >What it is meant to be
  <select
    class="select"
    value={entered?.template ?? ''}
    onchange={(event) => begin(event.currentTarget.value)}
    data-field="trains.as_found"
  >
    <option value="" disabled>choose</option>
    {#each ways.data ?? [] as one (one.key)}
      <option value={one.key}
        >{one.name.replace('_', ' ')}: {one.title}, {one.method_name.toLowerCase()}</option
      >
    {/each}
  </select>
</label>

{#if entered}
  {#if !Object.keys(entered.slots ?? {}).length}
    <p class="quiet">Enter its parts from the source on.</p>
    <div class="first flex flex-wrap gap-2">
      <Insert {bench} {fuel} after="" label="First part" />
    </div>
  {/if}
  {#if train}
    <p class="grade" class:bad={stops > 0} data-grade>{train.grade}</p>
    <TrainDrawing
      {train}
      selected={bench.slot}
      select={(key) => bench.select(key)}
      act={(what) =>
        what === 'swap'
          ? void bench.pick(true)
          : void bench.edit({ op: 'remove', slot: bench.slot })}
    />
    <div class="acts">
      <Insert {bench} {fuel} after={train.places.at(-1)?.key ?? ''} label="Add the next part" />
      <button class="btn btn-sm btn-primary" disabled={bench.busy} onclick={() => void repair()}
        >Repair train</button
      >
      <ChoiceField path="trains.as_found.inlet" label="The set's gas inlet now" options={INLETS} />
      <Tick path="trains.as_found.past_exhaust" checked={entered.past_exhaust ?? false}
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
    <Proposals {bench} now={train.price} />
    {#if place}{#key place.key}<PlacePanel {train} {place} {bench} />{/key}{/if}
    <Troubles {train} {bench} />
  {/if}
{/if}

<style>
  .what {
    display: block;
    max-width: 36rem;
    font-weight: 550;
  }

  .grade {
    font-size: 1.15rem;
    font-weight: 650;
    margin: 0.7rem 0 0.3rem;
  }
  .grade.bad {
    color: var(--color-error);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.9rem;
    align-items: center;
    margin: 0.5rem 0;
  }
</style>

<script lang="ts">
  import { counted } from '$lib/api/settled';
  import { createQuery } from '@tanstack/svelte-query';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Insert from '$lib/stages/fuel_path/Insert.svelte';
  import PlacePanel from '$lib/stages/fuel_path/PlacePanel.svelte';
  import Proposals from '$lib/stages/fuel_path/Proposals.svelte';
  import TrainDrawing from '$lib/stages/fuel_path/TrainDrawing.svelte';
  import Troubles from '$lib/stages/fuel_path/Troubles.svelte';
  import { Workbench } from '$lib/stages/fuel_path/work.svelte';
  import FoundActs from '$lib/stages/fuel_path/FoundActs.svelte';

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
    <FoundActs {train} {bench} {fuel} {stops} />
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
</style>

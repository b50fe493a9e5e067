<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { CLASSES } from '$lib/api/published';
  import Flows from '$lib/stages/method/Flows.svelte';
  import RunTable from '$lib/stages/method/RunTable.svelte';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  const running = new TypedQuantity('running_w', 'power', 3000, '3000 W');
  const load = new TypedQuantity('load_w', 'power', 1500, '1500 W');
  const tank = new TypedQuantity('tank_m3', 'volume');
  const elevation = new TypedQuantity('elevation_m', 'elevation');
  const hottest = new TypedQuantity('hottest_k', 'temperature');
  const coldest = new TypedQuantity('coldest_k', 'temperature');
  let setClass = $state<(typeof CLASSES)[number][0]>('open_frame');
  let body = $derived({
    running_w: running.value ?? 0,
    load_w: load.value ?? 0,
    tank_m3: tank.value ?? null,
    elevation_m: elevation.value ?? 0,
    hottest_k: hottest.value ?? 298.15,
    coldest_k: coldest.value ?? 273.15,
    set_class: setClass
  });
  const answer = createQuery(() => ({
    queryKey: ['quick', 'run-time', body],
    queryFn: () => ask(api.POST('/api/quick/run-time', { body })),
    enabled: running.value !== undefined && load.value !== undefined,
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  <TypedField quantity={running} label="Running rating" fault={wrong.running_w} />
  <TypedField quantity={load} label="Load" fault={wrong.load_w} />
  <label class="field"
    ><span>Class</span>
    <select class="select" bind:value={setClass}>
      {#each CLASSES as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
  <TypedField quantity={tank} label="Gasoline tank" fault={wrong.tank_m3} />
  <TypedField
    quantity={hottest}
    label="Hottest day"
    assumed={298.15}
    fault={wrong.temperature_k ?? wrong.hottest_k}
  />
  <TypedField quantity={coldest} label="Coldest night" assumed={273.15} fault={wrong.coldest_k} />
  <TypedField
    quantity={elevation}
    label="Elevation"
    assumed="sea level"
    fault={wrong.elevation_m}
  />
</div>

{#if answer.data && !answer.isError}
  <RunTable
    runs={answer.data.runs.map((run) => ({ ...run, at_hand: true }))}
    hottest={hottest.text || '25 °C'}
    coldest={coldest.text || '0 °C'}
  />
  <div class="section"><Flows flows={answer.data.flows} /></div>
{/if}

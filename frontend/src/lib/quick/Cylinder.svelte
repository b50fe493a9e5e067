<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import Answer from '$lib/stages/method/Answer.svelte';
  import { CLASSES, SHELTERS } from '$lib/api/published';
  import { useReference } from '$lib/session/reference';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  const reference = useReference();
  const running = new TypedQuantity('running_w', 'power', 3000, '3000 W');
  const load = new TypedQuantity('load_w', 'power', 1500, '1500 W');
  const temperature = new TypedQuantity('temperature_k', 'temperature', 273.15, '0 °C');
  const weighed = new TypedQuantity('weighed_kg', 'mass');
  const tare = new TypedQuantity('tare_kg', 'mass');
  const elevation = new TypedQuantity('elevation_m', 'elevation');
  let setClass = $state<(typeof CLASSES)[number][0]>('open_frame');
  let size = $state('20');
  let count = $state('1');
  let shelter = $state<(typeof SHELTERS)[number][0]>('still_air');
  let body = $derived({
    running_w: running.value ?? 0,
    load_w: load.value ?? 0,
    set_class: setClass,
    size,
    count: Number(count),
    contents_kg: null,
    relative_humidity: null,
    weighed_kg: weighed.value ?? null,
    tare_kg: tare.value ?? null,
    temperature_k: temperature.value ?? 273.15,
    elevation_m: elevation.value ?? 0,
    shelter
  });
  const answer = createQuery(() => ({
    queryKey: ['quick', 'cylinder', body],
    queryFn: () => ask(api.POST('/api/quick/cylinder', { body })),
    enabled: running.value !== undefined && load.value !== undefined,
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  <label class="field"
    ><span>Size</span>
    <select class="select" bind:value={size}>
      {#each reference.data?.cylinders ?? [] as entry (entry.key)}
        <option value={entry.key}>{entry.name}</option>
      {/each}
    </select>
  </label>
  <label class="field"
    ><span>Together</span>
    <select class="select" bind:value={count}>
      {#each ['1', '2', '3', '4'] as n (n)}<option>{n}</option>{/each}
    </select>
  </label>
  <label class="field"
    ><span>Around the cylinder</span>
    <select class="select" bind:value={shelter}>
      {#each SHELTERS as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
  <TypedField
    quantity={temperature}
    label="Air temperature"
    fault={wrong.temperature_k ?? wrong.coldest_k}
  />
  <TypedField quantity={load} label="Load" fault={wrong.load_w} />
  <TypedField quantity={running} label="Running rating" fault={wrong.running_w} />
  <TypedField
    quantity={weighed}
    label="Weighed, each"
    assumed="full (80 %)"
    fault={wrong.weighed_kg}
  />
  <TypedField quantity={tare} label="Stamped tare (TW)" assumed="typical" fault={wrong.tare_kg} />
  <TypedField
    quantity={elevation}
    label="Elevation"
    assumed="sea level"
    fault={wrong.elevation_m}
  />
  <label class="field"
    ><span>Class</span>
    <select class="select" bind:value={setClass}>
      {#each CLASSES as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
</div>

{#if answer.data && !answer.isError}<Answer answer={answer.data} />{/if}

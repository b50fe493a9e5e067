<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { SCHOOLS } from '$lib/api/published';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  const running = new TypedQuantity('running_w', 'power', 3000, '3000 W');
  const starting = new TypedQuantity('starting_w', 'power');
  const elevation = new TypedQuantity('elevation_m', 'elevation', 609.6, '2000 ft');
  const temperature = new TypedQuantity('temperature_k', 'temperature');
  const jetted = new TypedQuantity('jetted_at_m', 'elevation');
  const methane = new TypedQuantity('methane_share', 'share');
  let fuel = $state<'field_rule' | 'physics'>('field_rule');
  let air = $state<'field_rule' | 'physics'>('field_rule');
  let body = $derived({
    running_w: running.value ?? 0,
    starting_w: starting.value ?? null,
    elevation_m: elevation.value ?? 0,
    temperature_k: temperature.value ?? 298.15,
    jetted_at_m: jetted.value ?? null,
    methane_share: methane.value ?? null,
    shaft_power_w: null,
    alternator_efficiency: null,
    relative_humidity: null,
    hhv_j_m3: null,
    fuel_school: fuel,
    air_school: air
  });
  const answer = createQuery(() => ({
    queryKey: ['quick', 'derate', body],
    queryFn: () => ask(api.POST('/api/quick/derate', { body })),
    enabled: running.value !== undefined,
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  <TypedField quantity={running} label="Running rating" fault={wrong.running_w} />
  <TypedField
    quantity={starting}
    label="Starting rating"
    assumed="the running rating"
    fault={wrong.starting_w}
  />
  <TypedField quantity={elevation} label="Elevation" fault={wrong.elevation_m} />
  <TypedField
    quantity={temperature}
    label="Temperature"
    assumed={298.15}
    fault={wrong.temperature_k}
  />
  <TypedField
    quantity={jetted}
    label="Jetted at elevation"
    assumed="sea level"
    fault={wrong.jetted_at_m}
  />
  <TypedField
    quantity={methane}
    label="Biogas: methane share"
    assumed="60 %"
    fault={wrong.methane_share}
  />
  <label class="field"
    ><span>Fuel by</span>
    <select class="select" bind:value={fuel}>
      {#each SCHOOLS as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
  <label class="field"
    ><span>Elevation and heat by</span>
    <select class="select" bind:value={air}>
      {#each SCHOOLS as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
</div>

{#if answer.data && !answer.isError}
  <table class="answers">
    <thead>
      <tr
        ><th scope="col">Fuel</th><th scope="col">steady</th><th scope="col">starts up to</th><th
          scope="col">limit</th
        ></tr
      >
    </thead>
    <tbody>
      {#each answer.data.fuels as entry (entry.fuel)}
        <tr>
          <th scope="row"><Mark fuel={entry.fuel} letter={entry.letter} /> {entry.name}</th>
          <td><Figure figure={entry.running} size="big" band /></td>
          <td><Figure figure={entry.starting} /></td>
          <td class="quiet">{entry.limited_by}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

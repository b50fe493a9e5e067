<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { faults } from './faults';
  import { TypedQuantity } from './quantity.svelte';
  import TypedField from './TypedField.svelte';

  const SOLVES = [
    ['bore', 'which size is wanted'],
    ['flow', 'what it passes'],
    ['drop', 'how much it drops'],
    ['length', 'how far it reaches']
  ] as const;
  const GASES = [
    ['natural_gas', 'natural gas'],
    ['propane', 'propane'],
    ['biogas', 'biogas']
  ] as const;
  const SIZES = ['3/8', '1/2', '3/4', '1', '1-1/4', '1-1/2', '2', '2-1/2', '3'];
  let solve = $state<(typeof SOLVES)[number][0]>('bore');
  let gas = $state<(typeof GASES)[number][0]>('natural_gas');
  let nominal = $state('3/4');
  const heat = new TypedQuantity('heat_w', 'heat_rate', 38098.7, '130000 BTU/h');
  const drop = new TypedQuantity('drop_pa', 'pressure', 124.54, '0.5 in w.c.');
  const length = new TypedQuantity('length_m', 'length', 22, '22 m');
  const elevation = new TypedQuantity('elevation_m', 'elevation');
  const methane = new TypedQuantity('methane_share', 'share');
  let body = $derived({
    gas,
    solve,
    nominal,
    heat_w: heat.value ?? 0,
    drop_pa: drop.value ?? 0,
    length_m: length.value ?? 0,
    elevation_m: elevation.value ?? 0,
    methane_share: methane.value ?? null,
    hhv_j_m3: null
  });
  const answer = createQuery(() => ({
    queryKey: ['quick', 'gas-pipe', body],
    queryFn: () => ask(api.POST('/api/quick/gas-pipe', { body })),
    placeholderData: keepPreviousData,
    retry: false
  }));
  let wrong = $derived(faults(answer.error));
</script>

<div class="grid-3">
  <label class="field"
    ><span>Asked</span>
    <select class="select" bind:value={solve} data-solve>
      {#each SOLVES as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
  <label class="field"
    ><span>Gas</span>
    <select class="select" bind:value={gas}>
      {#each GASES as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select>
  </label>
  {#if solve !== 'bore'}
    <label class="field"
      ><span>Nominal size, schedule 40</span>
      <select class="select" bind:value={nominal} data-nominal>
        {#each SIZES as size (size)}<option value={size}>{size} in</option>{/each}
      </select>
    </label>
  {/if}
  <TypedField quantity={heat} label="Demand (HHV)" fault={wrong.heat_w ?? wrong.demand} />
  <TypedField
    quantity={drop}
    label="Drop allowed"
    fault={wrong.drop_pa ?? wrong['pressure drop']}
  />
  <TypedField
    quantity={length}
    label="Length, fittings included"
    fault={wrong.length_m ?? wrong.length}
  />
  <TypedField
    quantity={elevation}
    label="Elevation"
    assumed="sea level"
    fault={wrong.elevation_m ?? wrong.elevation}
  />
  {#if gas === 'biogas'}
    <TypedField
      quantity={methane}
      label="Methane share"
      assumed="60 %"
      fault={wrong['methane share']}
    />
  {/if}
</div>

{#if answer.data && !answer.isError}
  <table class="answers">
    <tbody>
      {#if solve === 'bore'}
        <tr>
          <th>Size, schedule 40</th>
          <td data-size
            ><strong>{answer.data.nominal ? `${answer.data.nominal} in` : 'past 3 in'}</strong></td
          >
        </tr>
      {/if}
      {#each answer.data.figures as figure (figure.key)}
        <tr><th>{figure.label}</th><td><Figure {figure} band /></td></tr>
      {/each}
      {#if answer.data.enough !== null}
        <tr>
          <th>For this demand</th>
          <td class:short={!answer.data.enough}
            >{answer.data.enough ? 'enough' : 'not enough: the next size, or a shorter way'}</td
          >
        </tr>
      {/if}
    </tbody>
  </table>
  <p class="quiet">
    House gas lines and their connection: a licensed person, local code and permit; shut at the
    meter first. Not for hose or corrugated tubing.
  </p>
{/if}

<style>
  table {
    margin: 1rem 0;
    max-width: 40rem;
  }
  td {
    padding: 0.35rem 0;
  }
  .short {
    color: var(--color-error);
    font-weight: 650;
  }
</style>

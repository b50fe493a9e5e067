<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { ETHANOL } from '$lib/api/published';
  import { useReference } from '$lib/session/reference';
  import { useJob } from '$lib/session/session.svelte';
  import { today, written } from '$lib/stages/logbook/days';
  import StampFields from '$lib/stages/intake/StampFields.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import { at } from '$lib/session/path';

  const job = useJob();
  const reference = useReference();
  const STANDS = {
    good: '',
    soon: 'soon',
    over: 'past its date',
    not_yet: 'a date to come'
  } as const;
  let stock = $derived(job().now?.logbook?.stock ?? job().settled?.logbook?.stock ?? []);
  let sizes = $derived(
    (reference.data?.cylinders ?? []).map((one) => [one.key, one.name] as const)
  );
</script>

<SheetHead
  title="Stock"
  text="What fuel is at hand, what it is worth in hours at the planned load, and until when it is good."
/>

{#if stock.length}
  <section class="section">
    <table data-stock>
      <thead><tr><th>What</th><th class="n">Runs</th><th>Good until</th></tr></thead>
      <tbody>
        {#each stock as one (one.key)}
          <tr data-item={one.key}>
            <td><b>{one.name}</b></td>
            <td class="n"
              >{#if one.hours}<Figure figure={one.hours} band />{:else}<span class="quiet"
                  >{one.why_not}</span
                >{/if}</td
            >
            <td
              >{one.until ? written(one.until) : 'no date told'}
              {#if one.standing && STANDS[one.standing]}<b class:over={one.standing !== 'soon'}
                  >{STANDS[one.standing]}</b
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="quiet mt-2">
      Cylinders as on the coldest night of the site: it ends there when it is empty or too cold.
    </p>
  </section>
{/if}

<div data-field="logbook.cylinders">
  <Rows
    path="logbook.cylinders"
    prefix="c"
    title="Cylinders"
    text="One each: what it weighs with its gas, less the tare stamped on its collar."
    add="Add a cylinder"
    fresh={{ size: '20', weighed_on: today() }}
  >
    {#snippet row(path)}
      <div class="grid-3">
        <TextField path={`${path}.name`} label="Which one" placeholder="tag or number" />
        <ChoiceField path={`${path}.size`} label="Size" options={sizes} />
        <QuantityField path={`${path}.weighed`} hint="Scale reading, cylinder and all." />
        <TextField path={`${path}.weighed_on`} label="Weighed on" placeholder={today()} />
        <QuantityField path={`${path}.tare`} assumed="typical" />
        <StampFields {path} />
      </div>
    {/snippet}
  </Rows>
</div>

<div data-field="logbook.cans">
  <Rows
    path="logbook.cans"
    prefix="k"
    title="Gasoline in cans"
    text="Closed and in the shade it is good for three months, six without ethanol, a year with stabilizer."
    add="Add a can"
    fresh={{ filled_on: today() }}
  >
    {#snippet row(path)}
      <div class="grid-3">
        <TextField path={`${path}.name`} label="Which can" />
        <QuantityField path={`${path}.volume`} />
        <TextField path={`${path}.filled_on`} label="Filled on" placeholder={today()} />
        <ChoiceField path={`${path}.ethanol`} label="Ethanol in it" options={ETHANOL} />
        <Tick
          path={`${path}.stabilizer`}
          checked={Boolean(at(job().settled?.job, `${path}.stabilizer`))}
          >stabilizer put in while fresh</Tick
        >
      </div>
    {/snippet}
  </Rows>
</div>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    text-align: left;
    padding: 0.35rem 0.9rem 0.35rem 0;
    border-bottom: 1px solid var(--rule);
  }
  .n {
    text-align: right;
  }
  .over {
    color: var(--color-error);
  }
</style>

<script lang="ts">
  import Tick from '$lib/ui/Tick.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { today } from '$lib/stages/logbook/days';

  const job = useJob();
  let found = $derived(job().now?.invoice ?? job().settled?.invoice);
  let without = $derived(job().settled?.job.hand_over?.invoice?.without ?? []);
  let at = $derived(`/api/jobs/${job().id}/invoice`);
  function charge(part: string, on: boolean) {
    const rest = without.filter((one) => one !== part);
    job().set('hand_over.invoice.without', on ? rest : [...rest, part]);
  }
</script>

<SheetHead
  title="Price"
  text="What it came to, beside what it was estimated at; the invoice as PDF and CSV."
/>

{#if found}
  <div class="grid-3">
    <TextField path="hand_over.invoice.number" label="Invoice number" />
    <TextField path="hand_over.invoice.on" label="Date" placeholder={today()} />
    <QuantityField
      path="hand_over.invoice.hours"
      assumed={found.hours && found.hours_assumed ? found.hours[prefs.system] : ''}
      hint={found.worked ? `By the steps' own clock: ${found.worked[prefs.system]}` : ''}
    />
    <QuantityField path="hand_over.invoice.rate" assumed={found.rate} />
    <QuantityField path="hand_over.invoice.tax" assumed={found.tax_share} />
    <QuantityField path="hand_over.invoice.paid" />
  </div>
  {#each found.lacks as text (text)}
    <p class="lacks" role="status">{text}</p>
  {/each}
  <table data-invoice>
    <thead>
      <tr
        ><th>What</th><th class="n">How many</th><th class="n">Each</th><th class="n">Amount</th
        ></tr
      >
    </thead>
    <tbody>
      {#each found.lines as one (one.key)}
        <tr class:off={!one.charged} data-line={one.kind}>
          <td>
            {#if one.kind === 'part'}
              <Tick
                path="hand_over.invoice.without"
                checked={one.charged}
                change={(on) => charge(one.part, on)}>{one.what}</Tick
              >
            {:else}{one.what}{/if}
          </td>
          <td class="n num">{one.count}</td>
          <td class="n num">{one.each}</td>
          <td class="n num">{one.amount}</td>
        </tr>
      {/each}
    </tbody>
    <tfoot>
      <tr><th scope="row" colspan="3">Together</th><td class="n num">{found.net}</td></tr>
      <tr
        ><th scope="row" colspan="3">Tax, {found.tax_share}</th><td class="n num">{found.tax}</td
        ></tr
      >
      <tr class="sum"
        ><th scope="row" colspan="3">Total</th><td class="n num" data-total>{found.total}</td></tr
      >
      <tr><th scope="row" colspan="3">Due</th><td class="n num" data-due>{found.due}</td></tr>
      {#if found.estimate}
        <tr class="quiet"
          ><th scope="row" colspan="3"
            >Estimated{found.estimated ? `, ${found.estimated[prefs.system]} of work` : ''}</th
          ><td class="n num">{found.estimate}</td></tr
        >
        <tr class="quiet"
          ><th scope="row" colspan="3">Over the estimate</th><td class="n num">{found.over}</td></tr
        >
      {/if}
    </tfoot>
  </table>
  <div class="acts">
    <a class="btn btn-sm" href={`${at}.pdf`} download>Invoice, PDF</a>
    <a class="btn btn-sm" href={`${at}.csv`} download>Invoice, CSV</a>
    <a class="link" href="/shop">The shop's name, rate, tax and terms</a>
  </div>
  <Rows
    path="hand_over.invoice.extras"
    prefix="x"
    title="Besides"
    text="A permit, the way, a test run; less than nothing for what is taken off."
    add="Add a line"
    fresh={{ what: '' }}
  >
    {#snippet row(path)}
      <div class="grid gap-x-4 grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))]">
        <TextField path={`${path}.what`} label="What" />
        <QuantityField path={`${path}.count`} assumed="1" />
        <QuantityField path={`${path}.each`} />
      </div>
    {/snippet}
  </Rows>
{/if}

<style>
  table {
    width: 100%;
    margin: 0.6rem 0;
  }
  th,
  td {
    border-top: 1px solid var(--rule);
    padding: 0.2rem 0.8rem 0.2rem 0;
    text-align: left;
    font-weight: 400;
  }
  thead th {
    color: var(--muted);
    border: 0;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
  tfoot th {
    text-align: right;
  }
  .sum {
    font-weight: 700;
  }
  .sum th {
    font-weight: 700;
  }
  .off {
    color: var(--muted);
    text-decoration: line-through;
  }
  .lacks {
    border-left: 4px solid var(--color-warning);
    background: var(--tint);
    padding: 0.35rem 0.8rem;
    margin-bottom: 0.4rem;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 1rem;
    align-items: center;
  }
</style>

<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import KitCheck from '$lib/stages/fuel_path/KitCheck.svelte';
  import BillTable from '$lib/stages/fuel_path/BillTable.svelte';
  import BillSums from '$lib/stages/fuel_path/BillSums.svelte';

  const job = useJob();
  let bill = $derived(job().now?.bill ?? job().settled?.bill);
</script>

<SheetHead title="Parts list" text="Counted from trains, method and walk-round." />

{#if bill?.groups.length}
  <BillSums {bill} />
  {#if bill.missing.length || bill.questions.length}
    <ul class="open">
      {#each bill.missing as text (text)}<li>Not in the catalog: {text}</li>{/each}
      {#each bill.questions as one (one.path)}
        <li>
          Not exact before this is measured:
          <a href={`/jobs/${job().id}/${pageOf(one.path)}?field=${one.path}`}>{one.text}</a>
        </li>
      {/each}
    </ul>
  {/if}
  <BillTable {bill} />
  <section class="section">
    <h2>Whom to call</h2>
    {#each bill.suppliers as one (one.maker)}
      <p>
        <b>{one.name}</b> <span class="num">{one.phone}</span>, {one.mail}, {one.terms}.
        {#if one.lines}{one.lines}
          {one.lines === 1 ? 'line' : 'lines'} to order,
          <span class="num">{money(one.price)}</span>.{:else}Nothing to order.{/if}
      </p>
    {/each}
  </section>
  <KitCheck {bill} />
{:else if bill}
  <p class="quiet">
    Nothing to list yet. <a href={`/jobs/${job().id}/fuel_path/train`}>Build a train</a> first.
  </p>
{/if}

<style>
  .open li {
    border-left: 3px solid var(--color-primary);
    padding-left: 0.6rem;
    margin: 0.3rem 0;
  }
  a {
    text-decoration: none;
  }
</style>

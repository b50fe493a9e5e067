<script lang="ts">
  import type { Bill } from '$lib/api/client';
  import { money } from '$lib/ui/money.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  interface Props {
    bill: Bill;
  }
  let { bill }: Props = $props();
  const job = useJob();
</script>

<div class="bar">
  <p>
    <span class="text-[1.5rem] font-[650] num">{money(bill.price)}</span>
    {#if bill.core}<span
        >of it <span class="num">{money(bill.core)}</span> deposit, back with the old part</span
      >{/if}
    {#if bill.days}<span>last part in {bill.days} days</span>{/if}
    {#each bill.hours as hours (hours.key)}<span
        >{bill.hours.length > 1 ? hours.label : 'bench time'} <Figure figure={hours} /></span
      >{/each}
  </p>
  <span class="acts no-print">
    <a class="btn btn-sm" href={`/api/jobs/${job().id}/parts.csv`} download>CSV</a>
    <a class="btn btn-sm" href={`/api/jobs/${job().id}/parts.pdf?system=${prefs.system}`} download
      >PDF</a
    >
  </span>
</div>

<style>
  .bar {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    align-items: start;
  }
  .bar p {
    display: flex;
    flex-wrap: wrap;
    gap: 0 1.2rem;
    align-items: baseline;
  }
  .acts {
    display: flex;
    gap: 0.4rem;
  }
  a,
  .acts a {
    text-decoration: none;
  }
</style>

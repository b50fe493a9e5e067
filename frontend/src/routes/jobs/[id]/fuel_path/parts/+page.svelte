<script lang="ts">
  import { money } from '$lib/ui/money.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { pageOf } from '$lib/frame/current.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Arrived from '$lib/stages/fuel_path/Arrived.svelte';
  import KitCheck from '$lib/stages/fuel_path/KitCheck.svelte';
  import type { Bill } from '$lib/api/client';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let bill = $derived(job().now?.bill ?? job().settled?.bill);

  function instead(line: Bill['groups'][number]['lines'][number]) {
    const [train, slot] = line.slot.split('.');
    if (train && slot) job().set(`trains.${train}.slots.${slot}.part`, line.other_key);
  }
</script>

<SheetHead title="Parts list" text="Counted from trains, method and walk-round." />

{#if bill?.groups.length}
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
  <table>
    <tbody>
      {#each bill.groups as group (group.source)}
        <tr class="group"
          ><th colspan="3">{group.title}</th><td class="n num"
            >{#if group.source !== 'site supplies'}{money(group.price)}{/if}</td
          ><td></td></tr
        >
        {#each group.lines as line (line.key)}
          <tr data-line={line.key}>
            <td class="n num">{line.count}</td>
            <td>
              {line.name} <span class="quiet">{line.uses.join(', ')}</span>
              {#if line.other}
                <span class="other"
                  >{line.other}: {line.other_gain}
                  {#if line.slot && line.other_key}
                    <button class="link no-print" onclick={() => instead(line)}>use it</button>
                  {/if}</span
                >
              {/if}
            </td>
            <td class="num quiet n">{line.source === 'site supplies' ? '' : line.number}</td>
            <td class="n num"
              >{#if line.source !== 'site supplies'}{money(line.price)}{/if}</td
            >
            <td>
              {#if line.comes}<Arrived {line} />{/if}
            </td>
          </tr>
        {/each}
      {/each}
    </tbody>
  </table>
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
  .open li {
    border-left: 3px solid var(--color-primary);
    padding-left: 0.6rem;
    margin: 0.3rem 0;
  }
  a,
  .acts a {
    text-decoration: none;
  }
  table {
    width: 100%;
    margin-top: 0.5rem;
  }
  td,
  th {
    border-top: 1px solid var(--rule);
    padding: 0.28rem 0.7rem 0.28rem 0;
    vertical-align: top;
    text-align: left;
  }
  .group th,
  .group td {
    padding-top: 0.8rem;
    font-weight: 650;
    border-top: 0;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
  td .quiet,
  .other {
    font-size: 0.86rem;
  }
  .other {
    display: block;
    color: var(--color-success);
  }
  @media (max-width: 600px) {
    td:nth-child(3) {
      display: none;
    }
    .group th {
      padding-right: 0;
    }
  }
</style>

<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { money } from '$lib/ui/money.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Arrived from '$lib/stages/fuel_path/Arrived.svelte';
  import type { Bill } from '$lib/api/client';

  interface Props {
    bill: Bill;
  }
  let { bill }: Props = $props();
  const job = useJob();
  function instead(line: Bill['groups'][number]['lines'][number]) {
    const [train, slot] = line.slot.split('.');
    if (train && slot) job().set(`trains.${train}.slots.${slot}.part`, line.other_key);
  }
</script>

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
          <td class="n num">{line.count[prefs.system]}</td>
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

<style>
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

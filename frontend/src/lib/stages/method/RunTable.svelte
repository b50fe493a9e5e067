<script lang="ts">
  import type { Run } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';
  import { LETTERS } from '$lib/api/published';

  interface Props {
    runs: Run[];
    /** What the two columns stand for, as shown. */
    hottest: string;
    coldest: string;
  }
  let { runs, hottest, coldest }: Props = $props();
  interface Line {
    key: string;
    name: string;
    fuel: string;
    atHand: boolean;
    warm?: Run;
    cold?: Run;
  }
  let lines = $derived.by(() => {
    const found: Record<string, Line> = {};
    for (const run of runs) {
      const [key = '', when] = run.key.split('.');
      const line = (found[key] ??= {
        key,
        name: run.label.split(',')[0] ?? '',
        fuel: run.fuel,
        atHand: run.at_hand
      });
      if (when === 'coldest') line.cold = run;
      else line.warm = run;
    }
    return Object.values(found);
  });
</script>

{#snippet cell(run: Run | undefined)}
  {#if run?.figure}
    <Figure figure={run.figure} />
    {#if run.left}
      <span class="cold">too cold, <Figure figure={run.left} /> left</span>
    {:else}<span class="quiet small">empty</span>{/if}
  {:else if run}<span class="quiet small">{run.why_not}</span>
  {:else}<span class="quiet">–</span>{/if}
{/snippet}

<table>
  <thead>
    <tr>
      <th scope="col">Container</th>
      <th scope="col">at {hottest}</th>
      <th scope="col">at {coldest}</th>
    </tr>
  </thead>
  <tbody>
    {#each lines as line (line.key)}
      <tr class:away={!line.atHand}>
        <th scope="row">
          <span class="inline-flex gap-[.45rem] items-center">
            <Mark fuel={line.fuel} letter={LETTERS[line.fuel] ?? ''} />{line.name}
            {#if line.atHand}<span class="here">at hand</span>{/if}
          </span>
        </th>
        {#if line.key === 'tank'}
          <td colspan="2">
            {#if line.warm?.figure}<Figure figure={line.warm.figure} /><span class="quiet small"
                >either way</span
              >{:else}<span class="quiet small">{line.warm?.why_not}</span>{/if}
          </td>
        {:else}
          <td>{@render cell(line.warm)}</td>
          <td>{@render cell(line.cold)}</td>
        {/if}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
  }
  th {
    text-align: left;
    font-weight: 600;
    padding: 0.25rem 0;
  }
  thead th:not(:first-child),
  td {
    text-align: right;
    padding-left: 1rem;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }

  .here {
    font-weight: 400;
    font-size: 0.78rem;
    border: 1px solid var(--rule);
    border-radius: 0.25rem;
    padding: 0 0.3rem;
  }
  .away th {
    font-weight: 450;
  }
  .small,
  .cold {
    font-size: 0.82rem;
    margin-left: 0.5rem;
  }
  .cold {
    color: var(--color-primary);
  }
  @media (max-width: 699px) {
    .cold,
    .small {
      display: block;
    }
  }
</style>

<script lang="ts">
  import { prefs } from '$lib/session/prefs.svelte';
  import { written } from '$lib/stages/logbook/days';
  import type { Snapshot } from '$lib/api/client';

  interface Props {
    due: NonNullable<Snapshot['logbook']>['due'];
    mark: (task: string) => void;
  }
  let { due, mark }: Props = $props();
  const STATES = {
    over: 'overdue',
    soon: 'soon',
    good: 'good',
    not_known: 'since when is not told'
  } as const;
</script>

<table data-due>
  <thead><tr><th>What</th><th>Due</th><th class="n">Left</th><th>Last done</th><th></th></tr></thead
  >
  <tbody>
    {#each due as one (one.key)}
      <tr data-task={one.key} data-state={one.state}>
        <td>
          <b>{one.name}</b><br /><span class="quiet">{one.why}</span>
          <span class="quiet">Every {one.every}.{one.parts ? ` Take: ${one.parts}.` : ''}</span>
        </td>
        <td class="whitespace-nowrap"
          ><span class={`state ${one.state}`}>{STATES[one.state]}</span>
          {#if one.due && one.state !== 'over'}<br />{written(one.due)}
            {#if one.early && one.late && one.early !== one.late}<br /><span class="quiet"
                >{written(one.early)} to {written(one.late)}</span
              >{/if}{/if}</td
        >
        <td class="n">{one.left?.[prefs.system] ?? ''}</td>
        <td
          >{#if one.last}{written(one.last.on)}{one.last.found
              ? `: ${one.last.found}`
              : ''}{:else if one.done_here}<span class="quiet">never noted</span>{/if}</td
        >
        <td
          >{#if one.done_here}<button class="btn btn-sm" onclick={() => mark(one.key)}
              >Done today</button
            >{/if}</td
        >
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    text-align: left;
    vertical-align: top;
    padding: 0.45rem 0.9rem 0.45rem 0;
    border-bottom: 1px solid var(--rule);
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
  .state {
    font-weight: 600;
  }
  .state.over {
    color: var(--color-error);
  }
  @media (max-width: 640px) {
    thead,
    td:empty {
      display: none;
    }
    tr {
      display: grid;
      border-bottom: 1px solid var(--rule);
      padding: 0.5rem 0;
    }
    td {
      border: 0;
      padding: 0.1rem 0;
    }
    .n {
      text-align: left;
    }
    .n:not(:empty)::after {
      content: ' left';
    }
  }
</style>

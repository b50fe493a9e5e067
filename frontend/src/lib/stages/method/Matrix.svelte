<script lang="ts">
  import type { States } from '$lib/api/client';
  import MatrixTable from '$lib/stages/method/MatrixTable.svelte';

  interface Props {
    states: States;
  }
  let { states }: Props = $props();
  let picked = $state('');
  let column = $derived(states.columns.find((one) => one.key === picked) ?? states.columns[0]);
</script>

<div class="states" role="tablist" aria-label="Fuel states">
  {#each states.columns as one (one.key)}
    <button
      role="tab"
      aria-selected={one.key === column?.key}
      class:text-error={!one.safe}
      onclick={() => (picked = one.key)}>{one.name}{one.safe ? '' : ' ⚠'}</button
    >
  {/each}
</div>

<MatrixTable {states} shown={column?.key} pick={(key) => (picked = key)} />
<p class="quiet legend">
  <span class="mind">underlined</span> one control in this position by mistake is dangerous
</p>

{#if column}
  <section class="section" aria-live="polite">
    <h2>{column.name}</h2>
    {#each column.faults as fault (fault.key)}
      <p class={fault.never ? 'stop' : 'note'}>
        {fault.never ? 'Must never be: ' : 'Mind: '}{fault.text}.
      </p>
    {/each}
    <ul class="positions">
      {#each states.controls as control (control.key)}
        <li><span>{control.name}</span><strong>{column.positions[control.key]}</strong></li>
      {/each}
    </ul>
    {#if column.slips.length}
      <h3>If one valve is in the wrong position</h3>
      <ul class="slips">
        {#each column.slips as slip (slip.control + slip.position)}
          <li>
            <strong
              >{states.controls.find((one) => one.key === slip.control)?.name}
              {slip.position}</strong
            >
            <span>{slip.faults.map((fault) => fault.text).join('; ')}</span>
          </li>
        {/each}
      </ul>
    {:else}
      <p class="quiet">No single slip makes it dangerous.</p>
    {/if}
  </section>
{/if}

<style>
  .mind {
    text-decoration: underline;
    text-decoration-color: var(--color-primary);
    text-decoration-thickness: 2px;
    text-underline-offset: 3px;
  }
  .legend {
    font-size: 0.8rem;
    margin-top: 0.3rem;
  }
  .states,
  .positions {
    display: none;
  }
  .stop {
    border-left: 3px solid var(--color-error);
    background: var(--stop-tint);
    padding: 0.4rem 0.7rem;
    margin-bottom: 0.4rem;
  }
  .note {
    border-left: 3px solid var(--rule);
    padding: 0.4rem 0.7rem;
    margin-bottom: 0.4rem;
  }
  h3 {
    font-weight: 650;
    margin: 0.5rem 0 0.2rem;
  }
  .slips li {
    display: grid;
    grid-template-columns: 17rem 1fr;
    gap: 0.8rem;
    border-top: 1px dotted var(--rule);
    padding: 0.2rem 0;
    font-size: 0.9rem;
  }
  @media (max-width: 800px) {
    .legend {
      display: none;
    }
    .states {
      display: flex;
      flex-wrap: wrap;
      gap: 0.35rem;
      margin-top: 0.7rem;
    }
    .states button {
      border: 1px solid var(--rule);
      border-radius: 0.375rem;
      padding: 0.5rem 0.7rem;
      background: var(--color-base-100);
    }
    .states [aria-selected='true'] {
      background: var(--color-neutral);
      color: var(--color-neutral-content);
    }
    .positions {
      display: block;
    }
    .positions li {
      display: flex;
      justify-content: space-between;
      border-top: 1px solid var(--rule);
      padding: 0.35rem 0;
    }
    .slips li {
      grid-template-columns: 1fr;
      gap: 0;
    }
  }
</style>

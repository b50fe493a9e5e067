<script lang="ts">
  import type { States } from '$lib/api/client';

  interface Props {
    states: States;
    shown: string | undefined;
    pick: (key: string) => void;
  }
  let { states, shown, pick }: Props = $props();
  /** What would newly happen if this control stood otherwise in this state. */
  function slips(of: States['columns'][number], control: string) {
    return of.slips.filter((slip) => slip.control === control);
  }
  function said(of: States['columns'][number], control: string) {
    return slips(of, control)
      .map((slip) => `${slip.position}: ${slip.faults.map((fault) => fault.text).join(', ')}`)
      .join('; ');
  }
</script>

<table class="matrix">
  <thead>
    <tr>
      <td></td>
      {#each states.columns as one (one.key)}
        <th scope="col" class:bg-(--tint)={one.key === shown} class:text-error={!one.safe}>
          <button onclick={() => pick(one.key)}>{one.name}</button>
        </th>
      {/each}
    </tr>
  </thead>
  <tbody>
    {#each states.controls as control (control.key)}
      <tr>
        <th scope="row">{control.name}</th>
        {#each states.columns as one (one.key)}
          <td
            class:bg-(--tint)={one.key === shown}
            class:mind={slips(one, control.key).length}
            data-cell={`${control.key}.${one.key}`}
            title={said(one, control.key)}>{one.positions[control.key]}</td
          >
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .matrix {
    width: 100%;
    margin-top: 0.8rem;
    font-size: 0.85rem;
    table-layout: fixed;
  }
  th {
    text-align: left;
    font-weight: 600;
  }
  thead th {
    vertical-align: bottom;
    padding: 0 0.2rem 0.3rem;
    line-height: 1.15;
  }
  thead th button {
    text-align: left;
    font-weight: 650;
    cursor: pointer;
  }
  thead td {
    width: 10.5rem;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
  tbody th {
    padding: 0.32rem 0.4rem 0.32rem 0;
    font-weight: 500;
  }
  tbody td {
    padding: 0.32rem 0.2rem;
    color: var(--muted);
  }
  td.mind {
    color: var(--color-base-content);
    font-weight: 650;
  }
  .mind {
    text-decoration: underline;
    text-decoration-color: var(--color-primary);
    text-decoration-thickness: 2px;
    text-underline-offset: 3px;
  }
  @media (max-width: 800px) {
    .matrix {
      display: none;
    }
  }
</style>

<script lang="ts">
  import type { Answered } from '$lib/api/client';
  import { LETTERS } from '$lib/api/published';
  import Figure from '$lib/ui/Figure.svelte';
  import Mark from '$lib/ui/Mark.svelte';

  interface Props {
    answer: Answered;
  }
  let { answer }: Props = $props();
</script>

{#each answer.notes as note (note.key + note.text)}
  <p class={note.bad ? 'stop' : 'mind'} role="status" data-note={note.key}>
    <strong>{note.bad ? 'Stop' : 'Caution'}:</strong>
    {note.text}
  </p>
{/each}

{#if answer.said.length || answer.figures.length}
  <table class="answers">
    <tbody>
      {#each answer.said as one (one.key)}
        <tr
          ><th>{one.label}</th><td
            class:text-error={one.bad}
            class:font-[650]={one.bad}
            data-said={one.key}>{one.text}</td
          ></tr
        >
      {/each}
      {#each answer.figures as figure (figure.key)}
        <tr>
          <th>
            {figure.label}
            {#each figure.warnings as note (note)}<span class="note">{note}</span>{/each}
          </th>
          <td><Figure {figure} band warned={false} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

{#each answer.tables as table (table.columns.join())}
  <table class="answers wide">
    <thead>
      <tr
        >{#each table.columns as column (column)}<th scope="col">{column}</th>{/each}</tr
      >
    </thead>
    <tbody>
      {#each table.lines as line (line.label)}
        <tr>
          <th scope="row">
            <span class="inline-flex gap-[.45rem] items-center">
              {#if line.fuel}<Mark fuel={line.fuel} letter={LETTERS[line.fuel] ?? ''} />{/if}
              {line.label}
            </span>
          </th>
          {#each line.cells as cell, i (i)}
            <td
              colspan={i === line.cells.length - 1 ? table.columns.length - line.cells.length : 1}
            >
              {#if cell.figure}<Figure figure={cell.figure} band />{/if}
              {#if cell.text}<span class="quiet block text-[.82rem]">{cell.text}</span>{/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
{/each}

{#if answer.cylinder}
  {#await import('$lib/stages/method/Answer.svelte') then { default: Cylinder }}
    <Cylinder answer={answer.cylinder} />
  {/await}
{/if}

<style>
  table {
    margin: 1rem 0;
    max-width: 40rem;
  }
  table.wide {
    max-width: 52rem;
  }
  td {
    padding: 0.35rem 0;
  }
  .wide td,
  .wide thead th:not(:first-child) {
    text-align: right;
    padding-left: 1rem;
  }

  .note {
    display: block;
    font-weight: 400;
    font-size: 0.85rem;
    color: var(--color-primary);
  }
  .stop,
  .mind {
    border-left: 3px solid var(--color-primary);
    padding: 0.3rem 0.8rem;
    margin: 0.5rem 0;
    max-width: 52rem;
  }
  .stop {
    border-color: var(--color-error);
  }
</style>

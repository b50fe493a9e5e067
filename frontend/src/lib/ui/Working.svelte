<script lang="ts">
  import { unitOf } from './money.svelte';
  import X from '@lucide/svelte/icons/x';
  import { prefs } from '$lib/session/prefs.svelte';
  import Dialog from './Dialog.svelte';
  import { working } from './working.svelte';

  const ORIGINS: Record<string, string> = {
    measured: 'measured',
    data_sheet: 'data sheet',
    owner: 'from the owner',
    assumed: 'assumed',
    simulated: 'simulated',
    computed: 'computed',
    table: 'table'
  };
  const ROUNDINGS: Record<string, string> = {
    down: 'rounded down, the safe side',
    up: 'rounded up, the safe side',
    nearest: 'rounded to nearest'
  };
  let figure = $derived(working.figure);
  let shown = $derived(figure?.[prefs.system]);
  let unit = $derived(figure && shown ? unitOf(figure.kind, shown.unit) : '');
</script>

<Dialog open={!!figure} labelledby="working-title" onclose={() => working.close()}>
  {#if figure && shown}
    <div data-working={figure.key}>
      <header>
        <div>
          <p class="quiet">Working</p>
          <h2 id="working-title">{figure.label}</h2>
        </div>
        <button class="btn btn-ghost btn-sm" aria-label="Close" onclick={() => working.close()}>
          <X size={18} />
        </button>
      </header>
      <p class="value text-[1.7rem] font-[650] mt-[.4rem] num">
        {shown.text} <span class="quiet">{unit}</span>
        {#if figure.estimated}<span class="tag">estimated</span>{/if}
      </p>
      {#if shown.low !== shown.high}
        <p>
          Band <span class="num">{shown.low} to {shown.high}</span>
          {unit}, worst ends together; {ROUNDINGS[figure.rounding]}.
        </p>
      {:else}
        <p class="quiet">{ROUNDINGS[figure.rounding]}</p>
      {/if}
      {#each figure.warnings as warning (warning)}<p class="text-warning font-semibold">
          {warning}
        </p>{/each}
      <h3>Method</h3>
      <p><a class="link" href={`/methods/${figure.method.page}`}>{figure.method.name}</a></p>
      <p class="formula num">{figure.method.formula}</p>
      <p class="quiet">Source: {figure.method.source}.</p>
      {#if figure.inputs.length}
        <h3>Inputs</h3>
        <table>
          <tbody>
            {#each figure.inputs as input, i (i)}
              <tr>
                <td>{input.label}</td>
                <td class="num right text-right whitespace-nowrap">{input[prefs.system]}</td>
                <td class="quiet">{ORIGINS[input.origin] ?? input.origin}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
      {#if figure.rivals.length}
        <h3>Other schools say</h3>
        <table>
          <tbody>
            {#each figure.rivals as rival (rival.name)}
              <tr
                ><td
                  >{rival.name}
                  {#if rival.note}<span class="quiet">{rival.note}</span>{/if}</td
                ><td class="num right text-right whitespace-nowrap">{rival[prefs.system]}</td></tr
              >
            {/each}
          </tbody>
        </table>
      {/if}
      {#if figure.narrows.length}
        <h3>What would narrow it</h3>
        <ul>
          {#each figure.narrows as way (way)}<li>{way}</li>{/each}
        </ul>
      {/if}
    </div>
  {/if}
</Dialog>

<style>
  header {
    display: flex;
    justify-content: space-between;
    align-items: start;
  }
  h3 {
    font-weight: 650;
    margin: 0.9rem 0 0.15rem;
  }

  .tag {
    font-family: var(--font-sans);
    font-size: 0.8rem;
    font-weight: 400;
    border: 1px solid var(--rule);
    border-radius: 0.25rem;
    padding: 0.1rem 0.35rem;
    vertical-align: middle;
  }
  .formula {
    background: var(--color-base-200);
    border-left: 2px solid var(--color-primary);
    padding: 0.4rem 0.6rem;
    margin: 0.3rem 0;
    font-size: 0.85rem;
    overflow-wrap: anywhere;
  }
  table {
    width: 100%;
    border-collapse: collapse;
  }
  td {
    border-top: 1px solid var(--rule);
    padding: 0.2rem 0.5rem 0.2rem 0;
    vertical-align: baseline;
  }

  ul {
    list-style: disc;
    padding-left: 1.2rem;
  }
</style>

<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { today, written } from '$lib/stages/logbook/days';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Trash from '@lucide/svelte/icons/trash-2';

  const job = useJob();
  const STATES = {
    over: 'overdue',
    soon: 'soon',
    good: 'good',
    not_known: 'since when is not told'
  } as const;
  let found = $derived(job().settled?.logbook);
  let entries = $derived(job().settled?.job.logbook?.upkeep ?? {});
  let done = $derived(
    Object.entries(entries).sort(([, a], [, b]) => (b.on ?? '').localeCompare(a.on ?? ''))
  );
  let names = $derived(new Map((found?.due ?? []).map((one) => [one.key, one.name])));
  let fresh = $state('');

  const minutes = (path: string, typed: string) =>
    job().set(`${path}.minutes`, typed.trim() === '' ? null : Number(typed));

  function mark(task: string) {
    fresh = freshKey('u');
    job().set(`logbook.upkeep.${fresh}`, { task, on: today(), by: prefs.who });
  }
</script>

<SheetHead
  title="Upkeep"
  text="Due by hours or by date, whichever comes first, at the rate this set runs. Its own manual comes first."
/>

{#if found}
  <section class="section">
    <table data-due>
      <thead
        ><tr><th>What</th><th>Due</th><th class="n">Left</th><th>Last done</th><th></th></tr></thead
      >
      <tbody>
        {#each found.due as one (one.key)}
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
    <p class="acts">
      <a class="btn btn-sm" href={`/api/jobs/${job().id}/upkeep.ics`} download>Calendar (ICS)</a>
      <span class="quiet">Loaded again, it replaces what it put there before.</span>
    </p>
  </section>

  {#if found.lash}
    <section class="section" data-lash>
      <h2>Exhaust seat</h2>
      <dl class="seat">
        <dt>{found.lash.wear.label}, by {found.lash.looks} looks</dt>
        <dd><Figure figure={found.lash.wear} band /></dd>
        <dt>lash left at the last look</dt>
        <dd class="num">{found.lash.left[prefs.system]}</dd>
        {#if found.lash.lasts}
          <dt>used up after it, at the worst</dt>
          <dd class="num">{found.lash.lasts[prefs.system]}</dd>
        {/if}
      </dl>
    </section>
  {/if}

  <section class="section">
    <h2>Done</h2>
    {#each done as [key, one] (key)}
      {@const path = `logbook.upkeep.${key}`}
      <details open={key === fresh} data-done={one.task}>
        <summary
          ><b>{names.get(one.task ?? '') ?? one.task}</b>, {written(one.on ?? '') ||
            'no day'}{one.by ? `, ${one.by}` : ''}{one.found ? `: ${one.found}` : ''}</summary
        >
        <div class="grid-3">
          <TextField path={`${path}.on`} label="Day" placeholder="2026-11-27" />
          <QuantityField path={`${path}.meter`} />
          <TextField path={`${path}.found`} label="What was found" />
          {#if one.task?.startsWith('lash')}
            <QuantityField path={`${path}.lash`} />
            <QuantityField path={`${path}.set_to`} hint="Empty where it was left as found." />
          {/if}
          <TextField path={`${path}.parts`} label="Parts put in" />
          <TextField path={`${path}.by`} label="Done by" />
          <div class="field">
            <label for={`${key}-min`}>Minutes</label>
            <input
              id={`${key}-min`}
              class="input num"
              type="number"
              min="0"
              value={one.minutes ?? ''}
              onchange={(e) => minutes(path, e.currentTarget.value)}
            />
            <p class="says wrong" aria-live="polite">
              {job().errors[`${path}.minutes`] ?? '\u00a0'}
            </p>
          </div>
          <TextField path={`${path}.note`} label="Note" rows={2} />
        </div>
        {#if one.task !== 'leak'}
          <Tick path={`${path}.opened`} checked={Boolean(one.opened)}
            >a gas joint or the carburetor was opened: soap it before it runs</Tick
          >
        {/if}
        <Photos subject={path} label="this upkeep" />
        <button class="btn btn-ghost btn-sm" onclick={() => job().remove(path)}
          ><Trash size={14} />Remove</button
        >
      </details>
    {:else}<p class="quiet">Nothing noted yet.</p>{/each}
  </section>
{/if}

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

  .seat {
    display: grid;
    grid-template-columns: minmax(0, max-content) max-content;
    gap: 0.25rem 1.5rem;
  }
  .seat dd {
    text-align: right;
  }
  .state {
    font-weight: 600;
  }
  .state.over {
    color: var(--color-error);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
    margin-top: 0.8rem;
  }
  details {
    border-bottom: 1px solid var(--rule);
    padding: 0.4rem 0;
  }
  summary {
    cursor: pointer;
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

<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import Photos from '$lib/stages/intake/Photos.svelte';
  import SetEnds from '$lib/stages/logbook/SetEnds.svelte';
  import LogRun from '$lib/stages/logbook/LogRun.svelte';
  import { written } from '$lib/stages/logbook/days';
  import RunsFile from '$lib/stages/logbook/RunsFile.svelte';
  import Watch from '$lib/stages/logbook/Watch.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Camera from '@lucide/svelte/icons/camera';
  import Trash from '@lucide/svelte/icons/trash-2';
  import InService from '$lib/stages/logbook/InService.svelte';

  const job = useJob();
  let found = $derived(job().settled?.logbook);
  let whole = $state(false);
  let open = $state('');
  let photos = $derived(counted(job().settled?.job.attachments ?? {}));

  /** How many photos each place has. */
  function counted(files: Record<string, { subject?: string }>): Map<string, number> {
    const found = new Map<string, number>();
    for (const { subject = '' } of Object.values(files))
      found.set(subject, (found.get(subject) ?? 0) + 1);
    return found;
  }
  const SHOWN = 20;
  let runs = $derived(whole ? (found?.runs ?? []) : (found?.runs ?? []).slice(0, SHOWN));
</script>

<SheetHead title="Runs" text="Each run in a few seconds: how long, on what, at about what load." />
<section class="section"><LogRun /></section>

{#if found}
  <InService {found} />
  <Watch watched={found.watched} method={found.watch} />
  <section class="section">
    <h2>Runs so far</h2>
    {#if found.runs.length}
      <div class="overflow-x-auto">
        <table data-runs>
          <thead
            ><tr
              ><th>Day</th><th class="n">Ran</th><th>On</th><th class="n">Load</th><th class="n"
                >Used</th
              ><th class="n">Meter after</th><th>Remark</th><th></th></tr
            ></thead
          >
          <tbody>
            {#each runs as one (one.key)}
              <tr>
                <td>{written(one.on) || 'no day'}</td>
                <td class="n">{one.ran?.[prefs.system] ?? 'not told'}</td>
                <td>{one.letter}</td>
                <td class="n">{one.load?.[prefs.system] ?? ''}</td>
                <td class="n">{one.used?.[prefs.system] ?? ''}</td>
                <td class="n">{one.meter?.[prefs.system] ?? ''}</td>
                <td>{one.remark}{one.by ? ` (${one.by})` : ''}</td>
                <td class="acts"
                  ><button
                    class="btn btn-ghost btn-xs"
                    aria-expanded={open === one.key}
                    aria-label={`More on the run of ${written(one.on)}`}
                    onclick={() => (open = open === one.key ? '' : one.key)}
                    ><Camera size={14} />{photos.get(`logbook.runs.${one.key}`) ?? ''}</button
                  ><button
                    class="btn btn-ghost btn-xs"
                    aria-label={`Remove the run of ${written(one.on)}`}
                    title="Remove (undo brings it back)"
                    onclick={() => job().remove(`logbook.runs.${one.key}`)}
                    ><Trash size={14} /></button
                  ></td
                >
              </tr>
              {#if open === one.key}
                <tr
                  ><td colspan="8">
                    <TextField path={`logbook.runs.${one.key}.remark`} label="Remark" />
                    <Photos subject={`logbook.runs.${one.key}`} label="the run" />
                  </td></tr
                >
              {/if}
            {/each}
          </tbody>
        </table>
      </div>
      {#if found.runs.length > SHOWN}
        <button class="btn btn-sm" onclick={() => (whole = !whole)}
          >{whole ? `Only the last ${SHOWN}` : `All ${found.runs.length}`}</button
        >
      {/if}
    {:else}<p class="quiet">None yet.</p>{/if}
    <RunsFile />
  </section>
  <SetEnds />
{/if}

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    text-align: left;
    padding: 0.25rem 0.9rem 0.25rem 0;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
  }
  td:nth-child(7) {
    white-space: normal;
    min-width: 8rem;
  }
  .acts {
    text-align: right;
  }
  .n {
    text-align: right;
    font-variant-numeric: tabular-nums;
  }
</style>

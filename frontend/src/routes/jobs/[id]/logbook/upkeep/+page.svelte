<script lang="ts">
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { freshKey } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { today } from '$lib/stages/logbook/days';
  import Figure from '$lib/ui/Figure.svelte';
  import UpkeepDue from '$lib/stages/logbook/UpkeepDue.svelte';
  import UpkeepDone from '$lib/stages/logbook/UpkeepDone.svelte';

  const job = useJob();
  let found = $derived(job().settled?.logbook);
  let entries = $derived(job().settled?.job.logbook?.upkeep ?? {});
  let done = $derived(
    Object.entries(entries).sort(([, a], [, b]) => (b.on ?? '').localeCompare(a.on ?? ''))
  );
  let names = $derived(new Map((found?.due ?? []).map((one) => [one.key, one.name])));
  let fresh = $state('');

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
    <UpkeepDue due={found.due} {mark} />
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
      <UpkeepDone
        {key}
        {one}
        name={names.get(one.task ?? '') ?? one.task ?? ''}
        fresh={key === fresh}
      />
    {:else}<p class="quiet">Nothing noted yet.</p>{/each}
  </section>
{/if}

<style>
  .seat {
    display: grid;
    grid-template-columns: minmax(0, max-content) max-content;
    gap: 0.25rem 1.5rem;
  }
  .seat dd {
    text-align: right;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
    margin-top: 0.8rem;
  }
</style>

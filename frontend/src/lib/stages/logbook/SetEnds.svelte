<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, ask, Refusal } from '$lib/api/client';
  import { ENDED } from '$lib/api/published';
  import { prefs } from '$lib/session/prefs.svelte';
  import { writeKey } from '$lib/session/outbox';
  import { useJob } from '$lib/session/session.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { today } from './days';

  const job = useJob();
  let log = $derived(job().settled?.job.logbook);
  let ended = $derived(log?.ended_as ?? '');
  let trouble = $state('');
  const key = writeKey();

  async function next() {
    trouble = '';
    const body = { key, who: prefs.who, same_set: true };
    try {
      const params = { path: { job_id: job().id } };
      const made = await ask(api.POST('/api/jobs/{job_id}/copy', { params, body }));
      await goto(`/jobs/${made.id}/intake/set`);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      trouble = error.message;
    }
  }
</script>

<section class="section" aria-labelledby="set-ends">
  <h2 id="set-ends">This set</h2>
  {#if log?.before}
    <p><a class="link" href={`/jobs/${log.before}/logbook/runs`}>The job it was in before</a></p>
  {/if}
  <div class="grid-3">
    <ChoiceField path="logbook.ended_as" label="It is" options={ENDED} />
    {#if ended}<TextField path="logbook.ended" label="Since" placeholder={today()} />{/if}
  </div>
  {#if ended}
    <p class="quiet">Nothing is due on it here any more. What was logged stays.</p>
  {:else}
    <p class="acts">
      <button class="btn btn-sm" onclick={() => void next()}>Next job on this set</button>
      <span class="quiet">A new job on the same set: its runs and upkeep go on there.</span>
    </p>
  {/if}
  {#if trouble}<p class="says wrong" role="alert">{trouble}</p>{/if}
</section>

<style>
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.6rem;
    align-items: center;
  }
</style>

<script lang="ts">
  import type { components } from '$lib/api/schema';
  import { freshKey } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';

  type Read = components['schemas']['RunsOut'];
  const job = useJob();
  let said = $state('');
  let faults = $state<string[]>([]);
  let place = $derived(`/api/jobs/${job().id}/runs.csv?system=${prefs.system}`);

  async function load(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget;
    const file = input.files?.[0];
    if (!file) return;
    faults = [];
    said = '';
    try {
      const headers = { 'Content-Type': 'text/csv' };
      const answer = await fetch(place, { method: 'POST', headers, body: file });
      const told: unknown = await answer.json();
      if (answer.ok) keep(told as Read);
      else faults = (told as { errors: { message: string }[] }).errors.map((one) => one.message);
    } catch {
      faults = [`${file.name} was not read: the server does not answer. Nothing was changed.`];
    }
    input.value = '';
  }

  function keep(read: Read) {
    const first = freshKey('c');
    const held = job().settled?.job.logbook?.runs ?? {};
    const added = Object.fromEntries(read.runs.map((run, i) => [`${first}-${i}`, run]));
    if (read.runs.length) job().set('logbook.runs', { ...held, ...added });
    said = `${read.runs.length} taken in${read.already ? `, ${read.already} were there already` : ''}.`;
  }
</script>

<p class="file">
  <a class="btn btn-sm" href={place} download>Save runs (CSV)</a>
  <label class="btn btn-sm"
    >Load runs<input class="sr" type="file" accept=".csv,text/csv" onchange={load} /></label
  >
  <span class="quiet" role="status"
    >{said || 'Columns: day, hours or meter, fuel, load, used, remark, by'}</span
  >
</p>
{#if faults.length}
  <ul class="wrong" role="alert">
    {#each faults.slice(0, 12) as text, i (i)}<li>{text}</li>{/each}
    {#if faults.length > 12}<li>and {faults.length - 12} more</li>{/if}
  </ul>
{/if}

<style>
  .file {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.8rem;
    align-items: center;
    margin-top: 0.8rem;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
  }
</style>
